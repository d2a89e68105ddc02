"""Filters of one and two tints against looking through all, when they show, and when they are washes."""

import numpy as np
import pytest
from benchmarks.harmonise import exhaustive

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.paint.paint import stirred
from lean_sepia.recipe.tints.glaze import (
    JUST_SHOWS_DE00,
    MOST_PASSES,
    Ground,
    choose_glazes,
    contrasts,
    drawn_together,
    glaze_film,
    glaze_labs,
    just_shows_on,
    passes_until_a_wash,
)

LABS = np.array([[45.0, -16, -6], [38, 30, 20], [84, 2, 20], [68, 12, 38]])


@pytest.fixture
def oils(shelf_paints):
    return [paint for paint in shelf_paints if paint.medium == "oil" and paint.mixes]


@pytest.mark.parametrize("seed", range(6))
def test_two_tints_are_found_as_by_looking_through_all(oils, seed):
    rng = np.random.default_rng(seed)
    grounds = [Ground.of_lab(lab) for lab in LABS]
    goals = LABS + rng.normal(0, 2.5, 3) + rng.normal(0, 1, (4, 3))
    found = choose_glazes(oils, grounds, list(goals), most=2)
    assert found[0].de00_mean <= exhaustive(oils, grounds, goals) + 0.02
    for glaze in found[:5]:
        used = [p for p in oils if p.id in (glaze.paint, glaze.second)]
        tint = stirred("t", "t", used, [1] * len(used))
        labs = glaze_labs(tint, grounds, glaze_film(glaze.thinner_parts, glaze.passes))
        assert np.asarray(glaze.labs) == pytest.approx(labs, abs=1e-9)
        assert glaze.passes <= MOST_PASSES


def test_single_tints_are_all_offered(oils):
    grounds = [Ground.of_lab(LABS[0])]
    found = choose_glazes(oils, grounds, [LABS[0] + 1])
    assert {glaze.paint for glaze in found} == {paint.id for paint in oils}
    assert all(glaze.second is None for glaze in found)


def test_just_shows_on_the_second_pass(oils):
    umber = next(paint for paint in oils if paint.id == "oil-raw-umber")
    grounds = [Ground.of_lab(lab) for lab in LABS]
    parts = just_shows_on(2, umber, grounds)
    steps = [float(delta_e00(glaze_labs(umber, grounds, glaze_film(parts, n)), LABS).max()) for n in (1, 2)]
    assert steps[0] < JUST_SHOWS_DE00 <= steps[1]
    stronger = glaze_labs(umber, grounds, glaze_film(parts - 1, 1))
    assert float(delta_e00(stronger, LABS).max()) >= JUST_SHOWS_DE00 * 0.97
    own = Ground.of_lab(umber.masstone_lab())
    assert just_shows_on(2, umber, [own]) is None


def test_where_it_becomes_a_wash():
    """One part in ten left wet is a wash; drawn out it takes so many passes (common practice)."""
    for parts in (10, 20, 40):
        first = passes_until_a_wash(parts)
        wash = 1 / 11
        assert glaze_film(parts, first) >= wash - 1e-9 > glaze_film(parts, first - 1)
    assert passes_until_a_wash(10) < passes_until_a_wash(20) < passes_until_a_wash(40)


def test_drawn_together_keeps_the_mean_and_loses_contrast():
    goals = drawn_together(LABS, 0.2)
    assert goals.mean(axis=0) == pytest.approx(LABS.mean(axis=0))
    before, after = (contrasts(labs)[np.triu_indices(4, 1)] for labs in (LABS, goals))
    assert np.all(after < before)
