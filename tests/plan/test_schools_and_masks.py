"""Schools compared, masks costed."""

import pytest
from tests.plan.sequences import sequence

from lean_sepia.plan.adapting import adapted, changed_by
from lean_sepia.plan.masking import Tone, compare_orders, masking_cost, pattern_steps
from lean_sepia.plan.rules.table import check_plan
from lean_sepia.plan.schools import SCHOOLS


def kinds(question, choice, *lines):
    plan = sequence(*lines)
    return [step.kind for step in adapted(plan.steps, {question: choice}, question)]


def test_each_school_shapes_the_plan():
    flat = ("base A flat", "marking - gloss", "matte-coat A flat")
    assert kinds("decals", "gloss-first", *flat) == ["base", "gloss-coat", "marking", "matte-coat"]
    glossy = ("base A flat", "gloss-coat A gloss", "marking - gloss", "matte-coat A flat")
    assert kinds("decals", "smooth", *glossy) == ["base", "marking", "matte-coat"]
    washed = ("base A flat", "gloss-coat A gloss", "marking - gloss", "pin-wash O satin", "matte-coat A flat")
    assert kinds("decals", "smooth", *washed) == [
        "base",
        "marking",
        "pin-wash",
        "matte-coat",
    ] or "gloss-coat" in kinds("decals", "smooth", *washed)
    assert kinds("camouflage", "reverse", "base A flat", "camouflage A flat") == ["camouflage", "base"]
    assert kinds("light", "pre-shade", "primer A flat", "base A flat", "tone A flat") == [
        "primer",
        "preshade",
        "base",
    ]
    assert kinds("light", "none", "base A flat", "tone A flat") == ["base"]
    assert kinds("chips", "resist", "primer A flat", "base A flat", "chips A flat") == [
        "primer",
        "resist",
        "base",
        "remove-resist",
    ]
    assert kinds("chips", "after-wash", "base A satin", "chips A flat", "wash O flat") == [
        "base",
        "wash",
        "chips",
    ]
    assert (
        kinds(
            "varnish", "often", "base A satin", "marking - gloss", "wash O flat", "matte-coat A flat"
        ).count("satin-coat")
        == 1
    )
    assert kinds("varnish", "not-over-matte", "matte-coat A flat", "powder P flat", "matte-coat A flat") == [
        "matte-coat",
        "powder",
    ]
    assert kinds("amount", "subtle", *flat) == ["base", "marking", "matte-coat"]


@pytest.mark.parametrize("question", sorted(changed_by()))
def test_adapted_plans_have_ids_of_their_own_and_can_be_checked(question):
    plan = sequence(
        "primer A flat",
        "base A flat",
        "tone A flat",
        "gloss-coat A gloss",
        "marking - gloss",
        "chips A flat",
        "pin-wash O satin",
        "matte-coat A flat",
        "powder P flat",
    )
    for choice in SCHOOLS[question].choices:
        steps = adapted(plan.steps, {question: choice}, question)
        assert len({step.id for step in steps}) == len(steps)
        check_plan(steps, {question: choice})


def test_every_school_has_a_reason():
    for question in SCHOOLS.values():
        assert all(choice.words and choice.reason.endswith(".") for choice in question.choices.values())


def test_a_pattern_costs_what_is_covered():
    """Everything but the tone sprayed last is masked once: by hand 200 + 50 cm² base first, 50 + 30 in reverse."""
    tones = [Tone("base", 200), Tone("green", 50), Tone("brown", 30)]
    found = compare_orders(tones)
    assert (found.base_first.masked_cm2, found.reverse.masked_cm2) == (250, 80)
    assert (found.base_first.masks, found.reverse.masks) == (2, 2)
    assert found.reverse_is_less
    assert found.reverse.minutes < found.base_first.minutes
    assert found.base_first.minutes == (5 + 6 + 200 / 25) + (5 + 6 + 50 / 25) + (5 + 5 + 250 / 100)
    assert found.base_first.overspray == found.reverse.overspray == 0
    assert not check_plan([step.model_copy(update={"material": None}) for step in pattern_steps(tones, True)])


def test_a_spray_beside_open_paint_counts():
    open_beside = sequence("base A flat [a] @airbrush", "base A flat [b] @airbrush")
    masked = sequence(
        "base A flat [a] @airbrush", "mask - - [a]", "base A flat [b] @airbrush", "unmask - - [a]"
    )
    assert masking_cost(open_beside.steps, {}).overspray == 1
    cost = masking_cost(masked.steps, {"a": 40})
    assert (cost.overspray, cost.masks, cost.masked_cm2) == (0, 1, 40)
