"""The solver, checked by the forward model and against every mixture there is."""

from dataclasses import replace
from itertools import combinations

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.errors import ShelfError
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.paint import Palette
from lean_sepia.recipe.limits import Limits
from lean_sepia.recipe.mix import RANK_STEP_DE00, MixSolver, one_per_bottle_set
from lean_sepia.recipe.parts import proportions
from lean_sepia.shelf.paint_record import paint_from_record

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
            labs = laying.lab(palette.mixture(parts / parts.sum(axis=1, keepdims=True)))
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


@pytest.mark.parametrize("laying", [OPAQUE, Laying(internal_from_lab([41, 25, 14]).R_i, 0.6, "gloss")])
def test_a_paints_own_surface_constants_count(dozen, laying):
    """Paints that state k1 and k2: the solver finds what the whole table of their mixtures holds."""
    odd = [replace(paint, k1=0.02, k2=0.45) if i % 2 else paint for i, paint in enumerate(dozen)]
    target = [52, -12, 4]
    best = min(recipe.de00 for recipe in MixSolver(odd, laying).solve(target))
    assert best == pytest.approx(brute_force(odd, target, laying), abs=1e-4)
    recipe = MixSolver(odd, laying).solve(target)[0]
    by_id = {paint.id: paint for paint in odd}
    used, parts = zip(*((by_id[name], n) for name, n in recipe.parts), strict=True)
    shares = np.array(parts) / sum(parts)
    K, S = (sum(s * getattr(p, key) for s, p in zip(shares, used, strict=True)) for key in "KS")
    k1, k2 = (sum(s * getattr(p, key) for s, p in zip(shares, used, strict=True)) for key in ("k1", "k2"))
    if laying.ground is None:
        R_i = 1 + K / S - np.sqrt((K / S) ** 2 + 2 * K / S)
        g = sum(s * p.g for s, p in zip(shares, used, strict=True))
    else:
        a = 1 + K / S
        b = np.sqrt(a**2 - 1)
        coth = 1 / np.tanh(b * S * laying.X)
        R_i = (1 - laying.ground * (a - b * coth)) / (a - laying.ground + b * coth)
        g = 0.1
    R = g * k1 + (1 - k1) * (1 - k2) * R_i / (1 - k2 * R_i)
    assert float(delta_e00(lab_from_reflectance(R), recipe.lab)) < 1e-6


def test_a_mixture_of_the_shelf_is_found_again(dozen, rng):
    for _ in range(6):
        chosen = rng.choice(len(dozen), 3, replace=False)
        parts = np.array([5, 3, 2])
        target = OPAQUE.lab(Palette.of([dozen[i] for i in chosen]).mixture(parts / 10))
        assert MixSolver(dozen).solve(target)[0].de00 < RANK_STEP_DE00


def test_stated_colours_and_differences_are_the_forward_models(dozen):
    by_id = {paint.id: paint for paint in dozen}
    for recipe in MixSolver(dozen).solve([52, -12, 4], count=20):
        counts = np.array([n for _, n in recipe.parts], dtype=float)
        assert counts.sum() <= 10
        lab = OPAQUE.lab(Palette.of([by_id[name] for name, _ in recipe.parts]).mixture(counts / counts.sum()))
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


def test_limits_are_kept_to(dozen):
    ids = [paint.id for paint in dozen]
    limits = Limits(
        only=frozenset(ids[:9]), forbid=frozenset(ids[:1]), must=frozenset(ids[1:2]), stock_ml={ids[1]: 1.0}, volume_ml=4.0
    )  # fmt: skip
    for most in (10, 16):
        found = MixSolver(dozen, limits=limits, max_parts=most).solve([52, -12, 4], count=30)
        assert len(found) == 30
        for recipe in found:
            parts = dict(recipe.parts)
            assert set(parts) <= set(ids[1:9])
            assert 0 < parts[ids[1]] <= 0.25 * recipe.total_parts + 1e-9


@pytest.mark.parametrize(
    ("limits", "said"),
    [
        ({"must": {0}, "forbid": {0}}, "ruled out of it"),
        ({"must": {0}, "only": {1}}, "ruled out of it"),
        ({"must": {0, 1, 2, 3}}, "may have 3"),
        ({"only": {0}, "forbid": {0}}, "Allow at least one"),
    ],
)
def test_limits_that_contradict_each_other_are_refused(dozen, limits, said):
    named = {key: frozenset(dozen[i].id for i in which) for key, which in limits.items()}
    with pytest.raises(ShelfError, match=said):
        MixSolver(dozen, limits=Limits(**named))


def test_a_paint_nobody_has_is_named(dozen):
    with pytest.raises(ShelfError, match="nowhere"):
        MixSolver(dozen, limits=Limits(forbid=frozenset({"nowhere"})))


def test_limits_that_leave_no_mixture_are_said(shelf_paints):
    water = next(p.id for p in shelf_paints if p.medium == "acrylic-water" and p.mixes)
    oil = next(p.id for p in shelf_paints if p.medium == "oil" and p.mixes)
    with pytest.raises(ShelfError, match="No mixture keeps"):
        MixSolver(shelf_paints, limits=Limits(must=frozenset({water, oil}))).solve([50, 0, 0])


def test_a_stray_drop_matters_less_in_a_full_cup(dozen):
    small = next(recipe for recipe in MixSolver(dozen).solve([52, -12, 4]) if len(recipe.parts) > 1)
    cup = MixSolver(dozen, cup_drops=120)
    assert cup.recipe(small.parts, [52, -12, 4]).one_drop_de00 < 0.2 * small.one_drop_de00


def test_a_target_with_a_range_has_an_expected_difference(dozen):
    solver = MixSolver(dozen)
    goal = solver.solve([52, -12, 4])[0].lab
    sure = solver.solve(goal, half90=[1e-9] * 3)[0]
    assert sure.expected_de00 == pytest.approx(sure.de00, abs=1e-4)
    vague = solver.solve(goal, half90=[6, 6, 6])[0]
    assert vague.expected_de00 > vague.de00 + 1
    assert solver.solve(goal)[0].expected_de00 is None


def test_fine_parts_give_every_proportion_once(dozen):
    found = MixSolver(dozen, max_paints=4, max_parts=20).solve([52, -12, 4], count=100)
    proportions_found = {frozenset(recipe.parts) for recipe in found}
    assert len(proportions_found) == len(found)
    assert all(np.gcd.reduce([n for _, n in recipe.parts]) == 1 for recipe in found)


def test_a_very_large_shelf_is_searched_through_the_paints_that_matter(dozen, rng):
    from dataclasses import replace

    many = [
        replace(paint, id=f"{paint.id}-{i}", K=paint.K * rng.uniform(0.6, 1.6), S=paint.S * rng.uniform(0.6, 1.6))
        for i in range(9)
        for paint in dozen
    ]  # fmt: skip
    assert len(many) > 100
    small = MixSolver(many[:28]).solve([45, -14, -6])
    large = MixSolver(many).solve([45, -14, -6])
    assert min(r.de00 for r in large) <= min(r.de00 for r in small) + 0.1


def test_bottles_of_one_colour_are_not_mixed_with_each_other(dozen):
    same = [replace(dozen[0], id=name, name=name) for name in ("one", "two", "three")]
    for count in (1, 3):
        for recipe in MixSolver(same).solve([50, 60, -60], count):
            assert len(recipe.parts) == 1


def test_a_black_known_by_one_colour_mixes_like_a_black():
    """A reading near black says that K/S is large, not how large: one part in nine of white gives L* 40 to 76 (practice)."""
    records = [
        {"id": name, "medium": "acrylic-water", "finish": finish, "lab": lab}
        for name, finish, lab in (
            ("black", "flat", [22.0, 0, 0]), ("deep", "flat", [24.5, 0, 0]), ("white", "gloss", [95.0, -1, 3]),
            ("yellow", "satin", [82.0, 8, 80]),
        )
    ]  # fmt: skip
    paints = [paint_from_record(record) for record in records]
    for paint, record in zip(paints, records, strict=True):
        assert paint.masstone_lab() == pytest.approx(np.array(record["lab"]), abs=0.15)
    solver = MixSolver(paints)
    for black in ("black", "deep"):
        grey = solver.recipe([("white", 9), (black, 1)], [50, 0, 0])
        assert 40 < grey.lab[0] < 76
    pale = solver.recipe([("white", 9), ("yellow", 1)], [90, 0, 30])
    assert pale.lab[0] > 88
