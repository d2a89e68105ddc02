"""How worn a zone is: what Wear asks of a photo, and what it comes to as coats."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from lean_sepia.answers.evidence import region_seen
from lean_sepia.answers.strata import Strata
from lean_sepia.arrays import FloatArray, IntArray, triple
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.srgb import linear_from_srgb
from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.coats import Marks
from lean_sepia.document.edits.items import fresh_id
from lean_sepia.document.model import Photo, Project, Region
from lean_sepia.document.worn import WearClass, WearRecord
from lean_sepia.language import N_, _, ngettext
from lean_sepia.photo.correction.cast import Cast
from lean_sepia.photo.patch import encoded_unit, rectangle
from lean_sepia.photo.read import Pixels
from lean_sepia.wear.measure import outline_marks
from lean_sepia.wear.segment import NOWHERE
from lean_sepia.wear.survey import Survey, survey

_UPRIGHT_DEG = 15
Box = tuple[float, float, float, float]
Disc = tuple[float, float, float]


@dataclass(frozen=True)
class WearKind:
    """A kind of wear that can be pointed at or chosen: its word, what it is called as a coat, and its kind of step.

    lab : its usual colour, where neither a sample nor a bottle says; shares : of the area, subtle, as most often, heavy (practice)
    role : in which its colour is sampled, if it is
    """

    words: str
    coat: str
    kind: str
    lab: Lab
    shares: tuple[float, float, float]
    role: str = ""


WEAR_KINDS: dict[str, WearKind] = {
    "rust": WearKind(N_("rust"), N_("Rust chips"), "chips", (36.0, 20.0, 22.0), (0.005, 0.02, 0.06), "rust"),
    "scratch": WearKind(N_("scratch"), N_("Scratches"), "chips", (70.0, 1.0, 4.0), (0.003, 0.01, 0.03)),
    "undercoat": WearKind(
        N_("undercoat"),
        N_("Undercoat showing"),
        "scrape",
        (40.0, 26.0, 15.0),
        (0.005, 0.02, 0.08),
        "undercoat",
    ),
    "wood": WearKind(N_("bare wood"), N_("Bare wood"), "chips", (62.0, 8.0, 22.0), (0.01, 0.04, 0.12)),
    "streaks": WearKind(
        N_("streaks"), N_("Rust streaks"), "streaks", (40.0, 18.0, 20.0), (0.005, 0.02, 0.05), "rust"
    ),
    "algae": WearKind(N_("algae"), N_("Algae"), "streaks", (40.0, -10.0, 18.0), (0.01, 0.04, 0.10)),
    "spill": WearKind(N_("spill"), N_("Spills"), "streaks", (24.0, 2.0, 4.0), (0.005, 0.02, 0.05)),
    "dust": WearKind(N_("dust"), N_("Dust"), "dust", (62.0, 5.0, 15.0), (0.08, 0.25, 0.6), "dust"),
    "soot": WearKind(N_("soot"), N_("Soot"), "soot", (22.0, 0.0, 1.0), (0.02, 0.08, 0.25), "soot"),
}


def wear_words(name: str) -> str:
    """The word for a kind of wear, or its own name where the user named it."""
    return _(WEAR_KINDS[name].words) if name in WEAR_KINDS else name


@dataclass(frozen=True)
class WearQuestion:
    """A box on a photo of a zone, the sound colour, one colour for each kind pointed at, and the sizes.

    region : id of the region the answer replaces, or of a new one
    """

    zone: str
    photo: Photo
    region: str
    box: Box
    base: Lab
    classes: tuple[tuple[str, Lab], ...]
    mm_per_px: float
    scale: float


@dataclass(frozen=True, eq=False)
class WearAnswer:
    """The region with its survey, ready for the document; sizes of all marks and their outlines on the photo."""

    question: WearQuestion
    region: Region
    record: WearRecord
    sizes_mm: FloatArray
    outlines: tuple[tuple[tuple[float, float], ...], ...]


def measured_region(project: Project, zone_id: str) -> Region | None:
    """The region of a zone that was surveyed, else its first."""
    mine = [region for region in project.regions if region.zone == zone_id]
    return next((region for region in mine if region.wear), mine[0] if mine else None)


def ask(
    project: Project, cut: Strata, photo: Photo, box: Box, classes: Mapping[str, Lab], mm_per_px: float
) -> WearQuestion | None:
    """The question for a box on a photo; None where the zone has no colour that counts as sound."""
    target = cut.targets.exposed or cut.targets.fresh
    if target is None:
        return None
    old = measured_region(project, cut.zone)
    return WearQuestion(
        cut.zone, photo, old.id if old else fresh_id(project.regions, "w"), box, target.lab, tuple(classes.items()),
        mm_per_px, project.subject_of(project.zone(cut.zone)).scale,
    )  # fmt: skip


def answer(question: WearQuestion, pixels: Pixels, cast: Cast) -> WearAnswer:
    """Survey the box."""
    found, record = survey_region(
        pixels, cast, question.box, question.base, dict(question.classes),
        mm_per_px=question.mm_per_px, scale=question.scale,
    )  # fmt: skip
    x0, y0, x1, y1 = question.box
    corners = ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
    region = Region(
        id=question.region, zone=question.zone, photo=question.photo.id, corners=corners,
        seen=region_seen(pixels, cast, corners), wear=record,
    )  # fmt: skip
    sizes = np.concatenate([marks.diameter_mm for marks in found.marks.values()] or [np.array([])])
    outlines = tuple(
        line for marks in found.marks.values() for line in outline_marks(marks.labels > 0, x0, y0)
    )
    return WearAnswer(question, region, record, sizes, outlines)


def marks_of(record: WearRecord) -> tuple[Marks, ...]:
    """What was found as coats to lay: each kind on its share of the area."""
    named = WearKind("", "", "chips", (0.0, 0.0, 0.0), (0.0, 0.0, 0.0))
    answer = []
    for found in record.classes:
        kind = WEAR_KINDS.get(found.name, named)
        name = _(kind.coat) or found.name.capitalize()
        answer.append(Marks(kind.kind, name, found.lab, min(1.0, found.coverage_percent / 100)))
    return tuple(answer)


def survey_region(
    pixels: Pixels,
    cast: Cast,
    box: tuple[float, float, float, float],
    base: Lab,
    classes: Mapping[str, Lab],
    *,
    mm_per_px: float,
    scale: float,
    distance_mm: float = 300.0,
    spots: Mapping[str, Disc] = NOWHERE,
) -> tuple[Survey, WearRecord]:
    """Survey a rectangle of a photo, and the record of it that the document keeps.

    spots : x, y and radius on the photo of the discs the colours were pointed at, by class, "" for the base
    """
    left, top = box[0], box[1]
    inside = {name: (x - left, y - top, r) for name, (x, y, r) in spots.items() if _in(box, x, y)}
    xyz = cast.xyz(linear_from_srgb(encoded_unit(rectangle(pixels, *box))))
    known = {name: np.array(lab) for name, lab in classes.items()}
    found = survey(
        xyz, np.array(base), known, mm_per_px=mm_per_px, scale=scale, distance_mm=distance_mm, spots=inside
    )
    colours = {name: classes.get(name) or _class_lab(found, name, xyz) for name in found.marks}
    record = WearRecord(
        mm_per_px=mm_per_px,
        coverage_percent=found.coverage_percent,
        classes=tuple(
            WearClass(
                name=m.name, lab=colours[m.name], coverage_percent=m.coverage_percent, median_mm=m.median_mm,
                p90_mm=m.p90_mm, count=m.count, direction_deg=m.direction_deg, edge_share=m.edge_share,
            )
            for m in found.classes
        ),
        iso_4628_3=found.grade.iso_4628_3,
        astm_d610=found.grade.astm_d610,
        smallest_visible_mm=found.at_scale.smallest_visible_mm,
        visible_coverage_percent=found.at_scale.visible_coverage_percent,
        tint_lab_shift=found.at_scale.tint_lab_shift,
    )  # fmt: skip
    return found, record


def _in(box: Box, x: float, y: float) -> bool:
    return box[0] <= x < box[2] and box[1] <= y < box[3]


def _class_lab(found: Survey, name: str, xyz: FloatArray) -> Lab:
    mask = found.marks[name].labels > 0
    return triple(lab_from_xyz(xyz[mask].mean(axis=0))) if mask.any() else (0.0, 0.0, 0.0)


def where_words(found: WearClass) -> str:
    """How many marks of a kind there are, which way they run, and how many sit at the border."""
    if found.direction_deg is None:
        way = _("round, no direction")
    elif abs(found.direction_deg) < _UPRIGHT_DEG:
        way = _("straight down")
    else:
        side = _("right") if found.direction_deg > 0 else _("left")
        way = _("{0}° to the {1} of straight down").format(f"{abs(found.direction_deg):.0f}", side)
    return _("{0}: {1}, {2}; {3} % at the border.").format(
        wear_words(found.name).capitalize(),
        ngettext("{0} mark", "{0} marks", found.count).format(found.count),
        way,
        f"{100 * found.edge_share:.0f}",
    )


def size_bars(sizes_mm: FloatArray, limit_mm: float) -> tuple[FloatArray, IntArray]:
    """Edges (n + 1,) in mm of bars a factor of √2 wide, from a power of two up, and the marks (n,) in each.

    sizes_mm : of at least one mark; limit_mm : the smallest that can be seen on the model, which a bar takes in
    """
    first = 2.0 ** np.floor(np.log2(max(float(sizes_mm.min()), 0.5)))
    if limit_mm > 0.25 * first:
        first = min(first, 2.0 ** np.floor(np.log2(limit_mm)))
    octaves = max(3, int(np.ceil(np.log2(float(sizes_mm.max()) / first))) + 1)
    edges = first * 2.0 ** (np.arange(0, 2 * octaves - 1) / 2)
    return edges, np.histogram(sizes_mm, edges)[0]
