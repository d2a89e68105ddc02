"""A mix as people say it, against the bottles they have: "2:1 black to grey", "3 sand + 1 ochre", "base + 2 dollops of fog grey",
"2:1:10 buff, flat base, alcohol", "from the hull cup".

Where a phrase does not say how much of the base there is, it is taken to be `ASSUMED_BASE` times the thing added; that is said.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from math import lcm

from lean_sepia.errors import BadInputError, ShelfError
from lean_sepia.language import _
from lean_sepia.recipe.parts import DROPS_PER_ML, reduced
from lean_sepia.recipe.phrases.mixture_text import find_paint, matching, read_mixture
from lean_sepia.recipe.phrases.ratio import Reading, is_thinner, read_ratio
from lean_sepia.recipe.phrases.terms import Rate, Term, prepared, shares_of, terms_of

ASSUMED_BASE = 10
"""Parts of base to one dollop, where a phrase does not say (practice)."""
MOST_PARTS = 400
_FINEST = 400
_CUP = re.compile(r"(?:from\s+)?(?:the\s+)?(?P<name>.*?)\s*\bcup", re.IGNORECASE)
_BREAKS = re.compile(r"[,;:+&/%\d]|\b(?:and|to|with|in|into|of|half)\b", re.IGNORECASE)
_JOINED = re.compile(r"\s*(?:\band\b|[+&])\s*", re.IGNORECASE)
_HALVES = re.compile(r"half\s+(?P<one>.+?),?\s+(?:and\s+)?half\s+(?P<two>.+)", re.IGNORECASE)
_BASE, _LONGEST = "base of ", 300
_THE_BASE = ("base", "the base")  # as it is said
_PAINT = ("paint", "the paint", "colour", "the colour")  # where no bottle is called so: the base
_FIGURES_ONLY = re.compile(r"[\d.,\s]+(?:[:/][\d.,\s]+)+")


_ALSO = "\0"


def also_called(key: str, name: str) -> str:
    """A key by which a cup has one more name."""
    return f"{key}{_ALSO}{name}"


def _cups_named(name: str, cups: Mapping[str, str]) -> list[str]:
    """The ids of the cups that a name may stand for, each once."""
    return list(dict.fromkeys(key.split(_ALSO)[0] for key in matching(name, cups)))


@dataclass(frozen=True)
class SpokenMix:
    """Whole parts of bottles and of cups, by id; what of it is thinner, and of which kind; and what had to be assumed."""

    parts: tuple[tuple[str, int], ...] = ()
    cups: tuple[tuple[str, int], ...] = ()
    thinner_share: float | None = None
    thinner: str = ""
    assumed: str = ""


def read_spoken_mix(
    text: str,
    bottles: Mapping[str, str],
    cups: Mapping[str, str],
    base: str = "",
    rates: Mapping[str, float] | None = None,
) -> SpokenMix:
    """What a phrase mixes.

    bottles : the name of each bottle, by id; cups : the name of each mix there is, by id; base : id of the one that is
    meant by "base"; rates : drops in a millilitre of each bottle, by id, where they are known

    Raises
    ------
    ShelfError
        A name is none or several of them.
    BadInputError
        The phrase is no mix.
    """
    clean = " ".join(text.split())
    if len(clean) > _LONGEST:
        raise BadInputError(
            _("A mix is a short phrase such as 3 sand + 1 ochre; found {0} letters.").format(len(clean))
        )
    clean, bottles, cups = _shielded(
        clean, bottles, {**cups, **({_BASE + base: _THE_BASE[0]} if base else {})}
    )
    spoken = _read(clean, bottles, cups, rates or {})
    return replace(spoken, cups=tuple((key.removeprefix(_BASE), count) for key, count in spoken.cups))


def _shielded(
    text: str, bottles: Mapping[str, str], cups: Mapping[str, str]
) -> tuple[str, dict[str, str], dict[str, str]]:
    """The phrase with every whole name that would fall to pieces, such as "Blue, deep", as one word of its own."""
    tables = dict(bottles), dict(cups)
    number = 0
    names = sorted(((table, key) for table in tables for key in table), key=lambda at: -len(at[0][at[1]]))
    for table, key in names:
        name = table[key]
        if _BREAKS.search(name) and name.casefold() in text.casefold():
            number += 1
            stand_in = f"qz{chr(96 + number % 26)}{chr(97 + number // 26)}"
            text = re.sub(re.escape(name), stand_in, text, flags=re.IGNORECASE)
            table[key] = stand_in
    return text, *tables


def _read(
    clean: str, bottles: Mapping[str, str], cups: Mapping[str, str], rates: Mapping[str, float]
) -> SpokenMix:
    if not clean:
        raise BadInputError(_('Say what it is mixed of, such as "3 sand + 1 ochre", or name one bottle.'))
    if _FIGURES_ONLY.fullmatch(clean):
        raise BadInputError(
            _("{0} of what? Name the paints behind it, such as “{0} {1}”.").format(clean, _("sand, ochre"))
        )
    if (one := _one_thing(clean, bottles, cups)) is not None:
        return one
    if (both := _HALVES.fullmatch(clean)) and not both["one"].casefold().startswith(("a ", "an ")):
        return _whole([(both["one"], Fraction(1)), (both["two"], Fraction(1))], bottles, cups)
    together = _JOINED.split(clean)
    if len(together) > 1 and not re.search(r"\d", prepared(clean)[0]):
        equal = _whole([(name, Fraction(1)) for name in together], bottles, cups)
        return replace(equal, assumed=_("Taken as equal parts."))
    return _counted(clean, bottles, cups, rates)


def _one_thing(clean: str, bottles: Mapping[str, str], cups: Mapping[str, str]) -> SpokenMix | None:
    """One bottle or one cup, where the phrase names just that."""
    if found := _CUP.fullmatch(clean):
        return SpokenMix(cups=((_cup(found["name"], cups), 1),))
    mine = [key for key in cups if key.startswith(_BASE)]
    if mine and clean.casefold() in _THE_BASE:
        return SpokenMix(cups=((mine[0], 1),))
    if matching(clean, bottles):
        return SpokenMix(parts=((find_paint(clean, bottles), 1),))
    whole = _cups_named(clean, cups)
    return SpokenMix(cups=((whole[0], 1),)) if len(whole) == 1 else None


def _counted(
    clean: str, bottles: Mapping[str, str], cups: Mapping[str, str], rates: Mapping[str, float]
) -> SpokenMix:
    """A phrase with figures, as the one reader of mixes has it, else as a mixture is written down."""

    def rate(name: str) -> float:
        found = matching(name, bottles)
        return rates.get(found[0], DROPS_PER_ML) if len(found) == 1 else DROPS_PER_ML

    try:
        reading = read_ratio(clean, rate=rate)[0]
    except BadInputError:
        parts = read_mixture(clean, bottles)
        reduced_counts = reduced([count for _name, count in parts])
        return SpokenMix(
            parts=tuple((name, count) for (name, _n), count in zip(parts, reduced_counts, strict=True))
        )
    if any(share is None for _name, share in reading.shares):
        return _with_assumed_base(terms_of(prepared(clean)[0]), reading, rate, bottles, cups)
    return _whole(
        [(name, Fraction(share or 0).limit_denominator(_FINEST)) for name, share in reading.shares],
        bottles,
        cups,
    )


def _with_assumed_base(
    terms: Sequence[Term], reading: Reading, rate: Rate, bottles: Mapping[str, str], cups: Mapping[str, str]
) -> SpokenMix:
    """A mix in which only the first, the base, is not said how much of: so many of what is added to it."""
    if len(terms) < 2 or terms[0].says or any(term.value is None or term.of_the_whole for term in terms[1:]):
        raise BadInputError(
            _("{0}. Write a number before each, such as “3 sand + 1 ochre”.").format(reading.words)
        )
    base, added = terms[0], terms[1:]
    known = shares_of(
        (replace(base, low=float(ASSUMED_BASE), high=float(ASSUMED_BASE), unit=added[0].unit), *added), rate
    )
    if known is None or any(share is None for share in known):
        raise BadInputError(
            _("{0}. Write a number before each, such as “3 sand + 1 ochre”.").format(reading.words)
        )
    named = [
        (term.name, Fraction(share or 0).limit_denominator(_FINEST))
        for term, share in zip(terms, known, strict=True)
    ]
    mix = _whole(named, bottles, cups)
    said = _("{0}: taken as {1} parts, since it is not said how much. Write “20 {0} + …” for another.")
    return SpokenMix(
        mix.parts, mix.cups, mix.thinner_share, mix.thinner, said.format(base.name, ASSUMED_BASE)
    )


def _whole(
    named: list[tuple[str, Fraction]], bottles: Mapping[str, str], cups: Mapping[str, str]
) -> SpokenMix:
    """Named amounts as whole parts, with the thinner apart."""
    thinner = sum(
        (amount for name, amount in named if is_thinner(name) and not matching(name, bottles)), Fraction(0)
    )
    of = next((name for name, _amount in named if is_thinner(name)), "")
    wet = [(name, amount) for name, amount in named if not is_thinner(name) or matching(name, bottles)]
    if not wet or any(amount <= 0 for _name, amount in wet):
        raise BadInputError(_("A mix has at least one paint, and more than none of each."))
    scale = lcm(*(amount.denominator for _name, amount in wet))
    counts = reduced([int(amount * scale) for _name, amount in wet])
    if sum(counts) > MOST_PARTS:
        words = _("A mix has at most {0} parts; this one comes to {1}. Use rounder figures.")
        raise BadInputError(words.format(MOST_PARTS, sum(counts)))
    parts: dict[str, int] = {}
    taken: dict[str, int] = {}
    for (name, _amount), count in zip(wet, counts, strict=True):
        where, key = _one(name, bottles, cups)
        (taken if where == "cup" else parts)[key] = (taken if where == "cup" else parts).get(key, 0) + count
    whole = thinner + sum(amount for _name, amount in wet)
    share = float(thinner / whole) if thinner else None
    return SpokenMix(tuple(parts.items()), tuple(taken.items()), share, of)


def _one(name: str, bottles: Mapping[str, str], cups: Mapping[str, str]) -> tuple[str, str]:
    if found := _CUP.fullmatch(name):
        return "cup", _cup(found["name"], cups)
    as_base = _THE_BASE if matching(name, bottles) else (*_THE_BASE, *_PAINT)
    if name.casefold() in as_base and (mine := [key for key in cups if key.startswith(_BASE)]):
        return "cup", mine[0]
    if not matching(name, bottles) and (mixes := _cups_named(name, cups)):
        if len(mixes) == 1:
            return "cup", mixes[0]
        words = _("{0!r} names several mixes ({1}). Write more of the name.")
        raise ShelfError(words.format(name, ", ".join(sorted(cups[key] for key in mixes)[:4])))
    return "bottle", find_paint(name, bottles)


def _cup(name: str, cups: Mapping[str, str]) -> str:
    cups = {
        key: called
        for key, called in cups.items()
        if not key.startswith(_BASE) or name.casefold() == _THE_BASE[0]
    }
    found = _cups_named(name, cups) if name else [key for key in cups if _ALSO not in key]
    if len(found) == 1:
        return found[0]
    if not found:
        words = _("There is no cup {0!r} in this project. Its cups: {1}.")
        return _refuse(words.format(name, ", ".join(sorted(cups.values())[:6]) or _("none yet")))
    words = _("{0!r} names several cups ({1}). Write more of the name.")
    return _refuse(words.format(name, ", ".join(sorted(cups[key] for key in found)[:6])))


def _refuse(message: str) -> str:
    raise ShelfError(message)
