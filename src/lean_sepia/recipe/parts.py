"""Whole parts: every proportion counted once, and drops and millilitres from them."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from math import gcd

import numpy as np

from lean_sepia.arrays import IntArray

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


def drops_for(parts: Sequence[int], volume_ml: float, drops_per_ml: float = DROPS_PER_ML) -> tuple[int, ...]:
    """Whole drops of each paint for about a volume, the proportion kept exactly.

    >>> drops_for([5, 2, 1], 6.0)
    (75, 30, 15)
    """
    base = reduced(parts)
    multiple = max(1, round(volume_ml * drops_per_ml / sum(base)))
    return tuple(part * multiple for part in base)
