"""Pixels as mixtures of light of two or three paints."""

from __future__ import annotations

from itertools import combinations

import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray
from lean_sepia.wear.scene import encoded

_OF_THREE, _BETWEEN_TWO, _OUT_OF_REACH, _NO_MIXTURE = 4.0, 3.0, 12.0, 6.0  # of the noise
_ASKEW = 0.35  # of the step from the ground, that a mixture may be off
_FLAT_ENOUGH = 0.1


def _share_along(paint: FloatArray, ground: FloatArray, whiten: FloatArray) -> FloatArray:
    """What (3,) a step of a pixel from the ground is multiplied by to read the share of a paint in it."""
    slope = np.maximum((paint + ground) / 2, 0.004) ** (-2 / 3) / 3
    metric = slope[:, None] * (whiten @ whiten.T) * slope
    way = paint - ground
    return np.asarray(metric @ way / max(float(way @ metric @ way), 1e-12), dtype=np.float32)


def towards(pixels: FloatArray, paint: FloatArray, ground: FloatArray, whiten: FloatArray) -> FloatArray:
    """Share (n,) of a paint (3,) in mixtures (n, 3) with the ground (3,), beyond 0 and 1 too, so that noise averages out.

    whiten : (3, 3) that brings encoded values to units of the noise
    """
    return np.asarray((pixels - ground.astype(np.float32)) @ _share_along(paint, ground, whiten))


def mixed(pixels: FloatArray, near: BoolArray, paints: FloatArray, whiten: FloatArray) -> FloatArray:
    """Shares (n, k) of pixels (n, 3) that are no paint alone: of those that explain each best, mixtures with the ground first.

    near : (n, k) whether a paint lies near; what does not is believed only where nothing else explains the pixel
    paints : (k, 3), the ground first; whiten : (3, 3) that brings encoded values to units of the noise
    """
    count = len(paints)
    seen, marked = encoded(pixels) @ whiten, near[:, 1:].any(axis=1)
    best, least = np.full(len(pixels), np.inf), np.zeros(len(pixels))
    found = np.zeros((len(pixels), count), np.float32)
    for one, other in combinations(range(count), 2):
        t = np.clip(towards(pixels, paints[other], paints[one], whiten), 0, 1)
        mix = (paints[one] + t[:, None] * (paints[other] - paints[one])).astype(np.float32)
        missed = ((encoded(mix) @ whiten - seen) ** 2).sum(axis=-1)
        here = near[:, other] & (near[:, one] | (one == 0))
        cost = missed + _BETWEEN_TWO**2 * (one > 0) + np.where(marked & ~here, _OUT_OF_REACH**2, 0.0)
        better = cost < best
        best[better], least[better] = cost[better], missed[better]
        found[better] = 0
        found[better, one], found[better, other] = 1 - t[better], t[better]
    for trio in combinations(range(count), 3):
        _of_three(trio, found, (pixels, seen, near), paints, whiten, best, least)
    contrast = ((seen - encoded(paints[0]) @ whiten) ** 2).sum(axis=-1)
    found[least > np.maximum(_NO_MIXTURE**2, _ASKEW**2 * contrast)] = 0
    return found


def _of_three(
    trio: tuple[int, ...],
    found: FloatArray,
    given: tuple[FloatArray, FloatArray, BoolArray],
    paints: FloatArray,
    whiten: FloatArray,
    best: FloatArray,
    least: FloatArray,
) -> None:
    """Mixtures of three paints that lie near, where they explain a pixel clearly better than any two."""
    pixels, seen, near = given
    here = near[:, trio[1]] & near[:, trio[2]] & (near[:, trio[0]] | (trio[0] == 0))
    rows = np.flatnonzero(here & (best > _OF_THREE**2))
    if not len(rows):
        return
    first, ways = paints[trio[0]], paints[list(trio[1:])] - paints[trio[0]]
    slope = np.maximum(pixels[rows], 0.004) ** (-2 / 3) / 3
    basis = (slope[:, None] * ways) @ whiten
    gram = np.einsum("nik,njk->nij", basis, basis)
    scale = gram[:, 0, 0] * gram[:, 1, 1]
    known = np.maximum(scale - gram[:, 0, 1] ** 2, 1e-12)
    right = np.einsum("nik,nk->ni", basis, (slope * (pixels[rows] - first)) @ whiten)
    t1 = (gram[:, 1, 1] * right[:, 0] - gram[:, 0, 1] * right[:, 1]) / known
    t2 = (gram[:, 0, 0] * right[:, 1] - gram[:, 0, 1] * right[:, 0]) / known
    mix = first + t1[:, None] * ways[0] + t2[:, None] * ways[1]
    missed = ((encoded(mix) @ whiten - seen[rows]) ** 2).sum(axis=-1)
    fits = (t1 >= 0) & (t2 >= 0) & (t1 + t2 <= 1) & (known > _FLAT_ENOUGH * scale)
    fits &= missed + _OF_THREE**2 < best[rows]
    rows, t1, t2 = rows[fits], t1[fits], t2[fits]
    best[rows], least[rows] = missed[fits] + _OF_THREE**2, missed[fits]
    found[rows] = 0
    found[np.ix_(rows, list(trio))] = np.column_stack([1 - t1 - t2, t1, t2])
