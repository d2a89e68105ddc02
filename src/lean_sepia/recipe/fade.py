"""Which paint lightens a base towards its faded colour without taking the hue elsewhere."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import chroma, hue_deg
from lean_sepia.errors import ShelfError
from lean_sepia.language import _
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.media import media_mix
from lean_sepia.paint.paint import Paint, Palette, stirred
from lean_sepia.recipe.parts import proportions

HUELESS_CHROMA = 5.0


@dataclass(frozen=True)
class Lightener:
    """Base and lightener in whole parts, the colour they give and where the hue goes.

    `hue_shift_deg` is signed against the target's hue, None where either colour is too grey to have one.
    """

    paint: str
    base_parts: int
    lightener_parts: int
    lab: tuple[float, float, float]
    de00: float
    hue_shift_deg: float | None


def hue_shift_deg(lab: npt.ArrayLike, target: npt.ArrayLike) -> float | None:
    """Signed hue angle of a colour against a target's, −180 to 180, or None where either C* is below 5."""
    if min(float(chroma(lab)), float(chroma(target))) < HUELESS_CHROMA:
        return None
    return float((hue_deg(lab) - hue_deg(target) + 180) % 360 - 180)


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
                _("{0!r} is metallic or loose powder and cannot be part of a wet mixture.").format(name)
            )
        if count < 1:
            raise ShelfError(
                _("Parts are whole numbers of at least 1; found {0} of {1!r}.").format(count, name)
            )
    used = [known[name] for name, _unused in parts]
    return stirred("base", "base", used, [count for _unused, count in parts])


def ladder(base: Paint, lightener: Paint, shares: FloatArray, laying: Laying = OPAQUE) -> FloatArray:
    """L*a*b* (n, 3) of base and lightener at the lightener's volume shares (n,)."""
    return laying.lab(Palette.of([base, lightener]).mixture(np.column_stack([1 - shares, shares])))


def choose_lighteners(
    paints: Sequence[Paint],
    base: Paint,
    target: npt.ArrayLike,
    *,
    max_parts: int = 12,
    laying: Laying = OPAQUE,
) -> list[Lightener]:
    """Every other paint that mixes with the base, in the parts that take it nearest to the target, the closest first.

    Raises
    ------
    ShelfError
        No other paint on the shelf mixes with the base.
    """
    goal = np.asarray(target, dtype=float)
    steps = proportions(2, max_parts)
    shares = steps[:, 1] / steps.sum(axis=1)
    found = []
    for paint in paints:
        if not paint.mixes or paint.clear or not media_mix(paint.medium, base.medium) or _same(paint, base):
            continue
        labs = ladder(base, paint, shares, laying)
        de00 = delta_e00(labs, goal)
        # Steps within 0.05 cannot be told apart: the one with fewer parts is easier to count.
        best = min(np.flatnonzero(de00 <= de00.min() + 0.05), key=lambda i: int(steps[i].sum()))
        lab = labs[best]
        found.append(
            Lightener(
                paint.id,
                int(steps[best, 0]),
                int(steps[best, 1]),
                (float(lab[0]), float(lab[1]), float(lab[2])),
                float(de00[best]),
                hue_shift_deg(lab, goal),
            )
        )
    if not found:
        raise ShelfError(
            _(
                "No other paint on this shelf can be stirred into a base of {0}. Add one, or change the base."
            ).format(base.medium)
        )
    return sorted(found, key=lambda lightener: lightener.de00)


def _same(paint: Paint, base: Paint) -> bool:
    """Whether the base is this paint and nothing else."""
    return bool(np.allclose(paint.K, base.K) and np.allclose(paint.S, base.S))
