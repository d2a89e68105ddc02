"""Small marks read by the light they take in all."""

import cv2
import numpy as np
import pytest

from lean_sepia.colour.lab import lab_from_xyz, xyz_from_lab
from lean_sepia.colour.lights import white
from lean_sepia.colour.srgb import linear_from_srgb, linear_from_xyz, srgb_from_linear, xyz_from_linear
from lean_sepia.wear.marks import Statistics, draw_marks
from lean_sepia.wear.scene import XyzLook
from lean_sepia.wear.segment import segment
from lean_sepia.wear.summed import spots_of_tones

GROUND, RED, GREEN = (65.0, 0.0, 12.0), (44.0, 26.0, 22.0), (44.0, -8.0, 24.0)


def stored(xyz, seed):
    """XYZ of a picture as a phone stores it: blurred a little, grained, its colour at half the pixels of its light."""
    linear = cv2.GaussianBlur(np.clip(linear_from_xyz(xyz), 0, 1), (0, 0), 0.7)
    pixels = 255 * srgb_from_linear(linear) + np.random.default_rng(seed).normal(0, 1.5, linear.shape)
    quality = [cv2.IMWRITE_JPEG_QUALITY, 85]
    _done, file = cv2.imencode(".jpg", np.clip(pixels, 0, 255).round().astype(np.uint8)[..., ::-1], quality)
    return xyz_from_linear(linear_from_srgb(cv2.imdecode(file, cv2.IMREAD_COLOR)[..., ::-1] / 255))


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_specks_under_halved_colour_keep_their_kind_and_size(seed):
    shape = (300, 400)
    kinds = [Statistics(0.012, 2.0, 0.3), Statistics(0.04, 12.0, longer=6, direction_deg=0.0)]
    red, green = draw_marks(shape, kinds, [None, None], seed)
    xyz = np.broadcast_to(xyz_from_lab(np.array(GROUND)), (*shape, 3)).copy()
    for lab, share in ((RED, red), (GREEN, green)):
        xyz += share[..., None] * (xyz_from_lab(np.array(lab)) - xyz)
    seen = stored(xyz, seed)
    ground = lab_from_xyz(np.median(seen[(red + green) == 0], axis=0))
    found = segment(XyzLook(seen), ground, {"red": np.array(RED), "green": np.array(GREEN)})
    assert found.shares["red"].mean() == pytest.approx(red.mean(), rel=0.2)  # half of it without
    assert found.shares["green"].mean() == pytest.approx(green.mean(), rel=0.1)
    near = cv2.dilate((red > 0.2).astype(np.uint8), np.ones((7, 7), np.uint8)) > 0
    apart = cv2.dilate((green > 0).astype(np.uint8), np.ones((9, 9), np.uint8)) == 0
    alone = near & apart
    assert found.shares["red"][alone].sum() > 10 * found.shares["green"][alone].sum()
    assert (found.scene.paints[0] * white()).shape == (3,)


def test_only_small_spots_of_a_tone_within_another_are_taken_for_marks():
    first = np.zeros((60, 80), bool)
    first[:, :40] = True
    first[20:25, 60:66] = True
    first[0:3, 0:3] = False
    second = ~first
    found = spots_of_tones([first, second])
    assert found[22, 62]
    assert found[1, 1]
    assert found.sum() == 30 + 9
    assert not spots_of_tones([np.ones((20, 20), bool), np.zeros((20, 20), bool)]).any()
