"""Discs, corrections and the range of a sample."""

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.srgb import lab_from_srgb, linear_from_srgb, srgb_from_lab, srgb_from_linear
from lean_sepia.errors import SampleError
from lean_sepia.photo.correction.cast import AS_FOUND, Anchor
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.correction.chart import as_it_lies, chart_anchors
from lean_sepia.photo.patch import Area, disc_patch, rectangle_mean
from lean_sepia.photo.preview import CorrectionTable
from lean_sepia.photo.sample import sample_disc

LABS = [[90, 0, 0], [60, 0, 0], [35, 0, 0], [50, 40, 25], [50, -30, 5], [45, 5, -35], [70, 5, 50]]


def card(gain=(1.0, 1.0, 1.0), exponent=1.0, noise=0.0, seed=3):
    """Seven fields of 60 × 60 pixels in a row, seen through gains and an exponent."""
    linear = linear_from_srgb(np.clip(srgb_from_lab(np.array(LABS, dtype=float)), 0, 1))
    seen = np.clip(np.array(gain) * linear**exponent, 0, 1)
    row = np.repeat(np.repeat(srgb_from_linear(seen)[None, :, None, :], 60, axis=0), 60, axis=2).reshape(
        60, -1, 3
    )
    row = row + np.random.default_rng(seed).normal(0, noise, row.shape)
    return (np.clip(row, 0, 1) * 255).round().astype(np.uint8)


def spot(index):
    return 60 * index + 30, 30, 15


def test_without_anchors_the_picture_is_as_found():
    pixels = card()
    for index, lab in enumerate(LABS):
        found = sample_disc(pixels, AS_FOUND, *spot(index))
        assert float(delta_e00(found.lab, lab)) < 0.6
        assert found.de00_90 > 3  # nothing vouches for the colours


def test_one_grey_of_known_lightness_takes_a_cast_out():
    pixels = card(gain=(1.0, 0.78, 0.5))
    cast = fit_cast(pixels, [Anchor(*spot(1), 60)], "developed")
    errors = [float(delta_e00(sample_disc(pixels, cast, *spot(i)).lab, lab)) for i, lab in enumerate(LABS)]
    before = [
        float(delta_e00(sample_disc(pixels, AS_FOUND, *spot(i)).lab, lab)) for i, lab in enumerate(LABS)
    ]
    assert np.mean(errors) < 4
    assert np.mean(before) > 2 * np.mean(errors)


def test_a_grey_of_unknown_lightness_leaves_the_lightness_alone():
    pixels = card(gain=(0.8, 0.64, 0.48))
    cast = fit_cast(pixels, [Anchor(*spot(1))])
    found = sample_disc(pixels, cast, *spot(1))
    as_found = sample_disc(pixels, AS_FOUND, *spot(1))
    assert np.hypot(*found.lab[1:]) < 1
    assert found.lab[0] == pytest.approx(as_found.lab[0], abs=1.5)
    known = sample_disc(pixels, fit_cast(pixels, [Anchor(*spot(1), 60)]), *spot(1))
    assert found.de00_90 > 2 * known.de00_90


@pytest.mark.parametrize("exposure", [0.65, 0.8])
@pytest.mark.parametrize("places", [(1,), (1, 2), (0, 1, 2)])
def test_the_range_of_neutrals_of_unknown_lightness_holds_in_dark_pictures(exposure, places):
    """Nobody knows how a picture was exposed: neutrals take the cast out, and tell nothing of lightness however many they are."""
    pixels = card(gain=(exposure, 0.8 * exposure, 0.6 * exposure))
    cast = fit_cast(pixels, [Anchor(*spot(i)) for i in places])
    for index, lab in enumerate(LABS):
        found = sample_disc(pixels, cast, *spot(index))
        assert float(delta_e00(found.lab, lab)) < found.de00_90
        low, high = found.lab_range90[0]
        assert low < lab[0] < high


def test_a_guess_does_not_balance_a_picture_that_has_a_neutral():
    pixels = card(gain=(1.0, 0.78, 0.5))
    coloured = Anchor(*spot(5), 13.0, guess=True)  # taken for deep shadow, and blue
    found = sample_disc(pixels, fit_cast(pixels, [coloured, Anchor(*spot(1))]), *spot(2))
    assert np.hypot(*found.lab[1:]) < 4


def test_more_anchors_make_samples_better_and_surer():
    pixels = card(gain=(0.9, 0.8, 0.6), exponent=1.12, noise=0.01)
    few = fit_cast(pixels, [Anchor(*spot(1), 60)])
    many = fit_cast(pixels, [Anchor(*spot(i), *LABS[i]) for i in (0, 1, 2, 3, 5)])
    for index in (4, 6):
        one, more = (sample_disc(pixels, cast, *spot(index)) for cast in (few, many))
        assert more.de00_90 < one.de00_90
        assert float(delta_e00(more.lab, LABS[index])) < float(delta_e00(one.lab, LABS[index]))
    assert few.anchor_error_de00 is None
    assert 0 < many.anchor_error_de00 < 3


def test_anchors_on_clipped_pixels_are_named():
    pixels = card(gain=(1.6, 1.6, 1.6))
    assert "clipped" in fit_cast(pixels, [Anchor(*spot(0), 90)]).warnings[0]


def test_three_anchors_of_one_colour_are_no_more_than_one():
    pixels = card(gain=(1.0, 0.8, 0.6))
    x, y, r = spot(1)
    cast = fit_cast(pixels, [Anchor(x - 10, y, 5, 60), Anchor(x, y, 5, 60), Anchor(x + 10, y, 5, 60)])
    assert np.isfinite(cast.lab(np.full((4, 3), 0.3))).all()
    assert any("of about one colour" in words for words in cast.warnings)
    assert float(delta_e00(sample_disc(pixels, cast, x, y, r).lab, LABS[1])) < 1


def test_specks_and_highlights_are_left_out(rng):
    pixels = card(noise=0.01)
    x, y, r = spot(4)
    rows, columns = np.mgrid[0:60, 0 : pixels.shape[1]]
    inside = np.hypot(columns - x, rows - y) <= r
    places = np.argwhere(inside)
    chosen = places[rng.choice(len(places), len(places) // 6, replace=False)]
    pixels[chosen[:, 0], chosen[:, 1]] = [250, 250, 250]
    patch = disc_patch(pixels, x, y, r)
    assert patch.pixels < inside.sum() * 0.9
    assert float(delta_e00(lab_from_srgb(srgb_from_linear(patch.mean)), LABS[4])) < 1.0


@pytest.mark.parametrize(("x", "y", "r"), [(-1, 5, 3), (500, 5, 3), (10, 70, 3), (10, 10, 0), (10, 10, -2)])
def test_discs_off_the_picture_are_refused(x, y, r):
    with pytest.raises(SampleError):
        disc_patch(card(), x, y, r)


def test_smallest_disc_is_one_pixel():
    assert disc_patch(card(), 30, 30, 0.2).pixels == 1


def test_rectangle_is_a_plain_mean():
    pixels = card()
    both = rectangle_mean(pixels, 30, 0, 90, 60)
    halves = [rectangle_mean(pixels, *box) for box in ((30, 0, 60, 60), (60, 0, 90, 60))]
    assert np.allclose(both, np.mean(halves, axis=0))
    for box in ((0, 0, 5000, 10), (10, 10, 10, 20)):
        with pytest.raises(SampleError):
            rectangle_mean(pixels, *box)


def test_polygons_need_three_corners_on_the_picture():
    assert Area.of_polygon((50, 50), [(10, 10), (40, 10), (25, 40)]).mask.sum() == pytest.approx(
        450, rel=0.12
    )
    for corners in ([(0, 0), (5, 5)], [(100, 100), (120, 100), (110, 120)]):
        with pytest.raises(SampleError):
            Area.of_polygon((50, 50), corners)


def test_chart_corners_are_turned_into_24_anchors():
    anchors = chart_anchors([100, 100, 600, 100, 600, 400, 100, 400])
    assert len(anchors) == 24
    assert (anchors[0].x, anchors[0].y) == pytest.approx((100, 100))
    assert (anchors[23].x, anchors[23].y) == pytest.approx((600, 400))
    assert anchors[18].lightness > 94  # white opens the last row
    for corners in ([0] * 8, [0, 0, 10, 10, 20, 20, 30, 30], [1, 2, 3]):
        with pytest.raises(SampleError):
            chart_anchors(corners)


def test_a_chart_is_taken_as_it_lies_from_whichever_corner(rng):
    labs = np.array([anchor.lab for anchor in chart_anchors([0, 0, 50, 0, 50, 30, 0, 30])])
    linear = linear_from_srgb(np.clip(srgb_from_lab(labs), 0, 1)) * [0.9, 0.6, 0.25]
    pixels = np.kron(255 * srgb_from_linear(linear).reshape(4, 6, 3), np.ones((40, 40, 1)))
    pixels = np.clip(pixels + rng.normal(0, 2, pixels.shape), 0, 255).round().astype(np.uint8)
    lies = [(20, 20), (220, 20), (220, 140), (20, 140)]
    flat = [float(value) for corner in lies for value in corner]
    for first in range(4):
        for way in (1, -1):
            given = [value for step in range(4) for value in lies[(first + way * step) % 4]]
            assert as_it_lies(pixels, given) == flat
    elsewhere = [30.0, 30, 90, 30, 90, 80, 30, 80]
    assert as_it_lies(pixels, elsewhere) == elsewhere
    assert as_it_lies(pixels, [-900.0, 0, 20, 0, 20, 20, -900, 20]) == [-900, 0, 20, 0, 20, 20, -900, 20]


def test_preview_agrees_with_the_correction():
    pixels = card(gain=(1.0, 0.8, 0.6), noise=0.02)
    cast = fit_cast(pixels, [Anchor(*spot(1), 60), Anchor(*spot(0), 90)])
    seen = lab_from_srgb(CorrectionTable(cast).apply(pixels) / 255)
    exact = cast.lab(linear_from_srgb(pixels / 255))
    inside = np.abs(seen - exact).max(axis=-1)[
        np.all((srgb_from_lab(exact) > 0.02) & (srgb_from_lab(exact) < 0.98), axis=-1)
    ]
    assert np.quantile(inside, 0.99) < 1.5
    assert lab_from_xyz(cast.xyz([[0.2, 0.2, 0.2]])).shape == (1, 3)


def test_an_anchor_that_is_nearly_black_tells_little_and_is_said_to():
    """A thousandth of the light goes astray: it is nothing to a grey, and a cast of its own to a black."""
    labs = [[60, 0, 0], [8, 0, 0], [50, 40, 25], [50, -30, 5]]
    linear = linear_from_srgb(np.clip(srgb_from_lab(np.array(labs, dtype=float)), 0, 1))
    encoded = srgb_from_linear(linear + np.array([0.004, 0.002, 0.0]))
    pixels = np.kron((255 * encoded).round()[None], np.ones((60, 60, 1))).astype(np.uint8)
    radii = {}
    for place in (0, 1):
        cast = fit_cast(pixels, [Anchor(*spot(place), labs[place][0])])
        radii[place] = 0.0
        for index in (2, 3):
            found = sample_disc(pixels, cast, *spot(index))
            assert float(delta_e00(found.lab, labs[index])) < found.de00_90
            radii[place] += found.de00_90
        assert any("nearly black" in words for words in cast.warnings) == bool(place)
    assert radii[1] > 1.5 * radii[0]
