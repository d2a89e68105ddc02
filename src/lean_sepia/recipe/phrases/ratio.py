"""Mixes and thinnings as they are spoken: every form read, both readings where there are two, every form shown.

The one reader of every field for mixes. Ratios are kept as volume shares. The customs of speech are common practice, no source.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from lean_sepia.errors import BadInputError
from lean_sepia.language import _, ngettext
from lean_sepia.recipe.parts import DROPS_PER_ML
from lean_sepia.recipe.phrases.figures import FRACTION, NUMBER, value_of
from lean_sepia.recipe.phrases.terms import (
    UNIT,
    Bound,
    Rate,
    Term,
    prepared,
    shares_of,
    terms_of,
    usual_rate,
    what_is_open,
)

_LONGEST, _LARGEST_DENOMINATOR = 300, 10
_SEPARATOR = r"\s*(?::|\bto\b|/)\s*"
_RATIO = re.compile(rf"({NUMBER})((?:{_SEPARATOR}{NUMBER}){{1,59}})(?!\s*[:/])", re.IGNORECASE)
_VALUES, _FRACTION = re.compile(NUMBER), re.compile(FRACTION)
_SHARE = re.compile(rf"({FRACTION})|({NUMBER})(?:~({NUMBER}))?\s*(?:%|per\s?cent)", re.IGNORECASE)
_INTO = re.compile(
    rf"({NUMBER}|{FRACTION})\s*({UNIT})\s*(?:of\s+)?(.*?)\s*\b(in|to|into|per)\s*({NUMBER})\s*({UNIT})\s*(?:of\s+)?(.*)",
    re.IGNORECASE,
)
_THINNERS = (
    "thinner",
    "thinners",
    "alcohol",
    "water",
    "spirit",
    "spirits",
    "solvent",
    "cleaner",
    "diluent",
    "turpentine",
    "isopropanol",
)
_ONE_IN = re.compile(rf"({NUMBER})\s+in\s+({NUMBER})(?!\s*{UNIT})(.*)", re.IGNORECASE)
_WHAT = re.compile(
    r"\b((?:white )?(?:spirits?)|thinner|alcohol|water|solvent|cleaner|paint|colour|color|pigment|oil|ink|flat base|base|medium|varnish)\b",
    re.IGNORECASE,
)
_NAMES = re.compile(r"\s*(?:\bto\b|\band\b|[:,+/&])\s*", re.IGNORECASE)
_NO_NAME = re.compile(
    r"\b(?:parts?|ratio|mix(?:ed|ture)?|of|the|a|an|in|by|volume|about|roughly|cup|at|least|most|not|less|more|than|up|no)\b",
    re.IGNORECASE,
)
_STAGE = re.compile(r"\b(?:and then|then|after that)\b", re.IGNORECASE)
_NEAT = re.compile(
    r"(?:un(?:thinned|diluted)|neat|straight|as it (?:comes|is)|no thinner|without thinner|not thinned)",
    re.IGNORECASE,
)


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

    @property
    def thinner(self) -> float | None:
        """The share that is thinner; None where that is not told, whatever else is open."""
        told = [share for name, share in self.shares if is_thinner(name)]
        return (
            None
            if any(share is None for share in told) or (not told and self.colour is None)
            else sum(share or 0.0 for share in told)
        )


def read_ratio(phrase: str, *, thinning: bool = False, rate: Rate = usual_rate) -> list[Reading]:
    """Every reading of a phrase such as "1:20", "20:1 thinner to paint", "95 % thinner", "3 sand + 1 ochre" or "a third of the cup".

    The usual one comes first. Stages ("2:1 then 10:1 alcohol") are one reading for each way to read each stage.

    thinning : whether it was asked how something is thinned, so that a bare share is thinner; rate : drops in a millilitre of what
    is named

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
    if not phrase.split():
        raise BadInputError(
            _("A ratio is a phrase such as 1:20, 95 % thinner, or 3 drops in 5 ml; found nothing.")
        )
    stages = [piece.strip(" ,;") for piece in _STAGE.split(phrase)]
    asked = _Asked(phrase, thinning, rate)
    if len(stages) == 1:
        return asked.one(stages[0])
    answer = asked.one(stages[0], ("paint", "flat base"))
    for stage in stages[1:]:
        answer = [_thinned(base, part) for base in answer for part in asked.one(stage)]
    return _different(answer)


def _thinned(base: Reading, stage: Reading) -> Reading:
    """A mixture that is itself the colour of a second stage."""
    rest = [(name, share) for name, share in stage.shares if is_thinner(name)]
    left = stage.colour
    shares = tuple(
        (name, None if share is None or left is None else share * left) for name, share in base.shares
    )
    return Reading((*shares, *rest), _("{0}; of that, {1}").format(base.words, stage.words))


@dataclass(frozen=True)
class _Asked:
    """The whole phrase, for what is said of it; whether it was asked how something is thinned; how large drops are."""

    phrase: str
    thinning: bool
    rate: Rate

    def one(self, stage: str, pair: tuple[str, str] = ("paint", "thinner")) -> list[Reading]:
        """The readings of one stage."""
        if _NEAT.fullmatch(stage.strip(" .")):
            return [Reading(((pair[0], 1.0),), _("as it comes"))]
        text, verb = prepared(stage)
        text = text.strip()
        thins = (self.thinning or verb) and "cup" not in stage.casefold()
        if found := _ONE_IN.fullmatch(text):
            return self._one_in(found[1], found[2], found[3], pair)
        if (found := _INTO.fullmatch(text)) and not _VALUES.search(found[3] + found[7]):
            return self._into(*found.groups())
        if len(terms := terms_of(text)) > 1 and any(term.says for term in terms):
            return [self._counted(terms)]
        if not _FRACTION.search(text) and (found := _RATIO.search(text)):
            return self._ratio(found[0], _names(text[: found.start()], text[found.end() :]), pair)
        if found := _SHARE.search(text):
            share = (
                value_of(found[1])
                if found[1]
                else (value_of(found[2]) + value_of(found[3] or found[2])) / 200
            )
            named = _WHAT.findall(text) or _names(text[: found.start()], text[found.end() :])
            return self._share(share, named, _bound_of(text), thins)
        if len(terms) == 1 and terms[0].value and terms[0].unit in ("", "part") and is_thinner(terms[0].name):
            return [_two(1, pair[0], terms[0].value, terms[0].name)]
        if len(terms) == 1 and terms[0].vague:
            return [_open(terms[0].name)]
        raise BadInputError(
            _(
                "{0!r} is no ratio this program knows. Write 1:20, 20:1 thinner to paint, 95 % thinner, a third paint, or 3 drops in 5 ml."
            ).format(self.phrase)
        )

    def _counted(self, terms: Sequence[Term]) -> Reading:
        shares = shares_of(terms, self.rate)
        if shares is None:
            raise BadInputError(
                _(
                    "Parts are above 0 and per cent are at most 100 in all, of the same whole; found {0!r}."
                ).format(self.phrase)
            )
        named = tuple((term.name, share) for term, share in zip(terms, shares, strict=True))
        if any(share is None for share in shares):
            return Reading(named, what_is_open(terms, shares))
        words = _(" to ").join(term.words for term in terms)
        if (rest := 1 - sum(share or 0.0 for share in shares)) > 0.005:
            return Reading((*named, (_("the rest"), rest)), _("{0}, the rest not said").format(words))
        whole = sum(share or 0.0 for share in shares)
        return Reading(tuple((name, (share or 0.0) / whole) for name, share in named), words)

    def _ratio(self, written: str, named: list[str], pair: tuple[str, str]) -> list[Reading]:
        values = [value_of(number) for number in _VALUES.findall(written)]
        if not all(value > 0 for value in values):
            raise BadInputError(_("Every part of a ratio is above 0; found {0!r}.").format(self.phrase))
        if len(values) > 2:
            total = sum(values)
            numbered = [_("paint {0}").format(number) for number in range(1, len(values) + 1)]
            names = named if len(named) == len(values) else numbered
            if len(named) == len(values) - 1:  # "2:1:10 flat base, alcohol": the first is the paint itself
                names = [pair[0], *named]
            words = _(" to ").join(f"{value:g} {name}" for value, name in zip(values, names, strict=True))
            return [
                Reading(
                    tuple((name, value / total) for name, value in zip(names, values, strict=True)), words
                )
            ]
        first, second = values
        if first == second and len(named) > 2:
            words = _("equal parts of {0}").format(", ".join(named))
            return [Reading(tuple((name, 1 / len(named)) for name in named), words)]
        if len(named) >= 2:
            return [_two(first, named[0], second, named[1])]
        if (
            named and "/" in written and first < second <= _LARGEST_DENOMINATOR
        ):  # "1/3 thinner" is said of a third
            return _different(
                [
                    *self._share(first / second, named, "", thins=False),
                    *_one_named(first, second, named[0], pair),
                ]
            )
        if named:
            return _one_named(first, second, named[0], pair)
        usual, other = _two(first, pair[0], second, pair[1]), _two(first, pair[1], second, pair[0])
        if first + second == 100 and first > second:
            usual, other = other, usual  # 95:5 is said of per cent of thinner, as 1:20 is of parts
        return [usual] if first == second else [usual, other]

    def _one_in(self, count: str, whole: str, what: str, pair: tuple[str, str]) -> list[Reading]:
        """So many in so many: of the whole, or to the rest."""
        one, all_ = value_of(count), value_of(whole)
        named = _names("", what)
        if not 0 < one < all_:
            raise BadInputError(_("Every part of a ratio is above 0; found {0!r}.").format(self.phrase))
        within = self._share(one / all_, named or [pair[0]], "", thins=False)
        return _different([*within, _two(one, (named or [pair[0]])[0], all_, pair[1])])

    def _share(self, share: float, named: list[str], bound: Bound, thins: bool) -> list[Reading]:
        if not 0 < share <= 1:
            raise BadInputError(
                _("A share lies above 0 and is at most all of the cup; found {0!r}.").format(self.phrase)
            )
        least = {"": "", "least": _("at least") + " ", "most": _("at most") + " "}[bound]

        def of(name: str) -> Reading:
            other = "paint" if is_thinner(name) else "thinner"
            return Reading(
                ((name, share), (other, 1 - share)),
                _("{0}{1:.0f} % {2}, the rest {3}").format(least, 100 * share, name, other),
            )

        if named:
            return [of(named[0])]
        first, second = ("thinner", "paint") if thins else ("paint", "thinner")
        return _different([of(first), of(second)])

    def _into(
        self, count: str, unit: str, of: str, _how: str, into: str, other: str, ground: str
    ) -> list[Reading]:
        """So much of one thing added to so much of another, or contained in it."""
        added = terms_of(f"{count} {unit} {of or 'paint'}"), terms_of(f"{into} {other} {ground or 'thinner'}")
        terms = [*added[0], *added[1]]
        shares = shares_of(terms, self.rate) if len(terms) == 2 else None
        if shares is None:
            raise BadInputError(_("Drops and millilitres are above 0; found {0!r}.").format(self.phrase))
        named = tuple((term.name, share) for term, share in zip(terms, shares, strict=True))
        if any(share is None for share in shares):
            return [Reading(named, what_is_open(terms, shares))]
        one, two = terms
        answer = [Reading(named, _("{0} added to {1}").format(one.words, two.words))]
        part = (shares[0] or 0.0) / (shares[1] or 1.0)
        if not ground and part < 1:
            answer.append(
                Reading(
                    ((one.name, part), ("thinner", 1 - part)),
                    _("{0} in {1} of mixture").format(one.words, f"{into} {other}"),
                )
            )
        return answer


def _one_named(first: float, second: float, name: str, pair: tuple[str, str]) -> list[Reading]:
    """A ratio of which one thing is named."""
    if is_thinner(name):
        # "10:1 alcohol": ten of alcohol to one of colour is what is said of washes; the other way round it would be little.
        usual, other = _two(first, name, second, "paint"), _two(first, "paint", second, name)
        return [usual, other] if first != second else [usual]
    return _different([_two(first, name, second, pair[1]), _two(first, pair[1], second, name)])


def _open(name: str) -> Reading:
    """Something of which it is not said how much: the rest is paint, or thinner."""
    other = "paint" if is_thinner(name) else "thinner"
    return Reading(((name, None), (other, None)), _("{0}: how much it does not say").format(name))


def _bound_of(text: str) -> Bound:
    return "least" if "≥" in text else "most" if "≤" in text else ""


def _names(before: str, after: str) -> list[str]:
    """What the figures are of, as it was typed: behind them, or else before."""
    for text in (after, before):
        names = [
            name
            for part in _NAMES.split(text)
            if (name := " ".join(_NO_NAME.sub(" ", part).split()).strip(" .,-–()≥≤"))
            and not re.fullmatch(UNIT, name, re.IGNORECASE)
        ]
        if names:
            return names
    return []


def _two(first: float, one: str, second: float, other: str) -> Reading:
    total = first + second
    return Reading(((one, first / total), (other, second / total)), f"{first:g} {one} to {second:g} {other}")


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
        count = round(colour * volume_ml * drops_per_ml)
        said = ngettext("{0} drop and {1:.1f} ml of thinner", "{0} drops and {1:.1f} ml of thinner", count)
        drops = said.format(count, (1 - colour) * volume_ml)
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
