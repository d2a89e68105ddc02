"""Whole parts, drops, and one part astray."""

from itertools import product
from math import gcd

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_sepia.recipe.parts import MOST_COUNTED_DROPS, measure_out, proportions, reduced, stray_drops


@pytest.mark.parametrize(("paints", "most"), [(1, 10), (2, 10), (3, 10), (3, 13), (4, 8)])
def test_every_proportion_once(paints, most):
    brute = {
        parts
        for parts in product(range(1, most + 1), repeat=paints)
        if sum(parts) <= most and gcd(*parts) == 1
    }
    table = proportions(paints, most)
    assert {tuple(row) for row in table.tolist()} == brute
    assert len(table) == len(brute)


def test_number_of_mixtures_of_60_paints():
    """The definitions page counts 3.8 million singles, pairs and triples of 60 paints to 10 parts."""
    pairs, triples = 60 * 59 // 2, 60 * 59 * 58 // 6
    total = 60 + pairs * len(proportions(2, 10)) + triples * len(proportions(3, 10))
    assert total == pytest.approx(3.8e6, rel=0.03)


@given(st.lists(st.integers(1, 30), min_size=1, max_size=5))
def test_reduced_is_the_same_proportion(parts):
    small = reduced(parts)
    assert gcd(*small) == 1
    assert all(a * small[0] == b * parts[0] for a, b in zip(parts, small, strict=True))


def test_a_stray_part_is_taken_at_the_largest_multiple():
    assert sorted(map(tuple, stray_drops([3, 1], 10).tolist())) == [(5, 2), (6, 1), (6, 3), (7, 2)]


@given(st.lists(st.integers(1, 9), min_size=1, max_size=4), st.floats(0.05, 40))
def test_what_is_measured_out_keeps_the_proportion(parts, volume):
    found = measure_out(parts, volume, [20.0] * len(parts))
    ml = [one.ml for one in found]
    assert ml == pytest.approx([part / parts[0] * ml[0] for part in parts])
    assert sum(ml) >= 0.5 * volume
    assert all(one.drops is None or one.drops == pytest.approx(20 * one.ml) or sum(ml) > 1.5 for one in found)
    assert all(one.drops is None or one.drops <= MOST_COUNTED_DROPS for one in found)


@pytest.mark.parametrize(
    ("parts", "ml", "drops"),
    [([5, 2, 1], 0.8, [10, 4, 2]), ([5, 2, 1], 0.1, [5, 2, 1]), ([3, 1], 1.0, [None, 5]), ([1], 0.6, [12])],
)
def test_up_to_twelve_drops_are_counted(parts, ml, drops):
    assert [one.drops for one in measure_out(parts, ml, [20.0] * len(parts))] == drops


def test_a_bottles_own_drops_count_and_tubes_give_a_bead():
    coarse, fine = measure_out([1, 1], 0.4, [10.0, 30.0])
    assert (coarse.drops, fine.drops) == (2, 6)
    bead = measure_out([1], 0.2, [None])[0]
    assert bead.drops is None
    assert bead.bead_mm == pytest.approx(200 / (np.pi * 2.5**2), abs=0.05)
