"""What wear a zone is to have, with a photo or without one: how much of each kind, how large, with what, and whether it will show."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from lean_sepia.answers.coats.draft import Draft, usual_draft
from lean_sepia.answers.coats.worn import nearest_bottle, worn_lab
from lean_sepia.answers.strata import Strata, strata_of
from lean_sepia.answers.wearing.kinds import WEAR_KINDS, WearKind
from lean_sepia.answers.wearing.surveying import measured_region
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.written import write_colour
from lean_sepia.document.bounds import Lab
from lean_sepia.document.model import Project, Zone
from lean_sepia.document.worn import PlannedWear, Source, WearPlan, WearRecord
from lean_sepia.language import N_, _
from lean_sepia.paint.paint import Paint
from lean_sepia.plan.kinds import KINDS
from lean_sepia.wear.marks import Statistics
from lean_sepia.wear.scale import smallest_visible_mm
from lean_sepia.wear.tools import MARK_TOOLS, Made, made_with, usual_tool

SUBTLE, HEAVY = 0.5, 2.0
_SHOWS_FROM = 3.0  # ΔE00 from which marks are seen against what they lie on
_USUAL_MM, _USUAL_STREAK_MM = 60.0, 500.0  # on the prototype, where nothing was measured (practice)
_STREAK_LONGER, _MARK_LONGER = 8.0, 1.3
_CLIMATES: dict[str, dict[str, float]] = {
    "arid": {"rust": 1.0, "streaks": 0.2, "algae": 0.0, "dust": 1.6},
    "damp": {"rust": 1.0, "streaks": 1.5, "algae": 1.5, "dust": 0.6},
}
"""By what the climate multiplies kinds (practice): dry rust stays in dark spots, wet rust runs."""

SOURCE_WORDS = {
    "step": N_("step"), "hatch": N_("hatch"), "rail": N_("rail"), "cargo": N_("cargo gear"), "door": N_("door"),
    "hinge": N_("hinge"), "bolt": N_("bolt"), "seam": N_("seam"), "exhaust": N_("exhaust"),
}  # fmt: skip
_TRODDEN, _WET, _HOT = (
    {"step", "hatch", "rail", "cargo", "door"},
    {"hinge", "bolt", "seam", "hatch", "door"},
    {"exhaust"},
)
_EVERYWHERE = 0.05  # of what is likely at a source, elsewhere


@dataclass(frozen=True)
class WearRow:
    """One planned kind on a zone.

    share : of the area, heaviness and climate counted in; model_mm : median size of its marks on the model as they are made
    seen_mm : the size they should have by the prototype; visible : whether such marks can be resolved at the viewing distance
    contrast : ΔE00 of its colour against what it lies on; mix : what it is made of, in words; draft : the coat that lays it
    """

    kind: str
    words: str
    share: float
    seen_mm: float
    model_mm: float
    lab: Lab
    contrast: float
    visible: bool
    made: Made
    draft: Draft

    @property
    def shows(self) -> bool:
        """Whether it can be told from what it lies on."""
        return self.contrast >= _SHOWS_FROM


def plan_of(project: Project, zone: Zone) -> WearPlan:
    """The wear planned for a zone: as it was said; else as it was measured; else nothing."""
    if zone.wear is not None:
        return zone.wear
    region = measured_region(project, zone.id)
    return WearPlan(kinds=measured_kinds(region.wear)) if region is not None and region.wear else WearPlan()


def measured_kinds(record: WearRecord) -> tuple[PlannedWear, ...]:
    """What was measured, as kinds to plan."""
    return tuple(
        PlannedWear(
            kind=one.name,
            share=min(1.0, one.coverage_percent / 100),
            median_mm=one.every_mm or one.median_mm or None,
        )
        for one in record.classes
        if one.coverage_percent > 0
    )


def kind_of(name: str) -> WearKind:
    """A kind from the table, or one for a name of one's own."""
    return WEAR_KINDS.get(name) or WearKind(
        name, name.capitalize(), "chips", (45.0, 5.0, 8.0), (0.005, 0.02, 0.06)
    )


def share_of(plan: WearPlan, planned: PlannedWear) -> float:
    """The share of the area that a planned kind comes to, heaviness and climate counted in."""
    by_climate = _CLIMATES.get(plan.climate, {}).get(planned.kind, 1.0)
    return min(0.98, planned.share * plan.heaviness * by_climate)


def wear_rows(project: Project, cut: Strata, plan: WearPlan, paints: list[Paint]) -> tuple[WearRow, ...]:
    """Each planned kind with its figures, in the order in which they are laid: light before dark, or the reverse."""
    zone = project.zone(cut.zone)
    scale = project.subject_of(zone).scale
    on = cut.fresh if cut.seen is None else cut.seen
    rows = [_row(project, cut, plan, one, paints, scale, on) for one in plan.kinds]
    return tuple(sorted(rows, key=lambda row: row.lab[0] if plan.dark_first else -row.lab[0]))


def _row(
    project: Project,
    cut: Strata,
    plan: WearPlan,
    planned: PlannedWear,
    paints: list[Paint],
    scale: float,
    on: Lab | None,
) -> WearRow:
    kind = kind_of(planned.kind)
    share = share_of(plan, planned)
    streak = kind.kind == "streaks"
    prototype_mm = planned.median_mm or (_USUAL_STREAK_MM if streak else _USUAL_MM)
    seen_mm = prototype_mm / scale
    wanted = seen_mm * plan.larger
    tool = planned.tool if planned.tool in MARK_TOOLS else usual_tool(wanted, project.mark_tools)
    made = made_with(tool, wanted, share, scale, project.mark_tools)
    lab = planned_lab(project, cut, planned.kind)
    contrast = float(delta_e00(np.array(lab), np.array(on))) if on is not None else 0.0
    visible = prototype_mm >= smallest_visible_mm(scale)
    return WearRow(
        planned.kind, _(kind.coat), share, seen_mm, max(wanted, made.smallest_mm), lab, contrast, visible, made,
        _draft(project, kind, share, lab, paints, tool),
    )  # fmt: skip


def planned_lab(project: Project, cut: Strata, name: str) -> Lab:
    """The colour of a kind on a zone: as it was pointed at, as sampled, else its usual one."""
    region = measured_region(project, cut.zone)
    if region is not None and region.wear:
        for one in region.wear.classes:
            if one.name == name:
                return one.lab
    return worn_lab(cut.targets, name) if name in WEAR_KINDS else kind_of(name).lab


def _draft(project: Project, kind: WearKind, share: float, lab: Lab, paints: list[Paint], tool: str) -> Draft:
    nature = KINDS[kind.kind]
    bottle = nearest_bottle(lab, paints, nature.medium)
    laid_with = MARK_TOOLS[tool].laid_with
    draft = usual_draft(kind.kind, laid_with if laid_with in nature.tools else None, owns=project.owns)
    of = "" if nature.covers == "taken" else (bottle.name if bottle else write_colour(lab))
    return replace(draft, of=of, name=_(kind.coat), area_share=share)


def vehicle_total(project: Project, subject: str) -> float | None:
    """Share of a whole model that is planned to be worn, its zones counted by their area where that is known; None without a plan."""
    zones = [zone for zone in project.zones if zone.subject == subject]
    plans = [(zone, plan_of(project, zone)) for zone in zones]
    if not any(plan.kinds for _zone, plan in plans):
        return None
    known = [zone.area_cm2 for zone in zones if zone.area_cm2]
    usual = float(np.mean(known)) if known else 1.0
    weights = np.array([zone.area_cm2 or usual for zone in zones])
    worn = np.array([min(1.0, sum(share_of(plan, one) for one in plan.kinds)) for _zone, plan in plans])
    return float((weights * worn).sum() / weights.sum())


def statistics_of(row: WearRow, record: WearRecord | None, px_per_mm: float) -> Statistics:
    """What the marks of a row are like in pixels of a picture of the model."""
    measured = next((one for one in record.classes if one.name == row.kind), None) if record else None
    direction = measured.direction_deg if measured else None
    streak = kind_of(row.kind).kind == "streaks" or direction is not None
    if streak and direction is None:
        direction = 0.0
    return Statistics(
        row.share,
        max(0.5, row.model_mm * px_per_mm),
        0.45,
        _STREAK_LONGER if streak else _MARK_LONGER,
        direction,
        fades=streak,
    )


def likely_places(
    plan: WearPlan, name: str, shape: tuple[int, int], *, other_side: bool
) -> FloatArray | None:
    """How likely marks of a kind are at each place (h, w) of a zone; None where nothing is said of it.

    Trodden and gripped places wear, water starts at hinges, bolts and seams, soot at exhausts, dust lies low. The other side of a
    thing has its sources mirrored.
    """
    kind = kind_of(name).kind
    y, x = np.mgrid[: shape[0], : shape[1]]
    across, down = (x + 0.5) / shape[1], (y + 0.5) / shape[0]
    if kind == "dust":
        return np.asarray(np.exp(2.5 * (down - 1)))
    chosen = _WET if kind == "streaks" else _HOT if kind == "soot" else _TRODDEN
    mine = [source for source in plan.sources if source.what in chosen]
    if not mine:
        return None
    tall = shape[0] / shape[1]
    found = np.full(shape, _EVERYWHERE)
    for source in mine:
        found += _round_a_source(source, across, down, tall, runs=kind == "streaks", other_side=other_side)
    return found


def _round_a_source(
    source: Source, across: FloatArray, down: FloatArray, tall: float, *, runs: bool, other_side: bool
) -> FloatArray:
    at = 1 - source.x if other_side else source.x
    aside, below = (across - at) / source.reach, (down - source.y) * tall / source.reach
    if runs:  # down from the source, thinning out
        return np.where(below >= 0, np.exp(-(aside**2) * 2 - below / 4), 0.0) * 4
    return np.asarray(np.exp(-(aside**2 + below**2) / 2) * 4)


def weights_of(
    plan: WearPlan, rows: tuple[WearRow, ...], shape: tuple[int, int], *, other_side: bool
) -> Mapping[str, FloatArray]:
    """The likely places (h, w) of each row that has any."""
    found = {row.kind: likely_places(plan, row.kind, shape, other_side=other_side) for row in rows}
    return {name: field for name, field in found.items() if field is not None}


def with_heaviness(plan: WearPlan, heaviness: float) -> WearPlan:
    """A plan made subtler or heavier."""
    return plan.model_copy(update={"heaviness": heaviness})


def plain_cut(project: Project, zone_id: str) -> Strata:
    """A zone's strata without its wear: what marks are laid on."""
    coats = tuple(
        coat.model_copy(update={"on": False})
        if coat.zone == zone_id and KINDS[coat.kind].room == "wear"
        else coat
        for coat in project.coats
    )
    return strata_of(project.model_copy(update={"coats": coats}), zone_id)
