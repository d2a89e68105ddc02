"""Every rule has a case in which it speaks and one, nearly the same, in which it does not."""

import pytest
from tests.plan.sequences import sequence

from lean_sepia.plan.rules.table import BY_CODE, RULES, check_plan

D, N = "+0d+00:00", "+1d+00:00"
CASES = {
    "solvent-attacks-base": (("base E flat", "wash O flat"), ("base E flat", "gloss-coat A gloss", "wash O flat")),
    "not-cured": ((f"base A flat {D}", "gloss-coat A gloss +00:50"), (f"base A flat {D}", "gloss-coat A gloss +01:30")),
    "mask-before-cure": ((f"base A flat {D}", "mask - - +11:00"), (f"base A flat {D}", "mask - - +13:00")),
    "too-late": ((f"wash O flat {D}", "wipe-back - - ~white-spirit +13:00"), (f"wash O flat {D}", "wipe-back - - ~white-spirit +11:00")),
    "sealed-in": (("wash O flat", "matte-coat A flat", "wipe-back - - ~white-spirit"), ("wash O flat", "wipe-back - - ~white-spirit", "matte-coat A flat")),
    "overspray": (("base A flat [hull]", "matte-coat A flat [hull]", "base A flat [deck] @airbrush"), ("base A flat [hull]", "matte-coat A flat [hull]", "mask - - [hull]", "base A flat [deck] @airbrush", "unmask - - [hull]")),
    "painted-under-mask": (("base A flat [hull]", "mask - - [hull]", "matte-coat A flat [hull]", "unmask - - [hull]"), ("base A flat [hull]", "mask - - [hull]", "camouflage A flat [hull]", "unmask - - [hull]")),
    "mask-left-on": (("base A flat", "mask - - [hull]", "camouflage A flat [deck]", "unmask - - [deck]"), ("base A flat", "mask - - [hull]", "camouflage A flat [deck]", "unmask - - [hull]")),
    "buried": (("base A gloss", "marking - gloss", "base A flat"), ("base A gloss", "marking - gloss", "mask - -", "base A flat", "unmask - -")),
    "unsealed-under-wet": (("matte-coat A flat", "powder P flat", "wash O flat"), ("matte-coat A flat", "powder P flat", "matte-coat A flat", "wash O flat")),
    "powder-fades-under-varnish": (("matte-coat A flat", "powder P flat", "matte-coat A flat"), ("matte-coat A flat", "soot A flat @airbrush", "matte-coat A flat")),
    "alcohol-through-varnish": (("powder P flat", "matte-coat A flat", "wash AA flat @brush"), ("powder P flat", "matte-coat A flat", "wash A flat @brush")),
    "powder-hides-graphite": (("graphite P flat", "powder P flat"), ("powder P flat", "graphite P flat")),
    "powder-on-gloss": (("gloss-coat A gloss", "powder P flat"), ("gloss-coat A gloss", "matte-coat A flat", "powder P flat")),
    "varnish-kills-metallic": (("base L metallic", "matte-coat A flat"), ("base L metallic [gun]", "matte-coat A flat [hull]")),
    "tape-on-powder": (("matte-coat A flat", "powder P flat", "mask - -"), ("matte-coat A flat", "powder P flat", "matte-coat A flat", "mask - -")),
    "tape-on-marking": (("marking - gloss", "mask - -"), ("marking - gloss", "gloss-coat A gloss", "mask - -")),
    "glass-not-masked": (("fit-glass - -", "matte-coat A flat @airbrush"), ("fit-glass - -", "matte-coat A flat @brush")),
    "dots-unblended": (("oil-dots O satin", "matte-coat A flat"), ("oil-dots O satin", "blend - -", "matte-coat A flat")),
    "wash-on-matte": (("base A flat", "pin-wash O flat"), ("base A satin", "pin-wash O flat")),
    "decal-on-matte": (("base A flat", "marking - gloss"), ("base A satin", "marking - gloss")),
    "chips-after-wash": (("wash O flat", "chips A flat"), ("chips A flat", "wash O flat")),
    "marking-hides-chips": (("chips A flat", "marking - gloss"), ("chips A flat", "base A gloss", "marking - gloss")),
    "over-final-varnish": (("matte-coat A flat", "camouflage A flat"), ("matte-coat A flat", "camouflage A flat @mist")),
    "blind-shading": (
        ("camouflage A flat [a]", "mask - - [a]", "tone A flat [a,b] @close", "unmask - - [a]"),
        ("test-piece - -", "camouflage A flat [a]", "mask - - [a]", "tone A flat [a,b] @close", "unmask - - [a]"),
    ),
    "mask-for-nothing": (("mask - -", "unmask - -"), ("mask - -", "base A flat", "unmask - -")),
    "many-films": (("base A flat",) * 10, ("base A flat",) * 9),
    "spray-solvent-indoors": (("base L flat @airbrush %indoors",), ("base L flat @airbrush %outdoors",)),
    "spray-mist-indoors": (("base A flat @airbrush %indoors",), ("base A flat @brush %indoors",)),
}  # fmt: skip


def codes(*lines, schools=None):
    plan = sequence(*lines, schools=schools)
    return {finding.code for finding in check_plan(plan.steps, plan.schools)}


def test_every_rule_has_its_cases():
    assert set(CASES) == set(BY_CODE)


@pytest.mark.parametrize("code", CASES)
def test_a_rule_speaks(code):
    assert code in codes(*CASES[code][0])


@pytest.mark.parametrize("code", CASES)
def test_a_near_miss_is_silent(code):
    assert code not in codes(*CASES[code][1])


@pytest.mark.parametrize("code", CASES)
def test_severities_are_those_the_table_says(code):
    plan = sequence(*CASES[code][0])
    found = {f.severity for f in check_plan(plan.steps) if f.code == code}
    assert found <= set(BY_CODE[code].severities)


@pytest.mark.parametrize(
    ("code", "question", "choice"),
    [(rule.code, q, c) for rule in RULES for q, choices in rule.silent for c in choices],
)
def test_a_school_silences_its_rule_and_another_does_not(code, question, choice):
    assert code not in codes(*CASES[code][0], schools={question: choice})


def severity(code, *lines):
    plan = sequence(*lines)
    return [f.severity for f in check_plan(plan.steps) if f.code == code]


def test_nobody_is_told_to_seal_an_acrylic_with_acrylic():
    for lines in (
        ("base A flat", "camouflage L flat @airbrush"),
        ("base A flat", "wash AA flat @brush"),
        ("base AA flat", "base AA flat @brush"),
    ):
        plan = sequence(*lines)
        (finding,) = [f for f in check_plan(plan.steps) if f.code == "solvent-attacks-base"]
        assert "acrylic coat" not in finding.message
        assert "mists" in finding.message


def test_tool_age_share_and_medium_count():
    attack = "solvent-attacks-base"
    assert severity(attack, "base A flat", "camouflage L flat @airbrush") == ["warn"]
    assert severity(attack, "base A flat", "camouflage L flat @mist") == ["note"]
    assert severity(attack, "base E flat", "base E flat @airbrush") == []
    assert severity(attack, "base E flat", "base E flat @brush") == ["warn"]
    assert severity(attack, "base E flat", "chips A flat", "wash O flat") == ["stop"]  # spots seal nothing
    assert severity(attack, "base E flat", "base A flat @mist", "wash O flat") == ["stop"]  # nor does a mist
    assert severity(attack, f"wash O flat {D}", "streaks O satin +07:00") == ["warn"]
    assert severity(attack, f"wash O flat {D}", f"streaks O satin {N}") == ["note"]
    assert severity(attack, "found - satin", "test-piece - -", "wash O flat") == ["note"]
    assert severity("varnish-kills-metallic", "base L metallic", "gloss-coat A gloss") == ["note"]


def test_glass_that_is_unmasked_too_early_is_found():
    lines = (
        "fit-glass - -",
        "mask - -",
        "base A flat @airbrush",
        "unmask - -",
        "matte-coat A flat @airbrush",
    )
    assert severity("glass-not-masked", *lines) == ["warn"]
    assert severity("glass-not-masked", *lines[:4]) == []


def test_the_page_of_rules_is_made_from_the_table():
    from scripts.rules_page import PAGE, page

    assert PAGE.read_text(encoding="utf-8") == page()
