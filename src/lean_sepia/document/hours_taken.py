"""How long the steps of a document take at the bench: by area, passes and tool, and as long as this person takes."""

from __future__ import annotations

from collections.abc import Sequence
from statistics import median

from lean_sepia.document.entities.planned import Step
from lean_sepia.document.lookup import looked_up
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import medium_of
from lean_sepia.plan.hours.bench_minutes import JOINT_MIN, set_up_minutes, work_minutes
from lean_sepia.plan.kinds import nature_of

_SLOWEST = 4.0
"""By how much more, or less, than the tables say somebody may take: beyond that a clock was left running."""


def hours_of(
    project: Project, step: Step, coats: Sequence[Coat], tool: str | None, zones: Sequence[str]
) -> dict[str, float]:
    """Minutes at the bench and of them those of setting up; nothing where they are stated or an area is not known."""
    if step.hands_on_min is not None:
        return {}
    work = _reckoned(project, step, coats, tool, zones)
    if work is None:
        return {}
    set_up = set_up_minutes(nature_of(step.kind, printed=tool is None), tool)
    factor = paces(project).get((step.kind, tool), 1.0)
    return {"hands_on_min": round(work * factor + set_up, 2), "set_up_min": set_up, "pace": round(factor, 2)}


def paces(project: Project) -> dict[tuple[str, str | None], float]:
    """How many times as long as the tables say this person takes, by kind and tool: the median of what the bench logged."""
    return looked_up(
        "paces", (project.steps, project.coats, project.zones, project.recipes, project.paints), lambda: _paces(project)
    )  # fmt: skip


def _paces(project: Project) -> dict[tuple[str, str | None], float]:
    taken: dict[tuple[str, str | None], list[float]] = {}
    for step in project.steps:
        if not step.done or not step.spent_min:
            continue
        coats = [coat for coat in project.laid_in(step.id) if coat.on]
        tool = (None if coats[0].printed is not None else coats[0].tool) if coats else step.tool
        zones = sorted({coat.zone for coat in coats} | set(step.zones))
        work = _reckoned(project, step, coats, tool, zones)
        if work:
            set_up = set_up_minutes(nature_of(step.kind, printed=tool is None), tool)
            pace = max(step.spent_min - set_up, 0.0) / work
            taken.setdefault((step.kind, tool), []).append(min(_SLOWEST, max(1 / _SLOWEST, pace)))
    return {key: median(found) for key, found in taken.items()}


def _reckoned(
    project: Project, step: Step, coats: Sequence[Coat], tool: str | None, zones: Sequence[str]
) -> float | None:
    """Minutes of the work itself by the tables, without setting up."""
    nature = nature_of(step.kind, printed=tool is None)
    if nature.joins or nature.parts:
        joints = sum(zone.apart for zone in project.zones if not zones or zone.id in zones)
        return JOINT_MIN * joints or None
    where = [coat.zone for coat in coats] or list(zones or (zone.id for zone in project.zones))
    areas = [project.zone(zone).area_cm2 for zone in where]
    if not nature.to_do or not all(areas):
        return None
    total = 0.0
    for number, area in enumerate(areas):
        coat = coats[number] if coats else None
        loose = coat is not None and nature.loose(medium_of(project, coat))
        passes, share = (coat.passes, coat.area_share) if coat else (1, 1.0)
        minutes = work_minutes(nature, tool, area or 0.0, passes=passes, share=share, loose=loose)
        if minutes is None:
            return None
        total += minutes
    return total if where else None
