"""What Glaze asks: which thin tint brings several zones nearer to what they should look like."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from lean_sepia.answers.strata import Strata, coats_below, final_varnish, stack_below
from lean_sepia.answers.targets import Target
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.bounds import Lab
from lean_sepia.document.model import Project
from lean_sepia.document.versions import finish_of
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.stack import Coating
from lean_sepia.plan.cautions import cautions
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.step import Material, PlanStep
from lean_sepia.recipe.tints.glaze import MOST_PASSES, Glaze, Ground, choose_glazes, glaze_film, glaze_labs

MOST_ZONES, _SHOWN = 4, 4


@dataclass(frozen=True, eq=False)
class GlazedZone:
    """A zone a glaze can be judged on: what it would lie on, its colour there, and which target it is judged by.

    stage : "seen", "exposed" or "fresh": the target that is known, the latest first
    stains : whether it would lie on a flat surface, which it stains
    """

    zone: str
    ground: Ground
    before: Lab
    target: Target
    stage: str
    stains: bool


@dataclass(frozen=True, eq=False)
class GlazeQuestion:
    """The zones, and the paints to make a glaze of."""

    zones: tuple[GlazedZone, ...]
    paints: tuple[Paint, ...]

    def same_as(self, other: GlazeQuestion | None) -> bool:
        """Whether the answer will be the same."""
        return other is not None and self.key == other.key

    @property
    def key(self) -> tuple[object, ...]:
        """What tells this question from others: arrays by their rounded values, paints by identity."""
        zones = [(one.zone, one.before, one.target, tuple(np.round(one.ground.R_i, 6))) for one in self.zones]
        return (zones, tuple(id(paint) for paint in self.paints))


@dataclass(frozen=True, eq=False)
class GlazeAnswer:
    """Glazes, the nearest first; each pass of each on every zone as L*a*b* (passes, zones, 3); ΔE00 without any."""

    question: GlazeQuestion
    glazes: tuple[Glaze, ...]
    passes: tuple[FloatArray, ...]
    none_mean: float


def ask(
    project: Project, cuts: Mapping[str, Strata], first: str, shelf: Sequence[Paint]
) -> GlazeQuestion | None:
    """The question for up to four painted zones with a target, `first` leading; None where there is none to judge."""
    zones = [found for zone in project.zones if (found := _zone(project, cuts[zone.id]))]
    zones.sort(key=lambda one: one.zone != first)
    wet = [paint for paint in shelf if paint.mixes]
    oils = [paint for paint in wet if paint.medium in ("oil", "enamel")] or wet
    if not zones or not oils:
        return None
    return GlazeQuestion(tuple(zones[:MOST_ZONES]), tuple(oils))


def _zone(project: Project, cut: Strata) -> GlazedZone | None:
    """A zone with paint below its filter and a target."""
    targets = cut.targets
    stage, target = next(
        (
            (name, found)
            for name in ("seen", "exposed", "fresh")
            if (found := getattr(targets, name)) is not None
        ),
        ("", None),
    )
    if target is None or cut.fresh is None:
        return None
    varnish = final_varnish(project.coats_of(cut.zone))
    stack = stack_below(project, cut.zone, "filter")
    before, laying = stack.lab(varnish), stack.laying(Coating("tint"))
    if before is None or laying.ground is None or laying.kept is None:
        return None
    ground = Ground(laying.ground, laying.kept.under(varnish))
    return GlazedZone(cut.zone, ground, before, target, stage, _flat_below(project, cut.zone))


def _flat_below(project: Project, zone_id: str) -> bool:
    """Whether the topmost coat under a filter that has a sheen of its own is flat."""
    for coat in reversed(coats_below(project, zone_id, "filter")):
        if KINDS[coat.kind].is_varnish or KINDS[coat.kind].is_paint:
            return finish_of(project, coat) == "flat"
    return True


def glaze_cautions(paint: Paint) -> tuple[str, ...]:
    """What laying a filter of a paint needs for safety."""
    material = Material(medium=paint.medium)
    return cautions(PlanStep(id="filter", kind="filter", material=material, application="glaze"))


def answer(question: GlazeQuestion) -> GlazeAnswer:
    """Choose glazes, and follow each pass by pass."""
    known = {paint.id: paint for paint in question.paints}
    grounds = [zone.ground for zone in question.zones]
    goals = [zone.target.lab for zone in question.zones]
    glazes = choose_glazes(question.paints, grounds, goals)[:_SHOWN]
    passes = tuple(
        glaze_labs(
            known[glaze.paint],
            grounds,
            np.array([glaze_film(glaze.thinner_parts, n) for n in range(MOST_PASSES + 1)]),
        )
        for glaze in glazes
    )
    none = float(np.mean([delta_e00(zone.before, zone.target.lab) for zone in question.zones]))
    return GlazeAnswer(question, tuple(glazes), passes, none)
