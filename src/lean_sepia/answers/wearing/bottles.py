"""What marks are made of: the bottle of one's own shelf that is near enough, else a small mix of two."""

from __future__ import annotations

from collections.abc import Hashable, Sequence
from itertools import combinations

from lean_sepia.answers.coats.showing import Showing
from lean_sepia.answers.coats.worn import nearest_bottle
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.written import write_colour
from lean_sepia.document.bounds import Lab
from lean_sepia.errors import ShelfError
from lean_sepia.paint.laying import OPAQUE
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import Paint, mingled
from lean_sepia.recipe.choice import base_paints
from lean_sepia.recipe.mix import MixSolver

_NEAR_ENOUGH, _GAINS = 2.0, 1.5  # ΔE00: of one bottle alone, and what a second one must gain
_TWO_PARTS = ((1, 1), (1, 2), (2, 1), (1, 3), (3, 1))
_PAINTS, _PARTS = 2, 4  # of a mix for marks, which are stirred by the drop


class Bottles:
    """The bottles that are in use, with the mixes for marks that were looked for already.

    laid : colours after one pass, two … that were predicted already, with how they show, by what they follow from
    """

    def __init__(self, paints: Sequence[Paint]) -> None:
        self.paints = tuple(paints)
        self.laid: dict[Hashable, tuple[tuple[Lab, Showing | None], ...]] = {}
        self._solvers: dict[str | None, MixSolver | None] = {}
        self._found: dict[tuple[Lab, str | None], str] = {}

    def made_of(self, lab: Lab, medium: str | None) -> str:
        """What marks of a colour are made of, as it can be written on the sheet; the colour itself where there is no bottle."""
        key = (lab, medium)
        if key not in self._found:
            self._found[key] = self._made_of(lab, medium)
        return self._found[key]

    def _made_of(self, lab: Lab, medium: str | None) -> str:
        bottle = nearest_bottle(lab, self.paints, medium)
        if bottle is None:
            return write_colour(lab, 2)
        alone = float(delta_e00(bottle.masstone_lab(), lab))
        if alone > _NEAR_ENOUGH and MEDIA[bottle.medium].loose:
            return self._mingled(lab, bottle, alone)
        mixes = alone > _NEAR_ENOUGH and bottle.lies_as_film and not bottle.can
        solver = self._solver(bottle.medium) if mixes else None
        if solver is None:
            return bottle.name
        best = solver.solve(lab, count=1)[0]
        if best.de00 > alone - _GAINS or len(best.parts) < 2:
            return bottle.name
        names = {paint.id: paint.name for paint in self.paints}
        return " + ".join(f"{count} {names[shelf_id]}" for shelf_id, count in best.parts)

    def _mingled(self, lab: Lab, bottle: Paint, alone: float) -> str:
        """A powder, or two of them by area where those come nearer."""
        loose = [paint for paint in self.paints if paint.offered and MEDIA[paint.medium].loose]
        best, made = alone - _GAINS, bottle.name
        for one, other in combinations(loose, 2):
            for parts in _TWO_PARTS:
                mixture = mingled((one, other), parts)
                away = float(delta_e00(OPAQUE.lab(mixture), lab))
                if away < best:
                    best, made = away, f"{parts[0]} {one.name} + {parts[1]} {other.name}"
        return made

    def _solver(self, medium: str | None) -> MixSolver | None:
        if medium not in self._solvers:
            mixed = [paint for paint in base_paints(self.paints) if paint.medium == medium and not paint.can]
            try:
                self._solvers[medium] = MixSolver(mixed, max_paints=_PAINTS, max_parts=_PARTS)
            except ShelfError:
                self._solvers[medium] = None
        return self._solvers[medium]
