"""What a document must keep so that it can be loaded again: checked when it is read and at each edit."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from datetime import datetime
from graphlib import CycleError, TopologicalSorter

from pydantic import ValidationError

from lean_sepia.document.dates import date_span
from lean_sepia.document.model import Frozen, Project
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.plan.evenings import YEARS, in_our_time, parse_evenings

_MOST_ITEMS = 20_000
_LISTS = tuple(
    name for name, field in Project.model_fields.items() if str(field.annotation).startswith("tuple")
)


def fault_of_edit(before: Project, after: Project) -> str | None:
    """A sentence about the first rule that an edit breaks, or None; only what changed is checked field by field."""
    for name in _LISTS:
        was, now = getattr(before, name), getattr(after, name)
        if was is now:
            continue
        known = set(map(id, was))
        for item in now:
            if id(item) not in known and (fault := _fault_of_item(item)):
                return fault
    rest = {name: getattr(after, name) for name in Project.model_fields if name not in _LISTS}
    try:
        Project.model_validate(rest)
    except ValidationError as error:
        return plain_fault(error)
    return broken_rule(after)


def _fault_of_item(item: Frozen) -> str | None:
    try:
        type(item).model_validate(dict(item))
    except ValidationError as error:
        return plain_fault(error)
    return None


def plain_fault(error: ValidationError) -> str:
    """The first fault that was found, with the field and what stands there."""
    first = error.errors(include_url=False)[0]
    field = ".".join(str(part) for part in first["loc"] if not str(part).startswith(("function", "tuple")))
    words = _("{0}: {1} (found {2})").format(field, first["msg"], ascii(first["input"])[:40])
    return " ".join(words.split())


def broken_rule(project: Project) -> str | None:
    """A sentence about the first rule between the parts of a document that does not hold, or None."""
    checks = (_crowded, _doubled, dangling_reference, _empty_recipe, _circle, _unreadable)
    return next((fault for check in checks if (fault := check(project))), None)


def _crowded(project: Project) -> str | None:
    for name in _LISTS:
        if (count := len(getattr(project, name))) > _MOST_ITEMS:
            return _("there are {0} {1}; at most {2} are kept").format(count, name, _MOST_ITEMS)
    return None


def _doubled(project: Project) -> str | None:
    for name in _LISTS:
        items = getattr(project, name)
        if len({item.id for item in items}) < len(items):
            return _("two of the {0} have the same id").format(name)
    return None


def _empty_recipe(project: Project) -> str | None:
    for recipe in project.recipes:
        if not recipe.parts and not recipe.basis:
            return _("recipe {0!r} has nothing in it").format(recipe.name)
        if recipe.basis and not recipe.basis_parts:
            return _("recipe {0!r} takes no part of the cup it is made from").format(recipe.name)
    return None


def _circle(project: Project) -> str | None:
    """Recipes made from each other's cups, or steps that wait for each other."""
    cups = {recipe.id: [recipe.basis] for recipe in project.recipes if recipe.basis}
    if (stuck := _in_a_circle(cups)) is not None:
        return _("recipe {0!r} is made from itself").format(project.recipe(stuck).name)
    waits = {step.id: step.after for step in project.steps if step.after}
    if (stuck := _in_a_circle(waits)) is not None:
        return _("step {0!r} waits for itself").format(project.step(stuck).title or stuck)
    return None


def _in_a_circle(before: Mapping[str, Iterable[str]]) -> str | None:
    try:
        TopologicalSorter(before).prepare()
    except CycleError as error:
        return str(error.args[1][0])
    return None


def _unreadable(project: Project) -> str | None:
    """Dates and hours that could not be read again."""
    try:
        for text in _dates(project):
            date_span(text)
        parse_evenings(project.evenings)
    except SepiaError as error:
        return str(error).rstrip(".")
    if project.plan_start and plan_moment(project.plan_start) is None:
        words = _("the plan starts at a date and time such as 2031-03-03T19:00, from {1} to {2}; found {0!r}")
        return words.format(project.plan_start[:40], *YEARS)
    return None


def plan_moment(text: str) -> datetime | None:
    """The moment a plan starts, without a time zone; None where the text is none that a calendar on the wall has."""
    try:
        moment = datetime.fromisoformat(text)
    except ValueError:
        return None
    return moment if moment.tzinfo is None and in_our_time(moment) else None


def _dates(project: Project) -> Iterator[str]:
    yield from (photo.date for photo in project.photos)
    for subject in project.subjects:
        yield from (subject.livery_from, subject.livery_to)
    for scheme in project.schemes:
        yield from (scheme.worn_from, scheme.worn_to)


def dangling_reference(project: Project) -> str | None:
    """A sentence about the first reference to something that does not exist, or None."""
    known = {
        "zone": {zone.id for zone in project.zones},
        "photo": {photo.id for photo in project.photos},
        "step": {step.id for step in project.steps},
        "recipe": {recipe.id for recipe in project.recipes},
        "paint": {paint.id for paint in project.paints},
        "model": {subject.id for subject in project.subjects},
    }
    references = [
        *(("model", zone.subject, f"zone {zone.name!r}") for zone in project.zones),
        *(("photo", sample.photo, "a sample") for sample in project.samples),
        *(("zone", sample.zone, "a sample") for sample in project.samples),
        *(("photo", region.photo, "a region") for region in project.regions),
        *(("zone", region.zone, "a region") for region in project.regions),
        *(("paint", paint, f"recipe {r.name!r}") for r in project.recipes for paint, _ in r.parts),
        *(("recipe", recipe.basis, f"recipe {recipe.name!r}") for recipe in project.recipes if recipe.basis),
        *(("zone", f.zone, "a feature") for f in project.features if f.zone),
        *(("photo", f.photo, "a feature") for f in project.features if f.photo),
        *(("zone", zone, f"scheme {s.name!r}") for s in project.schemes for zone, _ in s.colours),
        *(("zone", coat.zone, f"coat {coat.id!r}") for coat in project.coats),
        *(("step", coat.step, f"coat {coat.id!r}") for coat in project.coats),
        *(("recipe", coat.recipe, f"coat {coat.id!r}") for coat in project.coats if coat.recipe),
        *(("zone", zone, f"step {step.id!r}") for step in project.steps for zone in step.zones),
        *(("step", other, f"step {step.id!r}") for step in project.steps for other in step.after),
    ]
    for kind, target, source in references:
        if target not in known[kind]:
            return f"{source} refers to {kind} {target!r}, which does not exist"
    return None
