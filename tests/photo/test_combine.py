"""Readings of several photos: weighed by how sure they are, widened where they disagree."""

import numpy as np
import pytest

from lean_sepia.photo.combine import Reading, combine


def reading(lab, half=3.0, radius=3.0):
    return Reading(tuple(lab), (half,) * 3, radius)


def test_readings_that_agree_narrow_the_range():
    found = combine([reading((50, 0, 0)), reading((50, 0, 0))])
    assert found.disagreement == 0
    assert found.half90 == pytest.approx((3 / np.sqrt(2),) * 3)
    assert found.de00_90 == pytest.approx(3 / np.sqrt(2))


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
    assert found.half90 == pytest.approx((half / np.sqrt(2) * ratio,) * 3, rel=1e-6)
    three = combine([reading((50 - d, 0, 0), half), reading((50, 0, 0), half), reading((50 + d, 0, 0), half)])
    assert three.disagreement == pytest.approx(np.sqrt(2 * d**2 / sigma**2 / 6), rel=1e-6)


def test_one_reading_is_itself():
    found = combine([reading((40, 5, 6), 2.0, 2.5)])
    assert found.lab == pytest.approx((40, 5, 6))
    assert (found.disagreement, found.de00_90) == (1.0, pytest.approx(2.5))
