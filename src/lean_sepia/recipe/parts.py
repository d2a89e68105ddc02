"""Whole parts: every proportion counted once, and drops and millilitres from them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from math import gcd

import numpy as np

from lean_sepia.arrays import IntArray
from lean_sepia.language import _, ngettext

MOST_COUNTED_DROPS = 12
"""More drops than that nobody counts: they are given in millilitres (practice)."""

NOZZLE_MM = 5.0
"""Width of the nozzle of a tube, from which paint comes as a bead (practice)."""

_NOZZLE_MM2 = math.pi * NOZZLE_MM**2 / 4
_SHORT = 0.25  # of a drop of the smallest part may be missing: the reserve covers it
_LEAST_BEAD_MM = 1.0
_FEW = 40  # drops of the largest part up to which the whole is rounded to whole drops of every part
BRUSH_LOAD_ML, DOLLOP_ML = 0.05, 0.15
"""What a loaded brush carries, and a dollop on it (practice)."""

CAN_ML_PER_S = 0.8
"""What a spray can gives in a second (practice)."""

DROPS_PER_ML = 20.0
"""Drops of thinned paint in a millilitre where the bottle's own figure is not known (practice)."""


@cache
def proportions(paints: int, most: int) -> IntArray:
    """Every proportion (m, paints) of whole parts, each at least 1, that sum to at most `most`, reduced.

    >>> len(proportions(2, 4)), proportions(1, 10).tolist()
    (5, [[1]])
    """
    rows = np.ones((1, 0), dtype=np.int64)
    for done in range(paints):
        left = most - rows.sum(axis=1) - (paints - done - 1)
        counts = np.maximum(left, 0)
        repeated = np.repeat(rows, counts, axis=0)
        ends = np.cumsum(counts)
        part = np.arange(1, counts.sum() + 1) - np.repeat(ends - counts, counts)
        rows = np.column_stack([repeated, part])
    return rows[np.gcd.reduce(rows, axis=1) == 1] if paints else rows


def reduced(parts: Sequence[int]) -> tuple[int, ...]:
    """The same proportion in its smallest whole parts.

    >>> reduced([10, 4, 2])
    (5, 2, 1)
    """
    divisor = gcd(*parts)
    return tuple(part // divisor for part in parts)


def stray_drops(parts: Sequence[int] | IntArray, most: int, cup_drops: int | None = None) -> IntArray:
    """Parts (m, n) as they come out when one part too many or too few of one paint goes in.

    With the drops in the cup known, the mistake is one of them; without, one part at the largest multiple that fits `most`
    parts.
    """
    base = np.array(parts, dtype=np.int64)
    base //= np.gcd.reduce(base)
    total = int(base.sum())
    base = base * max(1, round(cup_drops / total) if cup_drops else most // total)
    steps = np.vstack([np.eye(base.size, dtype=np.int64), -np.eye(base.size, dtype=np.int64)])
    strayed = base + steps
    return strayed[strayed.sum(axis=1) > 0]


@dataclass(frozen=True)
class Measured:
    """How one part of a mixture is measured out: millilitres, and drops where they are few enough to count.

    bead_mm : of paint from a tube, the length of the bead that is squeezed out; spray_s : of a can, the seconds it sprays
    """

    ml: float
    drops: int | None = None
    bead_mm: float | None = None
    spray_s: float | None = None


def drops_measured(count: int, drops_per_ml: float = DROPS_PER_ML) -> Measured:
    """So many drops, as they are counted or, where they are too many, measured."""
    return Measured(count / drops_per_ml, count if count <= MOST_COUNTED_DROPS else None)


def bead_mm_of(ml: float) -> float:
    """The length of a bead of so much from the tube."""
    return round(ml * 1000 / _NOZZLE_MM2, 1)


def sprayed_out(ml: float) -> Measured:
    """What a can gives, as the seconds that it sprays.

    >>> sprayed_out(4.0).spray_s
    5.0
    """
    return Measured(ml, spray_s=ml / CAN_ML_PER_S)


def measure_out(parts: Sequence[int], paint_ml: float, rates: Sequence[float | None]) -> tuple[Measured, ...]:
    """How each part of a mixture is measured out for about `paint_ml` of it; at least one drop, or a
    millimetre of bead, of the smallest part.

    rates : drops in a millilitre of each paint; None for paint from a tube, which does not drip

    >>> [one.drops for one in measure_out([5, 2, 1], 0.8, [20, 20, 20])]
    [10, 4, 2]
    >>> measure_out([1], 0.5, [None])[0].bead_mm
    25.5
    """
    base = reduced(parts)
    whole = sum(base)
    unit_ml = paint_ml / whole
    drip = [rate for rate in rates if rate]
    if (
        drip
        and unit_ml * max(part for part, rate in zip(base, rates, strict=True) if rate) * max(drip) <= _FEW
    ):
        usual = sum(drip) / len(drip)
        unit_ml = max(1, math.ceil(unit_ml * usual - _SHORT)) / usual
    answer = []
    if not drip:
        unit_ml = max(unit_ml, _LEAST_BEAD_MM * _NOZZLE_MM2 / 1000)
    for part, rate in zip(base, rates, strict=True):
        ml = part * unit_ml
        if rate is None:
            answer.append(Measured(ml, bead_mm=bead_mm_of(ml)))
        else:
            drops = max(1, round(ml * rate))
            answer.append(Measured(ml, drops if drops <= MOST_COUNTED_DROPS else None))
    return tuple(answer)


def volume_words(ml: float) -> str:
    """A volume as it is counted or measured, at least a drop.

    >>> volume_words(0.01), volume_words(1.42)
    ('1 drop', '1.4 ml')
    """
    drops = round(ml * DROPS_PER_ML)
    if drops <= MOST_COUNTED_DROPS:
        return ngettext("{0} drop", "{0} drops", max(1, drops)).format(max(1, drops))
    return _("{0} ml").format(f"{ml:.1f}")
