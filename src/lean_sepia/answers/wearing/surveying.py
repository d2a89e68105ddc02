"""How worn a traced part of a photo is, and what that comes to as coats."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from lean_sepia.answers.evidence import region_seen
from lean_sepia.answers.strata import Strata
from lean_sepia.answers.targets import Targets
from lean_sepia.answers.wearing.kinds import WEAR_KINDS, kind_of
from lean_sepia.arrays import BoolArray, FloatArray, triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.lights import white
from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.coats import Marks
from lean_sepia.document.edits.items import fresh_id
from lean_sepia.document.entities.worn import WearClass, WearRecord, WearStroke
from lean_sepia.document.model import Photo, Project, Region
from lean_sepia.errors import BadInputError
from lean_sepia.language import _
from lean_sepia.photo.correction.cast import Cast
from lean_sepia.photo.correction.pictures import CorrectedPicture
from lean_sepia.photo.patch import rectangle
from lean_sepia.photo.read import Pixels
from lean_sepia.wear.measure import ClassMeasure, outline_marks
from lean_sepia.wear.segment import NOWHERE
from lean_sepia.wear.survey import Survey, survey

Point = tuple[float, float]
Disc = tuple[float, float, float]
Progress = Callable[[float], None]
_SAME_COLOUR = 3.0  # ΔE00 below which a kind cannot be told from the ground
_LEAST_SIDE = 8


@dataclass(frozen=True)
class Ground:
    """The sound paint: its colour, and where it was pointed at on the photo, if it was."""

    lab: Lab
    spot: Disc | None = None


@dataclass(frozen=True)
class Pointed:
    """A kind of wear that was pointed at: its name, its colour, and where, if that is still known."""

    name: str
    lab: Lab
    spot: Disc | None = None


@dataclass(frozen=True)
class WearQuestion:
    """A traced part of a photo of a zone, the sound paint, the kinds pointed at, and the sizes.

    region : id of the region the answer replaces, or of a new one; mm_per_px : None where no length is known
    """

    zone: str
    photo: Photo
    region: str
    corners: tuple[Point, ...]
    ground: Ground
    kinds: tuple[Pointed, ...]
    mm_per_px: float | None
    scale: float
    strokes: tuple[WearStroke, ...] = ()


@dataclass(frozen=True, eq=False)
class WearAnswer:
    """The region with its survey, ready for the document, and each kind's outlines on the photo."""

    question: WearQuestion
    region: Region
    record: WearRecord
    survey: Survey
    outlines: Mapping[str, tuple[tuple[Point, ...], ...]]
    look: CorrectedPicture

    @property
    def sizes_mm(self) -> FloatArray:
        """Equivalent diameters (n,) of all marks, on the prototype; none where no length is known."""
        if not self.survey.sized:
            return np.array([])
        return np.concatenate([marks.diameter_mm for marks in self.survey.marks.values()] or [np.array([])])

    def even(self, rows: slice, columns: slice) -> FloatArray:
        """XYZ (h, w, 3) of a window of the region in its mean light and dust."""
        height, width = self.look.shape
        places = np.arange(height)[rows, None] * width + np.arange(width)[columns]
        flat = self.survey.segmented.scene.flattened(self.look, places.ravel())
        return np.asarray(flat.reshape(*places.shape, 3) * white())

    def typical_window(self, height: int, width: int) -> tuple[int, int]:
        """Top and left of the window of a size in which about as much is worn as in the whole."""
        worn = np.sum(list(self.survey.segmented.shares.values()), axis=0, dtype=np.float32)
        sums = cv2.integral(np.clip(worn, 0, 1).astype(np.float32))
        tops = np.unique(np.linspace(0, worn.shape[0] - height, 9).astype(int))
        lefts = np.unique(np.linspace(0, worn.shape[1] - width, 17).astype(int))
        t, s = (grid.ravel() for grid in np.meshgrid(tops, lefts, indexing="ij"))
        held = sums[t + height, s + width] - sums[t, s + width] - sums[t + height, s] + sums[t, s]
        best = int(np.abs(held / (height * width) - worn.mean()).argmin())
        return int(t[best]), int(s[best])


def measured_region(
    project: Project, zone_id: str, *, of_model: bool = False, photo: str | None = None
) -> Region | None:
    """The region of a zone that was surveyed first, else its first, on one photo or on all of the prototype, or of the model."""
    if photo is not None:
        on_it = [region for region in project.regions if (region.zone, region.photo) == (zone_id, photo)]
        return next((region for region in on_it if region.wear), on_it[0] if on_it else None)
    photos = {photo.id for photo in project.photos if photo.of_model == of_model}
    mine = [region for region in project.regions if region.zone == zone_id and region.photo in photos]
    return next((region for region in mine if region.wear), mine[0] if mine else None)


def ask(
    project: Project,
    cut: Strata,
    photo: Photo,
    corners: Sequence[Point],
    kinds: Sequence[Pointed],
    mm_per_px: float | None,
    ground: Ground | None = None,
    strokes: Sequence[WearStroke] = (),
) -> WearQuestion | None:
    """The question for a traced part of a photo; None where the zone has no colour that counts as sound."""
    if ground is None:
        lab = _sound(cut, photo)
        if lab is None:
            return None
        ground = Ground(lab)
    old = measured_region(project, cut.zone, photo=photo.id)
    scale = 1.0 if photo.of_model else project.subject_of(project.zone(cut.zone)).scale
    return WearQuestion(
        cut.zone,
        photo,
        old.id if old else fresh_id(project.regions, "w"),
        tuple(corners),
        ground,
        tuple(kinds),
        mm_per_px,
        scale,
        tuple(strokes),
    )


def _sound(cut: Strata, photo: Photo) -> Lab | None:
    """The colour that counts as sound where none was pointed at: of the prototype its target, of the model its own finish."""
    target = cut.targets.exposed or cut.targets.fresh
    finish = (cut.exposed or cut.fresh) if photo.of_model else None
    return finish or (target.lab if target else None)


def sound_lab(project: Project, zone_id: str, targets: Targets) -> Lab | None:
    """The colour that wear lies on where no coat does yet: the zone's target, else the ground that was pointed at on its photo."""
    target = targets.exposed or targets.fresh
    region = measured_region(project, zone_id)
    return target.lab if target else region.wear.ground if region and region.wear else None


def beside(project: Project, region: Region) -> list[tuple[str, WearRecord]]:
    """What else was measured of the same: the zone on other photos of the prototype, and its other side; each with its words."""
    of_model = {photo.id: photo.of_model for photo in project.photos}
    zone = project.zone(region.zone)
    first = zone.mirrors or zone.id
    sides = {other.id: other.name for other in project.zones if first in (other.id, other.mirrors)}
    return [
        (project.photo(one.photo).title if one.zone == zone.id else sides[one.zone], one.wear)
        for one in project.regions
        if one.zone in sides
        and one.wear
        and one.id != region.id
        and of_model[one.photo] == of_model[region.photo]
    ]


def answer(
    question: WearQuestion, pixels: Pixels, cast: Cast, progress: Progress = lambda _share: None
) -> WearAnswer:
    """Survey what was traced."""
    box = box_of(question.corners)
    spots = {
        one.name: one.spot
        for one in (Pointed("", question.ground.lab, question.ground.spot), *question.kinds)
    }
    found, record, look = survey_region(
        pixels, cast, question.corners, question.ground.lab, {one.name: one.lab for one in question.kinds},
        mm_per_px=question.mm_per_px, scale=question.scale, spots={name: spot for name, spot in spots.items() if spot},
        strokes=question.strokes, progress=progress,
    )  # fmt: skip
    record = record.model_copy(
        update={
            "ground": question.ground.lab, "ground_spot": question.ground.spot, "strokes": question.strokes,
            "classes": tuple(one.model_copy(update={"spot": spots.get(one.name)}) for one in record.classes),
        }
    )  # fmt: skip
    region = Region(
        id=question.region, zone=question.zone, photo=question.photo.id, corners=question.corners,
        seen=region_seen(pixels, cast, question.corners), wear=record,
    )  # fmt: skip
    outlines = {
        name: tuple(outline_marks(marks.labels > 0, box[0], box[1])) for name, marks in found.marks.items()
    }
    return WearAnswer(question, region, record, found, outlines, look)


def marks_of(record: WearRecord) -> tuple[Marks, ...]:
    """What was found as coats to lay: each kind on its share of the area."""
    found = []
    for one in record.classes:
        kind = kind_of(one.name)
        name = _(kind.coat) if one.name in WEAR_KINDS else kind.coat
        found.append(Marks(kind.kind, name, one.lab, min(1.0, one.coverage_percent / 100)))
    return tuple(found)


def survey_region(
    pixels: Pixels,
    cast: Cast,
    corners: Sequence[Point],
    base: Lab,
    classes: Mapping[str, Lab],
    *,
    mm_per_px: float | None,
    scale: float,
    distance_mm: float = 300.0,
    spots: Mapping[str, Disc] = NOWHERE,
    strokes: Sequence[WearStroke] = (),
    progress: Progress = lambda _share: None,
) -> tuple[Survey, WearRecord, CorrectedPicture]:
    """Survey a traced part of a photo: what was found, the record that the document keeps of it, and the part as it was read.

    spots : x, y and radius on the photo of the discs the colours were pointed at, by class, "" for the base
    strokes : corrections by hand

    Raises
    ------
    BadInputError
        The part is too small to be read, or a kind has the colour of the ground.
    """
    box = box_of(corners)
    part = rectangle(pixels, *box)
    if min(part.shape[:2]) < _LEAST_SIDE:
        raise BadInputError(
            _(
                "A region of {0} × {1} pixels is too small to tell marks from grain; trace at least {2} × {2}."
            ).format(part.shape[1], part.shape[0], _LEAST_SIDE)
        )
    _must_differ(base, classes)
    inside = {name: (x - box[0], y - box[1], r) for name, (x, y, r) in spots.items() if _in(box, x, y)}
    look = CorrectedPicture(cast, part)
    progress(0.1)
    known = {name: np.array(lab) for name, lab in classes.items()}
    found = survey(
        look, np.array(base), known, mm_per_px=mm_per_px, scale=scale, distance_mm=distance_mm, spots=inside,
        inside=inside_of(corners, box, part.shape[:2]), said=[(one.kind, _stroked(one, box, part.shape[:2])) for one in strokes],
        progress=lambda share: progress(0.1 + 0.9 * share),
    )  # fmt: skip
    return found, _record(found, mm_per_px, classes), look


def _must_differ(base: Lab, classes: Mapping[str, Lab]) -> None:
    for name, lab in classes.items():
        away = float(delta_e00(np.array(base), np.array(lab)))
        if away < _SAME_COLOUR:
            raise BadInputError(
                _(
                    "{0!r} was pointed at where the colour is that of the ground (ΔE00 {1:.1f}); point at a place that plainly shows it."
                ).format(name, away)
            )


def _record(found: Survey, mm_per_px: float | None, classes: Mapping[str, Lab]) -> WearRecord:
    return WearRecord(
        mm_per_px=mm_per_px,
        coverage_percent=found.coverage_percent,
        classes=tuple(
            _class(one, classes.get(one.name) or _class_lab(found), found) for one in found.classes
        ),
        iso_4628_3=found.grade.iso_4628_3,
        astm_d610=found.grade.astm_d610,
        smallest_visible_mm=found.at_scale.smallest_visible_mm,
        visible_coverage_percent=found.at_scale.visible_coverage_percent if found.sized else None,
        tint_lab_shift=found.at_scale.tint_lab_shift if found.sized else None,
    )


def _class(one: ClassMeasure, lab: Lab, found: Survey) -> WearClass:
    streaks, sized, every = one.streaks, found.sized, found.marks[one.name].diameter_mm
    return WearClass(
        name=one.name, lab=lab, coverage_percent=one.coverage_percent, coverage_range90=one.coverage_range90,
        median_mm=one.median_mm if sized else None, median_range90=one.median_range90 if sized else None,
        p90_mm=one.p90_mm if sized else None, count=one.count, direction_deg=one.direction_deg,
        direction_within_deg=streaks.within_deg if streaks else None,
        streak_mm=streaks.median_mm if streaks and sized else None,
        edge_share=one.edge_share, islands=one.islands, by_height=one.by_height,
        every_mm=float(np.median(every)) if sized and len(every) else None,
    )  # fmt: skip


def box_of(corners: Sequence[Point]) -> tuple[float, float, float, float]:
    """Left, top, right and bottom of what was traced, in whole pixels."""
    xs, ys = zip(*corners, strict=True)
    return float(round(min(xs))), float(round(min(ys))), float(round(max(xs))), float(round(max(ys)))


def inside_of(
    corners: Sequence[Point], box: tuple[float, float, float, float], shape: tuple[int, ...]
) -> BoolArray | None:
    """Pixels (h, w) of a box that were traced; None where all of it was."""
    canvas = np.zeros(shape, np.uint8)
    fine = 16
    polygon = np.round((np.array(corners) - box[:2] - 0.5) * fine).astype(np.int32)
    cv2.fillPoly(canvas, [polygon], 1, shift=4)
    return None if canvas.mean() > 0.97 else canvas > 0


def _stroked(stroke: WearStroke, box: tuple[float, float, float, float], shape: tuple[int, ...]) -> BoolArray:
    """Pixels (h, w) of a box under a stroke of the brush."""
    canvas = np.zeros(shape, np.uint8)
    points = np.round((np.array(stroke.path) - box[:2] - 0.5) * 16).astype(np.int32)
    cv2.polylines(
        canvas, [points], isClosed=False, color=1, thickness=max(1, round(2 * stroke.radius)), shift=4
    )
    return canvas > 0


def _in(box: tuple[float, float, float, float], x: float, y: float) -> bool:
    return box[0] <= x < box[2] and box[1] <= y < box[3]


def _class_lab(found: Survey) -> Lab:
    """The colour of wear that nobody pointed at: the ground's, moved by what is unlike it."""
    return triple(lab_from_xyz(found.unlike * white())) if found.unlike is not None else (0.0, 0.0, 0.0)
