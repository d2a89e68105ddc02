"""Oil dots: which oils, how many dots of each, and what they make of a ground once they are drawn out.

All figures are common practice without a source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray, triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import chroma, hue_deg, lab_from_reflectance, lab_from_xyz
from lean_sepia.colour.lights import xyz_from_reflectance
from lean_sepia.errors import ShelfError
from lean_sepia.language import _
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import Paint
from lean_sepia.recipe.tints.glaze import Ground

Lab = tuple[float, float, float]
FEWEST_OILS, MOST_OILS = 3, 6
TRAIL_MM2 = 16.0
"""Area over which one dot of a millimetre is drawn out with an almost dry brush."""

FIELD_MM2 = 1000.0
"""Dots are counted on 10 cm²."""

MOST_DOTS = 14
_LOOKED_AT_MM2 = 100.0  # over which the eye judges how even the surface is
_SPREAD_SAMPLES = 400
_HUE_RELATED, _HUE_OPPOSITE = 40.0, 150.0
_GREY_CHROMA, _DEAD_L = 4.0, 30.0
_DOTS_COST = 0.15


@dataclass(frozen=True)
class Dots:
    """One oil of a palette: how many dots on 10 cm², its part in it, and the colour of its trails."""

    paint: str
    count: int
    role: str
    lab: Lab

    @property
    def area_share(self) -> float:
        """Share of the area that its trails cover."""
        return self.count * TRAIL_MM2 / FIELD_MM2


@dataclass(frozen=True)
class DotPalette:
    """Oils with their dots; the mean colour they make of the ground, and how far places of 1 cm² stray from it in the mean."""

    oils: tuple[Dots, ...]
    mean: Lab
    spread_de00: float
    de00: float | None


def trail_film() -> float:
    """Film thickness X of a trail."""
    return film_thickness(1, 0.0, "glaze")


def choose_dots(
    paints: Sequence[Paint],
    ground: Ground,
    before: npt.ArrayLike,
    goal: npt.ArrayLike | None,
    *,
    oils: int = 4,
    opposite: bool = False,
    seed: int = 1,
) -> DotPalette:
    """A palette for a ground: lighter oils for open surfaces and above, darker ones for below, and a change of hue.

    before : L*a*b* (3,) of the ground; goal : what the mean should come to, or None for a modest usual palette
    opposite : whether the change of hue is to the opposite side of the circle rather than a related hue

    Raises
    ------
    ShelfError
        Too few oils, or more or fewer asked for than a palette has.
    """
    if not FEWEST_OILS <= oils <= MOST_OILS:
        raise ShelfError(
            _("A palette for dots has {0} to {1} oils; found {2}.").format(FEWEST_OILS, MOST_OILS, oils)
        )
    usable = [paint for paint in paints if paint.proposed]
    if len(usable) < FEWEST_OILS:
        raise ShelfError(
            _("Dots need at least {0} oils or enamels; found {1}. Add some to the shelf.").format(
                FEWEST_OILS, len(usable)
            )
        )
    chosen = _cast(usable, np.asarray(before, dtype=float), min(oils, len(usable)), opposite)
    trails = _trails([paint for paint, _role in chosen], ground)
    counts = np.full(len(chosen), 4)
    if goal is not None:
        counts = _towards(np.asarray(goal, dtype=float), counts, trails, ground)
    return _judged(chosen, counts, trails, ground, goal, seed)


def of_counts(
    paints: Sequence[Paint],
    counts: Sequence[int],
    ground: Ground,
    goal: npt.ArrayLike | None = None,
    seed: int = 1,
) -> DotPalette:
    """A palette that the user chose: oils with their dots on 10 cm²."""
    trails = _trails(paints, ground)
    return _judged([(paint, "") for paint in paints], np.asarray(counts), trails, ground, goal, seed)


def _cast(usable: Sequence[Paint], before: FloatArray, oils: int, opposite: bool) -> list[tuple[Paint, str]]:
    """Which oil plays which part, each a different one."""
    labs = {paint.id: paint.masstone_lab() for paint in usable}
    wanted_hue = _HUE_OPPOSITE if opposite else _HUE_RELATED
    names = ["light", "dark", "opposite" if opposite else "related", "second-light", "second-dark",
             "related" if opposite else "opposite"][:oils]  # fmt: skip

    def fits(role: str, lab: FloatArray) -> float:
        lighter, grey = float(lab[0] - before[0]), float(chroma(lab)) < _GREY_CHROMA
        dead = grey and float(lab[0]) < _DEAD_L
        turn = abs(float((hue_deg(lab) - hue_deg(before) + 180) % 360 - 180)) if not grey else 90.0
        if role.endswith("light"):
            return abs(lighter - (25 if role == "light" else 40)) + 0.15 * turn
        if role.endswith("dark"):
            return abs(lighter + (18 if role == "dark" else 30)) + 0.15 * turn + (8 if dead else 0)
        return (
            (30 if grey else 0)
            + abs(turn - (wanted_hue if role == names[2] else _HUE_RELATED)) / 3
            + abs(lighter) / 2
        )

    left, chosen = list(usable), []
    for role in names:
        best = min(left, key=lambda paint: fits(role, labs[paint.id]))
        left.remove(best)
        chosen.append((best, role))
    return chosen


def _trails(paints: Sequence[Paint], ground: Ground) -> FloatArray:
    """Measured reflectance (n, 31) of the trail of each oil on the ground."""
    laying = Laying(ground.R_i, trail_film())
    surfaces = [replace(paint.surface, g=ground.surface.g) for paint in paints]
    return np.array(
        [surface.seen(laying.internal(paint)) for paint, surface in zip(paints, surfaces, strict=True)]
    )


def _shares(counts: FloatArray) -> FloatArray:
    """Share of area (..., n + 1) of the trails of each oil, and last of the bare ground; a later trail hides an earlier one."""
    own = np.minimum(np.asarray(counts, dtype=float) * TRAIL_MM2 / FIELD_MM2, 0.95)
    bare = np.cumprod((1 - own)[..., ::-1], axis=-1)[..., ::-1]
    above = np.concatenate([bare[..., 1:], np.ones((*own.shape[:-1], 1))], axis=-1)
    return np.concatenate([own * above, bare[..., :1]], axis=-1)


def _mean_xyz(counts: FloatArray, trails: FloatArray, ground: Ground) -> FloatArray:
    all_xyz = xyz_from_reflectance(np.vstack([trails, ground.surface.seen(ground.R_i)]))
    return _shares(counts) @ all_xyz


def _towards(goal: FloatArray, counts: FloatArray, trails: FloatArray, ground: Ground) -> FloatArray:
    """Counts changed one by one until the mean comes no nearer to the goal."""

    def away(rows: FloatArray) -> FloatArray:
        mean = lab_from_xyz(_mean_xyz(rows, trails, ground))
        # Of two palettes as near, the one with fewer dots: less to draw out.
        return delta_e00(mean, np.broadcast_to(goal, mean.shape)) + _DOTS_COST * rows.sum(axis=1) / MOST_DOTS

    best = counts
    while True:
        steps = [best]
        for index in range(len(best)):
            for by in (-2, -1, 1, 2):
                step = best.copy()
                step[index] = min(MOST_DOTS, max(1, step[index] + by))
                steps.append(step)
        rows = np.array(steps)
        following = rows[int(np.argmin(away(rows)))]
        if np.array_equal(following, best):
            return best
        best = following


def _judged(
    chosen: Sequence[tuple[Paint, str]],
    counts: FloatArray,
    trails: FloatArray,
    ground: Ground,
    goal: npt.ArrayLike | None,
    seed: int,
) -> DotPalette:
    mean = triple(lab_from_xyz(_mean_xyz(counts, trails, ground)))
    rng = np.random.default_rng(seed)
    here = rng.poisson(np.asarray(counts) * _LOOKED_AT_MM2 / FIELD_MM2, (_SPREAD_SAMPLES, len(counts)))
    places = lab_from_xyz(_mean_xyz(here * FIELD_MM2 / _LOOKED_AT_MM2, trails, ground))
    spread = float(delta_e00(places, np.broadcast_to(mean, places.shape)).mean())
    labs = lab_from_reflectance(trails)
    oils = tuple(
        Dots(paint.id, int(count), role, triple(lab))
        for (paint, role), count, lab in zip(chosen, counts, labs, strict=True)
    )
    away = None if goal is None else float(delta_e00(mean, np.asarray(goal, dtype=float)))
    return DotPalette(oils, mean, spread, away)
