"""Ink printed on clear film: it takes light away and gives none back, so what lies below shows through it."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from lean_sepia.paint.handling.bodies import is_white
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.paint import Mixture
from lean_sepia.paint.saunderson import SHEEN, Surface

_ON_WHITE = (96.0, 0.0, 2.0)
"""What an ink is seen on when its colour is told: printing white, L*a*b* (practice)."""
_LEAST_K, _NO_S = 1e-7, 1e-6  # their ratio is asked for


@lru_cache(maxsize=256)
def ink_of_lab(lab: tuple[float, float, float], finish: str = "flat") -> Mixture:
    """An ink that has a colour L*a*b* where it lies on printing white, as one film X = 1 without scattering.

    Over a ground of internal reflectance R_g it leaves R_g·exp(-2K): Kubelka and Munk, Z. Tech. Phys. 12 (1931), with S → 0.
    """
    own, white = internal_from_lab(lab, SHEEN[finish]), internal_from_lab(_ON_WHITE, SHEEN[finish])
    K = np.maximum(np.log(white.R_i / np.maximum(own.R_i, 1e-4)) / 2, _LEAST_K)
    return Mixture(K, np.full_like(K, _NO_S), Surface(own.g))


def hides_as_printed(lab: tuple[float, float, float]) -> bool:
    """Whether a printed colour has white in it by itself: white ink does (practice)."""
    return is_white(lab)
