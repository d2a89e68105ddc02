"""Light, dust and paints of a region, fitted to scattered single pixels by expectation maximisation.

Fitted is what each pixel shows, a paint or a half-covered mixture of the ground with one, and the fields that make that
likeliest; what is like none of them has a small constant likelihood of its own. The ground is told from all that shows it; a kind
from where it was pointed at, unless it is nearly always whole.

Source: mixture models by expectation maximisation, Dempster, Laird, Rubin, J. R. Stat. Soc. B 39 (1977); the smoothness is common
practice.
"""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace

import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray
from lean_sepia.colour.lights import white
from lean_sepia.wear.scene import (
    LIGHT_WAVES,
    VEIL_WAVES,
    Fields,
    Look,
    Scene,
    Spot,
    axis,
    basis,
    dust,
    encoded,
    lit,
    whitening,
)
from lean_sepia.wear.unnamed import apart, grain_of, unnamed

_SAMPLED, _ROUNDS, _MORE_ROUNDS = 8000, 16, 8
_STARTS = (0.03, 0.08)  # noise to begin with: too sure or too unsure a start can end elsewhere
_LEAST_NOISE, _MOST_NOISE, _GRAINS, _SLOWLY = 0.004, 0.12, 2.5, 0.55
_COVERED = (0.2, 0.4, 0.6, 0.8)
_OTHER_SHARE, _OTHER_WIDTH = 0.1, 0.35
_STIFF, _LIGHT_VARIES, _VEIL_VARIES = 2.0, 0.15, 0.1
_BRIGHTER, _DARKER, _DUSTIER = 1.7, 0.65, 0.6
_POINTED_AT_COUNTS = 6.0  # pixels that a colour pointed at counts for, against those found of it
_WHOLE = 3.0
_PRICE = 0.005  # of the likelihood, that a paint nobody named must gain
_SEED = 17


def fit_scene(
    look: Look, colours: FloatArray, spots: Sequence[Spot | None], inside: BoolArray | None = None
) -> Scene:
    """The likeliest scene of a region.

    Parameters
    ----------
    colours : XYZ (k, 3) of the ground and of each kind, as they were seen where they were pointed at
    spots : where that was in the region; None of a colour that is known otherwise
    inside : (h, w) pixels of the region; all where it is None
    """
    pixels = _Pixels(look, colours, spots, inside)
    with ThreadPoolExecutor(len(_STARTS)) as pool:
        best = max(pool.map(pixels.fitted, _STARTS), key=lambda scene: scene.likelihood)
        alone = best
        for found in pool.map(lambda before: pixels.with_unnamed(look, before), (alone, pixels.even())):
            best = _likelier(best, found)
    if best is not alone:  # what was not seen before may be seen in better light
        best = _likelier(best, pixels.with_unnamed(look, best))
    return best


def _likelier(best: Scene, other: Scene | None) -> Scene:
    return other if other is not None and other.likelihood > best.likelihood else best


@dataclass
class _State:
    """A fit under way: weights of both fields, paints once they are known, covariance, how much there is of each, and of what each pixel is."""

    light: FloatArray
    veil: FloatArray
    spread: FloatArray
    prior: FloatArray
    paints: FloatArray | None = None
    belongs: FloatArray | None = None
    likelihood: float = -np.inf


class _Pixels:
    """Scattered pixels of a region with the waves at their places, ready for fits."""

    def __init__(
        self, look: Look, colours: FloatArray, spots: Sequence[Spot | None], inside: BoolArray | None
    ) -> None:
        height, width = look.shape
        rng = np.random.default_rng(_SEED)
        if inside is None:
            rows, columns = rng.integers(0, height, _SAMPLED), rng.integers(0, width, _SAMPLED)
        else:
            rows, columns = np.divmod(rng.choice(np.flatnonzero(inside), _SAMPLED), width)
        self.pixels, self.seen = look.single(rows * width + columns) / white(), colours / white()
        u, v = axis(columns, width), axis(rows, height)
        self.light, self.veil = basis(u, v, LIGHT_WAVES), basis(u, v, VEIL_WAVES)
        self.mean = (self.light.mean(axis=0), self.veil.mean(axis=0))
        self.light, self.veil = self.light - self.mean[0], self.veil - self.mean[1]
        self.at_light, self.at_veil = (
            _at(spots, width, height, count, mean)
            for count, mean in zip((LIGHT_WAVES, VEIL_WAVES), self.mean, strict=True)
        )
        self.grain = grain_of(look)

    def even(self) -> Scene:
        """The region as if it lay in even light without dust."""
        nothing = Fields(np.zeros(self.light.shape[1]), np.zeros(self.veil.shape[1]), self.mean)
        return Scene(self.seen, 4 * self.grain, -np.inf, nothing, len(self.seen) - 1)

    def with_unnamed(self, look: Look, before: Scene) -> Scene | None:
        """Fit again with what else there is much of; None where there is nothing else."""
        named = len(self.seen)
        known = replace(before, paints=before.paints[:named])
        others = unnamed(look, known)
        if not len(others):
            return None
        found = self.fitted(0.0, known, others)
        keep = apart(found.paints[1:named], found.paints[named:])
        if not keep.any():
            return None
        if not keep.all():
            found = self.fitted(0.0, replace(found, paints=found.paints[:named]), found.paints[named:][keep])
        return replace(found, likelihood=found.likelihood - _PRICE * (len(found.paints) - named))

    def fitted(self, start: float, before: Scene | None = None, others: FloatArray | None = None) -> Scene:
        """Fit from a noise to begin with; or go on from a scene with more paints (n, 3)."""
        more = np.zeros((0, 3)) if others is None else others
        count = len(self.seen) + len(more)
        now = self._begun(start, before, count)
        for number in range(_ROUNDS if before is None else _MORE_ROUNDS):
            plain = (self.pixels - (self.veil @ now.veil)[:, None] * dust()) / lit(self.light @ now.light)[
                :, None
            ]
            paints = self._paints(now, plain, more, settled=number >= 2)
            every = np.concatenate(
                [
                    paints,
                    *(
                        (1 - t) * paints[:1] + t * paints[k : k + 1]
                        for k in range(1, count)
                        for t in _COVERED
                    ),
                ]
            )
            now.paints, now.belongs = paints, self._of_what(now, encoded(plain), encoded(every))
            if number < 3 and before is None:  # at first only whole paints say how the light falls
                now.belongs[:, count:] = 0.0
            self._fields(now, every)
            self._spread(
                now, encoded(plain)[:, None] - encoded(paints), bound=number >= 5 or before is not None
            )
        assert now.paints is not None
        return Scene(
            now.paints, now.spread, now.likelihood, Fields(now.light, now.veil, self.mean), len(self.seen) - 1
        )

    def _begun(self, start: float, before: Scene | None, count: int) -> _State:
        total = count + len(_COVERED) * (count - 1)
        prior = np.full(total, 0.3 / total)
        prior[:count] = 0.7 / count
        if before is not None:
            return _State(before.fields.light, before.fields.veil, before.spread, prior)
        return _State(
            np.zeros(self.light.shape[1]), np.zeros(self.veil.shape[1]), start**2 * np.eye(3), prior
        )

    def _paints(self, now: _State, plain: FloatArray, more: FloatArray, *, settled: bool) -> FloatArray:
        """Paints (k, 3): where they were pointed at, in the light and dust there, and on from there what is found of them."""
        named, count = len(self.seen), len(self.seen) + len(more)
        pointed = (self.seen - (self.at_veil @ now.veil)[:, None] * dust()) / lit(self.at_light @ now.light)[
            :, None
        ]
        pointed = np.vstack([np.maximum(pointed, 0.002), more])
        if now.belongs is None or not settled:
            return pointed
        mass = now.belongs[:, :count].sum(axis=0)
        mean = now.belongs[:, :count].T @ plain / np.maximum(mass, 1e-9)[:, None]
        mixed = now.belongs[:, count:].sum(axis=0).reshape(count - 1, len(_COVERED)).sum(axis=1)[: named - 1]
        mass[1:named][mass[1:named] < _WHOLE * mixed] = (
            0.0  # of soft marks only the pointed one is surely whole
        )
        both = (mass[:, None] * mean + _POINTED_AT_COUNTS * pointed) / (mass + _POINTED_AT_COUNTS)[:, None]
        return np.asarray(np.maximum(both, 0.0005))

    @staticmethod
    def _of_what(now: _State, flat: FloatArray, every: FloatArray) -> FloatArray:
        """How likely each pixel is of each paint or mixture (n, m); their likelihood and how much there is of each are kept."""
        whiten = whitening(now.spread)
        away = (((flat @ whiten)[:, None] - (every @ whiten)[None]) ** 2).sum(axis=-1)
        likely = np.log(now.prior + 1e-9) - away / 2 + np.log(abs(np.linalg.det(whiten)))
        other = np.log(_OTHER_SHARE) - 3 * np.log(_OTHER_WIDTH)
        most = np.maximum(likely.max(axis=1), other)
        belongs = np.exp(likely - most[:, None])
        whole = belongs.sum(axis=1) + np.exp(other - most)
        now.likelihood = float((most + np.log(whole)).mean())
        belongs /= whole[:, None]
        now.prior = 0.5 * now.prior + 0.5 * np.maximum(belongs.mean(axis=0), 0.002)
        return np.asarray(belongs)

    def _fields(self, now: _State, every: FloatArray) -> None:
        """The weights of both fields that fit the pixels best: a linear problem once it is known what each pixel shows."""
        assert now.belongs is not None
        lights, sure = self.light.shape[1], np.linalg.inv(now.spread)
        # What a paint weighs depends on it alone, so pixels are summed over paints before the waves are multiplied.
        slope = np.maximum(every, 0.004) ** (-2 / 3) / 3
        metric = slope[:, :, None] * sure * slope[:, None, :]
        by_paint, by_dust = np.einsum("pij,pj->pi", metric, every), metric @ dust()
        of_light, of_both = (every * by_paint).sum(axis=1), by_paint @ dust()
        of_veil = by_dust @ dust()
        lit_weight, both_weight, veil_weight = (now.belongs @ one for one in (of_light, of_both, of_veil))
        matrix = np.zeros((lights + self.veil.shape[1],) * 2)
        matrix[:lights, :lights] = (self.light * lit_weight[:, None]).T @ self.light
        matrix[:lights, lights:] = (self.light * both_weight[:, None]).T @ self.veil
        matrix[lights:, lights:] = (self.veil * veil_weight[:, None]).T @ self.veil
        along_paint = ((now.belongs @ by_paint) * self.pixels).sum(axis=1) - lit_weight
        along_dust = ((now.belongs @ by_dust) * self.pixels).sum(axis=1) - both_weight
        right = np.concatenate([self.light.T @ along_paint, self.veil.T @ along_dust])
        matrix[lights:, :lights] = matrix[:lights, lights:].T
        stiff = np.concatenate(
            [_stiffness(LIGHT_WAVES) / _LIGHT_VARIES**2, _stiffness(VEIL_WAVES) / _VEIL_VARIES**2]
        )
        weights = np.linalg.solve(matrix + np.diag(_STIFF * stiff), right)
        a, b = weights[:lights], weights[lights:]
        brighter = self.light @ a
        now.light = a * min(
            1.0, _BRIGHTER / max(float(brighter.max()), 1e-9), _DARKER / max(float(-brighter.min()), 1e-9)
        )
        now.veil = b * min(1.0, _DUSTIER / max(float(np.abs(self.veil @ b).max()), 1e-9))

    def _spread(self, now: _State, left: FloatArray, *, bound: bool) -> None:
        """The covariance of a pixel from what whole paints leave (n, k, 3); it shrinks slowly and is bound to the grain."""
        assert now.belongs is not None
        mass = now.belongs[:, : left.shape[1]]
        found = 1.1 * np.einsum("nk,nki,nkj->ij", mass, left, left) / max(
            float(mass.sum()), 1.0
        ) + _LEAST_NOISE**2 * np.eye(3)
        found += max(0.0, (_SLOWLY * np.trace(now.spread) - np.trace(found)) / 3) * np.eye(3)
        found *= min(1.0, 3 * _MOST_NOISE**2 / np.trace(found))
        if bound:
            root = np.linalg.cholesky(self.grain)
            back = np.linalg.inv(root)
            values, ways = np.linalg.eigh(back @ found @ back.T)
            found = root @ (ways * np.minimum(values, _GRAINS**2)) @ ways.T @ root.T
        now.spread = found


def _at(
    spots: Sequence[Spot | None], width: int, height: int, count: tuple[int, int], mean: FloatArray
) -> FloatArray:
    """The waves (k, count) where colours were pointed at; nothing of them where a colour is known otherwise."""
    found = np.zeros((len(spots), count[0] * count[1] - 1))
    for number, spot in enumerate(spots):
        if spot is not None:
            found[number] = basis(axis([spot[0]], width), axis([spot[1]], height), count)[0] - mean
    return found


def _stiffness(count: tuple[int, int]) -> FloatArray:
    return np.asarray((np.arange(count[0])[:, None] ** 2 + np.arange(count[1]) ** 2).ravel()[1:], dtype=float)
