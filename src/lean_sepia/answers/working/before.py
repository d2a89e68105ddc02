"""The list before a spray or a seal, made from the project: what is forgotten most often, and costs an evening."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from lean_sepia.document.called import title_of
from lean_sepia.document.model import Project
from lean_sepia.language import _
from lean_sepia.plan.order import Order, one_model
from lean_sepia.plan.step import PlanStep


@dataclass(frozen=True)
class Check:
    """One line to tick; `code` names it in the document."""

    code: str
    words: str
    ticked: bool = False


def checks_before(project: Project, steps: Order, step: PlanStep) -> tuple[Check, ...]:
    """What to look at before a step of a plan; empty unless it is sprayed or seals."""
    if not step.nature.leaves_film or not (step.sprayed or step.nature.is_varnish):
        return ()
    index = steps.place[step.id]
    ticked = set(project.step(step.id).ticked)
    lines = dict(
        [*_faces(project, steps, index), *_masks(steps, index), *_parts(steps, index), *_always(step)]
    )
    return tuple(Check(code, words, code in ticked) for code, words in lines.items())


def _faces(project: Project, steps: Order, index: int) -> Iterator[tuple[str, str]]:
    """Zones of the step on which something that comes before it is not done, and zones that a seal leaves out."""
    step = steps[index]
    for earlier in steps[:index]:
        if (
            earlier.shares_zone(step)
            and not earlier.done
            and earlier.nature.to_do
            and earlier.nature.leaves_film
        ):
            yield (
                f"done {earlier.id}",
                _("Not done yet: {0}.").format(title_of(project, project.step(earlier.id))),
            )
    if step.zones != "all":
        for zone in step.zones:
            if zone not in project.found_zones and not any(
                other.is_full_coat and other.shares_zone(step) and _touches(other, zone)
                for other in steps[: index + 1]
            ):
                yield f"bare {zone}", _("{0} has no colour yet.").format(project.zone(zone).name)
        if step.nature.is_varnish:
            yield from _left_out(project, steps, step)


def _left_out(project: Project, steps: Order, step: PlanStep) -> Iterator[tuple[str, str]]:
    sealed = {
        zone for other in steps if other.nature.is_varnish and other.zones != "all" for zone in other.zones
    }
    for zone in project.zones:
        if zone.subject == step.model and zone.id not in sealed and any(project.coats_of(zone.id)):
            yield f"unsealed {zone.id}", _("{0} gets no varnish in this plan.").format(zone.name)


def _touches(step: PlanStep, zone: str) -> bool:
    return step.zones == "all" or zone in step.zones


def _masks(steps: Order, index: int) -> Iterator[tuple[str, str]]:
    """Masks that are on and those that should be: what was painted beside and what is clear."""
    step = steps[index]
    for mask in (steps[i] for i in steps.masks_on(index)):
        if one_model(mask.model, step.model):
            yield f"on {mask.id}", _("On, and its edges pressed down: {0}.").format(mask.name)
    glass = next(
        (other for other in steps[:index] if other.nature.clear and one_model(other.model, step.model)),
        None,
    )
    if glass is not None and step.sprayed:
        yield f"glass {glass.id}", _("Glass masked: {0}.").format(glass.name)


def _parts(steps: Order, index: int) -> Iterator[tuple[str, str]]:
    """Parts fitted later that hide what is laid now, and parts fitted already that are in the way."""
    step = steps[index]
    for later in steps[index + 1 :]:
        if later.nature.joins and later.shares_zone(step):
            yield f"hidden {later.id}", _("Reached now, hidden later by {0}.").format(later.name)


def _always(step: PlanStep) -> Iterator[tuple[str, str]]:
    yield "faces", _("Every face, from below and from behind too.")
    if step.sprayed:
        yield "small", _("Lights, plates, wheels and couplings masked or taken off.")
        yield "dust", _("No dust, no fluff, no grease: hold it by what is not painted.")
    if step.nature.is_varnish:
        yield "loose", _("Loose powder blown off or meant, oils dry to the touch.")
