"""One thin tint that brings several grounds nearer to what the photos show."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.errors import ColourError, ShelfError
from lean_sepia.language import _
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.saunderson import Surface
from lean_sepia.paint.stack import Opaque

THINNER_PARTS = (10, 12, 15, 20, 25, 30, 40)
"""Parts of thinner to one of paint that are tried; 10 is a wash, 20 a filter (practice)."""

MOST_PASSES = 6


@dataclass(frozen=True)
class Glaze:
    """A filter: one part of paint, its thinner, the passes, and the colour each ground becomes."""

    paint: str
    thinner_parts: int
    passes: int
    labs: tuple[tuple[float, float, float], ...]
    de00_mean: float


class Ground(Opaque):
    """What a glaze lies on: its internal reflectance (31,), and the surface it is finally seen through."""


def glaze_labs(paint: Paint, grounds: Sequence[Ground], X: npt.ArrayLike) -> FloatArray:
    """L*a*b* (..., n, 3) of n grounds under a film of thickness X (...) of the paint; the ground's surface stays."""
    R_g = np.stack([ground.R_i for ground in grounds])
    kept = Surface(*(np.array([getattr(one.surface, name) for one in grounds]) for name in ("g", "k1", "k2")))
    return Laying(R_g, np.asarray(X, dtype=float)[..., None, None], kept=kept).lab(paint)


def glaze_film(thinner_parts: float, passes: float) -> float:
    """Film thickness X of passes of one part paint in `thinner_parts` parts thinner, drawn out thin."""
    return film_thickness(passes, thinner_parts / (1 + thinner_parts), "glaze")


def choose_glazes(
    paints: Sequence[Paint],
    grounds: Sequence[Ground],
    targets: Sequence[npt.ArrayLike],
) -> list[Glaze]:
    """The best thinning and number of passes of every paint, the paint with the lowest mean ΔE00 first.

    Parameters
    ----------
    grounds : what the glaze lies on
    targets : L*a*b* (3,) for each ground, in the same order

    Raises
    ------
    ColourError
        There are not as many targets as bases.
    ShelfError
        The shelf has no paint that can be thinned to a glaze.
    """
    if len(grounds) != len(targets):
        raise ColourError(
            _("Each base needs its own target: found {0} bases and {1} targets.").format(
                len(grounds), len(targets)
            )
        )
    usable = [paint for paint in paints if paint.mixes and not paint.clear]
    if not usable:
        raise ShelfError(
            _("No paint on this shelf can be thinned to a glaze: metallics and powders are laid alone.")
        )
    goals = np.array(targets, dtype=float)
    choices = [(thinner, passes) for passes in range(1, MOST_PASSES + 1) for thinner in THINNER_PARTS]
    films = np.array([glaze_film(thinner, passes) for thinner, passes in choices])
    found = []
    for paint in usable:
        labs = glaze_labs(paint, grounds, films)
        mean = delta_e00(labs, goals).mean(axis=1)
        # Within 0.05 of the best the fewest passes are chosen, then the weaker mix.
        best = min(np.flatnonzero(mean <= mean.min() + 0.05), key=lambda i: (choices[i][1], -choices[i][0]))
        seen = tuple((float(L), float(a), float(b)) for L, a, b in labs[best])
        found.append(Glaze(paint.id, *choices[best], seen, float(mean[best])))
    return sorted(found, key=lambda glaze: glaze.de00_mean)
