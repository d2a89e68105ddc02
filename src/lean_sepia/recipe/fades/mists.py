"""A fade as it is sprayed: how many mists of which mix, what each of them does, and where to stop."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray, triple
from lean_sepia.errors import ShelfError
from lean_sepia.language import _
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.media import media_mix
from lean_sepia.paint.paint import Paint, stirred
from lean_sepia.recipe.fades.fade import Goal, Lightener, choose_lighteners
from lean_sepia.recipe.parts import reduced

if TYPE_CHECKING:
    from lean_sepia.paint.laying import Matter

Lab = tuple[float, float, float]
MOST_MISTS = 8
"""Nobody sprays a fade in more (practice)."""

_AS_GOOD_DE00 = 0.3  # fewer mists are taken where more do not come nearer than by this
_BEYOND = 2  # mists shown past the best


@dataclass(frozen=True)
class Path:
    """What each mist does: the colour before any, after one, two …; how far each lies from the goal; where to stop.

    stop : number of mists after which it is nearest; overshoots : whether one more leads away again
    """

    labs: tuple[Lab, ...]
    away: tuple[float, ...]
    stop: int

    @property
    def overshoots(self) -> bool:
        """Whether the mist after the stop leads away from the goal."""
        return self.stop + 1 < len(self.away) and self.away[self.stop + 1] > self.away[self.stop]


@dataclass(frozen=True)
class Fade:
    """A lightener with the number of mists it is laid in, and the path there.

    wiped : of an oil that is dabbed on and drawn out to a veil, the share that is taken up again; None of what is sprayed or brushed
    """

    option: Lightener
    mists: int
    path: Path
    wiped: float | None = None


@dataclass(frozen=True)
class Medium:
    """A clear medium stirred into a fade: which, and its share of the cup before thinning; 0.5 is 1 : 1, a third 2 : 1."""

    paint: Paint
    share: float

    def into(self, paint: Paint) -> Paint:
        """A paint with its share of the medium, as if it were one."""
        return stirred(paint.id, paint.name, [paint, self.paint], [1 - self.share, self.share])

    def parts(self, *paint_parts: int) -> tuple[int, ...]:
        """Whole parts of the paints and, last, of the medium.

        >>> Medium(None, 1 / 3).parts(9, 2)
        (18, 4, 11)
        """
        total = sum(paint_parts)
        for times in range(1, 61):
            own = times * total * self.share / (1 - self.share)
            if abs(own - round(own)) < 1e-6 and round(own) > 0:
                return reduced([times * part for part in paint_parts] + [round(own)])
        return (*(60 * part for part in paint_parts), round(60 * total * self.share / (1 - self.share)))


def mists_of(mist: Laying, count: npt.ArrayLike) -> Laying:
    """So many mists, one number or (..., 1), of the film that a laying describes as one."""
    return replace(mist, X=np.asarray(mist.X) * np.asarray(count))


def path_of(matter: Matter, mist: Laying, before: npt.ArrayLike, goal: Goal, mists: int) -> Path:
    """Follow a mix mist by mist, past the number it was solved for.

    mist : how one mist lies; before : L*a*b* (3,) without any
    """
    counts = np.arange(1, mists + _BEYOND + 1)
    films = mists_of(mist, counts[:, None])
    labs = np.vstack([np.asarray(before, dtype=float), films.lab(matter)])
    away = goal.away(labs)
    return Path(
        tuple(triple(lab) for lab in labs), tuple(float(value) for value in away), int(np.argmin(away))
    )


def mixed_of(base: Paint, paints: Iterable[Paint], option: Lightener) -> Paint:
    """Base and lighteners of an option as if they were one paint."""
    known = {paint.id: paint for paint in paints}
    used = [base, known[option.paint], *([known[option.second]] if option.second else [])]
    counts = [option.base_parts, option.lightener_parts, option.second_parts][: len(used)]
    return stirred("mix", "mix", used, counts)


def choose_fades(
    paints: Sequence[Paint],
    base: Paint,
    goal: Goal,
    mist: Laying,
    before: npt.ArrayLike,
    *,
    mists: int | None = None,
    max_parts: int = 12,
    most: int = 1,
    medium: Medium | None = None,
) -> list[Fade]:
    """Lighteners with the number of mists that brings each nearest to the goal, the nearest first.

    mist : how one mist lies on what is below; an opaque laying has no mists and counts as one
    mists : where the number is given; None to solve for it; medium : what else goes into the cup, which makes it weaker

    Raises
    ------
    ShelfError
        No other paint on the shelf mixes with the base, or the medium does not.
    """
    if medium is not None:
        base, paints = _with_medium(base, paints, medium)
    opaque = mist.ground is None
    counts = [1] if opaque else [mists] if mists else list(range(1, MOST_MISTS + 1))
    tried = {
        count: choose_lighteners(
            paints, base, goal, max_parts=max_parts, most=most if len(counts) == 1 else 1,
            laying=mist if opaque else mists_of(mist, count),
        )
        for count in counts
    }  # fmt: skip
    best = _fewest(tried)
    if most > 1 and len(counts) > 1:
        best += _with_a_second(paints, base, goal, mist, max_parts, best)
    found = []
    for count, option in sorted(best, key=lambda one: one[1].de00):
        made = mixed_of(base, paints, option)
        if opaque:
            labs = (triple(before), option.lab)
            path = Path(labs, tuple(float(value) for value in goal.away(np.array(labs))), 1)
        else:
            path = path_of(made, mist, before, goal, count)
        found.append(Fade(option, count, path))
    return found


def _with_medium(base: Paint, paints: Sequence[Paint], medium: Medium) -> tuple[Paint, list[Paint]]:
    """The base and every paint that mixes with a clear medium, each with its share of it."""
    if not media_mix(medium.paint.medium, base.medium):
        raise ShelfError(
            _("{0} cannot be stirred into a base of {1}.").format(medium.paint.name, base.medium)
        )
    fitting = [paint for paint in paints if paint.proposed and media_mix(paint.medium, medium.paint.medium)]
    return medium.into(base), [medium.into(paint) for paint in fitting]


def _fewest(tried: dict[int, list[Lightener]]) -> list[tuple[int, Lightener]]:
    """For each lightener the fewest mists with which it comes about as near as with any."""
    by_paint: dict[tuple[str, str | None], list[tuple[int, Lightener]]] = {}
    for count, options in tried.items():
        for option in options:
            by_paint.setdefault((option.paint, option.second), []).append((count, option))
    chosen = []
    for ways in by_paint.values():
        least = min(option.de00 for _count, option in ways)
        chosen.append(next(way for way in ways if way[1].de00 <= least + _AS_GOOD_DE00))
    return chosen


def _with_a_second(
    paints: Sequence[Paint],
    base: Paint,
    goal: Goal,
    mist: Laying,
    max_parts: int,
    alone: Sequence[tuple[int, Lightener]],
) -> list[tuple[int, Lightener]]:
    """Pairs, at the numbers of mists at which single lighteners come nearest."""
    nearest = sorted(alone, key=lambda one: one[1].de00)[:3]
    counts = sorted({count for count, _option in nearest})
    tried = {
        count: [
            option
            for option in choose_lighteners(
                paints, base, goal, max_parts=max_parts, most=2, laying=mists_of(mist, count)
            )
            if option.second
        ]
        for count in counts
    }  # fmt: skip
    least = min((option.de00 for _count, option in alone), default=np.inf)
    return [way for way in _fewest(tried) if way[1].de00 < least - _AS_GOOD_DE00]


@dataclass(frozen=True)
class Faded:
    """One zone to fade with others: its base, its goal, and how the fade lies there."""

    base: Paint
    goal: Goal
    laying: Laying


@dataclass(frozen=True)
class Joint:
    """One lightener for several zones, in parts of its own for each, and how far they are from their goals in the mean."""

    options: tuple[Lightener, ...]
    de00_mean: float
    de00_worst: float


def choose_joint(paints: Sequence[Paint], zones: Sequence[Faded], max_parts: int = 12) -> list[Joint]:
    """The paints that can lighten every one of several zones, the nearest in the mean first.

    Raises
    ------
    ShelfError
        No paint mixes with all bases.
    """
    per_zone: list[dict[str, Lightener]] = []
    for zone in zones:
        found = choose_lighteners(paints, zone.base, zone.goal, max_parts=max_parts, laying=zone.laying)
        per_zone.append({option.paint: option for option in found})
    shared = set(per_zone[0]).intersection(*per_zone[1:])
    if not shared:
        raise ShelfError(_("No paint on this shelf can be stirred into the bases of all these zones."))
    joint = []
    for name in sorted(shared):
        options = tuple(found[name] for found in per_zone)
        away: FloatArray = np.array([option.de00 for option in options])
        joint.append(Joint(options, float(away.mean()), float(away.max())))
    return sorted(joint, key=lambda one: one.de00_mean)
