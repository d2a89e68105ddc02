"""Every change to the document: functions from one Project to the next, free of screen and file."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any, TypeVar

from lean_sepia.errors import EditError
from lean_sepia.paint.paint import Paint
from lean_sepia.plan.defaults import usual_times
from lean_sepia.plan.step import GLAZES, KINDS, VARNISHES, PlanStep
from lean_sepia.project.dates import date_span
from lean_sepia.project.model import (
    AnchorMark,
    Coat,
    Feature,
    Frozen,
    Lab,
    Photo,
    Project,
    Recipe,
    Region,
    Sample,
    Scheme,
    Step,
    Subject,
    Zone,
)
from lean_sepia.project.paints import with_versions

Item = TypeVar("Item", bound=Frozen)

_STEP_TITLES = {
    "primer": "Primer", "base": "Base colour", "fade": "Fade", "tone": "Light and shade", "filter": "Filter",
    "wash": "Wash", "chips": "Chips", "streaks": "Rust streaks", "matte-coat": "Matte coat", "satin-coat": "Satin coat",
    "gloss-coat": "Gloss coat", "marking": "Lettering", "dust": "Dust",
}  # fmt: skip
_WHOLE_MODEL = frozenset({"primer"}) | frozenset(VARNISHES)
_DEFAULT_MEDIUM = {
    "filter": "oil",
    "wash": "oil",
    "pin-wash": "oil",
    "oil-dots": "oil",
    "streaks": "oil",
    "dust": "pigment",
}
_APPLICATION = {"primer": "airbrush", "base": "airbrush", "fade": "airbrush", "tone": "airbrush"}


def fresh_id(taken: Sequence[Any], prefix: str) -> str:
    """An id that none of the items has, such as "z3"."""
    ids = {item.id for item in taken}
    number = len(ids) + 1
    while f"{prefix}{number}" in ids:
        number += 1
    return f"{prefix}{number}"


def _put(items: tuple[Item, ...], item: Item) -> tuple[Item, ...]:
    """Replace the item with the same id, or append."""
    identity = item.id  # type: ignore[attr-defined]
    if any(old.id == identity for old in items):  # type: ignore[attr-defined]
        return tuple(item if old.id == identity else old for old in items)  # type: ignore[attr-defined]
    return (*items, item)


def put(project: Project, field: str, item: Frozen) -> Project:
    """Add an item to one of the document's lists, or replace the one with its id."""
    return project.model_copy(update={field: _put(getattr(project, field), item)})


def add_subject(project: Project, name: str, scale: float) -> Project:
    """Add a model to the bench."""
    subject = Subject(id=fresh_id(project.subjects, "m"), name=name, scale=scale)
    return put(project, "subjects", subject)


def add_zone(project: Project, name: str) -> tuple[Project, str]:
    """Add a zone to the first model, which is made where there is none; returns the zone's id."""
    clean = name.strip()
    if not clean:
        raise EditError("A zone needs a name, such as Hull or Roof.")
    if any(zone.name.casefold() == clean.casefold() for zone in project.zones):
        raise EditError(f"There is a zone {clean!r} already. Choose another name.")
    if not project.subjects:
        project = add_subject(project, project.title, 72)
    zone = Zone(id=fresh_id(project.zones, "z"), subject=project.subjects[0].id, name=clean, short=clean[:10])
    return put(project, "zones", zone), zone.id


def state_target(project: Project, zone_id: str, lab: Lab | None) -> Project:
    """Give a zone a colour known without a photo; samples, where there are any, count for more."""
    return put(project, "zones", project.zone(zone_id).model_copy(update={"stated": lab}))


def remove_zone(project: Project, zone_id: str) -> Project:
    """Remove a zone with all that belongs to it: samples, regions, coats, and steps left without a zone."""
    coats = tuple(coat for coat in project.coats if coat.zone != zone_id)
    steps = []
    for step in project.steps:
        had_coats = any(coat.step == step.id for coat in project.coats)
        zones = tuple(zone for zone in step.zones if zone != zone_id)
        if (had_coats and not any(coat.step == step.id for coat in coats)) or (step.zones and not zones):
            continue
        steps.append(step.model_copy(update={"zones": zones}))
    left = {step.id for step in steps}
    trimmed = tuple(
        step.model_copy(update={"after": tuple(other for other in step.after if other in left)})
        for step in steps
    )
    return project.model_copy(
        update={
            "zones": tuple(zone for zone in project.zones if zone.id != zone_id),
            "samples": tuple(sample for sample in project.samples if sample.zone != zone_id),
            "regions": tuple(region for region in project.regions if region.zone != zone_id),
            "coats": coats,
            "steps": trimmed,
            "features": tuple(
                feature.model_copy(update={"zone": None}) if feature.zone == zone_id else feature
                for feature in project.features
            ),
            "schemes": tuple(
                scheme.model_copy(update={"colours": tuple(c for c in scheme.colours if c[0] != zone_id)})
                for scheme in project.schemes
            ),
        }
    )


def add_photo(project: Project, photo: Photo) -> Project:
    """Add a photo; the same picture twice is refused.

    Raises
    ------
    EditError
        The picture is in the project already.
    """
    twin = next((old for old in project.photos if old.sha256 == photo.sha256), None)
    if twin:
        raise EditError(f"This picture is in the project already, as “{twin.title}”.")
    return put(project, "photos", photo)


def remove_photo(project: Project, photo_id: str) -> Project:
    """Remove a photo with its samples and regions; the file keeps its bytes so that undo is exact."""
    return project.model_copy(
        update={
            "photos": tuple(photo for photo in project.photos if photo.id != photo_id),
            "samples": tuple(sample for sample in project.samples if sample.photo != photo_id),
            "regions": tuple(region for region in project.regions if region.photo != photo_id),
            "features": tuple(
                feature.model_copy(update={"photo": None, "x": None, "y": None})
                if feature.photo == photo_id
                else feature
                for feature in project.features
            ),
        }
    )


def set_anchors(
    project: Project,
    photo_id: str,
    anchors: Sequence[AnchorMark],
    resampled: Sequence[Sample],
    reseen: Sequence[Region],
) -> Project:
    """Give a photo its anchors and its samples and regions the colours they have under the new correction."""
    photo = project.photo(photo_id).model_copy(update={"anchors": tuple(anchors)})
    new_samples = {sample.id: sample for sample in resampled}
    new_regions = {region.id: region for region in reseen}
    return put(project, "photos", photo).model_copy(
        update={
            "samples": tuple(new_samples.get(sample.id, sample) for sample in project.samples),
            "regions": tuple(new_regions.get(region.id, region) for region in project.regions),
        }
    )


def remove_sample(project: Project, sample_id: str) -> Project:
    """Remove one sample."""
    return project.model_copy(update={"samples": tuple(s for s in project.samples if s.id != sample_id)})


def set_school(project: Project, question: str, choice: str) -> Project:
    """Choose a school for the whole project."""
    return project.model_copy(update={"schools": {**project.schools, question: choice}})


def set_step_done(project: Project, step_id: str, done: bool) -> Project:
    """Mark a step as done or not."""
    return put(project, "steps", project.step(step_id).model_copy(update={"done": done}))


def change_coat(project: Project, coat_id: str, **changes: object) -> Project:
    """Change fields of one coat, checked."""
    coat = next(coat for coat in project.coats if coat.id == coat_id)
    return put(project, "coats", Coat.model_validate({**coat.model_dump(), **changes}))


def remove_coat(project: Project, coat_id: str) -> Project:
    """Remove a coat, and its step where nothing else is laid in it."""
    coat = next(coat for coat in project.coats if coat.id == coat_id)
    coats = tuple(other for other in project.coats if other.id != coat_id)
    project = project.model_copy(update={"coats": coats})
    if any(other.step == coat.step for other in coats):
        return project
    return _without_step(project, coat.step)


def _without_step(project: Project, step_id: str) -> Project:
    steps = tuple(
        step.model_copy(update={"after": tuple(other for other in step.after if other != step_id)})
        for step in project.steps
        if step.id != step_id
    )
    return project.model_copy(update={"steps": steps})


def move_step(project: Project, step_id: str, places: int) -> Project:
    """Move a step up (negative) or down in the order of work.

    Raises
    ------
    EditError
        The step would pass one that it comes after, or that comes after it.
    """
    steps = list(project.steps)
    index = next(i for i, step in enumerate(steps) if step.id == step_id)
    target = max(0, min(len(steps) - 1, index + places))
    moved = steps.pop(index)
    for passed in steps[min(index, target) : max(index, target)]:
        if passed.id in moved.after or moved.id in passed.after:
            raise EditError(
                f"“{moved.title}” and “{passed.title}” are bound to their order. Take that tie off first."
            )
    steps.insert(target, moved)
    return project.model_copy(update={"steps": tuple(steps)})


def move_coat(project: Project, coat_id: str, places: int) -> Project:
    """Move a coat past its neighbours within its zone.

    Where its step also serves other zones, this zone's part becomes a step of its own, in the same edit.
    """
    coat = next(coat for coat in project.coats if coat.id == coat_id)
    mine = project.coats_of(coat.zone)
    position = [other.id for other in mine].index(coat_id)
    target = max(0, min(len(mine) - 1, position + places))
    if target == position:
        return project
    step = project.step(coat.step)
    if any(other.step == step.id and other.zone != coat.zone for other in project.coats):
        zone = project.zone(coat.zone)
        own = step.model_copy(
            update={"id": fresh_id(project.steps, "s"), "title": f"{step.title}, {zone.name}", "zones": ()}
        )
        steps = list(project.steps)
        steps.insert(steps.index(step) + 1, own)
        project = project.model_copy(update={"steps": tuple(steps)})
        project = change_coat(project, coat_id, step=own.id)
        step = own
    order = [other.id for other in project.steps]
    neighbour = mine[target].step
    if neighbour == step.id:
        return project
    # Directly before or behind the neighbour's step, counted after this one has been taken out.
    shift = order.index(neighbour) - order.index(step.id)
    return move_step(project, step.id, shift)


def add_step(
    project: Project,
    kind: str,
    title: str,
    zones: Sequence[str] = (),
    medium: str | None = None,
    finish: str = "flat",
) -> tuple[Project, str]:
    """Add a step with usual times, where its kind usually comes; returns its id."""
    medium = medium or _DEFAULT_MEDIUM.get(kind, "acrylic-water")
    times = usual_times(kind, medium)
    step = Step.model_validate(
        {
            "id": fresh_id(project.steps, "s"), "title": title, "kind": kind, "medium": medium, "finish": finish,
            "zones": tuple(zones), "hands_on_min": times.hands_on_min, "touch_dry_min": times.touch_dry_min,
            "full_cure_min": times.full_cure_min, "removable_until_min": times.removable_until_min,
            "application": _APPLICATION.get(kind, "airbrush" if kind in VARNISHES else "brush"),
            "place": "indoors-extracted",
        }
    )  # fmt: skip
    rank = KINDS.index(kind)
    position = max(
        (i + 1 for i, other in enumerate(project.steps) if KINDS.index(other.kind) <= rank), default=0
    )
    steps = (*project.steps[:position], step, *project.steps[position:])
    return project.model_copy(update={"steps": steps}), step.id


def lay_coat(
    project: Project,
    zone_id: str,
    kind: str,
    *,
    paints: Sequence[Paint] = (),
    parts: Sequence[tuple[str, int]] = (),
    lab: Sequence[float] | None = None,
    name: str = "",
    passes: int = 1,
    thinner_share: float = 0.0,
    area_share: float = 1.0,
    application: str | None = None,
    basis_parts: int = 0,
) -> Project:
    """Give a zone its coat of a kind: the existing one is changed, else a coat and a step are made.

    Parameters
    ----------
    paints, parts : the shelf's paints and whole parts by shelf id, for a coat that is mixed
    lab : a measured colour, for a coat whose paint is not chosen yet
    basis_parts : parts taken from the cup of the zone's base, for a coat mixed from it

    Raises
    ------
    EditError
        The coat is mixed from a base that the zone does not have.
    """
    zone = project.zone(zone_id)
    mine = [coat for coat in project.coats if coat.zone == zone_id]
    old = next((coat for coat in mine if coat.kind == kind and coat.name == (name or coat.name)), None)
    basis = next((coat.recipe for coat in mine if coat.kind == "base"), None) if basis_parts else None
    if basis_parts and basis is None:
        raise EditError(f"{zone.name} has no base recipe yet. Pin one in Match first.")
    recipe_id, finish, medium = None, "flat", None
    if parts:
        used = [paint for paint in paints if paint.id in {name for name, _ in parts}]
        project, versions = with_versions(project, used)
        recipe = Recipe(
            id=(old and old.recipe) or fresh_id(project.recipes, "r"),
            name=f"{_STEP_TITLES.get(kind, kind)}, {zone.name}",
            parts=tuple((versions[shelf_id], count) for shelf_id, count in parts),
            basis=basis,
            basis_parts=basis_parts,
        )
        project = put(project, "recipes", recipe)
        recipe_id = recipe.id
        main = next(paint for paint in used if paint.id == parts[0][0])
        finish, medium = main.finish, main.medium
    if kind in VARNISHES:
        finish = VARNISHES[kind]
    step_id = old.step if old else _shared_step(project, kind, medium)
    if step_id is None:
        title = name or _STEP_TITLES.get(kind, kind.replace("-", " ").capitalize())
        project, step_id = add_step(
            project,
            kind,
            title if kind in _WHOLE_MODEL else f"{title}, {zone.short}",
            medium=medium,
            finish=finish,
        )
    coat = Coat.model_validate(
        {
            "id": old.id if old else fresh_id(project.coats, "c"), "zone": zone_id, "step": step_id, "kind": kind,
            "name": name or (old.name if old else _STEP_TITLES.get(kind, kind)), "recipe": recipe_id,
            "lab": tuple(lab) if lab is not None else None, "passes": passes, "thinner_share": thinner_share,
            "application": application or ("glaze" if kind in GLAZES else "airbrush"), "area_share": area_share,
            "finish": finish,
        }
    )  # fmt: skip
    project = put(project, "coats", coat)
    return _without_unused(project)


def _shared_step(project: Project, kind: str, medium: str | None) -> str | None:
    """Primer and varnish are laid on the whole model at once unless the user splits them."""
    if kind not in _WHOLE_MODEL:
        return None
    return next((s.id for s in project.steps if s.kind == kind and medium in (None, s.medium)), None)


def _without_unused(project: Project) -> Project:
    """Drop recipes and paint versions that no coat uses any more; undo keeps them in its own values."""
    used = {coat.recipe for coat in project.coats}
    used |= {recipe.basis for recipe in project.recipes if recipe.id in used}
    recipes = tuple(recipe for recipe in project.recipes if recipe.id in used)
    versions = {version for recipe in recipes for version, _ in recipe.parts}
    paints = tuple(paint for paint in project.paints if paint.id in versions)
    return project.model_copy(update={"recipes": recipes, "paints": paints})


def plan_steps(project: Project) -> tuple[PlanStep, ...]:
    """The document's steps as the plan's rules and schedule see them."""
    answer = []
    for step in project.steps:
        zones = sorted({coat.zone for coat in project.coats if coat.step == step.id} | set(step.zones))
        answer.append(
            PlanStep.model_validate(
                {
                    "id": step.id, "title": step.title, "kind": step.kind, "zones": tuple(zones) or "all",
                    "material": {"medium": step.medium, "finish": step.finish} if step.medium else None,
                    "after": step.after, "hands_on_min": step.hands_on_min, "touch_dry_min": step.touch_dry_min,
                    "full_cure_min": step.full_cure_min, "removable_until_min": step.removable_until_min,
                    "carrier": step.carrier, "application": step.application, "place": step.place,
                }
            )
        )  # fmt: skip
    return tuple(answer)


Edit = Callable[[Project], Project]
"""What the window pushes: a named function from the present document to the next."""


def name_feature(project: Project, words: str, *, feature_id: str | None = None) -> Project:
    """Name something people know the subject by, or change the words of one; empty words take it out."""
    clean = " ".join(words.split())
    kept = next((feature for feature in project.features if feature.id == feature_id), None)
    if kept and not clean:
        return project.model_copy(update={"features": tuple(f for f in project.features if f is not kept)})
    if not clean:
        return project
    if kept:
        return put(project, "features", kept.model_copy(update={"words": clean}))
    return put(project, "features", Feature(id=fresh_id(project.features, "g"), words=clean))


def locate_feature(
    project: Project, feature_id: str, zone: str | None, photo: str | None, x: float | None, y: float | None
) -> Project:
    """Say on which zone a feature lies and where a photo shows it."""
    feature = next(feature for feature in project.features if feature.id == feature_id)
    return put(project, "features", feature.model_copy(update={"zone": zone, "photo": photo, "x": x, "y": y}))


def set_schemes(project: Project, schemes: Sequence[Scheme]) -> Project:
    """Replace the colour schemes that photos are compared with.

    Raises
    ------
    EditError
        A scheme has no name or that of another, a date is none, or one ends before it begins.
    """
    names: set[str] = set()
    for scheme in schemes:
        if not scheme.name.strip():
            raise EditError("A scheme needs a name, such as First livery.")
        if scheme.name.casefold() in names:
            raise EditError(f"Two schemes are called “{scheme.name}”. Give one another name.")
        names.add(scheme.name.casefold())
        begins, ends = date_span(scheme.worn_from), date_span(scheme.worn_to)
        if begins and ends and begins[0] > ends[1]:
            raise EditError(
                f"“{scheme.name}” ends in {scheme.worn_to}, before it begins in {scheme.worn_from}."
            )
    return project.model_copy(update={"schemes": tuple(schemes)})


def describe_photo(project: Project, photo: Photo) -> Project:
    """Replace what is known of a photo.

    Raises
    ------
    EditError
        Its date is none.
    """
    date_span(photo.date)
    return put(project, "photos", photo)
