"""How far each kind of step can still be undone, with what, and until when; common practice without a source."""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.language import N_, _
from lean_sepia.plan.step import PlanStep

_HOUR = 60.0
_DAY = 24 * _HOUR


@dataclass(frozen=True)
class Undo:
    """Until so many minutes after the end of a step it is undone like this; None for as long as it lies there.

    how : as a template of words; wholly : whether nothing of it is left then
    """

    until_min: float | None
    how: str
    wholly: bool = True


_SPOT = N_("Try it on a spare part painted in the same evening first.")
_SAND = N_("Sand it level, wet, and lay it again; the coat below goes with it.")
_PAINT: dict[str, tuple[Undo, ...]] = {
    "acrylic-water": (
        Undo(10, N_("Wash it off with water and a soft brush.")),
        Undo(_DAY, N_("Take it off with alcohol on a cotton bud; acrylic below it softens too."), False),
        Undo(None, _SAND, False),
    ),
    "acrylic-alcohol": (
        Undo(5, N_("Wipe it off with alcohol, quickly.")),
        Undo(_DAY, N_("Take it off with alcohol on a cotton bud; acrylic below it softens too."), False),
        Undo(None, _SAND, False),
    ),
    "lacquer": (
        Undo(0, N_("It has bitten by the time it is seen: let it dry.")),
        Undo(None, N_("Flatten it with a fine pad and lay it again; its thinner takes everything below with it."), False),
    ),
    "enamel": (
        Undo(6 * _HOUR, N_("Wipe it off with white spirit; what is acrylic below and cured stays.")),
        Undo(3 * _DAY, N_("White spirit softens it still; work in small areas."), False),
        Undo(None, _SAND, False),
    ),
    "oil": (
        Undo(_DAY, N_("Wipe it off with white spirit; what is acrylic below and cured stays.")),
        Undo(5 * _DAY, N_("White spirit softens it still; work in small areas."), False),
        Undo(None, _SAND, False),
    ),
}  # fmt: skip
_POWDER = (
    Undo(None, N_("Brush it off, or lift it with a damp cotton bud, as long as nothing fixes or varnishes it. About 8 psi of air takes off what is loose: in the booth and masked.")),
)  # fmt: skip
_VARNISH: dict[str, tuple[Undo, ...]] = {
    "acrylic-water": (
        Undo(5, N_("Wipe it off with water at once.")),
        Undo(None, N_("A varnish stays: the other sheen over it sets the sheen anew. Take dust out with a fine pad."), False),
    ),
    "": (
        Undo(None, N_("A varnish stays: the other sheen over it sets the sheen anew. Take dust out with a fine pad."), False),
    ),
}  # fmt: skip
_BY_KIND: dict[str, tuple[Undo, ...]] = {
    "wash-model": (Undo(None, N_("Nothing to undo: wash again and let it dry.")),),
    "found": (Undo(None, N_("It is there already: what is done to it decides, so test on a hidden spot."), False),),
    "test-piece": (Undo(None, N_("Nothing to undo: that is what it is for.")),),
    "mask": (Undo(None, N_("Lift it and lay it again, low along the surface; warm stubborn tape with a finger."),),),
    "unmask": (Undo(None, N_("Mask again along the edge; creep is scraped with a fresh blade held flat, or touched up."), False),),
    "resist": (Undo(None, N_("Rub it off again while nothing lies on it.")),),
    "remove-resist": (Undo(None, N_("What is rubbed off is gone: touch it up with the mix of the coat."), False),),
    "marking": (
        Undo(1, N_("Float it with water and push it.")),
        Undo(_HOUR, N_("Soak it with warm water and slide it off; it may tear."), False),
        Undo(None, N_("Lift it with tape or scrape it off; the coat below suffers."), False),
    ),
    "setting-solution": (Undo(1, N_("Blot it at once.")), Undo(None, N_("The decal has drawn in for good."), False)),
    "scrape": (Undo(None, N_("What is scraped off is gone: touch it up with the mix of the coat."), False),),
    "wipe-back": (Undo(None, N_("Lay more and wipe again.")),),
    "blend": (Undo(12 * _HOUR, N_("Draw it off with a brush damp with white spirit.")), Undo(None, N_("It has set: glaze over it."), False)),
    "fix-powder": (Undo(60, N_("Lift it with the fluid itself and a soft brush."), False), Undo(None, N_("Fixed powder stays; paint over it."), False)),
    "graphite": (Undo(None, N_("Wipe it off with a soft rubber; a trace of shine stays."), False),),
    "fit-glass": (Undo(60, N_("Slide it out before the glue grips.")), Undo(None, N_("Press it out from inside; clear parts crack."), False)),
    "assemble": (Undo(5, N_("Pull it apart before the glue grips.")), Undo(None, N_("Cut the joint with a fresh blade, away from you."), False)),
    "other": (Undo(None, N_("Only you know what this step does: note how to undo it."), False),),
}  # fmt: skip
_GLAZE: dict[str, tuple[Undo, ...]] = {
    "acrylic-water": (
        Undo(10, N_("Wipe it off with water and a soft brush.")),
        Undo(_DAY, N_("Alcohol on a cotton bud takes it off over a varnish; without one the coat below goes too."), False),
        Undo(None, N_("Overspray it lightly with the base."), False),
    ),
    "slow": (
        Undo(12 * _HOUR, N_("Wipe it off with a brush damp with white spirit; over a varnish nothing is left of it.")),
        Undo(3 * _DAY, N_("White spirit still softens it; the darkest stays in the seams."), False),
        Undo(None, N_("Overspray it lightly with the base, or glaze over it."), False),
    ),
}  # fmt: skip


def undoing(step: PlanStep) -> tuple[Undo, ...]:
    """How a step is undone, the earliest and most thorough first; a clock of its own closes the first."""
    found = _undoing(step)
    closes = step.removable_until_min
    if closes is not None and len(found) > 1:
        found = (Undo(closes, found[0].how, found[0].wholly), *found[1:])
    return found


def _undoing(step: PlanStep) -> tuple[Undo, ...]:
    if step.kind in _BY_KIND:
        return _BY_KIND[step.kind]
    if step.loose:
        return _POWDER
    if step.nature.is_varnish:
        return _VARNISH.get(step.medium or "", _VARNISH[""])
    if step.nature.family in ("glaze", "spots"):
        return _GLAZE["slow" if step.medium in ("oil", "enamel", None) else "acrylic-water"]
    return _PAINT.get(step.medium or "acrylic-water", _PAINT["acrylic-water"])


def is_final(step: PlanStep) -> bool:
    """Whether nothing takes a step back wholly once it is done, so that a test piece is asked for first."""
    return step.nature.to_do and not any(
        undo.wholly and (undo.until_min is None or undo.until_min >= 10) for undo in undoing(step)
    )


def test_first(step: PlanStep) -> str:
    """The words that ask for a test piece before what cannot be taken back; empty where it can."""
    return _(_SPOT) if is_final(step) and step.nature.leaves_film else ""
