"""Lighteners, tones and filters, pushed back through the forward model."""

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.errors import ColourError, ShelfError
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.kubelka_munk import opaque_reflectance
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.paint import Palette
from lean_sepia.recipe.fades.fade import base_mixture, choose_lighteners
from lean_sepia.recipe.fades.turn import hue_shift_deg
from lean_sepia.recipe.tints.glaze import Ground, choose_glazes, glaze_film, glaze_labs


def faded(paints, base, lightener, share):
    by_id = {paint.id: paint for paint in paints}
    start = base_mixture(paints, base)
    return OPAQUE.lab(Palette.of([start, by_id[lightener]]).mixture(np.array([1 - share, share])))


def test_the_lightener_that_was_used_is_chosen(shelf_paints):
    target = faded(shelf_paints, [("boot-red", 3), ("oxide", 1)], "greenish-off-white", 0.25)
    base = base_mixture(shelf_paints, [("boot-red", 3), ("oxide", 1)])
    best = choose_lighteners(shelf_paints, base, target)[0]
    assert (best.paint, best.base_parts, best.lightener_parts) == ("greenish-off-white", 3, 1)
    assert best.de00 < 1e-6


def test_white_turns_red_towards_pink(shelf_paints):
    """Against a red that faded warm, pure white swings to pink and a tan does not."""
    target = faded(shelf_paints, [("boot-red", 1)], "tan", 0.5)
    base = base_mixture(shelf_paints, [("boot-red", 1)])
    shifts = {o.paint: o.hue_shift_deg for o in choose_lighteners(shelf_paints, base, target)}
    assert shifts["chalk"] < shifts["tan"] - 2
    assert "oil-titanium" not in shifts  # oil does not stir into an acrylic


def test_parts_stay_within_the_limit(shelf_paints):
    for option in choose_lighteners(
        shelf_paints, base_mixture(shelf_paints, [("slate-teal", 1)]), [70, -8, -2], max_parts=7
    ):
        assert option.base_parts + option.lightener_parts <= 7
        assert option.base_parts >= 1


def test_hue_shift_wraps_and_has_no_meaning_for_greys():
    assert hue_shift_deg([50, 20, -2], [50, 20, 2]) == pytest.approx(-11.4, abs=0.1)
    assert hue_shift_deg([50, 1, 1], [50, 20, 2]) is None


@pytest.mark.parametrize(
    ("base", "words"),
    [([("nobody", 1)], "no paint"), ([("worn-steel", 1)], "metallic"), ([("chalk", 0)], "at least 1")],
)
def test_bases_that_cannot_be(shelf_paints, base, words):
    with pytest.raises(ShelfError, match=words):
        base_mixture(shelf_paints, base)


def test_every_other_paint_that_mixes_is_a_candidate_lighter_or_darker(shelf_paints):
    few = [p for p in shelf_paints if p.id in ("chalk", "lamp", "slate-teal", "oil-titanium", "worn-steel")]
    base = base_mixture(few, [("slate-teal", 1)])
    assert {o.paint for o in choose_lighteners(few, base, [60, 0, 0])} == {"chalk", "lamp"}
    with pytest.raises(ShelfError, match="No other paint"):
        choose_lighteners([p for p in few if p.id == "chalk"], base_mixture(few, [("chalk", 1)]), [99, 0, 0])


def test_a_fade_is_solved_as_the_film_that_is_laid(shelf_paints):
    """Over a dark ground one thin coat needs more lightener than the opaque mixture would."""
    base = base_mixture(shelf_paints, [("slate-teal", 1)])
    white = [p for p in shelf_paints if p.id == "chalk"]
    film = Laying(opaque_reflectance(base.K, base.S), 0.4, "flat")
    goal = film.lab(Palette.of([base, *white]).mixture(np.array([0.5, 0.5])))
    laid, opaque = (
        choose_lighteners(white, base, goal, laying=one)[0] for one in (film, Laying(varnish="flat"))
    )
    assert (laid.base_parts, laid.lightener_parts) == (1, 1)
    assert laid.de00 < 1e-6
    assert opaque.lightener_parts / opaque.base_parts < 0.8


def test_the_filter_that_was_used_is_chosen(shelf_paints):
    grounds = [Ground.of_lab(lab) for lab in ([50, -18, -3], [70, 10, 32], [84, 2, 20])]
    oils = [paint for paint in shelf_paints if paint.medium == "oil"]
    umber = next(paint for paint in oils if paint.id == "oil-raw-umber")
    targets = glaze_labs(umber, grounds, glaze_film(20, 2))
    best = choose_glazes(oils, grounds, list(targets))[0]
    assert best.paint == "oil-raw-umber"
    assert best.passes / (1 + best.thinner_parts) == pytest.approx(2 / 21, rel=0.15)
    assert best.de00_mean == pytest.approx(float(delta_e00(np.array(best.labs), targets).mean()), abs=1e-9)


def test_each_base_needs_a_target(shelf_paints):
    with pytest.raises(ColourError, match="own target"):
        choose_glazes(shelf_paints, [Ground.of_lab([50, 0, 0])], [])


@pytest.mark.parametrize("parts", [10, 20, 30])
def test_a_filters_film_is_its_share_of_paint_drawn_out(parts):
    """One part of paint in so many of thinner: the film falls as 1 / (1 + parts), and grows with the passes."""
    one = glaze_film(parts, 1)
    assert one == pytest.approx(film_thickness(1, parts / (1 + parts), "glaze"))
    assert one * (1 + parts) == pytest.approx(glaze_film(1, 1) * 2)
    assert glaze_film(parts, 3) == pytest.approx(3 * one)
    assert one > 0
