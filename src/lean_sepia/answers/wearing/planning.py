"""What wear a zone is to have, with a photo or without one: how much of each kind, how large, with what, and whether it will show."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from lean_sepia.answers.coats.draft import Draft, usual_draft
from lean_sepia.answers.coats.laying import laid
from lean_sepia.answers.coats.mixing import LayQuestion
from lean_sepia.answers.coats.showing import Showing, showing_of
from lean_sepia.answers.coats.worn import worn_lab
from lean_sepia.answers.strata import Strata, strata_of
from lean_sepia.answers.wearing.bottles import Bottles
from lean_sepia.answers.wearing.kinds import WEAR_KINDS, WearKind, kind_of
from lean_sepia.answers.wearing.surveying import measured_region, sound_lab
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.showing import VERDICTS
from lean_sepia.colour.written import is_colour
from lean_sepia.document.bounds import Lab
from lean_sepia.document.entities.worn import PlannedWear, WearPlan, WearRecord
from lean_sepia.document.model import Project, Zone
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.plan.kinds import KINDS
from lean_sepia.wear.marks import Statistics
from lean_sepia.wear.scale import smallest_visible_mm
from lean_sepia.wear.tools import MARK_TOOLS, Made, made_with, usual_tool

FAR_OFF_DE00 = 5.0  # of what a shelf has from what marks should be: it is said
_USUAL_MM, _USUAL_STREAK_MM = 60.0, 150.0  # on the prototype, where nothing was measured (practice)
_MOST_PASSES, _NEARLY_BEST, _SOME = 4, 1.0, 0.02
_STREAK_LONGER, _MARK_LONGER = 8.0, 1.3


@dataclass(frozen=True)
class WearRow:
    """One planned kind on a zone.

    share : of the area, heaviness and climate counted in; model_mm : median size of its marks on the model as they are made
    prototype_mm, seen_mm : the size they have on the prototype, and should have on the model by it; visible : whether such marks can be resolved at the viewing distance
    wanted : the colour it should have; lab : the one it has where it is laid, as the strata show it; away : ΔE00 between them
    showing : how it shows on what it lies on, as the sheet says; None where nothing is known of that; draft : the coat that lays it
    """

    kind: str
    words: str
    share: float
    prototype_mm: float
    seen_mm: float
    model_mm: float
    wanted: Lab
    lab: Lab
    away: float
    showing: Showing | None
    visible: bool
    made: Made
    draft: Draft

    @property
    def shows(self) -> bool:
        """Whether it can be told from what it lies on."""
        return self.showing is None or self.showing.first_verdict != VERDICTS[0]

    @property
    def veil(self) -> bool:
        """Whether it lies as a soft veil, which has neither size nor number."""
        return is_veil(self.kind)


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


def share_of(plan: WearPlan, planned: PlannedWear) -> float:
    """The share of the area that a planned kind comes to, heaviness and climate counted in."""
    kind = kind_of(planned.kind)
    by_climate = {"arid": kind.arid, "damp": kind.damp}.get(plan.climate, 1.0)
    return min(0.98, planned.share * plan.heaviness * by_climate)


def wear_rows(project: Project, zone_id: str, plan: WearPlan, bottles: Bottles) -> tuple[WearRow, ...]:
    """Each planned kind with its figures, in the order in which they are laid: light before dark, or the reverse."""
    bare = without_wear(project, zone_id)
    cut = strata_of(bare, zone_id)
    on = cut.seen or cut.fresh or sound_lab(project, zone_id, cut.targets)
    rows = sorted(
        (_row(project, cut, plan, one, bottles) for one in plan.kinds),
        key=lambda row: row.wanted[0] if plan.dark_first else -row.wanted[0],
    )
    return tuple(_as_laid(bare, zone_id, row, on, bottles) for row in rows)


def _row(project: Project, cut: Strata, plan: WearPlan, planned: PlannedWear, bottles: Bottles) -> WearRow:
    scale = project.subject_of(project.zone(cut.zone)).scale
    kind = kind_of(planned.kind)
    share = share_of(plan, planned)
    prototype_mm = planned.median_mm or (_USUAL_STREAK_MM if KINDS[kind.kind].is_streaks else _USUAL_MM)
    seen_mm = prototype_mm / scale
    size = seen_mm * plan.larger
    tool = planned.tool if planned.tool in MARK_TOOLS else usual_tool(size, project.mark_tools)
    made = made_with(tool, size, share, scale, project.mark_tools)
    wanted = planned_lab(project, cut, planned.kind)
    draft = _draft(project, kind, planned.kind, share, bottles.made_of(wanted, KINDS[kind.kind].medium), tool)
    draft = replace(draft, finish=cut.varnish or "flat")
    return WearRow(
        planned.kind, draft.name, share, prototype_mm, seen_mm, max(size, made.smallest_mm), wanted, wanted, 0.0, None,
        prototype_mm >= smallest_visible_mm(scale), made, draft,
    )  # fmt: skip


def _as_laid(bare: Project, zone_id: str, row: WearRow, on: Lab | None, bottles: Bottles) -> WearRow:
    """A row with as many passes as bring it near the colour it should have, and the colour it has then."""
    draft = row.draft
    key = (
        draft.kind,
        draft.of,
        draft.tool,
        draft.thinned,
        draft.finish,
        on,
        row.wanted,
        row.share if row.veil else None,
    )
    if key not in bottles.laid:
        bottles.laid[key] = _by_passes(bare, zone_id, row, bottles)
    laid = bottles.laid[key]
    labs = [lab for lab, _showing in laid]
    off = [float(delta_e00(np.array(lab), np.array(row.wanted))) for lab in labs]
    passes = next((number for number, away in enumerate(off) if away <= min(off) + _NEARLY_BEST), 0)
    lab, away = (labs[passes], off[passes]) if labs else (row.wanted, 0.0)
    showing = laid[passes][1] if laid else None
    return replace(row, draft=replace(draft, passes=1 + passes), lab=lab, away=away, showing=showing)


def _by_passes(
    bare: Project, zone_id: str, row: WearRow, bottles: Bottles
) -> tuple[tuple[Lab, Showing | None], ...]:
    """The colour after one pass, two …, as the strata show it, and how it shows; only one where passes make no difference, none where it cannot be laid."""
    found: list[tuple[Lab, Showing | None]] = []
    share = row.share or _SOME
    for passes in range(1, _MOST_PASSES + 1):
        one = replace(row, share=share, draft=replace(row.draft, passes=passes, area_share=share))
        project, coats = lay_rows(bare, zone_id, [one], bottles, leave_out=True)
        coat = coats.get(row.kind)
        lab = next((b.lab for b in strata_of(project, zone_id).bands if b.coat.id == coat), None)
        if lab is None or coat is None or (found and lab == found[-1][0]):
            break
        found.append((lab, showing_of(project, project.coat(coat))))
    return tuple(found)


def _draft(project: Project, kind: WearKind, name: str, share: float, of: str, tool: str) -> Draft:
    nature = KINDS[kind.kind]
    laid_with = MARK_TOOLS[tool].laid_with
    draft = usual_draft(kind.kind, laid_with if laid_with in nature.tools else None, owns=project.owns)
    called = _(kind.coat) if name in WEAR_KINDS else kind.coat
    of = "" if nature.covers == "taken" else of
    thinned = "" if is_colour(of) else draft.thinned  # a colour without a bottle is the one that is seen
    return replace(draft, of=of, thinned=thinned, name=called, area_share=share)


def lay_rows(
    project: Project, zone_id: str, rows: Iterable[WearRow], bottles: Bottles, *, leave_out: bool = False
) -> tuple[Project, dict[str, str]]:
    """Lay planned wear, each kind as a coat of its own in place of the one there is; the coats' ids by kind.

    leave_out : leave out what cannot be laid, instead of refusing

    Raises
    ------
    SepiaError
        One of them cannot be laid; the message says why and what to do.
    """
    coats: dict[str, str] = {}
    for row in rows:
        if row.share <= 0:
            continue
        old = next(
            (c for c in project.coats_of(zone_id) if (c.kind, c.name) == (row.draft.kind, row.draft.name)),
            None,
        )
        question = LayQuestion(
            project, (zone_id,), row.draft, bottles.paints, replacing=old.id if old else None
        )
        try:
            done = laid(question)
        except SepiaError:
            if not leave_out:
                raise
            continue
        project, coats[row.kind] = done.project, done.coat
    return project, coats


def planned_coats(project: Project, zone_id: str, rows: Sequence[WearRow]) -> tuple[str, ...]:
    """Coats of a zone that were laid as planned wear, and are no longer planned."""
    names = {(row.draft.kind, row.draft.name) for row in rows if row.share > 0}
    known = {(kind.kind, _(kind.coat)) for kind in WEAR_KINDS.values()}
    return tuple(c.id for c in project.coats_of(zone_id) if (c.kind, c.name) in known - names)


def planned_lab(project: Project, cut: Strata, name: str) -> Lab:
    """The colour of a kind on a zone: as it was pointed at, as sampled, else its usual one."""
    region = measured_region(project, cut.zone)
    if region is not None and region.wear:
        for one in region.wear.classes:
            if one.name == name:
                return one.lab
    return worn_lab(cut.targets, name) if name in WEAR_KINDS else kind_of(name).lab


@dataclass(frozen=True)
class WornZone:
    """A zone of a model: the share of it that is planned to be worn, and its share of the model's area."""

    zone: Zone
    worn: float
    weight: float


def vehicle_zones(project: Project, subject: str) -> tuple[WornZone, ...]:
    """The zones of a model by their area; those whose area is not known count like the others on the average."""
    zones = [zone for zone in project.zones if zone.subject == subject]
    known = [zone.area_cm2 for zone in zones if zone.area_cm2]
    usual = float(np.mean(known)) if known else 1.0
    whole = sum(zone.area_cm2 or usual for zone in zones)
    return tuple(
        WornZone(zone, planned_share(plan_of(project, zone)), (zone.area_cm2 or usual) / whole)
        for zone in zones
    )


def planned_share(plan: WearPlan) -> float:
    """The share of the area that the marks of a plan cover together; a veil of dust is no wear."""
    return min(1.0, sum(share_of(plan, one) for one in plan.kinds if not is_veil(one.kind)))


def veiled_share(plan: WearPlan) -> float:
    """The share of the area under veils of dust and soot."""
    return min(1.0, sum(share_of(plan, one) for one in plan.kinds if is_veil(one.kind)))


def vehicle_total(project: Project, subject: str) -> float | None:
    """Share of a whole model that is planned to be worn; None without a plan."""
    zones = vehicle_zones(project, subject)
    if not any(one.worn for one in zones):
        return None
    return sum(one.worn * one.weight for one in zones)


def statistics_of(row: WearRow, record: WearRecord | None, px_per_mm: float) -> Statistics:
    """What the marks of a row are like in pixels of a picture of the model."""
    measured = next((one for one in record.classes if one.name == row.kind), None) if record else None
    direction = measured.direction_deg if measured else None
    streak = KINDS[kind_of(row.kind).kind].is_streaks or direction is not None
    if streak and direction is None:
        direction = 0.0
    size, longer = max(0.5, row.model_mm * px_per_mm), _STREAK_LONGER if streak else _MARK_LONGER
    return Statistics(row.share, size, 0.45, longer, direction, fades=streak, veil=is_veil(row.kind))


def is_veil(name: str) -> bool:
    """Whether a kind lies as a soft veil and not as marks: what is powder."""
    return KINDS[kind_of(name).kind].is_powder


def rims_of(plan: WearPlan, rows: Sequence[WearRow]) -> dict[int, int]:
    """Which row is the rim of which, where chips have two tones: each that is laid later lies inside those before it."""
    chips = [number for number, row in enumerate(rows) if KINDS[row.draft.kind].damages]
    return dict(pairwise(chips)) if plan.two_tone else {}


def with_heaviness(plan: WearPlan, heaviness: float) -> WearPlan:
    """A plan made subtler or heavier."""
    return plan.model_copy(update={"heaviness": heaviness})


def without_wear(project: Project, zone_id: str) -> Project:
    """A document without a zone's wear: what marks are laid on."""
    coats = tuple(c for c in project.coats if c.zone != zone_id or c.nature.room != "wear")
    return project.model_copy(update={"coats": coats})
