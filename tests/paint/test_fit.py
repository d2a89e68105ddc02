"""Swatches teach what the bottles are: K and S move towards the truth, never below zero, and stay where nothing is said."""

from dataclasses import replace

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.errors import ShelfError
from lean_sepia.paint.fit import Swatch, fit_paints
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.paint import Knowledge, Palette
from lean_sepia.paint.trust import predict


@pytest.fixture
def shelf(shelf_paints):
    """Five paints known by spectra, and what the user's own bottles of them are."""
    chosen = [
        p
        for p in shelf_paints
        if p.medium == "acrylic-water" and p.knowledge == Knowledge.SPECTRAL and p.mixes
    ]
    return chosen[:2] + chosen[6:9]


@pytest.fixture
def own(shelf, rng):
    x = np.linspace(-1, 1, 31)
    return [
        replace(
            p, K=p.K * (1 + 0.12 * rng.uniform(-1, 1) + 0.05 * x), S=p.S * (1 + 0.12 * rng.uniform(-1, 1))
        )
        for p in shelf
    ]


def labs_of(paints, parts, laying=OPAQUE):
    parts = np.array(parts, dtype=float)
    return laying.lab(Palette.of(paints).mixture(parts / parts.sum(axis=-1, keepdims=True)))


def painted(own, parts, rng, noise=0.2, laying=OPAQUE):
    labs = labs_of(own, parts, laying) + rng.normal(0, noise, (len(parts), 3))
    return [
        Swatch(tuple((own[i].id, float(n)) for i, n in enumerate(row) if n), lab=lab, laying=laying)
        for row, lab in zip(parts, labs, strict=True)
    ]


PARTS = np.array([
    [1, 1, 0, 0, 0], [0, 2, 3, 0, 0], [4, 0, 1, 0, 0], [0, 0, 1, 2, 1], [3, 0, 0, 1, 0], [5, 0, 0, 0, 2],
    [0, 1, 0, 4, 0], [2, 2, 0, 0, 1], [0, 0, 3, 0, 1], [6, 1, 0, 2, 0], [0, 5, 0, 0, 1], [3, 0, 2, 0, 1],
])  # fmt: skip
TEST = np.array(
    [[2, 0, 1, 0, 0], [0, 1, 1, 1, 0], [4, 0, 0, 1, 1], [1, 0, 0, 0, 1], [0, 3, 0, 1, 2], [7, 0, 1, 1, 0]]
)


def test_a_dozen_swatches_bring_predictions_nearer(shelf, own, rng):
    found = fit_paints(shelf, painted(own, PARTS, rng))
    truth = labs_of(own, TEST)
    before, after = delta_e00(labs_of(shelf, TEST), truth), delta_e00(labs_of(found.paints, TEST), truth)
    assert np.median(after) < 0.45 * np.median(before)
    assert np.median(found.after) < np.median(found.left_out) < np.median(found.before)
    for paint in found.paints:
        assert (paint.K >= 0).all()
        assert (paint.S > 0).all()
    assert found.contradicting() == []


def test_films_over_a_ground_teach_hiding(shelf, own, rng):
    laying = Laying(internal_from_lab([24, 0, 0]).R_i, 0.3)
    thin = replace(own[0], K=own[0].K * 0.8, S=own[0].S * 0.8)
    film, alone = np.eye(5)[:1], [[1.0]]
    found = fit_paints(shelf, painted([thin, *own[1:]], np.repeat(film, 4, axis=0), rng, laying=laying))
    truth = labs_of([thin], alone, laying)
    before = float(delta_e00(labs_of(shelf[:1], alone, laying), truth)[0])
    assert before > 0.8
    assert float(delta_e00(labs_of(found.paints[:1], alone, laying), truth)[0]) < 0.5 * before


def test_paints_without_a_swatch_stay_as_they_are(shelf, own, rng):
    found = fit_paints(shelf, painted(own, PARTS[:1], rng))
    assert set(found.doubt) == {shelf[0].id, shelf[1].id}
    for old, new in zip(shelf[2:], found.paints[2:], strict=True):
        assert new is old


def test_more_swatches_leave_less_doubt(shelf, own, rng):
    few = fit_paints(shelf, painted(own, PARTS[:2], rng))
    many = fit_paints(shelf, painted(own, PARTS, rng))
    assert many.doubt[shelf[0].id].mean() < 0.8 * few.doubt[shelf[0].id].mean()


def test_a_swatch_that_contradicts_the_others_is_named_and_counts_little(shelf, own, rng):
    swatches = painted(own, PARTS, rng)
    wrong = replace(swatches[4], lab=swatches[4].lab + np.array([0, 25, -15]))
    found = fit_paints(shelf, [*swatches[:4], wrong, *swatches[5:]])
    assert found.contradicting() == [4]
    right = fit_paints(shelf, [*swatches[:4], *swatches[5:]])
    truth = labs_of(own, TEST)
    misled = np.median(delta_e00(labs_of(found.paints, TEST), truth))
    assert misled < np.median(delta_e00(labs_of(right.paints, TEST), truth)) + 0.4


def test_spectra_of_swatches_teach_too(shelf, own):
    shares = PARTS / PARTS.sum(axis=1, keepdims=True)
    R = OPAQUE.measured(Palette.of(own).mixture(shares))
    swatches = [
        Swatch(tuple((own[i].id, float(n)) for i, n in enumerate(row) if n), reflectance=r)
        for row, r in zip(PARTS, R, strict=True)
    ]
    found = fit_paints(shelf, swatches)
    assert np.median(delta_e00(labs_of(found.paints, TEST), labs_of(own, TEST))) < 0.3


@pytest.mark.parametrize(
    ("swatches", "said"),
    [
        ([], "no swatch"),
        ([Swatch((("nowhere", 1.0),), lab=np.array([50.0, 0, 0]))], "not on this shelf"),
        ([Swatch((("chalk", 1.0),))], "no colour"),
    ],
)
def test_swatches_that_cannot_be_used_are_refused(shelf_paints, swatches, said):
    with pytest.raises(ShelfError, match=said):
        fit_paints(shelf_paints, swatches)


def test_a_paint_without_scattering_or_absorption_does_no_harm(shelf, own, rng):
    clear = replace(shelf[0], K=np.zeros(31), S=np.zeros(31))
    found = fit_paints([clear, *shelf[1:]], painted(own, PARTS, rng))
    assert all(np.isfinite(paint.K).all() and np.isfinite(paint.S).all() for paint in found.paints)


def test_a_weaker_knowledge_is_trusted_less(shelf):
    by_level = [
        predict([replace(paint, knowledge=level) for paint in shelf[:2]], [2, 1])
        for level in reversed(Knowledge)
    ]
    radii = [one.de00_90 for one in by_level]
    assert radii == sorted(radii)
    assert 0.5 < radii[0] < 4
    assert [str(one.knowledge) for one in by_level] == ["spectral", "two-constant", "one-constant"]


def test_a_masstone_known_by_one_colour_is_surer_than_a_mixture_of_it(shelf):
    rough = [replace(paint, knowledge=Knowledge.ONE_CONSTANT) for paint in shelf]
    alone, mixed = predict(rough[3:4], [1]), predict([rough[0], rough[3]], [3, 1])
    assert alone.de00_90 < mixed.de00_90
