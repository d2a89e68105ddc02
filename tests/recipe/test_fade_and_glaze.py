"""Lighteners, tones and filters, pushed back through the forward model."""

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.errors import ColourError, ShelfError
from lean_sepia.paint.laying import OPAQUE
from lean_sepia.paint.paint import Palette
from lean_sepia.recipe.fade import base_mixture, choose_lighteners, hue_shift_deg
from lean_sepia.recipe.glaze import choose_glazes
from lean_sepia.recipe.tone_ladder import AREA_SHARES, darkener, tone_ladder


def faded(paints, base, lightener, share):
    by_id = {paint.id: paint for paint in paints}
    start = base_mixture(paints, base)
    return OPAQUE.lab(Palette.of([start, by_id[lightener]]).mixture(np.array([1 - share, share])))


def test_the_lightener_that_was_used_is_chosen(shelf_paints):
    target = faded(shelf_paints, [("boot-red", 3), ("oxide", 1)], "greenish-off-white", 0.25)
    best = choose_lighteners(shelf_paints, [("boot-red", 3), ("oxide", 1)], target)[0]
    assert (best.paint, best.base_parts, best.lightener_parts) == ("greenish-off-white", 3, 1)
    assert best.de00 < 1e-6


def test_white_turns_red_towards_pink(shelf_paints):
    """Against a red that faded warm, pure white swings to pink and a tan does not."""
    target = faded(shelf_paints, [("boot-red", 1)], "tan", 0.5)
    shifts = {o.paint: o.hue_shift_deg for o in choose_lighteners(shelf_paints, [("boot-red", 1)], target)}
    assert shifts["chalk"] < shifts["tan"] - 2
    assert "oil-titanium" not in shifts  # oil does not stir into an acrylic


def test_parts_stay_within_the_limit(shelf_paints):
    for option in choose_lighteners(shelf_paints, [("slate-teal", 1)], [70, -8, -2], max_parts=7):
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
        choose_lighteners(shelf_paints, base, [60, 0, 0])


def test_nothing_lighter_than_white(shelf_paints):
    with pytest.raises(ShelfError, match="lighter"):
        choose_lighteners(
            [p for p in shelf_paints if p.id in ("chalk", "lamp")], [("chalk", 1)], [99.5, 0, 0]
        )


def test_tones_run_from_dark_to_light_over_less_and_less(shelf_paints):
    base = base_mixture(shelf_paints, [("slate-teal", 1)])
    light = next(p for p in shelf_paints if p.id == "bone-white")
    dark = darkener(shelf_paints, base)
    assert dark.id != "lamp"  # black without any colour of its own deadens
    tones = tone_ladder(base, light, dark)
    assert [tone.area_share for tone in tones] == list(AREA_SHARES)
    assert np.all(np.diff([tone.lab[0] for tone in tones]) > 0)
    assert sum(AREA_SHARES) == pytest.approx(1)


def test_the_filter_that_was_used_is_chosen(shelf_paints):
    from lean_sepia.paint.identify import internal_from_lab
    from lean_sepia.recipe.glaze import glaze_film, glaze_labs

    bases = [([50, -18, -3], 1.0), ([70, 10, 32], 1.0), ([84, 2, 20], 1.0)]
    oils = [paint for paint in shelf_paints if paint.medium == "oil"]
    umber = next(paint for paint in oils if paint.id == "oil-raw-umber")
    grounds = [internal_from_lab(lab, g) for lab, g in bases]
    targets = glaze_labs(umber, grounds, glaze_film(20, 2))
    best = choose_glazes(oils, bases, list(targets))[0]
    assert best.paint == "oil-raw-umber"
    assert best.passes / (1 + best.thinner_parts) == pytest.approx(2 / 21, rel=0.15)
    assert best.de00_mean == pytest.approx(float(delta_e00(np.array(best.labs), targets).mean()), abs=1e-9)


def test_each_base_needs_a_target(shelf_paints):
    with pytest.raises(ColourError, match="own target"):
        choose_glazes(shelf_paints, [([50, 0, 0], 1.0)], [])
