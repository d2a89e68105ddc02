"""A few recipes worth choosing between, each with a reason to take it."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Sequence
from dataclasses import dataclass
from math import hypot
from typing import TypeVar

import numpy.typing as npt

from lean_sepia.errors import ShelfError
from lean_sepia.language import N_
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import Paint
from lean_sepia.recipe.mix import MixSolver, Recipe, one_per_bottle_set

_FORGIVING_WITHIN_DE00 = 1.0
Option = TypeVar("Option")


@dataclass(frozen=True)
class Choice:
    """One recipe and why it is offered."""

    title: str
    recipe: Recipe
    pinned: bool = False


def base_paints(paints: Sequence[Paint]) -> list[Paint]:
    """Paints for a base: those that mix, without artist's oils where there is anything else (practice)."""
    wet = [paint for paint in paints if paint.mixes]
    return [paint for paint in wet if not MEDIA[paint.medium].tube] or wet


def offer(
    solver: MixSolver,
    ranked: Sequence[Recipe],
    target: npt.ArrayLike,
    pinned: Sequence[tuple[str, int]] | None = None,
    count: int = 3,
    half90: npt.ArrayLike | None = None,
) -> list[Choice]:
    """Up to `count` choices: what is pinned, the closest, the best ranked, fewest bottles, the most forgiving."""
    sets = one_per_bottle_set(ranked)
    choices: list[Choice] = []
    if pinned:
        try:
            choices.append(Choice(N_("pinned"), solver.recipe(pinned, target, half90), pinned=True))
        except ShelfError:
            choices = []  # a bottle of it is no longer on the shelf
    closest = min(ranked, key=lambda r: r.de00)
    candidates = [(N_("nearest"), closest), (N_("simpler"), sets[0])]
    if closest.expected_de00 is not None:
        # Least wrong for both that are not known: where in its range the truth lies, and a drop that goes astray.
        candidates.append(
            (N_("surest"), min(sets, key=lambda r: hypot(r.expected_de00 or 0.0, r.one_drop_de00)))
        )
    few = [r for r in sets if len(r.parts) < len(closest.parts)]
    if few:
        candidates.append((N_("fewest bottles"), min(few, key=lambda r: (len(r.parts), r.de00))))
    near = [r for r in sets if r.de00 <= closest.de00 + _FORGIVING_WITHIN_DE00]
    candidates.append((N_("most forgiving"), min(near, key=lambda r: r.one_drop_de00)))
    candidates += [(N_("another"), recipe) for recipe in sets]
    for title, recipe in candidates:
        if len(choices) < count and all(set(c.recipe.parts) != set(recipe.parts) for c in choices):
            choices.append(Choice(title, recipe))
    return choices


def various(
    found: Iterable[Option], paints_in: Callable[[Option], Collection[str | None]], most: int
) -> list[Option]:
    """The first of several options, best first, but none whose own paint, the first in it, is in two before it."""
    shown: list[Option] = []
    for option in found:
        own = next(iter(paints_in(option)))
        if sum(own in paints_in(other) for other in shown) < 2:
            shown.append(option)
    return shown[:most]
