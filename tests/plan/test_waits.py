"""Waits by pair: what lies below and what comes next. All figures are common practice without a source."""

import pytest
from tests.plan.sequences import START, sequence

from lean_sepia.paint.media import MEDIA
from lean_sepia.plan.hours.evenings import parse_evenings
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.net import links
from lean_sepia.plan.schedule.build import build_schedule
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.waits.drying import Drying, LoggedTime, full_cure, rested
from lean_sepia.plan.waits.table import PAIRS, table_wait

HOUR = 60.0


def wait(below, then, **drying):
    steps = sequence(below, then).steps
    return Drying(**drying).wait(*steps)


# Pairs of the definitions, in minutes.
@pytest.mark.parametrize(
    ("below", "then", "minutes"),
    [
        ("base A flat", "camouflage A flat", 20), ("base L flat", "fade L flat", 20), ("base A flat", "fade AA flat @mist", 20),
        ("primer L flat", "base A flat", 60), ("primer E flat", "base A flat", 60), ("primer A flat", "base A flat", 12 * HOUR),
        ("base A flat", "mask - -", 12 * HOUR), ("base L flat", "mask - -", 2 * HOUR), ("base E flat", "mask - -", 24 * HOUR),
        ("base A flat", "resist - -", 20), ("resist - -", "base A flat", 10), ("satin-coat A satin", "remove-resist - -", 30),
        ("base A flat", "gloss-coat A gloss", 60), ("gloss-coat A gloss", "gloss-coat A gloss", 60), ("matte-coat A flat", "fade A flat @mist", 60),
        ("gloss-coat A gloss", "marking - gloss", 3 * HOUR), ("satin-coat A satin", "filter O satin", 3 * HOUR), ("gloss-coat A gloss", "wash O flat", 3 * HOUR),
        ("gloss-coat A gloss", "chips A flat", 3 * HOUR), ("base A gloss", "marking - gloss", 20), ("marking - gloss", "setting-solution - -", 0),
        ("setting-solution - -", "marking - gloss", 0), ("marking - gloss", "gloss-coat A gloss", 12 * HOUR), ("filter O satin", "filter O satin", 15),
        ("filter O satin", "wash O flat", 6 * HOUR), ("filter E satin", "matte-coat A flat", 6 * HOUR), ("oil-dots O satin", "blend - -", 0),
        ("oil-dots O satin", "streaks O satin", 6 * HOUR), ("base E flat", "gloss-coat A gloss", 12 * HOUR), ("wash O flat", "matte-coat A flat", 12 * HOUR),
        ("wash O flat", "matte-coat L flat @mist", 24 * HOUR), ("wash O flat", "wipe-back - - ~white-spirit", 1), ("streaks O satin", "matte-coat A flat", 24 * HOUR), ("blend - -", "pastel D flat", 12 * HOUR), ("wash E flat", "powder P flat", 12 * HOUR),
        ("chips E flat", "wipe-back - - ~white-spirit", 5), ("wash A flat", "fade A flat", 20), ("powder P flat", "matte-coat A flat", 0),
        ("fix-powder - -", "powder P flat", 60), ("matte-coat L flat @spray-can", "powder P flat", 24 * HOUR), ("matte-coat A flat @airbrush", "powder P flat", 3 * HOUR),
        ("graphite P flat", "fit-glass - -", 0), ("camouflage A flat", "unmask - -", 20), ("base A flat", "filter E satin", 12 * HOUR), ("base L flat", "wash O flat", 12 * HOUR),
        ("marking - gloss", "wash O flat", 12 * HOUR), ("base E flat", "base E flat", 6 * HOUR), ("matte-coat A flat", "chips A flat", 3 * HOUR),
        ("base AA flat", "base A flat", 6 * HOUR), ("base O flat", "assemble - -", 48 * HOUR), ("found - satin", "base A flat", 0),
    ],
)  # fmt: skip
def test_the_pair_decides(below, then, minutes):
    assert wait(below, then).not_before == minutes


def test_second_clocks():
    assert (wait("oil-dots O satin", "blend - -").late, wait("oil-dots O satin", "blend - -").closed) == (
        12 * HOUR,
        48 * HOUR,
    )
    assert wait("wash O flat", "wipe-back - -").closed == 12 * HOUR
    assert wait("chips A flat", "wipe-back - - ~water").closed == 10
    assert wait("chips A flat", "wipe-back - - ~alcohol").closed is None
    assert wait("resist - -", "remove-resist - -").late == 7 * 24 * HOUR
    assert wait("gloss-coat A gloss", "marking - gloss").safe == 12 * HOUR


def test_times_given_win_and_logged_ones_come_first():
    first, then = sequence("base A flat", "camouflage A flat").steps
    varnish = sequence("gloss-coat A gloss").steps[0]
    given = first.model_copy(update={"touch_dry_min": 7.0, "full_cure_min": 90.0})
    assert Drying().wait(given, then).not_before == 7
    assert Drying().wait(given, varnish).not_before == 90
    logged = Drying(
        factor=2,
        logged=(LoggedTime("base", None, "camouflage", 33), LoggedTime("base", "enamel", "camouflage", 99)),
    )
    assert logged.wait(given, then).not_before == 33
    assert (
        logged.wait(first, varnish).not_before == 2 * 60
    )  # cold and damp: the tables' times, not what was measured
    assert Drying(factor=2).wait(given, then).not_before == 7


def test_what_is_worked_while_fresh_does_not_wait_for_a_cure_that_is_given():
    dots, blend = sequence("oil-dots O satin", "blend - -").steps
    assert Drying().wait(dots.model_copy(update={"full_cure_min": 2000.0}), blend).not_before == 0
    assert Drying(rest=rested({"oil-rest": "rest"})).wait(dots, blend).not_before == 20
    closed = dots.model_copy(update={"removable_until_min": 90.0, "workable_until_min": 30.0})
    assert (Drying().wait(closed, blend).late, Drying().wait(closed, blend).closed) == (30, 90)


def _unlike(sketches, side):
    """Of steps that no line of the table tells apart, one."""
    alike = {
        (one.kind, one.medium, one.solvent, *(getattr(pair, side).fits(one) for pair in PAIRS)): one
        for one in sketches
    }
    return list(alike.values())


def test_every_line_of_the_table_can_be_met():
    """No line is shadowed by one above it: for each some pair of steps meets it first."""
    from lean_sepia.paint.handling.carriers import CARRIERS
    from lean_sepia.paint.tools import TOOLS
    from lean_sepia.plan.waits.pair import Sketch

    met = set()
    below = [
        Sketch(kind, medium, tool, MEDIA[medium].carrier if medium else "none", mask, bool(medium and MEDIA[medium].loose))
        for kind in KINDS for medium in (*MEDIA, None) for tool in ("airbrush", "spray-can", None) for mask in (None, "tape", "liquid", "putty")
    ]  # fmt: skip
    then = [
        Sketch(kind, medium, tool, carrier, mask, bool(medium and MEDIA[medium].loose))
        for kind in KINDS for medium in ("acrylic-water", "oil", "lacquer", "enamel", "pigment")
        for tool in ("airbrush", "mist", None) for carrier in ("water", "alcohol") for mask in (None, "liquid", "putty")
    ]  # fmt: skip
    assert set(TOOLS) >= {"airbrush", "mist"}
    assert set(CARRIERS) >= {"water", "alcohol"}
    below, then = (_unlike(below, "below"), _unlike(then, "then"))
    for number, pair in enumerate(PAIRS):
        upper = [one for one in then if pair.then.fits(one)]
        for one in (one for one in below if pair.below.fits(one)):
            if any(
                next(i for i, p in enumerate(PAIRS) if p.fits(one, two)) == number
                for two in upper
                if pair.fits(one, two)
            ):
                met.add(number)
                break
    assert [PAIRS[i].wait.words for i in range(len(PAIRS)) if i not in met] == []


def _step(name, kind, medium, **more):
    material = {"medium": medium, "finish": "flat"} if medium else None
    return PlanStep(id=name, kind=kind, zones=("a",), material=material, **more)


TO_DO = [kind for kind, nature in KINDS.items() if nature.to_do]


def test_nothing_waits_past_the_second_clock_of_what_it_serves():
    """Whatever lies below: what is laid on it can be worked on before its clock has closed, with the works' own wait."""
    media = ("acrylic-water", "lacquer", "oil")
    every = [
        (ground, below, kind, medium, server)
        for kind in TO_DO for server in KINDS[kind].served_by for medium in MEDIA for ground in TO_DO for below in media
    ]  # fmt: skip
    assert len(every) > 10_000
    late = []
    for ground, below, kind, medium, server in every:
        works = _step("s", server, None, works_on=("x",))
        steps = (_step("g", ground, below), laid := _step("x", kind, medium), works)
        _first, second, third = links(steps, Drying())
        starts = max(
            (wait + (second.get(0, 0.0) if place == 1 else 0.0) for place, wait in third.items()), default=0.0
        )
        closed = Drying().wait(laid, works).closed
        if closed is not None and starts - second.get(0, 0.0) > closed:
            late.append((ground, below, kind, medium, server))
    assert late == []


def test_nothing_harder_follows_sooner_than_what_is_softer():
    """Over oil and enamel: pastel and powder, then an acrylic varnish, then lacquer, which bites most."""
    pastel, powder = _step("c", "pastel", "pastel"), _step("c", "powder", "pigment")
    acrylic, lacquer = (
        _step("c", "matte-coat", m, application="airbrush") for m in ("acrylic-water", "lacquer")
    )
    for kind in TO_DO:
        for medium in ("enamel", "oil") if KINDS[kind].leaves_film or KINDS[kind].draws_out else ():
            waits = [
                table_wait(_step("b", kind, medium), one).not_before
                for one in (pastel, powder, acrylic, lacquer)
            ]
            assert waits[0] == waits[1] <= waits[2] <= waits[3], (kind, medium, waits)


def test_full_cure_is_that_of_the_medium():
    cures = [
        full_cure(sequence(f"base {medium} flat").steps[0]) / 60 for medium in ("A", "AA", "L", "E", "O")
    ]
    assert cures == [12, 6, 2, 24, 48]
    assert full_cure(sequence("found - satin").steps[0]) == 0
    assert table_wait(*sequence("base A flat", "test-piece - -").steps).not_before == 0


OPEN_ALL_DAY = parse_evenings("daily 00:00-24:00")


def test_the_powder_routine_takes_74_hours_of_waiting():
    """Common practice: 1 + 1 + 24 + 24 + 24 hours in a routine of mists, cans and powder."""
    plan = sequence(
        "matte-coat A flat @spray-can", "fade A flat @mist", "matte-coat A flat @spray-can", "powder P flat",
        "matte-coat A flat @spray-can", "powder P flat", "matte-coat A flat @spray-can", "powder P flat",
    )  # fmt: skip
    steps = [step.model_copy(update={"hands_on_min": 0.0}) for step in plan.steps]
    assert (build_schedule(steps, START, OPEN_ALL_DAY).finish - START).total_seconds() == 74 * 3600


def test_three_gloss_coats_decals_and_a_filter_fit_in_three_days():
    plan = sequence(
        "gloss-coat A gloss", "gloss-coat A gloss", "gloss-coat A gloss", "marking - gloss", "filter O satin"
    )
    day = parse_evenings("daily 08:00-20:00")
    schedule = build_schedule(plan.steps, START.replace(hour=8), day)
    assert (schedule.finish - START.replace(hour=8)).total_seconds() <= 3 * 24 * 3600


@pytest.mark.parametrize("hour", [19, 20])
def test_oil_dots_and_their_blending_are_one_evening(hour):
    plan = sequence("oil-dots O satin", "blend - -")
    schedule = build_schedule(
        plan.steps, START.replace(hour=hour, minute=30), parse_evenings("daily 19:00-21:30")
    )
    dots, blend = schedule.steps
    assert dots.start.date() == blend.start.date()  # begun too late for both, they wait for the next evening
    assert blend.start == dots.end
