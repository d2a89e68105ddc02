"""What to put out before a step, with which pressure, and in what state the tool must be; common practice without a source."""

from __future__ import annotations

from lean_sepia.language import N_, _
from lean_sepia.paint.handling.carriers import CARRIERS
from lean_sepia.paint.media import MEDIA
from lean_sepia.plan.step import PlanStep

_FLUSH = N_(
    "Flush the airbrush and spray its thinner until it comes clear; the needle clean before the next cup."
)
_STATES: dict[str, tuple[str, ...]] = {
    "drybrush": (N_("Unload the brush on a cloth until it hardly marks."), N_("The dry brush stays dry: no water, no thinner.")),
    "sponge": (N_("Dab the sponge on paper until it prints specks, not blots."),),
    "seam": (N_("Touch the tip to the seam and let it run; do not paint with it."),),
    "glaze": (N_("Unload the brush on a cloth: it should be damp, not wet."),),
    "flick": (N_("Flick over paper first: the stiffer the brush and the thinner the paint, the finer the specks."),),
    "flood": (N_("Keep a second, clean brush damp for what pools."),),
}  # fmt: skip


def tool_state(step: PlanStep) -> tuple[str, ...]:
    """In what state tools must be for a step."""
    if not step.nature.to_do:
        return ()
    own = step.nature.ready
    if step.tool is None or not step.nature.leaves_film:
        return tuple(_(words) for words in own)
    if step.tool == "mist":
        return (
            _(_FLUSH),
            _("A slow mist dries on the tip: wipe it between passes, and keep the paint moving."),
        )
    if step.sprayed and step.tool != "spray-can":
        return (_(_FLUSH),)
    if step.tool == "spray-can":
        return (_("Warm the can in warm tap water for 15 minutes and shake it for two."),)
    return tuple(_(words) for words in (*_STATES.get(step.tool, ()), *own))


def pressure(step: PlanStep) -> str:
    """The air pressure of a step, with what it is for; empty where no air is used."""
    if step.nature.blown and step.loose:
        return _("About 8 psi to blow off what is loose, no more.")
    if step.tool == "close":
        return _("Under 20 psi for mottling and lines, so that nothing spiders.")
    if step.tool == "mist":
        return _(
            "Under 20 psi from further off, so that it arrives nearly dry and does not wet what lies below."
        )
    if step.tool == "airbrush":
        return _(
            "As the paint asks: enough that it does not spit, no more, so that it stays where it is meant."
        )
    return ""


def to_put_out(step: PlanStep, paints: tuple[str, ...] = ()) -> tuple[str, ...]:
    """What to have at hand before a step begins."""
    if not step.nature.to_do:
        return ()
    things = list(paints)
    carrier = CARRIERS[step.at_hand]
    if carrier.put_out and (
        step.nature.leaves_film or step.carrier or step.under_hand or step.nature.carrier
    ):
        things.append(_(carrier.put_out))
    if step.sprayed:
        things += [_("airbrush cleaned, a spare needle") if step.tool != "spray-can" else _("the can"),
                   _("respirator for vapour and particles"), _("gloves")]  # fmt: skip
    elif carrier.solvent:
        things += [_("gloves"), _("cups with lids")]
    if step.loose:
        things += [_("particle mask"), _("a dry soft brush")]
    if "blade" in step.nature.cautions:
        things.append(_("a fresh blade and a mat"))
    if step.nature.cloths:
        wiped = step.under_hand or step.medium
        rags = carrier.solvent or (wiped is not None and MEDIA[wiped].slow)
        things.append(
            _("lint-free cloths and a lidded metal can for them") if rags else _("lint-free cloths")
        )
    if step.brushed and step.nature.leaves_film:
        things.append(_("a brush for it, and a clean one"))
    things += [_("a spare part in the same paint, to test on")] if step.nature.leaves_film else []
    return tuple(dict.fromkeys(things))
