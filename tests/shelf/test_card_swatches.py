"""Test swatches read with the card that new paints are read with, and learnt from."""

from dataclasses import replace

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.demo.card_photo import Shot, photograph_card
from lean_sepia.errors import ShelfError
from lean_sepia.paint.fit import fit_paints
from lean_sepia.paint.laying import OPAQUE
from lean_sepia.paint.paint import Palette
from lean_sepia.photo.swatch_card import read_card
from lean_sepia.recipe.fades.fade import base_mixture
from lean_sepia.shelf.card_swatches import read_mixtures, swatches_from_card
from lean_sepia.shelf.swatch_file import read_swatches, write_swatches

IDS = ("chalk", "boot-red", "harbour-blue", "ochre")
MIXED = {
    1: [("chalk", 3), ("boot-red", 1)], 2: [("chalk", 1), ("boot-red", 2)], 3: [("chalk", 4), ("harbour-blue", 1)],
    4: [("harbour-blue", 2), ("ochre", 3)], 5: [("ochre", 1), ("chalk", 1)], 6: [("boot-red", 1), ("ochre", 2)],
    7: [("harbour-blue", 1), ("boot-red", 3)], 8: [("chalk", 2), ("ochre", 1), ("harbour-blue", 1)],
}  # fmt: skip


@pytest.fixture(scope="module")
def shelf(shelf_paints):
    return [paint for paint in shelf_paints if paint.id in IDS]


@pytest.fixture(scope="module")
def true_bottles(shelf):
    """What is really in the bottles: stronger or weaker than the shelf says."""
    factors = dict(zip(IDS, ((0.9, 1.15), (1.2, 0.9), (0.8, 1.1), (1.15, 0.95)), strict=True))
    return [
        replace(paint, K=paint.K * factors[paint.id][0], S=paint.S * factors[paint.id][1]) for paint in shelf
    ]


@pytest.fixture(scope="module")
def reading(true_bottles):
    painted = [base_mixture(true_bottles, parts) for parts in MIXED.values()]
    return read_card(photograph_card(painted, Shot(), 7), 62.0)


def colour(paints, parts):
    by_id = {paint.id: paint for paint in paints}
    counts = np.array([count for _, count in parts], dtype=float)
    return OPAQUE.lab(Palette.of([by_id[name] for name, _ in parts]).mixture(counts / counts.sum()))


def test_mixtures_on_a_card_are_read_as_they_are(reading, true_bottles):
    found = swatches_from_card(reading, MIXED)
    assert [swatch.field for swatch in found.swatches] == list(MIXED)
    misses = [float(delta_e00(s.masstone, colour(true_bottles, s.parts))) for s in found.swatches]
    assert np.median(misses) < 2


def test_learning_from_a_card_brings_other_mixtures_nearer(reading, shelf, true_bottles):
    swatches = [swatch.swatch() for swatch in swatches_from_card(reading, MIXED).swatches]
    fit = fit_paints(shelf, swatches)
    unseen = [[("chalk", 1), ("boot-red", 1)], [("chalk", 5), ("ochre", 1)], [("harbour-blue", 1), ("chalk", 1)], [("ochre", 1), ("boot-red", 1)]]  # fmt: skip
    before, after = (
        [float(delta_e00(colour(paints, parts), colour(true_bottles, parts))) for parts in unseen]
        for paints in (shelf, fit.paints)
    )
    assert np.median(after) < 0.7 * np.median(before)


def test_an_unsure_reading_moves_the_paints_less(reading, shelf):
    sure = [swatch.swatch() for swatch in swatches_from_card(reading, MIXED).swatches]
    unsure = [replace(swatch, noise=20 * swatch.noise) for swatch in sure]
    moved = [
        float(np.abs(np.log(fitted.K / paint.K)).mean())
        for swatches in (sure, unsure)
        for fitted, paint in zip(fit_paints(shelf, swatches).paints, shelf, strict=True)
    ]
    assert sum(moved[4:]) < 0.5 * sum(moved[:4])


def test_swatches_go_through_a_file(reading, tmp_path):
    found = swatches_from_card(reading, MIXED)
    write_swatches(tmp_path / "swatches.json", [swatch.record() for swatch in found.swatches])
    back = read_swatches(tmp_path / "swatches.json")
    for one, other in zip(back, (swatch.swatch() for swatch in found.swatches), strict=True):
        assert dict(one.shares) == dict(other.shares)
        assert np.allclose(one.lab, other.lab)
        assert one.noise == pytest.approx(other.noise)
    with pytest.raises(ShelfError, match="cannot be written"):
        write_swatches(tmp_path / "nowhere" / "swatches.json", [])


def test_a_bare_field_is_left_out_and_named(reading):
    bare = replace(
        reading, fields=(replace(reading.fields[0], doubt="nothing here", bare=True), *reading.fields[1:])
    )
    found = swatches_from_card(bare, MIXED)
    assert [swatch.field for swatch in found.swatches] == list(MIXED)[1:]
    assert found.doubtful == ((1, "nothing here"),)
    with pytest.raises(ShelfError, match="8 fields"):
        swatches_from_card(reading, {9: MIXED[1]})


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("field,what\n1,chalk\n", "lacks the column 'parts'"), ("field,parts\nx,chalk\n", "a number from 1"),
        ("field,parts\n1,chalk\n1,chalk\n", "named twice"), ('field,parts\n1,"2 nobody"\n', "line 2: 'nobody'"),
        ("field,parts\n", "names no field"), ("field,parts\n1,2 chalk, 1 ochre\n", "in quotes"),
    ],
)  # fmt: skip
def test_lists_that_break_a_rule_are_refused(tmp_path, text, said):
    path = tmp_path / "mixtures.csv"
    path.write_text(text)
    with pytest.raises(ShelfError, match=said):
        read_mixtures(path, {"chalk": "Chalk", "ochre": "Ochre"})


def test_a_list_may_use_semicolons_and_names(tmp_path):
    path = tmp_path / "mixtures.csv"
    path.write_text("field; parts\n2; 3 Chalk, 1 Boot red\n")
    assert read_mixtures(path, {"chalk": "Chalk", "boot-red": "Boot red"}) == {
        2: [("chalk", 3), ("boot-red", 1)]
    }
