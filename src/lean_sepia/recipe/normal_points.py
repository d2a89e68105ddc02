"""Points that stand for a normal distribution in space, evenly spread and the same in every run."""

from __future__ import annotations

import numpy as np
from scipy.special import ndtri

from lean_sepia.arrays import FloatArray


def normal_points(count: int) -> FloatArray:
    """Points (count, 3) that stand for the standard normal distribution: their mean is 0 and their covariance 1.

    They are radical inverses of the counting numbers in the bases 2, 3 and 5 (Halton, Numer. Math. 2, 1960), taken through the
    quantile of the normal distribution, then shifted and stretched to those moments. The library's own points of little
    discrepancy come with all of its statistics, which take most of a second to import.
    """
    shares = np.zeros((count, 3))
    for axis, base in enumerate((2, 3, 5)):
        left, digit = np.arange(1, count + 1), 1 / base
        while left.any():
            shares[:, axis] += left % base * digit
            left, digit = left // base, digit / base
    points = ndtri(shares)
    points -= points.mean(axis=0)
    spread = np.linalg.cholesky(points.T @ points / count)
    return np.asarray(np.linalg.solve(spread, points.T).T)
