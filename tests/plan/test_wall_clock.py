"""Nights in which the clocks change: real minutes, on the time of the wall."""

import os
import time
from datetime import datetime, timedelta

import icalendar
import pytest

from lean_sepia.answers.bench import Timer
from lean_sepia.answers.plan import PlanQuestion, answer, clocks_of
from lean_sepia.document.check import broken_rule
from lean_sepia.document.edits.planning import set_step_done, start_step
from lean_sepia.document.edits.zones import add_zone
from lean_sepia.document.model import Project, Step
from lean_sepia.document.work import plan_steps
from lean_sepia.plan.hours.evenings import parse_evenings
from lean_sepia.plan.hours.wall_clock import later, minutes_between, read_written, written
from lean_sepia.plan.plan_file import parse_plan
from lean_sepia.plan.schedule.build import build_schedule
from lean_sepia.report.calendar_file import calendar_of

ALWAYS = parse_evenings("daily 00:00-24:00")
AUTUMN, SPRING = datetime(2031, 10, 26), datetime(2031, 3, 30)


@pytest.fixture(autouse=True)
def central_europe(monkeypatch):
    monkeypatch.setenv("TZ", "CET-1CEST,M3.5.0,M10.5.0/3")
    time.tzset()
    yield
    monkeypatch.undo()
    time.tzset()


def test_the_hour_that_comes_twice_is_told_apart():
    first = AUTUMN.replace(hour=2, minute=50)
    second = later(first, 20)
    assert (second.hour, second.minute, second.fold) == (2, 10, 1)
    assert minutes_between(first, second) == 20
    for moment in (first, second):
        again = read_written(written(moment))
        assert (again, again.fold) == (moment, moment.fold)
    assert written(first) == "2031-10-26T02:50:00"
    assert written(second) == "2031-10-26T02:10:00+01:00"


def test_an_hour_that_is_left_out_is_none_on_the_wall():
    assert later(SPRING.replace(hour=1, minute=50), 20) == SPRING.replace(hour=3, minute=10)
    assert written(SPRING.replace(hour=2, minute=30)) == "2031-03-30T03:30:00"


def plan(hands, **more):
    steps = [
        {
            "id": "a",
            "kind": "base",
            "zones": ["hull"],
            "hands_on_min": hands,
            "material": {"medium": "acrylic-water"},
        },
        {"id": "b", "kind": "mask", "zones": ["hull"], "hands_on_min": hands},
        {"id": "c", "kind": "oil-dots", "zones": ["hull"], "hands_on_min": 10, "material": {"medium": "oil"}},
    ]
    return parse_plan({"steps": steps, **more}).steps


@pytest.mark.parametrize("start", [AUTUMN + timedelta(minutes=m) for m in range(0, 240, 10)])
def test_no_event_ends_before_it_begins(start):
    steps = plan(20)
    schedule = build_schedule(steps, start, ALWAYS)
    calendar = icalendar.Calendar.from_ical(calendar_of(steps, schedule))
    events = list(calendar.walk("VEVENT"))
    assert len(events) >= 3
    for event in events:
        assert event["dtend"].dt > event["dtstart"].dt, event["summary"]
    first = next(event for event in events if event["dtstart"].dt == min(e["dtstart"].dt for e in events))
    assert first["dtend"].dt - first["dtstart"].dt == timedelta(minutes=20)


@pytest.mark.parametrize("title", ["a\rBEGIN:VALARM", "a\nb\x00c", "a\u2028b", "/etc/passwd\x1b[2J"])
def test_a_title_never_breaks_a_calendar(title):
    steps = tuple(step.model_copy(update={"title": title}) for step in plan(20))
    schedule = build_schedule(steps, AUTUMN, ALWAYS)
    text = calendar_of(steps, schedule, {"a": title}, title).decode()
    lines = text.split("\r\n")
    assert "\r" not in "".join(lines)
    assert all(line.isprintable() for line in lines)
    assert sum(line.startswith("BEGIN:VALARM") for line in lines) == len(steps)
    (calendar,) = icalendar.Calendar.from_ical(text).walk("VCALENDAR")
    assert len(calendar.walk("VEVENT")) >= len(steps)


@pytest.mark.parametrize(
    ("evening", "free"),
    [
        (datetime(2031, 3, 29, 20), datetime(2031, 3, 30, 9, 30)),
        (datetime(2031, 10, 25, 20), datetime(2031, 10, 26, 7, 30)),
        (datetime(2031, 6, 1, 20), datetime(2031, 6, 2, 8, 30)),
    ],
)
def test_the_earliest_start_is_that_of_the_schedule(evening, free):
    steps = plan(30)
    question = PlanQuestion(steps, evening.isoformat(timespec="minutes"), "daily 00:00-24:00", {})
    found = answer(question)
    assert clocks_of(found)["b"].not_before == free
    assert found.placed["b"].start == free


def test_bench_timers_count_real_minutes():
    from lean_sepia.ui.bench.clock_rows import left_words

    ready = later(AUTUMN.replace(hour=1, minute=30), 120)
    assert left_words(ready, AUTUMN.replace(hour=1, minute=30)) == "2 h 00"
    assert left_words(SPRING.replace(hour=3, minute=30), SPRING.replace(hour=1, minute=45)) == "45:00"
    assert Timer("s1", "ready", ready, "", "").key


def test_time_at_the_bench_is_real_time_and_can_be_loaded_again():
    project = add_zone(Project(title="x"), "Hull")[0]
    project = project.model_copy(update={"steps": (Step(id="s1", title="x", kind="base", zones=("z1",)),)})
    begun = AUTUMN.replace(hour=2, minute=50)
    project = start_step(project, "s1", begun)
    project = set_step_done(project, "s1", True, later(begun, 25))
    step = project.step("s1")
    assert step.spent_min == 25
    assert step.ended.endswith("+01:00")
    assert broken_rule(project) is None
    (kept,) = plan_steps(project)
    assert minutes_between(kept.start, kept.end) == 25
    assert kept.end.tzinfo is None


def test_a_clock_that_was_set_back_counts_no_time():
    project = add_zone(Project(title="x"), "Hull")[0]
    project = project.model_copy(update={"steps": (Step(id="s1", title="x", kind="base", zones=("z1",)),)})
    project = start_step(project, "s1", datetime(2031, 5, 1, 20))
    project = set_step_done(project, "s1", True, datetime(2031, 4, 1, 20))
    assert project.step("s1").done
    assert project.step("s1").spent_min is None
    assert broken_rule(project) is None
    assert os.environ["TZ"].startswith("CET")
