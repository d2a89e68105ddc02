"""What else there is in a region that nobody pointed at: a second tone of the ground, a kind without a name.

It is found as colours that many even pixels, or many marks, have in common, and that are neither a paint that is known nor a
mixture of the ground with one.
"""

from __future__ import annotations

import cv2
import numpy as np
from scipy.spatial import KDTree

from lean_sepia.arrays import BoolArray, FloatArray, IntArray
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.lights import white
from lean_sepia.wear.scene import Look, Scene, encoded, whitening

_MOST, _LEAST_AREA, _PIXELS = 3, 0.001, 250_000
_SOME, _EVERY = 2000, 30_000
_EVEN, _UNLIKE, _PLAINLY = 1.5, 4.0, 8.0  # of the noise
_ALIKE, _OF_ONE, _TAKEN = 2.0, 3.0, 4.5  # of the noise
_MARK_COUNTS = 12  # pixels that the purest pixel of a mark counts for
_BLOCK, _BLOCKS = 12, 1500
_LEAST_NOISE = 0.004
_OF_A_KIND, _ASIDE = 14.0, 9.0  # ΔE*ab: nearer to a kind it is that kind, nearer to a mixture it may be one
_SOFT, _NEAR_GROUND = 0.2, 10.0
_BAND = 48
_SEED = 17


def grain_of(look: Look) -> FloatArray:
    """Covariance (3, 3) of neighbouring pixels, encoded, in the evenest parts of a region."""
    height, width = (n // _BLOCK for n in look.shape)
    if height * width < 4:
        return np.asarray((2 * _LEAST_NOISE) ** 2 * np.eye(3))
    chosen = np.random.default_rng(_SEED).permutation(height * width)[:_BLOCKS]
    rows, columns = np.divmod(chosen, width)
    inside = np.arange(_BLOCK)
    places = (
        ((rows * _BLOCK)[:, None, None] + inside[:, None]) * look.shape[1]
        + (columns * _BLOCK)[:, None, None]
        + inside
    )
    blocks = encoded(look.single(places.ravel()).reshape(len(chosen), -1, 3) / white())
    blocks -= blocks.mean(axis=1, keepdims=True)
    every = np.einsum("bni,bnj->bij", blocks, blocks) / blocks.shape[1]
    order = np.argsort(np.trace(every, axis1=1, axis2=2))
    return np.asarray(every[order[: max(4, len(order) // 5)]].mean(axis=0) + _LEAST_NOISE**2 * np.eye(3))


def unnamed(look: Look, scene: Scene) -> FloatArray:
    """Colours (n, 3) that there is much of in a region, besides the paints of a scene."""
    if min(look.shape) < _BLOCK:
        return np.zeros((0, 3))
    rows = _some_rows(look.shape)
    places = (rows[:, None] * look.shape[1] + np.arange(look.shape[1])).ravel()
    flat = scene.flattened(look, places).reshape(len(rows), look.shape[1], 3)
    whiten = whitening(scene.spread).astype(np.float32)
    blurred: FloatArray = np.asarray(cv2.GaussianBlur(flat, (0, 0), 1.0), dtype=np.float32)
    seen = encoded(blurred) @ whiten
    across = np.abs(seen[2:, 1:-1] - seen[:-2, 1:-1]).max(axis=-1)
    down = np.abs(seen[1:-1, 2:] - seen[1:-1, :-2]).max(axis=-1)
    points = seen[1:-1, 1:-1][np.maximum(across, down) < _EVEN]
    whole = len(points)
    paints = encoded(scene.paints) @ whiten
    away = np.min([((points - paint) ** 2).sum(axis=1) for paint in paints], axis=0)
    contrast = np.sqrt(((seen - paints[0]) ** 2).sum(axis=-1)).astype(np.float32)
    purest = (contrast == cv2.dilate(contrast, np.ones((7, 7), np.uint8))) & (contrast > _PLAINLY)
    points = np.concatenate([points[away > _UNLIKE**2], np.repeat(seen[purest], _MARK_COUNTS, axis=0)])
    every = seen.reshape(-1, 3)[:: max(1, seen.size // 3 // _EVERY)]
    rng = np.random.default_rng(_SEED)
    found: list[FloatArray] = []
    while len(found) < _MOST and len(points) > max(_LEAST_AREA * whole, 20):
        centre = _densest(points[rng.permutation(len(points))[:_SOME]])
        near = ((points - centre) ** 2).sum(axis=1)
        if (near < _OF_ONE**2).sum() < _LEAST_AREA * whole:
            break
        if _is_a_paint(centre, every, scene, whiten):
            found.append(_colour(centre, whiten))
        points = points[near > _TAKEN**2]
    return np.array(found).reshape(-1, 3)


def _some_rows(shape: tuple[int, int]) -> IntArray:
    """Rows enough to judge by, in bands from every part of a large region."""
    step, rows = max(1, shape[0] * shape[1] // _PIXELS), np.arange(shape[0])
    return rows[rows // _BAND % step == step // 2]


def _densest(points: FloatArray) -> FloatArray:
    """Where most of some points (n, 3) lie together, by mean shift."""
    counts = KDTree(points).query_ball_point(points, _ALIKE, return_length=True)
    centre = points[int(np.argmax(counts))]
    for _round in range(5):
        centre = points[((points - centre) ** 2).sum(axis=1) < _ALIKE**2].mean(axis=0)
    return np.asarray(centre)


def _colour(seen: FloatArray, whiten: FloatArray) -> FloatArray:
    return np.asarray(np.maximum(seen @ np.linalg.inv(whiten), 0.05) ** 3)


def apart(kinds: FloatArray, others: FloatArray) -> BoolArray:
    """Which of the others (n, 3) are none of the kinds (k, 3)."""
    lab, known = lab_from_xyz(others * white()), lab_from_xyz(kinds.reshape(-1, 3) * white())
    return np.array(
        [all(np.linalg.norm(one - kind) >= _OF_A_KIND for kind in known) for one in lab], dtype=bool
    )


def _is_a_paint(centre: FloatArray, every: FloatArray, scene: Scene, whiten: FloatArray) -> bool:
    """Whether a colour is a paint of its own: no mixture of ground and kind, or one with sharp borders to the ground."""
    t = np.linspace(0, 1, 51)[:, None]
    colour, ground = _colour(centre, whiten), scene.paints[0]
    if not apart(scene.paints[1:], colour[None]).all():
        return False
    lab = lab_from_xyz(colour * white())
    for kind in scene.paints[1:]:
        mixes = (1 - t) * ground + t * kind
        aside = np.linalg.norm(lab_from_xyz(mixes * white()) - lab, axis=1)
        at = int(aside.argmin())
        if aside[at] < _ASIDE and _soft(encoded(mixes) @ whiten, at, centre, every):
            return False
    return True


def _soft(line: FloatArray, at: int, centre: FloatArray, every: FloatArray) -> bool:
    """Whether between the ground and a colour on the line (n, 3) to a kind there is so much that it is no paint with a sharp border."""
    near = float((((every - centre) ** 2).sum(axis=1) < _OF_ONE**2).sum())
    low, high = round(0.25 * at), max(round(0.75 * at), 1)
    between = np.min([((every - one) ** 2).sum(axis=1) for one in line[low : high + 1]], axis=0) < _OF_ONE**2
    length = 2 * _OF_ONE + np.linalg.norm(line[high] - line[low])
    dense = float(between.sum()) / length > _SOFT * near / (2 * _OF_ONE)
    return bool(dense or np.linalg.norm(centre - line[0]) < _NEAR_GROUND)
