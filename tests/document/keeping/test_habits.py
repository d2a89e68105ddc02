"""The next project begins with what the last one said of the person, and with nothing that is not sound."""

import pytest

from lean_sepia.document.edits.planning import set_owned
from lean_sepia.document.keeping.habits import habits_of, with_habits
from lean_sepia.document.model import Project
from lean_sepia.plan.owned import Owned


def test_tools_hours_place_and_drying_are_carried_on_and_nothing_of_the_subject():
    last = set_owned(Project(title="Tug", schools={"decals": "smooth"}), Owned(airbrush=False))
    last = last.model_copy(update={"evenings": "sun 10:00-12:00", "drying": 1.5})
    fresh = with_habits(Project(title="Next"), habits_of(last))
    assert (fresh.title, fresh.schools) == ("Next", {})
    assert (fresh.owns.airbrush, fresh.evenings, fresh.drying) == (False, "sun 10:00-12:00", 1.5)


@pytest.mark.parametrize(
    "habits",
    [{"evenings": "whenever"}, {"evenings": 7}, {"drying": -1}, {"drying": "slow"}, {"owns": [3]}, {"owns": {"moon": True}},
     {"workplace": {"daylight": "always"}}, {"zones": [{"id": "x"}]}],
)  # fmt: skip
def test_what_is_not_sound_leaves_a_project_as_it_is(habits):
    fresh = Project(title="Next")
    assert with_habits(fresh, {**habits, "deadline": "2031-03-03T19:00"}) == fresh
    assert with_habits(fresh, {**habits, "evenings": "sun 10:00-12:00"}).evenings == "sun 10:00-12:00"
