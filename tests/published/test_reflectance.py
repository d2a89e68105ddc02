"""Estimated reflectances of real surface colours: exact wherever one exists."""

import colour
import numpy as np

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance, lab_from_xyz
from lean_sepia.colour.lights import white
from lean_sepia.colour.reflectance import estimate_reflectance


def _munsell_real(count: int) -> np.ndarray:
    """Lab, D65, of a spread of the real Munsell renotations (Newhall, Nickerson, Judd 1943, from colour-science)."""
    rows = colour.MUNSELL_COLOURS["Munsell Colours Real"]
    chosen = rows[:: max(1, len(rows) // count)]
    c = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["C"]
    xyY = np.array([row[1] for row in chosen])
    xyz = colour.xyY_to_XYZ(np.column_stack([xyY[:, :2], xyY[:, 2] / 100]))
    adapted = colour.chromatic_adaptation(
        xyz, colour.xy_to_XYZ(c), white(), method="Von Kries", transform="Bradford"
    )
    return lab_from_xyz(adapted)


def test_munsell_renotations_have_a_reflectance():
    """About 97 % of them do within 0.001–0.999; those are met to 0.1 ΔE00."""
    labs = _munsell_real(240)
    misses = np.array([estimate_reflectance(lab).miss_de00 for lab in labs])
    assert np.mean(misses <= 0.1) > 0.93


def test_estimates_stay_in_bounds_and_are_honest_about_their_miss():
    for lab in ([50, 60, 40], [95, -1, 3], [5, 1, 1], [30, 20, -60], [60, -70, 60]):
        estimate = estimate_reflectance(lab)
        assert estimate.reflectance.min() >= 0.001 - 1e-12
        assert estimate.reflectance.max() <= 0.999 + 1e-12
        real = float(delta_e00(lab_from_reflectance(estimate.reflectance), lab))
        assert abs(real - estimate.miss_de00) < 0.02


def test_smoothest_grey_is_flat():
    R = estimate_reflectance([60, 0, 0]).reflectance
    assert np.ptp(R) < 2e-3
