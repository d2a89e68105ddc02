"""How far each kind of step can still be undone, with what, and until when; common practice without a source."""

from __future__ import annotations

from lean_sepia.language import N_, _
from lean_sepia.paint.handling.undo import Undo
from lean_sepia.paint.media import MEDIA, VARNISH_STAYS
from lean_sepia.plan.step import PlanStep

_SPOT = N_("Try it on a spare part painted in the same evening first.")


def undoing(step: PlanStep) -> tuple[Undo, ...]:
    """How a step is undone, the earliest and most thorough first; a clock of its own closes the first."""
    found = _undoing(step)
    closes = step.removable_until_min
    if closes is not None and len(found) > 1:
        found = (Undo(closes, found[0].how, found[0].wholly), *found[1:])
    return found


def _undoing(step: PlanStep) -> tuple[Undo, ...]:
    nature = step.nature
    if nature.undone is not None:
        return nature.undone
    if nature.is_varnish and step.medium is None:
        return (VARNISH_STAYS,)
    matter = MEDIA[step.medium or str(nature.medium)]
    if nature.is_varnish:
        return matter.varnish_undone
    return matter.glaze_undone if nature.is_fine else matter.coat_undone


def is_final(step: PlanStep) -> bool:
    """Whether nothing takes a step back wholly once it is done, so that a test piece is asked for first."""
    return step.nature.to_do and not any(
        undo.wholly and (undo.until_min is None or undo.until_min >= 10) for undo in undoing(step)
    )


def test_first(step: PlanStep) -> str:
    """The words that ask for a test piece before what cannot be taken back; empty where it can."""
    return _(_SPOT) if is_final(step) and step.nature.leaves_film else ""
