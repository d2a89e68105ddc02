"""Mixes as people say them: a writer that says a known mix in many ways, and the reader that must find it again. Customs of speech: practice."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_sepia.errors import SepiaError
from lean_sepia.recipe.phrases.ratio import read_ratio
from lean_sepia.recipe.phrases.spoken_mix import read_spoken_mix

_NAMES = ("fog grey", "quay tan", "deck red", "Moss", "chalk", "rope", "winter blue", "dry earth")
_NUMBERS = (
    "",
    "one",
    "two",
    "three",
    "four",
    "five",
    "six",
    "seven",
    "eight",
    "nine",
    "ten",
    "eleven",
    "twelve",
)
_JOINS = (", ", " + ", " and ", "; ", " & ", " plus ", " to ", " with ")
_UNITS = {
    "part": ("part", "parts"), "drop": ("drop", "drops"), "ml": ("ml", "ml"), "dollop": ("dollop", "dollops"),
    "brush-load": ("brush-load", "brush-loads"), "gram": ("gram", "grams"), "": ("", ""),
}  # fmt: skip
_ML = {"drop": 0.05, "ml": 1.0, "dollop": 0.15, "brush-load": 0.05}


@st.composite
def names_of(draw, least=2, most=4):
    return draw(st.lists(st.sampled_from(_NAMES), min_size=least, max_size=most, unique=True))


def _counted(draw, count, unit, name):
    """One amount, in one of the ways it is said."""
    word = _UNITS[unit][count != 1]
    figure = _NUMBERS[count] if count < len(_NUMBERS) and draw(st.booleans()) else str(count)
    of = " of " if unit and draw(st.booleans()) else " "
    if unit and unit != "gram" and draw(st.booleans()):
        return f"{name} {figure} {word}".strip()
    return " ".join(f"{figure} {word}{of}{name}".split())


@given(st.data())
def test_amounts_of_one_unit_in_any_words_and_order(data):
    names = data.draw(names_of())
    unit = data.draw(st.sampled_from(sorted(_UNITS)))
    counts = [data.draw(st.integers(1, 12)) for _ in names]
    chunks = [_counted(data.draw, count, unit, name) for count, name in zip(counts, names, strict=True)]
    said = data.draw(st.sampled_from(_JOINS)).join(chunks)
    found = dict(read_ratio(said)[0].shares)
    assert found == pytest.approx(
        {name: count / sum(counts) for name, count in zip(names, counts, strict=True)}
    ), said


@given(st.data())
def test_volumes_of_any_unit_are_compared(data):
    names = data.draw(names_of())
    made = [(data.draw(st.integers(1, 30)), data.draw(st.sampled_from(sorted(_ML)))) for _ in names]
    said = ", ".join(
        f"{count} {_UNITS[unit][count != 1]} of {name}"
        for (count, unit), name in zip(made, names, strict=True)
    )
    ml = [count * _ML[unit] for count, unit in made]
    assert dict(read_ratio(said)[0].shares) == pytest.approx(
        {name: one / sum(ml) for name, one in zip(names, ml, strict=True)}
    ), said


@given(st.data())
def test_per_cent_with_a_rest_and_ranges(data):
    names = data.draw(names_of(3, 3))
    first, width, second = (
        data.draw(st.integers(5, 40)),
        data.draw(st.integers(1, 9)),
        data.draw(st.integers(5, 40)),
    )
    dash = data.draw(st.sampled_from(("–", "-", " to ", " or ")))
    ranged = f"{first}{dash}{first + width} %"
    one = f"{ranged} {names[0]}" if data.draw(st.booleans()) else f"{names[0]} {ranged}"
    two = f"{second} % {names[1]}" if one[0].isdigit() else f"{names[1]} {second} %"
    rest = data.draw(st.sampled_from(("the rest {0}", "{0} the rest", "the remainder {0}")))
    said = ", ".join((one, two, rest.format(names[2])))
    middle = (first + width / 2) / 100
    shares = {names[0]: middle, names[1]: second / 100, names[2]: 1 - middle - second / 100}
    assert dict(read_ratio(said)[0].shares) == pytest.approx(shares), said


@given(st.data())
def test_ratios_with_their_names_before_or_behind(data):
    names = data.draw(names_of(2, 4))
    counts = [data.draw(st.integers(1, 20)) for _ in names]
    colon = data.draw(st.sampled_from((":", " : ", "/")))
    figures = colon.join(map(str, counts))
    if colon == "/" and len(names) == 2:
        figures = figures.replace("/", ":")  # 1/3 is a third as often
    listed = data.draw(st.sampled_from((", ", " : ", " to "))).join(names)
    said = f"{figures} {listed}" if data.draw(st.booleans()) else f"{listed} {figures}"
    assert dict(read_ratio(said)[0].shares) == pytest.approx(
        {name: count / sum(counts) for name, count in zip(names, counts, strict=True)}
    ), said


@given(st.data())
def test_shares_of_the_whole_in_fractions(data):
    count, parts = data.draw(
        st.sampled_from([(1, 3), (2, 3), (1, 4), (3, 4), (1, 5), (2, 5), (1, 2), (1, 10)])
    )
    nouns = {2: "half", 3: "third", 4: "quarter", 5: "fifth", 10: "tenth"}
    words = "half" if parts == 2 else f"{('a', 'two', 'three')[count - 1]} {nouns[parts]}{'s' * (count > 1)}"
    said = data.draw(st.sampled_from((words, f"about {words}", f"at least {words}")))
    name = data.draw(st.sampled_from(("thinner", "alcohol", "chalk")))
    other = "paint" if name != "chalk" else "thinner"
    assert dict(read_ratio(f"{said} {name}")[0].shares) == pytest.approx(
        {name: count / parts, other: 1 - count / parts}
    ), said
    assert read_ratio(said, thinning=True)[0].thinner == pytest.approx(count / parts)


@given(st.data())
def test_a_mix_of_the_shelf_comes_out_in_its_whole_parts(data):
    """What the field for mixes reads is what was said, over bottles, whatever the words."""
    names = data.draw(names_of())
    shelf = {name.casefold().replace(" ", "-"): name for name in _NAMES}
    counts = [data.draw(st.integers(1, 9)) for _ in names]
    chunks = [_counted(data.draw, count, "part", name) for count, name in zip(counts, names, strict=True)]
    spoken = read_spoken_mix(", ".join(chunks), shelf, {})
    parts = dict(spoken.parts)
    ids = {name: key for key, name in shelf.items()}
    whole = sum(parts.values())
    for name, count in zip(names, counts, strict=True):
        assert parts[ids[name]] / whole == pytest.approx(count / sum(counts))


@pytest.mark.parametrize(
    ("phrase", "shares"),
    [
        ("one third thinner, one third rope, a brush-load of quay tan", {"thinner": 1 / 3, "rope": 1 / 3, "quay tan": None}),
        ("6 drops of moss to 15 ml of cleaner", {"moss": 0.3 / 15.3, "cleaner": 15 / 15.3}),
        ("not less than 70 % thinner", {"thinner": 0.7, "paint": 0.3}), ("a little thinner", {"thinner": None, "paint": None}),
        ("chalk 60–70 %, rope 20 %, the rest moss", {"chalk": 0.65, "rope": 0.2, "moss": 0.15}),
        ("three or four dollops of chalk, half a dollop of moss", {"chalk": 0.875, "moss": 0.125}),
        ("between 60 and 70 % thinner", {"thinner": 0.65, "paint": 0.35}), ("ten times as much thinner as paint", {"thinner": 10 / 11, "paint": 1 / 11}),
        ("5 % moss in chalk", {"moss": 0.05, "chalk": 0.95}), ("up to 5 % moss in chalk", {"moss": 0.05, "chalk": 0.95}),
        ("2/3 chalk, 1/3 rope", {"chalk": 2 / 3, "rope": 1 / 3}), ("1½ parts chalk to ½ part rope", {"chalk": 0.75, "rope": 0.25}),
        ("equal parts of chalk, rope and moss", {"chalk": 1 / 3, "rope": 1 / 3, "moss": 1 / 3}), ("one in twenty", {"paint": 0.05, "thinner": 0.95}),
        ("2:1:10 flat base, alcohol", {"paint": 2 / 13, "flat base": 1 / 13, "alcohol": 10 / 13}), ("neat", {"paint": 1.0}),
        ("20 drops of thinner per ml of paint", {"thinner": 0.5, "paint": 0.5}), ("thinner 70, paint 30", {"thinner": 0.7, "paint": 0.3}),
        ("chalk: 60 %, rope: 40 %", {"chalk": 0.6, "rope": 0.4}), ("3x chalk 1x rope", {"chalk": 0.75, "rope": 0.25}),
        ("3 parts water", {"paint": 0.25, "water": 0.75}), ("some chalk in moss", {"chalk": None, "moss": None}),
    ],
)  # fmt: skip
def test_phrases_heard_at_the_bench(phrase, shares):
    assert dict(read_ratio(phrase)[0].shares) == pytest.approx(shares)


def test_a_third_is_what_was_asked_for():
    """On a line that asks how something is thinned, a bare share is thinner; of a cup it is paint."""
    assert read_ratio("a third", thinning=True)[0].thinner == pytest.approx(1 / 3)
    assert read_ratio("60 %", thinning=True)[0].thinner == pytest.approx(0.6)
    assert read_ratio("a third")[0].thinner == pytest.approx(2 / 3)
    assert read_ratio("thinned by a third")[0].thinner == pytest.approx(1 / 3)
    assert read_ratio("1:20", thinning=True)[0].thinner == pytest.approx(20 / 21)
    assert read_ratio("a third of the cup", thinning=True)[0].thinner == pytest.approx(2 / 3)


def test_a_drop_is_as_large_as_its_bottle_drips():
    shelf = {"moss": "Moss", "chalk": "Chalk"}
    spoken = read_spoken_mix("10 drops of moss + 1 ml of chalk", shelf, {}, rates={"moss": 40.0})
    assert dict(spoken.parts) == {"moss": 1, "chalk": 4}
    assert dict(read_spoken_mix("10 drops of moss + 1 ml of chalk", shelf, {}).parts) == {
        "moss": 1,
        "chalk": 2,
    }


@pytest.mark.parametrize(
    "phrase",
    [
        "one third thinner, one third chalk, a brush-load of moss",
        "a little thinner",
        "some chalk, 1 moss",
        "a touch of moss in chalk",
    ],
)
def test_what_cannot_be_known_is_asked_and_never_taken_for_the_base(phrase):
    shelf = {"moss": "Moss", "chalk": "Chalk"}
    with pytest.raises(SepiaError):
        read_spoken_mix(phrase, shelf, {"r1": "Base colour, Hull"}, base="r1")
