"""Edits that divide steps and put them together: split, joined, done at one go, done by itself again."""

from __future__ import annotations

from collections.abc import Sequence

from lean_sepia.document.called import title_of
from lean_sepia.document.edits.items import fresh_id, put
from lean_sepia.document.edits.sittings import at_one_go
from lean_sepia.document.edits.steps import UNDONE, serve_too, with_step, without_step
from lean_sepia.document.entities.planned import Step
from lean_sepia.document.model import Project
from lean_sepia.document.work import plan_steps
from lean_sepia.errors import EditError
from lean_sepia.language import _


def split_step(project: Project, step_id: str, zones: Sequence[str] = ()) -> tuple[Project, str]:
    """Two steps of one: some of its zones get a step of their own, or, where none are named, the time at the bench is halved.

    Raises
    ------
    EditError
        All of its zones are named, or one that it is not on.
    """
    step = project.step(step_id)
    coats = project.laid_in(step_id)
    mine = dict.fromkeys([*(coat.zone for coat in coats), *step.zones])
    if not zones and len(mine) > 1:
        zones = list(mine)[len(mine) // 2 :]
    if zones and (not set(zones) <= set(mine) or len(set(zones)) == len(mine)):
        raise EditError(
            _("“{0}” is split between its zones: name some of them, not all.").format(title_of(project, step))
        )
    place = project.steps.index(step) + 1
    if not zones:
        return _halved(project, step, place)
    own = step.model_copy(update={"id": fresh_id(project.steps, "s"), **UNDONE,
                                  "zones": tuple(zone for zone in step.zones if zone in zones)})  # fmt: skip
    kept = step.model_copy(update={"zones": tuple(zone for zone in step.zones if zone not in zones)})
    project = put(with_step(project, own, place), "steps", kept)
    for coat in coats:
        if coat.zone in zones:
            project = put(project, "coats", coat.model_copy(update={"step": own.id}))
    return serve_too(project, own.id, step_id), own.id


def _halved(project: Project, step: Step, place: int) -> tuple[Project, str]:
    """A step on one zone in two sittings; a coat stays in the first, the second is more of the same work."""
    hands = step.hands_on_min if step.hands_on_min is not None else step.nature.hands_on_min
    half = {"hands_on_min": hands / 2}
    own = fresh_id(project.steps, "s")
    laid = bool(project.laid_in(step.id))
    more = step.model_copy(
        update={
            "id": own, **UNDONE, **half, "kind": "other" if laid else step.kind,
            "title": _("{0}, second half").format(title_of(project, step)),
            "zones": tuple(dict.fromkeys([*step.zones, *(c.zone for c in project.laid_in(step.id))])),
        }
    )  # fmt: skip
    first = step.model_copy(update=half)
    return put(with_step(project, more, place), "steps", first), own


def _at_one_sitting(project: Project, step_id: str, other_id: str) -> Project:
    """Two steps of one technique, laid wet in wet on a common zone, done at one go."""
    project = at_one_go(project, other_id, step_id)
    place = max(
        i
        for i, s in enumerate(project.steps)
        if s.id == step_id or (s.sitting == project.step(step_id).sitting and s.id != other_id)
    )
    left = [step for step in project.steps if step.id != other_id]
    place = left.index(project.steps[place]) + 1
    joined = project.model_copy(update={"steps": (*left[:place], project.step(other_id), *left[place:])})
    return serve_too(joined, other_id, step_id)


def leave_sitting(project: Project, step_id: str) -> Project:
    """A step is done by itself again; what is left of its sitting alone is none."""
    sitting = project.step(step_id).sitting
    others = [step for step in project.steps if sitting and step.sitting == sitting and step.id != step_id]
    leaving = {step_id} | ({others[0].id} if len(others) == 1 else set())
    steps = [s.model_copy(update={"sitting": ""}) if s.id in leaving else s for s in project.steps]
    own = project.step(step_id).model_copy(update={"sitting": ""})
    rest = [step for step in steps if step.id != step_id]
    last = max(
        (i for i, step in enumerate(rest) if step.id in {one.id for one in others}), default=len(rest) - 1
    )
    return project.model_copy(update={"steps": (*rest[: last + 1], own, *rest[last + 1 :])})


def join_steps(project: Project, step_id: str, other_id: str) -> Project:
    """Make one step of two of a kind: the second's zones and coats come into the first, with its time where that was given.

    Raises
    ------
    EditError
        They are of different kinds or media, lie on a common zone and not wet in wet, or one waits for the other.
    """
    one, other = project.step(step_id), project.step(other_id)
    plans = {step.id: step for step in plan_steps(project)}
    first, second = plans.get(step_id), plans.get(other_id)
    names = title_of(project, one), title_of(project, other)
    mine = {coat.zone for coat in project.laid_in(step_id)}
    common = any(coat.zone in mine for coat in project.laid_in(other_id))
    differ = first is not None and second is not None and first.medium != second.medium
    both_slow = first is not None and second is not None and first.slow and second.slow
    if one.kind == other.kind and one.nature.wet_in_wet and both_slow and (common or differ):
        return _kept(project, [_at_one_sitting(project, step_id, other_id)], names)
    if one.kind != other.kind or differ:
        raise EditError(
            _("“{0}” and “{1}” are different work; only steps of one kind and medium are joined.").format(
                *names
            )
        )
    if common:
        raise EditError(_("“{0}” and “{1}” both lay a coat on one zone: those are two coats.").format(*names))
    if other_id in one.after or step_id in other.after:
        raise EditError(_("“{0}” and “{1}” wait for each other. Take that tie off first.").format(*names))
    made = _joined(project, one, other)
    places = [step.id for step in project.steps if step.id != step_id].index(other_id)
    later = [step for step in made.steps if step.id != step_id]
    there = made.model_copy(update={"steps": (*later[:places], made.step(step_id), *later[places:])})
    return _kept(project, [made, there], names)


def _kept(project: Project, trials: Sequence[Project], names: tuple[str, str]) -> Project:
    """The first trial on which the coats of every zone lie as they lay."""
    for trial in trials:
        if all(_lying(trial, zone.id) == _lying(project, zone.id) for zone in project.zones):
            return trial
    words = _(
        "Between “{0}” and “{1}” lies another coat: done at one go, they would lie otherwise. Move that coat first."
    )
    raise EditError(words.format(*names))


def _lying(project: Project, zone: str) -> list[str]:
    return [coat.id for coat in project.coats_of(zone)]


def _joined(project: Project, one: Step, other: Step) -> Project:
    step_id, other_id = one.id, other.id
    for coat in project.laid_in(other_id):
        project = put(project, "coats", coat.model_copy(update={"step": step_id}))
    hands = None if one.hands_on_min is None and other.hands_on_min is None else (
        (one.hands_on_min or one.nature.hands_on_min) + (other.hands_on_min or other.nature.hands_on_min))  # fmt: skip
    joined = one.model_copy(
        update={
            "zones": tuple(dict.fromkeys([*one.zones, *other.zones])), "hands_on_min": hands,
            "after": tuple(dict.fromkeys([*one.after, *(n for n in other.after if n != step_id)])),
        }
    )  # fmt: skip
    steps = tuple(
        step.model_copy(
            update={
                "after": tuple(dict.fromkeys(step_id if n == other_id else n for n in step.after)),
                "serves": tuple(dict.fromkeys(step_id if n == other_id else n for n in step.serves)),
            }
        )
        if other_id in step.after or other_id in step.serves
        else step
        for step in project.steps
    )
    project = put(project.model_copy(update={"steps": steps}), "steps", joined)
    return without_step(project, other_id)
