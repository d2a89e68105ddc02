"""Where masks go on and come off: a bracket round the sprays that they are for."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from lean_sepia.document.entities.planned import Step
from lean_sepia.document.model import Project
from lean_sepia.document.serving import served, zones_of
from lean_sepia.document.work import plan_steps
from lean_sepia.plan.order import one_model
from lean_sepia.plan.step import PlanStep


def before_the_sprays(project: Project, covered: Collection[str]) -> int | None:
    """Where a mask on zones goes on: before the first spray that it keeps off them, once they have their own colour.

    None where nothing is sprayed beside them after that: then the mask is for patterns on the zones themselves.
    """
    open_to_spray = _painted(project).isdisjoint(covered)
    plain = {step.id: step for step in plan_steps(project)}
    for index, step in enumerate(project.steps):
        mine = zones_of(project, step) & set(covered)
        if mine and step.nature.is_full_coat and not step.nature.is_found:
            open_to_spray = True
        elif not mine and open_to_spray and _reaches(project, plain.get(step.id), covered):
            return index
    return None


def after_the_sprays(project: Project, masks: Sequence[str]) -> int:
    """Where masks come off: before the next coat on what they cover, or after the last spray that they keep off it.

    Patterns are what masks are for: they may lie on what is masked.
    """
    order = [step.id for step in project.steps]
    covered = frozenset().union(*(zones_of(project, project.step(mask)) for mask in masks))
    place = first = max(order.index(mask) for mask in masks) + 1
    if all(project.step(mask).nature.resists for mask in masks):
        return _after_what_is_split(project, covered, first)
    for index, step in enumerate(project.steps[first:], start=first):
        nature = step.nature
        if nature.covers != "nothing" and not nature.is_pattern and zones_of(project, step) & covered:
            return index
        if nature.is_pattern or (nature.covers in ("film", "varnish") and nature.tools):
            place = index + 1
    return place


def _after_what_is_split(project: Project, covered: Collection[str], first: int) -> int:
    """Where a resist is rubbed off: after the full coats and patterns over it, and a varnish that lies directly on them."""
    over = [
        (i, s)
        for i, s in enumerate(project.steps[first:], start=first)
        if zones_of(project, s) & set(covered)
    ]
    place = 1 + max((i for i, s in over if s.nature.is_full_coat or s.nature.is_pattern), default=first - 1)
    following = next(((i, s) for i, s in over if i >= place and s.nature.covers != "nothing"), None)
    if following is not None and following[1].nature.is_varnish:
        place = following[0] + 1
    return place


def embrace(project: Project) -> Project:
    """Masks on what is never painted, such as glass and lamps, go on before the first spray of their model and come off after the last."""
    painted = _painted(project)
    for mask in [
        step for step in project.steps if step.nature.is_mask and not step.done and not step.by_hand
    ]:
        covered = zones_of(project, mask)
        place = None if covered & painted else before_the_sprays(project, covered)
        if place is None:
            continue
        if project.steps.index(mask) > place:
            project = _at(project, mask, place)
        for off in [s for s in project.steps if s.nature.unmasks and not s.done and not s.by_hand]:
            if mask.id in served(project, off):
                project = _at(
                    project, off, max(project.steps.index(off) + 1, after_the_sprays(project, (mask.id,)))
                )
    return project


def _painted(project: Project) -> set[str]:
    """The zones that get coats, beside what was there already."""
    return {coat.zone for coat in project.coats if not coat.nature.is_found}


def _at(project: Project, step: Step, place: int) -> Project:
    """The document with a step at a place, counted with it where it is."""
    here = project.steps.index(step)
    left = [one for one in project.steps if one.id != step.id]
    place -= place > here
    return project.model_copy(update={"steps": (*left[:place], step, *left[place:])})


def _reaches(project: Project, step: PlanStep | None, covered: Collection[str]) -> bool:
    """Whether a step sprays a part of one of the zones' models that is not off it."""
    models = {project.zone(zone).subject for zone in covered}
    return (
        step is not None
        and step.sprayed
        and step.nature.leaves_film
        and not step.apart
        and any(one_model(model, step.model) for model in models)
    )
