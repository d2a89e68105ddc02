"""Two lighteners against looking through every pair in every proportion, as a film over a ground."""

from itertools import combinations

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.paint import Palette, stirred
from lean_sepia.paint.stack import Coating, Opaque, Stack
from lean_sepia.recipe.fades.fade import Goal, choose_lighteners
from lean_sepia.recipe.parts import proportions


@pytest.fixture
def acrylics(shelf_paints):
    return [
        paint for paint in shelf_paints if paint.medium == "acrylic-water" and paint.mixes and not paint.clear
    ][:14]


@pytest.mark.parametrize("seed", range(6))
def test_the_best_pair_is_found_over_a_ground(acrylics, seed):
    rng = np.random.default_rng(seed)
    base = stirred("base", "base", acrylics[:2], [2, 1])
    ground = Stack().lay(
        Coating("film", Opaque.of_lab((float(rng.uniform(30, 70)), 8.0, float(rng.uniform(-10, 15)))))
    )
    X = film_thickness(int(rng.integers(1, 5)), float(rng.uniform(0.7, 0.9)), "mist")
    laying = ground.laying(Coating("film", X=X))
    goal = np.array(ground.lab()) + rng.uniform((1, -3, -3), (8, 3, 3))
    found = choose_lighteners(acrylics, base, goal, max_parts=9, laying=laying, most=2)
    steps = proportions(3, 9)
    least = min(
        float(
            delta_e00(
                laying.lab(Palette.of([base, *pair]).mixture(steps / steps.sum(axis=1, keepdims=True))), goal
            ).min()
        )
        for pair in combinations(acrylics, 2)
    )
    assert found[0].de00 <= least + 0.1
    best = found[0]
    names = {paint.id: paint for paint in acrylics}
    used = [base, names[best.paint], *([names[best.second]] if best.second else [])]
    counts = np.array(
        [best.base_parts, best.lightener_parts, *([best.second_parts] if best.second else [])], dtype=float
    )
    again = laying.lab(Palette.of(used).mixture(counts / counts.sum()))
    assert again == pytest.approx(best.lab, abs=1e-6)
    assert float(delta_e00(again, goal)) == pytest.approx(best.de00, abs=1e-6)


def test_a_wish_is_judged_on_lightness_and_hue_only():
    goal = Goal.lighter((50.0, 20.0, 10.0), 8.0)
    assert goal.lab[0] == 58.0
    same_hue = np.array([[58.0, 12.0, 6.0], [58.0, 24.0, 12.0], [58.0, 20.0, -10.0], [58.0, 2.0, 1.0]])
    away = goal.away(same_hue)
    assert away[0] == pytest.approx(0, abs=1e-9)
    assert away[1] == pytest.approx(0, abs=1e-9)
    assert away[2] > 5
    assert away[3] > 3  # greyed, which nobody wished for
    assert Goal.lighter((99.0, 0.0, 0.0), 8.0).lab[0] == 100.0
    grey = Goal.lighter((50.0, 0.0, 0.0), 5.0)
    assert grey.away(np.array([[55.0, 0.0, 0.0]]))[0] == pytest.approx(0)
