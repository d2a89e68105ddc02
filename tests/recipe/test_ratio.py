"""Ratios in every form they are spoken; figures of the trade are common practice without a source."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_sepia.errors import BadInputError
from lean_sepia.recipe.ratio import read_ratio, spoken


@pytest.mark.parametrize(
    ("phrase", "colour"),
    [
        ("1:20", [1 / 21, 20 / 21]), ("20:1 thinner to paint", [1 / 21]), ("1:10 paint to water", [1 / 11]),
        ("95 % thinner", [0.05]), ("95% thinner : 5% colour", [0.05]), ("5 % colour", [0.05]),
        ("1 : 1", [0.5]), ("10:1 alcohol", [1 / 11, 10 / 11]), ("60 % thinner", [0.4]),
        ("a third of the cup", [1 / 3, 2 / 3]), ("two thirds thinner", [1 / 3]), ("half paint", [0.5]),
        ("3 drops in 5 ml", [3 / 103, 0.03]), ("1 drop to 20 drops", [1 / 21, 1 / 20]), ("2,5 : 1 thinner to colour", [1 / 3.5]),
    ],
)  # fmt: skip
def test_phrases_and_both_readings_where_there_are_two(phrase, colour):
    found = read_ratio(phrase)
    assert [reading.colour for reading in found] == pytest.approx(colour)
    for reading in found:
        assert sum(share for _, share in reading.shares) == pytest.approx(1)
        assert reading.words


def test_a_filter_said_as_a_ratio_and_as_a_percentage_agree():
    """Common practice: 1:20 and 95 % thinner are 4.8 % and 5 %."""
    assert read_ratio("1:20")[0].colour == pytest.approx(0.048, abs=5e-4)
    assert read_ratio("95 % thinner")[0].colour == pytest.approx(0.05)


def test_a_matting_mix_in_two_stages():
    """Common practice: paint and flat base 2 : 1, then ten parts alcohol to one."""
    usual = read_ratio("2:1 then 10:1 alcohol")[0]
    shares = dict(usual.shares)
    assert shares["alcohol"] == pytest.approx(10 / 11)
    assert shares["paint"] == pytest.approx(2 / 33)
    assert shares["flat base"] == pytest.approx(1 / 33)


def test_several_paints():
    (found,) = read_ratio("5:2:1")
    assert [share for _, share in found.shares] == pytest.approx([0.625, 0.25, 0.125])


@pytest.mark.parametrize("phrase", ["", "a splash", "0:5", "120 % thinner", "0 % paint", "3 drops in 0 ml"])
def test_what_is_no_ratio_is_refused(phrase):
    with pytest.raises(BadInputError):
        read_ratio(phrase)


@given(st.integers(1, 60), st.integers(1, 60))
def test_what_is_spoken_is_read_back(colour, thinner):
    share = colour / (colour + thinner)
    said = spoken(share)
    assert read_ratio(f"{said.colour_to_thinner} paint to thinner")[0].colour == pytest.approx(
        share, rel=0.01
    )
    assert read_ratio(f"{said.thinner_to_colour} thinner to paint")[0].colour == pytest.approx(
        share, rel=0.01
    )
    assert read_ratio(said.percent_thinner)[0].colour == pytest.approx(share, rel=0.1, abs=0.006)


def test_drops_in_a_cup():
    assert spoken(1 / 21, volume_ml=6.3).drops == "6 drops and 6.0 ml of thinner"
    assert spoken(1 / 3).of_the_cup == "a third of the cup is colour"
    with pytest.raises(BadInputError):
        spoken(0)
