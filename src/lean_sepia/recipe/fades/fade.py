"""Which paint lightens a base towards its faded colour without taking the hue elsewhere."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import combinations

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray, IntArray, triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import chroma
from lean_sepia.errors import ShelfError
from lean_sepia.language import _
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.media import media_mix
from lean_sepia.paint.paint import Paint, Palette, stirred
from lean_sepia.recipe.fades.turn import hue_shift_deg
from lean_sepia.recipe.limits import Limits
from lean_sepia.recipe.mix import MixSolver
from lean_sepia.recipe.parts import proportions
from lean_sepia.recipe.pool import least

_CUP, _OFFERED = "base cup", 24
_CHROMA_MAY_BE = (0.55, 1.3)  # a fade that leaves less of the colour has greyed it, which nobody wished for
_WORTH_A_SECOND = 0.05  # ΔE00 that a second lightener must gain


@dataclass(frozen=True)
class Lightener:
    """Base and lightener in whole parts, perhaps a second one, the colour they give and where the hue goes.

    `hue_shift_deg` is signed against the target's hue, None where either colour is too grey to have one.
    """

    paint: str
    base_parts: int
    lightener_parts: int
    lab: tuple[float, float, float]
    de00: float
    hue_shift_deg: float | None
    second: str | None = None
    second_parts: int = 0


def base_mixture(paints: Sequence[Paint], parts: Sequence[tuple[str, int]]) -> Paint:
    """A mixture as if it were one paint.

    Raises
    ------
    ShelfError
        A paint is not on the shelf, or cannot be part of a wet mixture.
    """
    known = {paint.id: paint for paint in paints}
    for name, count in parts:
        if name not in known:
            raise ShelfError(
                _("There is no paint {0!r} on this shelf. Known: {1} …").format(
                    name, ", ".join(sorted(known)[:8])
                )
            )
        if not known[name].mixes:
            raise ShelfError(
                _(
                    "{0!r} is metallic, loose powder, a spray can or retired: it cannot be part of a mixture."
                ).format(name)
            )
        if count < 1:
            raise ShelfError(
                _("Parts are whole numbers of at least 1; found {0} of {1!r}.").format(count, name)
            )
    used = [known[name] for name, _unused in parts]
    return stirred("cup", "cup", used, [count for _unused, count in parts])


def ladder(base: Paint, lightener: Paint, shares: FloatArray, laying: Laying = OPAQUE) -> FloatArray:
    """L*a*b* (n, 3) of base and lightener at the lightener's volume shares (n,)."""
    return laying.lab(Palette.of([base, lightener]).mixture(np.column_stack([1 - shares, shares])))


@dataclass(frozen=True)
class Goal:
    """What a fade is to come to: a colour, or only its lightness and hue angle, with whatever C* that takes."""

    lab: tuple[float, float, float]
    any_chroma: bool = False

    @classmethod
    def lighter(cls, before: npt.ArrayLike, by: float) -> Goal:
        """So much more L* at the same hue angle."""
        L, a, b = (float(value) for value in np.asarray(before))
        return cls((min(100.0, max(0.0, L + by)), a, b), any_chroma=True)

    def beside(self, labs: FloatArray) -> FloatArray:
        """The colours L*a*b* (n, 3) that it asks for beside these: with their C*, as far as that may differ from its own."""
        goal = np.broadcast_to(np.asarray(self.lab), labs.shape)
        if not self.any_chroma or (own := float(chroma(self.lab))) <= 0:
            return goal
        times = np.clip(chroma(labs) / own, *_CHROMA_MAY_BE)
        return np.concatenate([goal[:, :1], goal[:, 1:] * times[:, None]], axis=1)

    def away(self, labs: FloatArray) -> FloatArray:
        """ΔE00 (n,) of colours L*a*b* (n, 3) from it."""
        return delta_e00(labs, self.beside(labs))


def choose_lighteners(
    paints: Sequence[Paint],
    base: Paint,
    target: npt.ArrayLike | Goal,
    *,
    max_parts: int = 12,
    laying: Laying = OPAQUE,
    most: int = 1,
) -> list[Lightener]:
    """Every other paint that mixes with the base, in the parts that take it nearest to the target, the closest first.

    most : 2 tries pairs of them too; a pair is among the answers where it comes nearer than either paint alone

    Raises
    ------
    ShelfError
        No other paint on the shelf mixes with the base.
    """
    goal = target if isinstance(target, Goal) else Goal(triple(target))
    usable = [
        paint
        for paint in paints
        if paint.proposed and media_mix(paint.medium, base.medium) and not _same(paint, base)
    ]
    if not usable:
        raise ShelfError(
            _(
                "No other paint on this shelf can be stirred into a base of {0}. Add one, or change the base."
            ).format(base.medium)
        )
    found = _alone(base, usable, goal, max_parts, laying)
    if most > 1 and len(usable) > 1:
        pairs = _pairs if goal.any_chroma else _pairs_quickly
        alone = {option.paint: option.de00 for option in found}
        found += [
            both
            for both in pairs(base, usable, goal, max_parts, laying)
            if both.de00 < min(alone[both.paint], alone[both.second or both.paint]) - _WORTH_A_SECOND
        ]
    return sorted(found, key=lambda lightener: lightener.de00)


def _alone(
    base: Paint, usable: Sequence[Paint], goal: Goal, max_parts: int, laying: Laying
) -> list[Lightener]:
    """Every paint by itself, all of them looked through at once."""
    steps = proportions(2, max_parts)
    shares = steps / steps.sum(axis=1, keepdims=True)
    rows = np.zeros((len(usable), len(steps), 1 + len(usable)))
    rows[:, :, 0] = shares[:, 0]
    for number in range(len(usable)):
        rows[number, :, 1 + number] = shares[:, 1]
    labs = laying.lab(Palette.of([base, *usable]).mixture(rows.reshape(-1, 1 + len(usable))))
    de00 = goal.away(labs).reshape(len(usable), len(steps))
    labs = labs.reshape(len(usable), len(steps), 3)
    return [
        _best((paint,), steps, own, away, goal) for paint, own, away in zip(usable, labs, de00, strict=True)
    ]


def _pairs(
    base: Paint, usable: Sequence[Paint], goal: Goal, max_parts: int, laying: Laying
) -> Iterator[Lightener]:
    """The best of every pair, each looked through."""
    for pair in combinations(usable, 2):
        if media_mix(pair[0].medium, pair[1].medium):
            yield _nearest(base, pair, goal, max_parts, laying)


def _pairs_quickly(
    base: Paint, usable: Sequence[Paint], goal: Goal, max_parts: int, laying: Laying
) -> Iterator[Lightener]:
    """The pairs that come nearest, found as recipes are: of mixtures that all hold the base."""
    cup = replace(base, id=_CUP)
    limits = Limits(must=frozenset({_CUP}))
    solver = MixSolver([cup, *usable], laying, max_paints=3, max_parts=max_parts, limits=limits)
    near = solver.considered(np.asarray(goal.lab)).best(_OFFERED)
    for row, lab, de00 in zip(least(near.parts), near.labs, near.de00, strict=True):
        added = np.flatnonzero(row[1:])
        if len(added) == 2:
            first, second = sorted(added, key=lambda number: -int(row[1 + number]))
            yield Lightener(
                usable[int(first)].id, int(row[0]), int(row[1 + first]), triple(lab), float(de00), hue_shift_deg(lab, goal.lab),
                usable[int(second)].id, int(row[1 + second]),
            )  # fmt: skip


def _nearest(base: Paint, added: Sequence[Paint], goal: Goal, max_parts: int, laying: Laying) -> Lightener:
    steps = proportions(1 + len(added), max_parts)
    shares = steps / steps.sum(axis=1, keepdims=True)
    labs = laying.lab(Palette.of([base, *added]).mixture(shares))
    return _best(added, steps, labs, goal.away(labs), goal)


def _best(
    added: Sequence[Paint], steps: IntArray, labs: FloatArray, de00: FloatArray, goal: Goal
) -> Lightener:
    """The best of so many steps (n, 1 + paints), with their colours L*a*b* (n, 3) and ΔE00 (n,)."""
    # Steps within 0.05 cannot be told apart: the one with fewer parts is easier to count.
    best = min(np.flatnonzero(de00 <= de00.min() + 0.05), key=lambda i: int(steps[i].sum()))
    parts = [int(count) for count in steps[best]]
    second = added[1].id if len(added) > 1 else None
    return Lightener(
        added[0].id, parts[0], parts[1], triple(labs[best]), float(de00[best]), hue_shift_deg(labs[best], goal.lab), second,
        parts[2] if second else 0,
    )  # fmt: skip


def _same(paint: Paint, base: Paint) -> bool:
    """Whether the base is this paint and nothing else."""
    return bool(np.allclose(paint.K, base.K) and np.allclose(paint.S, base.S))
