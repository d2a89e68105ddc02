"""Offers keep what they promise, the best change is found, what is done stays, and what cannot help is said."""

import numpy as np
import pytest
from benchmarks.finishes import random_finish, random_shelf
from benchmarks.whole import best_pairs, kept_and_found, solved

from lean_sepia.answers.nearer.board import Board, single_changes
from lean_sepia.answers.nearer.change import Planned
from lean_sepia.answers.nearer.finish import solve
from lean_sepia.answers.nearer.harm import Standing
from lean_sepia.answers.nearer.offers import best_by_zone, mean_miss, offers_for
from lean_sepia.answers.nearer.outcome import as_it_comes_out
from lean_sepia.answers.nearer.told import remarks, told
from lean_sepia.document.edits.coats import pin_base
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.planning import set_step_done
from lean_sepia.document.edits.zones import add_zone, state_target
from lean_sepia.document.model import Project


def test_offers_on_random_projects_keep_their_promise_and_hold_the_best_single_change():
    worst, missed = kept_and_found(4, np.random.default_rng(3))
    assert worst < 0.05
    assert missed < 0.01


def test_the_best_pair_is_found():
    assert best_pairs(5, np.random.default_rng(3)) >= 0.8


@pytest.mark.parametrize("seed", range(3))
def test_changes_tried_side_by_side_are_what_they_are_alone(seed):
    rng = np.random.default_rng(40 + seed)
    shelf = random_shelf(30, rng)
    planned = Planned.of(random_finish(rng, 2, 12, shelf), shelf)
    changes = single_changes(planned)
    gains, standing = Board.of(planned, changes).gains, Standing.of(planned)
    for number in rng.choice(len(changes), 30, replace=False):
        assert as_it_comes_out(planned, [changes[number]], standing).gain == pytest.approx(
            gains[number], abs=1e-4
        )


def test_offers_are_ranked_by_what_the_mean_over_zones_falls(off_target, shelf_paints):
    planned = Planned.of(off_target, shelf_paints)
    found = offers_for(planned)
    gains = [offer.gain for offer in found.offers]
    assert gains == sorted(gains, reverse=True)
    best = found.offers[0]
    after = Planned.of(best.edit(off_target), shelf_paints)
    assert mean_miss(planned) - mean_miss(after) == pytest.approx(best.gain, abs=1e-6)


def test_what_is_done_is_never_changed_and_only_added_to(off_target, shelf_paints):
    project = off_target
    for step in project.steps:
        if not step.nature.is_varnish:
            project = set_step_done(project, step.id, True)
    done = {coat.id for coat in project.coats if project.step(coat.step).done}
    found = offers_for(Planned.of(project, shelf_paints))
    for offer in found.offers:
        after = offer.edit(project)
        assert all(after.coat(name) == project.coat(name) for name in done)
        mixes = {coat.recipe for coat in project.coats if coat.id in done and coat.recipe}
        assert all(after.recipe(name) == project.recipe(name) for name in mixes)
    assert any(
        "filter"
        in {coat.kind for coat in o.edit(project).coats if coat.id not in {c.id for c in project.coats}}
        for o in found.offers
    )


def test_a_coat_that_is_held_stays_as_it_is(off_target, shelf_paints):
    base = next(coat for coat in off_target.coats_of("hull") if coat.nature.is_base)
    for offer in offers_for(Planned.of(off_target, shelf_paints, ["hull"], [base.id])).offers:
        after = offer.edit(off_target)
        assert after.coat(base.id) == base
        assert after.recipe(base.recipe) == off_target.recipe(base.recipe)


def test_best_by_zone_names_only_zones_that_it_brings_nearer(off_target, shelf_paints):
    for zone, offer in best_by_zone(Planned.of(off_target, shelf_paints)).items():
        before, after = offer.outcome.zones[zone]
        assert after < before
        assert offer.sure


def _bare(*targets):
    project, zone = add_zone(Project(), "Hull")
    for target in targets:
        project = state_target(project, zone, target)
    return project, zone


def test_what_stands_in_the_way_is_said(shelf_paints):
    project, zone = _bare()
    planned = Planned.of(project, shelf_paints)
    assert "has no target" in remarks(planned, offers_for(planned))[0]
    project, zone = _bare((50.0, 0.0, 0.0))
    planned = Planned.of(project, shelf_paints)
    assert "Nothing is laid" in remarks(planned, offers_for(planned))[0]
    one = [paint for paint in shelf_paints if paint.proposed][:1]
    project = pin_base(project, zone, Mix.of(one, [(one[0].id, 1)]), Manner(2, 0.6))
    planned = Planned.of(project, one)
    said = " ".join(remarks(planned, offers_for(planned)))
    assert "With 1 bottle nothing can be mixed otherwise" in said
    project = set_step_done(project, project.steps[0].id, True)
    planned = Planned.of(project, one)
    assert "done or held" in " ".join(remarks(planned, offers_for(planned)))


def test_a_target_that_no_bottle_reaches_is_said(shelf_paints):
    reds = [paint for paint in shelf_paints if paint.proposed and paint.masstone_lab()[1] > 20][:3]
    project, zone = _bare((45.0, -60.0, 30.0))
    project = pin_base(project, zone, Mix.of(reds, [(reds[0].id, 1)]), Manner(3, 0.6))
    planned = Planned.of(project, reds)
    assert "off after the best of these" in " ".join(remarks(planned, offers_for(planned)))


def test_told_is_what_the_contract_says(off_target, shelf_paints):
    planned = Planned.of(off_target, shelf_paints, ["hull"])
    answer = told(planned, offers_for(planned))
    (zone,) = answer["zones"]
    assert zone["id"] == "hull"
    for stage in zone["stages"]:
        total = sum(part["share_de00"] for part in stage["parts"]) + stage["rest_de00"]
        assert total == pytest.approx(stage["de00"], abs=0.01)
    for offer in answer["offers"]:
        assert set(offer) >= {"words", "zones", "gain", "minutes"}


def test_the_whole_is_solved_as_near_as_a_long_random_search():
    behind, _seconds = solved(1, np.random.default_rng(8))
    assert behind <= 0.3


def test_solving_the_whole_holds_what_is_held_and_spoils_nothing(off_target, shelf_paints):
    base = next(coat for coat in off_target.coats_of("boot") if coat.nature.is_base)
    offer = solve(off_target, shelf_paints, ["boot"], [base.id])
    after = offer.edit(off_target)
    assert after.recipe(base.recipe) == off_target.recipe(base.recipe)
    assert offer.outcome.harms == ()
    assert offer.gain > 0
    assert all(sum(count for _v, count in recipe.parts) <= 24 for recipe in after.recipes)
