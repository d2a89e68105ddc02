"""The schedule: as short as the best order, masks kept, second clocks kept, the clocks changed, the calendar file read back."""

import itertools
import os
import random
import time
from datetime import UTC, datetime, timedelta

import icalendar
import networkx as nx
import pytest
from benchmarks.plan import best_of_all_orders, random_steps
from tests.plan.sequences import START, sequence

from lean_sepia.errors import BadInputError, PlanError
from lean_sepia.plan.hours.evenings import parse_evenings
from lean_sepia.plan.net import links
from lean_sepia.plan.plan_file import parse_plan
from lean_sepia.plan.schedule.build import build_schedule, lay_without_waiting
from lean_sepia.plan.waits.drying import USUAL, Drying
from lean_sepia.report.calendar_file import calendar_of, write_calendar

EVENINGS = parse_evenings("mon-fri 19:00-21:30,sat 10:00-16:00")
ALWAYS = parse_evenings("daily 00:00-24:00")


def placed(plan, evenings=EVENINGS, **options):
    return {one.id: one for one in build_schedule(plan.steps, START, evenings, **options).steps}


@pytest.mark.parametrize("seed", range(6))
def test_no_order_is_shorter(seed):
    dice = random.Random(seed)
    steps = parse_plan({"steps": random_steps(dice, 7, dice.choice((2, 3)))}).steps
    assert build_schedule(steps, START, EVENINGS).finish == best_of_all_orders(steps, START, EVENINGS)


@pytest.mark.parametrize("seed", range(8))
def test_every_wait_is_kept_and_no_two_steps_share_the_hands(seed):
    dice = random.Random(100 + seed)
    steps = parse_plan({"steps": [*random_steps(dice, 12, 4, "a"), *random_steps(dice, 12, 4, "b")]}).steps
    schedule = build_schedule(steps, START, EVENINGS)
    for step, before in zip(schedule.steps, links(steps), strict=True):
        for earlier, wait in before.items():
            assert step.start >= schedule.steps[earlier].end + timedelta(minutes=wait)
    for one, two in itertools.pairwise(sorted(schedule.steps, key=lambda s: s.start)):
        assert one.end <= two.start
    for one in schedule.steps:
        assert any(
            w.start <= one.start and one.end <= w.end for w in itertools.islice(EVENINGS.windows(START), 200)
        )


@pytest.mark.parametrize("seed", range(5))
def test_with_hands_to_spare_it_is_the_critical_path_of_the_network(seed):
    """Against the longest path of a reference library, where the bench is always open and no work takes time."""
    dice = random.Random(seed)
    records = [{**step, "hands_on_min": 0} for step in random_steps(dice, 14, 3)]
    steps = parse_plan({"steps": records}).steps
    graph = nx.DiGraph()
    for index, before in enumerate(links(steps)):
        graph.add_edge(index, "end", weight=0.0)
        for earlier, wait in before.items():
            graph.add_edge(earlier, index, weight=wait)
    for index, step in enumerate(steps):
        if not any(index in before for before in links(steps)):
            graph[index]["end"]["weight"] = USUAL.alone(step)
    longest = nx.dag_longest_path_length(graph)
    assert build_schedule(steps, START, ALWAYS).finish == START + timedelta(minutes=longest)


def test_a_spray_keeps_under_its_mask_whatever_its_zone():
    plan = sequence(
        "base A flat [under]",
        "base A flat [upper]",
        "mask - - [under]",
        "camouflage A flat [upper] @airbrush",
        "unmask - - [under]",
        "matte-coat A flat [upper] @airbrush",
    )
    at = placed(plan)
    assert at["s3"].start < at["s4"].start < at["s5"].start
    assert at["s5"].start >= at["s4"].end + timedelta(
        minutes=20
    )  # paint on the tape is touch-dry before it is pulled


def test_an_open_mask_is_never_passed_in_any_order_of_work():
    dice = random.Random(4)
    for _try in range(25):
        zones = ["a", "b", "c"]
        lines = [f"base A flat [{zone}]" for zone in zones]
        for _mask in range(2):
            under, upper = dice.sample(zones, 2)
            lines += [
                f"mask - - [{under}]",
                f"camouflage A flat [{upper}] @airbrush",
                f"unmask - - [{under}]",
            ]
        at = placed(sequence(*lines))
        for mask in (4, 7):
            assert at[f"s{mask}"].end <= at[f"s{mask + 1}"].start
            assert at[f"s{mask + 1}"].end <= at[f"s{mask + 2}"].start


def test_two_models_interleave_and_zones_of_one_name_are_two():
    records = [
        {"id": f"{model}{kind}", "model": model, "kind": kind, "zones": ["hull"], "material": {"medium": "acrylic-water"}}
        for model in ("tender", "bus") for kind in ("primer", "base")
    ]  # fmt: skip
    schedule = build_schedule(parse_plan({"steps": records}).steps, START, EVENINGS)
    days = {one.id: one.start.date() for one in schedule.steps}
    assert days["tenderprimer"] == days["busprimer"]
    assert days["tenderbase"] == days["busbase"] == days["busprimer"] + timedelta(days=1)


def test_steps_from_one_cup_come_together():
    records = [
        {"id": str(number), "kind": "base", "zones": [f"z{number}"], "material": {"medium": "acrylic-water"}, "cup": "ab"[number % 2], "hands_on_min": 10}
        for number in range(6)
    ]  # fmt: skip
    schedule = build_schedule(parse_plan({"steps": records}).steps, START, EVENINGS)
    assert schedule.changes == 1


def test_outdoors_only_in_the_hours_for_that():
    plan = sequence("base A flat @airbrush %outdoors", "matte-coat A flat @brush")
    daylight = parse_evenings("daily 9:00-18:00")
    at = placed(plan, outdoors=daylight)
    assert at["s1"].start == datetime(2031, 3, 8, 10)  # Saturday
    with pytest.raises(PlanError, match="within the hours for outdoors"):
        placed(plan, outdoors=parse_evenings("daily 6:00-9:00"))


def test_waits_are_longer_in_the_cold():
    plan = sequence("base A flat", "gloss-coat A gloss")
    assert placed(plan, ALWAYS, drying=Drying(factor=2))["s2"].start == START + timedelta(minutes=30 + 120)


@pytest.fixture
def central_europe():
    before = os.environ.get("TZ")
    os.environ["TZ"] = "CET-1CEST,M3.5.0,M10.5.0/3"
    time.tzset()
    yield
    os.environ.pop("TZ") if before is None else os.environ.update(TZ=before)
    time.tzset()


@pytest.mark.parametrize(("start", "ready"), [
    (datetime(2031, 3, 29, 20), datetime(2031, 3, 30, 9, 30)),  # the night is an hour shorter: paint does not know
    (datetime(2031, 10, 25, 20), datetime(2031, 10, 26, 7, 30)),
    (datetime(2031, 6, 1, 20), datetime(2031, 6, 2, 8, 30)),
])  # fmt: skip
def test_waits_run_in_real_time_through_a_change_of_the_clocks(central_europe, start, ready):
    plan = sequence("base A flat", "mask - -")
    schedule = build_schedule(plan.steps, start, ALWAYS)
    assert schedule.steps[1].start == ready
    events = {
        str(e["summary"]): e
        for e in icalendar.Calendar.from_ical(calendar_of(plan.steps, schedule)).walk("VEVENT")
    }
    begin = events["s2"]["dtstart"].dt
    assert (begin - events["s1"]["dtend"].dt) == timedelta(hours=12)
    assert begin.astimezone().replace(tzinfo=None) == ready


def test_the_calendar_file_is_read_back(tmp_path):
    plan = sequence("base A flat", "gloss-coat A gloss", "wash O flat", "matte-coat A flat")
    schedule = build_schedule(plan.steps, START, EVENINGS)
    file = tmp_path / "plan.ics"
    write_calendar(plan.steps, schedule, file, {"s1": "6 : 2 : 1"}, "Tordmule")
    calendar = icalendar.Calendar.from_ical(file.read_bytes())
    assert calendar["x-wr-calname"] == "Tordmule"
    events = [e for e in calendar.walk("VEVENT") if not str(e["summary"]).startswith("Look again")]
    assert [(e["dtstart"].dt.astimezone().replace(tzinfo=None), e["dtend"].dt.astimezone().replace(tzinfo=None)) for e in events] == [
        (one.start, one.end) for one in schedule.steps
    ]  # fmt: skip
    assert "6 : 2 : 1" in str(events[0]["description"])
    assert all(e["dtstart"].dt.tzinfo == UTC or e["dtstart"].dt.utcoffset() == timedelta() for e in events)
    looks = [e for e in calendar.walk("VEVENT") if str(e["summary"]).startswith("Look again")]
    assert len(looks) >= 4
    assert len({str(e["uid"]) for e in calendar.walk("VEVENT")}) == len(events) + len(looks)
    with pytest.raises(BadInputError, match="another folder"):
        write_calendar(plan.steps, schedule, tmp_path / "none" / "plan.ics")


@pytest.mark.parametrize(("steps", "words"), [
    ([{"id": "a", "kind": "oil-dots", "workable_until_min": 90, "removable_until_min": 60}], "at least as long"),
    ([{"id": "a", "kind": "base", "after": ["b"], "zones": ["x"]}, {"id": "b", "kind": "base", "after": ["a"], "zones": ["y"]}], "circle"),
    ([{"id": "a", "kind": "base", "mask": "paper"}], "mask"),
    ([{"id": "a", "kind": "base", "area_share": 3}], "area_share"),
])  # fmt: skip
def test_plans_that_exclude_themselves(steps, words):
    with pytest.raises(PlanError, match=words):
        parse_plan({"steps": steps})


@pytest.mark.parametrize(("more", "words"), [
    ({"schools": {"decals": "sometimes"}}, "sometimes"), ({"schools": {"glue": "yes"}}, "glue"), ({"schools": 3}, "Schools are written"),
    ({"drying_factor": "slow"}, "drying factor"), ({"drying_factor": 0}, "drying factor"),
])  # fmt: skip
def test_schools_and_drying_that_cannot_be_read(more, words):
    with pytest.raises(PlanError, match=words):
        parse_plan({"steps": [], **more})


def test_a_mask_without_a_spray_is_said_and_scheduled():
    plan = sequence("base A flat", "mask - -", "unmask - -")
    assert placed(plan)["s3"].start > placed(plan)["s2"].start


def test_laying_straight_through_takes_no_two_steps_at_once():
    plan = sequence("base A flat", "base A flat", "base A flat")
    dated = lay_without_waiting(plan.steps, START, EVENINGS)
    assert all(one.end <= two.start for one, two in itertools.pairwise(dated))
