"""The usual cautions at the step where they matter; the product's data sheet and local rules decide."""

from __future__ import annotations

from lean_sepia.language import N_, _
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.kinds import Caution
from lean_sepia.plan.step import PlanStep

_WORDS: dict[Caution, str] = {
    "dust": N_("Dust: mask, wipe damp, do not blow."),
    "blade": N_("Fresh blade, cut away from you, on a mat."),
    "wet": N_("Gloves; keep the water off electrics."),
}
DEFER = N_("The product's safety data sheet and local rules decide.")


def cautions(step: PlanStep) -> tuple[str, ...]:
    """Short cautions for one step, the gravest first."""
    if not step.nature.to_do:
        return ()
    found = []
    sprayed = step.application is not None and TOOLS[step.application].sprayed
    solvent = step.solvent in ("alcohol", "white-spirit", "lacquer-thinner")
    if sprayed and solvent:
        found.append(_("Extract to outside; organic-vapour respirator; no flame or sparks."))
    elif sprayed:
        found.append(_("Extract the mist; a particle mask."))
    elif solvent:
        found.append(_("Ventilate; no flame; gloves."))
    if step.application == "spray-can":
        found.append(_("Warm a can only in warm water, never above 50 °C."))
    if step.solvent == "white-spirit":
        found.append(_("Oily rags can self-heat: dry them flat outdoors or keep them in a lidded metal can."))
    if solvent and step.solvent != "white-spirit":
        found.append(_("No hair-dryer or heat gun on wet alcohol or thinner."))
    found += [_(_WORDS[code]) for code in step.nature.cautions if code != "dust" or step.loose]
    return tuple(found)
