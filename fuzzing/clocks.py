"""Clocks that jump: other zones, nights in which they change, years that are wrong; nothing is pruned, and no time runs backwards."""

from __future__ import annotations

import os
import random
import shutil
import time
from datetime import UTC, datetime, timedelta
from functools import partial
from pathlib import Path

from fuzzing.part import Part

ZONES = (
    "UTC", "CET-1CEST,M3.5.0,M10.5.0/3", "EST5EDT,M3.2.0,M11.1.0", "LHST-10:30LHDT-11,M10.1.0,M4.1.0",
    "NZST-12NZDT,M9.5.0,M4.1.0/3", "<+14>-14", "<-12>12",
)  # fmt: skip


def _moment(rng: random.Random) -> datetime:
    """A time on the wall, often near a change of the clocks, sometimes of a wrong year."""
    year = rng.choice((2031, 2031, 2031, 1971, 2099, 2150))
    month, day = rng.choice(((3, 30), (10, 26), (4, 6), (11, 2), (6, 1), (12, 31)))
    return datetime(year, month, day, rng.randrange(24), rng.randrange(60))


def _bench(rng: random.Random) -> None:
    """Begin and finish steps by a clock that jumps; then the plan and its calendar."""
    import icalendar

    from fuzzing.texts import small_document
    from lean_sepia.answers.plan import answer, clocks_of
    from lean_sepia.answers.plan import ask as ask_plan
    from lean_sepia.document.check import broken_rule
    from lean_sepia.document.edits.planning import set_hours, set_step_done, start_step
    from lean_sepia.document.migrate import parse_document
    from lean_sepia.report.calendar_file import calendar_of

    project = parse_document(small_document())
    hours = rng.choice(("daily 00:00-24:00", "mon-fri 19:00-21:30,sat 10:00-16:00", "daily 01:00-04:00"))
    project = set_hours(project, _moment(rng).isoformat(timespec="minutes"), hours)
    for step in project.steps[: rng.randrange(3)]:
        if rng.random() < 0.7:
            project = start_step(project, step.id, _moment(rng))
        project = set_step_done(project, step.id, True, _moment(rng))
        assert (project.step(step.id).spent_min or 0) >= 0
    fault = broken_rule(project)
    assert fault is None, fault
    assert parse_document(project.model_dump_json()) == project
    found = answer(ask_plan(project))
    clocks_of(found)
    if found.schedule is None:
        return
    calendar = icalendar.Calendar.from_ical(calendar_of(found.question.work, found.schedule))
    for event in calendar.walk("VEVENT"):
        assert event["dtend"].dt >= event["dtstart"].dt, event["summary"]


def _saves(rng: random.Random, place: Path) -> None:
    """Hourly states saved by a clock that is wrong now and then: every hour of the last thirty days keeps one."""
    from lean_sepia.document.model import Project
    from lean_sepia.document.store import ProjectStore

    place.unlink(missing_ok=True)
    store = ProjectStore.create(place, Project(title="0"))
    try:
        now = datetime(2031, 3, 3, 12, 30, tzinfo=UTC)
        hours = {now + timedelta(hours=hour) for hour in range(rng.randrange(5, 60))}
        for number, hour in enumerate(sorted(hours)):
            store.save(Project(title=f"{number}"), "hourly", now=hour)
        for number in range(210):
            wrong = rng.random() < 0.02
            moment = rng.choice((datetime(2099, 1, 1), datetime(1971, 1, 1))).replace(tzinfo=UTC)
            store.save(
                Project(title=f"x{number}"),
                "later",
                now=moment if wrong else now + timedelta(days=3, seconds=number),
            )
        kept = {revision.saved_at for revision in store.revisions() if revision.label == "hourly"}
        assert kept == hours, f"{len(hours - kept)} of {len(hours)} hourly states are gone"
    finally:
        store.close()


def run(part: Part) -> None:
    """Jump until the time is over."""
    before = os.environ.get("TZ")
    folder = part.folder / f"clocks-{part.seed}"
    folder.mkdir(parents=True, exist_ok=True)
    try:
        while part.going:
            os.environ["TZ"] = part.rng.choice(ZONES)
            time.tzset()
            act = (
                partial(_saves, part.rng, folder / "a.sepia")
                if part.count % 8 == 0
                else partial(_bench, part.rng)
            )
            part.look("clock", act)
    finally:
        os.environ.pop("TZ")
        if before is not None:
            os.environ["TZ"] = before
        time.tzset()
    shutil.rmtree(folder, ignore_errors=True)
