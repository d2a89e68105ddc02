"""Surfaces that are not one even colour: printed screens, edges through a disc, rough paint."""

import cv2
import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.srgb import srgb_from_linear
from lean_sepia.photo.correction.cast import AS_FOUND, Anchor
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.patch import disc_patch
from lean_sepia.photo.sample import sample_disc, sample_patch, uneven_words
from lean_sepia.photo.surface import find_screen

PAPER, INKS = 0.85, np.array([[0.05, 0.35, 0.65], [0.70, 0.05, 0.20], [0.85, 0.75, 0.06], [0.03, 0.03, 0.03]])
ANGLES = np.radians([15, 75, 0, 45])
SIDE, OVER = 120, 6


def printed(cover, lines, dpi, seed):
    """A scan of a four-colour screen (h, w, 3), and its mean (3,) in linear light."""
    rng = np.random.default_rng(seed)
    y, x = (np.mgrid[: SIDE * OVER, : SIDE * OVER] + 0.5) / OVER
    period, light = dpi / lines, np.full((SIDE * OVER, SIDE * OVER, 3), PAPER)
    for angle, ink, share in zip(ANGLES, INKS, cover, strict=True):
        u = (x * np.cos(angle) + y * np.sin(angle)) / period + rng.random()
        v = (y * np.cos(angle) - x * np.sin(angle)) / period + rng.random()
        dots = np.cos(2 * np.pi * u) + np.cos(2 * np.pi * v)
        light *= np.where((dots > np.quantile(dots, 1 - share))[..., None], ink, 1)
    light = cv2.GaussianBlur(light.reshape(SIDE, OVER, SIDE, OVER, 3).mean(axis=(1, 3)), (0, 0), 0.6)
    pixels = 255 * srgb_from_linear(light) + rng.normal(0, 1.5, light.shape)
    return np.clip(pixels, 0, 255).round().astype(np.uint8), light.mean(axis=(0, 1))


@pytest.mark.parametrize("seed", range(6))
@pytest.mark.parametrize("radius", [4, 14])
@pytest.mark.parametrize(("lines", "dpi"), [(150, 600), (133, 600), (85, 600)])
def test_a_printed_screen_is_read_over_whole_cells(seed, radius, lines, dpi):
    cover = np.random.default_rng(seed).uniform(0.05, 0.7, 4)
    pixels, mean = printed(cover, lines, dpi, seed)
    patch = disc_patch(pixels, 60 + seed % 4, 58, radius)
    assert patch.uneven == "screen"
    assert float(delta_e00(AS_FOUND.lab(patch.mean), AS_FOUND.lab(mean))) < 1.0
    assert not len(patch.left_out)


def plain(seed, grain=6.0, shape=(120, 120)):
    rng = np.random.default_rng(seed)
    return np.clip(rng.normal(120, grain, (*shape, 3)), 0, 255).round().astype(np.uint8)


@pytest.mark.parametrize("seed", range(10))
def test_grain_blocks_and_stripes_are_no_screen(seed):
    grain = plain(seed, 12.0)
    assert find_screen(grain / 255) is None
    coarse = cv2.GaussianBlur(grain.astype(np.float32), (0, 0), 1.5)
    assert find_screen(128 / 255 + 4 * (coarse / 255 - coarse.mean() / 255)) is None
    stored = cv2.imencode(".jpg", grain, [cv2.IMWRITE_JPEG_QUALITY, 30])[1]
    assert find_screen(cv2.imdecode(stored, cv2.IMREAD_COLOR) / 255) is None
    stripes = 0.5 + 0.2 * np.sin(np.arange(120) * 2 * np.pi / 5)[None, :, None] * np.ones((120, 120, 3))
    assert find_screen(stripes) is None


def test_a_screen_too_fine_to_see_is_read_plainly():
    pixels, mean = printed([0.3, 0.4, 0.3, 0.1], 200, 300, 1)
    patch = disc_patch(pixels, 60, 60, 14)
    assert float(delta_e00(AS_FOUND.lab(patch.mean), AS_FOUND.lab(mean))) < 1.5


@pytest.mark.parametrize("angle", [0, 30, 90])
def test_an_edge_through_a_disc_widens_its_range_and_is_named(angle):
    y, x = np.mgrid[:80, :80] - 40.0
    lit = x * np.cos(np.radians(angle)) + y * np.sin(np.radians(angle)) > 2
    pixels = plain(3, 2.0, (80, 80)).astype(int)
    pixels[lit] += 60
    pixels = pixels.clip(0, 255).astype(np.uint8)
    cast = fit_cast(pixels, [Anchor(20, 20, 6, 50)], "developed")
    even, edge = sample_disc(pixels, cast, 20, 20, 6), sample_disc(pixels, cast, 40, 40, 9)
    if angle == 0:
        assert even.uneven == ""
    assert edge.uneven == "two"
    assert edge.de00_90 > 2 * even.de00_90
    assert "light and shade" in uneven_words(edge.uneven)
    lighter = AS_FOUND.lab(disc_patch(pixels, 70, 40 if angle == 0 else 70, 5).mean)
    assert float(delta_e00(edge.lab, lighter)) < edge.de00_90


def test_specks_are_left_out_and_make_no_second_colour():
    pixels = plain(4, 2.0)
    rng = np.random.default_rng(4)
    pixels[rng.integers(50, 70, 14), rng.integers(50, 70, 14)] = 250
    patch = disc_patch(pixels, 60, 60, 9)
    assert patch.uneven == ""
    assert len(patch.left_out) >= 5


def test_a_rough_surface_is_named():
    found = sample_patch(disc_patch(plain(5, 40.0), 60, 60, 9), AS_FOUND)
    assert found.uneven == "rough"
    assert "larger" in uneven_words("rough")
    assert uneven_words("") == ""
