"""The quick colours are near the exact ones, and the table holds every mixture."""

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.paint import Palette
from lean_sepia.recipe.mixture_table import MixtureTable, QuickColours, all_sets, local_metric
from lean_sepia.recipe.parts import proportions

LAYINGS = {
    "opaque": OPAQUE,
    "film": Laying(internal_from_lab([41, 25, 14]).R_i, 0.8),
    "glossy thin film on white": Laying(internal_from_lab([92, 0, 1]).R_i, 0.15, "gloss"),
}


@pytest.mark.parametrize("laying", LAYINGS.values(), ids=LAYINGS)
@pytest.mark.parametrize("size", [1, 2, 3])
def test_the_table_is_near_the_exact_colours(shelf_paints, laying, size):
    palette = Palette.of([paint for paint in shelf_paints if paint.mixes][:12])
    table = MixtureTable.of(QuickColours(palette, laying), all_sets(12, size), 10)
    assert len(table.parts) == len(proportions(size, 10))
    sets, parts = table.mixtures(np.arange(table.labs.shape[1]))
    shares = np.zeros((len(sets), 12))
    np.put_along_axis(shares, sets, parts / parts.sum(axis=1, keepdims=True), axis=1)
    miss = delta_e00(laying.lab(palette.mixture(shares)), table.labs.T)
    assert miss.mean() < 0.3
    assert np.quantile(miss, 0.99) < 1.0


def test_nearest_rows_are_the_nearest(shelf_paints):
    palette = Palette.of([paint for paint in shelf_paints if paint.mixes][:12])
    table = MixtureTable.of(QuickColours(palette, OPAQUE), all_sets(12, 3), 10)
    for goal in ([50.0, -10.0, 5.0], [60.0, 90.0, -60.0]):
        rows = table.near(local_metric(np.array(goal)), np.array(goal), 0.8, 10_000)
        de00 = delta_e00(table.labs.T, goal)
        assert set(np.flatnonzero(de00 <= de00.min() + 0.8)) == set(rows)
        few = table.near(local_metric(np.array(goal)), np.array(goal), 0.8, 5)
        assert len(few) == 5
        assert de00[few].max() <= np.partition(de00, 5)[5] + 1e-6


def test_the_local_metric_is_the_difference_of_near_colours(rng):
    for lab in ([50.0, 20.0, -30.0], [30.0, 1.0, 1.0], [80.0, -5.0, 60.0], [40.0, 10.0, -50.0]):
        metric, way = local_metric(np.array(lab)), rng.normal(0, 0.3, (50, 3))
        seen = delta_e00(np.array(lab), np.array(lab) + way)
        assert np.linalg.norm(way @ metric.T, axis=1) == pytest.approx(seen, rel=0.15, abs=0.02)
