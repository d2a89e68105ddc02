"""Greys on black-and-white film. Emulsion and filter curves are from memory: only their class is checked."""

import numpy as np
import pytest

from lean_sepia.colour.film import EMULSIONS, FILM_LIGHTS, LENS_FILTERS, film_grey, film_weights
from lean_sepia.colour.spectrum import WAVELENGTHS_NM

RED = 1 / (1 + np.exp(-(WAVELENGTHS_NM - 610) / 6.0))
BLUE = 1 / (1 + np.exp((WAVELENGTHS_NM - 480) / 6.0))


@pytest.mark.parametrize("emulsion", EMULSIONS)
@pytest.mark.parametrize("lens_filter", LENS_FILTERS)
@pytest.mark.parametrize("light", FILM_LIGHTS)
def test_a_perfect_white_is_one_and_grey_is_itself(emulsion, lens_filter, light):
    if emulsion == "blue" and lens_filter in ("orange", "red"):
        pytest.skip("no light that this emulsion sees passes the filter")
    assert film_weights(emulsion, lens_filter, light).min() >= 0
    assert film_grey(np.ones(31), emulsion, lens_filter, light) == pytest.approx(1)
    assert film_grey(np.full((2, 4, 31), 0.3), emulsion, lens_filter, light) == pytest.approx(
        0.3 * np.ones((2, 4))
    )


def test_red_is_black_but_for_panchromatic_film():
    red = [float(film_grey(RED, emulsion)) for emulsion in EMULSIONS]
    assert red[0] < 0.001
    assert red[1] < 0.01
    assert red[2] > 0.15
    assert film_grey(BLUE, "blue") > film_grey(BLUE, "ortho") > film_grey(BLUE, "pan")


def test_a_filter_darkens_its_opposite():
    greys = [float(film_grey(BLUE, "pan", lens_filter)) for lens_filter in LENS_FILTERS]
    assert greys == sorted(greys, reverse=True)
    assert greys[-1] < 0.01
    assert film_grey(RED, "pan", "red") > film_grey(RED, "pan")


@pytest.mark.parametrize(("emulsion", "end_nm"), [("blue", 500), ("ortho", 590), ("pan", 660)])
def test_emulsions_end_where_their_class_ends(emulsion, end_nm):
    weights = film_weights(emulsion)
    assert weights[end_nm + 10 < WAVELENGTHS_NM].sum() < 0.01
    assert weights[(end_nm - 30 <= WAVELENGTHS_NM) & (end_nm >= WAVELENGTHS_NM)].sum() > 0.01


def test_tungsten_light_lifts_warm_colours():
    assert film_grey(RED, "pan", "none", "tungsten") > 1.2 * film_grey(RED, "pan")
