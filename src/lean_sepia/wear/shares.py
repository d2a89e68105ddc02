"""How much of each pixel is which paint, in a region that lies in even light.

What looks like one paint is it; what lies between is a mixture of light of two or three of them, whose shares are read in linear
light. Rims belong to the marks they lie at, and the faint rims beyond them count too, so blur neither adds nor takes area. Most
of a region usually is sound ground, which is seen at a glance; only the rest is looked at closely.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from itertools import combinations
from typing import Any

import cv2
import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray, Image8, IntArray
from lean_sepia.wear.mixing import mixed, towards
from lean_sepia.wear.scene import Look, Scene, encoded, evened, whitening
from lean_sepia.wear.summed import spots_of_tones, sum_small_marks

_ALIKE, _APART = 4.0, 8.0  # of the noise
_REACH, _NEARER, _RIM = 9, 7, 7
_MARKED, _LITTLE, _SMALL_MARK = 0.3, 0.2, 2000
_SAMPLED = 40_000
_AT_ONCE, _THREADS = 400_000, 2
_SQUARE = np.ones((3, 3), np.uint8)
_NONE, _OUTSIDE = -1, -2
Progress = Callable[[float], None]


def shares_of(
    look: Look, scene: Scene, progress: Progress, inside: BoolArray | None = None
) -> list[FloatArray]:
    """How much of each pixel (h, w) is each paint of a scene, the ground first; less than one in all where it is none of them.

    progress : told how far it is, 0–1; inside : (h, w) pixels of the region, all where it is None; others are none of anything
    """
    reading = _Reading(look, scene)
    alike = reading.alike(inside)
    progress(0.4)
    own = [_mask(alike == number) for number in range(len(scene.paints))]
    filled = [one if not number else _opened(one, 3) for number, one in enumerate(own)]
    shares, near = _cores(own, filled, reading)
    between = np.flatnonzero(_none_of(shares) & (alike != _OUTSIDE))
    pixels = reading.flat(between)
    _seeded(near, own, between, pixels, reading)
    progress(0.6)
    beside = np.stack([one.ravel()[between] for one in near], axis=-1) > 0
    parts = _in_parts(
        len(between), lambda some: mixed(pixels[some], beside[some], scene.paints, reading.whiten)
    )
    for number, share in enumerate(shares):
        share.ravel()[between] = parts[:, number]
    progress(0.8)
    _one_kind_a_mark(shares, filled, reading)
    _with_rims(shares, alike, reading)
    named, count = scene.named, len(scene.paints)
    tones = (0, *range(named + 1, count))
    sound = np.isin(alike, tones)
    spots = spots_of_tones([alike == tone for tone in tones]) if count > named + 1 else None
    sum_small_marks(shares, named, sound, filled, scene.paints, reading.whiten, reading.flat, spots)
    progress(1.0)
    return shares


class _Reading:
    """A region in a scene: what pixels are in even light, a little smoothed, and in units of the noise."""

    def __init__(self, look: Look, scene: Scene) -> None:
        self.look, self.scene = look, scene
        self._over = scene.fields.over(look.shape)
        self.spread = self._spread()
        self.whiten: FloatArray = whitening(self.spread).astype(np.float32)

    def flat(self, places: IntArray) -> FloatArray:
        """Pixels (n, 3) in even light, smoothed."""
        return evened(self.look.smooth(places), places, self._over)

    def towards(self, places: IntArray, kind: int, ground: int = 0) -> FloatArray:
        """Share (n,) of a kind in pixels, as mixtures with the ground or another paint."""
        paints = self.scene.paints
        return towards(self.flat(places), paints[kind], paints[ground], self.whiten)

    def _spread(self) -> FloatArray:
        """Covariance (3, 3) of smoothed pixels that show the ground, from that of single ones."""
        size = self.look.shape[0] * self.look.shape[1]
        some = encoded(self.flat(np.arange(0, size, max(1, size // _SAMPLED))))
        found, ground = self.scene.spread, encoded(self.scene.paints[0])
        for _round in range(4):
            left = some - ground
            left = left[np.einsum("ij,jk,ik->i", left, np.linalg.inv(found), left) < 11.3]
            if len(left) < 30:
                break
            found = 1.1 * left.T @ left / len(left) + 0.002**2 * np.eye(3)
        return np.asarray(found)

    def alike(self, inside: BoolArray | None) -> IntArray:
        """The paint (h, w) that each pixel looks like; −1 where it looks like none, −2 outside the region."""
        sure = self.look.surely(self.scene.expected(0, self.look.shape), self.spread)
        found = np.full(self.look.shape, _NONE, dtype=np.int8)
        found[sure] = 0
        whole = (encoded(self.scene.paints) @ self.whiten).astype(np.float32)
        if inside is not None:
            found[~inside] = _OUTSIDE
        places = np.flatnonzero(found == _NONE)

        def part(some: slice) -> IntArray:
            seen = encoded(self.flat(places[some])) @ self.whiten
            away = np.stack([((seen - paint) ** 2).sum(axis=1) for paint in whole])
            return np.where(away.min(axis=0) < _ALIKE**2, away.argmin(axis=0), _NONE).astype(np.int8)

        if len(places):
            found.ravel()[places] = _in_parts(len(places), part)
        return found


def _in_parts(count: int, work: Callable[[slice], Any]) -> Any:
    """What work gives for parts of a list, several at once, joined."""
    parts = [slice(start, min(count, start + _AT_ONCE)) for start in range(0, max(count, 1), _AT_ONCE)]
    if len(parts) == 1:
        return work(parts[0])
    with ThreadPoolExecutor(_THREADS) as pool:
        return np.concatenate(list(pool.map(work, parts)))


def _mask(where: BoolArray) -> Image8:
    return np.ascontiguousarray(where).view(np.uint8)


def _opened(mask: Image8, side: int) -> Image8:
    """What of a mask holds squares of a side."""
    return np.asarray(cv2.morphologyEx(mask, cv2.MORPH_OPEN, np.ones((side, side), np.uint8)), dtype=np.uint8)


def _grown(mask: Image8, side: int) -> Image8:
    return np.asarray(cv2.dilate(mask, np.ones((side, side), np.uint8)), dtype=np.uint8)


def _any_of(masks: Sequence[Image8], but: int) -> Image8:
    """Where any kind is, but one; the ground is no kind."""
    found = np.zeros_like(masks[0])
    for number, mask in enumerate(masks):
        if number not in (0, but):
            found |= mask
    return found


def _none_of(shares: Sequence[FloatArray]) -> BoolArray:
    found = shares[0] == 0
    for share in shares[1:]:
        found &= share == 0
    return np.asarray(found)


def _cores(
    own: Sequence[Image8], filled: Sequence[Image8], reading: _Reading
) -> tuple[list[FloatArray], list[Image8]]:
    """Whole pixels given to their paint, and what is near each.

    What a rim between two other paints may look like has whole pixels only where it fills a few.
    """
    shares, near = [], []
    for number, one in enumerate(own):
        core = one
        if number:
            if _looks_mixed(number, reading.scene.paints, reading.whiten):
                core = filled[number]
            elif len(own) > 2:
                core = np.where(_grown(_any_of(filled, number), _REACH) > 0, _opened(one, 2), one)
        shares.append(core.astype(np.float32))
        near.append(_grown(core, _REACH))
    return shares, near


def _looks_mixed(number: int, paints: FloatArray, whiten: FloatArray) -> bool:
    """Whether a paint is near a mixture of two others."""
    t = np.linspace(0.1, 0.9, 33)[:, None]
    own = encoded(paints[number]) @ whiten
    others = [paint for other, paint in enumerate(paints) if other != number]
    return any(
        float(((encoded((1 - t) * one + t * other) @ whiten - own) ** 2).sum(axis=1).min()) < _APART**2
        for one, other in combinations(others, 2)
    )


def _seeded(
    near: list[Image8], own: Sequence[Image8], between: IntArray, pixels: FloatArray, reading: _Reading
) -> None:
    """What is near a mark too small to have whole pixels: one that plainly is for the greater part of a kind."""
    paints, whiten = reading.scene.paints, reading.whiten
    seen = encoded(pixels) @ whiten
    best, which = np.full(len(pixels), np.float32(_ALIKE**2)), np.zeros(len(pixels), np.int8)
    for k in range(1, len(paints)):
        t = np.clip(towards(pixels, paints[k], paints[0], whiten), 0, 1)
        mix = (paints[0] + t[:, None] * (paints[k] - paints[0])).astype(np.float32)
        missed = ((encoded(mix) @ whiten - seen) ** 2).sum(axis=-1)
        better = missed < best
        best[better], which[better] = missed[better], np.where(t[better] > 0.5, k, 0)
    firm = [_opened(one, 2) for one in own] if len(paints) > 2 else list(own)
    for k in range(1, len(paints)):
        seeds = np.zeros(own[0].shape, np.uint8)
        seeds.ravel()[between[which == k]] = 1
        if len(paints) > 2:
            seeds &= 1 - _grown(_any_of(firm, k), 3)
        near[k] = near[k] | _grown(seeds, _NEARER)


def _one_kind_a_mark(shares: Sequence[FloatArray], filled: Sequence[Image8], reading: _Reading) -> None:
    """Rims of a small mark that look like another kind go to the kind of the mark, where that other fills nothing of it."""
    count = len(shares)
    if count < 3:
        return
    worn = shares[1].copy()
    for share in shares[2:]:
        worn += share
    total, labels = cv2.connectedComponents(_mask(worn > _MARKED), connectivity=8)
    places = np.flatnonzero(labels)
    mark = labels.ravel()[places]
    small = np.bincount(mark, minlength=total) < _SMALL_MARK
    places, mark = places[small[mark]], mark[small[mark]]
    own = [share.ravel()[places] for share in shares]
    held = np.stack([np.bincount(mark, one, total) for one in own], axis=-1)
    cores = np.stack([np.bincount(mark, one.ravel()[places], total) for one in filled], axis=-1)
    held[:, 0] = 0
    most = held.argmax(axis=1)
    for k in range(1, count):
        wrong = (cores[:, k] == 0) & (most != k) & (held[:, k] < _LITTLE * held.sum(axis=1))
        chosen = wrong[mark] & (own[k] > 0)
        rows, target = places[chosen], most[mark[chosen]]
        for share in shares:
            share.ravel()[rows] = 0
        for other in np.unique(target):
            mine = rows[target == other]
            t = np.clip(reading.towards(mine, int(other)), 0, 1)
            shares[other].ravel()[mine], shares[0].ravel()[mine] = t, 1 - t


def _with_rims(shares: Sequence[FloatArray], alike: IntArray, reading: _Reading) -> None:
    """Give pixels round a mark that look like what it lies on the faint share of it that they hold, and edges of a mark theirs.

    What nobody named may be a second tone of the ground: marks lie on it too.
    """
    named = reading.scene.named
    kinds, grounds = range(1, named + 1), (0, *range(named + 1, len(shares)))
    marked = [_grown(_mask(shares[k] > _MARKED), _RIM) for k in kinds]
    blurred = [cv2.GaussianBlur(shares[k], (0, 0), 1.5) for k in kinds] if named > 1 else []
    beside_ground = _grown(_mask(shares[0] > _LITTLE), 5) > 0
    rims = [[np.flatnonzero((alike == ground) & (one > 0)) for ground in grounds] for one in marked]
    edges = [np.flatnonzero((alike == k) & (shares[k] > 0.5) & beside_ground) for k in kinds]
    for k, mine, edge in zip(kinds, rims, edges, strict=True):
        for ground, rim in zip(grounds, mine, strict=True):
            if blurred:
                most = np.max([one.ravel()[rim] for one in blurred], axis=0)
                rim = rim[blurred[k - 1].ravel()[rim] >= most]
            t = reading.towards(rim, k, ground)
            shares[k].ravel()[rim], shares[ground].ravel()[rim] = t, 1 - t
        shares[k].ravel()[edge] = np.clip(reading.towards(edge, k), 0.5, 1.3)
