"""The schedule as a calendar file (iCalendar, RFC 5545): an event for every step, a reminder of what must be looked at again."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime, timedelta
from pathlib import Path

from icalendar import Alarm, Calendar, Event

from lean_sepia.answers.bench import step_details
from lean_sepia.answers.plan import answer, ask
from lean_sepia.errors import BadInputError
from lean_sepia.files.gate import one_line, write_export
from lean_sepia.language import _, clock, day
from lean_sepia.plan.care.cautions import cautions
from lean_sepia.plan.care.looking import looks_again
from lean_sepia.plan.hours.wall_clock import later
from lean_sepia.plan.schedule.build import Schedule
from lean_sepia.plan.step import PlanStep
from lean_sepia.report.export import Leaving

_NOBODY = "lean-sepia.invalid"
_WARNING = timedelta(minutes=15)


def calendar_of(
    steps: Sequence[PlanStep], schedule: Schedule, notes: Mapping[str, str] | None = None, title: str = ""
) -> bytes:
    """The schedule as iCalendar text.

    Times are moments (UTC), so that every calendar shows them right through a change of the clocks. `notes` are further words by step.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Lean Sepia//Plan//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", one_line(title) or _("Bench"))
    by_id = {step.id: step for step in steps}
    stamp = _moment(schedule.steps[0].start) if schedule.steps else datetime(2000, 1, 1, tzinfo=UTC)
    for placed in schedule.steps:
        step = by_id[placed.id]
        words = [_("Ready {0}, {1}.").format(day(placed.ready), clock(placed.ready))]
        words += [*cautions(step), (notes or {}).get(step.id, "")]
        event = _event(step.name, step.id, placed.start, placed.end, stamp)
        event.add("description", _lines(words))
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", one_line(step.name))
        alarm.add("trigger", -_WARNING)
        event.add_component(alarm)
        calendar.add_component(event)
        for number, look in enumerate(looks_again(step)):
            when = later(placed.end, look.after_min)
            title_words = _("Look again: {0}").format(step.name)
            again = _event(title_words, f"{step.id}-{number}", when, later(when, 5), stamp)
            again.add("description", _lines([_(look.words)]))
            calendar.add_component(again)
    return bytes(calendar.to_ical())


def _lines(words: Sequence[str]) -> str:
    """Text of several lines that only break where a line feed says so: a bare carriage return ends a line for some readers."""
    return "\n".join(one_line(line) for text in words for line in text.splitlines() if line.strip())


def _event(title: str, key: str, start: datetime, end: datetime, stamp: datetime) -> Event:
    event = Event()
    digest = hashlib.sha256(f"{key} {title}".encode()).hexdigest()[:20]
    event.add("uid", f"{digest}@{_NOBODY}")
    event.add("dtstamp", stamp)
    event.add("summary", one_line(title))
    event.add("dtstart", _moment(start))
    event.add("dtend", _moment(end))
    return event


def _moment(on_the_wall: datetime) -> datetime:
    return on_the_wall.astimezone(UTC).replace(microsecond=0)


def write_calendar(
    steps: Sequence[PlanStep],
    schedule: Schedule,
    path: str | Path,
    notes: Mapping[str, str] | None = None,
    title: str = "",
) -> None:
    """Write the calendar beside its place first, then rename.

    Raises
    ------
    BadInputError
        The place cannot be written to.
    """
    write_export(path, calendar_of(steps, schedule, notes, title), BadInputError)


def write_evenings(leaving: Leaving, path: str | Path) -> None:
    """Write the schedule of a project, with what each step says of itself.

    Raises
    ------
    BadInputError
        The project has no schedule, or the place cannot be written to.
    """
    found = answer(ask(leaving.project))
    if found.schedule is None or not found.question.work:
        raise BadInputError(
            found.fault or _("There is no step with work in it yet, so nothing to put into a calendar.")
        )
    details = step_details(leaving.project, found)
    write_calendar(found.question.work, found.schedule, path, details, leaving.project.title)
