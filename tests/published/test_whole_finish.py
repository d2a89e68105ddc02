"""What a base is solved to under what comes later: practice, no source. Air between: Koschmieder (1924)."""

import math

import numpy as np
import pytest
from benchmarks.finishes import random_shelf

from lean_sepia.answers import match
from lean_sepia.answers.coats.tones import pairs_of
from lean_sepia.answers.nearer.finish import solve
from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.targets import targets_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.distance import kept_through_air, lightened, through_air
from lean_sepia.document.edits.coats import lay_filter, lay_primer, lay_varnish, pin_base
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.planning import set_school
from lean_sepia.document.edits.zones import add_zone, group_zones, state_target
from lean_sepia.document.model import Project
from lean_sepia.recipe.limits import NO_LIMITS


@pytest.fixture(scope="module")
def shelf():
    return random_shelf(30, np.random.default_rng(4))


def _washed(shelf, target=(55.0, 2.0, 18.0)):
    """A zone with a primer, a stand-in base, and a dark filter and wash planned over it."""
    films = [paint for paint in shelf if paint.medium != "oil" and not paint.clear]
    dark = min((paint for paint in shelf if paint.medium == "oil"), key=lambda paint: paint.masstone_lab()[0])
    project, zone = add_zone(Project(), "Hull")
    project = state_target(project, zone, target, "exposed")
    project = lay_primer(project, zone, Mix.of(films, [(films[1].id, 1)]), Manner(2, 0.5))
    project = pin_base(project, zone, Mix.of(films, [(films[5].id, 1)]), Manner(3, 0.6))
    tint = Mix.of([dark], [(dark.id, 1)])
    project = lay_filter(project, [zone], tint, Manner(2, 0.95, "glaze"))
    project = lay_filter(project, [zone], tint, Manner(1, 0.91, "glaze"), "wash")
    return lay_varnish(project, [zone], "matte-coat"), zone


def _solved(project, zone, shelf, *, alone):
    stage, target = match.base_aim(project, zone, targets_of(project, zone))
    assert stage == "exposed"
    question = match.ask(
        project, zone, target, shelf, passes=3, thinner_share=0.6, sheen=match.AS_PLANNED, max_paints=3, max_parts=10,
        limits=NO_LIMITS, mix_ml=7.0, stage=stage, alone=alone,
    )  # fmt: skip
    recipe = min((choice.recipe for choice in match.answer(question).choices), key=lambda one: one.de00)
    return pin_base(project, zone, Mix.of(shelf, recipe.parts), Manner(3, 0.6)), recipe


def test_a_base_solved_under_a_filter_and_a_wash_is_lighter_than_one_that_is_not(shelf):
    project, zone = _washed(shelf)
    under, recipe = _solved(project, zone, shelf, alone=False)
    alone, _recipe = _solved(project, zone, shelf, alone=True)
    base = [
        next(b.lab[0] for b in strata_of(one, zone).bands if b.coat.nature.is_base) for one in (under, alone)
    ]
    assert base[0] > base[1] + 0.5
    target = targets_of(project, zone).exposed.lab
    missed = [float(delta_e00(strata_of(one, zone).exposed, target)) for one in (under, alone)]
    assert missed[0] < missed[1]
    assert strata_of(under, zone).exposed == pytest.approx(recipe.lab, abs=0.05)


def test_two_tones_keep_at_least_the_contrast_that_is_wanted(shelf):
    project, one = _washed(shelf, (62.0, 3.0, 22.0))
    project, other = add_zone(project, "Patches")
    films = [paint for paint in shelf if paint.medium != "oil" and not paint.clear]
    project = state_target(project, other, (45.0, -4.0, 12.0), "exposed")
    project = lay_primer(project, other, Mix.of(films, [(films[1].id, 1)]), Manner(2, 0.5))
    project = pin_base(project, other, Mix.of(films, [(films[6].id, 1)]), Manner(3, 0.6))
    project = group_zones(project, "Hull", {one: 0.7, other: 0.3})
    wanted = float(delta_e00((62.0, 3.0, 22.0), (45.0, -4.0, 12.0)))

    def contrast(document):
        return float(delta_e00(strata_of(document, one).exposed, strata_of(document, other).exposed))

    now, offer = contrast(project), solve(project, shelf)
    assert contrast(offer.edit(project)) > min(now, wanted) - 0.35
    assert pairs_of(project, project.surfaces[0].id, {z: strata_of(project, z) for z in (one, other)})


@pytest.mark.parametrize(("sight_km", "lost"), [(50, 0.002), (10, 0.011)])
def test_air_takes_what_koschmieders_law_says(sight_km, lost):
    """exp(−3.912·d/V), worked out by hand for 30 cm and 1:96."""
    away = 0.3 * 96
    assert 1 - kept_through_air(away, sight_km) == pytest.approx(
        1 - math.exp(-3.912 * away / (1000 * sight_km)), rel=1e-12
    )
    assert 1 - kept_through_air(away, sight_km) == pytest.approx(lost, abs=0.0006)


def test_all_contrast_is_kept_with_nothing_between_and_lost_at_the_end_of_sight():
    lab = np.array([30.0, 20.0, 10.0])
    assert through_air(lab, 1.0) == pytest.approx(lab, abs=1e-9)
    assert kept_through_air(10_000, 10) == pytest.approx(0.02, abs=1e-4)
    assert lightened(lab, 0.1)[0] > lab[0]


def test_the_scale_effect_changes_what_is_aimed_at_once_and_says_so(worked):
    plain = targets_of(worked, "hull")
    lighter = targets_of(set_school(worked, "scale-effect", "customary"), "hull")
    assert lighter.fresh.lab == pytest.approx(lightened(plain.fresh.lab, worked.white_share), abs=1e-9)
    assert "lighter by custom" in lighter.exposed.source
    hazy = targets_of(set_school(worked, "scale-effect", "haze"), "hull")
    assert 0 < float(delta_e00(hazy.fresh.lab, plain.fresh.lab)) < 1
    assert "m of air" in hazy.fresh.source
    assert targets_of(set_school(worked, "scale-effect", "none"), "hull") == plain
