"""How wide the sheets of a plan are: those near the chosen one open, the others folded, so that the whole plan is seen at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate

from lean_sepia.answers.working.evening_sheets import EveningSheet

OPEN, _MOST = 162.0, 300.0
"""How wide a sheet is that is open, at the least and at the most."""
NUMBERED = 34.0
"""How wide a folded sheet is that has room for numbers."""
_FURTHER, _SHEET, _NIGHT = (5.0, 15.0), (20.0, NUMBERED), (9.0, 32.0)
"""The least and the usual room for each night after the first, for a folded sheet, and for a night."""


@dataclass(frozen=True)
class Spread:
    """Where sheets begin and how wide they are; night, further : the room of one night between two, and of each after it."""

    lefts: tuple[float, ...]
    widths: tuple[float, ...]
    night: float
    further: float


def least_width(sheets: Sequence[EveningSheet]) -> float:
    """How wide a plan is with all but one sheet folded as far as they go."""
    between = max(0, len(sheets) - 1)
    return OPEN + between * (_SHEET[0] + _NIGHT[0]) + _further(sheets) * _FURTHER[0]


def spread(sheets: Sequence[EveningSheet], width: float, chosen: int) -> Spread:
    """The sheets in a width: the chosen one is open, and as many around it as there is room for, later ones first.

    Room goes first to the dates of empty evenings, then to the numbers on folded sheets and to what is written on nights.
    """
    if not sheets:
        return Spread((), (), _NIGHT[1], _FURTHER[1])
    free, between = max(0.0, width - least_width(sheets)), len(sheets) - 1
    further, free = _grown(_FURTHER, free, _further(sheets))
    folded, free = _grown(_SHEET, free, between)
    night, free = _grown(_NIGHT, free, between)
    by_nearness = sorted(range(len(sheets)), key=lambda place: (abs(place - chosen), -place))
    opened = set(by_nearness[: 1 + int(free // (OPEN - folded))])
    free -= (len(opened) - 1) * (OPEN - folded)
    each = min(_MOST, OPEN + free / len(opened))
    widths = [each if place in opened else folded for place in range(len(sheets))]
    gaps = [0.0, *(night + further * max(0, sheet.nights - 1) for sheet in sheets[1:])]
    lefts = accumulate(gap + before for gap, before in zip(gaps, [0.0, *widths[:-1]], strict=True))
    return Spread(tuple(lefts), tuple(widths), night, further)


def _further(sheets: Sequence[EveningSheet]) -> int:
    """All nights between sheets but the first of each."""
    return sum(max(0, sheet.nights - 1) for sheet in sheets[1:])


def _grown(bounds: tuple[float, float], free: float, count: int) -> tuple[float, float]:
    """The size of each of so many things with the room that is free, and what is left of it."""
    least, usual = bounds
    more = min(usual - least, free / count) if count else usual - least
    return least + more, free - more * count
