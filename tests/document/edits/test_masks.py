"""Masks go on before the sprays that they are for and come off after them."""

import pytest

from lean_sepia.document.edits.coats import lay
from lean_sepia.document.edits.masks import after_the_sprays, before_the_sprays
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.steps import add_step
from lean_sepia.document.edits.zones import NewZone, add_zones
from lean_sepia.document.model import Project
from lean_sepia.document.work import found_in

COLOURS = {"Hull": (40.0, -20.0, -5.0), "Boot": (35.0, 30.0, 20.0), "Glass": None}


@pytest.fixture
def painted():
    """A hull, then a boot topping beside it; a window that is never painted."""
    project, (hull, boot, glass) = add_zones(Project(title="Tug"), [NewZone(name, 40.0) for name in COLOURS])
    for zone, lab in ((hull, COLOURS["Hull"]), (boot, COLOURS["Boot"])):
        project, _coat = lay(
            project, [zone], "base", Mix(lab=lab, medium="acrylic-water"), Manner(2, 0.6, "airbrush")
        )
    return project, hull, boot, glass


def kinds(project):
    return [step.kind for step in project.steps]


def test_a_mask_on_what_has_its_colour_goes_on_before_the_next_spray_beside_it(painted):
    project, hull, boot, _glass = painted
    masked, mask = add_step(project, "mask", [hull])
    order = [step.id for step in masked.steps]
    bases = [step.id for step in project.steps]
    assert order == [bases[0], mask, bases[1]]
    bare, off = add_step(masked, "unmask", [hull])
    assert [step.id for step in bare.steps] == [bases[0], mask, bases[1], off]
    assert not {finding.code for finding in found_in(bare)} & {
        "mask-for-nothing",
        "painted-under-mask",
        "overspray",
        "mask-left-on",
    }
    assert before_the_sprays(project, {boot}) is None  # nothing is sprayed after it


def test_a_later_coat_on_what_is_masked_comes_after_the_unmasking(painted):
    project, hull, _boot, _glass = painted
    project, mask = add_step(project, "mask", [hull])
    project, off = add_step(project, "unmask", [hull])
    project, coat = lay(project, [hull], "satin-coat", Mix(), Manner(1, 0.0, "airbrush"))
    order = [step.id for step in project.steps]
    assert order.index(off) < order.index(project.coat(coat).step)
    assert after_the_sprays(project, (mask,)) <= order.index(project.coat(coat).step)


def test_what_is_never_painted_is_masked_from_the_first_spray_to_the_last_and_follows_new_ones(painted):
    project, hull, _boot, glass = painted
    project, mask = add_step(project, "mask", [glass])
    project, off = add_step(project, "unmask", [glass])
    assert kinds(project) == ["mask", "base", "base", "unmask"]
    project, _coat = lay(project, [hull], "matte-coat", Mix(), Manner(1, 0.0, "airbrush"))
    project, _coat = lay(
        project,
        [hull],
        "primer",
        Mix(lab=(60.0, 0.0, 0.0), medium="acrylic-water"),
        Manner(2, 0.4, "airbrush"),
    )
    order = [step.id for step in project.steps]
    assert order[0] == mask
    assert order[-1] == off


def test_a_mask_that_was_put_somewhere_by_hand_stays(painted):
    project, hull, _boot, glass = painted
    project, mask = add_step(project, "mask", [glass], place=1)
    by_hand = tuple(s.model_copy(update={"by_hand": True}) if s.id == mask else s for s in project.steps)
    project = project.model_copy(update={"steps": by_hand})
    project, _coat = lay(project, [hull], "matte-coat", Mix(), Manner(1, 0.0, "airbrush"))
    assert [step.id for step in project.steps].index(mask) == 1
