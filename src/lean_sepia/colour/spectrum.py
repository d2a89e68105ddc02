"""The working grid of spectra and how 10 nm values stand for the curve between them."""

from __future__ import annotations

from functools import cache

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.language import _

WAVELENGTHS_NM = np.arange(400, 701, 10)
"""The working grid: 31 wavelengths, 400–700 nm in steps of 10."""

BANDS = WAVELENGTHS_NM.size


@cache
def lagrange_10_to_1_nm() -> FloatArray:
    """Matrix (301, 31) that interpolates a 10 nm spectrum to 1 nm.

    Cubic Lagrange inside, quadratic in the first and last interval, as ASTM E2022 prescribes.
    """
    matrix = np.zeros((10 * (BANDS - 1) + 1, BANDS))
    for row in range(matrix.shape[0]):
        position = row / 10.0
        interval = min(int(position), BANDS - 2)
        first = min(max(interval - 1, 0), BANDS - 4)
        nodes = np.arange(first, first + 4)
        if interval == 0:
            nodes = np.arange(3)
        elif interval == BANDS - 2:
            nodes = np.arange(BANDS - 3, BANDS)
        for node in nodes:
            others = nodes[nodes != node]
            matrix[row, node] = np.prod((position - others) / (node - others))
    return matrix


def resample(wavelengths_nm: npt.ArrayLike, values: npt.ArrayLike) -> FloatArray:
    """Bring a measured spectrum to the working grid by linear interpolation, ends continued flat.

    Parameters
    ----------
    wavelengths_nm : (n,) strictly increasing, nm
    values : (..., n)

    Returns
    -------
    (..., 31)
    """
    grid = np.asarray(wavelengths_nm, dtype=float)
    table = np.asarray(values, dtype=float)
    if grid.ndim != 1 or grid.size < 2 or np.any(np.diff(grid) <= 0):
        raise ValueError(_("wavelengths must be a strictly increasing list of at least two values"))
    flat = table.reshape(-1, grid.size)
    out = np.stack([np.interp(WAVELENGTHS_NM, grid, row) for row in flat])
    return out.reshape(*table.shape[:-1], BANDS)
