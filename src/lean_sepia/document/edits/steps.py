"""Edits of the plan: steps, their order, schools and the evenings."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from lean_sepia.document.edits.items import fresh_id, put
from lean_sepia.document.model import Coat, Project, Step
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.plan.evenings import parse_evenings
from lean_sepia.plan.kinds import KINDS, RANK
from lean_sepia.plan.owned import Owned
from lean_sepia.plan.schools import checked_school


def coat_name(coat: Coat) -> str:
    """What a coat is called: its own name, else that of its kind."""
    return coat.name or _(KINDS[coat.kind].title)


def title_of(project: Project, step: Step) -> str:
    """What a step is called: its own title, else its coats or kind and where that is."""
    if step.title:
        return step.title
    coats = [coat for coat in project.coats if coat.step == step.id]
    title = coat_name(coats[0]) if coats else _(KINDS[step.kind].title)
    zones = dict.fromkeys(coat.zone for coat in coats) or dict.fromkeys(step.zones)
    if KINDS[step.kind].whole_model or not zones or len(zones) > _MOST_NAMED:
        return title
    return f"{title}, {', '.join(project.zone(zone).short for zone in zones)}"


_MOST_NAMED = 2


def place_for(project: Project, kind: str) -> int:
    """Where in the order of steps one of this kind usually comes."""
    rank = RANK[kind]
    return max((i + 1 for i, other in enumerate(project.steps) if RANK[other.kind] <= rank), default=0)


def add_step(
    project: Project,
    kind: str,
    zones: Sequence[str] = (),
    medium: str | None = None,
    title: str = "",
    place: int | None = None,
) -> tuple[Project, str]:
    """Add a step at a place, else where its kind usually comes; returns its id."""
    step = Step(id=fresh_id(project.steps, "s"), kind=kind, title=title, zones=tuple(zones), medium=medium)
    place = place_for(project, kind) if place is None else place
    steps = (*project.steps[:place], step, *project.steps[place:])
    return project.model_copy(update={"steps": steps}), step.id


def without_step(project: Project, step_id: str) -> Project:
    """The document without a step; nothing waits for it any more."""
    steps = tuple(
        step.model_copy(update={"after": tuple(other for other in step.after if other != step_id)})
        for step in project.steps
        if step.id != step_id
    )
    return project.model_copy(update={"steps": steps})


def move_step(project: Project, step_id: str, places: int) -> Project:
    """Move a step up (negative) or down in the order of work.

    Raises
    ------
    EditError
        The step would pass one that it comes after, or that comes after it.
    """
    steps = list(project.steps)
    index = next(i for i, step in enumerate(steps) if step.id == step_id)
    target = max(0, min(len(steps) - 1, index + places))
    moved = steps.pop(index)
    for passed in steps[min(index, target) : max(index, target)]:
        if passed.id in moved.after or moved.id in passed.after:
            raise EditError(
                _("“{0}” and “{1}” are bound to their order. Take that tie off first.").format(
                    title_of(project, moved), title_of(project, passed)
                )
            )
    steps.insert(target, moved)
    return project.model_copy(update={"steps": tuple(steps)})


def set_school(project: Project, question: str, choice: str) -> Project:
    """Choose a school for the whole project.

    Raises
    ------
    EditError
        There is no such question or choice.
    """
    checked_school(question, choice)
    return project.model_copy(update={"schools": {**project.schools, question: choice}})


def set_owned(project: Project, owns: Owned) -> Project:
    """Say what the person has to work with."""
    return project.model_copy(update={"owns": owns})


def set_step_done(project: Project, step_id: str, done: bool) -> Project:
    """Mark a step as done or not."""
    return put(project, "steps", project.step(step_id).model_copy(update={"done": done}))


def set_hours(project: Project, start: str, evenings: str) -> Project:
    """Say when the work begins and which hours there are.

    Raises
    ------
    EditError
        The start is no date and time.
    PlanError
        The evenings cannot be read.
    """
    parse_evenings(evenings)
    try:
        datetime.fromisoformat(start)
    except ValueError:
        raise EditError(_("A start is written 2026-11-30T19:00; found {0!r}.").format(start)) from None
    return project.model_copy(update={"plan_start": start, "evenings": evenings})
