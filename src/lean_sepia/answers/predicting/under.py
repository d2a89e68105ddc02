"""How a coat lies where it is or would come in a zone: on what is below it, and under what is already planned above it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from lean_sepia.answers.predicting.coatings import coats_below
from lean_sepia.answers.predicting.run import Growing, Laid, ZoneCoats, counts_at
from lean_sepia.arrays import triple
from lean_sepia.colour.spectrum import BANDS
from lean_sepia.document.bounds import Lab
from lean_sepia.document.called import coat_name
from lean_sepia.document.edits.mixes import is_its_own
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import paint_of
from lean_sepia.language import _, ngettext
from lean_sepia.paint.laying import Later, Laying
from lean_sepia.paint.paint import Mixture, Paint, mixed
from lean_sepia.paint.profile import Place
from lean_sepia.paint.saunderson import Surface
from lean_sepia.paint.stack import Coating, Opaque

_NOTHING = Mixture(np.zeros(BANDS), np.zeros(BANDS), Surface())
_MOST_OF_IT = 0.5  # a coat on a share of everything lies on the largest patch from here on


@dataclass(frozen=True, eq=False)
class Spot:
    """Where a coat is or would come in a zone: the coats below and above it, and the zone without it.

    cup : the mix of the coat that is there, where it would change with it: coats above may be mixed from it
    """

    zone: ZoneCoats
    below: tuple[Laid, ...]
    above: tuple[Laid, ...]
    cup: str | None
    project: Project

    @classmethod
    def of(cls, project: Project, zone_id: str, kind: str, below: Sequence[Coat] | None = None) -> Spot:
        """That of a zone's coat of a kind, or where one would come; on these coats, where they are said."""
        under = {coat.id for coat in (coats_below(project, zone_id, kind) if below is None else below)}
        coats = project.coats_of(zone_id)
        there = None if below is not None else next((coat for coat in coats if coat.kind == kind), None)
        whole = ZoneCoats.of(project, zone_id)
        laid = [(coat, coating) for coat, coating in whole.laid if there is None or coat.id != there.id]
        own = there is not None and there.recipe and is_its_own(project, there)
        return cls(
            replace(whole, laid=tuple(laid)), tuple(one for one in laid if one[0].id in under),
            tuple(one for one in laid if one[0].id not in under), there.recipe if there and own else None, project,
        )  # fmt: skip

    def later(self, stage: str) -> tuple[Coat, ...]:
        """The coats above it that change what is seen in a stage."""
        return tuple(
            coat
            for coat, coating in self.above
            if coating.covers in ("film", "tint") and coating.body is not None
            and counts_at(stage, coat, coating, sheltered_too=self.zone.sheltered_too)
        )  # fmt: skip

    def laying(self, coating: Coating, stage: str, varnish: str | None, *, alone: bool = False) -> Laying:
        """How a coat lies there, looked at in a stage under a final varnish; alone, as if nothing were planned above it."""
        places = self.zone.places
        found = [(weight, self._at(place, coating, stage, varnish, alone=alone)) for place, weight in places]
        (_weight, first), *others = found
        return replace(first, beside=tuple(others)) if others else first

    def bare(self, stage: str, varnish: str | None, *, alone: bool = False) -> Lab | None:
        """The colour there without the coat, under what is planned above it; None where nothing lies there."""
        lying = self.laying(Coating("tint", X=0.0), stage, varnish, alone=alone)
        return None if lying.ground is None else triple(lying.lab(_NOTHING))

    def _at(self, place: Place, coating: Coating, stage: str, varnish: str | None, *, alone: bool) -> Laying:
        state = Growing.bare()
        for coat, whole in self.below:
            state, _patch = state.lay(coat, whole.at(place), sheltered_too=self.zone.sheltered_too)
        stack = state.fresh if stage == "fresh" else state.exposed
        lying = stack.laying(coating, varnish)
        return lying if alone else replace(lying, later=self._films(place, stage))

    def _films(self, place: Place, stage: str) -> tuple[Later, ...]:
        wanted = {coat.id for coat in self.later(stage)}
        films = []
        for coat, whole in self.above:
            coating = whole.at(place)
            if coat.id in wanted and coating.share >= _MOST_OF_IT and coating.X > 0:
                films.append(self._film(coat, coating))
        return tuple(films)

    def _film(self, coat: Coat, coating: Coating) -> Later:
        body, tint = coating.body, coating.covers == "tint"
        assert body is not None
        if isinstance(body, Opaque):
            return Later.hiding(body.R_i, body.surface)
        own, others = (
            shares_of_cup(self.project, coat.recipe, self.cup) if coat.recipe and self.cup else (0.0, [])
        )
        if not own:
            return Later.of(body, coating.X, tint=tint)
        rest = (
            mixed([paint for paint, _share in others], [share for _paint, share in others])
            if others
            else None
        )
        return Later.of_cup(own, rest, coating.X, tint=tint)


def shares_of_cup(project: Project, recipe: str, cup: str) -> tuple[float, list[tuple[Paint, float]]]:
    """The share of a cup in a recipe, directly or by way of other cups, and the paints that make up the rest with theirs."""
    if recipe == cup:
        return 1.0, []
    made = project.recipe(recipe)
    whole = sum(count for _name, count in (*made.cups, *made.parts))
    own, others = 0.0, [(paint_of(project.paint(version)), count / whole) for version, count in made.parts]
    for name, count in made.cups:
        inside, rest = shares_of_cup(project, name, cup)
        own += inside * count / whole
        others += [(paint, share * count / whole) for paint, share in rest]
    return own, others


def under_words(coats: Sequence[Coat]) -> str:
    """What something is solved under, such as "under Fade and Filter"; empty where nothing lies above."""
    names = list(dict.fromkeys(coat_name(coat) for coat in coats))
    if not names:
        return ""
    if len(names) == 1:
        return _("under {0}").format(names[0])
    if len(names) == 2:
        return _("under {0} and {1}").format(*names)
    return ngettext("under {0} and {1} more coat", "under {0} and {1} more coats", len(names) - 1).format(
        names[0], len(names) - 1
    )
