"""Shapes, bounds and words of the colour room."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import (
    checked_lab,
    chroma,
    hue_deg,
    lab_from_reflectance,
    lab_from_xyz,
    lab_slopes,
    xyz_from_lab,
)
from lean_sepia.colour.spectrum import BANDS, resample
from lean_sepia.colour.srgb import screen_rgb
from lean_sepia.colour.words import colour_name, difference
from lean_sepia.errors import ColourError

labs = st.tuples(st.floats(5, 95), st.floats(-60, 60), st.floats(-60, 60))


@pytest.mark.parametrize("shape", [(3,), (4, 3), (2, 5, 3)])
def test_functions_keep_shapes(shape):
    xyz = np.full(shape, 0.3)
    assert lab_from_xyz(xyz).shape == shape
    assert delta_e00(xyz * 100, xyz * 90).shape == shape[:-1]
    assert chroma(xyz).shape == hue_deg(xyz).shape == shape[:-1]


def test_nan_stays_nan_and_does_not_spread():
    lab = lab_from_xyz([[0.2, np.nan, 0.3], [0.2, 0.2, 0.2]])
    assert np.isnan(lab[0]).any()
    assert np.isfinite(lab[1]).all()


@given(labs, labs)
def test_difference_is_symmetric_and_zero_only_for_itself(one, two):
    assert float(delta_e00(one, one)) == 0
    assert float(delta_e00(one, two)) == pytest.approx(float(delta_e00(two, one)), abs=1e-9)


def test_perfect_diffuser_is_white_under_every_light():
    for light in ("D65", "A", "FL11", "LED-B3"):
        assert np.allclose(lab_from_reflectance(np.ones(BANDS), light), [100, 0, 0], atol=1e-9)


def test_resample_continues_ends_flat_and_refuses_disorder():
    assert np.allclose(resample([450, 600], [0.2, 0.5])[[0, -1]], [0.2, 0.5])
    with pytest.raises(ValueError, match="increasing"):
        resample([500, 450], [0.1, 0.2])


@pytest.mark.parametrize(
    ("values", "words"),
    [
        ([120, 0, 0], "L\\*"),
        ([50, 200, 0], "a\\*"),
        ([50, 0], "three"),
        ([50, np.nan, 0], "three"),
        ([2, 0, 100], "No surface"),
    ],
)
def test_colours_no_surface_has_are_refused(values, words):
    with pytest.raises(ColourError, match=words):
        checked_lab(values)


def test_words_say_which_is_lighter():
    assert difference([50, 10, 10], [55, 10, 10]).words.endswith("lighter")
    assert difference([55, 10, 10], [50, 10, 10]).words.endswith("darker")
    assert "greyer" in difference([50, 40, 10], [50, 25, 6]).words
    assert difference([50, 1, 1], [50, 1.05, 1]).words == "the same to the eye"
    assert "redder" in difference([50, 0, 0], [50, 4, 0]).words


def test_names_are_plain():
    assert colour_name([45.8, -13.9, -6.1]) == "greyed blue-green"
    assert colour_name([50, 0.5, 0.2]) == "grey"
    assert "red" in colour_name([42, 45, 25])


def test_screen_says_when_it_cannot_show_a_colour():
    assert screen_rgb([50, 0, 0]) == ((119, 119, 119), True)
    assert screen_rgb([60, -90, 20])[1] is False


@pytest.mark.parametrize("lab", [[50, 20, -30], [96, -1, 2], [3, 1, -1]])
def test_slopes_of_lab_are_its_differences(lab):
    xyz, step = xyz_from_lab(lab), 1e-7 * np.eye(3)
    differences = (lab_from_xyz(xyz + step) - lab_from_xyz(xyz - step)) / 2e-7
    assert lab_slopes(xyz) == pytest.approx(differences.T, rel=1e-5, abs=1e-4)


def test_the_word_for_a_turn_of_hue_is_the_nearest_direction_at_every_hue(rng):
    """As seen from the first colour: along the turn, red is +a*, green −a*, yellow +b*, blue −b*."""
    axes = {"redder": (1, 0), "greener": (-1, 0), "yellower": (0, 1), "bluer": (0, -1)}
    for _pair in range(2000):
        L, strength, hue = rng.uniform(20, 85), rng.uniform(12, 60), rng.uniform(0, 2 * np.pi)
        turn = rng.choice([-1, 1]) * rng.uniform(0.08, 0.25)
        one, two = ([L, strength * np.cos(h), strength * np.sin(h)] for h in (hue, hue + turn))
        said = {word for word in axes if word in difference(one, two).words}
        along = np.sign(turn) * np.array([-np.sin(hue), np.cos(hue)])
        reach = {word: float(np.dot(along, axis)) for word, axis in axes.items()}
        nearest = max(reach, key=lambda word: reach[word])
        if sorted(reach.values())[-1] - sorted(reach.values())[-2] > 0.02:
            assert said == {nearest}, (one, two)


@pytest.mark.parametrize(
    ("one", "two", "word"),
    [
        ((52.9, 8.5, 26.2), (52.9, 13.0, 27.7), "redder"),  # a brown that turns to rust
        ((40, 24, 18), (40, 20, 23), "yellower"),  # red rust that dries ochre
        ((65, 14, 17), (65, 18, 12), "redder"),  # a flushed skin
        ((45, -14, -6), (45, -15, 1), "yellower"),  # a sea green that yellows
    ],
)
def test_browns_rusts_and_skins_are_told_as_the_eye_has_them(one, two, word):
    assert word in difference(one, two).words
