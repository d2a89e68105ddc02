"""What a recipe may be made of."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from lean_sepia.arrays import BoolArray, IntArray
from lean_sepia.errors import ShelfError
from lean_sepia.language import _
from lean_sepia.paint.media import media_mix
from lean_sepia.paint.paint import Paint


@dataclass(frozen=True)
class Limits:
    """What a recipe may be made of: by paint id, and how much is left of a bottle for a batch of a volume.

    only : paints to choose among; None for the whole shelf
    must : paints that every recipe contains
    """

    only: frozenset[str] | None = None
    forbid: frozenset[str] = frozenset()
    must: frozenset[str] = frozenset()
    stock_ml: Mapping[str, float] = field(default_factory=dict)
    volume_ml: float = 0.0


NO_LIMITS = Limits()


def usable(paints: Sequence[Paint], limits: Limits, max_paints: int) -> list[Paint]:
    """The paints that may be mixed under the limits."""
    wet = [paint for paint in paints if paint.mixes]
    if not wet:
        raise ShelfError(
            _(
                "No paint on this shelf can be mixed: metallics, loose pigment and pastel are laid alone. Add at least one flat, satin or gloss paint."
            )
        )
    names = {paint.id for paint in wet}
    for name in sorted(limits.must | limits.forbid | (limits.only or frozenset())):
        if name not in names:
            raise ShelfError(
                _("{0!r} is not a paint on this shelf that can be mixed. Check its id.").format(name)
            )
    for name in sorted(limits.must):
        if name in limits.forbid or (limits.only is not None and name not in limits.only):
            raise ShelfError(
                _("{0!r} must be in the recipe and is ruled out of it. Take one of the two back.").format(
                    name
                )
            )
    if len(limits.must) > max_paints:
        raise ShelfError(
            _("{0} paints must be in the recipe, which may have {1}. Allow more, or ask for fewer.").format(
                len(limits.must), max_paints
            )
        )
    left = [
        paint
        for paint in wet
        if paint.id not in limits.forbid and (limits.only is None or paint.id in limits.only)
    ]
    if not left:
        raise ShelfError(_("Every paint that can be mixed is ruled out. Allow at least one."))
    if all(paint.body == "clear" for paint in left):
        raise ShelfError(
            _("What is left to mix is clear and has no colour. Put a paint on the shelf, or allow one.")
        )
    return left


def sought(paints: Sequence[Paint], limits: Limits) -> BoolArray:
    """Which paints (n,) recipes are made of: primers, washes, clear media and empty bottles only where they are asked for, or where there is nothing else."""
    asked = limits.must | (limits.only or frozenset())
    sought = np.array([paint.proposed or paint.id in asked for paint in paints])
    return sought if sought.any() else ~sought


def mixing_groups(paints: Sequence[Paint]) -> IntArray:
    """A number (n,) for each paint; those with the same number can be stirred together."""
    kinds: list[str] = []
    groups = []
    for paint in paints:
        like = next((i for i, medium in enumerate(kinds) if media_mix(medium, paint.medium)), None)
        if like is None:
            like = len(kinds)
            kinds.append(paint.medium)
        groups.append(like)
    return np.array(groups, dtype=np.int64)
