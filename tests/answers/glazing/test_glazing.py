"""What Glaze answers on documents: filters by hand and by search, washes, dots; laid as promised."""

import numpy as np
import pytest

from lean_sepia.answers.glazing import filters, oil_dots
from lean_sepia.answers.glazing.filters import OwnFilter
from lean_sepia.answers.glazing.grounds import staining
from lean_sepia.answers.glazing.washes import lay_wash, washes_for
from lean_sepia.answers.strata import strata_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.coats import lay, lay_filter, lay_marking, lay_varnish, pin_base
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.planning import set_school
from lean_sepia.document.edits.zones import add_zone, state_target
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.paint.paint import Paint


@pytest.fixture
def painted(shelf_paints):
    project = Project(title="Any")
    zones = []
    for name, paint in (("Hull", "slate-teal"), ("Boot", "boot-red"), ("House", "cream")):
        project, zone = add_zone(project, name)
        project = pin_base(project, zone, Mix.of(shelf_paints, [(paint, 1)]), Manner(4))
        zones.append(zone)
    return project, zones


def test_without_targets_zones_are_drawn_together(painted, shelf_paints):
    project, zones = painted
    question = filters.ask(project, zones[1], shelf_paints)
    assert question.together
    assert question.zones[0].zone == zones[1]
    found = filters.answer(question)
    best = found.filters[0]
    assert best.contrast_kept < 1
    assert best.glaze.de00_mean < found.none_mean


@pytest.mark.parametrize("of", ["Oil raw umber", "3 Oil ochre + 1 Oil moss", "2 slate-teal + 1 chalk"])
def test_a_filter_of_ones_own_is_laid_as_it_was_shown(painted, shelf_paints, of):
    project, zones = painted
    question = filters.ask(project, zones[0], shelf_paints, None, False, OwnFilter(of, 20, 3))
    found = filters.answer(question)
    own = found.filters[0]
    assert found.best == 0
    assert (own.glaze.thinner_parts, own.glaze.passes) == (20, 3)
    assert own.moved.shape == (4, 3)
    laid = lay_filter(project, [z.zone for z in question.zones], *filters.mix_of(question, own.glaze))
    for zone, promised in zip(question.zones, own.glaze.labs, strict=True):
        band = next(b for b in strata_of(laid, zone.zone).bands if b.coat.kind == "filter")
        assert float(delta_e00(band.lab, promised)) < 0.05
    assert own.labs[3] == pytest.approx(np.array(own.glaze.labs))


def test_every_filter_found_is_laid_as_it_was_shown(painted, shelf_paints):
    project, zones = painted
    for zone, lab in zip(zones, ((48, -14, 0), (40, 26, 24), (78, 4, 26)), strict=True):
        project = state_target(project, zone, lab, "seen")
    question = filters.ask(project, zones[0], shelf_paints)
    found = filters.answer(question)
    assert any(one.glaze.second for one in found.filters)
    for one in found.filters:
        laid = lay_filter(project, zones, *filters.mix_of(question, one.glaze))
        for zone, promised in zip(question.zones, one.glaze.labs, strict=True):
            band = next(b for b in strata_of(laid, zone.zone).bands if b.coat.kind == "filter")
            assert float(delta_e00(band.lab, promised)) < 0.05


def test_where_nothing_helps_it_says_leave_it(painted, shelf_paints):
    project, zones = painted
    for zone in zones:
        project = state_target(project, zone, strata_of(project, zone).fresh, "seen")
    found = filters.answer(filters.ask(project, zones[0], shelf_paints))
    assert found.leave_it
    assert found.best == len(found.filters)


@pytest.mark.parametrize(
    ("of", "thinner", "words"),
    [("worn steel", 20, "metallic or loose"), ("#4f7a6c", 20, "no paint"), ("Oil raw umber", 5000, "0 to 1000"), ("no such thing", 20, "no paint")],
)  # fmt: skip
def test_what_cannot_be_a_filter_is_said(painted, shelf_paints, of, thinner, words):
    project, zones = painted
    names = {paint.name.casefold(): paint.name for paint in shelf_paints}
    metal = next(paint.name for paint in shelf_paints if paint.finish == "metallic")
    of = metal if of == "worn steel" else names.get(of.casefold(), of)
    with pytest.raises(SepiaError, match=words):
        filters.ask(project, zones[0], shelf_paints, None, False, OwnFilter(of, thinner, 2))


def test_forty_passes_are_followed_and_called_a_wash(painted, shelf_paints):
    project, zones = painted
    question = filters.ask(project, zones[0], shelf_paints, None, False, OwnFilter("Oil raw umber", 20, 40))
    own = filters.answer(question).filters[0]
    assert len(own.labs) == 41
    assert own.wash_from < 40


def test_only_the_chosen_zones_are_judged(painted, shelf_paints):
    project, zones = painted
    question = filters.ask(project, zones[0], shelf_paints, {zones[2]})
    assert [zone.zone for zone in question.zones] == [zones[2]]
    assert not question.together


@pytest.mark.parametrize("kind", ["wash", "pin-wash"])
def test_a_wash_is_laid_and_its_flow_follows_what_is_below(painted, shelf_paints, kind):
    project, zones = painted
    flat = washes_for(project, zones[0], shelf_paints)
    glossy = washes_for(lay_varnish(project, [zones[0]], "gloss-coat"), zones[0], shelf_paints)
    assert flat.zone.sheen == "flat"
    assert "gloss or satin coat below" in flat.remarks[0]
    assert not any("stains" in said for said in glossy.remarks)
    laid = lay_wash(project, flat, flat.washes[0], kind)
    band = next(band for band in strata_of(laid, zones[0]).bands if band.coat.kind == kind)
    assert band.coat.thinner_share == pytest.approx(10 / 11)
    if kind == "pin-wash":
        assert float(delta_e00(band.lab, flat.washes[0].seam)) < 0.05


def test_a_wash_over_chips_says_what_it_does_to_them(painted, shelf_paints):
    project, zones = painted
    project, _coat = lay(project, [zones[0]], "chips", Mix(lab=(60.0, 5.0, 15.0)), Manner(area_share=0.03))
    found = washes_for(project, zones[0], shelf_paints)
    chip, washed = found.chips
    assert chip == (60.0, 5.0, 15.0)
    assert washed[0] < chip[0]
    assert any("chips" in said for said in found.remarks)


def test_dots_are_laid_with_the_mean_that_was_promised(painted, shelf_paints):
    project, zones = painted
    project = state_target(project, zones[0], (50.0, -12.0, 2.0), "seen")
    found = oil_dots.answer(oil_dots.ask(project, zones[0], shelf_paints, oils=5))
    laid = oil_dots.lay_dots(project, found)
    assert float(delta_e00(strata_of(laid, zones[0]).seen, found.palette.mean)) < 0.05
    coats = [coat for coat in laid.coats_of(zones[0]) if coat.kind == "oil-dots"]
    assert len(coats) == 5
    kinds = [step.kind for step in laid.steps]
    assert kinds[kinds.index("oil-dots") + 5] == "blend"


def test_schools_lettering_and_staining_oils_are_heeded(painted, shelf_paints):
    project, zones = painted
    project = lay_marking(
        project, zones[0], Mix.of(shelf_paints, [("chalk", 1)]), Manner(1, 0.2, "brush", 0.02)
    )
    plain = " ".join(oil_dots.answer(oil_dots.ask(project, zones[0], shelf_paints)).remarks)
    assert "lettering" in plain
    assert "almost dry brush" in plain and "downwards" in plain  # noqa: PT018
    other = set_school(set_school(project, "dots", "streaks"), "oil-rest", "rest")
    said = " ".join(oil_dots.answer(oil_dots.ask(other, zones[0], shelf_paints, level=True)).remarks)
    for words in ("thin streaks", "20 minutes", "stippled"):
        assert words in said
    stains = [Paint(**{**vars_of(paint), "remark": "stains badly"}) if paint.id == "oil-moss" else paint for paint in shelf_paints]  # fmt: skip
    assert staining(next(paint for paint in stains if paint.id == "oil-moss"))
    chosen = [("oil-moss", 3), ("oil-ochre", 2), ("oil-titanium", 2)]
    warned = oil_dots.answer(oil_dots.ask(project, zones[0], stains, chosen=chosen)).remarks
    assert any("noted to stain" in words for words in warned)


def vars_of(paint):
    names = ("id", "name", "medium", "finish", "K", "S", "g", "knowledge", "line", "k1", "k2", "notes")
    return {name: getattr(paint, name) for name in names}


def test_nothing_to_glaze_is_no_question(shelf_paints):
    project, zone = add_zone(Project(title="Any"), "Hull")
    assert filters.ask(project, zone, shelf_paints) is None
    assert washes_for(project, zone, shelf_paints) is None
    assert oil_dots.ask(project, zone, shelf_paints) is None
