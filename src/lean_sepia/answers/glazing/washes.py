"""What Glaze asks of washes: which suits each zone, how it will flow there, when it can still be wiped off, what it does to chips."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from lean_sepia.answers.glazing.equal_parts import tint_mix, tint_name, tint_paint
from lean_sepia.answers.glazing.grounds import GlazedZone, ground_of, shiny_top, tint_paints
from lean_sepia.arrays import triple
from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.coats import lay
from lean_sepia.document.edits.mixes import Manner
from lean_sepia.document.model import Project
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.stack import Coating, Opaque, Stack
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.presets import preset
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.waits.drying import removable_for
from lean_sepia.recipe.tints.wash import FLOWS, LOST_DE00, Flow, Wash, choose_washes

_CHIP: Lab = (38.0, 24.0, 24.0)
"""A rust chip, where the zone has no chips of its own (practice)."""


@dataclass(frozen=True, eq=False)
class WashAnswer:
    """Washes for one zone, the one that suits best first, and how they behave on it.

    chips : a chip's colour before and after the wash, where it is laid over chips
    """

    zone: GlazedZone
    paints: tuple[Paint, ...]
    washes: tuple[Wash, ...]
    flow: Flow
    chips: tuple[Lab, Lab] | None
    kind: str

    def name_of(self, wash: Wash) -> str:
        """What a wash is mixed of."""
        return tint_name(self.paints, wash)

    @property
    def remarks(self) -> tuple[str, ...]:
        """How it flows there, the risk of tide marks, when to clean up, and what it does to chips."""
        said = [
            _(self.flow.words),
            _("Tide marks: {0}.").format(_(self.flow.tide_marks)),
            _("Clean up from a minute after, within {0:.0f} hours; later it stays.").format(
                (removable_for(PlanStep(id=self.kind, kind=self.kind)) or 0) / 60
            ),
        ]
        if self.flow.stains:
            said.insert(0, _("A gloss or satin coat below first, or it stains."))
        if self.chips is not None:
            said.append(
                _(
                    "It tones the chips below: lay them before it to tie them in, after it to keep them bright."
                )
            )
        best = self.washes[0]
        if best.contrast < LOST_DE00:
            said.append(
                _("Every wash is nearly lost on so dark a ground: a lighter, dusty tint shows better.")
            )
        elif best.black:
            said.append(_("Only a dead black suits: some brown in it keeps the colour alive."))
        return tuple(said)


def washes_for(
    project: Project, zone_id: str, shelf: Sequence[Paint], kind: str = "wash"
) -> WashAnswer | None:
    """Washes for a zone; None where nothing lies there or nothing can be thinned.

    Raises
    ------
    ShelfError
        No paint can be thinned to a wash.
    """
    zone, paints = ground_of(project, zone_id, kind), tint_paints(shelf)
    if zone is None or not paints:
        return None
    found = choose_washes(paints, zone.ground, zone.before)
    chips = None
    if zone.chipped:
        chips = _on_chips(project, zone_id, tint_paint(paints, found[0]), found[0].thinner_share)
    return WashAnswer(zone, paints, tuple(found), FLOWS[zone.sheen], chips, kind)


def _on_chips(project: Project, zone_id: str, paint: Paint, thinner: float) -> tuple[Lab, Lab]:
    """A chip of the zone without and with a wash drawn over it."""
    chips = [coat for coat in project.coats_of(zone_id) if coat.nature.is_chips and coat.lab]
    lab = chips[0].lab if chips and chips[0].lab else _CHIP
    ground = Stack().lay(Coating("film", Opaque.of_lab(lab)))
    X = film_thickness(1, thinner, "glaze")
    washed = ground.laying(Coating("tint", X=X)).lab(paint)
    return lab, triple(np.asarray(washed))


def lay_wash(project: Project, answer: WashAnswer, wash: Wash, kind: str) -> Project:
    """Lay a wash or pin wash on its zone, as such a one is usually laid.

    Raises
    ------
    EditError
        The kind is neither.
    """
    if kind not in KINDS or not KINDS[kind].runs:
        raise EditError(_("A wash is laid as a wash or as a pin wash; found {0!r}.").format(kind))
    usual = preset(kind)
    tool = project.owns.usual_tool(kind)
    manner = Manner(usual.passes, wash.thinner_share, tool, usual.area_share)
    top = shiny_top(project, answer.zone.zone)
    above = top.id if top else None
    return lay(project, [answer.zone.zone], kind, tint_mix(answer.paints, wash), manner, "", above)[0]
