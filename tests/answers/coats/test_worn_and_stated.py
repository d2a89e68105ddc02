"""Wear chosen without a photo, colours stated by words, cups as things, what the person owns."""

from dataclasses import replace

import pytest

from lean_sepia.answers import match
from lean_sepia.answers.advice import advice, room_states
from lean_sepia.answers.coats.cups import cups_in, used_by
from lean_sepia.answers.coats.draft import usual_draft
from lean_sepia.answers.coats.laying import answer, laid
from lean_sepia.answers.coats.mixing import LayQuestion, read_free_mix
from lean_sepia.answers.coats.stating import ColourList, read_stated, suggestions
from lean_sepia.answers.coats.worn import nearest_bottle, worn_draft
from lean_sepia.answers.match_told import what_more_would_gain
from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.targets import Targets
from lean_sepia.answers.toning import fading
from lean_sepia.answers.toning.fading import Spray
from lean_sepia.answers.toning.wishes import Aim, faded_target
from lean_sepia.answers.wearing.kinds import WEAR_KINDS
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.coats import lay, pin_base
from lean_sepia.document.edits.cups import keep_mix
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.planning import set_owned, set_step_done
from lean_sepia.document.edits.zones import NewZone, add_zones, state_target
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.plan.owned import Owned
from lean_sepia.recipe.fades.fade import Goal
from lean_sepia.recipe.limits import NO_LIMITS

NO_TARGETS = Targets(None, None, None)


@pytest.fixture
def roof(shelf_paints):
    project, (zone,) = add_zones(Project(title="Bus"), [NewZone("Roof", 40.0)])
    project, _found = lay(project, [zone], "found", Mix(lab=(60.0, -5.0, -8.0), medium="unknown"))
    return project, zone


@pytest.mark.parametrize("name", WEAR_KINDS)
@pytest.mark.parametrize("amount", [0, 1, 2])
def test_every_kind_of_wear_can_be_laid_without_a_photo(roof, shelf_paints, name, amount):
    project, zone = roof
    draft = worn_draft(NO_TARGETS, name, amount, shelf_paints)
    assert draft.area_share == WEAR_KINDS[name].shares[amount]
    done = laid(LayQuestion(project, (zone,), draft, tuple(shelf_paints))).project
    assert done.coats_of(zone)[-1].name == WEAR_KINDS[name].coat
    cuts = {zone: strata_of(done, zone)}
    assert room_states(done, cuts)["wear"].state == "done"


def test_the_bottle_is_the_nearest_of_the_usual_medium_unless_another_is_much_nearer(shelf_paints):
    rust = nearest_bottle((36.0, 20.0, 22.0), shelf_paints, "acrylic-water")
    assert rust.medium == "acrylic-water"
    away = [
        float(delta_e00(p.masstone_lab(), (36.0, 20.0, 22.0)))
        for p in shelf_paints
        if p.medium == "acrylic-water"
    ]
    assert float(delta_e00(rust.masstone_lab(), (36.0, 20.0, 22.0))) == pytest.approx(min(away))
    assert nearest_bottle((50.0, 0.0, 0.0), []) is None


def test_marks_with_a_light_rim_are_two_coats_of_their_shares(roof, shelf_paints):
    project, zone = roof
    draft = replace(worn_draft(NO_TARGETS, "rust", 1, shelf_paints), rim="bone white", rim_share=0.01)
    done = laid(LayQuestion(project, (zone,), draft, tuple(shelf_paints))).project
    rim, core = done.coats_of(zone)[-2:]
    assert (rim.name, rim.area_share, core.area_share) == ("Rust chips, rim", 0.01, 0.02)
    with pytest.raises(SepiaError, match="rim"):
        laid(LayQuestion(project, (zone,), replace(draft, rim_share=0.99), tuple(shelf_paints)))


@pytest.mark.parametrize(
    ("text", "origin"),
    [
        ("#4f7a6c", "typed as a screen colour"), ("rgb 79 122 108", "typed as a screen colour"), ("48, -18.5, 4.4", "typed as L*a*b*"),
        ("deep sea", "the colour of Deep sea"), ("3 sand + 1 ochre", "mixed: 3 sand + 1 ochre"), ("mole", "Mole grey, of the list old.gpl"),
    ],
)  # fmt: skip
def test_a_colour_is_stated_by_what_has_it(shelf_paints, text, origin):
    lists = (ColourList("old.gpl", (("Mole grey", (47.0, 1.0, 6.0)),)),)
    lab, said = read_stated(text, Project(), shelf_paints, lists)
    assert said == origin
    assert 0 <= lab[0] <= 100
    assert "Mole grey" in suggestions(Project(), shelf_paints, lists)


def test_a_colour_that_nothing_has_is_refused_with_its_words(shelf_paints):
    with pytest.raises(SepiaError, match="“my old car” is no colour"):
        read_stated("my old car", Project(), shelf_paints)
    with pytest.raises(SepiaError, match="State a colour"):
        read_stated("  ", Project(), shelf_paints)


def test_a_cup_tells_who_uses_it_how_much_that_takes_and_what_is_left(roof, shelf_paints):
    project, zone = roof
    project = pin_base(project, zone, Mix.of(shelf_paints, [("sand", 3), ("ochre", 1)]), Manner(2, 0.6))
    project, _kept = keep_mix(project, "Road dust", read_free_mix("1 sand + 1 sepia", project, shelf_paints))
    base, dust = cups_in(project)
    assert used_by(project, base) == "Base colour on Roof"
    assert used_by(project, dust) == "nothing yet"
    assert base.reserve_ml == pytest.approx(base.paint_ml / 5)
    assert (base.left_ml, dust.left_ml, dust.paint_ml) == (None, None, 7.0)
    step = project.coats_of(zone)[-1].step
    after = cups_in(set_step_done(project, step, True))[0]
    assert after.left_ml == pytest.approx(after.reserve_ml, rel=1e-6)


def test_tone_fades_a_found_finish_as_the_strata_show_it(roof, shelf_paints):
    project, zone = roof
    project = state_target(project, zone, (68.0, -3.0, -5.0), "exposed")
    target = faded_target(strata_of(project, zone).targets)
    for paints in (shelf_paints, [paint for paint in shelf_paints if not paint.clear]):
        question = fading.ask(project, zone, Aim(target, Goal(target.lab)), paints, Spray(2, 0.8))
        assert not question.cup
        fade = fading.answer(question).fades[0]
        best = fade.option
        mix, manner = question.laid(fade)
        done, _coat = lay(project, [zone], "fade", mix, manner)
        seen = strata_of(done, zone).exposed
        assert float(delta_e00(seen, best.lab)) < (0.05 if paints is shelf_paints else 0.6)


def test_proposals_keep_to_what_the_person_has_and_say_what_more_would_gain(roof, shelf_paints):
    project, zone = roof
    project = state_target(project, zone, (52.0, 12.0, 22.0))
    target = strata_of(project, zone).targets.fresh
    cans = [replace(paint, can=paint.id in ("sand", "ochre", "oxide")) for paint in shelf_paints]
    only = set_owned(project, Owned(cans_only=True))

    def asked(document, shelf):
        question = match.ask(
            document, zone, target, shelf, passes=2, thinner_share=0.0, sheen="own", max_paints=3, max_parts=8,
            limits=NO_LIMITS, mix_ml=5.0,
        )  # fmt: skip
        return match.answer(question)

    found = asked(only, cans)
    assert found.question.tool == "spray-can"
    for choice in found.choices:
        assert len(choice.recipe.parts) == 1
        assert choice.recipe.parts[0][0] in ("sand", "ochre", "oxide")
    assert "in place of" in what_more_would_gain(found)
    assert what_more_would_gain(asked(project, shelf_paints)) == ""
    lacquers = [replace(paint, medium="lacquer") for paint in shelf_paints if paint.id != "sand"]
    no_booth = set_owned(project, Owned(booth=False))
    kept, beyond = match.usable_paints(
        no_booth, zone, [*lacquers, *(p for p in shelf_paints if p.id == "sand")]
    )
    assert [paint.id for paint in kept] == ["sand"]
    assert len(beyond) > 10
    assert usual_draft("fade", owns=Owned(airbrush=False)).tool == "brush"


def test_a_note_on_a_bottle_comes_back_as_advice_until_the_step_is_done(roof, shelf_paints):
    project, zone = roof
    project = pin_base(project, zone, Mix.of(shelf_paints, [("sand", 1)]))
    cuts = {zone: strata_of(project, zone)}
    said = [
        one.text for one in advice(project, cuts, notes={"sand": "curdles with tap water", "ochre": "stains"})
    ]
    assert "Sand, used on Roof: curdles with tap water" in said
    assert not any("stains" in text for text in said)
    done = set_step_done(project, project.coats_of(zone)[-1].step, True)
    assert not any("curdles" in one.text for one in advice(done, cuts, notes={"sand": "curdles"}))


def test_without_an_airbrush_a_fade_says_how_much_finer_a_mist_would_be(roof, shelf_paints):
    project, zone = roof
    for owns, said in ((Owned(airbrush=False), True), (Owned(), False)):
        owned = set_owned(project, owns)
        draft = replace(usual_draft("fade", owns=owns), of="bone white")
        found = answer(LayQuestion(owned, (zone,), draft, tuple(shelf_paints)))
        assert any("a mist from an airbrush" in words for words in found.remarks) is said
