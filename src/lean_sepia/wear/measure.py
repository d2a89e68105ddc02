"""How much, how large, which way and where: the measures of one class of wear."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray, IntArray

_SMALLEST_MARK_PX, _SMALLEST_MEASURED_PX = 3, 20
_LONG = 1.8  # times as long as broad, from which a mark has a direction
_LEAST_LONG, _LEAST_AGREEING, _CHANCE = 5, 0.5, 0.001
_ASIDE_DEG = 25.0
_EDGE_SHARE_OF_SIDE = 0.05
_BANDS = 5
Line = Sequence[tuple[float, float]]
"""Points x, y of a line in a region, in pixels."""


@dataclass(frozen=True, eq=False)
class Marks:
    """Connected marks of one class.

    area_mm2 : (n,); labels : (h, w), 0 for none
    places, marks : (m,) the pixels of all marks, row by row, with the ring round each, and the mark each belongs to, from 0
    whole : (n,) whether a mark counts among sizes: of 20 px² and more, not cut by the border
    covered : share of the region, of which region_mm2 is the area, that the class covers, faint and smallest marks too
    """

    area_mm2: FloatArray
    labels: IntArray
    mm_per_px: float
    covered: float
    whole: BoolArray
    region_mm2: float
    places: IntArray
    marks: IntArray

    @property
    def diameter_mm(self) -> FloatArray:
        """Equivalent diameter √(4A/π) of each mark (n,)."""
        return np.sqrt(4 * self.area_mm2 / np.pi)

    @property
    def sizes_mm(self) -> FloatArray:
        """Equivalent diameters of the marks that count among sizes."""
        return self.diameter_mm[self.whole]


@dataclass(frozen=True)
class Streaks:
    """Long marks: their common direction, 0 straight down and positive to the right, its uncertainty, lengths and upper ends."""

    direction_deg: float
    within_deg: float
    median_mm: float
    sources: tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class ClassMeasure:
    """One class of wear in a region; sizes in millimetres on the prototype.

    `direction_deg` is 0 straight down, positive to the right, None where marks have none in common; `edge_share` the share of
    the class within 5 % of the region's shorter side from its border, or from edges that were drawn.
    islands : whether the sizes are those of the ground that is left, because more than half is worn
    by_height : share of each fifth of the region that is covered, from above; to_edge_mm : median distance to the next edge
    """

    name: str
    coverage_percent: float
    coverage_range90: tuple[float, float]
    median_mm: float
    median_range90: tuple[float, float]
    p90_mm: float
    count: int
    direction_deg: float | None
    edge_share: float
    islands: bool = False
    by_height: tuple[float, ...] = ()
    to_edge_mm: float = 0.0
    streaks: Streaks | None = None


def find_marks(
    core: BoolArray, share: FloatArray, mm_per_px: float, inside: BoolArray | None = None
) -> Marks:
    """Connected marks (8 neighbours) of a class.

    Parameters
    ----------
    core : (h, w) pixels that belong to the class
    share : (h, w) how much of each pixel the class covers
    inside : (h, w) pixels of the region; all where it is None

    Marks of one or two pixels are grain and left out. The area of a mark is the sum of shares over its core and
    the ring of pixels round it that it half covers, so blur neither adds nor takes area.
    """
    count, labels, stats, _ = cv2.connectedComponentsWithStats(core.astype(np.uint8), connectivity=8)
    pixels = stats[:, cv2.CC_STAT_AREA]
    keep = (pixels >= _SMALLEST_MARK_PX) & (np.arange(count) > 0)
    renumber = np.zeros(count, dtype=np.int32)
    renumber[keep] = np.arange(1, keep.sum() + 1)
    numbered = renumber[labels]
    # A neighbour counts for the mark it touches; between two marks for the one with the higher number.
    grown = np.asarray(cv2.dilate(numbered.astype(np.float32), np.ones((3, 3), np.uint8)), dtype=np.float32)
    places = np.flatnonzero(grown)
    own = numbered.ravel()[places]
    reach = np.where(own > 0, own, grown.ravel()[places].astype(np.int32)) - 1
    areas = np.bincount(reach, np.clip(share.ravel()[places], 0, 1), int(keep.sum()))
    whole = (pixels[keep] >= _SMALLEST_MEASURED_PX) & ~_cut(numbered, int(keep.sum()), inside)
    covered = float(share.mean() if inside is None else share[inside].mean())
    size = share.size if inside is None else int(inside.sum())
    square = mm_per_px**2
    return Marks(areas * square, numbered, mm_per_px, max(0.0, covered), whole, size * square, places, reach)


def _cut(labels: IntArray, count: int, inside: BoolArray | None) -> BoolArray:
    """Which marks (count,) touch the border of the region."""
    border = np.zeros(labels.shape, dtype=bool)
    border[[0, -1]] = border[:, [0, -1]] = True
    if inside is not None:
        border |= cv2.dilate((~inside).astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
    touched = np.zeros(count + 1, dtype=bool)
    touched[np.unique(labels[border])] = True
    return touched[1:]


def outline_marks(mask: BoolArray, x0: float, y0: float) -> list[tuple[tuple[float, float], ...]]:
    """Closed outlines of the marks in a mask (h, w) whose first pixel lies at x0, y0 of the picture."""
    found, _ = cv2.findContours(mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    return [
        tuple((float(x) + x0 + 0.5, float(y) + y0 + 0.5) for x, y in line.reshape(-1, 2)) for line in found
    ]


def measure_class(
    name: str,
    marks: Marks,
    share: FloatArray,
    *,
    within: float = 0.0,
    inside: BoolArray | None = None,
    edges: Sequence[Line] = (),
) -> ClassMeasure:
    """Measures of one class.

    Parameters
    ----------
    share : (h, w) how much of each pixel the class covers
    within : half the width of the interval that holds its share of the area in 90 %, in per cent
    inside : (h, w) pixels of the region; all where it is None
    edges : drawn edges; the border of the region where there are none
    """
    islands = marks.covered > 0.5
    of_sizes = (
        marks if not islands else find_marks(_ground_left(marks, inside), 1 - share, marks.mm_per_px, inside)
    )
    sizes = np.sort(of_sizes.sizes_mm)
    percent = 100 * marks.covered
    places = np.flatnonzero(share > 0)
    held = np.minimum(share.ravel()[places], 1)
    away = _to_edges(places, share.shape, inside, edges)
    margin = max(1.0, _EDGE_SHARE_OF_SIDE * _shorter_side(share.shape, inside))
    total = float(held.sum(dtype=float))
    streaks = None if islands else streaks_of(marks, share)
    return ClassMeasure(
        name=name,
        coverage_percent=percent,
        coverage_range90=(max(0.0, percent - within), min(100.0, percent + within)),
        median_mm=float(np.median(sizes)) if sizes.size else 0.0,
        median_range90=_median_range(sizes),
        p90_mm=float(np.quantile(sizes, 0.9)) if sizes.size else 0.0,
        count=int(sizes.size),
        direction_deg=streaks.direction_deg if streaks else None,
        edge_share=float(held[away <= margin].sum() / total) if total > 0 else 0.0,
        islands=islands,
        by_height=_by_height(held, places, share.shape, inside),
        to_edge_mm=_median_away(held, away) * marks.mm_per_px,
        streaks=streaks,
    )


def _ground_left(marks: Marks, inside: BoolArray | None) -> BoolArray:
    left = marks.labels == 0
    return left if inside is None else left & inside


def _median_range(sizes: FloatArray) -> tuple[float, float]:
    """The interval of order that holds the median of all marks of this kind in 90 %, from sorted sizes (n,)."""
    n = len(sizes)
    if not n:
        return 0.0, 0.0
    half = 1.645 * np.sqrt(n) / 2
    low, high = (
        int(np.clip(np.floor((n - 1) / 2 - half), 0, n - 1)),
        int(np.clip(np.ceil((n - 1) / 2 + half), 0, n - 1)),
    )
    return float(sizes[low]), float(sizes[high])


def _shorter_side(shape: tuple[int, ...], inside: BoolArray | None) -> float:
    if inside is None or not inside.any():
        return float(min(shape))
    rows, columns = np.flatnonzero(inside.any(axis=1)), np.flatnonzero(inside.any(axis=0))
    return float(min(rows[-1] - rows[0], columns[-1] - columns[0]) + 1)


def _to_edges(
    places: IntArray, shape: tuple[int, ...], inside: BoolArray | None, edges: Sequence[Line]
) -> FloatArray:
    """Distance (n,) in pixels from the middles of pixels to the nearest edge."""
    height, width = shape
    if edges:
        canvas = np.ones((height, width), np.uint8)
        for line in edges:
            cv2.polylines(canvas, [np.round(np.array(line)).astype(np.int32)], False, 0)
        return np.asarray(cv2.distanceTransform(canvas, cv2.DIST_L2, 5).ravel()[places], dtype=float)
    if inside is not None and not inside.all():
        padded = np.pad(inside.astype(np.uint8), 1)
        return np.asarray(
            cv2.distanceTransform(padded, cv2.DIST_L2, 5)[1:-1, 1:-1].ravel()[places], dtype=float
        )
    rows, columns = np.divmod(places, width)
    across = np.minimum(columns + 1, width - columns)
    return np.asarray(np.minimum(across, np.minimum(rows + 1, height - rows)), dtype=float)


def _median_away(held: FloatArray, away: FloatArray) -> float:
    whole = np.bincount(np.floor(away).astype(int), held)
    if whole.sum() <= 0:
        return 0.0
    return float(np.searchsorted(np.cumsum(whole), whole.sum() / 2))


def _by_height(
    held: FloatArray, places: IntArray, shape: tuple[int, ...], inside: BoolArray | None
) -> tuple[float, ...]:
    """Share (bands,) of each band that is covered, from above."""
    rows = np.arange(shape[0]) if inside is None else np.flatnonzero(inside.any(axis=1))
    covered = np.bincount(places // shape[1], held, shape[0])
    area = np.full(shape[0], shape[1]) if inside is None else inside.sum(axis=1)
    return tuple(
        float(min(1.0, covered[band].sum() / max(1, area[band].sum())))
        for band in np.array_split(rows, _BANDS)
    )


def streaks_of(marks: Marks, share: FloatArray) -> Streaks | None:
    """What long marks have in common; None where their directions agree no better than by chance.

    The axis of each mark comes from its second moments, each pixel counting by its share. Axes have no head, so their doubled
    angles are averaged; the test is Rayleigh's. Source: Mardia and Jupp, Directional Statistics (2000), 6.3.1, from memory.
    """
    label, x, y, held = _pixels_of_long_marks(marks, share)
    if not len(label):
        return None
    count = int(label.max()) + 1
    mass = np.maximum(np.bincount(label, held, count), 1e-9)

    def mean(values: FloatArray) -> FloatArray:
        return np.asarray(np.bincount(label, held * values, count) / mass)

    mean_x, mean_y = mean(x), mean(y)
    # A pixel is a square, so each axis has at least the variance 1/12 of its side.
    off_x, off_y = x - mean_x[label], y - mean_y[label]
    xx, yy, xy = mean(off_x**2) + 1 / 12, mean(off_y**2) + 1 / 12, mean(off_x * off_y)
    half, root = (xx + yy) / 2, np.sqrt(((xx - yy) / 2) ** 2 + xy**2)
    longer = np.sqrt((half + root) / np.maximum(half - root, 1e-9))
    doubled = np.arctan2(2 * xy, yy - xx)
    long = np.zeros(count, dtype=bool)
    long[np.unique(label)] = True
    if long.sum() < _LEAST_LONG or float(np.median(longer[long])) < _LONG:
        return None
    long &= longer > _LONG
    weight = np.where(long, np.minimum(longer - 1, 4) * np.sqrt(mass), 0.0)
    found = _agreeing(doubled, weight)
    if found is None:
        return None
    angle, within, near = found
    axis = np.array([np.sin(angle), np.cos(angle)])
    along = off_x * axis[0] + off_y * axis[1]
    length = np.sqrt(12 * mean(along**2))[near] * marks.mm_per_px
    ends = np.column_stack([mean_x, mean_y])[near] - (length / marks.mm_per_px / 2)[:, None] * (
        axis if axis[1] >= 0 else -axis
    )
    degrees = float(np.degrees(angle))
    return Streaks(
        90.0 if degrees <= -90 else degrees,
        float(np.degrees(within)),
        float(np.median(length)),
        tuple((float(a), float(b)) for a, b in ends),
    )


def _pixels_of_long_marks(
    marks: Marks, share: FloatArray
) -> tuple[IntArray, FloatArray, FloatArray, FloatArray]:
    """Mark, place and share of every pixel of the marks of at least 20 px², with the ring round each."""
    large = marks.area_mm2 >= _SMALLEST_MEASURED_PX * marks.mm_per_px**2
    chosen = large[marks.marks]
    rows, columns = np.divmod(marks.places[chosen], share.shape[1])
    held = np.clip(share[rows, columns], 0, 1)
    return marks.marks[chosen], columns.astype(float), rows.astype(float), held.astype(float)


def _agreeing(doubled: FloatArray, weight: FloatArray) -> tuple[float, float, IntArray] | None:
    """Mean angle, the half width that holds it in 90 %, and the marks that agree with it; None where it may be chance."""
    if (weight > 0).sum() < _LEAST_LONG:
        return None
    together = (weight * np.exp(1j * doubled)).sum() / weight.sum()
    several = weight.sum() ** 2 / (weight**2).sum()
    if abs(together) < _LEAST_AGREEING or np.exp(-several * abs(together) ** 2) > _CHANCE:
        return None
    middle = np.angle(together)
    for _round in range(3):
        away = np.angle(np.exp(1j * (doubled - middle))) / 2
        near = (np.abs(away) < np.radians(_ASIDE_DEG)) & (weight > 0)
        middle = np.angle((weight * near * np.exp(1j * doubled)).sum())
    away = np.angle(np.exp(1j * (doubled - middle)))[near] / 2
    own = weight[near] / weight[near].sum()
    error = np.sqrt(max(float((own * away**2).sum()), 1e-9) * float((own**2).sum()))
    return float(middle / 2), 1.645 * float(error), np.flatnonzero(near)
