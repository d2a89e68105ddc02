"""What practice says of thin coats (common practice, no source), and the limits of Kubelka–Munk that bound each case.

Limits: a film of no thickness shows the ground, one of great thickness the paint's own masstone (Kubelka and Munk 1931).
"""

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.paint import stirred
from lean_sepia.paint.stack import Coating, Opaque, Stack

MID_TONES = [(50.0, 0.0, 0.0), (50.0, -15.0, -5.0), (55.0, 5.0, 20.0)]


@pytest.fixture
def paints(shelf_paints):
    return {paint.id: paint for paint in shelf_paints}


def over(ground, paint, X, covers="film", varnish=None):
    """L*a*b* before and after a film on a ground, which is a colour or a paint."""
    body = Opaque.of_lab(ground) if isinstance(ground, tuple) else ground
    stack = Stack().lay(Coating("film", body))
    return np.array(stack.lab(varnish)), np.array(stack.lay(Coating(covers, paint, X)).lab(varnish))


@pytest.mark.parametrize("umber", ["oil-raw-umber", "oil-burnt-umber"])
@pytest.mark.parametrize("ground", MID_TONES)
def test_umber_at_one_in_twenty_moves_a_mid_tone_by_about_one_a_pass(paints, umber, ground):
    moved = [
        float(delta_e00(*over(ground, paints[umber], film_thickness(n, 20 / 21, "glaze"), "tint")))
        for n in (1, 2)
    ]
    assert 0.5 < moved[0] < 1.3
    assert 1.0 < moved[1] < 2.5
    assert moved[1] == pytest.approx(2 * moved[0], rel=0.12)


def test_a_film_of_nothing_shows_the_ground_and_a_thick_one_the_paint(paints):
    for name in ("oil-raw-umber", "chalk", "wine"):
        before, none = over(MID_TONES[0], paints[name], 1e-9)
        _before, thick = over(MID_TONES[0], paints[name], 1e4)
        g = paints[name].surface.g
        assert delta_e00(before, none) < 0.02 or g != 1.0
        assert delta_e00(thick, paints[name].masstone_lab()) < 0.02


@pytest.mark.parametrize("name", ["cream", "squall", "boot-red", "moss"])
def test_thinned_acrylic_by_brush_covers_in_three_or_four_passes(paints, name):
    def away(passes):
        X = film_thickness(passes, 0.5, "brush")
        return float(
            delta_e00(over((30.0, 0.0, 0.0), paints[name], X)[1], over((80.0, 0.0, 0.0), paints[name], X)[1])
        )

    assert away(1) > 2.0
    assert away(4) < 2.0


@pytest.mark.parametrize("white", ["chalk", "bone-white"])
def test_a_white_mist_over_dark_blue_stays_a_veil_and_a_wet_coat_does_not(paints, white):
    def lifted(passes, thinner, tool):
        before, after = over(paints["night-blue"], paints[white], film_thickness(passes, thinner, tool))
        return after[0] - before[0]

    assert 2.0 < lifted(2, 0.9, "mist") < 12.0
    assert lifted(1, 0.6, "airbrush") > 24.0
    assert lifted(1, 0.0, "airbrush") > lifted(1, 0.6, "airbrush")


def test_pink_is_warmer_over_red_primer_than_over_black(paints):
    pink = stirred("pink", "", (paints["chalk"], paints["boot-red"]), (4, 1))
    X = film_thickness(2, 0.7)
    red, black = over(paints["red-primer"], pink, X)[1], over(paints["lamp"], pink, X)[1]
    assert red[1] - black[1] >= 1.5
    thick = [over(paints[name], pink, 1e3)[1] for name in ("red-primer", "lamp")]
    assert thick[0][1] == pytest.approx(thick[1][1], abs=0.01)


@pytest.mark.parametrize("name", ["squall", "slate-teal", "moss"])
def test_flat_clear_darkens_a_bare_flat_mid_tone_a_little_and_less_with_gloss_in_it(paints, name):
    def deepened(paint):
        stack = Stack().lay(Coating("film", paint))
        bare, clear = np.array(stack.lab(None)), np.array(stack.lab("flat"))
        assert clear[0] < bare[0]
        return float(delta_e00(bare, clear))

    glossier = stirred("g", "", (paints[name], paints["gloss-medium"]), (9, 1))
    assert 0.5 < deepened(paints[name]) < 1.5
    assert deepened(glossier) < deepened(paints[name])
