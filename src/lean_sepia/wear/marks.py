"""Marks drawn by chance to given statistics: share, sizes, direction, and where they are likely."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType

import cv2
import numpy as np

from lean_sepia.arrays import FloatArray

_FRACTION = 4  # binary places of a pixel in which forms are placed
_CORNERS = 14
_SMALLEST_PX, _MOST_MARKS, _TRIES, _IDLE = 0.35, 40_000, 6, 300
_ROUGH, _TAPER = 0.22, 0.5
_RIM = 1.6  # how much larger than its core a rim is (practice)
NO_RIMS: Mapping[int, int] = MappingProxyType({})


@dataclass(frozen=True)
class Statistics:
    """What marks of one kind are like, in pixels.

    share : of the area, 0–1; median_px : equivalent diameter; spread : deviation of its logarithm
    longer : how many times as long as broad, 1 for round ones; direction_deg : 0 straight down, positive to the right, None for any
    fades : whether a mark loses its colour towards its lower end; veil : whether it is no marks but a soft veil over an area
    """

    share: float
    median_px: float
    spread: float = 0.45
    longer: float = 1.3
    direction_deg: float | None = None
    fades: bool = False
    veil: bool = False


Drawn = list[tuple[float, float, float]]
"""Marks that were drawn: x, y and size in pixels."""


def draw_marks(
    shape: tuple[int, int],
    kinds: Sequence[Statistics],
    likely: Sequence[FloatArray | None],
    seed: int,
    rims: Mapping[int, int] = NO_RIMS,
) -> list[FloatArray]:
    """How much of each pixel (h, w) each kind covers; kinds lie beside each other, so that every one shows all its share.

    likely : for each kind how likely a mark is at each place (h, w), 0 where it cannot be; None for anywhere alike
    rims : which kind, by number, lies round the marks of which
    """
    free: FloatArray = np.ones(shape, np.float32)
    found: list[FloatArray] = [free] * len(kinds)
    marks: dict[int, Drawn] = {}
    for number in _order(kinds, rims):
        rng, where = np.random.default_rng([seed, number]), likely[number]
        if kinds[number].veil:
            found[number] = _veil(kinds[number].share, free, where, rng)
        else:
            cores = [(x, y, _RIM * size) for x, y, size in marks.get(rims.get(number, -1), [])]
            found[number], marks[number] = _drawn(kinds[number], free, where, cores, rng)
        free = free * (1 - found[number])
    return found


def _order(kinds: Sequence[Statistics], rims: Mapping[int, int]) -> list[int]:
    """Cores before their rims, and veils last: they lie between what stands."""

    def depth(number: int) -> int:
        return 1 + depth(rims[number]) if number in rims else 0

    return sorted(range(len(kinds)), key=lambda number: (kinds[number].veil, depth(number), number))


def _veil(share: float, free: FloatArray, where: FloatArray | None, rng: np.random.Generator) -> FloatArray:
    """A soft veil (h, w) that covers a share of the area."""
    goal = min(share, 0.98) * free.size
    if goal <= 0:
        return np.zeros_like(free)
    wide = cv2.GaussianBlur(
        rng.normal(0, 1, free.shape).astype(np.float32), (0, 0), max(2.0, max(free.shape) / 25)
    )
    cloud = np.exp(0.35 * wide / max(float(wide.std()), 1e-6))
    weight = cloud if where is None else cloud * np.maximum(where, 0)
    low, high = 0.0, 1.0
    while high < 2.0**40 and float((free * np.minimum(1, high * weight)).sum()) < goal:
        high *= 2
    for _half in range(40):
        middle = (low + high) / 2
        low, high = (
            (middle, high) if float((free * np.minimum(1, middle * weight)).sum()) < goal else (low, middle)
        )
    return np.asarray(free * np.minimum(1, high * weight), dtype=np.float32)


def _drawn(
    kind: Statistics, free: FloatArray, where: FloatArray | None, first: Drawn, rng: np.random.Generator
) -> tuple[FloatArray, Drawn]:
    """One kind, mark by mark, until its share is reached; the last one is as large as is still lacking.

    first : where the first marks are to lie, and how large
    """
    shape = (free.shape[0], free.shape[1])
    canvas, goal = np.zeros(shape, np.float32), min(kind.share, 0.98) * free.size
    weight = free if where is None else free * np.maximum(where, 0)
    total = np.cumsum(weight.ravel(), dtype=float)
    marks: Drawn = []
    if goal <= 0 or total[-1] <= 0:
        return canvas, marks
    covered, idle = 0.0, 0
    for number in range(_MOST_MARKS):
        lacking = goal - covered
        if lacking < 0.004 * goal or idle > _IDLE:
            break
        size = max(_SMALLEST_PX, kind.median_px * float(np.exp(rng.normal(0, kind.spread))))
        y, x = np.divmod(int(np.searchsorted(total, rng.random() * total[-1])), shape[1])
        place = (x + rng.random(), y + rng.random())
        if number < len(first):
            place, size = first[number][:2], first[number][2]
        begins = kind.fades and where is not None  # what runs down begins where it is fed
        rows, columns, more = _mark_at(canvas, free, kind, place, size, rng, begins=begins)
        found = float(more.sum())
        for _try in range(_TRIES):  # the last mark is as large as is still lacking
            if found <= 1.02 * lacking:
                break
            size *= 0.97 * float(np.sqrt(lacking / found))
            rows, columns, more = _mark_at(canvas, free, kind, place, size, rng, begins=begins)
            found = float(more.sum())
        if found > 1.02 * lacking:  # what is smaller than a pixel is fainter instead
            more *= lacking / found
            found = lacking
        canvas[rows, columns] += more
        covered += found
        marks.append((*place, size))
        idle = 0 if found > 0 else idle + 1
    return canvas, marks


def _mark_at(
    canvas: FloatArray,
    free: FloatArray,
    kind: Statistics,
    place: tuple[float, float],
    size: float,
    rng: np.random.Generator,
    *,
    begins: bool = False,
) -> tuple[slice, slice, FloatArray]:
    """One mark of a size where there is room: the window it lies in, and how much more of each pixel there it covers.

    begins : whether the place is its upper end, in place of its middle
    """
    longer = max(1.0, kind.longer * float(np.exp(rng.normal(0, 0.15))))
    half = size / 2 * np.sqrt(longer)
    turn = (
        rng.uniform(0, np.pi)
        if kind.direction_deg is None
        else np.radians(kind.direction_deg + rng.normal(0, 2.5))
    )
    if begins:
        place = (place[0] + half * float(np.sin(turn)), place[1] + half * float(np.cos(turn)))
    reach = int(np.ceil(half * (1 + 2 * _ROUGH))) + 2
    left, top = int(place[0]) - reach, int(place[1]) - reach
    rows = slice(max(0, top), max(0, min(canvas.shape[0], top + 2 * reach + 1)))
    columns = slice(max(0, left), max(0, min(canvas.shape[1], left + 2 * reach + 1)))
    own = _form(
        2 * reach + 1, (place[0] - left, place[1] - top), half, size / 2 / np.sqrt(longer), turn, kind, rng
    )
    own = (
        own[rows.start - top : rows.stop - top, columns.start - left : columns.stop - left]
        * free[rows, columns]
    )
    return rows, columns, np.maximum(own - canvas[rows, columns], 0)


def _form(
    side: int,
    middle: tuple[float, float],
    half: float,
    narrow: float,
    turn: float,
    kind: Statistics,
    rng: np.random.Generator,
) -> FloatArray:
    """One mark (side, side): a rough ellipse, or a bar that fades downwards."""
    axis, across = np.array([np.sin(turn), np.cos(turn)]), np.array([np.cos(turn), -np.sin(turn)])
    if kind.fades:
        y, x = np.mgrid[:side, :side] + 0.5
        along = (x - middle[0]) * axis[0] + (y - middle[1]) * axis[1]
        aside = np.abs((x - middle[0]) * across[0] + (y - middle[1]) * across[1])
        thinner = 1 - _TAPER * np.clip((along + half) / (2 * half), 0, 1)
        bar = np.clip(narrow * thinner * 0.886 - aside + 0.5, 0, 1) * np.clip(
            half * 0.886 - np.abs(along) + 0.5, 0, 1
        )
        return np.asarray(bar * np.clip(1.15 - (along + half) / (2.2 * half), 0, 1), dtype=np.float32)
    around = np.linspace(0, 2 * np.pi, _CORNERS, endpoint=False)
    rough = 1 + _ROUGH * (rng.normal(0, 0.6, _CORNERS) if narrow > 1.0 else np.zeros(_CORNERS))
    rough /= np.sqrt((rough**2).mean())
    points = np.outer(np.cos(around) * rough * half, axis) + np.outer(np.sin(around) * rough * narrow, across)
    points = np.round((points + np.array(middle) - 0.5) * 2**_FRACTION).astype(np.int32)
    fine = np.zeros((side, side), np.uint8)
    cv2.fillPoly(fine, [points], 255, lineType=cv2.LINE_AA, shift=_FRACTION)
    return np.asarray(fine, dtype=np.float32) / 255
