"""Films, hiding, and K and S from what an owner can measure."""

import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.paint.film import BLACK_GROUND, WHITE_GROUND, film_thickness, hides, thickness_to_hide
from lean_sepia.paint.handling.bodies import coats_to_hide
from lean_sepia.paint.identify import (
    from_lab_films,
    from_lab_tint,
    from_tint,
    internal_from_lab,
    one_constant,
)
from lean_sepia.paint.kubelka_munk import opaque_reflectance, over_ground
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import Mixture
from lean_sepia.paint.saunderson import Surface, into_paint, through_surface

GREY = np.full(31, 0.25)


def test_film_thickness_follows_coats_thinner_and_spread():
    assert film_thickness(2, 0.6) == pytest.approx(0.8)
    assert film_thickness(2, 0.6, "brush") == pytest.approx(1.2)
    # Common practice: 1 : 20 as a filter, one pass.
    assert film_thickness(1, 20 / 21, "glaze") == pytest.approx(0.3 / 21)


def test_a_paint_known_by_one_colour_just_hides_at_its_coats():
    for coats in (1.0, 2.0, 3.0, 4.0, 10.0):
        grey = Mixture(*one_constant(GREY, coats), Surface())
        assert hides(grey, coats * 1.02)
        assert not hides(grey, coats * 0.9)


def test_no_band_stains_beyond_what_practice_bears():
    """An estimated spectrum comes near nothing somewhere; there K stops at 4, and the masstone stays as it is."""
    strong = np.where(np.arange(31) < 15, 0.002, 0.6)
    K, S = one_constant(strong, 2.0)
    assert K.max() == pytest.approx(4.0)
    assert opaque_reflectance(K, S) == pytest.approx(strong, rel=1e-6)
    assert one_constant(GREY, 2.0)[0].max() < 4.0


def test_thin_pale_film_never_hides():
    assert thickness_to_hide(Mixture(np.full(31, 1e-6), np.full(31, 1e-6), Surface())) is None


def test_internal_colour_comes_back_through_the_surface():
    for lab in ([45.8, -13.9, -6.1], [84, 2, 21], [38, 24, 14]):
        surface = internal_from_lab(lab, 1.0)
        assert surface.g == 1.0
        assert float(delta_e00(lab_from_reflectance(through_surface(surface.R_i, 1.0)), lab)) < 0.1


def test_a_flat_surface_cannot_be_black():
    """k1 = 0.04 keeps a flat surface above L* 23.6, so a darker one must have been shinier."""
    surface = internal_from_lab([15, 0, 0], 1.0)
    assert surface.g < 0.6
    assert float(delta_e00(lab_from_reflectance(through_surface(surface.R_i, surface.g)), [15, 0, 0])) < 0.15


def _lab(R_i):
    return lab_from_reflectance(through_surface(R_i, 1.0))


def test_two_constants_from_lab_predict_a_film_better_than_one(shelf_paints):
    black, white = (np.full(31, float(into_paint(ground))) for ground in (BLACK_GROUND, WHITE_GROUND))
    one, two = [], []
    for paint in [p for p in shelf_paints if p.medium == "acrylic-water" and p.knowledge == 3][:10]:
        masstone = _lab(opaque_reflectance(paint.K, paint.S))
        films = [(_lab(over_ground(paint.K, paint.S, 1.0, ground)), ground) for ground in (white, black)]
        start = one_constant(internal_from_lab(masstone, 1.0).R_i, coats_to_hide(masstone, "acrylic-water"))
        fitted = from_lab_films(start, Surface(), masstone, films, 1.0)
        truth = _lab(over_ground(paint.K, paint.S, 0.5, np.full(31, 0.3)))
        for answers, (K, S) in ((one, start), (two, fitted)):
            answers.append(float(delta_e00(_lab(over_ground(K, S, 0.5, np.full(31, 0.3))), truth)))
    assert np.median(two) < 0.5
    assert np.median(two) < np.median(one) / 2


def test_tints_give_the_scattering_back(shelf_paints):
    by_id = {paint.id: paint for paint in shelf_paints}
    white, red = by_id["chalk"], by_id["oxide"]
    mixed = opaque_reflectance(red.K + 4 * white.K, red.S + 4 * white.S)
    K, S = from_tint(opaque_reflectance(red.K, red.S), mixed, (white.K, white.S), 4)
    half = opaque_reflectance(red.K + white.K, red.S + white.S)
    assert float(delta_e00(_lab(opaque_reflectance(K + white.K, S + white.S)), _lab(half))) < 0.3
    start = one_constant(opaque_reflectance(red.K, red.S), 2.0)
    K, S = from_lab_tint(
        start, Surface(), _lab(opaque_reflectance(red.K, red.S)), _lab(mixed), (white.K, white.S), 4
    )
    assert float(delta_e00(_lab(opaque_reflectance(K + white.K, S + white.S)), _lab(half))) < 1.5


def test_clear_gloss_deepens_a_flat_colour(shelf_paints):
    paint = next(p for p in shelf_paints if p.id == "slate-teal")
    flat, gloss = (Laying(varnish=name).lab(paint) for name in ("flat", "gloss"))
    assert gloss[0] < flat[0] - 2
    assert np.hypot(*gloss[1:]) > np.hypot(*flat[1:])


def test_filter_practice_figure():
    """Common practice: a dark 1 : 20 filter on a mid tone shows little after one pass (about 1) and 2–3 after two."""
    from lean_sepia.demo.shelf import KVELDRA, bottle_constants
    from lean_sepia.recipe.tints.glaze import glaze_film

    umber = next(bottle for bottle in KVELDRA if bottle.name == "Oil raw umber")
    K, S = bottle_constants(umber)
    ground = internal_from_lab([60, -5, 5], 1.0).R_i
    steps = [
        float(delta_e00(_lab(ground), _lab(over_ground(K, S, glaze_film(20, n), ground)))) for n in (1, 2)
    ]
    assert 0.5 < steps[0] < 1.6
    assert 1.0 < steps[1] < 3.2
