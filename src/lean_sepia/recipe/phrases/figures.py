"""Numbers as people say them, written as figures: "nine to one" is "9 to 1", "two thirds" is "{2/3}", "a dozen" is "12".

The customs of speech are common practice, no source.
"""

from __future__ import annotations

import re
from fractions import Fraction
from functools import partial

NUMBER = r"(?<![0-9.,])[0-9]{1,7}(?:[.,][0-9]{1,6})?(?![0-9])"
FRACTION = r"\{[0-9]{1,2}/[0-9]{1,2}\}"

_WORDS = {
    "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10, "eleven": 11,
    "twelve": 12, "thirteen": 13, "fourteen": 14, "fifteen": 15, "sixteen": 16, "seventeen": 17, "eighteen": 18, "nineteen": 19,
    "twenty": 20, "thirty": 30, "forty": 40, "fifty": 50, "sixty": 60, "seventy": 70, "eighty": 80, "ninety": 90, "a hundred": 100,
    "a dozen": 12, "half a dozen": 6, "a couple of": 2, "a pair of": 2,
}  # fmt: skip
_TENS = "|".join(word for word, value in _WORDS.items() if 20 <= value <= 90 and " " not in word)
_ONES = "|".join(word for word, value in _WORDS.items() if value < 10)
_PARTS = {"third": 3, "quarter": 4, "fifth": 5, "sixth": 6, "eighth": 8, "tenth": 10, "twentieth": 20}
_SIGNS = {"½": "1/2", "⅓": "1/3", "⅔": "2/3", "¼": "1/4", "¾": "3/4", "⅕": "1/5", "⅛": "1/8"}
_COUNT = "|".join(("an?", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine"))

_FRACTION_WORD = re.compile(rf"\b(?:({_COUNT})[\s-]+)?({'|'.join(_PARTS)})s?\b", re.IGNORECASE)
_AND_A_HALF = re.compile(r"\b(\d+|[a-z]+)\s+and\s+a\s+half\b", re.IGNORECASE)
_COMPOUND = re.compile(rf"\b({_TENS})[\s-]({_ONES})\b", re.IGNORECASE)
_NUMBER_WORD = re.compile(
    rf"\b({'|'.join(sorted(_WORDS, key=len, reverse=True))})\b(?!-(?:coloured|colored|tone))", re.IGNORECASE
)
_HALF_OF_UNIT = re.compile(r"\bhalf(?: an?)?\s+(?={unit})", re.IGNORECASE)
_PAIR = re.compile(rf"^\s*({NUMBER})\s*[-–—]\s*({NUMBER})(?=\s*$|\s+[^\d\s%])")
_MORE_THAN_TWO = re.compile(rf"({NUMBER})\s*[-–—]\s*(?={NUMBER}\s*[-–—])")


def in_figures(phrase: str, unit: str) -> str:
    """A phrase with its number words as figures and its fractions in braces.

    unit : pattern of the words for units; half of one is 0.5 of it, half of anything else a share of the whole

    >>> in_figures("nine to one", "drops?"), in_figures("a third of the cup", "drops?"), in_figures("half a drop", "drops?")
    ('9 to 1', '{1/3} of the cup', '0.5 drop')
    """
    text = " ".join(phrase.replace("∶", ":").replace("{", " ").replace("}", " ").replace("×", " ").split())
    for sign, written in _SIGNS.items():
        text = re.sub(rf"(\d)\s?{sign}", partial(_whole_and, more=float(Fraction(written))), text)
        text = text.replace(sign, f" {{{written}}} ")
    text = re.sub(
        r"\b(?:equal (?:parts|amounts|shares)|even parts|half and half|fifty[\s-]fifty)\b",
        "1:1",
        text,
        flags=re.IGNORECASE,
    )
    text = _AND_A_HALF.sub(_and_a_half, text)
    text = re.sub(r"\bhalf a dozen\b", "6", text, flags=re.IGNORECASE)
    text = re.sub(_HALF_OF_UNIT.pattern.replace("{unit}", unit), "0.5 ", text, flags=re.IGNORECASE)
    text = re.sub(r"\{1/2\}\s+(?:an?\s+)?(?=" + unit + ")", "0.5 ", text, flags=re.IGNORECASE)
    text = _FRACTION_WORD.sub(_fraction, text)
    text = re.sub(r"\b(?:one |a )?half\b", "{1/2}", text, flags=re.IGNORECASE)
    text = _COMPOUND.sub(lambda found: str(_WORDS[found[1].casefold()] + _WORDS[found[2].casefold()]), text)
    text = _NUMBER_WORD.sub(lambda found: str(_WORDS[found[1].casefold()]), text)
    text = _MORE_THAN_TWO.sub(r"\1:", text)
    text = _PAIR.sub(r"\1:\2", text)
    return " ".join(re.sub(rf"\ban?\s+(?={unit})", "1 ", text, flags=re.IGNORECASE).split())


def _whole_and(found: re.Match[str], more: float) -> str:
    return f"{int(found[1]) + more:g}"


def _and_a_half(found: re.Match[str]) -> str:
    whole = _WORDS.get(found[1].casefold()) or (int(found[1]) if found[1].isdigit() else None)
    return found[0] if whole is None else f"{whole + 0.5:g}"


def _fraction(found: re.Match[str]) -> str:
    count = (found[1] or "a").casefold()
    return f"{{{_WORDS.get(count, 1)}/{_PARTS[found[2].casefold()]}}}"


def value_of(text: str) -> float:
    """The value of figures or of a fraction in braces."""
    if text.startswith("{"):
        return float(Fraction(text.strip("{}")))
    return float(text.replace(",", "."))
