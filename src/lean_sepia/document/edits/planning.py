"""Edits of how the work is done: schools, tools, place, hours, what is meant, and what was noted at the bench."""

from __future__ import annotations

from collections.abc import Collection
from datetime import datetime

from lean_sepia.document.check import plan_moment
from lean_sepia.document.edits.items import fresh_id, put, without
from lean_sepia.document.entities.planned import Accepted, LoggedWait, PutOff, Workplace
from lean_sepia.document.model import Project
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.plan.hours.evenings import parse_evenings
from lean_sepia.plan.hours.wall_clock import minutes_between, read_written, written
from lean_sepia.plan.owned import Owned
from lean_sepia.plan.schools import checked_school

_LONGEST_AT_WORK = 7 * 24 * 60.0


def set_school(project: Project, question: str, choice: str) -> Project:
    """Choose a school for the whole project.

    Raises
    ------
    EditError
        There is no such question or choice.
    """
    checked_school(question, choice)
    return project.model_copy(update={"schools": {**project.schools, question: choice}})


def set_scale_effect(project: Project, sight_km: float, white_share: float) -> Project:
    """Say how the scale effect is reckoned: the sight in kilometres of the haze law, and the customary share of white."""
    return project.model_copy(update={"sight_km": sight_km, "white_share": white_share})


def set_owned(project: Project, owns: Owned) -> Project:
    """Say what the person has to work with."""
    return project.model_copy(update={"owns": owns})


def set_workplace(project: Project, workplace: Workplace) -> Project:
    """Say where the work is done, and within which limits outdoors.

    Raises
    ------
    PlanError
        The hours for outdoors cannot be read.
    EditError
        The warmest is below the coldest.
    """
    parse_evenings(workplace.daylight)
    if workplace.warmest_c <= workplace.coldest_c:
        words = _(
            "Outdoors from {0:g} °C up to {1:g} °C leaves nothing; the warmest must be above the coldest."
        )
        raise EditError(words.format(workplace.coldest_c, workplace.warmest_c))
    return project.model_copy(update={"workplace": workplace})


def set_drying(project: Project, factor: float) -> Project:
    """Say how much longer than usual things dry: thick coats, cold and damp."""
    return project.model_copy(update={"drying": factor})


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
    _checked_moment(start)
    return project.model_copy(update={"plan_start": start, "evenings": evenings})


def set_deadline(project: Project, deadline: str) -> Project:
    """Say by when all is to be ready; empty for no deadline.

    Raises
    ------
    EditError
        It is no date and time.
    """
    if deadline:
        _checked_moment(deadline)
    return project.model_copy(update={"deadline": deadline})


def _checked_moment(text: str) -> None:
    if plan_moment(text) is None:
        raise EditError(_("A date and time is written 2026-11-30T19:00; found {0!r}.").format(text))


def put_remarks_off(project: Project, keys: Collection[str]) -> Project:
    """Say no more of the remarks known by these keys, and again of all others."""
    return project.model_copy(update={"put_off": tuple(PutOff(id=key) for key in keys)})


def accept_finding(project: Project, code: str, step: str, after: str | None, reason: str) -> Project:
    """Say that a finding is meant, and why; it stays quiet.

    Raises
    ------
    EditError
        No reason was given.
    """
    if not reason.strip():
        raise EditError(_("Say in a few words why this is meant: it is for you, when you come back to it."))
    one = Accepted(
        id=fresh_id(project.accepted, "a"), code=code, step=step, after=after, reason=reason.strip()
    )
    others = tuple(a for a in project.accepted if (a.code, a.step, a.after) != (code, step, after))
    return project.model_copy(update={"accepted": (*others, one)})


def speak_again(project: Project, accepted_id: str) -> Project:
    """Let a finding that was said to be meant be heard again."""
    return without(project, "accepted", accepted_id)


def log_wait(
    project: Project, below: str, medium: str | None, then: str, minutes: float, note: str = ""
) -> Project:
    """Keep how long something really took to dry; the latest of a pair counts."""
    one = LoggedWait.model_validate(
        {"id": fresh_id(project.waits, "w"), "below": below, "medium": medium, "then": then, "minutes": minutes, "note": note}
    )  # fmt: skip
    others = tuple(w for w in project.waits if (w.below, w.medium, w.then) != (below, medium, then))
    return project.model_copy(update={"waits": (*others, one)})


def forget_wait(project: Project, wait_id: str) -> Project:
    """Go back to the table for a pair."""
    return without(project, "waits", wait_id)


def start_step(project: Project, step_id: str, now: datetime) -> Project:
    """Begin a step at the bench: its clock runs."""
    step = project.step(step_id)
    return put(project, "steps", step.model_copy(update={"started": written(now)}))


def set_step_done(project: Project, step_id: str, done: bool, now: datetime | None = None) -> Project:
    """Mark a step as done or not; its waits run from the moment it was done, which is kept."""
    step = project.step(step_id)
    if not done:
        changes: dict[str, object] = {"done": False, "ended": "", "spent_min": None}
        return put(project, "steps", step.model_copy(update=changes))
    changes = {"done": True}
    if now is not None:
        changes["ended"] = written(now)
        if step.started:
            spent = minutes_between(read_written(step.started), now)
            if (
                0 <= spent <= _LONGEST_AT_WORK
            ):  # begun and forgotten, or by a clock that was wrong: nobody knows
                changes["spent_min"] = round(spent, 1)
    return put(project, "steps", step.model_copy(update=changes))


def tick(project: Project, step_id: str, check: str, on: bool) -> Project:
    """Tick something off the list before a step, or take the tick away."""
    step = project.step(step_id)
    others = tuple(name for name in step.ticked if name != check)
    return put(project, "steps", step.model_copy(update={"ticked": (*others, check) if on else others}))
