"""Thinning and mixing ratios as they are spoken: every form read, both readings where there are two, every form shown.

Ratios are kept as volume shares. The customs of speech are common practice, no source.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from lean_sepia.errors import BadInputError
from lean_sepia.language import _
from lean_sepia.recipe.parts import DROPS_PER_ML
from lean_sepia.recipe.phrases.counted import NUMBER, Piece, in_figures, pieces_of, shares_of, what_is_open

_LONGEST = 300
_SEPARATOR = r"\s*(?::|\bto\b|/)\s*"
_RATIO = re.compile(rf"({NUMBER})((?:{_SEPARATOR}{NUMBER}){{1,59}})(?!\s*[:/])", re.IGNORECASE)
_VALUES = re.compile(NUMBER)
_PERCENT = re.compile(rf"({NUMBER})\s*(?:%|per\s?cent)", re.IGNORECASE)
_DROPS = re.compile(rf"({NUMBER})\s*drops?\s*(?:in|to|per)\s*({NUMBER})\s*(ml|drops?)", re.IGNORECASE)
_FRACTIONS = {
    "half": 1 / 2, "third": 1 / 3, "quarter": 1 / 4, "fifth": 1 / 5, "tenth": 1 / 10,
    "two thirds": 2 / 3, "two-thirds": 2 / 3, "three quarters": 3 / 4, "three-quarters": 3 / 4,
}  # fmt: skip
_THINNERS = ("thinner", "alcohol", "water", "spirit", "spirits", "solvent")
_WHAT = re.compile(
    r"\b((?:white )?(?:spirits?)|thinner|alcohol|water|solvent|paint|colour|color|pigment|oil|ink|flat base|base|medium|varnish)\b",
    re.IGNORECASE,
)
_NAMES = re.compile(r"\s*(?:\bto\b|\band\b|[:,+/&])\s*", re.IGNORECASE)
_NO_NAME = re.compile(
    r"\b(?:parts?|ratio|mix(?:ed|ture)?|of|the|a|an|in|by|volume|about|roughly|cup|at)\b", re.IGNORECASE
)
_STAGE = re.compile(r"\b(?:and then|then|after that)\b", re.IGNORECASE)


def is_thinner(name: str) -> bool:
    """Whether a name is that of something that evaporates; off-white is a colour, white spirit is not."""
    words = name.casefold().split()
    return bool(words) and words[-1] in _THINNERS


@dataclass(frozen=True)
class Reading:
    """One way to understand a phrase: volume shares that sum to 1, by what they are of, and the words for it.

    A share that the phrase does not tell is None.
    """

    shares: tuple[tuple[str, float | None], ...]
    words: str

    @property
    def colour(self) -> float | None:
        """The share that is not thinner; None where that is not told."""
        if any(share is None for _name, share in self.shares):
            return None
        return sum(share or 0.0 for name, share in self.shares if not is_thinner(name))


def read_ratio(phrase: str) -> list[Reading]:
    """Every reading of a phrase such as "1:20", "20:1 thinner to paint", "95 % thinner" or "a third of the cup".

    The usual one comes first. Stages ("2:1 then 10:1 alcohol") are one reading for each way to read each stage.

    Raises
    ------
    BadInputError
        The phrase is no ratio, or one that cannot be, such as more than all of the cup.

    >>> [round(reading.colour, 3) for reading in read_ratio("1:20")]
    [0.048, 0.952]
    """
    if len(phrase) > _LONGEST:
        words = _("A ratio is a short phrase such as 1:20; found {0} letters.")
        raise BadInputError(words.format(len(phrase)))
    text = in_figures(phrase)
    if not text:
        raise BadInputError(
            _("A ratio is a phrase such as 1:20, 95 % thinner, or 3 drops in 5 ml; found nothing.")
        )
    stages = [piece.strip(" ,;") for piece in _STAGE.split(text)]
    if len(stages) == 1:
        return _one(stages[0], phrase)
    answer = _one(stages[0], phrase, ("paint", "flat base"))
    for stage in stages[1:]:
        answer = [_thinned(base, part) for base in answer for part in _one(stage, phrase)]
    return _different(answer)


def _thinned(base: Reading, stage: Reading) -> Reading:
    """A mixture that is itself the colour of a second stage."""
    rest = [(name, share) for name, share in stage.shares if is_thinner(name)]
    left = stage.colour
    shares = tuple(
        (name, None if share is None or left is None else share * left) for name, share in base.shares
    )
    return Reading((*shares, *rest), _("{0}; of that, {1}").format(base.words, stage.words))


def _one(text: str, phrase: str, pair: tuple[str, str] = ("paint", "thinner")) -> list[Reading]:
    if found := _DROPS.search(text):
        return _drops(_value(found[1]), _value(found[2]), found[3].casefold(), phrase)
    if pieces := pieces_of(text):
        return [_counted(pieces, phrase)]
    if found := _RATIO.search(text):
        values = [_value(number) for number in _VALUES.findall(found[0])]
        return _ratio(values, _names(text[: found.start()], text[found.end() :]), phrase, pair)
    named = _WHAT.findall(text)
    if found := _PERCENT.search(text):
        return _share(_value(found[1]) / 100, named or _names("", text[found.end() :]), phrase)
    for words in sorted(_FRACTIONS, key=len, reverse=True):
        if re.search(rf"\b{words}s?\b", phrase, re.IGNORECASE):
            return _share(_FRACTIONS[words], named, phrase)
    raise BadInputError(
        _(
            "{0!r} is no ratio this program knows. Write 1:20, 20:1 thinner to paint, 95 % thinner, a third paint, or 3 drops in 5 ml."
        ).format(phrase)
    )


def _value(text: str) -> float:
    return float(text.replace(",", "."))


def _names(before: str, after: str) -> list[str]:
    """What the figures are of, as it was typed: behind them, or else before."""
    for text in (after, before):
        names = [
            name
            for part in _NAMES.split(text)
            if (name := " ".join(_NO_NAME.sub(" ", part).split()).strip(" .,-–()"))
        ]
        if names:
            return names
    return []


def _counted(pieces: list[Piece], phrase: str) -> Reading:
    shares = shares_of(pieces)
    if shares is None:
        raise BadInputError(
            _(
                "Parts are above 0 and per cent are at most 100 in all, of the same whole; found {0!r}."
            ).format(phrase)
        )
    named = tuple((piece.name, share) for piece, share in zip(pieces, shares, strict=True))
    if any(share is None for share in shares):
        return Reading(named, what_is_open(pieces))
    words = _(" to ").join(piece.words for piece in pieces)
    if (rest := 1 - sum(share or 0.0 for share in shares)) > 0.005:
        return Reading((*named, (_("the rest"), rest)), _("{0}, the rest not said").format(words))
    whole = sum(share or 0.0 for share in shares)
    return Reading(tuple((name, (share or 0.0) / whole) for name, share in named), words)


def _ratio(values: list[float], named: list[str], phrase: str, pair: tuple[str, str]) -> list[Reading]:
    if not all(value > 0 for value in values):
        raise BadInputError(_("Every part of a ratio is above 0; found {0!r}.").format(phrase))
    if len(values) > 2:
        total = sum(values)
        numbered = [_("paint {0}").format(number) for number in range(1, len(values) + 1)]
        names = named if len(named) == len(values) else numbered
        words = _(" to ").join(f"{value:g} {name}" for value, name in zip(values, names, strict=True))
        return [
            Reading(tuple((name, value / total) for name, value in zip(names, values, strict=True)), words)
        ]
    first, second = values
    if len(named) >= 2:
        return [_two(first, named[0], second, named[1])]
    if named and is_thinner(named[0]):
        # "10:1 alcohol": ten of alcohol to one of colour is what is said of washes; the other way round it would be little.
        usual, other = _two(first, named[0], second, "paint"), _two(first, "paint", second, named[0])
        return [usual, other] if first != second else [usual]
    if named:
        return _different([_two(first, named[0], second, pair[1]), _two(first, pair[1], second, named[0])])
    usual, other = _two(first, pair[0], second, pair[1]), _two(first, pair[1], second, pair[0])
    if first + second == 100 and first > second:
        usual, other = other, usual  # 95:5 is said of per cent of thinner, as 1:20 is of parts
    return [usual] if first == second else [usual, other]


def _two(first: float, one: str, second: float, other: str) -> Reading:
    total = first + second
    return Reading(((one, first / total), (other, second / total)), f"{first:g} {one} to {second:g} {other}")


def _share(share: float, named: list[str], phrase: str) -> list[Reading]:
    if not 0 < share <= 1:
        raise BadInputError(
            _("A share lies above 0 and is at most all of the cup; found {0!r}.").format(phrase)
        )

    def of(name: str) -> Reading:
        other = "paint" if is_thinner(name) else "thinner"
        return Reading(
            ((name, share), (other, 1 - share)),
            _("{0:.0f} % {1}, the rest {2}").format(100 * share, name, other),
        )

    return [of(named[0])] if named else _different([of("paint"), of("thinner")])


def _drops(drops: float, amount: float, unit: str, phrase: str) -> list[Reading]:
    if drops <= 0 or amount <= 0:
        raise BadInputError(_("Drops and millilitres are above 0; found {0!r}.").format(phrase))
    into = amount * DROPS_PER_ML if unit == "ml" else amount
    added = _two(drops, "paint", into, "thinner")
    answer = [
        Reading(
            added.shares, _("{0:g} drops of paint added to {1:g} {2} of thinner").format(drops, amount, unit)
        )
    ]
    if drops < into:
        within = Reading(
            (("paint", drops / into), ("thinner", 1 - drops / into)),
            _("{0:g} drops of paint in {1:g} {2} of mixture").format(drops, amount, unit),
        )
        answer.append(within)
    return answer


def _different(readings: list[Reading]) -> list[Reading]:
    """Readings whose colour share differs, the first of each kept."""
    answer: list[Reading] = []
    for reading in readings:
        if all(reading.shares != other.shares and not _alike(reading, other) for other in answer):
            answer.append(reading)
    return answer


def _alike(one: Reading, other: Reading) -> bool:
    return one.colour is not None and other.colour is not None and abs(one.colour - other.colour) < 1e-9


@dataclass(frozen=True)
class Spoken:
    """A share of colour in every way it is spoken of."""

    colour_to_thinner: str
    thinner_to_colour: str
    percent_thinner: str
    of_the_cup: str
    drops: str


def spoken(colour: float, volume_ml: float | None = None, drops_per_ml: float = DROPS_PER_ML) -> Spoken:
    """A volume share of colour, above 0 and at most 1, in all forms; with a volume also as drops in it.

    Raises
    ------
    BadInputError
        The share is not above 0 and at most 1.
    """
    if not 0 < colour <= 1:
        raise BadInputError(_("A share of colour lies above 0 and is at most 1; found {0:g}.").format(colour))
    more = (1 - colour) / colour
    named = {
        1 / 2: "half",
        1 / 3: "a third",
        1 / 4: "a quarter",
        2 / 3: _("two thirds"),
        3 / 4: _("three quarters"),
        1: "all",
    }
    cup = next(
        (words for share, words in named.items() if abs(share - colour) < 0.004), f"{100 * colour:.2g} %"
    )
    if volume_ml is None:
        drops = (
            _("1 drop to {0:.3g}").format(more)
            if more >= 1
            else _("{0:.3g} drops to 1").format(colour / max(1 - colour, 1e-09))
        )
    else:
        drops = _("{0:.0f} drops and {1:.1f} ml of thinner").format(
            colour * volume_ml * drops_per_ml, (1 - colour) * volume_ml
        )
    ratio = (
        (f"1:{more:.3g}", f"{more:.3g}:1")
        if more >= 1 or more == 0
        else (f"{1 / more:.3g}:1", f"1:{1 / more:.3g}")
    )
    return Spoken(
        ratio[0],
        ratio[1],
        f"{100 * (1 - colour):.3g} % thinner",
        _("{0} of the cup is colour").format(cup),
        drops,
    )
