"""L*a*b* with its chroma drawn in, so that equal steps are about equal to the eye in greys and in strong colours alike.

Chroma C becomes ln(1 + 0.045 C) / 0.045: the integral of 1 / S_C of CIEDE2000 (ISO/CIE 11664-6), hue as it is.
Means and spreads of colours that are far apart are taken in these coordinates.
"""

from __future__ import annotations

import numpy as np

from lean_sepia.arrays import FloatArray

_S_C = 0.045
_TINY = 1e-9
_MOST = (
    45.0  # the drawn-in chroma beyond which nothing is a surface; what grows from there would not be finite
)


def even_from_lab(lab: FloatArray) -> FloatArray:
    """Even coordinates (..., 3) of L*a*b* (..., 3)."""
    chroma = np.sqrt(lab[..., 1] ** 2 + lab[..., 2] ** 2 + _TINY)
    return _scaled(lab, np.log1p(_S_C * chroma) / (_S_C * chroma))


def lab_from_even(even: FloatArray) -> FloatArray:
    """L*a*b* (..., 3) of even coordinates (..., 3): the inverse of `even_from_lab` for all surfaces."""
    chroma = np.sqrt(even[..., 1] ** 2 + even[..., 2] ** 2 + _TINY)
    return _scaled(even, np.expm1(_S_C * np.minimum(chroma, _MOST)) / (_S_C * chroma))


def _scaled(table: FloatArray, times: FloatArray) -> FloatArray:
    found = np.empty_like(table)
    found[..., 0] = table[..., 0]
    found[..., 1] = table[..., 1] * times
    found[..., 2] = table[..., 2] * times
    return found
