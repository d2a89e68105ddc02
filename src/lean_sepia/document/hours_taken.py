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
from lean_sepia.plan.names import ToolName

_SLOWEST = 4.0
"""By how much more, or less, than the tables say somebody may take: beyond that a clock was left running."""


def how_done(project: Project, step: Step, coats: Sequence[Coat]) -> tuple[ToolName | None, list[str]]:
    """The tool a step is done with, of what is printed none, and the zones it is on, none where it is on all."""
    zones = sorted({coat.zone for coat in coats} | set(step.zones))
    if coats:
        return (None if coats[0].printed is not None else coats[0].tool), zones
    return step.tool or next(iter(project.owns.tools(step.kind)), None), zones


def hours_of(project: Project, step: Step, coats: Sequence[Coat]) -> dict[str, float]:
    """Minutes at the bench and of them those of setting up; nothing where they are stated or an area is not known."""
    reckoned = _reckoned(project, step, coats) if step.hands_on_min is None else None
    if reckoned is None:
        return {}
    work, set_up = reckoned
    factor = paces(project).get((step.kind, how_done(project, step, coats)[0]), 1.0)
    return {"hands_on_min": round(work * factor + set_up, 2), "set_up_min": set_up, "pace": round(factor, 2)}


def paces(project: Project) -> dict[tuple[str, str | None], float]:
    """How many times as long as the tables say this person takes, by kind and tool: the median of what the bench logged."""
    return looked_up(
        "paces", (project.steps, project.coats, project.zones, project.recipes, project.paints, project.owns), lambda: _paces(project)
    )  # fmt: skip


def _paces(project: Project) -> dict[tuple[str, str | None], float]:
    taken: dict[tuple[str, str | None], list[float]] = {}
    for step in project.steps:
        if not step.done or not step.spent_min:
            continue
        coats = [coat for coat in project.laid_in(step.id) if coat.on]
        reckoned = _reckoned(project, step, coats)
        if reckoned is not None and reckoned[0]:
            work, set_up = reckoned
            pace = max(step.spent_min - set_up, 0.0) / work
            key = step.kind, how_done(project, step, coats)[0]
            taken.setdefault(key, []).append(min(_SLOWEST, max(1 / _SLOWEST, pace)))
    return {key: median(found) for key, found in taken.items()}


def _reckoned(project: Project, step: Step, coats: Sequence[Coat]) -> tuple[float, float] | None:
    """Minutes of the work itself by the tables, and of setting up."""
    tool, zones = how_done(project, step, coats)
    nature = nature_of(step.kind, printed=tool is None)
    set_up = set_up_minutes(nature, tool)
    if nature.joins or nature.parts:
        joints = sum(zone.apart for zone in project.zones if not zones or zone.id in zones)
        return (JOINT_MIN * joints, set_up) if joints else None
    where = [coat.zone for coat in coats] or list(zones or (zone.id for zone in project.zones))
    areas = [project.zone(zone).area_cm2 for zone in where]
    if not nature.to_do or not where or not all(areas):
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
    return total, set_up
