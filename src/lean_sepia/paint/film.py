"""How thick a film is, in film units, and whether it hides what lies below.

X = 1 is one unthinned standard coat; how much a pass lays is in the table of tools.
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import BoolArray, FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.colour.lights import xyz_from_reflectance
from lean_sepia.paint.laying import Laying, Matter
from lean_sepia.paint.saunderson import into_paint
from lean_sepia.paint.tools import TOOLS

WHITE_GROUND, BLACK_GROUND = 0.80, 0.045
"""Measured flat reflectance of the two grounds of a hiding test."""

HIDES_RATIO, HIDES_DE00 = 0.98, 1.0  # contrast ratio criterion from memory; ISO 6504-3 measures it so
_LEAST_OF_MOST, _TRIED = 1e-4, 32  # steps of 1.35 over four decades, then of 1 % between two of them


def film_thickness(coats: float, thinner_share: float = 0.0, tool: str = "airbrush") -> float:
    """Film thickness X in film units of a number of coats with a thinner share in 0–1."""
    return coats * (1 - thinner_share) * TOOLS[tool].spread


def hiding(matter: Matter, X: npt.ArrayLike) -> tuple[FloatArray, FloatArray]:
    """Contrast ratio Y_black/Y_white (...) and ΔE00 (...) between the two grounds under films X (...) of a paint."""
    thickness = np.asarray(X, dtype=float)[..., None]
    black, white = (
        Laying(into_paint(ground), thickness).measured(matter) for ground in (BLACK_GROUND, WHITE_GROUND)
    )
    ratio = xyz_from_reflectance(black)[..., 1] / xyz_from_reflectance(white)[..., 1]
    return ratio, delta_e00(lab_from_reflectance(black), lab_from_reflectance(white))


def hides(matter: Matter, X: npt.ArrayLike) -> BoolArray:
    """Whether films X (...) hide both grounds: contrast ratio at least 0.98 and ΔE00 below 1."""
    ratio, de00 = hiding(matter, X)
    return np.asarray((ratio >= HIDES_RATIO) & (de00 < HIDES_DE00))


def thickness_to_hide(matter: Matter, most: float = 60.0) -> float | None:
    """Smallest X at which the film hides, to 1 %, or None where not even `most` film units do."""
    low, high = most * _LEAST_OF_MOST, most
    for _ in range(2):  # the second time between the two neighbours found the first time
        tried = np.geomspace(low, high, _TRIED)
        hiding_ones = np.flatnonzero(hides(matter, tried))
        if not len(hiding_ones):
            return None
        first = int(hiding_ones[0])
        low, high = float(tried[max(first - 1, 0)]), float(tried[first])
    return high
