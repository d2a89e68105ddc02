"""How much, how large, which way and where: the measures of one class of wear."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray, IntArray

_SMALLEST_MARK_PX = 3
_ROUND_BELOW = 1.6  # mean elongation (long to short axis) below which a class has no direction
_EDGE_SHARE_OF_SIDE = 0.05


@dataclass(frozen=True, eq=False)
class Marks:
    """Connected marks of one class: their areas (n,) in mm², and a label image (h, w), 0 for none.

    covered : share of the region that the class covers, faint and smallest marks by their shares too
    """

    area_mm2: FloatArray
    labels: IntArray
    mm_per_px: float
    covered: float

    @property
    def diameter_mm(self) -> FloatArray:
        """Equivalent diameter √(4A/π) of each mark (n,)."""
        return np.sqrt(4 * self.area_mm2 / np.pi)


@dataclass(frozen=True)
class ClassMeasure:
    """One class of wear in a region; sizes in millimetres on the prototype.

    `direction_deg` is 0 straight down, positive to the right, None for round marks; `edge_share` the share of
    the class within 5 % of the region's shorter side from its border.
    """

    name: str
    coverage_percent: float
    median_mm: float
    p90_mm: float
    count: int
    direction_deg: float | None
    edge_share: float


def find_marks(core: BoolArray, share: FloatArray, mm_per_px: float) -> Marks:
    """Connected marks (8 neighbours) of a class.

    Parameters
    ----------
    core : (h, w) pixels that belong to the class
    share : (h, w) how much of each pixel the class covers, 0–1

    Marks of one or two pixels are grain and left out. The area of a mark is the sum of shares over its core and
    the ring of pixels round it that it half covers, so blur neither adds nor takes area.
    """
    count, labels, stats, _ = cv2.connectedComponentsWithStats(core.astype(np.uint8), connectivity=8)
    keep = (stats[:, cv2.CC_STAT_AREA] >= _SMALLEST_MARK_PX) & (np.arange(count) > 0)
    renumber = np.zeros(count, dtype=np.int32)
    renumber[keep] = np.arange(1, keep.sum() + 1)
    numbered = renumber[labels]
    # A neighbour counts for the mark it touches; between two marks for the one with the higher number.
    grown = cv2.dilate(numbered.astype(np.float32), np.ones((3, 3), np.uint8)).astype(np.int64)
    reach = np.where(numbered > 0, numbered, grown)
    areas = np.bincount(reach.ravel(), share.ravel(), int(keep.sum()) + 1)[1:]
    return Marks(areas * mm_per_px**2, numbered, mm_per_px, float(share.mean()))


def outline_marks(mask: BoolArray, x0: float, y0: float) -> list[tuple[tuple[float, float], ...]]:
    """Closed outlines of the marks in a mask (h, w) whose first pixel lies at x0, y0 of the picture."""
    found, _ = cv2.findContours(mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    return [
        tuple((float(x) + x0 + 0.5, float(y) + y0 + 0.5) for x, y in line.reshape(-1, 2)) for line in found
    ]


def measure_class(name: str, marks: Marks) -> ClassMeasure:
    """Measures of one class from its marks."""
    worn = marks.labels > 0
    sizes = marks.diameter_mm
    return ClassMeasure(
        name=name,
        coverage_percent=100 * marks.covered,
        median_mm=float(np.median(sizes)) if sizes.size else 0.0,
        p90_mm=float(np.quantile(sizes, 0.9)) if sizes.size else 0.0,
        count=int(sizes.size),
        direction_deg=_direction_deg(marks),
        edge_share=_edge_share(worn),
    )


def _direction_deg(marks: Marks) -> float | None:
    """Area-weighted mean axis of the marks, from their second moments."""
    rows, columns = np.nonzero(marks.labels)
    if rows.size == 0:
        return None
    label = marks.labels[rows, columns]
    size = np.bincount(label)

    def mean(values: FloatArray) -> FloatArray:
        return np.bincount(label, values, size.size) / np.maximum(size, 1)

    x, y = columns.astype(float), rows.astype(float)
    mean_x, mean_y = mean(x), mean(y)
    # A pixel is a square, so each axis has at least the variance 1/12 of its side.
    xx, yy = mean(x * x) - mean_x**2 + 1 / 12, mean(y * y) - mean_y**2 + 1 / 12
    xy = mean(x * y) - mean_x * mean_y
    half, root = (xx + yy) / 2, np.sqrt(((xx - yy) / 2) ** 2 + xy**2)
    elongation = np.sqrt((half + root) / np.maximum(half - root, 1e-9))
    marked = np.arange(size.size) > 0
    if float(np.average(elongation[marked], weights=size[marked])) < _ROUND_BELOW:
        return None
    # Axes have no head, so their doubled angles are averaged; the angle is measured from straight down.
    doubled = np.arctan2(2 * xy, yy - xx)
    weight = size * np.minimum(elongation - 1, 5) * marked
    mean_doubled = np.arctan2((weight * np.sin(doubled)).sum(), (weight * np.cos(doubled)).sum())
    degrees = float(np.degrees(mean_doubled / 2))
    return 90.0 if degrees <= -90 else degrees


def _edge_share(worn: BoolArray) -> float:
    total = int(worn.sum())
    if total == 0:
        return 0.0
    margin = max(1, round(_EDGE_SHARE_OF_SIDE * min(worn.shape)))
    inner = worn[margin:-margin, margin:-margin]
    return float((total - int(inner.sum())) / total)
