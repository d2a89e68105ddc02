"""What a document must keep so that it can be loaded again: checked when it is read and at each edit."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from datetime import datetime
from graphlib import CycleError, TopologicalSorter

from pydantic import ValidationError

from lean_sepia.document.dates import date_span
from lean_sepia.document.entities.worn import Frozen
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.plan.hours.evenings import YEARS, in_our_time, parse_evenings
from lean_sepia.plan.hours.wall_clock import read_written

_MOST_ITEMS = 20_000
_DEEPEST = 30  # cups mixed from cups
_EVEN = 0.005  # by which the shares of a surface may miss one
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
    said = first["msg"].removeprefix("Value error, ")
    if first["type"] == "too_short":
        said = _("there is at least {0}").format(first["ctx"]["min_length"])
    elif first["type"] == "too_long":
        said = _("there are at most {0}").format(first["ctx"]["max_length"])
    words = _("{0}: {1} (found {2})").format(field, said, ascii(first["input"])[:40])
    return " ".join(words.split())


def broken_rule(project: Project) -> str | None:
    """A sentence about the first rule between the parts of a document that does not hold, or None."""
    checks = (
        _crowded,
        _doubled,
        dangling_reference,
        _empty_recipe,
        _circle,
        _misplaced,
        _uneven,
        _unreadable,
    )
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
        if not recipe.parts and not recipe.cups:
            return _("recipe {0!r} has nothing in it").format(recipe.name)
    return None


def _circle(project: Project) -> str | None:
    """Recipes made from each other's cups, or steps that wait for each other."""
    cups = {recipe.id: [cup for cup, _parts in recipe.cups] for recipe in project.recipes if recipe.cups}
    if (stuck := _in_a_circle(cups)) is not None:
        return _("recipe {0!r} is made from itself").format(project.recipe(stuck).name)
    depth: dict[str, int] = {}
    for name in TopologicalSorter(cups).static_order():
        depth[name] = 1 + max((depth[cup] for cup in cups.get(name, ())), default=0)
        if depth[name] > _DEEPEST:
            words = _("recipe {0!r} is made from a cup made from a cup, {1} deep; at most {2}")
            return words.format(project.recipe(name).name, depth[name], _DEEPEST)
    waits = {step.id: step.after for step in project.steps if step.after}
    if (stuck := _in_a_circle(waits)) is not None:
        return _("step {0!r} waits for itself").format(project.step(stuck).title or stuck)
    serving = {step.id: step.serves for step in project.steps if step.serves}
    if (stuck := _in_a_circle(serving)) is not None:
        return _("step {0!r} works on what works on it").format(project.step(stuck).title or stuck)
    return None


def _in_a_circle(before: Mapping[str, Iterable[str]]) -> str | None:
    try:
        TopologicalSorter(before).prepare()
    except CycleError as error:
        return str(error.args[1][0])
    return None


def _misplaced(project: Project) -> str | None:
    """A found finish that is not the lowest coat of its zone, or what takes away down to a coat that does not lie below."""
    order = {step.id: index for index, step in enumerate(project.steps)}
    lowest: dict[str, int] = {}
    for coat in project.coats:
        if not coat.nature.is_found:
            lowest[coat.zone] = min(lowest.get(coat.zone, order[coat.step]), order[coat.step])
    found = [coat for coat in project.coats if coat.nature.is_found]
    high = next((coat for coat in found if order[coat.step] > lowest.get(coat.zone, len(order))), None)
    if high is not None:
        words = _(
            "the found finish of {0} would lie above other coats: what is there already is always lowest"
        )
        return words.format(project.zone(high.zone).name)
    laid = {coat.id: order[coat.step] for coat in project.coats}
    for coat in project.coats:
        if coat.down_to and laid[coat.id] <= laid[coat.down_to]:
            words = _("{0} goes down to a coat that is not laid before it")
            return words.format(coat.name or coat.kind)
    return None


def _uneven(project: Project) -> str | None:
    """Zones of one surface whose shares do not sum to one, or a target that is stated twice."""
    tones: dict[str, list[float | None]] = {}
    for zone in project.zones:
        if zone.surface:
            tones.setdefault(zone.surface, []).append(zone.share)
    for surface in project.surfaces:
        shares = tones.get(surface.id, [])
        known = sum(share for share in shares if share is not None)
        if known > 1 + _EVEN or (shares and None not in shares and known < 1 - _EVEN):
            words = _("the shares of {0} sum to {1} %; the tones of one surface cover all of it, 100 %")
            return words.format(surface.name, f"{100 * known:.1f}")
    for zone in project.zones:
        names = [stated.target for stated in zone.stated]
        if len(set(names)) < len(names):
            return _("a target of {0} is stated twice").format(zone.name)
    return None


def _unreadable(project: Project) -> str | None:
    """Dates and hours that could not be read again."""
    try:
        for text in _dates(project):
            date_span(text)
        parse_evenings(project.evenings)
        parse_evenings(project.workplace.daylight)
    except SepiaError as error:
        return str(error).rstrip(".")
    if project.plan_start and plan_moment(project.plan_start) is None:
        words = _("the plan starts at a date and time such as 2031-03-03T19:00, from {1} to {2}; found {0!r}")
        return words.format(project.plan_start[:40], *YEARS)
    bench = {text for step in project.steps for text in (step.started, step.ended) if text}
    wrong = next((text for text in bench if not _is_of_the_bench(text)), "")
    if not wrong and project.deadline and plan_moment(project.deadline) is None:
        wrong = project.deadline
    if wrong:
        words = _("{0!r} is no date and time such as 2031-03-03T19:00, from {1} to {2}")
        return words.format(wrong[:40], *YEARS)
    return None


def plan_moment(text: str) -> datetime | None:
    """The moment a plan starts, without a time zone; None where the text is none that a calendar on the wall has."""
    try:
        moment = datetime.fromisoformat(text)
    except ValueError:
        return None
    return moment if moment.tzinfo is None and in_our_time(moment) else None


def _is_of_the_bench(text: str) -> bool:
    """Whether a text says when something was done; it may carry an offset, as in the hour that comes twice in autumn."""
    try:
        return in_our_time(read_written(text))
    except (ValueError, OverflowError, OSError):
        return False


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
        "surface": {surface.id for surface in project.surfaces},
        "coat": {coat.id for coat in project.coats},
    }
    references = [
        *(("model", zone.subject, f"zone {zone.name!r}") for zone in project.zones),
        *(("surface", zone.surface, f"zone {zone.name!r}") for zone in project.zones if zone.surface),
        *(("zone", zone.mirrors, f"zone {zone.name!r}") for zone in project.zones if zone.mirrors),
        *(
            ("zone", z.wear.water_from, f"zone {z.name!r}")
            for z in project.zones
            if z.wear and z.wear.water_from
        ),
        *(("coat", coat.down_to, f"coat {coat.id!r}") for coat in project.coats if coat.down_to),
        *(("photo", sample.photo, "a sample") for sample in project.samples),
        *(("zone", sample.zone, "a sample") for sample in project.samples),
        *(("photo", region.photo, "a region") for region in project.regions),
        *(("zone", region.zone, "a region") for region in project.regions),
        *(("paint", paint, f"recipe {r.name!r}") for r in project.recipes for paint, _ in r.parts),
        *(("recipe", cup, f"recipe {recipe.name!r}") for recipe in project.recipes for cup, _ in recipe.cups),
        *(("zone", f.zone, "a feature") for f in project.features if f.zone),
        *(("photo", f.photo, "a feature") for f in project.features if f.photo),
        *(("zone", zone, f"scheme {s.name!r}") for s in project.schemes for zone, _ in s.colours),
        *(("zone", coat.zone, f"coat {coat.id!r}") for coat in project.coats),
        *(("step", coat.step, f"coat {coat.id!r}") for coat in project.coats),
        *(("recipe", coat.recipe, f"coat {coat.id!r}") for coat in project.coats if coat.recipe),
        *(("zone", zone, f"step {step.id!r}") for step in project.steps for zone in step.zones),
        *(("step", other, f"step {step.id!r}") for step in project.steps for other in step.after),
        *(("step", other, f"step {step.id!r}") for step in project.steps for other in step.serves),
        *(("step", a.step, "an accepted finding") for a in project.accepted),
        *(("step", a.after, "an accepted finding") for a in project.accepted if a.after),
    ]
    for kind, target, source in references:
        if target not in known[kind]:
            return f"{source} refers to {kind} {target!r}, which does not exist"
    return None
