"""Mixes spoken piece by piece: "3 sand + 1 ochre", "buff 70–80 %, straw 15 %, the rest rust", "base + 2 dollops of fog grey".

A grammar of terms: how much of what, in any order and unit. What can be compared is; what a phrase leaves open stays open. The customs
of speech are common practice, no source.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from lean_sepia.language import N_, _
from lean_sepia.recipe.parts import BRUSH_LOAD_ML, DOLLOP_ML, DROPS_PER_ML
from lean_sepia.recipe.phrases.figures import FRACTION, NUMBER, in_figures, value_of

Bound = Literal["", "least", "most"]
_UNITS: dict[str, tuple[str, str]] = {
    "%": (r"%|per\s?cents?|pct", "%"), "part": (r"parts?|portions?|shares?|x", "parts"), "drop": (r"drops?|drips?", "drops"),
    "dollop": (r"dollops?|blobs?|dabs?", "dollops"), "brush-load": (r"brush[\s-]?loads?|brush[\s-]?fuls?|brushes", "brush-loads"),
    "ml": (r"ml|millilit(?:re|er)s?|cc", "ml"), "g": (r"g|grams?|grammes?", "g"), "measure": (r"measures?|scoops?|spoon(?:ful)?s?", "measures"),
    "pinch": (r"pinch(?:es)?", "pinches"), "bead": (r"beads?", "beads"),
}  # fmt: skip
UNIT = "(?:" + "|".join(pattern for pattern, _words in _UNITS.values()) + r")(?![\w-])"
_ML = {"drop": 1 / DROPS_PER_ML, "dollop": DOLLOP_ML, "brush-load": BRUSH_LOAD_ML, "ml": 1.0}
"""What is known of them in millilitres; a drop is the bottle's own where that is known."""

VAGUE = r"a few|a bit|a little(?: bit)?|a splash|a touch|a dash|a hint|a trace|a spot|a tad|a smidgen|some|several|plenty|a lot|lots|enough"
_LEAST = r"at least|not less than|no less than|not under|min(?:imum)?\.?|more than|over|upwards of"
_MOST = r"at most|not more than|no more than|not over|max(?:imum)?\.?|less than|under|up to"
_ABOUT = r"about|around|roughly|approx(?:imately)?\.?|ca\.?|circa|some|maybe|perhaps|nearly|almost|~|≈"
_RANGE = rf"{NUMBER}\s*(?:-|–|—|to|or|bis)\s*{NUMBER}|between\s+{NUMBER}\s+and\s+{NUMBER}"
_QUANTITY = rf"(?:(?:{_ABOUT})\s*)?(?:(?P<least>≥)|(?P<most>≤))?(?:(?:{_ABOUT})\s*)?(?P<figure>{FRACTION}|{NUMBER}~{NUMBER}|{NUMBER})\s*(?P<unit>{UNIT})?"
_REST = r"the rest(?: of (?:it|the (?:cup|mix)))?|the remainder|the remaining|rest|remainder|the balance|top(?:ped)? up(?: with)?|fill(?:ed)? up(?: with)?"
_UNIT_OF_RANGE = rf"(?={UNIT}|\s*[^\d\s:])"
_PER = rf"(?:per|for (?:each|every)|to (?:each|every))\s+(?:(?={UNIT})|(?=[^\d\s]))"

_RANGE_FOUND = re.compile(
    rf"between\s+({NUMBER})\s+and\s+({NUMBER})|({NUMBER})\s*(?:[-–—]|\bor\b)\s*({NUMBER})|({NUMBER})\s+to\s+({NUMBER})(?=\s*{UNIT})",
    re.IGNORECASE,
)
_BREAK = re.compile(
    r"\s*(?:[+;&:]|,(?!\d)|,\s+|\bplus\b|\band\b|\bto\b|\bwith\b|\bin\b|\binto\b|\bagainst\b)\s*",
    re.IGNORECASE,
)
_FIRST = re.compile(
    rf"^\s*(?:(?P<vague>{VAGUE})\b\s*(?P<vunit>{UNIT})?|(?P<rest>{_REST})\b|{_QUANTITY})\s*(?:(?:of|is|are)\b\s*)?(?P<name>.*)$",
    re.IGNORECASE,
)
_LAST = re.compile(
    rf"^\s*(?P<name>.+?)\s*[=(]?\s*(?:(?P<rest>{_REST})\b|{_QUANTITY})\s*\)?\s*$", re.IGNORECASE
)
_QUANTITIES = re.compile(rf"(?:{FRACTION}|{NUMBER}(?:~{NUMBER})?)\s*(?:{UNIT})?", re.IGNORECASE)
_LEADING = re.compile(r"^(?:the|a|an|of|more|extra|then|and|with)\s+", re.IGNORECASE)
_BEGIN = re.compile(
    r"^\s*(?P<verb>(?:thin(?:ned)?|dilut(?:e|ed)|reduced?)\b)?(?(verb)(?:\s+(?:it|down|with|by|to|at))*|(?:mix(?:ed)?(?:\s+(?:of|from|with))?|use|take|add|stir in|put)\b(?=\s))\s*",
    re.IGNORECASE,
)
_ALL = 0.995
_CUPS = ("jar", "cup", "pot", "bottle", "lid", "cap", "palette")
"""What a drop of paint falls into holds thinner."""
_SLASHED = re.compile(r"(?<![\d/:.,])(\d{1,2}/\d{1,2})(?![\d/:.,])(?=\s*[^\W\d_])")
_BEFORE_FIGURE = re.compile(rf"(?<=[^\W\d_])\s*[:/]\s*(?={FRACTION}|{NUMBER})")
_MOST_OF_RATIO = 3.0  # "1 to 20 drops" is a ratio, "2 to 3 drops" a range


@dataclass(frozen=True)
class Term:
    """How much of what, as it was said.

    low, high : the figure, or both ends of a range; None where it was left open
    unit : a name of the table of units, "share" of a fraction of the whole, "" where none was said; rest : whatever is left; vague : "a little", "some"
    """

    name: str
    low: float | None = None
    high: float | None = None
    unit: str = ""
    bound: Bound = ""
    rest: bool = False
    vague: bool = False

    @property
    def says(self) -> bool:
        """Whether it tells an amount, if only a vague one."""
        return self.low is not None or self.rest or self.vague

    @property
    def value(self) -> float | None:
        """The figure; the middle of a range."""
        return None if self.low is None or self.high is None else (self.low + self.high) / 2

    @property
    def of_the_whole(self) -> bool:
        """Whether it is told as a share of all there is."""
        return self.unit in ("%", "share")

    @property
    def words(self) -> str:
        """The term in words."""
        if self.rest:
            return _("the rest {0}").format(self.name)
        if self.low is None or self.high is None:
            return self.name
        scale = 100 if self.unit == "share" else 1
        figure = (
            f"{scale * self.low:.3g}"
            if self.low == self.high
            else f"{scale * self.low:g} – {scale * self.high:g}"
        )
        named = _UNITS[self.unit][1] if self.unit in _UNITS and self.high != 1 else self.unit
        unit = {"share": " %", "": "", "part": ""}.get(self.unit, f" {named}")
        bound = {"": "", "least": N_("at least"), "most": N_("at most")}[self.bound]
        return " ".join(word for word in (_(bound) if bound else "", f"{figure}{unit}", self.name) if word)


def prepared(phrase: str) -> tuple[str, bool]:
    """A phrase in figures, its ranges as "2~3", without the verb it begins with; and whether that verb was one of thinning."""
    text = in_figures(phrase, UNIT)
    found = _BEGIN.match(text)
    thinning = bool(found and found["verb"] and text[: found.end()].strip())
    text = text[found.end() :] if found and found.end() else text
    text = re.sub(r"\bas much\s+(.+?)\s+as\s+(.+)", r"1 \1 + 1 \2", re.sub(
        rf"\b(?:(twice)|({NUMBER}) times)\s+as much\s+(.+?)\s+as\s+(.+)",
        lambda at: f"{2 if at[1] else at[2]} {at[3]} + 1 {at[4]}", text, flags=re.IGNORECASE), flags=re.IGNORECASE)  # fmt: skip
    text = re.sub(_PER, ": 1 ", text, flags=re.IGNORECASE)
    for sign, words in (("≥", _LEAST), ("≤", _MOST)):
        text = re.sub(
            rf"(?<![\w])(?:{words})\s*(?:(?:{_ABOUT})\s*)?(?={FRACTION}|{NUMBER})",
            sign,
            text,
            flags=re.IGNORECASE,
        )
    if len(_SLASHED.findall(text)) > 1:  # one alone may be a ratio
        text = _SLASHED.sub(r"{\1}", text)
    text = _BEFORE_FIGURE.sub(lambda at: " " if ":" in at[0] else ", ", text)
    return _RANGE_FOUND.sub(_range, text).strip(" .;,"), thinning


def _range(found: re.Match[str]) -> str:
    low, high = (text for text in found.groups() if text is not None)
    first, second = value_of(low), value_of(high)
    said_as_range = found[1] is not None or "or" in found[0].casefold()
    behind = found.string[found.end() :]
    if not said_as_range and not re.match(rf"\s*{UNIT}", behind, re.IGNORECASE):
        return found[0]
    if second < first or (not said_as_range and second > _MOST_OF_RATIO * max(first, 1e-9)):
        return found[0]
    return f"{low}~{high}"


def terms_of(text: str) -> list[Term]:
    """The terms of a prepared phrase; empty where it is not spoken piece by piece."""
    terms = []
    for chunk in _BREAK.split(text):
        for piece in _pieces(chunk.strip(" .()")):
            term = _term(piece)
            if term is None:
                return []
            terms.append(term)
    return terms


def _pieces(chunk: str) -> list[str]:
    """A chunk cut where a quantity begins or ends, as it names first the one or the other."""
    found = [at for at in _QUANTITIES.finditer(chunk) if at[0].strip()]
    if len(found) < 2:
        return [chunk]
    if found[0].start() == 0:
        cuts = [at.start() for at in found] + [len(chunk)]
    else:
        cuts = [0, *(at.end() for at in found[:-1]), len(chunk)]
    return [chunk[a:b].strip() for a, b in pairwise(cuts)]


def _term(piece: str) -> Term | None:
    found = _FIRST.match(piece) or _LAST.match(piece)
    if found is None:
        name = _clean(piece)
        return Term(_thing(name)) if name else None
    said = found.groupdict()
    name = _clean(said["name"])
    if said.get("rest"):
        return Term(_thing(name), rest=True) if name else None
    if said.get("vague"):
        unit = _unit(said.get("vunit"))
        name = name or ("paint" if unit else "")
        return Term(_thing(name), unit=unit, vague=True) if name else None
    value = said["figure"]
    unit = "share" if value.startswith("{") and not said["unit"] else _unit(said["unit"])
    low, _between, high = value.partition("~")
    if value.startswith("{") and unit != "share":
        unit, low = unit, low
    if not name and unit in _ML:
        name = "paint"
    if not name:
        return None
    bound: Bound = "least" if said["least"] else "most" if said["most"] else ""
    return Term(_thing(name), value_of(low), value_of(high or low), unit, bound)


def _thing(name: str) -> str:
    return "thinner" if name.casefold() in _CUPS else name


def _clean(name: str | None) -> str:
    words = (name or "").strip(" .,-–()=")
    while (shorter := _LEADING.sub("", words)) != words:
        words = shorter
    return words.strip() if re.search(r"[^\W\d_]", words) else ""


def _unit(written: str | None) -> str:
    if not written:
        return ""
    return next(
        name for name, (pattern, _w) in _UNITS.items() if re.fullmatch(pattern, written, re.IGNORECASE)
    )


def usual_rate(_name: str) -> float:
    """Drops in a millilitre where the bottle's own figure is not known."""
    return DROPS_PER_ML


Rate = Callable[[str], float]


def shares_of(terms: Sequence[Term], rate: Rate = usual_rate) -> tuple[float | None, ...] | None:
    """The volume share of each term, None where the phrase does not say enough; None in all where they cannot be.

    rate : drops in a millilitre of what a term names; per cent and fractions are of the whole
    """
    if any(term.value is not None and term.value <= 0 for term in terms):
        return None
    whole = [term for term in terms if term.of_the_whole]
    rest = [term for term in terms if term.rest]
    if whole or rest:
        return _with_the_whole(terms, whole, rest)
    amounts = _comparable(terms, rate)
    if amounts is None or any(amount is None for amount in amounts):
        return (None,) * len(terms)
    total = sum(amount or 0.0 for amount in amounts)
    return tuple((amount or 0.0) / total for amount in amounts)


def _comparable(terms: Sequence[Term], rate: Rate) -> list[float | None] | None:
    """All amounts in one measure, None of what is left open; None in all where there is none."""
    units = {"" if term.unit == "part" else term.unit for term in terms if term.value is not None}
    if units <= set(_ML):
        return [_ml(term, rate) for term in terms]
    return [term.value for term in terms] if len(units) <= 1 else None


def _ml(term: Term, rate: Rate) -> float | None:
    if term.value is None:
        return None
    return term.value / rate(term.name) if term.unit == "drop" else term.value * _ML[term.unit]


def _with_the_whole(
    terms: Sequence[Term], whole: Sequence[Term], rest: Sequence[Term]
) -> tuple[float | None, ...] | None:
    """Shares where some are told as shares of the whole: what is left is the rest's; beside it others stay open."""
    told = sum((term.value or 0.0) / (100 if term.unit == "%" else 1) for term in whole)
    plain = [term for term in terms if not term.says]
    if (
        len(plain) == 1 and not rest and len(whole) == len(terms) - 1 and told < _ALL
    ):  # "5 % black in sand": the rest is sand
        rest = plain
    others = [term for term in terms if not term.of_the_whole and term not in rest]
    if (
        told > 2 - _ALL
        or len(rest) > 1
        or (rest and told > _ALL)
        or any(t.value is not None and t.unit in ("", "part") for t in others)
    ):
        return None
    open_rest = bool(others) or not whole
    return tuple(
        (term.value or 0.0) / (100 if term.unit == "%" else 1) if term.of_the_whole
        else 1 - told if term in rest and not open_rest else None
        for term in terms
    )  # fmt: skip


def what_is_open(terms: Sequence[Term], shares: Sequence[float | None]) -> str:
    """What a phrase leaves open, in words."""
    said = " + ".join(term.words for term in terms)
    open_ones = [
        term.name for term, share in zip(terms, shares, strict=True) if share is None and term.value is None
    ]
    if open_ones:
        return _("{0}: how much {1} it does not say").format(said, _(" and ").join(open_ones))
    return _("{0}: how large one is beside the other it does not say").format(said)
