"""K and S of a paint from what its owner can measure: spectra, two colours, or one.

Every function returns K and S per film unit, and says how well they are known by its name.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.colour.reflectance import HIGHEST, LOWEST, Estimate, estimate_reflectance
from lean_sepia.colour.spectrum import BANDS
from lean_sepia.paint.film import thickness_to_hide
from lean_sepia.paint.kubelka_munk import (
    opaque_reflectance,
    over_ground,
    ratio_of_opaque,
    scattering_from_drawdown,
)
from lean_sepia.paint.paint import Mixture
from lean_sepia.paint.saunderson import K1, K2, Surface, into_paint, through_surface

Constants = tuple[FloatArray, FloatArray]

STRONGEST = 4.0
"""The highest K of any band, per film unit. The spectrum that is estimated from one colour comes near nothing in some bands, where
K/S would stain tens of times too strongly (practice: a part of black in nine of white gives L* 40 to 76)."""
_NEVER = 200.0  # film units: what does not hide in so many is told by them


@dataclass(frozen=True)
class SurfaceColour:
    """Internal reflectance (31,) behind a measured colour, the sheen it must have had, and the miss."""

    R_i: FloatArray
    g: float
    miss_de00: float


def _estimate_at(lab: npt.ArrayLike, g: float, k1: float, k2: float) -> Estimate:
    lowest, highest = (float(through_surface(R_i, g, k1, k2)) for R_i in (LOWEST, HIGHEST))
    return estimate_reflectance(lab, lowest, highest)


def internal_from_lab(lab: npt.ArrayLike, g: float = 1.0, k1: float = K1, k2: float = K2) -> SurfaceColour:
    """Internal reflectance of a surface known by one colour L*a*b* (3,) measured at sheen g.

    A flat surface reflects at least k1 everywhere, so a very dark or very strong colour cannot have been
    flat: then the nearest lower g for which the colour exists is used. The caller compares g and says so.
    """
    best = _estimate_at(lab, g, k1, k2)
    if not best.found and g > 0:
        lowest = _estimate_at(lab, 0.0, k1, k2)
        if lowest.miss_de00 < best.miss_de00:
            low, high, best_low = 0.0, g, lowest
            while high - low > 0.01:
                middle = (low + high) / 2
                trial = _estimate_at(lab, middle, k1, k2)
                if trial.miss_de00 <= max(0.1, lowest.miss_de00 + 0.01):
                    low, best_low = middle, trial
                else:
                    high = middle
            g, best = low, best_low
    return SurfaceColour(np.clip(into_paint(best.reflectance, g, k1, k2), 1e-4, 1 - 1e-4), g, best.miss_de00)


def one_constant(R_i: FloatArray, coats: float) -> Constants:
    """K and S (31,) from the opaque internal reflectance (31,) alone: S so that the paint just hides in so many neat coats.

    No band's K passes `STRONGEST`: where it would, S is lower, so that the masstone stays as it is. What hides as a film does not
    follow from its masstone; the rule was measured on spectral paints (`benchmarks/bottles.py`).
    """
    ratio = ratio_of_opaque(R_i)
    thickness = thickness_to_hide(Mixture(ratio, np.ones(BANDS), Surface()), most=_NEVER) or _NEVER
    S = np.minimum(thickness / coats, STRONGEST / ratio)
    return ratio * S, S


def from_drawdown(R_i: FloatArray, R_film: FloatArray, R_ground: FloatArray, X: float) -> Constants:
    """K and S from internal spectra (31,) of the masstone and of one film over a dark ground."""
    S = scattering_from_drawdown(R_i, R_film, R_ground, X)
    return ratio_of_opaque(R_i) * S, S


def from_tint(R_i: FloatArray, R_tint: FloatArray, white: Constants, white_parts: float) -> Constants:
    """K and S from internal spectra (31,) of the masstone and of 1 part in `white_parts` parts of a white.

    Duncan's rule solved for S. Where masstone and tint have nearly the same K/S the wavelength says nothing,
    and S is taken from its neighbours.
    """
    Q_masstone, Q_tint = ratio_of_opaque(R_i), ratio_of_opaque(R_tint)
    K_w, S_w = white
    step = Q_masstone - Q_tint
    telling = np.abs(step) > 0.05 * np.maximum(Q_masstone, Q_tint)
    raw = white_parts * (Q_tint * S_w - K_w) / np.where(telling, step, 1.0)
    telling &= raw > 0
    bands = np.arange(BANDS)
    S = np.interp(bands, bands[telling], raw[telling]) if telling.any() else S_w.copy()
    S = np.clip(S, 0.02 * S_w, 50 * S_w)
    return Q_masstone * S, S


_RATIO_KNOTS, _S_KNOTS = 9, 4


@cache
def _bases() -> tuple[FloatArray, FloatArray]:
    """Piecewise-linear bases (31, knots) for the corrections of log K/S and of log S."""

    def hats(count: int) -> FloatArray:
        knots = np.linspace(0, BANDS - 1, count)
        return np.stack([np.interp(np.arange(BANDS), knots, row) for row in np.eye(count)], axis=1)

    return hats(_RATIO_KNOTS), hats(_S_KNOTS)


def _fit_two_constants(
    start: Constants,
    surface: Surface,
    predict: Callable[[Constants], list[FloatArray]],
    seen: list[npt.ArrayLike],
) -> Constants:
    """Smooth positive corrections to K and S so that the predicted reflectances have the Labs `seen`."""
    from scipy.optimize import least_squares  # a third of a second, which no start should pay

    ratio_basis, s_basis = _bases()
    K_0, S_0 = start
    target = np.array(seen, dtype=float)

    def constants(theta: FloatArray) -> Constants:
        S = S_0 * np.exp(np.clip(theta[..., _RATIO_KNOTS:] @ s_basis.T, -6, 6))
        return K_0 / S_0 * np.exp(np.clip(theta[..., :_RATIO_KNOTS] @ ratio_basis.T, -6, 6)) * S, S

    def residual(theta: FloatArray) -> FloatArray:
        """Of one or many sets of parameters (..., knots)."""
        reflectances = np.stack(predict(constants(theta)), axis=-2)
        labs = lab_from_reflectance(surface.seen(reflectances))
        rough = 0.3 * np.concatenate(
            [np.diff(theta[..., :_RATIO_KNOTS]), np.diff(theta[..., _RATIO_KNOTS:])], axis=-1
        )
        misses = (labs - target).reshape(*theta.shape[:-1], -1)
        return np.concatenate([misses, 0.05 * theta, rough], axis=-1)

    def slopes(theta: FloatArray) -> FloatArray:
        step = 1e-6
        many = residual(theta + step * np.eye(theta.size))
        return np.asarray((many - residual(theta)).T / step)

    start_at = np.zeros(_RATIO_KNOTS + _S_KNOTS)
    answer = least_squares(residual, start_at, jac=slopes, method="trf", max_nfev=60)
    return constants(answer.x)


def from_lab_films(
    start: Constants,
    surface: Surface,
    masstone: npt.ArrayLike,
    films: Sequence[tuple[npt.ArrayLike, FloatArray]],
    X: float,
) -> Constants:
    """K and S fitted jointly to the masstone's Lab and to Labs of one film over known grounds.

    Parameters
    ----------
    start : one-constant K and S of the same paint
    films : pairs of L*a*b* (3,) and internal reflectance of the ground (31,)
    X : thickness of the film in film units
    """

    def predict(constants: Constants) -> list[FloatArray]:
        K, S = constants
        return [opaque_reflectance(K, S), *(over_ground(K, S, X, ground) for _, ground in films)]

    return _fit_two_constants(start, surface, predict, [masstone, *(lab for lab, _ in films)])


def from_lab_tint(
    start: Constants,
    surface: Surface,
    masstone: npt.ArrayLike,
    tint: npt.ArrayLike,
    white: Constants,
    white_parts: float,
) -> Constants:
    """K and S fitted jointly to the Labs of the masstone and of 1 part in `white_parts` parts of a white."""

    def predict(constants: Constants) -> list[FloatArray]:
        K, S = constants
        mixed = opaque_reflectance(K + white_parts * white[0], S + white_parts * white[1])
        return [opaque_reflectance(K, S), mixed]

    return _fit_two_constants(start, surface, predict, [masstone, tint])
