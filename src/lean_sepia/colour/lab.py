"""CIE 1976 L*a*b* (ISO/CIE 11664-4)."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lights import white, xyz_from_reflectance
from lean_sepia.errors import ColourError
from lean_sepia.language import _

_EPSILON = 216 / 24389
_KAPPA = 24389 / 27
_LAB_OF_F = np.array([[0.0, 116.0, 0.0], [500.0, -500.0, 0.0], [0.0, 200.0, -200.0]])


def lab_from_xyz(xyz: npt.ArrayLike, white_xyz: npt.ArrayLike | None = None) -> FloatArray:
    """L*a*b* (..., 3), L* 0–100, of XYZ (..., 3) with Y = 1 for white; the white is D65 unless given."""
    reference = white() if white_xyz is None else np.asarray(white_xyz, dtype=float)
    ratio = np.asarray(xyz, dtype=float) / reference
    f = np.where(ratio > _EPSILON, np.cbrt(ratio), (_KAPPA * ratio + 16) / 116)
    x, y, z = f[..., 0], f[..., 1], f[..., 2]
    return np.stack([116 * y - 16, 500 * (x - y), 200 * (y - z)], axis=-1)


def lab_slopes(xyz: npt.ArrayLike, white_xyz: npt.ArrayLike | None = None) -> FloatArray:
    """Slopes (..., 3, 3) of L*a*b* in XYZ (..., 3): the derivative of `lab_from_xyz`."""
    reference = white() if white_xyz is None else np.asarray(white_xyz, dtype=float)
    ratio = np.asarray(xyz, dtype=float) / reference
    slope = np.where(ratio > _EPSILON, np.maximum(ratio, _EPSILON) ** (-2 / 3) / 3, _KAPPA / 116)
    return _LAB_OF_F * (slope / reference)[..., None, :]


def xyz_from_lab(lab: npt.ArrayLike, white_xyz: npt.ArrayLike | None = None) -> FloatArray:
    """XYZ (..., 3), Y = 1 for white, of L*a*b* (..., 3); the inverse of `lab_from_xyz`."""
    reference = white() if white_xyz is None else np.asarray(white_xyz, dtype=float)
    table = np.asarray(lab, dtype=float)
    y = (table[..., 0] + 16) / 116
    f = np.stack([y + table[..., 1] / 500, y, y - table[..., 2] / 200], axis=-1)
    ratio = np.where(f**3 > _EPSILON, f**3, (116 * f - 16) / _KAPPA)
    return ratio * reference


def lab_from_reflectance(reflectance: npt.ArrayLike, light: str = "D65") -> FloatArray:
    """L*a*b* (..., 3) of reflectances (..., 31) in 0–1 under a light, adapted to that light's white."""
    return lab_from_xyz(xyz_from_reflectance(reflectance, light), white(light))


def chroma(lab: npt.ArrayLike) -> FloatArray:
    """C*ab (...) of L*a*b* (..., 3)."""
    table = np.asarray(lab, dtype=float)
    return np.hypot(table[..., 1], table[..., 2])


def hue_deg(lab: npt.ArrayLike) -> FloatArray:
    """Hue angle h_ab (...) in degrees, 0–360, of L*a*b* (..., 3)."""
    table = np.asarray(lab, dtype=float)
    return np.degrees(np.arctan2(table[..., 2], table[..., 1])) % 360


def checked_lab(values: npt.ArrayLike) -> FloatArray:
    """Return one stated colour (3,) if a surface could show it.

    Raises
    ------
    ColourError
        Not three finite numbers, L* outside 0–100, a* or b* outside ±128, or XYZ below zero.
    """
    lab = np.asarray(values, dtype=float)
    shown = ", ".join(f"{value:g}" for value in lab.ravel())
    if lab.shape != (3,) or not np.all(np.isfinite(lab)):
        raise ColourError(_("A colour is three numbers L*, a*, b*; found {0}.").format(shown or "nothing"))
    if not 0 <= lab[0] <= 100:
        raise ColourError(
            _("L* runs from 0 (black) to 100 (white); found {0:g}. Check the order L,a,b.").format(lab[0])
        )
    if np.any(np.abs(lab[1:]) > 128):
        raise ColourError(
            _("a* and b* of a surface lie between −128 and 128; found {0:g}, {1:g}.").format(lab[1], lab[2])
        )
    if np.any(xyz_from_lab(lab) < 0):
        raise ColourError(
            _("No surface has the colour L* {0:g}, a* {1:g}, b* {2:g}: too strong for its lightness.").format(
                lab[0], lab[1], lab[2]
            )
        )
    return lab
