"""Refining K and S of paints from swatches mixed of them.

The shelf's constants are taken as a belief, not as a fact: log K and log S of each paint may be off by a smooth curve,
by as much as its kind of knowledge leaves open. The swatches move that belief (most probable curves by Gauss–Newton, with
Student's t for swatches that contradict the others); what they do not speak of stays as it was. Logs keep K and S positive.
The method is Gaussian process regression with Laplace's approximation: Rasmussen & Williams, "Gaussian Processes for Machine
Learning" (2006), ch. 2 and 3.4; its widths are fitted to simulated bottles (`benchmarks/fitting.py`).
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cache

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_xyz, lab_slopes
from lean_sepia.colour.lights import weights
from lean_sepia.colour.spectrum import BANDS
from lean_sepia.errors import ShelfError
from lean_sepia.language import _, ngettext
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.paint import Knowledge, Mixture, Paint, Palette

READING_NOISE, SPECTRUM_NOISE = 0.25, 0.004
"""How far a reading of L*, a*, b*, or of a reflectance, is usually out (practice)."""

_RADIUS_OF_NOISE = 2.5  # nine tenths of a normal error in three dimensions lie within so many deviations
_SMALLEST = 1e-4
_COMPONENTS = 20
_FREEDOM = 12.0  # of Student's t: swatches beyond about three times the noise count less and less
_STEPS, _SETTLED = 25, 1e-4
_CONTRADICTS_DE00, _CONTRADICTS_TIMES = 4.0, 5.0


@dataclass(frozen=True)
class Doubt:
    """How far off K and S of a paint may be: standard deviations of the logs, and over how many bands they stay alike."""

    ratio: float
    scattering: float
    scattering_level: float
    reach: float
    together: bool
    """Whether K follows S: their ratio is what the masstone shows."""


DOUBTS = {
    Knowledge.SPECTRAL: Doubt(0.09, 0.09, 0.0, reach=10.0, together=False),
    Knowledge.TWO_CONSTANT: Doubt(0.15, 0.15, 0.15, reach=6.0, together=True),
    Knowledge.ONE_CONSTANT: Doubt(0.7, 0.12, 0.8, reach=5.0, together=True),
}
"""By knowledge (fitted to simulated bottles that differ from the shelf by up to 15 %)."""


@dataclass(frozen=True, eq=False)
class Swatch:
    """A painted mixture: shares by paint id, and what was read: L*a*b* (3,), or a reflectance (31,).

    laying : how it was laid; its colour is read at the paints' own sheen unless a varnish is named
    noise : standard deviation of the reading in each of L*, a*, b*
    """

    shares: tuple[tuple[str, float], ...]
    lab: FloatArray | None = None
    reflectance: FloatArray | None = None
    laying: Laying = OPAQUE
    noise: float = READING_NOISE

    @classmethod
    def read(
        cls, parts: Iterable[tuple[str, float]], lab: FloatArray, de00_90: float | None = None, laying: Laying = OPAQUE
    ) -> Swatch:  # fmt: skip
        """A swatch whose colour lies within `de00_90` of the truth nine times in ten; usual noise where that is not said."""
        noise = READING_NOISE if de00_90 is None else max(READING_NOISE, de00_90 / _RADIUS_OF_NOISE)
        return cls(tuple(parts), lab, laying=laying, noise=noise)


@dataclass(frozen=True, eq=False)
class Fit:
    """Refined paints, the ΔE00 (n,) of each swatch before, after, and when it is left out, and what stays open.

    doubt : by paint id, standard deviation (2, 31) of log K and log S that the swatches leave
    """

    paints: tuple[Paint, ...]
    before: FloatArray
    after: FloatArray
    left_out: FloatArray
    doubt: dict[str, FloatArray]

    @property
    def before_de00(self) -> float:
        """How far off the shelf's prediction of a swatch was, in the median."""
        return float(np.median(self.before))

    @property
    def after_de00(self) -> float:
        """How far off a swatch is predicted from the others, in the median."""
        return float(np.median(self.left_out))

    @property
    def gains(self) -> bool:
        """Whether a swatch is predicted better from the others than from the shelf as it was."""
        return self.after_de00 < self.before_de00

    def contradicting(self) -> list[int]:
        """Swatches that the others miss by far more than they miss each other."""
        usual = max(_CONTRADICTS_DE00, _CONTRADICTS_TIMES * self.after_de00)
        return np.flatnonzero(self.left_out > usual).tolist()


def fit_paints(
    paints: Sequence[Paint], swatches: Sequence[Swatch], belief: Callable[[Paint], FloatArray] | None = None
) -> Fit:  # fmt: skip
    """Refine the paints that occur in the swatches.

    belief : how a paint may differ from what the shelf says, as curves (2, 31, m) of log K and log S whose standard normal
    multiples are the belief; that of its knowledge where none is given

    Raises
    ------
    ShelfError
        No swatch, a paint that is not among `paints` or does not mix, or a swatch without a colour.
    """
    used = _used(paints, swatches)
    problem = _Problem(used, swatches, belief or (lambda paint: curves(DOUBTS[paint.knowledge])))
    start = problem.unmoved
    theta, hessian = problem.solve(start)
    K, S = problem.constants(theta)
    doubt = problem.doubt(theta.shape, hessian)
    refined = {
        paint.id: replace(
            paint,
            K=K[i],
            S=S[i],
            notes=(
                *paint.notes,
                ngettext("refined from {0} swatch", "refined from {0} swatches", problem.count(i)).format(
                    problem.count(i)
                ),
            ),
        )
        for i, paint in enumerate(used)
    }
    return Fit(
        tuple(refined.get(paint.id, paint) for paint in paints),
        problem.misses(start),
        problem.misses(theta),
        problem.left_out(theta, hessian),
        {paint.id: doubt[i] for i, paint in enumerate(used)},
    )


def _used(paints: Sequence[Paint], swatches: Sequence[Swatch]) -> list[Paint]:
    if not swatches:
        raise ShelfError(
            _("There is no swatch to learn from. Log at least one painted mixture with its colour.")
        )
    by_id = {paint.id: paint for paint in paints}
    names = dict.fromkeys(name for swatch in swatches for name, _unused in swatch.shares)
    for name in names:
        if name not in by_id:
            raise ShelfError(
                _("A swatch holds {0!r}, which is not on this shelf. Add it, or take the swatch out.").format(
                    name
                )
            )
        if not by_id[name].mixes:
            raise ShelfError(
                _("A swatch holds {0!r}, a {1} {2} paint, which is not mixed.").format(
                    name, by_id[name].finish, by_id[name].medium
                )
            )
    for number, swatch in enumerate(swatches, start=1):
        if swatch.lab is None and swatch.reflectance is None:
            raise ShelfError(_("Swatch {0} has no colour: give its lab or its R.").format(number))
    return [by_id[name] for name in names]


@cache
def curves(doubt: Doubt) -> FloatArray:
    """Curves (2, 31, 20) of log K and log S whose standard normal multiples are the belief."""
    bands = np.arange(BANDS)
    alike = np.exp(-0.5 * ((bands[:, None] - bands) / doubt.reach) ** 2)
    S = doubt.scattering**2 * alike + doubt.scattering_level**2
    ratio = doubt.ratio**2 * alike
    K, cross = (ratio + S, S) if doubt.together else (ratio, np.zeros_like(S))
    covariance = np.block([[K, cross], [cross.T, S]])
    values, vectors = np.linalg.eigh(covariance)
    best = np.argsort(-values)[:_COMPONENTS]
    scaled = vectors[:, best] * np.sqrt(np.maximum(values[best], 0))
    return np.asarray(scaled.reshape(2, BANDS, _COMPONENTS))


class _Problem:
    """Everything the fit needs of the swatches, as arrays."""

    def __init__(
        self, paints: Sequence[Paint], swatches: Sequence[Swatch], belief: Callable[[Paint], FloatArray]
    ) -> None:
        self._K0 = np.maximum([paint.K for paint in paints], _SMALLEST)
        self._S0 = np.maximum([paint.S for paint in paints], _SMALLEST)
        self._palette = Palette.of(paints)
        self._basis = np.stack([belief(paint) for paint in paints])
        index = {paint.id: i for i, paint in enumerate(paints)}
        self._shares = np.zeros((len(swatches), len(paints)))
        for row, swatch in zip(self._shares, swatches, strict=True):
            for name, share in swatch.shares:
                row[index[name]] += share
        self._shares /= self._shares.sum(axis=1, keepdims=True)
        self._swatches = swatches
        # A masstone is what one colour is known by: it is a reading like the others.
        self._anchor = np.array([paint.knowledge == Knowledge.ONE_CONSTANT for paint in paints])
        self._masstones = np.array([paint.masstone_lab() for paint in paints])

    @property
    def unmoved(self) -> FloatArray:
        """Parameters (p, m) of the paints as the shelf has them."""
        return np.zeros((len(self._K0), self._basis.shape[-1]))

    def count(self, paint: int) -> int:
        """How many swatches hold a paint."""
        return int((self._shares[:, paint] > 0).sum())

    def constants(self, theta: FloatArray) -> tuple[FloatArray, FloatArray]:
        """K and S (p, 31) of parameters (p, m)."""
        curves = np.einsum("pcbm,pm->cpb", self._basis, theta)
        return self._K0 * np.exp(np.clip(curves[0], -4, 4)), self._S0 * np.exp(np.clip(curves[1], -4, 4))

    def misses(self, theta: FloatArray) -> FloatArray:
        """ΔE00 (n,) of every swatch."""
        K, S = self.constants(theta)
        return np.array([self._miss(K, S, i) for i in range(len(self._swatches))])

    def _miss(self, K: FloatArray, S: FloatArray, i: int) -> float:
        """ΔE00 of one swatch."""
        swatch, shares = self._swatches[i], self._shares[i]
        R = swatch.laying.measured(Mixture(shares @ K, shares @ S, self._palette.surface(shares)))
        read = (
            swatch.lab if swatch.lab is not None else lab_from_xyz(np.asarray(swatch.reflectance) @ weights())
        )
        return float(delta_e00(lab_from_xyz(R @ weights()), read))

    def solve(self, start: FloatArray) -> tuple[FloatArray, FloatArray]:
        """Most probable parameters (p, m), and the matrix (pm, pm) of the belief's curvature there."""
        theta, damping = start.copy(), 1e-3
        cost, gradient, hessian = self._system(theta)
        for _unused in range(_STEPS):
            step = np.linalg.solve(hessian + damping * np.eye(len(hessian)), gradient).reshape(theta.shape)
            trial = theta - step
            new_cost, new_gradient, new_hessian = self._system(trial)
            if new_cost < cost:
                settled = cost - new_cost < _SETTLED
                theta, cost, gradient, hessian = trial, new_cost, new_gradient, new_hessian
                damping = max(damping / 5, 1e-6)
                if settled:
                    break
            else:
                damping *= 10
                if damping > 1e6:
                    break
        return theta, hessian

    def doubt(self, shape: tuple[int, ...], hessian: FloatArray) -> FloatArray:
        """Standard deviations (p, 2, 31) of log K and log S that are left to parameters of this shape."""
        count, size = shape
        covariance = np.linalg.inv(hessian).reshape(count, size, count, size)
        own = np.stack([covariance[p, :, p] for p in range(count)])
        return np.asarray(np.sqrt(np.einsum("pcbm,pmn,pcbn->pcb", self._basis, own, self._basis)))

    def left_out(self, theta: FloatArray, hessian: FloatArray) -> FloatArray:
        """ΔE00 (n,) of every swatch predicted from the others: one Gauss–Newton step away from what all say."""
        K, S = self.constants(theta)
        answer = np.empty(len(self._swatches))
        for i, swatch in enumerate(self._swatches):
            residual, J = self._reading(K, S, self._shares[i], swatch)
            weight = _weight(residual)
            step = np.linalg.solve(hessian - weight * (J.T @ J), weight * (J.T @ residual))
            answer[i] = self._miss(*self.constants(theta + step.reshape(theta.shape)), i)
        return answer

    def _system(self, theta: FloatArray) -> tuple[float, FloatArray, FloatArray]:
        """Minus twice the log of the belief, and its gradient and Gauss–Newton matrix, halved."""
        K, S = self.constants(theta)
        rows = [self._reading(K, S, self._shares[i], swatch) for i, swatch in enumerate(self._swatches)]
        rows += [
            self._reading(K, S, row, Swatch((), lab=self._masstones[i]))
            for i, row in enumerate(np.eye(len(K)))
            if self._anchor[i]
        ]
        cost = float((theta**2).sum())
        gradient, hessian = theta.ravel().copy(), np.eye(theta.size)
        for residual, J in rows:
            weight = _weight(residual)
            cost += (_FREEDOM + len(residual)) * float(np.log1p(residual @ residual / _FREEDOM))
            gradient += weight * (J.T @ residual)
            hessian += weight * (J.T @ J)
        return cost, gradient, hessian

    def _reading(
        self, K: FloatArray, S: FloatArray, shares: FloatArray, swatch: Swatch
    ) -> tuple[FloatArray, FloatArray]:
        """Residual in units of the noise, and its slopes in all parameters."""
        K_m, S_m, surface = shares @ K, shares @ S, self._palette.surface(shares)
        step = 1e-5
        R, more_K, more_S = (
            swatch.laying.measured(Mixture(K_m * (1 + k), S_m * (1 + s), surface))
            for k, s in ((0, 0), (step, 0), (0, step))
        )
        # Bands do not touch each other, so one more evaluation gives the slope in every band.
        by_K = (more_K - R) / (step * K_m) * (shares[:, None] * K)
        by_S = (more_S - R) / (step * S_m) * (shares[:, None] * S)
        slopes = by_K[:, :, None] * self._basis[:, 0] + by_S[:, :, None] * self._basis[:, 1]
        slopes = slopes.transpose(1, 0, 2).reshape(BANDS, -1)
        if swatch.lab is None:
            return (R - np.asarray(swatch.reflectance)) / SPECTRUM_NOISE, slopes / SPECTRUM_NOISE
        xyz = R @ weights()
        by_lab = lab_slopes(xyz) @ weights().T @ slopes
        return (lab_from_xyz(xyz) - swatch.lab) / swatch.noise, by_lab / swatch.noise


def _weight(residual: FloatArray) -> float:
    """How much a reading counts under Student's t: little where it contradicts the others."""
    return (_FREEDOM + len(residual)) / (_FREEDOM + float(residual @ residual))
