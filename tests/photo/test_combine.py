"""Readings of several photos: weighed by how sure they are, widened where they disagree."""

import numpy as np
import pytest

from lean_sepia.photo.combine import Reading, combine

TOGETHER = 0.3


def reading(lab, half=3.0, radius=3.0):
    return Reading(tuple(lab), (half,) * 3, radius)


def test_readings_that_agree_narrow_the_range():
    found = combine([reading((50, 0, 0)), reading((50, 0, 0))])
    assert found.disagreement == 0
    assert found.half90 == pytest.approx((3 * np.sqrt((1 + TOGETHER) / 2),) * 3)
    assert found.de00_90 == pytest.approx(found.half90[0])
    assert 3 / np.sqrt(2) < found.de00_90 < 0.85 * 3


def test_photos_of_one_camera_err_together():
    three = [reading((50, 0, 0))] * 3
    apart, alike, two_alike = combine(three), combine(three, ["a", "a", "a"]), combine(three, ["a", "a", "b"])
    assert apart.de00_90 < two_alike.de00_90 < alike.de00_90 < 3
    assert alike.de00_90 > 0.9 * 3
    assert combine(three, ["a", "b", "c"]) == apart


def test_a_poor_reading_never_makes_a_good_one_worse():
    assert combine([reading((50, 0, 0), 1.0, 1.0), reading((50, 0, 0), 30.0, 30.0)]).de00_90 <= 1.0


def test_the_surer_reading_counts_for_more():
    found = combine([reading((50, 0, 0), half=1.0), reading((53, 0, 0), half=2.0)])
    assert found.lab[0] == pytest.approx(50 + 3 / 5)


def test_birges_ratio_divides_by_one_reading_fewer():
    """Two readings 2 d apart in each coordinate: χ² = 3 · 2 d²/σ² over three degrees of freedom."""
    d, half = 4.0, 3.0
    sigma = half / 1.6448536
    found = combine([reading((50 - d, -d, -d), half), reading((50 + d, d, d), half)])
    ratio = np.sqrt(2) * d / sigma
    assert found.disagreement == pytest.approx(ratio, rel=1e-6)
    assert found.half90 == pytest.approx((half * np.sqrt((1 + TOGETHER) / 2) * ratio,) * 3, rel=1e-6)
    three = combine([reading((50 - d, 0, 0), half), reading((50, 0, 0), half), reading((50 + d, 0, 0), half)])
    assert three.disagreement == pytest.approx(np.sqrt(2 * d**2 / sigma**2 / 6), rel=1e-6)


def test_one_reading_is_itself():
    found = combine([reading((40, 5, 6), 2.0, 2.5)])
    assert found.lab == pytest.approx((40, 5, 6))
    assert (found.disagreement, found.de00_90) == (1.0, pytest.approx(2.5))
