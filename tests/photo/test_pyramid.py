"""Views of large pictures from halved levels, the quick look at a JPEG, and the correction for the screen."""

import io

import numpy as np
import pytest
from PIL import Image

from lean_sepia.colour.srgb import linear_from_srgb, linear_from_xyz, srgb_from_linear
from lean_sepia.photo.correction.cast import Anchor
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.preview import CorrectionTable
from lean_sepia.photo.pyramid import build_pyramid
from lean_sepia.photo.read import quick_look


def gradient(width=1600, height=1200):
    x, y = np.linspace(20, 230, width), np.linspace(30, 200, height)
    return np.stack(np.broadcast_arrays(x[None], y[:, None], (x[None] + y[:, None]) / 2), axis=-1).astype(
        np.uint8
    )


def test_levels_halve_and_the_first_is_not_a_copy():
    pixels = gradient()
    pyramid = build_pyramid(pixels)
    assert np.shares_memory(pyramid.levels[0], pixels)
    assert [level.shape[1] for level in pyramid.levels] == [1600, 800, 400]
    assert sum(level.nbytes for level in pyramid.levels) < 1.4 * pixels.nbytes
    assert pyramid.level_for(0.2).shape[1] == 400
    assert pyramid.level_for(0.3).shape[1] == 800
    assert pyramid.level_for(3.0).shape[1] == 1600


@pytest.mark.parametrize("scale", [0.11, 0.25, 0.6, 1.0, 3.7])
def test_a_view_shows_the_place_it_is_asked_for(scale):
    """The colour of a smooth picture tells where a screen pixel came from."""
    pixels = gradient()
    left, top = 200.0, 150.0
    view = build_pyramid(pixels).view(left, top, scale, 300, 200, 160)
    for column, row in ((5, 5), (100, 60), (150, 100)):
        x, y = left + (column + 0.5) / scale - 0.5, top + (row + 0.5) / scale - 0.5
        if x < 1599 and y < 1199:
            assert np.abs(view[row, column].astype(int) - pixels[round(y), round(x)]).max() <= 2


def test_round_the_picture_is_exact_grey():
    view = build_pyramid(gradient(400, 300)).view(-50, -50, 1.0, 600, 500, 160)
    assert (view[:40] == 160).all()
    assert (view[:, -90:] == 160).all()


def test_a_very_wide_and_a_tiny_picture_have_pyramids():
    wide = build_pyramid(np.zeros((3, 30_000, 3), np.uint8))
    assert wide.view(0, 0, 0.04, 1200, 40, 160).shape == (40, 1200, 3)
    tiny = build_pyramid(np.full((1, 1, 3), 77, np.uint8))
    assert (tiny.view(0, 0, 20, 20, 20, 160)[10, 10] == 77).all()


def test_sixteen_bits_are_shown_as_eight():
    deep = gradient(64, 48).astype(np.uint16) * 257
    assert (build_pyramid(deep).levels[0] == gradient(64, 48)).all()


def test_quick_look_is_a_reduced_copy_of_a_large_jpeg():
    pixels = gradient(4000, 3000)
    file = io.BytesIO()
    Image.fromarray(pixels).save(file, "JPEG", quality=95)
    small = quick_look(file.getvalue(), 1000)
    assert 900 <= small.shape[1] <= 2000
    assert np.abs(small[small.shape[0] // 2, small.shape[1] // 2].astype(int) - pixels[1500, 2000]).max() < 6
    assert quick_look(file.getvalue(), 3000) is None
    assert quick_look(file.getvalue()[:200], 1000) is None
    assert quick_look(b"no picture", 1000) is None


def test_correction_for_the_screen_is_exact_in_the_mean(rng):
    pixels = gradient(256, 256)
    cast = fit_cast(pixels, [Anchor(60, 60, 6, 30.0), Anchor(200, 180, 6, 70.0, 4.0, 10.0)])
    table = CorrectionTable(cast)
    exact = 255 * srgb_from_linear(np.clip(linear_from_xyz(cast.xyz(linear_from_srgb(pixels / 255))), 0, 1))
    shown = table.apply(pixels).astype(float)
    blocks = np.abs((shown - exact).reshape(16, 16, 16, 16, 3).mean(axis=(1, 3)))
    assert blocks.mean() < 1.0
    # Only where a channel nearly leaves the screen's gamut does the lattice show.
    assert np.quantile(blocks, 0.95) < 2.0
    assert (table.apply_bgra(pixels)[..., 2::-1] == table.apply(pixels)).all()
