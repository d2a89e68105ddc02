"""Whatever is taken away, nothing is left that refers to it."""

import pytest

from lean_sepia.document.check import broken_rule
from lean_sepia.document.edits.coats import remove_coat
from lean_sepia.document.edits.photos import remove_photo
from lean_sepia.document.edits.planning import accept_finding
from lean_sepia.document.edits.steps import remove_step
from lean_sepia.document.edits.zones import remove_zone


@pytest.fixture(scope="module")
def accepted(worked):
    """The demo with a finding accepted of each step, and of each pair of neighbours."""
    project = worked
    for step in worked.steps:
        project = accept_finding(project, "not-cured", step.id, None, "meant")
    for step, after in zip(worked.steps[1:], worked.steps, strict=False):
        project = accept_finding(project, "too-late", step.id, after.id, "meant")
    assert broken_rule(project) is None
    return project


@pytest.mark.parametrize(
    ("things", "remove"),
    [("zones", remove_zone), ("steps", remove_step), ("coats", remove_coat), ("photos", remove_photo)],
)
def test_one_after_the_other(accepted, things, remove):
    for thing in getattr(accepted, things):
        changed = remove(accepted, thing.id)
        assert broken_rule(changed) is None, thing.id
        assert thing.id not in {left.id for left in getattr(changed, things)}
        steps = {step.id for step in changed.steps}
        assert all(
            one.step in steps and (one.after is None or one.after in steps) for one in changed.accepted
        )


def test_all_zones_in_turn(accepted):
    project = accepted
    while project.zones:
        project = remove_zone(project, project.zones[0].id)
        assert broken_rule(project) is None
