"""Which pixels of a region are still the base paint, and which are worn, and how.

Pixels come flattened by `wear.light`. What looks like one paint is it; what lies between two is a mixture of light, whose share is
read along the line between them in linear light. Rims belong to the marks they lie at.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from types import MappingProxyType

import cv2
import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray, IntArray
from lean_sepia.colour.lab import xyz_from_lab
from lean_sepia.colour.lights import white
from lean_sepia.wear.light import Spot, encoded, fit_scene

NOWHERE: Mapping[str, Spot] = MappingProxyType({})
WORN = "worn"
"""The one class used when the user names none: whatever is clearly not the base."""

_ALIKE, _FAINT_WIDTHS = 3.4, 4.0  # of the noise
_LEAST_STEP = 0.035  # encoded: below this a mark is within what light and dirt do to one paint
_BETWEEN_TWO, _OUT_OF_REACH, _NO_MIXTURE = 2.0, 8.0, 14.0  # of the noise
_SMOOTHED, _REACH = 0.7, 9
_ROWS_AT_ONCE = 256


def unlike_ground(flat: FloatArray, ground: FloatArray, noise: float) -> BoolArray:
    """Pixels (h, w) that are clearly not the ground (3,), in any way."""
    away = np.linalg.norm(encoded(flat) - encoded(ground), axis=-1)
    return np.asarray(away > max(_FAINT_WIDTHS * noise, _LEAST_STEP))


def shares_of(flat: FloatArray, paints: FloatArray, noise: float) -> FloatArray:
    """How much of each pixel (h, w, k) is each paint (k, 3), the ground first; less than one in all where it is none of them."""
    smooth: FloatArray = np.asarray(cv2.GaussianBlur(flat, (0, 0), _SMOOTHED), dtype=np.float32)
    shares = np.zeros((*flat.shape[:2], len(paints)), np.float32)
    alike = _alike(smooth, paints, noise)
    kernel, reach = np.ones((3, 3), np.uint8), np.ones((_REACH, _REACH), np.uint8)
    near = np.zeros(shares.shape, bool)
    for number in range(len(paints)):
        own = (alike == number).astype(np.uint8)
        # A kind has whole pixels only where it fills a few: a rim may look like another kind.
        core = cv2.morphologyEx(own, cv2.MORPH_OPEN, kernel) if number else own
        shares[..., number] = core
        near[..., number] = cv2.dilate(core, reach) > 0
    for rows in _bands(flat.shape[0]):
        between = ~shares[rows].any(axis=-1)
        if between.any():
            band = shares[rows]
            band[between] = _mixed(smooth[rows][between], near[rows][between], paints, noise)
    return shares


def _bands(height: int) -> Iterator[slice]:
    for start in range(0, height, _ROWS_AT_ONCE):
        yield slice(start, min(height, start + _ROWS_AT_ONCE))


def _alike(smooth: FloatArray, paints: FloatArray, noise: float) -> IntArray:
    """The paint (h, w) that a pixel looks like; −1 where it looks like none."""
    found: IntArray = np.full(smooth.shape[:2], -1, dtype=np.int64)
    whole = encoded(paints).astype(np.float32)
    for rows in _bands(smooth.shape[0]):
        seen = encoded(smooth[rows])
        best = np.full(seen.shape[:2], np.float32((_ALIKE * noise) ** 2))
        for number, paint in enumerate(whole):
            step = seen - paint
            away = np.einsum("ijk,ijk->ij", step, step)
            nearer = away < best
            found[rows][nearer] = number
            best[nearer] = away[nearer]
    return found


def _mixed(pixels: FloatArray, near: BoolArray, paints: FloatArray, noise: float) -> FloatArray:
    """Shares (n, k) of pixels (n, 3) that are no paint alone: of the two that explain each best, mixtures with the ground first."""
    count = len(paints)
    seen, marked = encoded(pixels), near[:, 1:].any(axis=1)
    best = np.full(len(pixels), np.inf)
    which, share = np.zeros((len(pixels), 2), np.int64), np.zeros(len(pixels))
    for one in range(count):
        for other in range(one + 1, count):
            way = paints[other] - paints[one]
            t = np.clip((pixels - paints[one]) @ way / max(float(way @ way), 1e-12), 0, 1)
            missed = ((encoded(paints[one] + t[:, None] * way) - seen) ** 2).sum(axis=-1)
            cost = missed + (_BETWEEN_TWO * noise) ** 2 * (one > 0)
            here = near[:, other] & (near[:, one] | (one == 0))
            cost += np.where(marked & ~here, (_OUT_OF_REACH * noise) ** 2, 0.0)
            better = cost < best
            best[better], share[better] = cost[better], t[better]
            which[better] = (one, other)
    found = np.zeros((len(pixels), count), np.float32)
    row = np.arange(len(pixels))
    found[row, which[:, 0]] += (1 - share).astype(np.float32)
    found[row, which[:, 1]] += share.astype(np.float32)
    found[best > (_NO_MIXTURE * noise) ** 2] = 0
    return found


def segment(
    xyz: FloatArray, base: FloatArray, classes: Mapping[str, FloatArray], spots: Mapping[str, Spot] = NOWHERE
) -> tuple[dict[str, tuple[BoolArray, FloatArray]], FloatArray]:
    """For every class of wear the pixels that are mostly of it and how much of each it is; and the region in even light.

    Without classes everything that is clearly not the ground is one class, "worn", of whole pixels.

    Parameters
    ----------
    xyz : (h, w, 3), Y = 1 for white
    base : L*a*b* (3,) of the ground
    classes : name to L*a*b* (3,)
    spots : where in the region colours were pointed at, by the class's name, "" for the ground; what is missing is known otherwise

    Returns
    -------
    Name to a mask (h, w) and shares (h, w) in 0–1; XYZ (h, w, 3)
    """
    names = list(classes)
    colours = xyz_from_lab(np.array([base, *(classes[name] for name in names)]))
    scene = fit_scene(xyz, colours, [spots.get(name) for name in ("", *names)])
    flat = scene.flattened(xyz)
    even = flat * white()
    if not names:
        worn = unlike_ground(flat, scene.paints[0], scene.noise)
        return {WORN: (worn, worn.astype(float))}, even
    shares = shares_of(flat, scene.paints, scene.noise)
    most = shares.argmax(axis=-1)
    return {
        name: ((most == number) & (shares[..., number] > 0.5), shares[..., number])
        for number, name in enumerate(names, start=1)
    }, even
