"""Two schools compared on a project: when it is finished, what is masked, what is risked, what can be undone."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import datetime

from lean_sepia.answers.plan import PlanQuestion, answer
from lean_sepia.document.model import Project
from lean_sepia.plan.adapting import adapted
from lean_sepia.plan.care.rescue import is_final
from lean_sepia.plan.masking import Comparison, MaskingCost, Tone, compare_orders, masking_cost
from lean_sepia.plan.rules.table import check_plan
from lean_sepia.plan.waits.drying import rested


@dataclass(frozen=True)
class Outcome:
    """What a plan comes to under one school.

    findings : stops, warnings and notes; undoable : steps that can still be taken back once done, of all
    """

    choice: str
    steps: int
    finish: datetime | None
    masking: MaskingCost
    findings: tuple[int, int, int]
    undoable: int


def areas_of(project: Project) -> dict[str, float]:
    """The area of each zone whose area is known, in cm²."""
    return {zone.id: zone.area_cm2 for zone in project.zones if zone.area_cm2}


def outcome(project: Project, question: PlanQuestion, asked: str, choice: str) -> Outcome:
    """What the plan would come to if a question were answered so, everything else staying."""
    schools: Mapping[str, str] = {**question.schools, asked: choice}
    steps = adapted(question.steps, schools, asked)
    drying = replace(question.drying, rest=rested(schools))
    found = answer(replace(question, steps=steps, schools=schools, drying=drying, deadline=""))
    severities = [finding.severity for finding in check_plan(steps, schools, drying)]
    counts = severities.count("stop"), severities.count("warn"), severities.count("note")
    finish = found.schedule.finish if found.schedule else None
    work = [step for step in steps if step.nature.to_do]
    undoable = sum(not is_final(step) for step in work)
    return Outcome(choice, len(work), finish, masking_cost(steps, areas_of(project)), counts, undoable)


def pattern_orders(project: Project, surface_id: str) -> Comparison | None:
    """A pattern of several tones painted base first and in reverse; None where the surface has fewer than two."""
    zones = project.zones_of(surface_id)
    if len(zones) < 2:
        return None
    areas = areas_of(project)
    total = sum(areas.get(zone.id, 60.0) for zone in zones)
    tones = [
        Tone(
            zone.id, areas.get(zone.id) or total * (zone.share if zone.share is not None else 1 / len(zones))
        )
        for zone in zones
    ]
    base = max(range(len(zones)), key=lambda i: _is_base(project, zones[i].id) * 1e9 + tones[i].area_cm2)
    return compare_orders([tones[base], *(tone for i, tone in enumerate(tones) if i != base)])


def _is_base(project: Project, zone_id: str) -> bool:
    return bool(project.bases_of(zone_id))
