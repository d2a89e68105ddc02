"""What Tone answers on documents: promises kept when laid, wishes, ageing carried, panels, light and shade, lettering."""

import numpy as np
import pytest

from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.toning import fading, light
from lean_sepia.answers.toning.ageing import aged_like_others, diagnosis_of, diagnosis_words, may_age
from lean_sepia.answers.toning.fading import Spray
from lean_sepia.answers.toning.joint import joint, lay_option
from lean_sepia.answers.toning.panels import fade_letters, faded_letters, lay_panels, panel_plan
from lean_sepia.answers.toning.wishes import Wish, aim_of, wishes_for
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.coats import lay, lay_found, lay_marking, pin_base
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.panels import set_panels, toggle_replaced
from lean_sepia.document.edits.zones import add_zone, state_target
from lean_sepia.document.entities.panels import PanelGrid
from lean_sepia.document.model import Project
from lean_sepia.errors import EditError
from lean_sepia.paint.ageing import Ageing


@pytest.fixture
def acrylics(shelf_paints):
    return [paint for paint in shelf_paints if paint.medium == "acrylic-water" and not paint.can]


@pytest.fixture
def tender(acrylics):
    """Two painted zones without any photo."""
    project, hull = add_zone(Project(title="Any"), "Hull")
    project, boot = add_zone(project, "Boot topping")
    for zone, name in ((hull, "slate-teal"), (boot, "boot-red")):
        project = pin_base(project, zone, Mix.of(acrylics, [(name, 1)]), Manner(4))
    return project, hull, boot


def asked(project, zone, wish, paints, spray=Spray()):  # noqa: B008
    cut = strata_of(project, zone)
    aim = aim_of(wish, cut.fresh, cut.targets, aged_like_others(project, zone, cut.targets))
    return fading.ask(project, zone, aim, paints, spray), aim


@pytest.mark.parametrize(
    "spray", [Spray(3, 0.85, "mist"), Spray(None, 0.8), Spray(2, 0.9, "close", None, 1 / 3, 2)]
)
@pytest.mark.parametrize("medium", [None, "clear"])
def test_every_fade_is_as_the_strata_show_it(tender, acrylics, spray, medium):
    project, _hull, boot = tender
    if medium:
        clear = next(paint for paint in acrylics if paint.clear)
        spray = Spray(spray.mists, spray.thinner_share, spray.tool, clear.id, 0.5, spray.lighteners)
    question, _aim = asked(project, boot, Wish("lighter", 4.0), acrylics, spray)
    for fade in fading.answer(question).fades:
        laid = fading.lay_answer(project, question, fade)
        assert float(delta_e00(strata_of(laid, boot).exposed, fade.option.lab)) < 0.05


def test_a_wish_for_a_gradient_is_lighter_above_and_darker_below(tender, acrylics):
    project, hull, _boot = tender
    before = strata_of(project, hull).fresh
    question, aim = asked(project, hull, Wish("gradient", 7.0, -4.0), acrylics)
    best = fading.answer(question).fades[0]
    laid = fading.lay_answer(project, question, best, aim.foot)
    cut = strata_of(laid, hull)
    fade = next(band for band in cut.bands if band.coat.kind == "fade")
    assert fade.coat.profile == "above"
    top = max(end[0] for end in fade.ends)
    assert top == pytest.approx(best.option.lab[0], abs=2.5)
    assert any(band.coat.profile == "below" and band.coat.kind == "tone" for band in cut.bands)
    feet = strata_of(fading.lay_answer(laid, question, best, aim.foot), hull)
    assert len(feet.bands) == len(cut.bands)  # laid again, it is the same coats
    low = min(end[0] for end in cut.ends)
    assert low < before[0] - 1


def test_a_gradient_that_only_fades_less_below_keeps_its_foot(tender, acrylics):
    project, hull, _boot = tender
    before = strata_of(project, hull).fresh
    question, aim = asked(project, hull, Wish("gradient", 7.0, 2.0), acrylics)
    best = fading.answer(question).fades[0]
    cut = strata_of(fading.lay_answer(project, question, best, aim.foot), hull)
    low, top = sorted(end[0] for end in cut.ends)
    assert low - before[0] == pytest.approx(2.0, abs=0.4)
    assert top - before[0] == pytest.approx(7.0, abs=1.0)


def test_what_can_be_wished_for_follows_from_what_is_known(tender):
    project, hull, boot = tender
    targets = strata_of(project, hull).targets
    assert wishes_for(targets, may_age(project, hull, targets)) == ["lighter", "chalkier", "gradient"]
    truth = Ageing(chalk=0.08)
    project = state_target(project, boot, (38.0, 34.0, 24.0))
    project = state_target(project, boot, truth.lab((38.0, 34.0, 24.0)), "exposed")
    project = state_target(project, hull, (50.0, -18.0, -4.0))
    targets = strata_of(project, hull).targets
    aged = aged_like_others(project, hull, targets)
    assert wishes_for(targets, may_age(project, hull, targets)) == ["aged", "lighter", "chalkier", "gradient"]
    assert "carried from Boot topping" in aged.target.source
    assert float(delta_e00(aged.target.lab, truth.lab((50.0, -18.0, -4.0)))) < 1.5
    assert diagnosis_of(project, boot).best.ageing.causes == ("chalk",)
    assert any("chalking" in said for said in diagnosis_words(diagnosis_of(project, boot)))
    assert diagnosis_of(project, hull) is None


def test_odd_pairs_are_said(tender):
    project, hull, _boot = tender
    project = state_target(project, hull, (50.0, -18.0, -4.0))
    for exposed, words in (
        ((50.1, -18.0, -4.0), "nothing has faded"),
        ((40.0, -15.0, -3.0), "darker than the sheltered"),
    ):
        one = state_target(project, hull, exposed, "exposed")
        assert words in " ".join(diagnosis_words(diagnosis_of(one, hull)))


def test_the_samples_decide_how_a_red_fades(tender, acrylics):
    project, _hull, boot = tender
    fresh = strata_of(project, boot).fresh
    pink, red = (fresh[0] + 8, fresh[1] - 2, fresh[2] * 0.45), (fresh[0] + 8, fresh[1] * 0.85, fresh[2] * 0.9)
    for goal, way in ((pink, "white"), (red, "greenish")):
        one = state_target(project, boot, goal, "exposed")
        question, _aim = asked(one, boot, Wish("sample"), acrylics)
        assert fading.red_school(question, fresh, True, "by-sample") == (way, True)
    question, _aim = asked(project, boot, Wish(), acrylics)
    assert fading.red_school(question, fresh, False, "white") == ("white", False)
    assert fading.red_school(question, (50.0, -20.0, 0.0), True, "white") == ("", False)


def test_lettering_under_a_fade_is_predicted(tender, acrylics):
    project, hull, _boot = tender
    project = lay_marking(project, hull, Mix.of(acrylics, [("chalk", 1)]), Manner(2, 0.2, "brush", 0.03))
    question, _aim = asked(project, hull, Wish("lighter", 4.0), acrylics)
    answer = fading.answer(question)
    ((before, after),) = answer.letters[0]
    marked = next(band for band in strata_of(project, hull).bands if band.coat.kind == "marking")
    assert before == pytest.approx(marked.lab, abs=0.05)
    assert after[0] < before[0]


def test_one_lightener_for_two_zones_is_laid_on_both(tender, acrylics):
    project, hull, boot = tender
    questions = [asked(project, zone, Wish("lighter", 5.0), acrylics)[0] for zone in (hull, boot)]
    best = joint(questions)[0]
    for question, option in zip(questions, best.options, strict=True):
        project = lay_option(project, question, option)
    for zone, option in zip((hull, boot), best.options, strict=True):
        assert float(delta_e00(strata_of(project, zone).exposed, option.lab)) < 0.05
    with pytest.raises(EditError, match="two zones"):
        joint(questions[:1])


def test_panels_are_laid_as_promised_and_shares_add_up(tender, acrylics):
    project, hull, _boot = tender
    panels = PanelGrid(rows=3, columns=9, replaced=(4, 13), seed=5)
    project = set_panels(project, hull, panels)
    question, _aim = asked(project, hull, Wish("lighter", 8.0), acrylics, Spray(2, 0.8))
    fade = fading.answer(question).fades[0]
    plan = panel_plan(question, fade, panels)
    laid = lay_panels(project, question, fade, plan)
    bands = [band for band in strata_of(laid, hull).bands if band.coat.kind == "fade"]
    used = [level for level in plan.levels if level.area_share > 0]
    assert len(bands) == len(used)
    for band, level in zip(bands, used, strict=True):
        assert float(delta_e00(band.lab, level.lab)) < 0.05
        assert band.coat.area_share == pytest.approx(level.area_share)
    assert sum(level.area_share for level in plan.levels) + plan.unfaded == pytest.approx(1)
    assert plan.unfaded == pytest.approx(2 / 27, abs=0.01)
    lightest = max(level.lab[0] for level in plan.levels)
    assert lightest <= fade.option.lab[0] + 0.05  # none past the goal
    again = lay_panels(laid, question, fade, plan)
    assert len(again.coats_of(hull)) == len(laid.coats_of(hull))


def test_the_mean_of_panels_is_the_mean_of_their_colours(tender, acrylics):
    from lean_sepia.colour.lab import lab_from_xyz, xyz_from_lab

    project, hull, _boot = tender
    panels = PanelGrid(rows=2, columns=6, replaced=(0,))
    project = set_panels(project, hull, panels)
    question, _aim = asked(project, hull, Wish("lighter", 8.0), acrylics, Spray(2, 0.8))
    fade = fading.answer(question).fades[0]
    plan = panel_plan(question, fade, panels)
    laid = lay_panels(project, question, fade, plan)
    mean = plan.unfaded * xyz_from_lab(plan.before)
    mean = mean + sum(level.area_share * xyz_from_lab(level.lab) for level in plan.levels)
    assert float(delta_e00(strata_of(laid, hull).exposed, lab_from_xyz(mean))) < 0.1


def test_the_mirrored_side_is_built_alike_with_its_own_replaced_panels(tender):
    project, hull, boot = tender
    project = project.model_copy(
        update={
            "zones": tuple(
                z.model_copy(update={"mirrors": hull}) if z.id == boot else z for z in project.zones
            )
        }
    )
    project = set_panels(project, hull, PanelGrid(rows=2, columns=5, replaced=(3,)))
    assert project.zone(boot).panels.replaced == ()
    project = set_panels(project, boot, toggle_replaced(project.zone(boot).panels, 1))
    assert project.zone(boot).panels.replaced == (1,)
    assert project.zone(hull).panels.replaced == (3,)


@pytest.mark.parametrize("shade", ["tinged", "pure", "none"])
def test_tones_are_laid_as_promised(tender, acrylics, shade):
    project, hull, _boot = tender
    question = light.ask(project, hull, "bone-white", acrylics, shade=shade)
    found = light.answer(question)
    laid = light.lay_tones(project, found)
    bands = {band.coat.name: band for band in strata_of(laid, hull).bands if band.coat.kind == "tone"}
    tones = [tone for tone in found.ladder.tones if tone.added]
    assert len(bands) == len(tones)
    for tone in tones:
        name = "Shade" if tone.step < 0 else f"Light {tone.step}"
        assert float(delta_e00(bands[name].lab, tone.lab)) < 0.05
    assert (shade == "none") == ("Shade" not in bands)


def test_a_pre_shade_goes_below_and_is_said_to_show_or_not(tender, acrylics):
    project, hull, _boot = tender
    question = light.ask(project, hull, "bone-white", acrylics, shade="below")
    found = light.answer(question)
    laid = light.lay_tones(project, found)
    kinds = [coat.kind for coat in laid.coats_of(hull)]
    assert kinds.index("preshade") < kinds.index("base")
    assert ("hides the pre-shade" in found.odd) or ("shows by" in found.odd)


def test_lettering_fades_by_generation(tender, acrylics):
    project, hull, _boot = tender
    for name in ("Early lettering", "Late lettering"):
        mix = Mix.of(acrylics, [("chalk", 1)])
        project, _coat = lay(project, [hull], "marking", mix, Manner(2, 0.2, "brush", 0.02), name)
    early, late = faded_letters(project, hull, None)
    assert early.degree > late.degree
    fresh = strata_of(project, hull)
    before = {band.coat.name: band.lab for band in fresh.bands if band.coat.kind == "marking"}
    moved = [float(delta_e00(before[one.coat.name], one.lab)) for one in (early, late)]
    assert moved[0] >= moved[1]
    ageing = Ageing(dirt=0.5)
    for one in faded_letters(project, hull, ageing):
        project = fade_letters(project, hull, one)
    after = {
        band.coat.name: band.lab for band in strata_of(project, hull).bands if band.coat.kind == "marking"
    }
    assert after["Early lettering"][0] < before["Early lettering"][0]


def test_a_fade_over_a_found_finish_uses_a_clear_medium(acrylics):
    project, zone = add_zone(Project(title="Any"), "Roof")
    project = lay_found(project, zone, (60.0, -5.0, -3.0))
    aim = aim_of(Wish(), (60.0, -5.0, -3.0), strata_of(project, zone).targets, None)
    question = fading.ask(project, zone, aim, acrylics)
    assert not question.cup
    fade = fading.answer(question).fades[0]
    laid = fading.lay_answer(project, question, fade)
    assert float(delta_e00(strata_of(laid, zone).exposed, fade.option.lab)) < 0.05
    assert np.isfinite(fade.option.de00)
