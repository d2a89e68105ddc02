"""Wear that is chosen rather than measured: a kind and how much of it, as a coat that can be laid."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from lean_sepia.answers.coats.draft import Draft, usual_draft
from lean_sepia.answers.targets import Targets
from lean_sepia.answers.wearing.kinds import WEAR_KINDS
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.written import write_colour
from lean_sepia.document.bounds import Lab
from lean_sepia.language import _
from lean_sepia.paint.paint import Paint
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.owned import EVERYTHING, Owned

_MUCH_NEARER, _NEARER = 12.0, 3.0  # ΔE00 that another medium must gain, and where the usual one is far off
_FAR_OFF = 8.0


def worn_lab(targets: Targets, name: str) -> Lab:
    """The colour of a kind of wear on a zone: as sampled in its own role, else its usual one."""
    kind = WEAR_KINDS[name]
    sampled = targets.of_role(kind.role)
    return sampled.lab if sampled else kind.lab


def nearest_bottle(lab: Lab, paints: Sequence[Paint], medium: str | None = None) -> Paint | None:
    """The bottle whose own colour is nearest: of a medium, unless one of another is much nearer, or near where none of it is."""
    away = {paint.id: float(delta_e00(paint.masstone_lab(), lab)) for paint in paints if paint.offered}
    known = [paint for paint in paints if paint.id in away]
    if not known:
        return None
    best = min(known, key=lambda paint: away[paint.id])
    usual = min((p for p in known if p.medium == medium), key=lambda paint: away[paint.id], default=best)
    gain = _MUCH_NEARER if away[usual.id] <= _FAR_OFF else _NEARER
    return usual if away[usual.id] <= away[best.id] + gain else best


def worn_draft(
    targets: Targets, name: str, amount: int, paints: Sequence[Paint], owns: Owned = EVERYTHING
) -> Draft:
    """A kind of wear as a coat to lay: its share, and the bottle nearest to its colour; amount : 0 subtle, 1 usual, 2 heavy."""
    kind = WEAR_KINDS[name]
    draft = usual_draft(kind.kind, owns=owns)
    nature = KINDS[kind.kind]
    of = ""
    if nature.covers != "taken":
        lab = worn_lab(targets, name)
        bottle = nearest_bottle(lab, paints, nature.medium)
        of = bottle.name if bottle else write_colour(lab)
    return replace(draft, of=of, name=_(kind.coat), area_share=kind.shares[amount])
