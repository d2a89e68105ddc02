"""sRGB (IEC 61966-2-1), the colour space of screens and of most picture files."""

from __future__ import annotations

from functools import cache

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray, Image8
from lean_sepia.colour.lab import lab_from_xyz, xyz_from_lab
from lean_sepia.colour.lights import white

# Rec. ITU-R BT.709 primaries and the white of IEC 61966-2-1, as chromaticities.
_PRIMARIES_XY = np.array([[0.64, 0.33], [0.30, 0.60], [0.15, 0.06]])
_WHITE_XY = np.array([0.3127, 0.3290])


def _xyz_of_xy(xy: FloatArray) -> FloatArray:
    return np.stack([xy[..., 0], xy[..., 1], 1 - xy[..., 0] - xy[..., 1]], axis=-1) / xy[..., 1:2]


@cache
def rgb_to_xyz_matrix() -> FloatArray:
    """Matrix (3, 3) from linear sRGB to XYZ, Y = 1 for white.

    The standard's chromaticities; the white is then scaled, by less than 2 parts in 10 000, to the D65
    of the CIE's tables, so that grey pixels have a* = b* = 0 exactly.
    """
    primaries = _xyz_of_xy(_PRIMARIES_XY).T
    white_xyz = _xyz_of_xy(_WHITE_XY)
    matrix = primaries * np.linalg.solve(primaries, white_xyz)
    matrix *= (white() / white_xyz)[:, None]
    matrix.setflags(write=False)
    return matrix


@cache
def xyz_to_rgb_matrix() -> FloatArray:
    """Matrix (3, 3) from XYZ to linear sRGB."""
    matrix = np.linalg.inv(rgb_to_xyz_matrix())
    matrix.setflags(write=False)
    return matrix


def linear_from_srgb(encoded: npt.ArrayLike) -> FloatArray:
    """Linear light (...) in 0–1 of encoded sRGB (...) in 0–1."""
    value = np.asarray(encoded, dtype=float)
    return np.where(value <= 0.04045, value / 12.92, ((np.maximum(value, 0) + 0.055) / 1.055) ** 2.4)


def srgb_from_linear(linear: npt.ArrayLike) -> FloatArray:
    """Encoded sRGB (...) of linear light (...); values outside 0–1 are kept, not clipped."""
    value = np.asarray(linear, dtype=float)
    return np.where(value <= 0.0031308, value * 12.92, 1.055 * np.maximum(value, 0) ** (1 / 2.4) - 0.055)


def screen_pixels(xyz: FloatArray) -> Image8:
    """8-bit encoded sRGB (..., 3) of XYZ (..., 3); what a screen cannot show is brought to its edge."""
    encoded = srgb_from_linear(linear_from_xyz(xyz))
    return np.asarray((np.clip(encoded, 0, 1) * 255).round(), dtype=np.uint8)


def xyz_from_linear(linear: npt.ArrayLike) -> FloatArray:
    """XYZ (..., 3) of linear sRGB (..., 3)."""
    return np.asarray(linear, dtype=float) @ rgb_to_xyz_matrix().T


def linear_from_xyz(xyz: npt.ArrayLike) -> FloatArray:
    """Linear sRGB (..., 3) of XYZ (..., 3), not clipped."""
    return np.asarray(xyz, dtype=float) @ xyz_to_rgb_matrix().T


def lab_from_srgb(encoded: npt.ArrayLike) -> FloatArray:
    """L*a*b* (..., 3), D65/2°, of encoded sRGB (..., 3) in 0–1."""
    return lab_from_xyz(xyz_from_linear(linear_from_srgb(encoded)))


def srgb_from_lab(lab: npt.ArrayLike) -> FloatArray:
    """Encoded sRGB (..., 3) of L*a*b* (..., 3), not clipped: outside 0–1 the screen cannot show it."""
    return srgb_from_linear(linear_from_xyz(xyz_from_lab(lab)))


def screen_rgb(lab: npt.ArrayLike) -> tuple[tuple[int, int, int], bool]:
    """8-bit sRGB of one L*a*b* (3,) for the screen, and whether the screen can show it truly."""
    encoded = srgb_from_lab(lab)
    exact = bool(np.all((encoded > -0.004) & (encoded < 1.004)))
    red, green, blue = (np.clip(encoded, 0, 1) * 255).round().astype(int).tolist()
    return (red, green, blue), exact
