"""The usual cautions at the step where they matter; the product's data sheet and local rules decide."""

from __future__ import annotations

from lean_sepia.plan.step import PlanStep

DEFER = "The product's safety data sheet and local rules decide."


def cautions(step: PlanStep) -> tuple[str, ...]:
    """Short cautions for one step, the gravest first."""
    found = []
    sprayed = step.application in ("airbrush", "spray-can")
    solvent = step.solvent in ("alcohol", "white-spirit", "lacquer-thinner")
    if sprayed and solvent:
        found.append("Extract to outside; organic-vapour respirator; no flame or sparks.")
    elif sprayed:
        found.append("Extract the mist; a particle mask.")
    elif solvent:
        found.append("Ventilate; no flame; gloves.")
    if step.application == "spray-can":
        found.append("Warm a can only in warm water, never above 50 °C.")
    if step.solvent == "white-spirit":
        found.append("Oily rags can self-heat: dry them flat outdoors or keep them in a lidded metal can.")
    if solvent and step.solvent != "white-spirit":
        found.append("No hair-dryer or heat gun on wet alcohol or thinner.")
    if step.kind in ("powder", "pastel", "dust", "soot", "graphite") and step.medium in (
        None,
        "pigment",
        "pastel",
    ):
        found.append("Dust: mask, wipe damp, do not blow.")
    if step.kind in ("mask", "unmask", "marking"):
        found.append("Fresh blade, cut away from you, on a mat.")
    if step.kind == "resist-chips":
        found.append("Gloves; keep the water off electrics.")
    return tuple(found)
