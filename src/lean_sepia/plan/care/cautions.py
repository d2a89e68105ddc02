"""The usual cautions at the step where they matter; the product's data sheet and local rules decide."""

from __future__ import annotations

from lean_sepia.language import N_, _
from lean_sepia.paint.handling.carriers import CARRIERS
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.traits.kind import Caution

_WORDS: dict[Caution, str] = {
    "grains": N_("Dust: mask, wipe damp, do not blow."),
    "blade": N_("Fresh blade, cut away from you, on a mat."),
    "wet": N_("Gloves; keep the water off electrics, wet paint and tools off a powered track."),
}
DEFER = N_("The product's safety data sheet and local rules decide.")


def cautions(step: PlanStep) -> tuple[str, ...]:
    """Short cautions for one step, the gravest first."""
    if not step.nature.to_do:
        return ()
    carrier = CARRIERS[step.at_hand]
    found = [*_of_spraying(step, carrier.solvent)]
    if carrier.solvent and not _is_sprayed(step):
        found.append(_("Ventilate; no flame; gloves; lids on open cups."))
    found += [_(words) for words in carrier.heed]
    if not carrier.stands_heat:
        found.append(_("No hair-dryer or heat gun on wet alcohol or thinner."))
    here = {"grains": step.loose, "blade": True, "wet": step.at_hand == "water"}
    found += [_(_WORDS[code]) for code in step.nature.cautions if here[code]]
    if step.nature.covers == "taken" and not step.nature.softens and step.on_found is not False:
        found.append(_("An old finish may hold lead: wet, masked, no children near."))
    found += [_(words) for words in step.nature.heed]
    return tuple(found)


def _is_sprayed(step: PlanStep) -> bool:
    return step.application is not None and step.sprayed


def _of_spraying(step: PlanStep, solvent: bool) -> list[str]:
    """Mist of any paint, and vapour of solvents; where the work is done outdoors, the wind too."""
    if not _is_sprayed(step):
        return []
    can = step.application == "spray-can"
    if solvent or can:
        found = [_("Extract to outside; respirator for organic vapour and particles; no flame or sparks.")]
    else:
        found = [
            _(
                "Extract the mist; respirator with a particle filter, water-borne too; holding your breath is no protection."
            )
        ]
    if step.place == "outdoors":
        found[0] = _(
            "Outdoors too: respirator for organic vapour and particles, the wind behind you, nothing into drains."
        )
    if can:
        found.append(_("Warm a can only in warm water, never above 50 °C."))
    else:
        found.append(_("Cleaner spits back when blown through: eyes, lidded waste."))
    return found
