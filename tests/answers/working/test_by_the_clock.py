"""Numbers, sheets, Bench and cups go by the clock, and what is done at one go is one."""

from datetime import datetime

import pytest

from lean_sepia.answers.bench import bench_steps
from lean_sepia.answers.plan import answer, ask
from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.working.evening_sheets import evening_plan
from lean_sepia.answers.working.stretches import in_turn, numbers_of, stretches
from lean_sepia.document.edits.coats import lay
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.steps import add_step
from lean_sepia.document.edits.zones import NewZone, add_zones
from lean_sepia.document.model import Project

NOW = datetime(2031, 3, 3, 18, 2)  # a Monday
GREY = (55.0, 0.0, 0.0)


def planned(project, **hours):
    return answer(ask(project.model_copy(update={"evenings": "daily 19:00-21:00"} | hours), NOW))


@pytest.fixture
def tug():
    project, zones = add_zones(Project(title="Tug"), [NewZone(name, 60.0) for name in ("Hull", "Deck")])
    for zone in zones:
        project, _coat = lay(
            project, [zone], "base", Mix(lab=GREY, medium="acrylic-water"), Manner(2, 0.6, "airbrush")
        )
    return project, zones


def washed(project, zone):
    return lay(project, [zone], "wash", Mix(lab=GREY, medium="oil"), Manner(1, 0.9, "brush"))


def cuts(project):
    return {zone.id: strata_of(project, zone.id) for zone in project.zones}


def test_a_step_that_can_be_done_sooner_has_the_lower_number(tug):
    """The filter waits twelve hours for its base; the base behind it in the list is sprayed the same evening."""
    project, (hull, _deck) = tug
    bases = [step.id for step in project.steps]
    project, coat = lay(
        project, [hull], "filter", Mix(lab=(30.0, 5.0, 10.0), medium="oil"), Manner(1, 0.95, "glaze")
    )
    mist = project.coat(coat).step
    steps = {step.id: step for step in project.steps}
    project = project.model_copy(update={"steps": (steps[bases[0]], steps[mist], steps[bases[1]])})
    found = planned(project)
    assert numbers_of(found) == {bases[0]: 1, bases[1]: 2, mist: 3}
    assert [step.id for step in in_turn(found)] == [bases[0], bases[1], mist]
    assert [one.step.id for one in bench_steps(project, cuts(project), found)] == [bases[0], bases[1], mist]


def test_work_of_several_evenings_has_one_number_on_each_and_goes_on(tug):
    project, (hull, _deck) = tug
    large = tuple(zone.model_copy(update={"area_cm2": 4000.0}) for zone in project.zones)
    project, coat = washed(project.model_copy(update={"zones": large}), hull)
    found = planned(project)
    pieces = [one for one in stretches(found) if project.coat(coat).step in one.ids]
    assert len(pieces) > 1
    assert len({one.number for one in pieces}) == 1
    assert [one.piece for one in pieces] == list(range(len(pieces)))
    rows = [
        row
        for sheet in evening_plan(found, {}).sheets
        for row in sheet.steps
        if row.id == project.coat(coat).step
    ]
    assert [row.detail for row in rows][1:] == ["goes on"] * (len(pieces) - 1)


def test_the_oils_of_one_filter_are_one_row_with_parts_and_one_number(tug):
    project, zones = tug
    for zone in zones:
        for lab in ((70.0, 4.0, 20.0), (28.0, 5.0, 11.0)):
            project, _coat = lay(
                project, [zone], "oil-dots", Mix(lab=lab, medium="oil"), Manner(1, 0.0, area_share=0.02)
            )
    project, blend = add_step(project, "blend", zones)
    found = planned(project)
    dots = [step.id for step in project.steps if step.kind == "oil-dots"]
    assert len({numbers_of(found)[name] for name in dots}) == 1
    (row,) = [row for sheet in evening_plan(found, {}).sheets for row in sheet.steps if dots[0] in row.ids]
    assert set(dots) <= set(row.ids)
    drawn = next(row for sheet in evening_plan(found, {}).sheets for row in sheet.steps if blend in row.ids)
    assert set(next(part for part in (drawn, *drawn.parts) if part.id == blend).serves) == set(dots)


def test_between_two_sheets_stand_the_evenings_with_nothing_to_do(tug):
    project, (hull, _deck) = tug
    slow = tuple(
        step.model_copy(update={"full_cure_min": 4 * 24 * 60.0, "touch_dry_min": 4 * 24 * 60.0})
        for step in project.steps
    )
    project, _coat = washed(project.model_copy(update={"steps": slow}), hull)
    first, second = evening_plan(planned(project, evenings="mon-wed 19:00-21:00,sat 10:00-12:00"), {}).sheets
    assert (second.window.start - first.window.start).days >= 4
    assert second.nights == (second.window.start.date() - first.window.start.date()).days
    days = [window.start.day for window in second.idle]
    assert days == [day for day in (4, 5) if day < second.window.start.day]


def test_a_plan_begins_now_and_a_chosen_later_start_is_kept(tug):
    project, _zones = tug
    assert ask(project, NOW).start == "2031-03-03T18:05"
    assert ask(project.model_copy(update={"plan_start": "2031-03-01T19:00"}), NOW).start == "2031-03-03T18:05"
    assert ask(project.model_copy(update={"plan_start": "2031-03-09T19:00"}), NOW).start == "2031-03-09T19:00"
    assert planned(project).schedule.steps[0].start == datetime(2031, 3, 3, 19)


def test_a_cup_of_a_sitting_is_mixed_in_its_first_step_and_named_in_the_second(worked):
    from lean_sepia.document.edits.sittings import at_one_go

    bases = [step for step in worked.steps if step.kind == "base"]
    coats = {step.id: worked.laid_in(step.id)[0] for step in bases}
    one, other = bases[0], bases[1]
    shared = tuple(
        coat.model_copy(update={"recipe": coats[one.id].recipe}) if coat.step == other.id else coat
        for coat in worked.coats
    )
    project = at_one_go(worked.model_copy(update={"coats": shared}), other.id, one.id)
    found = answer(ask(project, NOW))
    told = {step.step.id: step for step in bench_steps(project, cuts(project), found)}
    first, second = sorted((told[one.id], told[other.id]), key=lambda step: step.placed.start)
    assert [coat.step for coat in first.cups[0].coats] in ([one.id, other.id], [other.id, one.id])
    assert second.cups == ()
    assert second.poured == (first.cups[0].name,)
    assert any(first.cups[0].name in words for words in second.prompts)


def test_white_over_white_asks_for_a_lamp_or_a_drop_of_tint(tug):
    project, _zones = add_zones(Project(title="Tug"), [NewZone("House", 60.0)])
    zone = project.zones[0].id
    for kind in ("primer", "base"):
        project, coat = lay(
            project,
            [zone],
            kind,
            Mix(lab=(95.0, 0.0, 1.0), medium="acrylic-water"),
            Manner(2, 0.5, "airbrush"),
        )
    steps = {one.step.kind: one for one in bench_steps(project, cuts(project), planned(project))}
    assert "drop of tint" in steps["base"].faint
    assert steps["primer"].faint == ""
    darker = project.model_copy(
        update={
            "coats": tuple(
                c.model_copy(update={"lab": (40.0, 20.0, 10.0)}) if c.id == coat else c for c in project.coats
            )
        }
    )
    assert {one.faint for one in bench_steps(darker, cuts(darker), planned(darker))} == {""}
