"""Plans: order, evenings, schedules and what one step does to another."""

import itertools
from datetime import datetime, timedelta

import pytest

from lean_sepia.errors import PlanError
from lean_sepia.plan.care.cautions import cautions
from lean_sepia.plan.hours.evenings import parse_evenings
from lean_sepia.plan.plan_file import parse_plan, read_plan
from lean_sepia.plan.rules.table import check_plan
from lean_sepia.plan.schedule.build import build_schedule, lay_without_waiting
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.waits.drying import USUAL

START = datetime(2031, 3, 3, 19)  # a Monday
EVENINGS = parse_evenings("mon-fri 19:00-21:30,sat 10:00-16:00")


def step(
    identity,
    kind,
    medium="acrylic-water",
    finish="flat",
    zones=("hull",),
    hands=30,
    touch=20,
    cure=720,
    **more,
):
    return {
        "id": identity, "title": identity.capitalize(), "kind": kind, "material": {"medium": medium, "finish": finish},
        "zones": list(zones) if zones != "all" else "all", "hands_on_min": hands, "touch_dry_min": touch,
        "full_cure_min": cure, **more,
    }  # fmt: skip


def plan(*steps):
    return parse_plan({"steps": list(steps)}).steps


def codes(*steps):
    return {(finding.code, finding.step) for finding in check_plan(plan(*steps))}


def test_evenings_are_read_and_merged():
    windows = EVENINGS.windows(START)
    first = next(windows)
    assert (first.start, first.end) == (START, datetime(2031, 3, 3, 21, 30))
    later = [next(windows) for _ in range(5)]
    assert later[4].start == datetime(2031, 3, 8, 10)
    assert EVENINGS.longest_min == 360
    night = parse_evenings("daily 22:00-01:00")
    assert next(night.windows(datetime(2031, 3, 4, 0, 30))).end == datetime(2031, 3, 4, 1)
    assert parse_evenings("mon 23:00-24:00").longest_min == 60
    weekend = parse_evenings("fri-mon 20:00-21:00")
    assert [bool(day) for day in weekend.spans] == [True, False, False, False, True, True, True]


@pytest.mark.parametrize(
    "text",
    [
        "",
        "mon",
        "mon 19:00-24:30",
        "mon 24:00-24:10",
        "mon 19-21",
        "xyz 19:00-20:00",
        "mon 19:00-19:00",
        "mon 25:00-26:00",
        "mon 19:70-20:00",
    ],
)
def test_evenings_that_cannot_be(text):
    with pytest.raises(PlanError):
        parse_evenings(text)


def test_waits_run_in_calendar_time_and_hands_inside_evenings():
    schedule = build_schedule(
        plan(step("prime", "primer", touch=60, cure=1440), step("base", "base"), step("gloss", "gloss-coat")),
        START,
        EVENINGS,
    )
    prime, base, gloss = schedule.steps
    assert prime.start == START
    # Touch-dry suffices below a paint coat of the same medium; the varnish waits for the cure that each of them states.
    assert base.start == prime.end + timedelta(minutes=60)
    assert gloss.start == prime.end + timedelta(minutes=1440)
    assert schedule.finish == gloss.end + timedelta(minutes=720)
    assert schedule.critical_path[-1] == "gloss"


def test_steps_are_never_split_or_overlapping():
    schedule = build_schedule(
        plan(*(step(f"s{i}", "base", zones=(f"z{i}",), hands=50, touch=0, cure=0) for i in range(12))),
        START,
        EVENINGS,
    )
    placed = sorted(schedule.steps, key=lambda s: s.start)
    for one, two in itertools.pairwise(placed):
        assert one.end <= two.start
    for s in placed:
        assert s.start.date() == s.end.date()
        assert (s.start.hour, s.start.minute) >= ((19, 0) if s.start.weekday() < 5 else (10, 0))
        assert (s.end.hour, s.end.minute) <= ((21, 30) if s.end.weekday() < 5 else (16, 0))


def test_other_zones_fill_the_waits():
    schedule = build_schedule(
        plan(
            step("a", "primer", zones=("hull",), touch=90),
            step("b", "base", zones=("hull",)),
            step("c", "primer", zones=("house",)),
        ),
        START,
        EVENINGS,
    )
    by_id = {s.id: s for s in schedule.steps}
    assert by_id["c"].start < by_id["b"].start


def test_after_adds_to_the_order():
    schedule = build_schedule(
        plan(step("a", "base", zones=("hull",), after=["b"]), step("b", "base", zones=("house",), cure=60)),
        START,
        EVENINGS,
    )
    a, b = schedule.steps
    assert a.start >= b.end


def test_critical_path_is_walked_back_from_the_finish():
    schedule = build_schedule(
        plan(
            step("a", "base", cure=2880), step("quick", "base", zones=("house",), hands=10, cure=10),
            step("b", "gloss-coat", cure=60), step("c", "wash", medium="oil", cure=60),
        ), START, EVENINGS,
    )  # fmt: skip
    assert schedule.critical_path == ("a", "b", "c")


def test_empty_plan():
    assert build_schedule((), START, EVENINGS).finish == START


@pytest.mark.parametrize(
    ("steps", "words"),
    [
        ([step("a", "base"), step("a", "base")], "Two steps"),
        ([step("a", "base", after=["x"])], "not in the plan"),
        ([step("a", "varnishing")], "kinds are"),
        ([step("a", "base", after=["b"]), step("b", "base")], "circle"),
        ([{"id": "a", "kind": "base", "hands_on_min": "soon"}], "hands_on_min"),
        ([step("a", "base", hands=-5)], "hands_on_min"),
        ([step("a", "base", start="2031-03-03T20:00", end="2031-03-03T19:00")], "ends before"),
    ],
)
def test_plans_that_cannot_be(steps, words):
    with pytest.raises(PlanError, match=words):
        plan(*steps)


def test_a_step_longer_than_every_evening():
    with pytest.raises(PlanError, match="longest evening has 360"):
        build_schedule(plan(step("a", "base", hands=400)), START, EVENINGS)


@pytest.mark.parametrize("text", ["{", "[1, 2]", '{"steps": 3}'])
def test_plan_files_that_are_none(tmp_path, text):
    file = tmp_path / "plan.json"
    file.write_text(text)
    with pytest.raises(PlanError):
        read_plan(file)
    with pytest.raises(PlanError):
        read_plan(tmp_path / "missing.json")


OIL_WASH = step("wash", "wash", medium="oil")
RULE_CASES = [
    ("solvent-attacks-base", [step("base", "base", medium="enamel"), OIL_WASH], "wash"),
    ("solvent-attacks-base", [step("base", "base"), step("top", "gloss-coat", medium="lacquer")], "top"),
    ("wash-on-matte", [step("base", "base"), OIL_WASH], "wash"),
    ("decal-on-matte", [step("base", "base"), step("name", "marking")], "name"),
    ("unsealed-under-wet", [step("dust", "powder", medium="pigment"), step("wet", "filter", medium="oil")], "wet"),
    ("powder-fades-under-varnish", [step("dust", "dust", medium="pigment"), step("matte", "matte-coat")], "matte"),
    ("powder-hides-graphite", [step("shine", "graphite", medium="pigment"), step("dust", "powder", medium="pigment")], "dust"),
    ("varnish-kills-metallic", [step("steel", "base", finish="metallic"), step("matte", "matte-coat")], "matte"),
    ("chips-after-wash", [OIL_WASH, step("chips", "chips")], "chips"),
    ("spray-solvent-indoors", [step("coat", "base", medium="lacquer", application="airbrush", place="indoors")], "coat"),
    ("spray-solvent-indoors", [step("can", "base", application="spray-can", place="indoors")], "can"),
    # A seal on another zone seals nothing here.
    ("powder-fades-under-varnish", [step("dust", "dust", medium="pigment"), step("seal", "satin-coat", zones=("house",)), step("matte", "matte-coat")], "matte"),
    ("varnish-kills-metallic", [step("steel", "base", finish="metallic"), step("seal", "satin-coat", zones=("house",)), step("matte", "matte-coat")], "matte"),
    ("unsealed-under-wet", [step("dust", "powder", medium="pigment"), step("seal", "matte-coat", zones=("house",)), step("wet", "filter", medium="oil")], "wet"),
    ("varnish-kills-metallic", [step("shine", "graphite", medium="pigment"), step("matte", "matte-coat")], "matte"),
    ("chips-after-wash", [step("pins", "pin-wash", medium="oil"), step("chips", "chips")], "chips"),
    ("powder-fades-under-varnish", [step("dust", "dust", medium="pigment"), step("matte", "matte-coat", zones="all")], "matte"),
]  # fmt: skip


@pytest.mark.parametrize(("code", "steps", "where"), RULE_CASES, ids=[case[0] for case in RULE_CASES])
def test_rule_speaks(code, steps, where):
    assert (code, where) in codes(*steps)


SILENT_CASES = [
    ("solvent-attacks-base", [step("base", "base", medium="enamel"), step("seal", "satin-coat"), OIL_WASH]),
    ("wash-on-matte", [step("base", "base"), step("gloss", "gloss-coat"), OIL_WASH]),
    ("decal-on-matte", [step("base", "base"), step("satin", "satin-coat"), step("name", "marking")]),
    ("unsealed-under-wet", [step("dust", "powder", medium="pigment"), step("seal", "matte-coat"), step("wet", "filter", medium="oil")]),
    ("powder-fades-under-varnish", [step("matte", "matte-coat"), step("dust", "dust", medium="pigment")]),
    ("powder-hides-graphite", [step("dust", "powder", medium="pigment"), step("shine", "graphite", medium="pigment")]),
    ("varnish-kills-metallic", [step("matte", "matte-coat"), step("steel", "base", finish="metallic")]),
    ("chips-after-wash", [step("chips", "chips"), OIL_WASH]),
    ("spray-solvent-indoors", [step("coat", "base", medium="lacquer", application="airbrush", place="indoors-extracted")]),
    ("unsealed-under-wet", [step("dust", "powder", medium="pigment", zones=("house",)), step("wet", "filter", medium="oil")]),
    ("varnish-kills-metallic", [step("flat", "base"), step("matte", "matte-coat")]),
    ("spray-solvent-indoors", [step("coat", "base", application="airbrush", place="indoors")]),
    ("spray-solvent-indoors", [step("coat", "base", medium="lacquer", application="brush", place="indoors")]),
    ("spray-solvent-indoors", [step("coat", "base", medium="lacquer", application="spray-can", place="outdoors")]),
    ("varnish-kills-metallic", [step("steel", "base", finish="metallic", zones=("house",)), step("matte", "matte-coat")]),
    ("powder-fades-under-varnish", [step("dust", "dust", medium="pigment", zones=("house",)), step("matte", "matte-coat")]),
    ("chips-after-wash", [step("wash", "wash", medium="oil", zones=("house",)), step("chips", "chips")]),
    ("decal-on-matte", [step("satin", "base", finish="satin"), step("name", "marking")]),
    ("wash-on-matte", [step("satin", "base", finish="satin"), OIL_WASH]),
]  # fmt: skip


@pytest.mark.parametrize(("code", "steps"), SILENT_CASES, ids=[case[0] for case in SILENT_CASES])
def test_rule_is_silent_where_the_order_is_right(code, steps):
    assert code not in {found for found, _ in codes(*steps)}


def test_a_powder_that_was_sealed_is_found_once():
    steps = [step("dust", "dust", medium="pigment"), step("satin", "satin-coat"), step("matte", "matte-coat")]
    found = [f for f in check_plan(plan(*steps)) if f.code == "powder-fades-under-varnish"]
    assert [(f.step, f.after) for f in found] == [("satin", "dust")]  # the second coat finds it sealed


def test_what_stops_the_work_is_told_before_what_only_warns():
    steps = [
        step("dust", "dust", medium="pigment"), step("matte", "matte-coat"), step("base", "base", medium="enamel", zones=("house",)),
        step("wash", "wash", medium="oil", zones=("house",)),
    ]  # fmt: skip
    order = {"stop": 0, "warn": 1, "note": 2}
    ranks = [order[finding.severity] for finding in check_plan(plan(*steps))]
    assert ranks == sorted(ranks)
    assert len(set(ranks)) > 1


@pytest.mark.parametrize(("minutes", "said"), [(20, "20 min"), (89, "89 min"), (90, "2 h"), (720, "12 h")])
def test_waits_are_said_in_minutes_or_hours(minutes, said):
    base = step("base", "base", cure=2000, touch=2000, start="2031-03-03T19:00", end="2031-03-03T19:30")
    begin = datetime(2031, 3, 3, 19, 30) + timedelta(minutes=2000 - minutes)
    coat = step(
        "gloss", "gloss-coat", start=begin.isoformat(), end=(begin + timedelta(minutes=5)).isoformat()
    )
    (found,) = [f for f in check_plan(plan(base, coat)) if f.code == "not-cured"]
    assert said in found.message


def test_evenings_past_midnight_are_merged_and_begin_where_asked():
    night = parse_evenings("daily 20:00-02:00,daily 01:00-03:00")
    windows = night.windows(datetime(2031, 3, 4, 1, 30))
    first, second = next(windows), next(windows)
    assert (first.start, first.end) == (datetime(2031, 3, 4, 1, 30), datetime(2031, 3, 4, 3))
    assert (second.start, second.end) == (datetime(2031, 3, 4, 20), datetime(2031, 3, 5, 3))
    assert night.longest_min == 360
    assert (
        len(list(parse_evenings("mon 19:00-20:00").windows(START))) == 157
    )  # three years and a week of Mondays


def test_the_wait_that_holds_longest_is_the_cause():
    steps = plan(
        step("short", "base", zones=("house",), cure=60, touch=10), step("long", "base", cure=900, touch=10),
        step("matte", "matte-coat", zones=("hull", "house")),
    )  # fmt: skip
    schedule = build_schedule(steps, START, EVENINGS)
    placed = {one.id: one for one in schedule.steps}
    assert placed["matte"].start >= placed["long"].end + timedelta(minutes=900)
    assert "short" not in schedule.critical_path
    assert schedule.critical_path[-1] == "matte"
    assert placed["long"].ready == placed["long"].end + timedelta(minutes=900)
    assert placed["matte"].ready == placed["matte"].end + timedelta(minutes=720)
    assert schedule.finish == placed["matte"].ready


def test_paint_over_paint_of_another_medium_waits_for_its_cure():
    enamel, same, other = plan(
        step("first", "base", medium="enamel", touch=120, cure=1440), step("second", "base", medium="enamel"),
        step("third", "base", medium="acrylic-water"),
    )  # fmt: skip
    assert USUAL.wait(enamel, same).not_before == 120
    assert USUAL.wait(enamel, other).not_before == 1440


def test_a_step_is_ready_for_what_lies_on_it():
    steps = plan(
        step("base", "base", touch=20, cure=720), step("chips", "chips"), step("matte", "matte-coat")
    )
    placed = {one.id: one for one in build_schedule(steps, START, EVENINGS).steps}
    assert placed["base"].ready == placed["base"].end + timedelta(
        minutes=720
    )  # chips cover little: the varnish lies on it too


def test_a_time_that_is_stated_holds_for_all_that_comes_later_there_a_usual_one_for_what_lies_on_it():
    stated = plan(step("a", "base", touch=20, cure=720), step("b", "base"), step("gloss", "gloss-coat"))
    placed = {one.id: one for one in build_schedule(stated, START, parse_evenings("daily 00:00-24:00")).steps}
    assert placed["a"].ready == placed["a"].end + timedelta(minutes=720)
    usual = [one.model_copy(update={"touch_dry_min": None, "full_cure_min": None}) for one in stated]
    placed = {one.id: one for one in build_schedule(usual, START, parse_evenings("daily 00:00-24:00")).steps}
    assert placed["a"].ready == placed["a"].end + timedelta(minutes=20)
    assert placed["gloss"].start == placed["b"].end + timedelta(minutes=60)


def test_dated_rules():
    base = step("base", "base", start="2031-03-03T19:00", end="2031-03-03T19:30")
    soon = {"start": "2031-03-03T20:00", "end": "2031-03-03T20:20"}
    late = {"start": "2031-03-04T19:00", "end": "2031-03-04T19:20"}
    assert ("not-cured", "gloss") in codes(base, step("gloss", "gloss-coat", **soon))
    assert ("not-cured", "gloss") not in codes(base, step("gloss", "gloss-coat", **late))
    assert ("not-cured", "two") not in codes(base, step("two", "base", **soon))  # touch-dry is enough here
    assert ("mask-before-cure", "tape") in codes(base, step("tape", "mask", **soon))
    assert ("mask-before-cure", "tape") not in codes(base, step("tape", "mask", **late))


def test_steps_without_dates_are_checked_as_if_done_straight_through():
    steps = plan(step("base", "base"), step("tape", "mask"), step("gloss", "gloss-coat"))
    found = {f.code for f in check_plan(lay_without_waiting(steps, START, EVENINGS))}
    assert {"mask-before-cure", "not-cured"} <= found
    assert not {f.code for f in check_plan(steps)} & {"mask-before-cure", "not-cured"}


def test_cautions_come_with_the_hazard():
    sprayed, wash, water = plan(
        step("a", "base", medium="lacquer", application="airbrush"), step("b", "wash", medium="oil", application="brush"),
        step("c", "base", application="brush"),
    )  # fmt: skip
    assert any("respirator" in words for words in cautions(sprayed))
    assert any("self-heat" in words for words in cautions(wash))
    assert cautions(water) == ()


def test_a_step_with_half_its_dates_keeps_that_half():
    early, late = "2031-03-04T19:10", "2031-03-05T20:00"
    begun, ended, after, last = lay_without_waiting(
        plan(step("begun", "base", start=early, hands=30), step("ended", "base", end=late, hands=30),
             step("after", "base", hands=15), step("last", "base", hands=5)),
        START, EVENINGS,
    )  # fmt: skip
    assert (begun.start, begun.end) == (datetime(2031, 3, 4, 19, 10), datetime(2031, 3, 4, 19, 40))
    assert (ended.start, ended.end) == (datetime(2031, 3, 4, 19, 40), datetime(2031, 3, 5, 20))
    assert (after.start, after.end) == (datetime(2031, 3, 5, 20), datetime(2031, 3, 5, 20, 15))
    assert (last.start, last.end) == (datetime(2031, 3, 5, 20, 15), datetime(2031, 3, 5, 20, 20))


def test_the_sheen_below_is_that_of_the_topmost_paint_whatever_lies_thin_on_it():
    def found(*steps):
        return ("decal-on-matte", "m") in codes(*steps, step("m", "marking"))

    assert found(step("b", "base"), step("w", "filter", finish="gloss"))
    assert not found(step("b", "base", finish="gloss"), step("w", "filter"))
    assert found(step("b", "base", finish="gloss"), step("second", "base"))
    assert not found({**step("b", "base"), "material": None})


def test_an_evening_ends_by_midnight_of_its_own_clock():
    assert parse_evenings("mon 22:00-24:00").longest_min == 120
    for text in ("mon 23:00-24:01", "mon 25:00-26:00", "mon 19:60-20:00"):
        with pytest.raises(PlanError, match="no such time"):
            parse_evenings(text)


def test_a_copy_of_a_step_is_what_it_says():
    """What was worked out of a step does not go along with its copy."""
    base = PlanStep(id="a", kind="base", zones=("hull",))
    assert base.nature.is_base
    assert not base.shares_zone(PlanStep(id="b", kind="base", zones=("roof",)))
    other = base.model_copy(update={"kind": "tone", "zones": ("roof",)})
    assert other.nature.lights
    assert other.shares_zone(PlanStep(id="b", kind="base", zones=("roof",)))
