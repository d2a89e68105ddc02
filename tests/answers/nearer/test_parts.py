"""What makes a miss: exact sums, hidden coats without a part, and the sums of two coats worked out by hand."""

import numpy as np
import pytest
from benchmarks.finishes import random_finish, random_shelf

from lean_sepia.answers.nearer.parts import misses_of
from lean_sepia.answers.stages import compared
from lean_sepia.answers.strata import strata_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.coats import lay, lay_filter, lay_primer, pin_base, switch_coat
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.zones import add_zone, state_target
from lean_sepia.document.model import Project


def _part(miss, kind):
    return next(part for part in miss.parts if part.coat.kind == kind)


@pytest.mark.parametrize("seed", range(6))
def test_parts_and_rest_add_up_to_the_miss_that_the_strata_show(seed):
    rng = np.random.default_rng(seed)
    shelf = random_shelf(25, rng)
    project = random_finish(rng, 2, 12, shelf)
    for zone in project.zones:
        shown = {one.stage: one.de00 for one in compared(strata_of(project, zone.id))}
        for miss in misses_of(project, zone.id):
            assert miss.de00 == pytest.approx(shown[miss.stage], abs=1e-9)
            assert sum(part.share for part in miss.parts) + miss.rest == pytest.approx(miss.de00, abs=1e-9)


def test_a_coat_left_out_is_what_the_strata_show_without_it(worked):
    for miss in misses_of(worked, "hull"):
        for part in miss.parts:
            cut = strata_of(switch_coat(worked, part.coat.id, False), "hull")
            lab = getattr(cut, miss.stage)
            if lab is not None and part.without is not None:
                assert part.without == pytest.approx(float(delta_e00(lab, miss.target.lab)), abs=1e-6)


def _two_coats(shelf, passes):
    """A base over a primer, and a filter on it."""
    films = [paint for paint in shelf if paint.medium != "oil" and not paint.clear]
    project, zone = add_zone(Project(), "Hull")
    project = state_target(project, zone, (50.0, -10.0, 5.0), "exposed")
    project = lay_primer(project, zone, Mix.of(films, [(films[1].id, 1)]), Manner(2, 0.5))
    project = pin_base(
        project, zone, Mix.of(films, [(films[2].id, 1), (films[0].id, 2)]), Manner(passes, 0.0, "brush")
    )
    oils = [paint for paint in shelf if paint.medium == "oil"]
    return lay_filter(project, [zone], Mix.of(oils, [(oils[0].id, 1)]), Manner(2, 0.95, "glaze")), zone


def test_what_lies_below_a_coat_that_hides_has_no_part():
    shelf = random_shelf(25, np.random.default_rng(2))
    project, zone = _two_coats(shelf, 12)
    (miss,) = misses_of(project, zone)
    assert _part(miss, "primer").share == pytest.approx(0, abs=0.02)
    assert _part(miss, "primer").without == pytest.approx(miss.de00, abs=0.02)


def test_the_parts_of_two_coats_are_what_each_adds_by_hand():
    shelf = random_shelf(25, np.random.default_rng(2))
    project, zone = _two_coats(shelf, 12)
    (miss,) = misses_of(project, zone)
    filtered = project.coats_of(zone)[-1]
    bare = strata_of(switch_coat(project, filtered.id, False), zone).exposed
    base = float(delta_e00(bare, miss.target.lab))
    assert _part(miss, "base").share == pytest.approx(base, abs=0.02)
    assert _part(miss, "filter").share == pytest.approx(miss.de00 - base, abs=0.02)


def test_marks_have_no_part_in_the_exposed_colour(worked):
    exposed = next(miss for miss in misses_of(worked, "hull") if miss.stage == "exposed")
    for part in exposed.parts:
        if part.coat.nature.covers == "spots":
            assert (part.share, part.without) == (0, pytest.approx(exposed.de00))


def test_a_zone_without_a_target_has_no_miss(worked):
    assert misses_of(worked, "gear") == []


def test_a_filter_laid_later_is_counted_where_the_exposed_colour_is_looked_for(worked):
    """Filters, mists and dust that cover the area count; marks and loose powder do not."""
    zone = "funnel"
    before = strata_of(worked, zone).exposed
    powder, _coat = lay(
        worked,
        [zone],
        "powder",
        Mix(lab=(60.0, 5.0, 15.0), medium="pigment"),
        Manner(1, 0.0, "drybrush", 0.2),
    )
    assert strata_of(powder, zone).exposed == pytest.approx(before)
    oil = next(version.id for version in worked.paints if version.medium == "oil")
    tinted = lay_filter(worked, [zone], Mix(versions=((oil, 1),)), Manner(2, 0.95, "glaze"))
    assert float(delta_e00(strata_of(tinted, zone).exposed, before)) > 0.3
