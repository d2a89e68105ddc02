"""What of the wear can still be seen on the model, and the tint that the rest becomes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import radians, tan

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.wear.measure import Marks

EYE_RESOLVES_DEG = 1 / 60
"""One arc-minute: what a good eye separates."""


@dataclass(frozen=True)
class AtScale:
    """Sizes in millimetres on the prototype; the shift is L*a*b* of the tint minus the base."""

    smallest_visible_mm: float
    visible_coverage_percent: float
    tint_lab_shift: tuple[float, float, float]


def smallest_visible_mm(scale: float, distance_mm: float = 300.0) -> float:
    """Smallest mark on the prototype that can be seen on the model: distance × tan 1′ × scale.

    >>> round(smallest_visible_mm(96), 1)
    8.4
    """
    return distance_mm * tan(radians(EYE_RESOLVES_DEG)) * scale


def at_scale(classes: Sequence[Marks], xyz: FloatArray, scale: float, distance_mm: float = 300.0) -> AtScale:
    """Split the marks into visible ones and a tint.

    Parameters
    ----------
    classes : the marks of each class in one region
    xyz : (h, w, 3) of the region, Y = 1 for white
    """
    smallest = smallest_visible_mm(scale, distance_mm)
    visible = np.zeros(xyz.shape[:2], dtype=bool)
    visible_px = 0.0
    hidden = np.zeros(xyz.shape[:2], dtype=bool)
    for marks in classes:
        large = np.concatenate([[False], marks.diameter_mm >= smallest])[marks.labels]
        visible |= large
        visible_px += float(marks.area_mm2[marks.diameter_mm >= smallest].sum()) / marks.mm_per_px**2
        hidden |= (marks.labels > 0) & ~large
    base = ~visible & ~hidden
    shift = np.zeros(3)
    if hidden.any() and base.any():
        with_marks = xyz[~visible].mean(axis=0)
        shift = lab_from_xyz(with_marks) - lab_from_xyz(xyz[base].mean(axis=0))
    return AtScale(
        smallest, 100 * visible_px / visible.size, (float(shift[0]), float(shift[1]), float(shift[2]))
    )
