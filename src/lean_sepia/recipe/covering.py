"""What takes a colour to its target where the ground shines through: more coats, or a primer of the shelf below it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.errors import ShelfError
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import Paint, mixed
from lean_sepia.recipe.mix import MixSolver, Recipe

MOST_COATS = 12
"""Nobody lays more (practice)."""
_NEAR_DE00 = 1.0  # what counts as reached, beside what the opaque paint misses by
_GAINS_DE00 = 1.0  # what an opaque coat must gain for the ground to be to blame
_PRIMER = film_thickness(2, 0.5)  # as a primer is usually laid


@dataclass(frozen=True)
class Covered:
    """How a target is reached over a ground that shines through.

    opaque : the recipe that does it where nothing shines through; coats : of it in which it does here, None where no number does
    primer : the primer below which the coats there are suffice, and how near they come; None where none helps
    """

    opaque: Recipe
    coats: int | None
    primer: tuple[Paint, float] | None


def what_covers(
    paints: Sequence[Paint],
    primers: Sequence[Paint],
    target: npt.ArrayLike,
    best: Recipe,
    laying: Laying,
    coats: int,
    max_paints: int = 3,
) -> Covered | None:
    """What helps where the ground is to blame for a miss; None where it is not.

    best : the nearest as it is laid now, in so many coats of the laying's film; primers : what may lie below
    """
    if laying.ground is None or coats < 1:
        return None
    goal = np.asarray(target, dtype=float)
    thick = replace(laying, ground=None, beside=())
    opaque = min(MixSolver(paints, thick, max_paints=max_paints).solve(goal, 5), key=lambda one: one.de00)
    if opaque.de00 > best.de00 - _GAINS_DE00:
        return None
    known = {paint.id: paint for paint in paints}
    made = mixed([known[name] for name, _count in opaque.parts], [count for _name, count in opaque.parts])
    counts = np.arange(coats + 1, MOST_COATS + 1)
    films = np.asarray(laying.X) * counts[:, None] / coats
    away = delta_e00(replace(laying, X=films).lab(made), goal)
    near = np.flatnonzero(away <= opaque.de00 + _NEAR_DE00)
    enough = int(counts[near[0]]) if len(near) else None
    return Covered(opaque, enough, _primed(paints, primers, goal, best, laying))


def _primed(
    paints: Sequence[Paint],
    primers: Sequence[Paint],
    goal: npt.NDArray[np.float64],
    best: Recipe,
    laying: Laying,
) -> tuple[Paint, float] | None:
    """The primer over which the same coats come nearest, where that is markedly nearer."""
    found = []
    for primer in primers:
        ground = Laying(laying.ground, _PRIMER).internal(primer)
        try:
            over = MixSolver(paints, replace(laying, ground=ground), max_paints=2).solve(goal, 1)[0]
        except ShelfError:
            continue
        found.append((primer, over.de00))
    nearest = min(found, key=lambda one: one[1], default=None)
    return nearest if nearest is not None and nearest[1] <= best.de00 - _GAINS_DE00 else None
