"""Kubelka–Munk: reflectance of a paint layer from its absorption K and scattering S.

All reflectances here are internal: the paint–air surface is `saunderson`'s matter. K and S are per film unit.
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray

_TINY = 1e-12


def opaque_reflectance(K: npt.ArrayLike, S: npt.ArrayLike) -> FloatArray:
    """R_inf (...) of an infinitely thick layer; 1 where nothing absorbs, 0 where nothing scatters.

    Source: Kubelka and Munk, Z. techn. Physik 12 (1931); R_inf = 1 + K/S − √((K/S)² + 2K/S),
    written so that K = 0 and S = 0 need no special case.

    >>> round(float(opaque_reflectance(0.5, 1.0)), 6)
    0.381966
    """
    K, S = np.asarray(K, dtype=float), np.asarray(S, dtype=float)
    total = K + S + np.sqrt(K * (K + 2 * S))
    return np.where(total > 0, S / np.maximum(total, _TINY), 1.0)


def ratio_of_opaque(R_inf: npt.ArrayLike) -> FloatArray:
    """K/S (...) of an opaque layer with internal reflectance R_inf (...) in (0, 1]."""
    R = np.asarray(R_inf, dtype=float)
    return (1 - R) ** 2 / (2 * np.maximum(R, _TINY))


def layer(K: npt.ArrayLike, S: npt.ArrayLike, X: npt.ArrayLike) -> tuple[FloatArray, FloatArray]:
    """Reflectance R_0 and transmittance T (...) of a free layer of thickness X.

    Source: Kubelka, J. Opt. Soc. Am. 38 (1948), eqs. 25–27, with γ = √(K(K+2S)) in place of bS so that
    layers without scattering (Beer's law) and without absorption are ordinary cases.
    """
    K, S, X = np.asarray(K, dtype=float), np.asarray(S, dtype=float), np.asarray(X, dtype=float)
    gamma = np.sqrt(K * (K + 2 * S))
    depth = gamma * X
    # tanh(γX)/γ → X as γ → 0
    tau = np.where(gamma > 1e-9, np.tanh(depth) / np.maximum(gamma, _TINY), X)
    denominator = (K + S) * tau + 1
    T = 1 / (np.cosh(np.minimum(depth, 700.0)) * denominator)
    return S * tau / denominator, T


def over_ground(K: npt.ArrayLike, S: npt.ArrayLike, X: npt.ArrayLike, R_g: npt.ArrayLike) -> FloatArray:
    """Internal reflectance (...) of a layer of thickness X over a ground of internal reflectance R_g.

    Source: Kubelka (1948), eq. 30: R = R_0 + T² R_g / (1 − R_0 R_g).
    """
    return over_film(*layer(K, S, X), np.asarray(R_g, dtype=float))


def over_film(R_0: FloatArray, T: FloatArray, R_g: FloatArray) -> FloatArray:
    """The same of a layer whose reflectance R_0 and transmittance T (...) alone are known."""
    return R_0 + T**2 * R_g / np.maximum(1 - R_0 * R_g, _TINY)


def scattering_from_drawdown(
    R_inf: npt.ArrayLike, R_black: npt.ArrayLike, R_g: npt.ArrayLike, X: float
) -> FloatArray:
    """S (...) of a paint from its opaque reflectance and that of one film of thickness X over a dark ground.

    Source: Kubelka (1948), eq. 36: b S X = arcoth((a − R)/b) − arcoth((a − R_g)/b). Readings that no film can
    give (at or beyond R_inf, at or below the ground) are drawn to the nearest possible ones.
    """
    opaque = np.clip(np.asarray(R_inf, dtype=float), 1e-4, 1 - 1e-6)
    ground = np.asarray(R_g, dtype=float)
    lower, upper = np.minimum(ground, opaque), np.maximum(ground, opaque)
    span = upper - lower
    R = np.clip(np.asarray(R_black, dtype=float), lower + 1e-3 * span, upper - 1e-3 * span)
    b = (1 / opaque - opaque) / 2

    # a + b = 1/R_inf and a − b = R_inf, so arcoth((a − R)/b) is half the logarithm of their ratio.
    def arcoth(value: FloatArray) -> FloatArray:
        return 0.5 * np.log((1 / opaque - value) / np.maximum(np.abs(opaque - value), 1e-9))

    return np.maximum((arcoth(R) - arcoth(ground)) / (b * X), 1e-4)
