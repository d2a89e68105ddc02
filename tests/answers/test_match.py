"""The question Match asks, without a window."""

from dataclasses import replace

import numpy as np
import pytest

from lean_sepia.answers.match import OWN_SHEEN, answer, ask, base_laying, medium_below, planned_varnish
from lean_sepia.answers.match_told import why_not_exactly_in
from lean_sepia.answers.targets import targets_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.coats import change_coat, lay_primer, switch_coat
from lean_sepia.document.edits.items import put
from lean_sepia.document.edits.mixes import Mix
from lean_sepia.recipe.limits import NO_LIMITS


@pytest.fixture
def question(worked, shelf_paints):
    def asked(zone="hull", project=worked, **changed):
        given = {
            "passes": 3, "thinner_share": 0.6, "sheen": "as planned", "max_paints": 3, "max_parts": 10,
            "limits": NO_LIMITS, "mix_ml": 15.0,
        }  # fmt: skip
        target = targets_of(project, zone).fresh
        return ask(project, zone, target, shelf_paints, **(given | changed))

    return asked


def test_the_question_holds_what_the_document_says(worked, question):
    asked = question()
    assert asked.laying.varnish == "flat"
    assert asked.laying.ground is not None
    assert float(asked.laying.X) == pytest.approx(3 * 0.4)
    base = next(coat for coat in worked.coats_of("hull") if coat.kind == "base")
    parts = worked.recipe(base.recipe).parts
    assert list(asked.pinned) == [(worked.paint(version).shelf_id, n) for version, n in parts]
    assert asked.lost == ()
    assert asked.tool == "airbrush"
    assert asked.below == "acrylic-water"


def test_the_same_question_is_not_asked_twice(question):
    asked = question()
    assert question().same_as(asked)
    assert not asked.same_as(None)
    for other in (question(mix_ml=30.0), question("funnel"), question(sheen="gloss"), question(max_parts=12)):
        assert not other.same_as(asked)
    thinner = question(passes=6, thinner_share=0.8)
    assert float(thinner.laying.X) == pytest.approx(float(asked.laying.X))  # the same film, in other coats
    assert not thinner.same_as(asked)
    assert not replace(asked, thinner="alcohol").same_as(asked)
    assert question(mix_ml=30.0).same_mixtures_as(asked)
    assert not question(sheen="gloss").same_mixtures_as(asked)


def test_an_answer_uses_the_mixtures_of_the_one_before(question):
    first = answer(question())
    second = answer(question(mix_ml=75.0), first)
    assert second.solver._tables is first.solver._tables
    for found, total in ((first, 15.0), (second, 75.0)):
        # 60 % thinner leaves four tenths of paint; what the fade takes from this cup is mixed with it.
        assert found.question.cup_ml == pytest.approx(0.4 * total + found.question.set_aside_ml)
        assert found.solver.cup_drops == round(20 * found.question.cup_ml)
    assert first.question.set_aside_ml > 0
    assert second.choices[0].recipe.one_drop_de00 < first.choices[0].recipe.one_drop_de00
    assert answer(question(sheen="gloss"), first).solver._tables is not first.solver._tables


def test_drops_by_hand_change_one_choice_only(question):
    found = answer(question())
    name = found.choices[0].recipe.parts[0][0]
    more = found.with_drop(0, name, 1, "yours")
    assert dict(more.choices[0].recipe.parts)[name] == dict(found.choices[0].recipe.parts)[name] + 1
    assert more.choices[1:] == found.choices[1:]
    assert more.choices[0].title == "yours"
    back = more.with_drop(0, name, -1, "yours")
    assert back.choices[0].recipe.lab == pytest.approx(found.choices[0].recipe.lab)
    assert np.allclose(back.behaviours[0].films, found.behaviours[0].films)
    alone = found.with_parts(0, [(name, 1)], "yours")
    assert alone.with_drop(0, name, -1, "yours") is None


def test_sheens_are_the_plans_the_paints_own_or_what_is_asked(worked):
    assert base_laying(worked, "hull").varnish == "flat"
    assert base_laying(worked, "hull", sheen=OWN_SHEEN).varnish is None
    assert base_laying(worked, "hull", sheen="gloss").varnish == "gloss"
    coat = planned_varnish(worked, "hull")
    off = switch_coat(worked, coat.id, False)
    assert planned_varnish(off, "hull") != coat


def test_what_lies_below_is_the_coat_under_the_base(worked, shelf_paints):
    primer = next(coat for coat in worked.coats_of("hull") if coat.kind == "primer")
    other = lay_primer(worked, "hull", Mix.of(shelf_paints, [("oil-raw-umber", 1)]))
    assert (medium_below(worked, "hull"), medium_below(other, "hull")) == ("acrylic-water", "oil")
    assert medium_below(switch_coat(worked, primer.id, False), "hull") is None
    assert medium_below(worked, "gear") == "acrylic-water"  # no base yet: what lies where it would come


def test_cautions_follow_how_the_base_is_laid(worked, question):
    coat = next(coat for coat in worked.coats_of("hull") if coat.kind == "base")
    brushed = change_coat(worked, coat.id, tool="brush")
    step = worked.step(coat.step).model_copy(update={"carrier": "water"})
    brushed = put(brushed, "steps", step)
    asked = question(project=brushed)
    assert float(asked.laying.X) == pytest.approx(
        1.5 * question().laying.X
    )  # a brush lays half as much again (practice)
    thick, thin = (answer(one).behaviours[0] for one in (asked, question()))
    assert thick.hides_coats == pytest.approx(thin.hides_coats / 1.5, rel=0.02)
    quick = tuple(replace(paint, medium="acrylic-alcohol") for paint in asked.paints)
    found = answer(replace(asked, paints=quick))
    said = " ".join(found.question.cautions(found.choices[0]))
    assert "too fast for a brush" in said
    assert "Water makes alcohol-carried paint grainy" in said
    assert question().cautions(answer(question()).choices[0]) == []


def test_a_bottle_off_the_shelf_is_lost_and_stood_in_for(worked, shelf_paints, question):
    asked = question()
    left = [paint for paint in shelf_paints if paint.id != "deep-sea"]
    without = ask(
        worked, "hull", asked.target, left, passes=3, thinner_share=0.6, sheen="as planned", max_paints=3, max_parts=10,
        limits=NO_LIMITS, mix_ml=15.0,
    )  # fmt: skip
    assert [paint.id for paint in without.lost] == ["deep-sea"]
    found = answer(without)
    assert not any(choice.pinned for choice in found.choices)
    stand_ins = found.stand_ins(without.pinned, ["deep-sea"])
    pinned = answer(asked).choices[0].recipe
    assert all("deep-sea" not in dict(one.recipe.parts) for one in stand_ins)
    assert float(delta_e00(stand_ins[0].instead_of, pinned.lab)) < 0.05
    # Two of its bottles gone at once.
    gone = frozenset(name for name, _ in asked.pinned[:2])
    both = replace(without, paints=tuple(paint for paint in without.paints if paint.id not in gone),
                   lost=tuple(paint for paint in shelf_paints if paint.id in gone))  # fmt: skip
    for one in answer(both).stand_ins(without.pinned, sorted(gone)):
        assert not gone & set(dict(one.recipe.parts))


def test_why_is_asked_only_where_the_miss_matters(question):
    near = answer(question())
    assert why_not_exactly_in(near) == ""
    far = replace(
        question(), target=replace(question().target, lab=(55.0, 70.0, -40.0), de00_90=None, half90=None)
    )
    assert "No mixture of this shelf" in why_not_exactly_in(answer(far))
