"""Rescue and care for every kind of step."""

import pytest
from tests.plan.sequences import sequence

from lean_sepia.paint.handling.carriers import CARRIERS
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.care.cautions import cautions
from lean_sepia.plan.care.clearing import clearing
from lean_sepia.plan.care.looking import angles, looks_again
from lean_sepia.plan.care.readying import pressure, to_put_out, tool_state
from lean_sepia.plan.care.rescue import is_final, undoing
from lean_sepia.plan.care.rescue import test_first as asks_for_a_test
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.step import PlanStep


def step(line):
    return sequence(line).steps[0]


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("medium", [None, *MEDIA])
def test_every_kind_says_how_it_is_undone_and_until_when(kind, medium):
    one = PlanStep(id="s", kind=kind, material={"medium": medium} if medium else None)
    ways = undoing(one)
    assert ways
    assert ways[-1].until_min is None  # something can always be said
    ends = [way.until_min for way in ways[:-1]]
    assert None not in ends
    assert ends == sorted(ends)
    assert all(way.how.endswith(".") for way in ways)
    for said in (
        *looks_again(one),
        *angles(one),
        *tool_state(one),
        *to_put_out(one),
        *cautions(one),
        *clearing(one),
    ):
        assert said


@pytest.mark.parametrize("kind", [name for name, kind in KINDS.items() if kind.to_do])
def test_every_kind_that_is_work_says_what_to_put_out_or_needs_nothing(kind):
    one = PlanStep(id="s", kind=kind, material={"medium": KINDS[kind].medium} if KINDS[kind].medium else None)
    assert to_put_out(one) or not one.nature.leaves_film


def test_a_clock_of_its_own_closes_the_first_way():
    wash = step("wash O flat").model_copy(update={"removable_until_min": 45.0})
    assert undoing(wash)[0].until_min == 45
    assert undoing(step("wash O flat"))[0].until_min == 12 * 60


def test_what_cannot_be_taken_back_asks_for_a_test_piece():
    assert is_final(step("base L flat @airbrush"))
    assert asks_for_a_test(step("base L flat @airbrush"))
    assert not is_final(step("wash O flat"))
    assert asks_for_a_test(step("powder P flat")) == ""


def test_mist_is_breathed_from_water_borne_paint_too():
    water, lacquer = cautions(step("base A flat @airbrush")), cautions(step("base L flat @airbrush"))
    assert "particle filter" in water[0]
    assert "holding your breath" in water[0]
    assert "vapour and particles" in lacquer[0]
    assert "wind behind" in cautions(step("base A flat @airbrush %outdoors"))[0]
    assert any("50 °C" in words for words in cautions(step("base A flat @spray-can")))
    assert any("lead" in words for words in cautions(step("scrape - -")))
    assert any("nitrile" in words for words in cautions(step("base L flat @brush")))


def test_pressures_come_with_their_purpose():
    assert "20 psi" in pressure(step("tone A flat @close"))
    assert "8 psi" in pressure(step("powder P flat"))
    assert pressure(step("wash O flat")) == ""


def test_tools_are_in_the_right_state():
    assert any("dry brush stays dry" in words for words in tool_state(step("chips A flat @drybrush")))
    assert any("Unload" in words for words in tool_state(step("filter O satin @glaze")))
    assert any("Flush" in words for words in tool_state(step("base A flat @airbrush")))
    assert tool_state(step("found - satin")) == ()


def test_the_list_to_put_out_holds_what_protects():
    things = to_put_out(step("base A flat @airbrush"), ("Deep sea",))
    assert things[0] == "Deep sea"
    assert any("respirator" in thing for thing in things)
    assert any("lidded metal can" in thing for thing in to_put_out(step("wash O flat")))


def test_tools_are_cleaned_and_what_is_left_has_a_place():
    assert "White spirit" in clearing(step("wash O flat"))[0]
    assert "Lacquer thinner" in clearing(step("base L flat @airbrush"))[0]
    assert "White spirit" in clearing(PlanStep(id="s", kind="blend"))[0]  # it works in oil
    assert "drain" in clearing(step("base A flat @brush"))[1]
    assert clearing(PlanStep(id="s", kind="mask")) == ()
    assert clearing(PlanStep(id="s", kind="found", material={"medium": "lacquer"})) == ()


_SPOKEN_ANYWAY = (
    "water-borne too",
    "no water",
    "soap and water",
    "warm water, never above",
    "warm tap water",
)
_ALL_SAID = [
    (kind, medium, tool, worked)
    for kind in KINDS for medium in (None, *MEDIA) for tool in (None, *TOOLS) for worked in (None, "acrylic-water", "oil", "pigment")
]  # fmt: skip


def _said(one):
    looks, ways = (look.words for look in looks_again(one)), (way.how for way in undoing(one))
    return [
        *cautions(one),
        *clearing(one),
        *looks,
        *angles(one),
        pressure(one),
        *to_put_out(one),
        *tool_state(one),
        *ways,
    ]


@pytest.mark.parametrize("kind", KINDS)
def test_no_sentence_speaks_of_what_is_not_there(kind):
    for name, medium, tool, worked in _ALL_SAID:
        if name != kind:
            continue
        material = {"medium": medium} if medium else None
        one = PlanStep(
            id="s", kind=kind, material=material, application=tool, under_hand=worked, on_found=False
        )
        for words in map(str.lower, _said(one)):
            told = one, words
            if "water" in words and not any(known in words for known in _SPOKEN_ANYWAY):
                usual = medium or one.nature.medium
                made_with = MEDIA[usual].carrier if usual else "none"
                assert one.nature.is_print or "water" in (one.at_hand, made_with), told
            if "decal" in words:
                assert one.nature.is_decal, told
            if "metal can" in words:
                slow = any(name and MEDIA[name].slow for name in (medium, worked))
                assert slow or CARRIERS[one.at_hand].solvent, told
            if "can in warm" in words or "warm a can" in words:
                assert tool == "spray-can", told
            if "airbrush" in words:
                assert one.sprayed, told
                assert tool != "spray-can", told
            assert "lead" not in words.split(), told


def test_an_old_finish_is_scraped_with_care_and_ones_own_is_not():
    scrape = PlanStep(id="s", kind="scrape")
    assert any("lead" in words for words in cautions(scrape.model_copy(update={"on_found": True})))
    assert any("lead" in words for words in cautions(scrape))  # nobody said what lies there
    assert not any("lead" in words for words in cautions(scrape.model_copy(update={"on_found": False})))


def test_what_is_rubbed_off_dry_knows_no_water():
    rub = PlanStep(id="s", kind="remove-resist")
    assert not any("electrics" in words for words in cautions(rub))
    assert any("electrics" in words for words in cautions(rub.model_copy(update={"carrier": "water"})))


def test_cloths_go_into_a_metal_can_only_where_oil_or_solvent_is_on_them():
    wipe = PlanStep(id="s", kind="wipe-back")
    assert "lint-free cloths" in to_put_out(wipe.model_copy(update={"under_hand": "acrylic-water"}))
    assert any("metal can" in thing for thing in to_put_out(wipe.model_copy(update={"under_hand": "oil"})))
