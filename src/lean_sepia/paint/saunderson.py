"""The paint–air surface: Saunderson's correction, and the sheen that decides how much of it is seen.

Source: Saunderson, J. Opt. Soc. Am. 32 (1942); k1 and k2 as commonly used for n ≈ 1.5. The shares `g` of the
surface reflection that reach the eye are common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray

K1, K2 = 0.04, 0.6

SHEEN = {"flat": 1.0, "satin": 0.5, "gloss": 0.1, "wet": 0.1, "metallic": 0.5}
"""Share g of the surface reflection that reaches the eye, by finish of bare paint (practice)."""

UNDER_VARNISH = {"flat": 0.8, "satin": 0.5, "gloss": 0.1, "wet": 0.1}
"""The same under a varnish of that sheen: flat clear over bare flat paint darkens it a little (practice)."""


def through_surface(
    R_i: npt.ArrayLike, g: npt.ArrayLike = 1.0, k1: npt.ArrayLike = K1, k2: npt.ArrayLike = K2
) -> FloatArray:
    """Measured reflectance (...) of internal reflectance R_i (...): g·k1 + (1−k1)(1−k2)R_i/(1−k2·R_i)."""
    R_i, k1, k2 = np.asarray(R_i, dtype=float), np.asarray(k1), np.asarray(k2)
    return np.asarray(g) * k1 + (1 - k1) * (1 - k2) * R_i / (1 - k2 * R_i)


def into_paint(
    R: npt.ArrayLike, g: npt.ArrayLike = 1.0, k1: npt.ArrayLike = K1, k2: npt.ArrayLike = K2
) -> FloatArray:
    """Internal reflectance (...) of a measured one; readings no surface can give become the nearest one."""
    k1, k2 = np.asarray(k1), np.asarray(k2)
    beyond = np.asarray(R, dtype=float) - np.asarray(g) * k1
    R_i = beyond / ((1 - k1) * (1 - k2) + k2 * beyond)
    return np.clip(R_i, 0.0, 1.0)


@dataclass(frozen=True, eq=False)
class Surface:
    """The surface of one coat, or of many: g, k1 and k2, each one number or of shape (...)."""

    g: FloatArray | float = SHEEN["flat"]
    k1: FloatArray | float = K1
    k2: FloatArray | float = K2

    def under(self, varnish: str | None) -> Surface:
        """The same under a final varnish: only its sheen is another. Itself where there is none."""
        return self if varnish is None else replace(self, g=UNDER_VARNISH[varnish])

    def seen(self, R_i: npt.ArrayLike) -> FloatArray:
        """Measured reflectance (..., 31) of internal reflectance (..., 31)."""
        return through_surface(R_i, *(np.asarray(value)[..., None] for value in (self.g, self.k1, self.k2)))

    def inwards(self, R: npt.ArrayLike) -> FloatArray:
        """Internal reflectance (..., 31) of a measured one."""
        return into_paint(R, *(np.asarray(value)[..., None] for value in (self.g, self.k1, self.k2)))
