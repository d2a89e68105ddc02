"""Mixes spoken piece by piece: "3 sand + 1 ochre", "80 % A, 15 % B, 5 % C", "base + 3 dollops of white".

The customs of speech are common practice, no source.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from lean_sepia.language import _

NUMBER = r"(?<![0-9.,])[0-9]{1,7}(?:[.,][0-9]{1,6})?(?![0-9])"
_UNIT = r"%|per\s?cent|parts?|drops?|dollops?|blobs?|measures?|pinch(?:es)?|brush(?:es|fuls?)?|ml"
_VAGUE = r"a few|a bit|a little|a splash|a touch|a dash|a hint|some|several|plenty"
_PIECE = re.compile(
    rf"(?:(?P<count>{NUMBER})|(?P<vague>{_VAGUE}))?\s*(?P<unit>{_UNIT})?\s*(?:of\s+)?(?P<name>[^0-9%:/+]*)",
    re.IGNORECASE,
)
_CUPS = ("jar", "cup", "pot", "bottle", "lid", "cap")
"""What a drop of paint falls into holds thinner."""
_BETWEEN = re.compile(r"\s*(?:[+,;&:]|\band\b|\bto\b|\bwith\b|\bin\b|\binto\b)\s*", re.IGNORECASE)
_BEFORE_PER_CENT = re.compile(rf"(?<=[\w)])\s+(?={NUMBER}\s*(?:%|per))", re.IGNORECASE)
_HALF_A = re.compile(rf"\bhalf an?\s+(?={_UNIT})", re.IGNORECASE)
_ONE_OF = re.compile(rf"\ban?\s+(?={_UNIT})", re.IGNORECASE)
_WORDS = {
    "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10, "eleven": 11,
    "twelve": 12, "fifteen": 15, "twenty": 20, "thirty": 30, "forty": 40, "fifty": 50, "sixty": 60, "eighty": 80, "ninety": 90,
}  # fmt: skip
_NUMBER_WORD = re.compile(
    rf"\b({'|'.join(_WORDS)})\b(?![\s-]+(?:thirds?|quarters?|fifths?|tenths?|hal(?:f|ves))\b)", re.IGNORECASE
)
_FIFTY_FIFTY = re.compile(rf"({NUMBER})\s*[-–]\s*(?={NUMBER})")


def in_figures(phrase: str) -> str:
    """A phrase with its number words as figures and one way to write a pair: "nine to one" is "9 to 1", "50-50" is "50:50"."""
    text = " ".join(phrase.replace("∶", ":").split())
    text = re.sub(r"\bequal parts\b", "1:1", text, flags=re.IGNORECASE)
    text = _NUMBER_WORD.sub(lambda found: str(_WORDS[found[1].casefold()]), text)
    text = _FIFTY_FIFTY.sub(r"\1:", text)
    return _ONE_OF.sub("1 ", _HALF_A.sub("0.5 ", text))


@dataclass(frozen=True)
class Piece:
    """One part of a mix as it was said: how many of which unit, None where that was left open, and of what."""

    count: float | None
    unit: str
    name: str

    @property
    def words(self) -> str:
        """The piece in words."""
        if self.count is None:
            return self.name
        return (
            f"{self.count:g} {self.unit} {self.name}" if self.unit == "%" else f"{self.count:g} {self.name}"
        )


def pieces_of(text: str) -> list[Piece]:
    """The pieces of a phrase in figures; empty where it is not spoken piece by piece."""
    pieces = []
    for part in _BETWEEN.split(_BEFORE_PER_CENT.sub(", ", text)):
        found = _PIECE.fullmatch(part.strip(" .()"))
        if found is None:
            return []
        name = _clean(found["name"])
        if name.casefold() in _CUPS:
            name = "thinner"
        elif not name and found["vague"]:
            name = "paint"
        if not name:
            return []
        count = float(found["count"].replace(",", ".")) if found["count"] else None
        pieces.append(Piece(count, _unit(found["unit"]), name))
    said = any(piece.count is not None for piece in pieces) or re.search(
        rf"\b(?:{_VAGUE})\b", text, re.IGNORECASE
    )
    return pieces if len(pieces) > 1 and said else []


def _clean(name: str | None) -> str:
    words = re.sub(r"^(?:the|a|an|of)\s+", "", (name or "").strip(" .,-–()"), flags=re.IGNORECASE)
    return words.strip()


def _unit(written: str | None) -> str:
    unit = (written or "").casefold().replace(" ", "")
    return "%" if unit in ("%", "percent") else unit.rstrip("s")


def shares_of(pieces: list[Piece]) -> tuple[float | None, ...] | None:
    """The volume share of each piece, None where the phrase does not say enough; None in all where they cannot be.

    Per cent are of the whole; whatever else they are counted in is taken to be of one size.
    """
    counts = [piece.count for piece in pieces]
    units = {piece.unit for piece in pieces if piece.count is not None} - {"", "part"}
    if any(count == 0 for count in counts) or ("%" in units and len({piece.unit for piece in pieces}) > 1):
        return None
    if any(count is None for count in counts) or len(units) > 1:
        return (None,) * len(pieces)
    total = sum(count or 0.0 for count in counts)
    if "%" in units:
        return tuple((count or 0.0) / 100 for count in counts) if total < 100.5 else None
    return tuple((count or 0.0) / total for count in counts)


def what_is_open(pieces: list[Piece]) -> str:
    """What a phrase leaves open, in words."""
    open_ones = [piece.name for piece in pieces if piece.count is None]
    said = " + ".join(piece.words for piece in pieces)
    if open_ones:
        return _("{0}: how much {1} it does not say").format(said, _(" and ").join(open_ones))
    return _("{0}: how large one is beside the other it does not say").format(said)
