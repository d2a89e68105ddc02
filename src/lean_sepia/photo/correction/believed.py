"""What is believed of a picture's development: worlds weighed by the anchors, and one linear update for what these still miss.

With worlds weighed, the colours of anchors and of a sample go together as their worlds say (a covariance of an ensemble, as in
the Kalman filter of Evensen, J. Geophys. Res. 99 (1994)); to that comes what no world follows, alike for like colours (kriging
with a Gaussian covariance). Both are one linear update in even coordinates (`colour/even.py`). What surfaces there are is known
a little beforehand: strong colours are rare.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cache, cached_property

import numpy as np
from scipy.linalg import cho_factor, cho_solve

from lean_sepia.arrays import FloatArray, IntArray
from lean_sepia.colour.even import even_from_lab, lab_from_even
from lean_sepia.photo.correction.worlds import LIGHTS, Worlds

MOST_WORLDS, EFFECTIVE_WORLDS = 1000, 200
"""How many worlds are kept for a picture, and how many of them must count at least."""

MISFIT = np.array([1.3, 1.7, 1.7])
"""What no world follows, in even coordinates (practice, as the reach and the share below)."""

LEFT_SHARE = 0.6
"""The part of what a world's inverse misses that differs from surface to surface."""

_REACH = 14.0
_GREY_SHARE, _FULL_CHROMA = 0.35, 12.0
_SURFACES, _COMMON_YELLOW = 26.0, 3.0
_LIGHTEST = 104.0
_STANDS_OUT = (0.45, 1.5)  # its share, and how many times the next one's
_LEAST_VARIANCE = 0.02
_AT_ONCE = 100_000


def alike(even: FloatArray, other: FloatArray) -> FloatArray:
    """How alike (m, n) what no world follows is at even coordinates (m, 3) and (n, 3): 1 at the same place."""
    squared = ((even[:, None, :] - other[None]) ** 2).sum(axis=-1)
    return np.exp(-0.5 * squared / _REACH**2)


def by_coordinate(table: FloatArray, times: float = 1.0) -> FloatArray:
    """A covariance (3 m, 3 n) from how alike (m, n) things are: of so many times the usual misfit, and nothing between coordinates."""
    found = np.einsum("mn,c,cd->mcnd", table, (times * MISFIT) ** 2, np.eye(3))
    return np.asarray(found.reshape(3 * table.shape[0], 3 * table.shape[1]))


@dataclass(frozen=True, eq=False)
class Observed:
    """What anchors said beyond the one that balances the picture, m of them, to k worlds.

    at : (m, 3) even coordinates where they come out in the mean; away : (k, 3 m) how far from that in each world
    missed : (3 m,) what they are known to be, less that; covariance : (3 m, 3 m) of both
    misfit : how many times the usual is what no world follows
    """

    at: FloatArray
    away: FloatArray
    missed: FloatArray
    covariance: FloatArray
    misfit: float = 1.0

    @cached_property
    def _factor(self) -> tuple[FloatArray, bool]:
        return cho_factor(self.covariance)

    @cached_property
    def surprise(self) -> FloatArray:
        """What each world is missed by (3 m, k)."""
        return (self.missed[:, None] - self.away.T).astype(np.float32)

    def solved(self, right: FloatArray) -> FloatArray:
        """The covariance's inverse times (3 m, ...)."""
        return np.asarray(cho_solve(self._factor, right))

    def held_out(self) -> tuple[FloatArray, FloatArray]:
        """What each is missed by (m, 3) when the others alone speak, of the covariance's inverse block by block; and how
        surprising that is (m,), as χ² of three degrees of freedom."""
        inverse = self.solved(np.eye(len(self.covariance)))
        pulled, m = (inverse @ self.missed).reshape(-1, 3), len(self.at)
        blocks = inverse.reshape(m, 3, m, 3)[np.arange(m), :, np.arange(m)]
        missed = np.linalg.solve(blocks, pulled[..., None])[..., 0]
        return missed, (missed * pulled).sum(axis=-1)


@dataclass(frozen=True, eq=False)
class Believed:
    """Worlds (k) with their weights (k,) and the gains (3, k) on their roots that balance this picture.

    observed : what further anchors said; None where there is none
    left : (3,) what the worlds' inverses miss
    scale : what the spread of possible colours is multiplied by
    """

    worlds: Worlds
    weights: FloatArray
    gains: FloatArray
    observed: Observed | None
    left: FloatArray
    scale: float

    @property
    def light(self) -> str | None:
        """The light of most worlds, where one stands out."""
        shares = np.bincount(self.worlds.light, self.weights, len(LIGHTS))
        second, first = np.sort(shares)[-2:]
        return (
            LIGHTS[int(shares.argmax())]
            if first > _STANDS_OUT[0] and first > _STANDS_OUT[1] * second
            else None
        )

    def predicted(self, encoded: FloatArray) -> FloatArray:
        """Even coordinates (3, m, k) of encoded colours (m, 3) in each world, no further anchor heard."""
        roots = self.worlds.roots(encoded) * self.gains[:, None]
        return np.moveaxis(even_from_lab(self.worlds.lab(roots)), -1, 0)

    def lab(self, encoded: FloatArray) -> FloatArray:
        """The most likely L*a*b* (m, 3) of encoded colours (m, 3)."""
        found = np.empty((len(encoded), 3))
        for part in self._parts(len(encoded)):
            moved, _open = self._updated(encoded[part], spread=False)
            found[part] = lab_from_even((moved * self._surfaces(moved)).sum(axis=-1).T)
        return found

    def thinned(self, count: int) -> Believed:
        """About the same with so many worlds of equal weight, for pictures."""
        reached = np.cumsum(self.weights)
        which = np.searchsorted(reached, (np.arange(count) + 0.5) / count * reached[-1])
        seen = self.observed
        return replace(
            self, worlds=self.worlds.chosen(which), weights=np.full(count, 1 / count, np.float32), gains=self.gains[:, which],
            observed=None if seen is None else replace(seen, away=seen.away[which]),
        )  # fmt: skip

    def possible(self, encoded: FloatArray) -> tuple[FloatArray, FloatArray]:
        """L*a*b* (k, 3) that one encoded colour (3,) may be, and their weights (k,)."""
        moved, still_open = self._updated(encoded[None], spread=True)
        values, vectors = np.linalg.eigh(still_open)
        root = vectors * np.sqrt(np.maximum(values, _LEAST_VARIANCE))
        middle = (moved * self._surfaces(moved)).sum(axis=-1)[:, 0]
        members = moved[:, 0] + root @ standard_draws(len(self.weights))[:, :3].T
        weights = self._surfaces(members)
        spread = middle + self.scale * (members.T - members @ weights)
        spread[:, 0] = np.clip(spread[:, 0], 0, _LIGHTEST)
        return lab_from_even(spread), weights

    def _parts(self, count: int) -> Iterator[slice]:
        step = max(1, _AT_ONCE // len(self.weights))
        return (slice(start, start + step) for start in range(0, count, step))

    def _surfaces(self, even: FloatArray) -> FloatArray:
        """Weights (..., k) of even coordinates (3, ..., k): each world's own, times how common such a surface is."""
        common = (even[1] ** 2 + (even[2] - _COMMON_YELLOW) ** 2) * (-0.5 / _SURFACES**2)
        weights = self.weights * np.exp(common - common.max(axis=-1, keepdims=True))
        return np.asarray(weights / weights.sum(axis=-1, keepdims=True))

    def _updated(self, encoded: FloatArray, *, spread: bool) -> tuple[FloatArray, FloatArray]:
        """Of encoded colours (m, 3): each world's own (3, m, k) after the update; and, of a single colour and if asked for,
        the covariance (3, 3) that is open beside how these differ."""
        members = self.predicted(encoded)
        middle = members @ self.weights
        still_open = np.diag(self._unfollowed(middle)[:, 0]) if spread else np.zeros((3, 3))
        seen = self.observed
        if seen is None:
            return members, still_open
        away = members - middle[..., None]
        weighed = away * self.weights
        together = weighed @ seen.away  # (3, m, 3 n)
        kriged = alike(middle.T, seen.at) * _share_of_misfit(middle)[:, None]
        for coordinate in range(3):
            together[coordinate, :, coordinate::3] += kriged * (seen.misfit * MISFIT[coordinate]) ** 2
        gain = seen.solved(together.reshape(-1, together.shape[-1]).T).T.astype(np.float32)
        moved = (gain @ seen.surprise).reshape(members.shape)
        if spread:
            # The whole covariance that is left, less what the moved members themselves still differ by.
            stray = away[:, 0] + moved[:, 0] - (moved[:, 0] @ self.weights)[:, None]
            still_open = still_open + weighed[:, 0] @ away[:, 0].T - gain @ together[:, 0].T
            still_open = still_open - (stray * self.weights) @ stray.T
        return members + moved, still_open

    def _unfollowed(self, even: FloatArray) -> FloatArray:
        """Variance (3, m) of what no world follows at even coordinates (3, m)."""
        times = 1.0 if self.observed is None else self.observed.misfit
        variance = (times * MISFIT) ** 2 + (LEFT_SHARE * self.left) ** 2
        return variance[:, None] * _share_of_misfit(even) ** 2


@cache
def standard_draws(count: int) -> FloatArray:
    """Standard normal draws (count, 6), the same for every sample so that answers repeat exactly, and balanced."""
    half = np.random.default_rng(90).standard_normal((MOST_WORLDS // 2, 6))
    return np.stack([half, -half], axis=1).reshape(-1, 6)[:count]


def _share_of_misfit(even: FloatArray) -> FloatArray:
    """Share (m,) of what no world follows that applies at even coordinates (3, m): sensors and dyes err least on greys (practice)."""
    drawn_in = np.hypot(even[1], even[2])
    return np.asarray(_GREY_SHARE + (1 - _GREY_SHARE) * (1 - np.exp(-drawn_in / _FULL_CHROMA)))


def most_likely(logs: FloatArray, effective: float, most: int) -> tuple[IntArray, FloatArray]:
    """Which (k,) of n worlds count and their weights (k,), from how well each explains the anchors (n,), as logarithms.

    The weights are tempered until at least so many count effectively (Kish's 1 / Σ w²), so that none is believed for a
    likeness by chance.
    """
    logs = logs - logs.max()

    def effect(power: float) -> float:
        weights = np.exp(power * logs)
        return float(weights.sum() ** 2 / (weights**2).sum())

    wanted, power = min(effective, 0.5 * len(logs)), 1.0
    if effect(power) < wanted:
        low, high = 0.0, 1.0
        for _halving in range(20):
            power = (low + high) / 2
            low, high = (power, high) if effect(power) > wanted else (low, power)
    which = np.argsort(-logs, kind="stable")[:most]
    weights = np.exp(power * logs[which])
    return which, (weights / weights.sum()).astype(np.float32)
