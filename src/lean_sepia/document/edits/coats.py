"""Edits of coats: what is laid on a zone, with what, and how."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.items import fresh_id, put, without
from lean_sepia.document.edits.steps import add_step, move_step, title_of, without_step
from lean_sepia.document.model import Coat, Project, Recipe
from lean_sepia.document.versions import medium_of, with_versions
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.paint.paint import Paint
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.names import Finish


@dataclass(frozen=True)
class Mix:
    """What a coat is made of: whole parts by shelf id, perhaps with parts of the zone's base cup; else a stated colour.

    paints : the shelf's paints among which the parts are
    finish : at which the colour `lab` was measured
    """

    parts: tuple[tuple[str, int], ...] = ()
    paints: tuple[Paint, ...] = ()
    base_parts: int = 0
    lab: Lab | None = None
    finish: Finish = "flat"

    @classmethod
    def of(cls, paints: Sequence[Paint], parts: Iterable[tuple[str, int]], base_parts: int = 0) -> Mix:
        """Parts of these paints, with parts of the base cup where some are named."""
        chosen = tuple(parts)
        names = {name for name, _unused in chosen}
        return cls(chosen, tuple(paint for paint in paints if paint.id in names), base_parts)


NOTHING_MIXED = Mix()


@dataclass(frozen=True)
class Manner:
    """How a coat is laid; the kind's usual tool where none is named."""

    passes: int = 1
    thinner_share: float = 0.0
    tool: str | None = None
    area_share: float = 1.0
    mix_ml: float | None = None


ONCE = Manner()


@dataclass(frozen=True)
class Marks:
    """Wear of one kind to lay: its kind of step, its name, its colour, and the share of the area it covers."""

    kind: str
    name: str
    lab: Lab
    area_share: float


def lay_found(project: Project, zone_id: str, lab: Lab, finish: Finish = "flat") -> Project:
    """Say what a zone looks like before anything is laid on it: the lowest coat, with nothing to do."""
    return _laid(project, zone_id, "found", Mix(lab=lab, finish=finish), ONCE)


def lay_primer(project: Project, zone_id: str, mix: Mix, manner: Manner = ONCE) -> Project:
    """Give a zone its primer; zones primed with one paint share a step."""
    return _laid(project, zone_id, "primer", mix, manner)


def pin_base(project: Project, zone_id: str, mix: Mix, manner: Manner = ONCE) -> Project:
    """Make a recipe a zone's base coat."""
    return _laid(project, zone_id, "base", mix, manner)


def lay_fade(project: Project, zone_id: str, mix: Mix, manner: Manner = ONCE) -> Project:
    """Lay a fade mixed from a zone's base cup.

    Raises
    ------
    EditError
        The zone has no base recipe.
    """
    return _laid(project, zone_id, "fade", mix, manner)


def lay_filter(project: Project, zones: Iterable[str], mix: Mix, manner: Manner = ONCE) -> Project:
    """Lay one filter on several zones, a step each."""
    for zone_id in zones:
        project = _laid(project, zone_id, "filter", mix, manner)
    return project


def lay_marking(project: Project, zone_id: str, mix: Mix, manner: Manner, name: str = "") -> Project:
    """Lay lettering on a share of a zone."""
    return _laid(project, zone_id, "marking", mix, manner, name)


def lay_varnish(project: Project, zones: Iterable[str], kind: str) -> Project:
    """Lay a clear coat on zones, in one step."""
    for zone_id in zones:
        project = _laid(project, zone_id, kind, NOTHING_MIXED, ONCE)
    return project


def lay_wear(project: Project, zone_id: str, found: Iterable[Marks], finish: Finish = "flat") -> Project:
    """Lay wear, each kind on its share of a zone; its colours are those seen at a finish."""
    for marks in found:
        mix = Mix(lab=marks.lab, finish=finish)
        project = _laid(project, zone_id, marks.kind, mix, Manner(area_share=marks.area_share), marks.name)
    return project


def _laid(project: Project, zone_id: str, kind: str, mix: Mix, manner: Manner, name: str = "") -> Project:
    """Give a zone its coat of a kind and name: the one there is keeps its step and whether it is on, else one is made."""
    old = next(
        (c for c in project.coats_of(zone_id) if c.kind == kind and (not name or c.name == name)), None
    )
    project, recipe = _with_recipe(project, zone_id, kind, mix, old)
    coat = Coat(
        id=old.id if old else fresh_id(project.coats, "c"), zone=zone_id, step=old.step if old else "", kind=kind,
        name=name or (old.name if old else ""), recipe=recipe, lab=mix.lab, passes=manner.passes,
        thinner_share=manner.thinner_share, tool=manner.tool or next(iter(KINDS[kind].tools), "brush"),
        area_share=manner.area_share, finish=mix.finish, mix_ml=manner.mix_ml, on=old.on if old else True,
    )  # fmt: skip
    medium = medium_of(project, coat)
    if old is None or _is_among_others(project, coat, medium):
        shared = _shared_step(project, kind, medium)
        if shared is None:
            project, shared = add_step(project, kind)
        coat = coat.model_copy(update={"step": shared})
    return _without_unused(put(project, "coats", coat))


def _with_recipe(
    project: Project, zone_id: str, kind: str, mix: Mix, old: Coat | None
) -> tuple[Project, str | None]:
    """The project with the recipe of a mix, and its id; none where nothing is mixed."""
    if not mix.parts:
        return project, None
    zone = project.zone(zone_id)
    base = next((c.recipe for c in project.coats_of(zone_id) if c.kind == "base"), None)
    if mix.base_parts and base is None:
        raise EditError(_("{0} has no base recipe yet. Pin one in Match first.").format(zone.name))
    project, versions = with_versions(project, mix.paints)
    recipe = Recipe(
        id=(old and old.recipe) or fresh_id(project.recipes, "r"),
        name=f"{_(KINDS[kind].title)}, {zone.name}",
        parts=tuple((versions[shelf_id], count) for shelf_id, count in mix.parts),
        basis=base if mix.base_parts else None,
        basis_parts=mix.base_parts,
    )
    return put(project, "recipes", recipe), recipe.id


def _is_among_others(project: Project, coat: Coat, medium: str | None) -> bool:
    """Whether a coat lies in a step with coats of other media, which cannot be laid together."""
    others = [other for other in project.coats if other.step == coat.step and other.id != coat.id]
    return any(medium_of(project, other) != medium for other in others)


def _shared_step(project: Project, kind: str, medium: str | None) -> str | None:
    """Primer and varnish are laid on the whole model at once unless the user splits them."""
    if not KINDS[kind].whole_model:
        return None
    for step in project.steps:
        coats = [coat for coat in project.coats if coat.step == step.id]
        if step.kind == kind and all(medium_of(project, coat) == medium for coat in coats):
            return step.id
    return None


def _without_unused(project: Project) -> Project:
    """Drop recipes and paint versions that nothing uses any more; undo keeps them in its own values."""
    used = {coat.recipe for coat in project.coats}
    used |= {recipe.basis for recipe in project.recipes if recipe.id in used}
    recipes = tuple(recipe for recipe in project.recipes if recipe.id in used)
    versions = {version for recipe in recipes for version, _unused in recipe.parts}
    paints = tuple(paint for paint in project.paints if paint.id in versions)
    return project.model_copy(update={"recipes": recipes, "paints": paints})


def change_coat(project: Project, coat_id: str, **changes: object) -> Project:
    """Change fields of one coat, checked."""
    return put(project, "coats", Coat.model_validate({**project.coat(coat_id).model_dump(), **changes}))


def switch_coat(project: Project, coat_id: str, on: bool) -> Project:
    """Switch a coat on or off."""
    return change_coat(project, coat_id, on=on)


def remove_coat(project: Project, coat_id: str) -> Project:
    """Remove a coat, and its step where nothing else is laid in it; a cup that others are mixed from stays a recipe."""
    coat = project.coat(coat_id)
    project = without(project, "coats", coat_id)
    if not any(other.step == coat.step for other in project.coats):
        project = without_step(project, coat.step)
    return _without_unused(project)


def move_coat(project: Project, coat_id: str, places: int) -> Project:
    """Move a coat past its neighbours within its zone.

    Where its step also serves other zones, this zone's part becomes a step of its own, in the same edit.
    """
    coat = project.coat(coat_id)
    mine = project.coats_of(coat.zone)
    position = [other.id for other in mine].index(coat_id)
    target = max(0, min(len(mine) - 1, position + places))
    if target == position:
        return project
    step = project.step(coat.step)
    if any(other.step == step.id and other.zone != coat.zone for other in project.coats):
        zone = project.zone(coat.zone)
        title = f"{title_of(project, step)}, {zone.name}"
        own = step.model_copy(update={"id": fresh_id(project.steps, "s"), "title": title, "zones": ()})
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
