"""What distance does to a colour: air between takes contrast away, and by custom small models are painted lighter.

Contrast falls with exp(−3.912·d/V), V the distance at which 2 % of it are left: Koschmieder, Beitr. Phys. freien Atm. 12 (1924). The
colour of the horizon and the share of white are common practice without a source.
"""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import lab_from_xyz, xyz_from_lab

HORIZON = (86.0, -1.0, -4.0)
"""L*a*b* of the air at the horizon by day (practice)."""

_WHITE = (100.0, 0.0, 0.0)
_LEFT_AT_V = 3.912  # −ln 0.02


def kept_through_air(distance_m: float, sight_km: float) -> float:
    """The share of contrast that is left over a distance, where objects are lost from sight at so many kilometres.

    >>> round(1 - kept_through_air(0.3 * 96, 10), 3), round(1 - kept_through_air(0.3 * 96, 50), 3)
    (0.011, 0.002)
    """
    return math.exp(-_LEFT_AT_V * distance_m / (1000 * sight_km))


def through_air(lab: npt.ArrayLike, kept: float) -> FloatArray:
    """L*a*b* (..., 3) of a colour of which a share of the contrast is left, drawn towards the horizon in linear XYZ."""
    return _drawn_towards(lab, HORIZON, 1 - kept)


def lightened(lab: npt.ArrayLike, share: float) -> FloatArray:
    """L*a*b* (..., 3) of a colour with a share of white, as if that much of the area were white."""
    return _drawn_towards(lab, _WHITE, share)


def _drawn_towards(lab: npt.ArrayLike, goal: tuple[float, float, float], share: float) -> FloatArray:
    xyz = xyz_from_lab(np.asarray(lab, dtype=float))
    return lab_from_xyz(xyz + share * (xyz_from_lab(np.array(goal)) - xyz))
