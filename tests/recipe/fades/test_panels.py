"""Panels that fade unevenly but as they are built."""

import numpy as np
import pytest

from lean_sepia.paint.stack import Coating, Stack
from lean_sepia.recipe.fades.panels import fade_levels, grid, level_mixes, panel_map, panel_shares


def test_the_same_seed_gives_the_same_panels_and_another_others():
    first = fade_levels(4, 12, seed=7)
    assert first == fade_levels(4, 12, seed=7)
    assert np.mean(np.array(first) != np.array(fade_levels(4, 12, seed=8))) > 0.3


def test_the_other_side_differs_and_replaced_panels_have_not_faded():
    here, there = (fade_levels(4, 12, seed=3, replaced=(5, 20), mirrored=side) for side in (False, True))
    turned = np.array(there).reshape(4, 12)[:, ::-1].ravel()
    assert np.mean(np.array(here) != turned) > 0.3
    assert here[5] == here[20] == 0
    assert min(level for number, level in enumerate(here) if number not in (5, 20)) >= 1


def test_what_lies_higher_has_faded_more():
    rows = np.mean([np.array(fade_levels(6, 10, above=1.0, seed=s)).reshape(6, 10).mean(axis=1) for s in range(40)], axis=0)  # fmt: skip
    assert np.all(np.diff(rows) < 0)
    even = np.mean([np.array(fade_levels(6, 10, above=0.0, seed=s)).reshape(6, 10).mean(axis=1) for s in range(40)], axis=0)  # fmt: skip
    assert np.ptp(even) < np.ptp(rows) / 3


@pytest.mark.parametrize(("whole", "axis"), [("rows", 1), ("columns", 0)])
def test_planks_fade_as_wholes(whole, axis):
    found = np.array(fade_levels(5, 9, whole=whole, seed=2)).reshape(5, 9)
    assert np.all(np.ptp(found, axis=axis) == 0)
    assert len(set(found.ravel())) > 1


def test_a_drawn_panel_lies_on_the_grid_and_takes_its_area():
    boxes = grid(2, 2, [(0.75, 0.75, 0.25, 0.25)])
    shares = panel_shares(boxes)
    assert shares.sum() == pytest.approx(1)
    assert shares[-1] == pytest.approx(0.25, abs=0.01)
    assert shares[0] == pytest.approx(0.1875, abs=0.01)
    assert panel_map(boxes, 8, 8)[4, 4] == 4


def test_cups_for_degrees_go_to_the_limit_in_even_steps(shelf_paints):
    known = {paint.id: paint for paint in shelf_paints}
    base, light = known["slate-teal"], known["chalk"]
    ground = Stack().lay(Coating("film", base))
    laying = ground.laying(Coating("film", X=0.6))
    levels = level_mixes(base, [light], [2], 3, laying, [0.3, 0.3, 0.2])
    assert (levels[-1].base_parts, levels[-1].lightener_parts) == (3, 2)
    lightness = [ground.lab()[0], *(level.lab[0] for level in levels)]
    steps = np.diff(lightness)
    assert np.all(steps > 0)
    assert steps.max() / steps.min() < 1.8
    half = level_mixes(base, [light], [2], 3, laying, [0.5], limit=0.5)
    assert half[0].lab[0] < levels[-1].lab[0]
