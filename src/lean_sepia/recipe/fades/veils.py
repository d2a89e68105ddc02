"""Oils as a fade: dots drawn out with an almost dry brush until a veil is left, and how much of them is taken up again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import combinations

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray, triple
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import Paint, Palette
from lean_sepia.recipe.batch import WET_FILM_ML_PER_CM2
from lean_sepia.recipe.fades.fade import Goal, Lightener
from lean_sepia.recipe.fades.mists import Fade, Path
from lean_sepia.recipe.fades.turn import hue_shift_deg
from lean_sepia.recipe.parts import bead_mm_of

VEIL_TOOL = "glaze"
WIPED = (0.0, 0.3, 0.5, 0.6, 0.7, 0.75, 0.8, 0.85, 0.9, 0.93, 0.95, 0.97)
"""Shares of an oil that are taken up again while it is drawn out (practice)."""
_GAINS = 0.5  # ΔE00 that a second oil must gain
_FIELD_CM2 = 10.0


def veil_fades(paints: Sequence[Paint], goal: Goal, ground: Laying, before: npt.ArrayLike) -> list[Fade]:
    """Oils from the tube, alone or two in equal parts, each as the veil that comes nearest to the goal, the nearest first.

    ground : how a tint is laid on what is below; before : L*a*b* (3,) there
    """
    oils = [paint for paint in paints if paint.tints and MEDIA[paint.medium].tube]
    if not oils or ground.ground is None:
        return []
    pairs = list(combinations(range(len(oils)), 2))
    shares = np.vstack([np.eye(len(oils)), *(_equal(pair, len(oils)) for pair in pairs)])
    films = film_thickness(1, 0.0, VEIL_TOOL) * (1 - np.array(WIPED))
    labs = replace(ground, X=films[:, None]).lab(
        Palette.of(oils).mixture(shares[:, None])
    )  # (veils, films, 3)
    away = goal.away(labs.reshape(-1, 3)).reshape(labs.shape[:2])
    veils = [
        _veil([oils[place] for place in which], goal, before, found, misses)
        for which, found, misses in zip([*((n,) for n in range(len(oils))), *pairs], labs, away, strict=True)
    ]
    alone, both = veils[: len(oils)], veils[len(oils) :]
    least = {fade.option.paint: fade.option.de00 for fade in alone}
    nearer = [
        fade for fade in both
        if fade.option.de00 < min(least[fade.option.paint], least[fade.option.second or ""]) - _GAINS
    ]  # fmt: skip
    return sorted([*alone, *nearer], key=lambda fade: fade.option.de00)


def _equal(which: Sequence[int], count: int) -> FloatArray:
    shares = np.zeros(count)
    shares[list(which)] = 1 / len(which)
    return shares


def _veil(
    oils: Sequence[Paint], goal: Goal, before: npt.ArrayLike, labs: FloatArray, away: FloatArray
) -> Fade:
    """The film of those tried, L*a*b* (n, 3), that lies nearest to the goal, ΔE00 (n,)."""
    best = int(np.argmin(away))
    option = Lightener(
        oils[0].id, 0, 1, triple(labs[best]), float(away[best]), hue_shift_deg(labs[best], goal.lab),
        oils[1].id if len(oils) > 1 else None, len(oils) - 1,
    )  # fmt: skip
    path = np.vstack([np.asarray(before, dtype=float), labs[best]])
    return Fade(
        option, 1, Path(tuple(map(triple, path)), tuple(float(x) for x in goal.away(path)), 1), WIPED[best]
    )


def veil_labs(oils: Sequence[Paint], ground: Laying, films: FloatArray) -> FloatArray:
    """L*a*b* (n, 3) of films X (n,) of oils in equal parts."""
    shares = np.full(len(oils), 1 / len(oils))
    return replace(ground, X=films[:, None]).lab(Palette.of(oils).mixture(shares))


def bead_on_10_cm2(wiped: float) -> float:
    """Millimetres of bead from the tube that stay on 10 cm² as a veil of which a share was taken up again."""
    return bead_mm_of(film_thickness(1, 0.0, VEIL_TOOL) * (1 - wiped) * WET_FILM_ML_PER_CM2 * _FIELD_CM2)
