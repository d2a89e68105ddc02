"""How much to mix, and putting a batch right by adding only."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray, IntArray, triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.reflectance import estimate_reflectance
from lean_sepia.errors import BadInputError, ShelfError
from lean_sepia.language import _
from lean_sepia.paint.kubelka_munk import ratio_of_opaque
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.media import media_mix
from lean_sepia.paint.paint import Paint, Palette, stirred
from lean_sepia.paint.saunderson import Surface
from lean_sepia.paint.tools import TOOLS
from lean_sepia.recipe.mixture_table import QuickColours
from lean_sepia.recipe.parts import DROPS_PER_ML

WET_FILM_ML_PER_CM2 = 0.0025
"""Paint as it leaves the nozzle for one coat: a wet film of 25 µm (practice)."""

RESERVE = 0.25
"""Share that is mixed on top for touch-ups (practice)."""

_AMOUNTS = (1, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30, 40, 50, 60, 80, 100, 120, 160, 200)
_PAIR_AMOUNTS = (1, 2, 3, 5, 8, 12, 20, 30, 50, 80)
_WORTH_DE00 = 0.15


@dataclass(frozen=True)
class BatchVolume:
    """What to mix, in millilitres: the thinned mix, and the paint and thinner in it; the reserve is a part of the whole."""

    total_ml: float
    paint_ml: float
    thinner_ml: float
    reserve_ml: float = 0.0

    def at_least(self, paint_ml: float) -> BatchVolume:
        """The same mix with no less paint in it than can be counted."""
        if self.paint_ml >= paint_ml:
            return self
        more = paint_ml / self.paint_ml
        total = self.total_ml * more
        return BatchVolume(total, paint_ml, self.thinner_ml * more, total - (self.total_ml - self.reserve_ml))


def batch_volume(
    area_cm2: float,
    coats: float,
    *,
    thinner_share: float = 0.0,
    tool: str = "airbrush",
    reserve: float = RESERVE,
) -> BatchVolume:
    """How much thinned mix an area needs: what lies on it, what is lost on the way and in the tool, and a reserve (practice).

    Raises
    ------
    BadInputError
        An area, number of coats or share that cannot be, or an unknown tool.
    """
    if not (
        0 < area_cm2 < np.inf and 0 < coats < np.inf and 0 <= thinner_share < 1 and 0 <= reserve < np.inf
    ):
        raise BadInputError(
            _(
                "An area and a number of coats are above 0, a share of thinner lies from 0 to below 1, a reserve is not negative."
            )
        )
    if tool not in TOOLS:
        raise BadInputError(_("Paint is laid with one of {0}; found {1!r}.").format(", ".join(TOOLS), tool))
    manner = TOOLS[tool]
    laid = area_cm2 * coats * WET_FILM_ML_PER_CM2 * manner.spread
    needed = laid / manner.arrives + manner.left_ml
    total = needed * (1 + reserve)
    return BatchVolume(total, total * (1 - thinner_share), total * thinner_share, total - needed)


@dataclass(frozen=True)
class Correction:
    """What to add to a batch: drops by paint id; the volume after, and the colour then."""

    drops: tuple[tuple[str, int], ...]
    added_ml: float
    total_ml: float
    lab: tuple[float, float, float]
    de00: float


def correct_batch(
    paints: Sequence[Paint],
    batch_ml: Mapping[str, float],
    target: npt.ArrayLike,
    *,
    measured: npt.ArrayLike | None = None,
    laying: Laying = OPAQUE,
    drops_per_ml: float = DROPS_PER_ML,
) -> list[Correction]:
    """What can be added to a batch to bring it to a target L*a*b* (3,): the smallest addition first, each later one nearer.

    batch_ml : millilitres of each paint in the cup, by id
    measured : L*a*b* (3,) of the batch as it came out, where it differs from what was predicted

    Raises
    ------
    ShelfError
        The batch is empty or holds a paint that is not on the shelf or does not mix.
    """
    goal = np.asarray(target, dtype=float)
    batch, volume = _as_paint(paints, batch_ml, measured, laying)
    usable = [paint for paint in paints if paint.proposed and media_mix(paint.medium, batch.medium)]
    palette = Palette.of([*usable, batch])
    added = _additions(len(usable), volume * drops_per_ml)
    amounts = np.column_stack([added, np.full(len(added), volume * drops_per_ml)])
    total = amounts.sum(axis=1, keepdims=True)
    quick = QuickColours(palette, laying).of_shares(amounts / total)
    rough = delta_e00(quick, goal)
    # The best of every amount of drops, and what is near it, are computed exactly.
    drops = added.sum(axis=1)
    near = np.zeros(len(added), dtype=bool)
    for number in np.unique(drops):
        same = np.flatnonzero(drops == number)
        near[same[np.argsort(rough[same])[:4]]] = True
    rows = np.flatnonzero(near)
    labs = laying.lab(palette.mixture(amounts[rows] / total[rows]))
    de00 = delta_e00(labs, goal)
    answer: list[Correction] = []
    best = float(delta_e00(laying.lab(batch), goal))
    for index in np.lexsort((de00, drops[rows])).tolist():
        if de00[index] < best - _WORTH_DE00:
            best = float(de00[index])
            row = added[rows[index]]
            more = float(row.sum()) / drops_per_ml
            named = tuple((usable[i].id, int(row[i])) for i in np.flatnonzero(row))
            answer.append(Correction(named, more, volume + more, triple(labs[index]), best))
    return answer


def _as_paint(
    paints: Sequence[Paint], batch_ml: Mapping[str, float], measured: npt.ArrayLike | None, laying: Laying
) -> tuple[Paint, float]:
    """The batch as one paint, drawn to its measured colour, and its volume."""
    by_id = {paint.id: paint for paint in paints}
    for name, amount in batch_ml.items():
        if name not in by_id or not by_id[name].mixes:
            raise ShelfError(
                _("{0!r} in the batch is not a paint on this shelf that can be mixed.").format(name)
            )
        if not amount > 0:
            raise ShelfError(
                _("The batch holds {0:g} ml of {1!r}: give what went in, above 0.").format(amount, name)
            )
    if not batch_ml:
        raise ShelfError(_("The batch is empty: say how many millilitres of which paints are in the cup."))
    used, volume = [by_id[name] for name in batch_ml], sum(batch_ml.values())
    batch = stirred("batch", "the batch", used, list(batch_ml.values()))
    if measured is None:
        return batch, volume
    return replace(batch, K=batch.K * _drawn(laying.lab(batch), measured, batch.surface)), volume


def _drawn(predicted: FloatArray, measured: npt.ArrayLike, surface: Surface) -> FloatArray:
    """By what K (31,) is multiplied so that a predicted colour becomes a measured one.

    Both colours are taken as the smoothest spectra that give them, so that only their difference counts.
    """
    ratios = [
        ratio_of_opaque(np.clip(surface.inwards(estimate_reflectance(lab).reflectance), 1e-3, 1 - 1e-3))
        for lab in (predicted, measured)
    ]
    return np.asarray(np.clip(ratios[1] / ratios[0], 0.05, 20.0))


def _additions(paints: int, batch_drops: float) -> IntArray:
    """Drops (n, paints) of one or two paints to add, at most twice the batch."""
    alone = [(paint, amount, paint, 0) for paint in range(paints) for amount in _AMOUNTS]
    pairs = [
        (one, first, other, second)
        for one, other in combinations(range(paints), 2)
        for first in _PAIR_AMOUNTS
        for second in _PAIR_AMOUNTS
    ]
    table = np.array(alone + pairs, dtype=np.int64).reshape(-1, 4)
    table = table[table[:, 1] + table[:, 3] <= 2 * batch_drops]
    answer = np.zeros((len(table), paints), dtype=np.int64)
    index = np.arange(len(table))
    np.add.at(answer, (index, table[:, 0]), table[:, 1])
    np.add.at(answer, (index, table[:, 2]), table[:, 3])
    return answer
