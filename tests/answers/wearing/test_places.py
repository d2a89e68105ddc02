"""Where on a zone wear is likely."""

import numpy as np
import pytest

from lean_sepia.answers.wearing.places import likely_places, sources_of
from lean_sepia.document.check import dangling_reference
from lean_sepia.document.edits.wear import plan_wear
from lean_sepia.document.edits.zones import add_zone, duplicate_zone, remove_zone
from lean_sepia.document.entities.worn import PlannedWear, Source, WearPlan
from lean_sepia.document.model import Project

SHAPE = (40, 60)


def test_edges_wear_where_that_is_said():
    assert likely_places(WearPlan(), "rust", SHAPE) is None
    worn = likely_places(WearPlan(edges=True), "rust", SHAPE)
    assert worn[0].mean() > 10 * worn[20, 20:40].mean()
    assert worn[:, -1].mean() > 10 * worn[20, 20:40].mean()
    assert likely_places(WearPlan(edges=True), "streaks", SHAPE) is None


@pytest.mark.parametrize("other_side", [False, True])
def test_soot_is_carried_to_the_lee(other_side):
    exhaust = Source(what="exhaust", x=0.5, y=0.5)
    plan = WearPlan(sources=(exhaust,), drift="right")
    soot = likely_places(plan, "soot", SHAPE, plan.sources, other_side=other_side)
    right, left = soot[:, 32:].sum(), soot[:, :28].sum()
    assert (left > 1.5 * right) if other_side else (right > 1.5 * left)
    still = likely_places(plan.model_copy(update={"drift": ""}), "soot", SHAPE, plan.sources)
    assert still[:, :30].sum() == pytest.approx(still[:, 30:].sum(), rel=1e-6)


@pytest.fixture
def storeys():
    """Three zones below each other; water starts at a hinge on the uppermost."""
    project = Project(title="Any")
    project, top = add_zone(project, "Roof")
    project, middle = add_zone(project, "Wall")
    project, bottom = add_zone(project, "Skirt")
    kinds = (PlannedWear(kind="streaks", share=0.02),)
    sources = (Source(what="hinge", x=0.25, y=0.5), Source(what="step", x=0.75, y=0.5))
    project = plan_wear(project, top, WearPlan(kinds=kinds, sources=sources))
    project = plan_wear(project, middle, WearPlan(kinds=kinds, water_from=top))
    project = plan_wear(project, bottom, WearPlan(kinds=kinds, water_from=middle))
    return project, top, middle, bottom


def test_water_runs_on_over_the_parts_below(storeys):
    project, _top, _middle, bottom = storeys
    zone = project.zone(bottom)
    sources = sources_of(project, zone, zone.wear)
    assert [(one.what, one.x, one.y) for one in sources] == [("runoff", 0.25, 0.0)]
    wet = likely_places(zone.wear, "streaks", SHAPE, sources)
    assert np.unravel_index(wet.argmax(), wet.shape)[1] == pytest.approx(15, abs=1)
    assert wet[0, 15] > wet[-1, 15] > wet[-1, 50]


def test_water_in_a_ring_ends(storeys):
    project, top, _middle, bottom = storeys
    plan = project.zone(top).wear.model_copy(update={"water_from": bottom})
    project = plan_wear(project, top, plan)
    zone = project.zone(bottom)
    assert len(sources_of(project, zone, zone.wear)) == 1


def test_a_removed_zone_leaves_no_water_behind(storeys):
    project, top, middle, _bottom = storeys
    assert dangling_reference(project) is None
    left = remove_zone(project, top)
    assert left.zone(middle).wear.water_from is None
    assert dangling_reference(left) is None
    gone = plan_wear(project, middle, project.zone(middle).wear.model_copy(update={"water_from": "nowhere"}))
    assert "nowhere" in dangling_reference(gone)


def test_the_other_side_has_the_same_plan(storeys):
    project, top, _middle, _bottom = storeys
    project, other = duplicate_zone(project, top, "Roof, other side", mirrored=True)
    assert project.zone(other).wear == project.zone(top).wear
