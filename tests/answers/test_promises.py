"""What a room promises is what the strata show once it is laid."""

import pytest
from benchmarks.promise import worst_promise

from lean_sepia.answers.glazing import filters
from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.toning import fading
from lean_sepia.answers.toning.fading import Spray
from lean_sepia.answers.toning.wishes import Aim, faded_target
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.coats import lay_fade, lay_filter, lay_varnish, pin_base
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.recipe.choice import base_paints
from lean_sepia.recipe.fades.fade import Goal


def test_random_projects_keep_every_promise():
    assert max(worst_promise(12).values()) < 0.05


@pytest.mark.parametrize("zone", ["hull", "boot"])
def test_a_fade_on_the_demo_is_what_was_promised(worked, shelf_paints, zone):
    """The film that is laid is solved, not the opaque mixture."""
    target = faded_target(strata_of(worked, zone).targets)
    question = fading.ask(
        worked, zone, Aim(target, Goal(target.lab)), base_paints(shelf_paints), Spray(1, 0.6)
    )
    best = fading.answer(question).fades[0]
    laid = fading.lay_answer(worked, question, best)
    assert float(delta_e00(strata_of(laid, zone).exposed, best.option.lab)) < 0.05
    assert float(delta_e00(best.option.lab, target.lab)) == pytest.approx(best.option.de00)


def test_a_filter_on_the_demo_is_what_was_promised(worked, shelf_paints):
    question = filters.ask(worked, "funnel", shelf_paints)
    assert question.zones[0].zone == "funnel"
    best = filters.answer(question).filters[0].glaze
    zones = [zone.zone for zone in question.zones]
    laid = lay_filter(worked, zones, *filters.mix_of(question, best))
    for zone, promised in zip(zones, best.labs, strict=True):
        band = next(band for band in strata_of(laid, zone).bands if band.coat.kind == "filter")
        assert float(delta_e00(band.lab, promised)) < 0.05


def test_a_coat_on_top_does_not_change_the_band_below(worked, shelf_paints):
    """Without a varnish each coat is seen at its own sheen; a satin fade leaves the flat base as it was."""
    bare = worked.model_copy(
        update={"coats": tuple(c for c in worked.coats if c.kind in ("primer", "base", "marking"))}
    )
    before = next(band.lab for band in strata_of(bare, "house").bands if band.coat.kind == "base")
    satin = [p for p in shelf_paints if p.finish == "satin" and p.mixes and p.medium == "acrylic-water"]
    paint = satin[0] if satin else next(p for p in shelf_paints if p.id == "chalk")
    faded = lay_fade(bare, "house", Mix.of(shelf_paints, [(paint.id, 1)], 3), Manner(1, 0.8))
    after = next(band.lab for band in strata_of(faded, "house").bands if band.coat.kind == "base")
    assert after == before


def test_a_varnish_is_the_same_in_every_room(worked, shelf_paints):
    """Flat clear over bare flat paint darkens it a little, 0.5–1.5 ΔE00 on a mid tone (practice)."""
    bare = worked.model_copy(update={"coats": tuple(c for c in worked.coats if c.zone != "gear")})
    base = pin_base(bare, "gear", Mix.of(shelf_paints, [("slate-teal", 1)]), Manner(4))
    clear = lay_varnish(base, ["gear"], "matte-coat")
    flat, under = (strata_of(project, "gear").fresh for project in (base, clear))
    assert under[0] < flat[0]
    assert 0.5 < float(delta_e00(flat, under)) < 1.5
