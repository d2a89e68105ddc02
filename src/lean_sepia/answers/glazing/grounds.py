"""What a tint would lie on, zone by zone: its colour and surface there, its sheen, what it should look like, what is lettered."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from lean_sepia.answers.predicting.coatings import coats_below, final_varnish, stack_of
from lean_sepia.answers.predicting.under import Spot, under_words
from lean_sepia.answers.stages import aimed_at
from lean_sepia.answers.targets import Target, targets_of
from lean_sepia.document.bounds import Lab
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import finish_of
from lean_sepia.language import _
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.stack import Coating
from lean_sepia.plan.care.cautions import DEFER, cautions
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.step import Material, PlanStep
from lean_sepia.recipe.tints.glaze import Ground

_STAINS = ("stain",)
_STAGE = "exposed"  # where a tint over all of a zone is looked at


@dataclass(frozen=True, eq=False)
class GlazedZone:
    """A zone under a tint: what it lies on, its colour there, and which target it is judged by.

    target, stage : the target it is judged by, and at which stage that is; None and "" where none is known
    under : what is planned above it besides the varnish, in words
    sheen : of the topmost coat below that has one; lettered : whether a marking lies below; chipped : whether chips do
    """

    zone: str
    ground: Ground
    before: Lab
    target: Target | None
    stage: str
    sheen: str
    lettered: bool
    chipped: bool
    under: str = ""

    @property
    def stains(self) -> bool:
        """Whether it lies on a flat surface, which it stains."""
        return self.sheen == "flat"


def ground_of(project: Project, zone_id: str, kind: str, *, alone: bool = False) -> GlazedZone | None:
    """What a tint of a kind would lie on in a zone, under what is planned above it; None where nothing does.

    What is spotted or runs into seams is looked at alone: it is seen as a mark, not as a change of the whole.
    """
    nature = KINDS[kind]
    alone = alone or not nature.is_filter
    varnish = final_varnish(project.coats_of(zone_id))
    below = coats_under(project, zone_id, kind)
    stack = stack_of(project, below)
    before, laying = stack.lab(varnish), stack.laying(Coating("tint"))
    if before is None or laying.ground is None or laying.kept is None:
        return None
    ground, under = Ground(laying.ground, laying.kept.under(varnish)), ""
    if nature.is_filter:
        spot = Spot.of(project, zone_id, kind)
        lying = spot.laying(Coating("tint"), _STAGE, varnish, alone=alone)
        ground = replace(ground, lying=lying)
        before = spot.bare(_STAGE, varnish, alone=alone) or before
        under = under_words(spot.later(_STAGE))
    aim = aimed_at(project, zone_id, targets_of(project, zone_id), _STAGE if nature.is_filter else "seen")
    stage, target = aim or ("", None)
    return GlazedZone(
        zone_id, ground, before, target, stage, _sheen(project, below),
        any(coat.nature.is_marking for coat in below), any(coat.nature.is_chips for coat in below), under,
    )  # fmt: skip


def shiny_top(project: Project, zone_id: str) -> Coat | None:
    """A gloss or satin coat on top of a zone, laid for what runs along seams; None where something else is the topmost."""
    on = [coat for coat in project.coats_of(zone_id) if coat.on]
    return on[-1] if on and on[-1].nature.shines else None


def coats_under(project: Project, zone_id: str, kind: str) -> tuple[Coat, ...]:
    """What a tint of a kind would lie on: a wash on the gloss or satin that is there for it, else where its kind comes."""
    if KINDS[kind].runs and shiny_top(project, zone_id) is not None:
        return tuple(coat for coat in project.coats_of(zone_id) if coat.on)
    return coats_below(project, zone_id, kind)


def _sheen(project: Project, below: Sequence[Coat]) -> str:
    """The sheen of the topmost coat under a tint that has one of its own."""
    for coat in reversed(below):
        if coat.nature.is_varnish or coat.nature.is_paint:
            return finish_of(project, coat)
    return "flat"


def tint_paints(paints: Sequence[Paint]) -> tuple[Paint, ...]:
    """What tints are made of: oils, enamels and ready washes; any wet paint where there are none."""
    wet = [paint for paint in paints if paint.tints]
    slow = tuple(paint for paint in wet if MEDIA[paint.medium].slow or paint.ready)
    return slow or tuple(wet)


def staining(paint: Paint) -> bool:
    """Whether a note on the bottle says that it stains."""
    return any(word in note.casefold() for note in (paint.remark, *paint.notes) for word in _STAINS)


def tint_cautions(paint: Paint, kind: str = "filter") -> tuple[str, ...]:
    """What laying a tint of a paint needs for safety."""
    material = Material(medium=paint.medium)
    said = cautions(PlanStep(id="tint", kind=kind, material=material, application="glaze"))
    return (*said, _(DEFER)) if said else said
