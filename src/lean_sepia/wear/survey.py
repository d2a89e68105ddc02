"""The whole wear of one region of a photo in one call."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.errors import BadInputError
from lean_sepia.language import _
from lean_sepia.wear.grade import Grade, grade, is_rust
from lean_sepia.wear.light import Spot
from lean_sepia.wear.measure import ClassMeasure, Marks, find_marks, measure_class
from lean_sepia.wear.scale import AtScale, at_scale
from lean_sepia.wear.segment import NOWHERE, segment


@dataclass(frozen=True, eq=False)
class Survey:
    """What a region shows: total coverage, each class, the grade of its rust, and what scale leaves of it."""

    coverage_percent: float
    classes: tuple[ClassMeasure, ...]
    marks: Mapping[str, Marks]
    grade: Grade
    at_scale: AtScale


def survey(
    xyz: FloatArray,
    base: FloatArray,
    classes: Mapping[str, FloatArray],
    *,
    mm_per_px: float,
    scale: float,
    distance_mm: float = 300.0,
    spots: Mapping[str, Spot] = NOWHERE,
) -> Survey:
    """Survey a region.

    Parameters
    ----------
    xyz : (h, w, 3) corrected, Y = 1 for white
    base : L*a*b* (3,) of the sound paint
    classes : name to L*a*b* (3,); empty for one unnamed class
    mm_per_px : millimetres on the prototype in a pixel
    scale : N of 1:N
    spots : where in the region the colours were pointed at, by class, "" for the base

    Raises
    ------
    BadInputError
        A size, scale or distance is not positive.
    """
    for name, value in (
        (_("mm per pixel"), mm_per_px),
        ("scale", scale),
        (_("viewing distance"), distance_mm),
    ):
        if not (np.isfinite(value) and value > 0):
            raise BadInputError(_("The {0} must be greater than 0; found {1:g}.").format(name, value))
    found, even = segment(xyz, base, classes, spots)
    marks = {name: find_marks(*one, mm_per_px) for name, one in found.items()}
    measures = tuple(measure_class(name, found) for name, found in marks.items())
    rust = sum(measure.coverage_percent for measure in measures if is_rust(measure.name))
    return Survey(
        coverage_percent=sum(measure.coverage_percent for measure in measures),
        classes=measures,
        marks=marks,
        grade=grade(rust),
        at_scale=at_scale(list(marks.values()), even, scale, distance_mm),
    )
