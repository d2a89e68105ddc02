"""Colours of very many mixtures of one shelf, laid one way: quickly, and near enough to find the best among them.

Three things make it quick. Colours are computed from every second band, with weights fitted to the shelf's own mixtures;
in one expression each for opaque layers and films; and for sets of three paints only in ten proportions, between which a
cubic in the logs of the shares gives the others. What is found here is computed again, exactly, by the caller.
"""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from functools import cache
from itertools import combinations

import numpy as np
from scipy.linalg import qr

from lean_sepia.arrays import FloatArray, IntArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lights import weights, white
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import Mixture, Palette
from lean_sepia.paint.saunderson import Surface
from lean_sepia.recipe.parts import proportions

Progress = Callable[[float], None]
_BANDS = slice(0, 31, 2)
_SAMPLES, _RIDGE = 600, 1e-6
_DEGREE = 3
_CHUNK = 48_000  # mixtures at a time: what they need stays in the cache
_LINEAR_BELOW = 216 / 24389
_OUT_OF_REACH = np.float32(1e4)
_NET = 200_000


def no_progress(_share: float) -> None:
    """For work that nobody follows."""


class QuickColours:
    """L*a*b* of mixtures of a palette in single precision: within about 0.1 ΔE00 of the exact colour."""

    def __init__(self, palette: Palette, laying: Laying) -> None:
        self._K = np.ascontiguousarray(palette.K[:, _BANDS], dtype=np.float32)
        self._S = np.ascontiguousarray(palette.S[:, _BANDS], dtype=np.float32)
        seen = laying.surface(Surface(palette.g, palette.k1, palette.k2))
        self._g, self._k1, self._k2 = (
            np.broadcast_to(value, palette.g.shape).astype(np.float32) for value in (seen.g, seen.k1, seen.k2)
        )
        self._one_surface = bool(np.ptp(self._k1) == 0 and np.ptp(self._k2) == 0)
        self._X = np.asarray(laying.X, dtype=np.float32)
        self._ground = None if laying.ground is None else laying.ground[_BANDS].astype(np.float32)
        # What lies above, and other places of the zone, are laid one after another; alone, all is one expression.
        self._places = [
            (weight, _of_bands(one)) for weight, one in (laying.everywhere() if laying.beside or laying.later else ())
        ]  # fmt: skip
        self._to_ratio = (_fitted_weights(palette, laying) / white()).astype(np.float32)

    def of_sets(self, sets: IntArray, shares: FloatArray) -> FloatArray:
        """L*a*b* (c, m, 3) of sets of paints (c, k) in proportions (m, k)."""
        part = shares.astype(np.float32)
        return self._lab(
            part @ self._K[sets], part @ self._S[sets], *self._surfaces(lambda of: of[sets] @ part.T)
        )

    def of_shares(self, shares: FloatArray) -> FloatArray:
        """L*a*b* (c, 3) of mixtures given by the shares (c, n) of all paints."""
        part = shares.astype(np.float32)
        return self._lab(part @ self._K, part @ self._S, *self._surfaces(lambda of: part @ of))

    def _surfaces(
        self, mean: Callable[[FloatArray], FloatArray]
    ) -> tuple[FloatArray, FloatArray, FloatArray]:
        """g, k1 and k2 (..., 1) of mixtures, by what takes the volume mean; k1 and k2 (1,) where all paints agree."""
        if self._one_surface:
            return mean(self._g)[..., None], self._k1[:1], self._k2[:1]
        return mean(self._g)[..., None], mean(self._k1)[..., None], mean(self._k2)[..., None]

    def _lab(self, K: FloatArray, S: FloatArray, g: FloatArray, k1: FloatArray, k2: FloatArray) -> FloatArray:
        """Kubelka–Munk and Saunderson in one expression, in place; K and S (..., 16) are used up."""
        if self._places:
            matter = Mixture(K, S, Surface())
            R = sum(weight * _behind_surface(one, matter, k2) for weight, one in self._places)
            return self._lab_of(np.asarray(R, dtype=np.float32), g, k1, k2)
        gamma = S * 2
        gamma += K
        gamma *= K
        np.sqrt(gamma, out=gamma)
        if self._ground is None:
            # R_i = S/(K + S + γ), so R_i/(1 − k2·R_i) = S/(K + (1 − k2)·S + γ)
            gamma += K
            K = np.multiply(S, 1 - k2, out=K)
            gamma += K
            gamma += 1e-12
            R = np.divide(S, gamma, out=S)
        else:
            # R_i = (R_g + t(S − R_g(K + S)))/(1 + t(K + S − R_g·S)) with t = tanh(γX)/γ
            gamma += 1e-6
            t = np.multiply(gamma, self._X)
            np.tanh(t, out=t)
            t /= gamma
            K += S
            above = S - self._ground * K
            above *= t
            above += self._ground
            S *= self._ground
            K -= S
            K *= t
            K += 1
            K -= k2 * above
            R = np.divide(above, K, out=above)
        return self._lab_of(R, g, k1, k2)

    def _lab_of(self, R: FloatArray, g: FloatArray, k1: FloatArray, k2: FloatArray) -> FloatArray:
        """L*a*b* (..., 3) of R_i/(1 − k2·R_i) (..., 16)."""
        ratio = R @ self._to_ratio
        ratio *= (1 - k1) * (1 - k2)
        ratio += k1 * g * self._to_ratio.sum(axis=0)
        f = np.cbrt(ratio)
        dark = ratio < _LINEAR_BELOW
        if dark.any():
            f[dark] = (24389 / 27 * ratio[dark] + 16) / 116
        lab = np.empty_like(f)
        lab[..., 0] = 116 * f[..., 1] - 16
        lab[..., 1] = 500 * (f[..., 0] - f[..., 1])
        lab[..., 2] = 200 * (f[..., 1] - f[..., 2])
        return lab


def _of_bands(laying: Laying) -> Laying:
    """A laying on the bands that are looked at."""
    ground = None if laying.ground is None else _narrow(laying.ground)
    later = tuple(
        replace(film, R_0=_narrow(film.R_0), T=_narrow(film.T), K=_narrow(film.K), S=_narrow(film.S))
        for film in laying.later
    )
    return replace(laying, ground=ground, later=later, X=np.asarray(laying.X, dtype=np.float32))


def _narrow(values: FloatArray | float) -> FloatArray:
    """What holds every band, on every second one; what is one number for all stays so."""
    found = np.asarray(values, dtype=np.float32)
    return found[..., _BANDS] if found.ndim and found.shape[-1] > 1 else found


def _behind_surface(laying: Laying, matter: Mixture, k2: FloatArray) -> FloatArray:
    """R_i/(1 − k2·R_i) (..., 16) of mixtures under what will lie on them."""
    R = laying.internal(matter)
    for film in laying.later:
        R = film.over(R, matter)
    return R / (1 - k2 * R)


def _fitted_weights(palette: Palette, laying: Laying) -> FloatArray:
    """Weights (16, 3) from every second band to XYZ, fitted to random mixtures of the shelf."""
    rng = np.random.default_rng(16)
    n = len(palette.paints)
    shares = np.zeros((_SAMPLES, n))
    for row in shares:
        chosen = rng.choice(n, min(n, 3), replace=False)
        row[chosen] = rng.dirichlet(np.ones(len(chosen)))
    R = laying.measured(palette.mixture(shares))
    exact = R @ weights()
    usual = weights()[_BANDS] * 2
    # Errors count as they are seen: a miss in a dark colour shows more.
    seen = 1 / np.maximum(exact / white(), 0.01) ** (2 / 3)
    answer = np.empty_like(usual)
    for channel in range(3):
        A = R[:, _BANDS] * seen[:, channel, None]
        miss = (exact[:, channel] - R[:, _BANDS] @ usual[:, channel]) * seen[:, channel]
        change = np.linalg.solve(A.T @ A + _RIDGE * len(A) * np.eye(A.shape[1]), A.T @ miss)
        answer[:, channel] = usual[:, channel] + change
    return answer


@cache
def _cubic(most: int) -> tuple[IntArray, FloatArray]:
    """Which proportions (10,) of three paints to compute, and the matrix (m, 10) from them to all m."""
    parts = proportions(3, most)
    shares = parts / parts.sum(axis=1, keepdims=True)
    # In logs of shares a stronger paint only shifts the curve, so one cubic serves weak and strong alike.
    x = np.log(shares[:, :2] / shares[:, 2:]) / 2
    terms = [x[:, 0] ** i * x[:, 1] ** j for i in range(_DEGREE + 1) for j in range(_DEGREE + 1 - i)]
    basis = np.stack(terms, axis=1)
    if len(parts) <= basis.shape[1]:
        return np.arange(len(parts)), np.eye(len(parts))
    nodes = qr(basis.T, pivoting=True, mode="economic")[2][: basis.shape[1]]
    return nodes, basis @ np.linalg.inv(basis[nodes])


@dataclass(frozen=True, eq=False)
class MixtureTable:
    """All mixtures of sets (c, k) of one size in proportions (m, k): `labs` (3, c·m), set by set."""

    sets: IntArray
    parts: IntArray
    labs: FloatArray

    @classmethod
    def of(
        cls, quick: QuickColours, sets: IntArray, most: int, progress: Progress = no_progress
    ) -> MixtureTable:
        """The table of these sets in every proportion of at most `most` parts."""
        parts = proportions(sets.shape[1], most)
        shares = parts / parts.sum(axis=1, keepdims=True)
        nodes, spread = (np.arange(len(parts)), None) if sets.shape[1] != 3 else _cubic(most)
        spread = None if spread is None else spread.astype(np.float32)
        labs = np.empty((3, len(sets), len(parts)), dtype=np.float32)

        def fill(rows: slice) -> None:
            found = np.moveaxis(quick.of_sets(sets[rows], shares[nodes]), -1, 0)
            labs[:, rows] = found if spread is None else found @ spread.T

        chunks = list(_slices(len(sets), max(1, _CHUNK // len(nodes))))
        with ThreadPoolExecutor(os.cpu_count() or 1) as pool:
            for done, _ in enumerate(pool.map(fill, chunks), start=1):
                progress(done / len(chunks))
        return cls(sets, parts, labs.reshape(3, -1))

    def near(self, metric: FloatArray, goal: FloatArray, slack: float, most: int) -> IntArray:
        """Rows (n,) of the mixtures nearest to a goal: all within `slack` ΔE00 of the nearest, at most `most`.

        metric : (3, 3) whose product with a small difference of L*a*b* is as long as its ΔE00
        """
        if not self.labs.size:
            return np.empty(0, dtype=np.int64)
        away = metric.astype(np.float32) @ self.labs
        away -= (metric @ goal).astype(np.float32)[:, None]
        np.square(away, out=away)
        squared = away[0]
        squared += away[1]
        squared += away[2]
        nearest = float(np.sqrt(squared.min()))
        # The metric is that of small differences: the further away, the wider the first net.
        rows = np.flatnonzero(squared <= (nearest * (1.15 + 0.03 * nearest) + slack) ** 2)
        if len(rows) > _NET:
            rows = rows[np.argpartition(squared[rows], _NET)[:_NET]]
        de00 = delta_e00(self.labs[:, rows].T, goal)
        close = de00 <= de00.min() + slack
        rows, de00 = rows[close], de00[close]
        return rows[np.argpartition(de00, most)[:most]] if len(rows) > most else rows

    def drop_beyond(self, most_share: FloatArray) -> None:
        """Put mixtures out of reach that hold more of a paint than its share in `most_share` (n,)."""
        shares = self.parts / self.parts.sum(axis=1, keepdims=True)
        for paint in range(self.sets.shape[1]):
            over = shares[:, paint] > most_share[self.sets[:, paint], None] + 1e-9
            self.labs[:, over.ravel()] = _OUT_OF_REACH

    def mixtures(self, rows: IntArray) -> tuple[IntArray, IntArray]:
        """Paints (n, k) and parts (n, k) of rows."""
        which, proportion = np.divmod(rows, len(self.parts))
        return self.sets[which], self.parts[proportion]


def _slices(length: int, step: int) -> Iterator[slice]:
    return (slice(start, min(length, start + step)) for start in range(0, length, step))


def all_sets(n: int, size: int) -> IntArray:
    """Every set (c, size) of that many of n things."""
    return np.array(list(combinations(range(n), size)), dtype=np.int64).reshape(-1, size)


def local_metric(lab: FloatArray) -> FloatArray:
    """Matrix (3, 3) that makes small differences from L*a*b* (3,) as long as their ΔE00 (numerical)."""
    step = 0.5
    pairs = {(i, j): np.eye(3)[i] + (np.eye(3)[j] if i != j else 0) for i in range(3) for j in range(i, 3)}
    squares = {
        key: float(np.mean([delta_e00(lab, lab + sign * step * way) for sign in (1, -1)]) / step) ** 2
        for key, way in pairs.items()
    }
    form = np.diag([squares[i, i] for i in range(3)])
    for i, j in ((0, 1), (0, 2), (1, 2)):
        form[i, j] = form[j, i] = (squares[i, j] - squares[i, i] - squares[j, j]) / 2
    values, vectors = np.linalg.eigh(form)
    return np.sqrt(np.maximum(values, 1e-3))[:, None] * vectors.T
