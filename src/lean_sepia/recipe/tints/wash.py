"""Which wash suits a ground: dark enough to show in its seams, but not black; and how it flows there.

All figures are common practice without a source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray, triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import chroma, hue_deg, lab_from_reflectance
from lean_sepia.errors import ShelfError
from lean_sepia.language import N_, _
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.kubelka_munk import opaque_reflectance
from lean_sepia.paint.media import media_mix
from lean_sepia.paint.paint import Mixture, Paint, Palette
from lean_sepia.recipe.fades.turn import is_red
from lean_sepia.recipe.tints.glaze import Ground, glaze_labs

WASH_THINNER = 10 / 11
"""One part in ten."""

CONTRAST_DE00, LOST_DE00 = 10.0, 3.0
"""What a wash should differ from its ground in the seams, and below which it is lost there."""

_SHARE_OF_L, _ON_RED, _ON_YELLOW = 0.45, 0.36, 0.5
_LEAST_L, _KEPT_CHROMA = 14.0, 0.4
_BLACK_L, _BLACK_CHROMA = 24.0, 2.0
_BLACK_COSTS, _TWO_COST, _LOST_COSTS = 8.0, 1.0, 1.0
_YELLOW_FROM, _YELLOW_TO = 65.0, 105.0


@dataclass(frozen=True)
class Wash:
    """A paint as a wash, or two in equal parts: its colour where it stands in a seam, and as the veil it leaves when wiped off.

    contrast : ΔE00 between seam and ground; de00 : how far the paint is from what suits the ground
    black : whether it is a black without a hue of its own, which deadens
    thinner_share : of thinner that goes to it; none of a ready wash
    """

    paint: str
    second: str | None
    seam: tuple[float, float, float]
    veil: tuple[float, float, float]
    contrast: float
    de00: float
    black: bool
    thinner_share: float = WASH_THINNER


def wanted_in_seams(ground: FloatArray) -> FloatArray:
    """The colour L*a*b* (3,) that a wash should have in the seams of a ground: darker on red than on yellow, of its hue."""
    hue, colourful = float(hue_deg(ground)), float(chroma(ground)) > 10
    share = _SHARE_OF_L
    if is_red(ground):
        share = _ON_RED
    elif colourful and _YELLOW_FROM <= hue <= _YELLOW_TO:
        share = _ON_YELLOW
    L, a, b = (float(value) for value in ground)
    # Dirt is warm: a cool ground gives its wash less of its hue than a warm one.
    return np.array([max(_LEAST_L, share * L), _KEPT_CHROMA * a + 2, _KEPT_CHROMA * b + 3])


def choose_washes(
    paints: Sequence[Paint], ground: Ground, before: npt.ArrayLike, count: int = 6
) -> list[Wash]:
    """The paints, alone or two in equal parts, that suit a ground best as a wash; lost ones come last.

    before : L*a*b* (3,) of the ground

    Raises
    ------
    ShelfError
        No paint can be thinned to a wash.
    """
    usable = [paint for paint in paints if paint.tints]
    if not usable:
        raise ShelfError(
            _("No paint on this shelf can be thinned to a wash: metallics and powders are laid alone.")
        )
    pairs = [
        pair for pair in combinations(range(len(usable)), 2)
        if media_mix(usable[pair[0]].medium, usable[pair[1]].medium) and not any(usable[i].ready for i in pair)
    ]  # fmt: skip
    eye, lab = np.eye(len(usable)), np.asarray(before, dtype=float)
    shares = np.array([*eye, *((eye[i] + eye[j]) / 2 for i, j in pairs)])
    mixture = Palette.of(usable).mixture(shares)
    masstone = lab_from_reflectance(mixture.surface.seen(opaque_reflectance(mixture.K, mixture.S)))
    thinner = shares @ [paint.thinned_to(WASH_THINNER) for paint in usable]
    seam, veil = (_laid(mixture, thinner, ground, tool) for tool in ("seam", "glaze"))
    contrast = delta_e00(seam, np.broadcast_to(lab, seam.shape))
    black = (masstone[:, 0] < _BLACK_L) & (chroma(masstone) < _BLACK_CHROMA)
    away = delta_e00(masstone, np.broadcast_to(wanted_in_seams(lab), masstone.shape)) + _BLACK_COSTS * black
    away = away + _TWO_COST * (np.arange(len(shares)) >= len(usable))
    order = np.lexsort((away + _LOST_COSTS * np.maximum(0, CONTRAST_DE00 - contrast), contrast < LOST_DE00))
    names: list[tuple[str, str | None]] = [
        *((paint.id, None) for paint in usable), *((usable[i].id, usable[j].id) for i, j in pairs)
    ]  # fmt: skip
    return [
        Wash(
            names[row][0], names[row][1], triple(seam[row]), triple(veil[row]), float(contrast[row]), float(away[row]), bool(black[row]),
            float(thinner[row]),
        )
        for row in order[:count]
    ]  # fmt: skip


def _laid(mixture: Mixture, thinner: FloatArray, ground: Ground, tool: str) -> FloatArray:
    """L*a*b* (n, 3) of mixtures with shares of thinner (n,), laid with a tool."""
    films = (1 - thinner) * film_thickness(1, 0.0, tool)
    rows = Mixture(mixture.K[:, None], mixture.S[:, None], mixture.surface)
    return glaze_labs(rows, [ground], films)[:, 0]


@dataclass(frozen=True)
class Flow:
    """How a wash behaves on a sheen: in words, and the risk of tide marks."""

    words: str
    tide_marks: str
    stains: bool


FLOWS: dict[str, Flow] = {
    "gloss": Flow(N_("It runs along seams by itself; excess wipes off clean."), N_("little"), stains=False),
    "satin": Flow(N_("It runs in the seams and drags a little on open surface; excess wipes off."), N_("some, where it dries in a pool"),
                  stains=False),
    "flat": Flow(N_("It does not run: it soaks in, stains and stays where the brush put it."), N_("great; wet the surface with thinner first"),
                 stains=True),
    "metallic": Flow(N_("It runs in the seams; test whether its thinner lifts the metal."), N_("some, where it dries in a pool"), stains=False),
}  # fmt: skip
"""By the sheen of what lies below."""
