"""Small marks by the light they take in all.

Colour is stored coarser than light, so the pixels of a mark a few of them across look half like something else and too faint.
What the mark takes from the light of the ground round it is right all the same when it is summed over the mark and its surroundings:
its direction says which kind it is, its length how large it is.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray, Image8, IntArray

_MARKED, _MOST_PX = 0.2, 200
_REACH, _GAP, _RING = 3.0, 3, 9
_LEAST_RING, _FAINTEST = 20, 0.1
_ASKEW = 0.2  # of the square of what is taken, that may be left unexplained
_UNSURE = 0.4  # of a mark's size, as it was read pixel by pixel
_LEAST, _MOST = 0.6, 1.9  # times that size
_ROWS, _MATTERS = 600, 0.03
_TONE, _HALF, _WITHIN = 0.1, 0.5, 0.6
_CORRELATED = 2.0  # how much more the noise of smoothed pixels is in a sum
Pixels = Callable[[IntArray], FloatArray]


@dataclass(frozen=True)
class _Aperture:
    """Pixels round small marks: their places (n,), the mark (n,) of each, which of all marks may be read so, and the ground there (m, 3)."""

    places: IntArray
    mark: IntArray
    may: BoolArray
    ground: FloatArray
    ring: IntArray

    @property
    def total(self) -> int:
        return len(self.may)

    def summed(self, values: FloatArray | Image8) -> FloatArray:
        """Sums (m,) of values (n,) by mark."""
        return np.asarray(np.bincount(self.mark, values, self.total), dtype=float)


def sum_small_marks(
    shares: Sequence[FloatArray],
    named: int,
    sound: BoolArray,
    filled: Sequence[Image8],
    paints: FloatArray,
    whiten: FloatArray,
    flat: Pixels,
    spots: BoolArray | None = None,
) -> None:
    """Set right the kind and the size of small marks that stand alone, in place.

    Parameters
    ----------
    shares : of each paint (h, w), the ground first; the first `named` after it are kinds
    sound : (h, w) pixels that look like the ground; filled : of each paint where it fills a few pixels
    paints : (k, 3); whiten : (3, 3); flat : pixels (n, 3) at places, in even light
    spots : (h, w) pixels that look like a tone of the ground where it lies in another, and may be half of a kind
    """
    worn = shares[1].copy()
    for share in shares[2 : named + 1]:
        worn += share
    if spots is not None:
        worn[spots], sound = np.maximum(worn[spots], _HALF), sound & ~spots
    found = _apertures(worn, shares[1 : named + 1], sound, flat)
    if found is None:
        return
    cores = np.stack([found.summed(one.ravel()[found.places]) for one in filled[1 : named + 1]], axis=-1)
    before = found.summed(worn.ravel()[found.places])
    kind, size, sure = _explained(found, before, cores, paints, whiten, flat(found.places))
    _give(shares, worn.ravel()[found.places], found, before, kind, size, sure & found.may, named)


def spots_of_tones(tones: Sequence[BoolArray]) -> BoolArray:
    """Pixels (h, w) of small spots of one tone of the ground that lie in another; a tone fills more than spots.

    tones : (h, w) the pixels that look like each tone of the ground
    """
    large = [one.mean() > _TONE for one in tones]
    found = np.zeros(tones[0].shape, bool)
    for one, is_tone in zip(tones, large, strict=True):
        if not is_tone or sum(large) < 2:
            continue
        others = np.any(
            [other for other, tone in zip(tones, large, strict=True) if tone and other is not one], axis=0
        )
        count, labels, stats, _middles = cv2.connectedComponentsWithStats(one.view(np.uint8), connectivity=8)
        small = stats[:, cv2.CC_STAT_AREA] < _MOST_PX
        small[0] = False
        beyond = _largest(np.where(small, np.arange(count), 0).astype(np.float32)[labels], _RING)
        ring = (beyond > 0) & (labels != beyond)
        whose = beyond[ring].astype(np.int64)
        within = np.bincount(whose, others[ring], count) / np.maximum(np.bincount(whose, minlength=count), 1)
        found |= (small & (within > _WITHIN))[labels]
    return found


def _apertures(
    worn: FloatArray, kinds: Sequence[FloatArray], sound: BoolArray, flat: Pixels
) -> _Aperture | None:
    """Where small marks are, and the ground round each; None where they hold little of any kind."""
    total, labels, stats, _middles = cv2.connectedComponentsWithStats(
        (worn > _MARKED).view(np.uint8), connectivity=8
    )
    small = stats[:, cv2.CC_STAT_AREA] < _MOST_PX
    small[0] = False
    some = slice(None, None, 1 + worn.shape[0] // _ROWS)
    in_small = small[labels[some]]
    if not any(one[some][in_small].sum() > _MATTERS * one[some].sum() for one in kinds):
        return None
    near, whose = cv2.distanceTransformWithLabels(
        (labels == 0).view(np.uint8), cv2.DIST_L2, 3, labelType=cv2.DIST_LABEL_CCOMP
    )
    named_so = np.zeros(int(whose.max()) + 1, np.int64)
    marked = labels > 0
    named_so[whose[marked]] = labels[marked]
    own = np.where(near <= _REACH, named_so[whose], 0)
    wide = np.where(small[own], own, 0).astype(np.float32)
    beyond = _largest(wide, _RING)
    ring = np.flatnonzero((wide == 0) & (beyond > 0) & sound & ~(_largest(worn, _GAP) > _FAINTEST))
    round_it = beyond.ravel()[ring].astype(np.int64)
    count = np.bincount(round_it, minlength=total)
    seen = flat(ring)
    ground = np.stack([np.bincount(round_it, seen[:, c], total) for c in range(3)], axis=-1)
    places = np.flatnonzero(wide)
    return _Aperture(
        places, wide.ravel()[places].astype(np.int64), small & (count >= _LEAST_RING), ground / np.maximum(count, 1)[:, None],
        count,
    )  # fmt: skip


def _largest(values: FloatArray, side: int) -> FloatArray:
    return np.asarray(cv2.dilate(values, np.ones((side, side), np.uint8)))


def _explained(
    found: _Aperture,
    before: FloatArray,
    cores: FloatArray,
    paints: FloatArray,
    whiten: FloatArray,
    seen: FloatArray,
) -> tuple[IntArray, FloatArray, BoolArray]:
    """The kind (m,) of each mark from 0, how many pixels it covers, and whether one kind explains what it takes."""
    count = found.summed(np.ones(len(found.places)))
    sums = np.stack([found.summed(seen[:, c]) for c in range(3)], axis=-1)
    slope = np.maximum(found.ground, 0.004) ** (-2 / 3) / 3
    taken = ((count[:, None] * found.ground - sums) * slope) @ whiten
    whole = np.maximum((taken**2).sum(axis=1), 1e-9)
    kinds = cores.shape[1]
    covers, left, reach = (np.zeros((found.total, kinds)) for _each in range(3))
    for k in range(kinds):
        way = ((found.ground - paints[k + 1]) * slope) @ whiten
        reach[:, k] = np.maximum((way**2).sum(axis=1), 1e-9)
        covers[:, k] = (taken * way).sum(axis=1) / reach[:, k]
        left[:, k] = whole - covers[:, k] ** 2 * reach[:, k]
    left[covers <= 0] = np.inf
    firm = np.asarray((cores > 0).any(axis=1))
    left[firm[:, None] & (cores == 0)] = np.inf  # what fills a few pixels of a mark is it
    kind = left.argmin(axis=1)
    each = np.arange(found.total)
    noise = _CORRELATED * count * (1 + count / np.maximum(found.ring, 1)) / reach[each, kind]
    trust = (_UNSURE * before) ** 2 / np.maximum((_UNSURE * before) ** 2 + noise, 1e-9)
    size = before + trust * (np.clip(covers[each, kind], _LEAST * before, _MOST * before) - before)
    sure = (left[each, kind] < _ASKEW * whole) & (before > 0)
    return kind, size, sure


def _give(
    shares: Sequence[FloatArray], worn: FloatArray, found: _Aperture, before: FloatArray, kind: IntArray, size: FloatArray,
    which: BoolArray, named: int,
) -> None:  # fmt: skip
    """Put the sizes (m,) of the marks that were read into the shares, spread as they were read pixel by pixel."""
    times = np.where(which, size / np.maximum(before, 1e-9), 0.0)
    chosen = which[found.mark]
    places, mark = found.places[chosen], found.mark[chosen]
    scaled = (worn[chosen] * times[mark]).astype(np.float32)
    left = np.maximum(0, 1 - scaled)
    for number, share in enumerate(shares):
        if 1 <= number <= named:
            share.ravel()[places] = np.where(kind[mark] == number - 1, scaled, 0)
        elif number:
            share.ravel()[places] = np.minimum(share.ravel()[places], left)
            left -= share.ravel()[places]
    shares[0].ravel()[places] = left
