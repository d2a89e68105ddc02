"""Ratios in every form they are spoken; figures of the trade are common practice without a source."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_sepia.errors import BadInputError
from lean_sepia.recipe.phrases.ratio import read_ratio, spoken


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


@pytest.mark.parametrize(
    ("phrase", "shares"),
    [
        ("20:1 thinner to paint", {"thinner": 20 / 21, "paint": 1 / 21}), ("95:5", {"thinner": 0.95, "paint": 0.05}),
        ("1 part paint to 9 parts thinner", {"paint": 0.1, "thinner": 0.9}), ("50-50", {"paint": 0.5, "thinner": 0.5}),
        ("equal parts", {"paint": 0.5, "thinner": 0.5}), ("nine to one", {"paint": 0.9, "thinner": 0.1}),
        ("10:1 alcohol to paint", {"alcohol": 10 / 11, "paint": 1 / 11}), ("70 % A, 20 % B, 10 % C", {"A": 0.7, "B": 0.2, "C": 0.1}),
        ("50 % moss 30 % rope 20 % chalk", {"moss": 0.5, "rope": 0.3, "chalk": 0.2}), ("2:1 black to grey", {"black": 2 / 3, "grey": 1 / 3}),
        ("3 sand + 1 ochre", {"sand": 0.75, "ochre": 0.25}), ("3:1 base to off-white", {"base": 0.75, "off-white": 0.25}),
        ("70/20/10", {"paint 1": 0.7, "paint 2": 0.2, "paint 3": 0.1}), ("Sand and Ochre 3:1", {"Sand": 0.75, "Ochre": 0.25}),
        ("two thirds thinner", {"thinner": 2 / 3, "paint": 1 / 3}), ("one part Deep Sea, two parts chalk", {"Deep Sea": 1 / 3, "chalk": 2 / 3}),
        ("1:3 paint to white spirit", {"paint": 0.25, "white spirit": 0.75}), ("70 % A, 20 % B", {"A": 0.7, "B": 0.2, "the rest": 0.1}),
        ("3 dollops of fog grey + a brush-load of moss", {"fog grey": 0.9, "moss": 0.1}),
    ],
)  # fmt: skip
def test_the_likelier_reading_comes_first_with_the_names_as_typed(phrase, shares):
    found = read_ratio(phrase)[0]
    assert dict(found.shares) == pytest.approx(shares)
    assert found.words


def test_off_white_is_a_colour_and_white_spirit_is_not():
    assert read_ratio("3:1 base to off-white")[0].colour == pytest.approx(1)
    assert read_ratio("1:3 paint to White Spirit")[0].colour == pytest.approx(0.25)


@pytest.mark.parametrize(
    ("phrase", "names"),
    [
        ("a few drops in a jar", ("paint", "thinner")), ("base + 2 dollops of fog grey + a brush-load of moss", ("base", "fog grey", "moss")),
        ("some white in grey", ("white", "grey")), ("10 parts paint, 3 drops white", ("paint", "white")),
    ],
)  # fmt: skip
def test_what_a_phrase_leaves_open_is_said(phrase, names):
    (found,) = read_ratio(phrase)
    assert found.shares == tuple((name, None) for name in names)
    assert found.colour is None
    assert "does not say" in found.words


@pytest.mark.parametrize(
    "phrase",
    [
        "120 % A, 5 % B",
        "0 sand + 1 ochre",
        "1:" + "9" * 400,
        "50 % A + 3 B",
        "x" * 400,
    ],
)
def test_mixes_that_cannot_be(phrase):
    with pytest.raises(BadInputError):
        read_ratio(phrase)
