"""Hours are reckoned from area, passes and tool, and learnt where the bench logged them."""

import pytest

from lean_sepia.document.edits.coats import lay
from lean_sepia.document.edits.items import put
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.steps import add_step
from lean_sepia.document.edits.zones import NewZone, add_zones
from lean_sepia.document.model import Project
from lean_sepia.document.work import plan_steps

RUST = Mix(lab=(35.0, 25.0, 25.0), medium="acrylic-water")


@pytest.fixture
def chipped():
    """Chips by brush on 60 and on 120 cm²: by the tables 5 + 60 / 3 and 5 + 120 / 3 minutes."""
    project, zones = add_zones(Project(title="Tug"), [NewZone("Hull", 60.0), NewZone("Deck", 120.0)])
    for zone in zones:
        project, _coat = lay(project, [zone], "base", Mix(lab=(50.0, 0.0, 0.0), medium="acrylic-water"))
        project, _coat = lay(
            project, [zone], "chips", RUST, Manner(1, 0.0, "brush", area_share=0.03), name=zone
        )
    steps = [project.coats_of(zone)[-1].step for zone in zones]
    return project, steps


def minutes(project, step):
    return next(one for one in plan_steps(project) if one.id == step).hands_min


def spent(project, step, took):
    return put(project, "steps", project.step(step).model_copy(update={"done": True, "spent_min": took}))


def test_by_the_tables_spots_count_the_whole_zone(chipped):
    project, (hull, deck) = chipped
    assert (minutes(project, hull), minutes(project, deck)) == (25, 45)


def test_who_took_twice_as_long_takes_twice_as_long_again_but_for_setting_up(chipped):
    project, (hull, deck) = chipped
    project = spent(project, hull, 5 + 40.0)
    assert minutes(project, deck) == 5 + 80
    assert next(one for one in plan_steps(project) if one.id == deck).pace == 2
    base = next(step.id for step in project.steps if step.kind == "base")
    assert next(one for one in plan_steps(project) if one.id == base).pace == 1


def test_a_clock_left_running_teaches_no_more_than_four_times(chipped):
    project, (hull, deck) = chipped
    assert minutes(spent(project, hull, 900.0), deck) == 5 + 160


def test_what_is_stated_comes_first(chipped):
    project, (hull, deck) = chipped
    stated = put(project, "steps", project.step(deck).model_copy(update={"hands_on_min": 12.0}))
    assert minutes(spent(stated, hull, 45.0), deck) == 12


def test_joints_take_ten_minutes_each(chipped):
    project, _steps = chipped
    apart = tuple(zone.model_copy(update={"apart": True}) for zone in project.zones)
    project, step = add_step(project.model_copy(update={"zones": apart}), "assemble")
    assert minutes(project, step) == 5 + 2 * 10
    shown = {one.id: one for one in plan_steps(project)}
    assert all(one.apart for one in shown.values() if one.kind in ("base", "chips"))
    project, after = add_step(project, "matte-coat", place=len(project.steps))
    assert not next(one for one in plan_steps(project) if one.id == after).apart
