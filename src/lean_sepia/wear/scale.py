"""What of the wear can still be seen on the model, and the tint that the rest becomes."""

from __future__ import annotations

from collections.abc import Mapping
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


VIEWED_MM = 300.0
"""From how far a model is looked at, unless something else is said (practice)."""


def smallest_visible_mm(scale: float, distance_mm: float = VIEWED_MM) -> float:
    """Smallest mark on the prototype that can be seen on the model: distance × tan 1′ × scale.

    >>> round(smallest_visible_mm(96), 1)
    8.4
    """
    return distance_mm * tan(radians(EYE_RESOLVES_DEG)) * scale


def at_scale(
    classes: Mapping[str, Marks],
    colours: Mapping[str, FloatArray],
    ground: FloatArray,
    scale: float,
    distance_mm: float = VIEWED_MM,
) -> AtScale:
    """Split the marks into visible ones and a tint.

    Parameters
    ----------
    classes : the marks of each class in one region
    colours : XYZ (3,) of each class
    ground : XYZ (3,) of the ground
    """
    smallest = smallest_visible_mm(scale, distance_mm)
    visible, tinted = 0.0, np.zeros(3)
    for name, marks in classes.items():
        area = marks.region_mm2
        large = marks.diameter_mm >= smallest
        seen = float(marks.area_mm2[large].sum()) / area if area > 0 else 0.0
        # What is no mark of its own, such as the faint end of a streak, belongs to the marks it lies at.
        every = float(marks.area_mm2.sum()) / area if area > 0 else 0.0
        share = seen * max(1.0, marks.covered / every) if every > 0 else 0.0
        visible += share
        tinted += max(0.0, marks.covered - share) * (colours[name] - ground)
    bare = max(1 - visible, 1e-6)
    shift = lab_from_xyz(ground + tinted / bare) - lab_from_xyz(ground)
    return AtScale(smallest, 100 * min(visible, 1.0), (float(shift[0]), float(shift[1]), float(shift[2])))
