"""Polygons and strokes, several photos, straightening, shares, and what would help."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import xyz_from_lab
from lean_sepia.colour.srgb import srgb_from_lab
from lean_sepia.errors import SampleError
from lean_sepia.photo.combine import Reading, combine, same_paint_in_shade
from lean_sepia.photo.correction.cast import AS_FOUND, Anchor
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.correction.next_evidence import best_help, what_would_help
from lean_sepia.photo.patch import brush_patch, disc_patch, polygon_patch
from lean_sepia.photo.read import bends_lines
from lean_sepia.photo.rectify import mm_per_px, plane_matrix, scale_bar_mm, straighten
from lean_sepia.photo.sample import sample_disc, sample_patch
from lean_sepia.photo.shares import area_shares, contrasts, shares_missed, snap_to_edges

GREEN, SAND = (45.0, -25.0, 8.0), (70.0, 6.0, 26.0)


def field(lab, height=80, width=120, noise=0.01, seed=1):
    flat = np.broadcast_to(srgb_from_lab(np.array(lab)), (height, width, 3))
    noisy = flat + np.random.default_rng(seed).normal(0, noise, (height, width, 3))
    return (np.clip(noisy, 0, 1) * 255).round().astype(np.uint8)


def test_disc_polygon_and_brush_read_the_same_paint():
    pixels = field(GREEN)
    labs = [
        sample_patch(patch, AS_FOUND).lab
        for patch in (
            disc_patch(pixels, 60, 40, 15),
            polygon_patch(pixels, [(20, 20), (100, 25), (90, 60), (30, 70)]),
            brush_patch(pixels, [(20, 20), (60, 40), (100, 60)], 5),
        )
    ]
    assert all(float(delta_e00(lab, GREEN)) < 0.5 for lab in labs)


def test_specks_left_out_are_told_where_they_are():
    pixels = field(GREEN, noise=0.005)
    pixels[40:43, 50:53] = 250
    patch = polygon_patch(pixels, [(30, 20), (90, 20), (90, 60), (30, 60)])
    left = {tuple(place) for place in patch.left_out.tolist()}
    assert {(x, y) for x in (50, 51, 52) for y in (40, 41, 42)} <= left
    assert len(patch.places) == patch.pixels + len(left)


@pytest.mark.parametrize("path", [[], [(-50, -50), (-40, -50)]])
def test_strokes_off_the_picture_are_refused(path):
    with pytest.raises(SampleError):
        brush_patch(field(GREEN), path, 4)


def test_a_stroke_that_leaves_the_picture_is_read_where_it_lies_on_it():
    assert brush_patch(field(GREEN), [(60, 40), (400, 40)], 3).pixels > 100


def test_two_photos_that_agree_are_surer_and_two_that_do_not_are_not():
    one = Reading((50.0, 0.0, 0.0), (2.0, 2.0, 2.0), 2.4)
    near = combine([one, Reading((51.0, 0.5, 0.0), (2.0, 2.0, 2.0), 2.4)])
    assert near.de00_90 == pytest.approx(2.4 * np.sqrt((1 + 0.3) / 2))
    assert near.disagreement < 1
    far = combine([one, Reading((62.0, 8.0, 0.0), (2.0, 2.0, 2.0), 2.4)])
    assert far.disagreement > 3
    assert far.de00_90 > 2 * near.de00_90


@given(st.lists(st.tuples(st.floats(20, 80), st.floats(-30, 30), st.floats(0.5, 8)), min_size=1, max_size=5))
def test_a_combination_lies_among_its_readings_whatever_their_order(rows):
    readings = [Reading((L, a, 0.0), (half,) * 3, half) for L, a, half in rows]
    found, turned = combine(readings), combine(readings[::-1])
    assert found.lab == pytest.approx(turned.lab)
    assert min(r.lab[0] for r in readings) - 1e-6 <= found.lab[0] <= max(r.lab[0] for r in readings) + 1e-6
    assert np.isfinite(found.de00_90)


def test_shade_of_the_same_paint_is_told_from_another_paint():
    lit = np.array(GREEN)
    shaded = lit * [1, 0, 0] + 0  # start from its lightness
    ratio = 0.78
    shaded = np.array([(lit[0] + 16) * ratio - 16, lit[1] * ratio, lit[2] * ratio - 2])
    assert same_paint_in_shade(tuple(lit), tuple(shaded))
    assert not same_paint_in_shade(tuple(lit), (shaded[0], 12.0, 20.0))
    assert not same_paint_in_shade(tuple(shaded), tuple(lit))


def test_four_corners_become_a_rectangle_with_a_scale():
    pixels = np.full((300, 400, 3), 40, np.uint8)
    corners = [(60, 50), (340, 80), (320, 250), (80, 230)]
    import cv2

    cv2.fillPoly(pixels, [np.array(corners, np.int32)], (200, 180, 160))
    flat = straighten(pixels, corners, width_mm=5600, height_mm=2800)
    height, width, _ = flat.pixels.shape
    assert width / height == pytest.approx(2.0, abs=0.02)
    assert flat.mm_per_px == pytest.approx(5600 / width)
    assert (flat.pixels[5:-5, 5:-5].mean(axis=(0, 1)) > [195, 175, 155]).all()
    x, y, w = flat.matrix @ [340, 80, 1]
    assert (x / w, y / w) == pytest.approx((width, 0), abs=0.5)


@pytest.mark.parametrize(
    "corners",
    [
        [(0, 0), (10, 10), (20, 20), (30, 30)],
        [(0, 0), (100, 0), (0, 100), (100, 100)],
        [(0, 0), (1, 0), (1, 1), (0, 1)],
        [(0, 0), (100, 0), (100, 100)],
    ],
)
def test_corners_that_span_nothing_are_refused(corners):
    with pytest.raises(SampleError):
        plane_matrix(corners, 100, 100)


def test_lengths_bars_and_lenses():
    assert mm_per_px((10, 10), (310, 410), 25_000) == pytest.approx(50)
    with pytest.raises(SampleError):
        mm_per_px((5, 5), (5, 5), 100)
    assert scale_bar_mm(9000) == 2000
    assert scale_bar_mm(47) == 10
    assert bends_lines(24)
    assert not bends_lines(50)
    assert not bends_lines(None)


def _stripes(share):
    xyz = np.empty((100, 200, 3))
    xyz[:] = xyz_from_lab(SAND)
    xyz[:, : round(200 * share)] = xyz_from_lab(GREEN)
    return xyz * np.random.default_rng(2).lognormal(0, 0.05, (100, 200, 1))


def test_shares_of_two_tones_and_their_contrast():
    shares, other = area_shares(_stripes(0.3), np.ones((100, 200), bool), {"sand": SAND, "green": GREEN})
    found = {tone.name: tone.share for tone in shares}
    assert found["green"] == pytest.approx(0.3, abs=0.01)
    assert other == 0
    (pair,) = contrasts(shares)
    assert pair.de00 == pytest.approx(float(delta_e00(SAND, GREEN)), abs=1)
    assert pair.delta_lightness == pytest.approx(GREEN[0] - SAND[0], abs=1)
    painted, _ = area_shares(_stripes(0.45), np.ones((100, 200), bool), {"sand": SAND, "green": GREEN})
    assert shares_missed(shares, painted)["green"] == pytest.approx(0.15, abs=0.015)


def test_what_is_like_no_tone_is_said():
    xyz = _stripes(0.5)
    xyz[40:60] = xyz_from_lab((50.0, 55.0, 40.0))
    _, other = area_shares(xyz, np.ones((100, 200), bool), {"sand": SAND, "green": GREEN})
    assert other == pytest.approx(0.2, abs=0.03)
    with pytest.raises(SampleError):
        area_shares(xyz, np.ones((100, 200), bool), {})
    with pytest.raises(SampleError):
        area_shares(xyz, np.zeros((100, 200), bool), {"sand": SAND})


def test_a_rough_outline_snaps_to_the_edge_of_the_colour():
    pixels = field(SAND, 200, 300, 0.02)
    pixels[50:150, 80:220] = field(GREEN, 100, 140, 0.02, 3)
    rough = [(72, 44), (230, 42), (226, 158), (74, 156)]
    outline = np.array(snap_to_edges(pixels, rough))
    assert outline.min(axis=0) == pytest.approx([80, 50], abs=2.5)
    assert outline.max(axis=0) == pytest.approx([219, 149], abs=2.5)


def test_the_lightness_of_a_grey_that_is_there_is_asked_for_first():
    pixels = np.hstack([field(GREEN), field((60.0, 0.0, 0.0), seed=4), field(SAND, seed=5)])
    cast = fit_cast(pixels, [Anchor(180, 40, 12)])
    patch, grey = disc_patch(pixels, 60, 40, 12), disc_patch(pixels, 180, 40, 12)
    assert "its lightness" not in {one.kind for one in what_would_help(cast, patch)}
    told = best_help(what_would_help(cast, patch, grey))
    assert told is not None
    assert told.kind == "its lightness"
    known = sample_disc(pixels, fit_cast(pixels, [Anchor(180, 40, 12, 60.0)]), 60, 40, 12).de00_90
    assert told.de00_90 == pytest.approx(known, rel=0.35)


def test_help_is_what_makes_the_range_narrower():
    pixels = np.hstack([field(GREEN), field((60.0, 0.0, 0.0), seed=4), field(SAND, seed=5)])
    grey = Anchor(180, 40, 12, 60.0)
    cast = fit_cast(pixels, [grey])
    patch = disc_patch(pixels, 60, 40, 12)
    helps = {one.kind: one for one in what_would_help(cast, patch)}
    now = sample_disc(pixels, cast, 60, 40, 12).de00_90
    assert all(one.de00_90 + one.gain == pytest.approx(now, abs=0.15) for one in helps.values())
    assert helps["same colour"].gain > helps["white"].gain
    told = best_help(list(helps.values()))
    assert told is not None
    close = fit_cast(pixels, [grey, Anchor(60, 20, 8, *GREEN)])
    assert sample_disc(pixels, close, 60, 40, 12).de00_90 < now - 0.3
