"""Placing: whatever is added lands where its phase and the schools put it, and nothing is found that an order could avoid."""

import itertools
import json
import random
from pathlib import Path

import pytest
from tests.plan.sequences import sequence

from lean_sepia.plan.placing import _cost, arranged, place_of
from lean_sepia.plan.rules.table import check_plan

CASES = json.loads((Path(__file__).parent / "cases" / "plan.json").read_text())["cases"]


def added(steps, schools):
    """A plan made by adding steps one by one."""
    made = []
    for step in steps:
        made.insert(place_of(made, step, schools), step)
        made = list(arranged(made, schools, {one.id for one in made}))
    return made


@pytest.mark.parametrize("case", CASES, ids=[case["name"] for case in CASES])
def test_added_in_any_order_nothing_is_found_that_an_order_could_avoid(case):
    plan = sequence(*case["steps"], schools=case.get("schools"))
    steps = [step.model_copy(update={"start": None, "end": None}) for step in plan.steps]
    least = min(
        _cost(list(order), plan.schools) for order in itertools.islice(itertools.permutations(steps), 720)
    )
    dice = random.Random(len(case["name"]))
    for _shuffle in range(2):
        mixed = dice.sample(steps, len(steps))
        assert _cost(added(mixed, plan.schools), plan.schools) <= least


def kinds(*lines, schools=None):
    plan = sequence(*lines, schools=schools)
    return [step.kind for step in added(plan.steps, plan.schools)]


def test_phases_and_schools_decide():
    lines = (
        "matte-coat A flat",
        "chips A flat",
        "pin-wash O satin",
        "marking - gloss",
        "gloss-coat A gloss",
        "base A flat",
        "primer A flat",
        "powder P flat",
        "wash-model - -",
    )
    assert kinds(*lines) == [
        "wash-model",
        "primer",
        "base",
        "gloss-coat",
        "marking",
        "chips",
        "pin-wash",
        "matte-coat",
        "powder",
    ]
    assert kinds(*lines, schools={"chips": "after-wash"}) == [
        "wash-model",
        "primer",
        "base",
        "gloss-coat",
        "marking",
        "pin-wash",
        "chips",
        "matte-coat",
        "powder",
    ]
    assert kinds("camouflage A flat", "base A flat", schools={"camouflage": "reverse"}) == [
        "camouflage",
        "base",
    ]
    assert kinds("camouflage A flat", "base A flat") == ["base", "camouflage"]


def test_a_resist_comes_before_what_it_protects_from_and_comes_off_after():
    assert kinds("remove-resist - -", "base A flat", "primer A flat", "resist - -") == [
        "primer",
        "resist",
        "base",
        "remove-resist",
    ]


def test_masks_enclose_what_they_protect_from():
    order = kinds("unmask - - [a]", "camouflage A flat [b] @airbrush", "mask - - [a]", "base A flat [a,b]")
    assert order == ["base", "mask", "camouflage", "unmask"]
    assert (
        kinds(
            "matte-coat A flat @airbrush", "unmask - -", "fit-glass - -", "mask - -", "base A flat @airbrush"
        ).index("fit-glass")
        == 4
    )


def test_nothing_is_put_under_the_coat_that_is_its_ground():
    assert kinds("wash O satin", "base E satin") == ["base", "wash"]
    assert kinds("streaks O satin", "found - satin") == ["found", "streaks"]


def test_what_the_user_placed_stays():
    plan = sequence("base A flat", "matte-coat A flat", "powder P flat", "matte-coat A flat")
    steps = list(plan.steps)
    assert [step.id for step in arranged(steps, {}, ())] == [step.id for step in steps]
    moved = arranged(steps, {}, {"s3"})
    assert not [f for f in check_plan(moved) if f.severity != "note"]


def test_ties_are_kept():
    plan = sequence("base A flat", "matte-coat A flat", "powder P flat", "matte-coat A flat")
    steps = [step.model_copy(update={"after": ("s3",)}) if step.id == "s4" else step for step in plan.steps]
    order = [step.id for step in arranged(steps, {}, {"s3", "s4"})]
    assert order.index("s3") < order.index("s4")
