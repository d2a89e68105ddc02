"""How a recipe behaves beyond its colour: astray, over other grounds, under other lights, wet, and at another sheen."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import cache

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray, triple
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.colour.lights import LIGHT_NAMES
from lean_sepia.colour.reflectance import estimate_reflectance
from lean_sepia.language import N_
from lean_sepia.paint.film import thickness_to_hide
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import Paint, mixed
from lean_sepia.paint.saunderson import SHEEN, Surface
from lean_sepia.paint.trust import predict
from lean_sepia.recipe.knowing import ToKnow, to_know_next
from lean_sepia.recipe.mix import MixSolver, Recipe
from lean_sepia.recipe.parts import reduced, stray_drops
from lean_sepia.recipe.reasons import sheen_share, wet_and_dry

Lab = tuple[float, float, float]

GROUNDS: tuple[tuple[str, Lab], ...] = (
    (N_("black"), (24.5, 0.0, 0.0)), (N_("primer red"), (41.0, 25.0, 14.0)), (N_("grey"), (55.0, 0.0, 0.0)), (N_("white"), (92.0, 0.0, 1.0)),
)  # fmt: skip
"""Undercoats a recipe is shown over: usual primers, as flat colours (practice)."""

FILM_COATS = (1, 2, 3, 4)
_MEDIUM_PARTS = 12  # of medium and mixture together: finer than that nobody counts by eye


@dataclass(frozen=True)
class SheenByMedium:
    """A clear medium that takes a mixture to a sheen, in whole parts, and what comes of it."""

    medium: str
    medium_parts: int
    mixture_parts: int
    lab: Lab


@dataclass(frozen=True, eq=False)
class Behaviour:
    """How one recipe behaves.

    strayed : its colours with a drop astray
    films : (grounds, coats, 3) L*a*b* over `GROUNDS` in `FILM_COATS` as they are laid
    lights : target and recipe under each light, each as L*a*b* adapted to that light
    hides_coats : coats as they are laid until no ground shows, None where it never hides
    wet : its colour before it dries
    sure_de00 : within how much of its predicted colour the user's own bottles come out nine times in ten; to_know : what to find out
        to make that less
    by_medium : how a medium of this shelf gives the sheen of the final varnish without one, None where none does
    """

    strayed: tuple[Lab, ...]
    films: FloatArray
    lights: tuple[tuple[Lab, Lab], ...]
    hides_coats: float | None
    wet: Lab
    sure_de00: float
    to_know: ToKnow | None
    by_medium: SheenByMedium | None


def behaviour_of(
    solver: MixSolver,
    recipe: Recipe,
    target: npt.ArrayLike,
    one_coat: float,
    media: Sequence[Paint] = (),
) -> Behaviour:
    """Everything `Behaviour` holds, for one recipe of a solver and a target L*a*b* (3,).

    one_coat : thickness X of one coat as it is laid
    media : clear media at hand, such as a gloss medium or a flat base
    """
    index_of = {paint.id: index for index, paint in enumerate(solver.palette.paints)}
    which = [index_of[name] for name, _ in recipe.parts]
    counts = reduced([count for _, count in recipe.parts])
    used = [solver.palette.paints[i] for i in which]
    strayed = solver.colour_of(which, stray_drops(counts, solver.max_parts, solver.cup_drops))
    R, target_R = solver.colour_of(which, counts), estimate_reflectance(target).reflectance
    made = mixed(used, counts)
    X = thickness_to_hide(made)
    wet, _ = wet_and_dry(used, counts, solver.laying)
    sure = predict(used, counts, solver.laying).de00_90
    return Behaviour(
        strayed=tuple(triple(lab) for lab in lab_from_reflectance(strayed)),
        films=films_over_grounds(used, counts, _ground_reflectances(), [coats * one_coat for coats in FILM_COATS]),
        lights=tuple(
            (triple(lab_from_reflectance(target_R, light)), triple(lab_from_reflectance(R, light)))
            for light in LIGHT_NAMES
        ),
        hides_coats=None if X is None else X / one_coat,
        wet=wet,
        sure_de00=sure,
        to_know=to_know_next(used, counts, solver.laying, sure),
        by_medium=sheen_by_medium(used, counts, media, solver.laying.varnish, solver.laying),
    )  # fmt: skip


@cache
def _ground_reflectances() -> list[FloatArray]:
    """Internal reflectance (31,) of every undercoat that is shown."""
    return [internal_from_lab(lab).R_i for _, lab in GROUNDS]


def films_over_grounds(
    paints: Sequence[Paint],
    parts: Sequence[int],
    grounds: Sequence[FloatArray],
    films: Sequence[float],
    g: float = SHEEN["flat"],
) -> FloatArray:
    """L*a*b* (grounds, films, 3) of a mixture over several grounds at several thicknesses."""
    made = mixed(paints, parts)
    flat = Surface(g, made.surface.k1, made.surface.k2)
    return np.stack([[Laying(ground, X, kept=flat).lab(made) for X in films] for ground in grounds])


def sheen_by_medium(
    paints: Sequence[Paint], parts: Sequence[int], media: Sequence[Paint], finish: str | None, laying: Laying
) -> SheenByMedium | None:
    """The clear medium, and the whole parts of it, that bring a mixture nearest to a finish without a varnish.

    The least medium wins: it thins the pigment. None where no medium at hand can, or none is needed.
    """
    if finish is None:
        return None
    g = float(mixed(paints, parts).surface.g)
    shares = [(sheen_share(g, medium.g, SHEEN[finish]), medium) for medium in media]
    possible = [(share, medium) for share, medium in shares if share]
    if not possible:
        return None
    share, medium = min(possible, key=lambda pair: pair[0])
    whole = Fraction(share).limit_denominator(_MEDIUM_PARTS)
    if not 0 < whole < 1:
        return None
    medium_parts, mixture_parts = whole.numerator, whole.denominator - whole.numerator
    counts = np.array(parts, dtype=float)
    with_medium = np.append(mixture_parts * counts / counts.sum(), medium_parts)
    lab = Laying(laying.ground, laying.X).lab(mixed([*paints, medium], with_medium))
    return SheenByMedium(medium.name, medium_parts, mixture_parts, triple(lab))
