"""The paint–air surface: Saunderson's correction, and the sheen that decides how much of it is seen.

Source: Saunderson, J. Opt. Soc. Am. 32 (1942); k1 and k2 as commonly used for n ≈ 1.5. The shares `g` of the
surface reflection that reach the eye are common practice, no source.
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray

K1, K2 = 0.04, 0.6

SHEEN = {"flat": 1.0, "satin": 0.5, "gloss": 0.1, "wet": 0.1, "metallic": 0.5}
"""Share g of the surface reflection that reaches the eye, by finish (practice)."""


def through_surface(R_i: npt.ArrayLike, g: npt.ArrayLike = 1.0, k1: float = K1, k2: float = K2) -> FloatArray:
    """Measured reflectance (...) of internal reflectance R_i (...): g·k1 + (1−k1)(1−k2)R_i/(1−k2·R_i)."""
    R_i = np.asarray(R_i, dtype=float)
    return np.asarray(g) * k1 + (1 - k1) * (1 - k2) * R_i / (1 - k2 * R_i)


def into_paint(R: npt.ArrayLike, g: npt.ArrayLike = 1.0, k1: float = K1, k2: float = K2) -> FloatArray:
    """Internal reflectance (...) of a measured one; readings no surface can give become the nearest one."""
    beyond = np.asarray(R, dtype=float) - np.asarray(g) * k1
    R_i = beyond / ((1 - k1) * (1 - k2) + k2 * beyond)
    return np.clip(R_i, 0.0, 1.0)
