"""A reflectance for a colour that is only known as Lab: the smoothest one within bounds.

Method: least slope squared (Burns, "Numerical methods for smoothest reflectance reconstruction", Color Res.
Appl. 45 (2020)), with the bounds kept by bounded least squares rather than by a change of variable, so that
wherever a reflectance with that colour exists within them it is found, and elsewhere the nearest.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance, xyz_from_lab
from lean_sepia.colour.lights import weights, white
from lean_sepia.colour.spectrum import BANDS

LOWEST, HIGHEST = 0.001, 0.999
_FOUND_DE00 = 0.1
_COLOUR_WEIGHT = 3.0e3  # against slopes of the order 0.05: leaves about 0.01 ΔE00


@dataclass(frozen=True)
class Estimate:
    """An estimated reflectance (31,) and how far its colour is from the one asked for."""

    reflectance: FloatArray
    miss_de00: float

    @property
    def found(self) -> bool:
        """Whether a reflectance with the stated colour exists within the bounds."""
        return self.miss_de00 <= _FOUND_DE00


@cache
def _slopes() -> FloatArray:
    return np.diff(np.eye(BANDS), axis=0)


@cache
def _unbounded() -> FloatArray:
    """Matrix (31, 3) from XYZ to the smoothest reflectance when no bound is met (Lagrange multipliers)."""
    D, A = _slopes(), weights().T
    system = np.block([[2 * D.T @ D, A.T], [A, np.zeros((3, 3))]])
    right = np.vstack([np.zeros((BANDS, 3)), np.eye(3)])
    return np.linalg.solve(system, right)[:BANDS]


def estimate_reflectance(lab: npt.ArrayLike, lowest: float = LOWEST, highest: float = HIGHEST) -> Estimate:
    """Smoothest reflectance in [lowest, highest] with the colour L*a*b* (3,), D65/2°.

    >>> bool(np.allclose(estimate_reflectance([50, 0, 0]).reflectance, 0.1842, atol=1e-3))
    True
    """
    target = np.asarray(lab, dtype=float)
    xyz = xyz_from_lab(target)
    reflectance = _unbounded() @ xyz
    if reflectance.min() < lowest or reflectance.max() > highest:
        from scipy.optimize import lsq_linear  # a third of a second, which no start should pay

        # Rows are scaled so that equal residuals are roughly equal colour differences at this lightness.
        scale = _COLOUR_WEIGHT / np.maximum(np.maximum(xyz / white(), 0) ** (2 / 3), 0.02)
        matrix = np.vstack([_slopes(), scale[:, None] * weights().T])
        right = np.concatenate([np.zeros(BANDS - 1), scale * xyz])
        reflectance = lsq_linear(matrix, right, bounds=(lowest, highest), method="bvls").x
    miss = float(delta_e00(lab_from_reflectance(reflectance), target))
    return Estimate(np.clip(reflectance, lowest, highest), miss)
