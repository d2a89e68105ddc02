"""What is done at one go: it joins, moves, parts and refuses as one, and what works on it comes with it."""

import pytest

from lean_sepia.document.edits.coats import lay
from lean_sepia.document.edits.joining import join_steps, leave_sitting, split_step
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.sittings import work_on
from lean_sepia.document.edits.steps import add_step, move_step, remove_step
from lean_sepia.document.edits.zones import NewZone, add_zones
from lean_sepia.document.model import Project
from lean_sepia.document.serving import served
from lean_sepia.errors import EditError

GREY, SAND, UMBER = (55.0, 0.0, 0.0), (70.0, 4.0, 20.0), (28.0, 5.0, 11.0)


def painted(*zones):
    """Zones with a base each."""
    project, ids = add_zones(Project(title="Hopper"), [NewZone(name, 50.0) for name in zones])
    for zone in ids:
        project, _coat = lay(project, [zone], "base", Mix(lab=GREY, medium="acrylic-water"))
    return project, ids


def dots(project, zone, lab=UMBER):
    project, coat = lay(
        project, [zone], "oil-dots", Mix(lab=lab, medium="oil"), Manner(1, 0.0, area_share=0.02)
    )
    return project, project.coat(coat).step


@pytest.fixture
def dotted():
    """Two oils on each of two zones, and their drawing-out."""
    project, zones = painted("Hull", "Deck")
    for zone in zones:
        for lab in (SAND, UMBER):
            project, _step = dots(project, zone, lab)
    project, blend = add_step(project, "blend", zones)
    return project, blend


def members(project):
    return [step.id for step in project.steps if step.kind == "oil-dots"]


def test_dots_of_several_oils_on_several_zones_are_one_sitting_drawn_out_once(dotted):
    project, blend = dotted
    sittings = {project.step(name).sitting for name in members(project)}
    assert len(members(project)) == 4
    assert len(sittings) == 1
    assert sittings != {""}
    assert set(served(project, project.step(blend))) == set(members(project))


def test_a_sitting_moves_with_what_draws_it_out(dotted):
    project, blend = dotted
    project, test = add_step(project, "test-piece", place=len(project.steps))
    moved = move_step(project, members(project)[0], 1)
    order = [step.id for step in moved.steps]
    assert all(order.index(test) < order.index(name) < order.index(blend) for name in members(project))


def test_a_further_zone_joins_and_the_drawing_out_reaches_it(dotted):
    project, blend = dotted
    project, (mast,) = add_zones(project, [NewZone("Mast", 10.0)])
    project, _coat = lay(project, [mast], "base", Mix(lab=GREY, medium="acrylic-water"))
    project, step = dots(project, mast)
    assert project.step(step).sitting == project.step(members(project)[0]).sitting
    assert step in served(project, project.step(blend))
    assert mast in project.step(blend).zones


def test_one_leaves_and_comes_back(dotted):
    project, _blend = dotted
    name = members(project)[1]
    alone = leave_sitting(project, name)
    assert alone.step(name).sitting == ""
    assert len({alone.step(one).sitting for one in members(alone)} - {""}) == 1
    again = join_steps(alone, members(project)[0], name)
    assert again.step(name).sitting == again.step(members(project)[0]).sitting != ""


def test_the_last_two_part_into_two_steps_by_themselves():
    project, (hull, _deck) = painted("Hull", "Deck")
    project, first = dots(project, hull, SAND)
    project, second = dots(project, hull, UMBER)
    parted = leave_sitting(project, second)
    assert parted.step(first).sitting == parted.step(second).sitting == ""


def test_joining_what_has_another_coat_between_is_refused_and_says_why():
    project, (hull,) = painted("Hull")
    project, one = dots(project, hull, SAND)
    project, mist = lay(
        project, [hull], "fade", Mix(lab=GREY, medium="acrylic-water"), above=project.coats_of(hull)[-1].id
    )
    project, over = lay(
        project, [hull], "oil-dots", Mix(lab=UMBER, medium="oil"), Manner(1, area_share=0.1), above=mist
    )
    other = project.coat(over).step
    with pytest.raises(EditError, match="lies another coat"):
        join_steps(project, one, other)


def test_split_copies_and_removal_keep_what_serves(dotted):
    project, blend = dotted
    gone = remove_step(project, members(project)[0])
    assert set(served(gone, gone.step(blend))) == set(members(gone))
    project, (hull, deck) = painted("Hull", "Deck")
    project, coat = lay(project, [hull, deck], "wash", Mix(lab=UMBER, medium="oil"))
    wash = project.coat(coat).step
    project, clean = add_step(project, "wipe-back", [hull, deck])
    parted, other = split_step(project, wash, [deck])
    assert {wash, other} <= set(served(parted, parted.step(clean)))


def test_what_a_step_works_on_is_said_and_it_follows(dotted):
    project, blend = dotted
    only = members(project)[0]
    alone = leave_sitting(project, only)
    told = work_on(alone, blend, (only,))
    assert served(told, told.step(blend)) == (only,)
    order = [step.id for step in told.steps]
    assert order.index(only) < order.index(blend)
