"""The document's steps as rules and schedule see them, and how things dry for this person."""

from __future__ import annotations

import operator
from datetime import datetime

from lean_sepia.document.called import title_of
from lean_sepia.document.entities.planned import Step
from lean_sepia.document.hours_taken import hours_of, how_done
from lean_sepia.document.lookup import looked_up
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.serving import served, zones_of
from lean_sepia.document.versions import finish_of, medium_of
from lean_sepia.language import spoken
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.hours.wall_clock import read_written
from lean_sepia.plan.rules.finding import Finding
from lean_sepia.plan.rules.table import check_plan
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.waits.drying import Drying, LoggedTime, rested

_STATED = ("hands_on_min", "touch_dry_min", "full_cure_min", "workable_until_min", "removable_until_min", "mask", "done")  # fmt: skip


def coats_in(project: Project, step_id: str) -> tuple[Coat, ...]:
    """The coats that are laid in a step and are on."""
    return tuple(coat for coat in project.laid_in(step_id) if coat.on)


def plan_steps(project: Project) -> tuple[PlanStep, ...]:
    """The document's steps as rules and schedule see them; a step whose coats are all switched off is left out."""
    parts = (
        project.steps, project.coats, project.zones, project.recipes, project.paints, project.owns, project.workplace, spoken(),
    )  # fmt: skip
    return looked_up("steps of the plan", parts, lambda: _plan_steps(project))


def _plan_steps(project: Project) -> tuple[PlanStep, ...]:
    laid = {coat.step for coat in project.coats}
    steps: list[PlanStep] = []
    together: set[str] = set()  # zones that are on the model again
    for step in project.steps:
        coats = coats_in(project, step.id)
        if coats or step.id not in laid:
            made = plan_step(project, step, coats)
            off = made.apart and not set(made.zones) <= together
            steps.append(made if off == made.apart else made.model_copy(update={"apart": off}))
        if step.nature.joins:
            together |= zones_of(project, step)
    return tuple(steps)


Taken = dict[str, tuple[tuple[Coat, ...], float]]
"""By step the coats that are laid in it and its minutes at the bench."""


def bench_minutes(project: Project, known: Taken | None = None) -> Taken:
    """Minutes at the bench of all that is still to be done, each step by itself; of steps whose coats are the same, as they are known."""
    laid = {coat.step for coat in project.coats}
    taken: Taken = {}
    for step in project.steps:
        coats = coats_in(project, step.id)
        if step.done or not (coats or step.id not in laid):
            continue
        before = (known or {}).get(step.id)
        if before is not None and len(coats) == len(before[0]) and all(map(operator.is_, coats, before[0])):
            taken[step.id] = before
            continue
        stated = step.hands_on_min if step.hands_on_min is not None else step.nature.hands_on_min
        taken[step.id] = coats, hours_of(project, step, coats).get("hands_on_min", stated)
    return taken


def plan_step(project: Project, step: Step, coats: tuple[Coat, ...] = ()) -> PlanStep:
    """One step with the coats that are laid in it, as rules and schedule see it."""
    kind = step.nature
    medium = medium_of(project, coats[0]) if coats else step.medium or kind.medium
    finish = finish_of(project, coats[0]) if coats else kind.finish or "flat"
    tool, zones = how_done(project, step, coats)
    models = {project.zone(zone).subject for zone in zones}
    return PlanStep.model_validate(
        {
            "id": step.id, "title": title_of(project, step), "kind": step.kind, "zones": tuple(zones) or "all",
            "model": models.pop() if len(models) == 1 else "",
            "material": {"medium": medium, "finish": finish} if medium else None, "after": _kept(step.after, project),
            "carrier": step.carrier or next((coat.carrier for coat in coats if coat.carrier), None) or _rubbed_with(project, step),
            "application": tool,
            "place": place_of_work(project, step, tool), "area_share": max((c.area_share for c in coats), default=None),
            **hours_of(project, step, coats),
            "works_on": served(project, step), "sitting": step.sitting, "under_hand": _under_hand(project, step),
            "on_found": not project.found_zones.isdisjoint(zones),
            "apart": bool(zones) and all(project.zone(zone).apart for zone in zones),
            "films": _films(coats), "cup": (coats[0].recipe or "") if coats else "",
            **{name: value for name in _STATED if (value := getattr(step, name)) is not None},
            **_done_at(step),
        }
    )  # fmt: skip


def _rubbed_with(project: Project, step: Step) -> str | None:
    """What paint is rubbed through with where nobody says: water, where its medium stays mild."""
    if not step.serves or not step.nature.wipes:
        return None
    for name in served(project, step):
        laid = project.laid_in(name)
        medium = medium_of(project, laid[0]) if laid else None
        if medium and MEDIA[medium].mild and step.kind not in project.step(name).nature.served_by:
            return "water"
    return None


def _under_hand(project: Project, step: Step) -> str | None:
    """The medium of what a step works on."""
    for name in served(project, step):
        laid = next(iter(project.laid_in(name)), None)
        if laid is not None and (medium := medium_of(project, laid)):
            return medium
    return None


def place_of_work(project: Project, step: Step, tool: str | None) -> str | None:
    """Where a step is done: as it says, else as the project says; without extraction, sprays go outdoors."""
    if step.place or project.workplace.place:
        return step.place or project.workplace.place
    if tool is None or not TOOLS[tool].sprayed:
        return None
    return "indoors-extracted" if project.owns.booth else "outdoors"


def _films(coats: tuple[Coat, ...]) -> float | None:
    """Full films that the thickest of a step's coats lays; a varnish or a step without coats is left to the rules."""
    films = [
        coat.passes * (1 - coat.thinner_share) * (1 - coat.wiped) * TOOLS[coat.tool].spread
        for coat in coats
        if coat.nature.is_paint and not coat.nature.is_found
    ]
    return max(films) if films else None


def _done_at(step: Step) -> dict[str, datetime]:
    """When a step that is done was done, where that was kept."""
    if not step.done or not step.ended:
        return {}
    end = read_written(step.ended)
    start = read_written(step.started) if step.started else end
    return {"start": min(start, end, key=datetime.timestamp), "end": end}


def _kept(after: tuple[str, ...], project: Project) -> tuple[str, ...]:
    """The steps waited for, without those whose coats are all switched off."""
    if not after:
        return ()
    nothing_to_do = {step.id for step in project.steps if not step.nature.to_do}
    return tuple(
        name for name in after
        if name not in nothing_to_do and (coats_in(project, name) or not project.laid_in(name))
    )  # fmt: skip


def drying_of(project: Project) -> Drying:
    """How things dry for this person: logged times first, one factor for thick coats, cold and damp, and the school of the oils."""
    logged = tuple(LoggedTime(one.below, one.medium, one.then, one.minutes) for one in project.waits)
    return Drying(project.drying, logged, rested(project.schools))


def found_in(project: Project) -> list[Finding]:
    """All that is found against the order of a document's steps, meant or not."""
    return check_plan(plan_steps(project), project.schools, drying_of(project))


def accepted_in(project: Project) -> frozenset[tuple[str, str, str | None]]:
    """The keys of findings that were said to be meant."""
    return frozenset((one.code, one.step, one.after) for one in project.accepted)
