"""The whole wear of one region of a photo in one call."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np

from lean_sepia.arrays import BoolArray, FloatArray
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.lights import white
from lean_sepia.errors import BadInputError
from lean_sepia.language import _
from lean_sepia.wear.grade import Grade, grade, is_rust
from lean_sepia.wear.measure import ClassMeasure, Line, Marks, find_marks, measure_class
from lean_sepia.wear.scale import AtScale, at_scale
from lean_sepia.wear.scene import Look, Spot
from lean_sepia.wear.segment import NOWHERE, WORN, Segmented, segment
from lean_sepia.wear.trust import share_within

_THREADS = 2
_MUCH_LIGHTER, _ANOTHER_COLOUR = 25.0, 12.0  # L* and chroma between what was pointed at and what there is
_LARGE, _RARE, _NONE_LEFT = 0.15, 0.03, 0.02


@dataclass(frozen=True)
class Doubt:
    """What makes a survey doubtful: `ground-rare`, `ground-elsewhere`, `other-large` or `no-ground`, and the share of the region it is about."""

    code: str
    share: float


@dataclass(frozen=True, eq=False)
class Survey:
    """What a region shows: total coverage, each class, the grade of its rust, and what scale leaves of it.

    sized : whether a length was known; without one sizes are in pixels and must not be told as millimetres
    unlike : (3,) XYZ over the white's of what is unlike the ground, where no kind was named
    """

    coverage_percent: float
    classes: tuple[ClassMeasure, ...]
    marks: Mapping[str, Marks]
    grade: Grade
    at_scale: AtScale
    segmented: Segmented
    sized: bool
    unlike: FloatArray | None = None
    doubts: tuple[Doubt, ...] = ()


def survey(
    look: Look,
    base: FloatArray,
    classes: Mapping[str, FloatArray],
    *,
    mm_per_px: float | None,
    scale: float,
    distance_mm: float = 300.0,
    spots: Mapping[str, Spot] = NOWHERE,
    inside: BoolArray | None = None,
    edges: Sequence[Line] = (),
    said: Sequence[tuple[str, BoolArray]] = (),
    progress: Callable[[float], None] = lambda _share: None,
) -> Survey:
    """Survey a region.

    Parameters
    ----------
    base : L*a*b* (3,) of the sound paint
    classes : name to L*a*b* (3,); empty for one unnamed class
    mm_per_px : millimetres on the prototype in a pixel; None where no length is known
    scale : N of 1:N
    spots : where in the region the colours were pointed at, by class, "" for the base
    inside : (h, w) pixels of the region; said : what some of them show, by class, "" for the ground
    edges : edges that were drawn, instead of the region's border; progress : told how far it is, 0–1

    Raises
    ------
    BadInputError
        A size, scale or distance is not positive.
    """
    _must_be_positive(mm_per_px, scale, distance_mm)
    found = segment(look, base, classes, spots, inside, said, progress)
    marks, measures = _all_measured(found, mm_per_px or 1.0, inside, edges)
    unlike = _unlike(found, look)
    paints = found.scene.paints[1:] if unlike is None else unlike[None]
    colours = dict(zip(found.shares, paints * white(), strict=False))
    scaled = at_scale(marks, colours, found.scene.paints[0] * white(), scale, distance_mm)
    rust = grade(sum(measure.coverage_percent for measure in measures if is_rust(measure.name)))
    worn = min(100.0, sum(measure.coverage_percent for measure in measures))
    progress(1.0)
    return Survey(
        worn, measures, marks, rust, scaled, found, mm_per_px is not None, unlike, _doubts(found, base)
    )


def _all_measured(
    found: Segmented, mm_per_px: float, inside: BoolArray | None, edges: Sequence[Line]
) -> tuple[dict[str, Marks], tuple[ClassMeasure, ...]]:
    """The marks of each kind and what was measured of them, several kinds at once."""
    with ThreadPoolExecutor(_THREADS) as pool:
        known = pool.map(
            lambda name: find_marks(found.core(name), found.shares[name], mm_per_px, inside), found.shares
        )
        marks = dict(zip(found.shares, known, strict=True))
        return marks, tuple(pool.map(lambda name: _measured(found, name, marks[name], edges), marks))


def _measured(found: Segmented, name: str, marks: Marks, edges: Sequence[Line]) -> ClassMeasure:
    share = found.shares[name]
    within = share_within(share, found.inside, found.contrast(name))
    return measure_class(name, marks, share, within=within, inside=found.inside, edges=edges)


def _unlike(found: Segmented, look: Look) -> FloatArray | None:
    """The mean colour (3,), over the white's, of what is unlike the ground where no kind was named."""
    if WORN not in found.shares:
        return None
    worn = found.core(WORN)
    return np.asarray(
        found.scene.flattened(look, np.flatnonzero(worn)).mean(axis=0)
        if worn.any()
        else found.scene.paints[0]
    )


def _doubts(found: Segmented, base: FloatArray) -> tuple[Doubt, ...]:
    if WORN in found.shares:
        away = lab_from_xyz(found.scene.paints[0] * white()) - base
        elsewhere = abs(away[0]) > _MUCH_LIGHTER or np.hypot(away[1], away[2]) > _ANOTHER_COLOUR
        return (Doubt("ground-elsewhere", found.ground),) if elsewhere else ()
    ground, other, worn = found.ground, found.other, 1 - found.ground - found.other
    answer = []
    if ground < _NONE_LEFT and worn > 1 - 2 * _NONE_LEFT:
        answer.append(Doubt("no-ground", ground))
    elif ground < _RARE:
        answer.append(Doubt("ground-rare", ground))
    if other > _LARGE:
        answer.append(Doubt("other-large", other))
    return tuple(answer)


def _must_be_positive(mm_per_px: float | None, scale: float, distance_mm: float) -> None:
    for name, value in (
        (_("mm per pixel"), mm_per_px),
        ("scale", scale),
        (_("viewing distance"), distance_mm),
    ):
        if value is not None and not (np.isfinite(value) and value > 0):
            raise BadInputError(_("The {0} must be greater than 0; found {1:g}.").format(name, value))
