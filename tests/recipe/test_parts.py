"""Whole parts, drops, and one part astray."""

from itertools import product
from math import gcd

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_sepia.recipe.parts import drops_for, proportions, reduced, stray_drops


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


@given(st.lists(st.integers(1, 9), min_size=1, max_size=4), st.floats(1, 40))
def test_drops_keep_the_proportion(parts, volume):
    drops = drops_for(parts, volume)
    assert all(a * drops[0] == b * parts[0] for a, b in zip(parts, drops, strict=True))
    assert abs(sum(drops) - 20 * volume) <= sum(reduced(parts))
