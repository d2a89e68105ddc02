"""The solver, checked by the forward model and against every mixture there is."""

from itertools import combinations

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.errors import ShelfError
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.paint import Palette
from lean_sepia.recipe.mix import RANK_STEP_DE00, MixSolver, one_per_bottle_set
from lean_sepia.recipe.parts import proportions

TARGETS = [[45, -14, -6], [70, 8, 30], [38, 25, 14], [55, 2, -15], [30, -3, 4]]


@pytest.fixture(scope="module")
def dozen(shelf_paints):
    return [paint for paint in shelf_paints if paint.medium == "acrylic-water" and paint.mixes][:14]


def brute_force(paints, target, laying=OPAQUE, most=10):
    """Lowest ΔE00 over every single, pair and triple, in double precision and without any shortcut."""
    best = np.inf
    for size in (1, 2, 3):
        parts = proportions(size, most)
        for chosen in combinations(paints, size):
            palette = Palette.of(chosen)
            labs = laying.lab(*palette.mixture(parts / parts.sum(axis=1, keepdims=True)))
            best = min(best, float(delta_e00(labs, target).min()))
    return best


@pytest.mark.parametrize("target", TARGETS)
def test_finds_the_best_mixture_there_is(dozen, target):
    found = MixSolver(dozen).solve(target)
    assert min(recipe.de00 for recipe in found) == pytest.approx(brute_force(dozen, target), abs=1e-4)


def test_finds_the_best_over_a_ground_and_under_a_varnish(dozen):
    ground = internal_from_lab([41, 25, 14]).R_i
    laying = Laying(ground, 0.8, "satin")
    found = MixSolver(dozen, laying).solve([50, -10, -5])
    assert min(r.de00 for r in found) == pytest.approx(brute_force(dozen, [50, -10, -5], laying), abs=1e-4)


def test_a_mixture_of_the_shelf_is_found_again(dozen, rng):
    for _ in range(6):
        chosen = rng.choice(len(dozen), 3, replace=False)
        parts = np.array([5, 3, 2])
        K, S, g = Palette.of([dozen[i] for i in chosen]).mixture(parts / 10)
        target = OPAQUE.lab(K, S, g)
        assert MixSolver(dozen).solve(target)[0].de00 < RANK_STEP_DE00


def test_stated_colours_and_differences_are_the_forward_models(dozen):
    by_id = {paint.id: paint for paint in dozen}
    for recipe in MixSolver(dozen).solve([52, -12, 4], count=20):
        counts = np.array([n for _, n in recipe.parts], dtype=float)
        assert counts.sum() <= 10
        K, S, g = Palette.of([by_id[name] for name, _ in recipe.parts]).mixture(counts / counts.sum())
        lab = OPAQUE.lab(K, S, g)
        assert np.allclose(lab, recipe.lab, atol=1e-9)
        assert recipe.de00 == pytest.approx(float(delta_e00(lab, [52, -12, 4])), abs=1e-9)
        assert recipe.lights["D65"] == recipe.de00


def test_ranking(dozen):
    found = MixSolver(dozen).solve([52, -12, 4], count=30)
    keys = [(int(r.de00 / RANK_STEP_DE00), len(r.parts), r.one_drop_de00) for r in found]
    assert keys[:-1] == sorted(keys[:-1])
    assert len({r.parts for r in found}) == len(found)


def test_more_bottles_and_parts_are_never_worse(dozen):
    target = [52, -12, 4]
    three = min(r.de00 for r in MixSolver(dozen).solve(target))
    five = min(r.de00 for r in MixSolver(dozen, max_paints=5).solve(target))
    fine = min(r.de00 for r in MixSolver(dozen, max_paints=4, max_parts=20).solve(target))
    assert five <= three + 1e-9
    assert fine <= three + 1e-9


def test_stray_part_of_a_single_paint_changes_nothing(dozen):
    recipe = MixSolver(dozen[:1]).solve([50, 0, 0])[0]
    assert recipe.parts == ((dozen[0].id, 1),)
    assert recipe.one_drop_de00 == 0


def test_media_that_do_not_mix_are_kept_apart(shelf_paints):
    medium = {paint.id: paint.medium for paint in shelf_paints}
    for recipe in MixSolver(shelf_paints).solve([40, 6, 10], count=40):
        assert len({medium[name] for name, _ in recipe.parts}) == 1


def test_far_targets_get_an_honest_poor_answer(dozen):
    best = MixSolver(dozen).solve([60, 90, -60])[0]
    assert best.de00 > 15
    assert np.isfinite(best.lab).all()


def test_identical_and_non_scattering_paints_do_no_harm(dozen):
    from dataclasses import replace

    odd = [*dozen[:4], replace(dozen[0], id="twin"), replace(dozen[1], id="clear", S=np.zeros(31))]
    for recipe in MixSolver(odd).solve([50, 5, 5], count=50):
        assert np.isfinite(recipe.de00)


def test_a_shelf_of_powders_cannot_mix(shelf_paints):
    with pytest.raises(ShelfError, match="can be mixed"):
        MixSolver([paint for paint in shelf_paints if not paint.mixes])


def test_one_card_per_set_of_bottles(dozen):
    sets = one_per_bottle_set(MixSolver(dozen).solve([52, -12, 4], count=40))
    names = [frozenset(name for name, _ in recipe.parts) for recipe in sets]
    assert len(set(names)) == len(names)
