"""The CIEDE2000 colour difference (ISO/CIE 11664-6)."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray

_25_7 = 25.0**7


def delta_e00(lab_1: npt.ArrayLike, lab_2: npt.ArrayLike) -> FloatArray:
    """CIEDE2000 difference (...) of two L*a*b* arrays (..., 3) that broadcast, k_L = k_C = k_H = 1.

    Source: Sharma, Wu, Dalal, "The CIEDE2000 color-difference formula", Color Res. Appl. 30 (2005).

    >>> round(float(delta_e00([50, 2.6772, -79.7751], [50, 0, -82.7485])), 4)
    2.0425
    """
    return of_parts00(delta_parts00(lab_1, lab_2))


def of_parts00(parts: FloatArray) -> FloatArray:
    """The difference (...) that its terms (..., 4) make."""
    return np.sqrt(
        np.maximum(parts[..., 0] ** 2 + parts[..., 1] ** 2 + parts[..., 2] ** 2 + parts[..., 3], 0.0)
    )


def delta_parts00(lab_1: npt.ArrayLike, lab_2: npt.ArrayLike) -> FloatArray:
    """The terms of CIEDE2000, signed as second minus first.

    Returns
    -------
    (..., 4): ΔL′/S_L, ΔC′/S_C, ΔH′/S_H and the rotation term R_T·ΔC′/S_C·ΔH′/S_H
    """
    one, two = np.asarray(lab_1, dtype=float), np.asarray(lab_2, dtype=float)
    L1, a1, b1 = one[..., 0], one[..., 1], one[..., 2]
    L2, a2, b2 = two[..., 0], two[..., 1], two[..., 2]
    C_mean = (np.hypot(a1, b1) + np.hypot(a2, b2)) / 2
    C7 = C_mean**7
    G = 0.5 * (1 - np.sqrt(C7 / (C7 + _25_7)))
    a1p, a2p = (1 + G) * a1, (1 + G) * a2
    C1p, C2p = np.hypot(a1p, b1), np.hypot(a2p, b2)
    h1p = np.degrees(np.arctan2(b1, a1p)) % 360
    h2p = np.degrees(np.arctan2(b2, a2p)) % 360

    grey = C1p * C2p == 0
    dL = L2 - L1
    dC = C2p - C1p
    dh = h2p - h1p
    dh = np.where(dh > 180, dh - 360, np.where(dh < -180, dh + 360, dh))
    dh = np.where(grey, 0.0, dh)
    dH = 2 * np.sqrt(C1p * C2p) * np.sin(np.radians(dh) / 2)

    L_mean = (L1 + L2) / 2
    Cp_mean = (C1p + C2p) / 2
    h_sum = h1p + h2p
    far = np.abs(h1p - h2p) > 180
    h_mean = np.where(far, np.where(h_sum < 360, h_sum + 360, h_sum - 360), h_sum) / 2
    h_mean = np.where(grey, h_sum, h_mean)

    T = (
        1
        - 0.17 * np.cos(np.radians(h_mean - 30))
        + 0.24 * np.cos(np.radians(2 * h_mean))
        + 0.32 * np.cos(np.radians(3 * h_mean + 6))
        - 0.20 * np.cos(np.radians(4 * h_mean - 63))
    )
    d_theta = 30 * np.exp(-(((h_mean - 275) / 25) ** 2))
    Cp7 = Cp_mean**7
    R_C = 2 * np.sqrt(Cp7 / (Cp7 + _25_7))
    L50 = (L_mean - 50) ** 2
    S_L = 1 + 0.015 * L50 / np.sqrt(20 + L50)
    S_C = 1 + 0.045 * Cp_mean
    S_H = 1 + 0.015 * Cp_mean * T
    R_T = -np.sin(np.radians(2 * d_theta)) * R_C
    tL, tC, tH = dL / S_L, dC / S_C, dH / S_H
    return np.stack([tL, tC, tH, R_T * tC * tH], axis=-1)
