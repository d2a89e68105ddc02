"""What counts of a disc: grain does, glints and scratches do not."""

import numpy as np
import pytest

from lean_sepia.colour.srgb import linear_from_srgb
from lean_sepia.photo.patch import disc_patch


def painted(share, brighter):
    """A mid grey with grain, a share of its pixels moved by so many steps in every channel."""
    rng = np.random.default_rng(11)
    pixels = np.clip(rng.normal(120, 4, (80, 80, 1)) + rng.normal(0, 2, (80, 80, 3)), 0, 255)
    pixels[rng.random((80, 80)) < share] += brighter
    return np.clip(pixels, 0, 255).round().astype(np.uint8)


TRUE = float(linear_from_srgb(np.array(120 / 255)))


@pytest.mark.parametrize("brighter", [9, 40, 110])
def test_glints_do_not_lift_the_mean(brighter):
    found = disc_patch(painted(0.12, brighter), 40, 40, 25)
    assert found.mean == pytest.approx(TRUE, rel=0.02)


def test_dark_grain_is_kept_where_light_of_the_same_size_is_not():
    bright, dark = (disc_patch(painted(0.1, step), 40, 40, 25) for step in (10, -10))
    assert bright.kept.mean() < dark.kept.mean()


def test_what_is_plain_is_all_kept_and_its_error_falls_with_its_size():
    small, large = (disc_patch(painted(0, 0), 40, 40, radius) for radius in (6, 30))
    assert large.kept.mean() > 0.9
    assert np.trace(large.cov_of_mean) < np.trace(small.cov_of_mean)
