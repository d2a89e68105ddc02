"""Points that stand for a normal distribution, against the library's own sequence and what is known of such a distribution."""

import numpy as np
import pytest
from scipy.special import ndtri
from scipy.stats import qmc

from lean_sepia.recipe.normal_points import normal_points


def test_they_are_the_sequence_of_the_library_shifted_and_stretched():
    points = normal_points(64)
    theirs = ndtri(qmc.Halton(3, scramble=False).random(65)[1:])
    fitted, *_rest = np.linalg.lstsq(np.column_stack([theirs, np.ones(64)]), points, rcond=None)
    assert np.column_stack([theirs, np.ones(64)]) @ fitted == pytest.approx(points, abs=1e-9)
    assert np.diag(fitted[:3]) == pytest.approx([1, 1, 1], abs=0.08)  # hardly


def test_mean_covariance_and_distance_are_those_of_a_normal_distribution():
    points = normal_points(64)
    assert points.mean(axis=0) == pytest.approx([0, 0, 0], abs=1e-12)
    assert points.T @ points / 64 == pytest.approx(np.eye(3), abs=1e-12)
    assert np.linalg.norm(points, axis=1).mean() == pytest.approx(
        np.sqrt(8 / np.pi), rel=0.03
    )  # of a Maxwell distribution
