"""What a coat is mixed of and how it is laid, and the recipes that a project keeps of mixes."""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, fields

from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.items import fresh_id, put
from lean_sepia.document.entities.mixed import Recipe
from lean_sepia.document.model import Coat, Printed, Project
from lean_sepia.document.versions import paint_of, recipe_paint, with_versions
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.paint.paint import Paint, stirred
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.names import Finish


@dataclass(frozen=True)
class Mix:
    """What a coat is made of: parts by shelf id, perhaps with parts of a cup; or a mix there is; else a stated colour.

    paints : the shelf's paints among which the parts are; versions : parts of paints the project has already, by version
    base_parts : parts of the cup of the zone's base; cups : parts of the cups of other mixes, by their ids
    recipe : id of a mix of the project that is laid as it is
    finish : at which the colour `lab` was measured; medium : of what has no recipe
    """

    parts: tuple[tuple[str, int], ...] = ()
    paints: tuple[Paint, ...] = ()
    versions: tuple[tuple[str, int], ...] = ()
    base_parts: int = 0
    cups: tuple[tuple[str, int], ...] = ()
    recipe: str | None = None
    lab: Lab | None = None
    finish: Finish = "flat"
    medium: str | None = None

    @classmethod
    def of(
        cls,
        paints: Sequence[Paint],
        parts: Iterable[tuple[str, int]],
        base_parts: int = 0,
        cups: Iterable[tuple[str, int]] = (),
    ) -> Mix:
        """Parts of these paints, with parts of cups where some are named."""
        chosen = tuple(parts)
        names = {name for name, _unused in chosen}
        mixed = tuple(paint for paint in paints if paint.id in names)
        return cls(chosen, mixed, base_parts=base_parts, cups=tuple(cups))


NOTHING_MIXED = Mix()


def ingredients(project: Project, mix: Mix) -> tuple[list[Paint], list[float]]:
    """What goes into a mix, cups as one paint each, and how many parts of each; nothing of a mix that is a colour only."""
    if mix.recipe:
        return [recipe_paint(project, project.recipe(mix.recipe))], [1.0]
    known = {paint.id: paint for paint in mix.paints}
    found = [(recipe_paint(project, project.recipe(cup)), float(count)) for cup, count in mix.cups]
    found += [(known[name], float(count)) for name, count in mix.parts]
    found += [(paint_of(project.paint(version)), float(count)) for version, count in mix.versions]
    return [paint for paint, _count in found], [count for _paint, count in found]


def mix_paint(project: Project, mix: Mix) -> Paint | None:
    """A mix as if it were one paint; None of a mix that is a colour only."""
    paints, counts = ingredients(project, mix)
    return stirred("own", " + ".join(paint.name for paint in paints), paints, counts) if paints else None


@dataclass(frozen=True)
class Manner:
    """How a coat is laid; the kind's usual tool where none is named. The fields are those of a coat."""

    passes: int = 1
    thinner_share: float = 0.0
    tool: str | None = None
    area_share: float = 1.0
    mix_ml: float | None = None
    carrier: str | None = None
    profile: str | None = None
    far: float = 0.0
    down_to: str | None = None
    keep: float | None = None
    printed: Printed | None = None
    wiped: float = 0.0
    speck_mm: float | None = None


ONCE = Manner()


def manner_of(coat: Coat) -> Manner:
    """How a coat is laid."""
    return Manner(**{field.name: getattr(coat, field.name) for field in fields(Manner)})


def with_recipe(
    project: Project, zone_id: str, kind: str, mix: Mix, old: Coat | None
) -> tuple[Project, str | None]:
    """The project with the recipe of a mix, and its id; none where nothing is mixed."""
    if mix.recipe:
        return project, project.recipe(mix.recipe).id
    if not mix.parts and not mix.cups and not mix.versions:
        return project, None
    zone = project.zone(zone_id)
    base = next((c.recipe for c in project.bases_of(zone_id)), None)
    if mix.base_parts and base is None:
        raise EditError(_("{0} has no base recipe yet. Pin one in Match first.").format(zone.name))
    project, versions = with_versions(project, mix.paints)
    own = old.recipe if old and old.recipe and is_its_own(project, old) else None
    parts = mix.versions + tuple((versions[shelf_id], count) for shelf_id, count in mix.parts)
    if KINDS[kind].whole_model and own is None and not mix.cups and not mix.base_parts:
        alike = {c.recipe for c in project.coats if c.kind == kind}
        same = next((r for r in project.recipes if r.id in alike and r.parts == parts and not r.cups), None)
        if same is not None:  # the whole model is laid from one cup
            return project, same.id
    own, title = own or fresh_id(project.recipes, "r"), _(KINDS[kind].title)
    recipe = Recipe(
        id=own,
        name=_free_name(project, title if KINDS[kind].whole_model else f"{title}, {zone.name}", own),
        parts=parts,
        cups=(((base, mix.base_parts),) if base and mix.base_parts else ()) + mix.cups,
    )
    return put(project, "recipes", recipe), recipe.id


def _free_name(project: Project, name: str, own: str) -> str:
    """A name for a cup that no other cup has."""
    taken = {recipe.name for recipe in project.recipes if recipe.id != own}
    return next(
        one
        for number in itertools.count(1)
        if (one := name if number == 1 else f"{name} {number}") not in taken
    )


def is_its_own(project: Project, coat: Coat) -> bool:
    """Whether a coat's mix may change with it: no other zone but mirrored sides and sisters is laid with it, and no cup is kept of it."""
    first = project.zone(coat.zone).mirrors or coat.zone
    sides = {zone.id for zone in project.zones if (zone.mirrors or zone.id) == first}
    users = {other.zone for other in project.coats if other.recipe == coat.recipe}
    return users <= sides and not project.recipe(coat.recipe or "").kept


def without_unused(project: Project) -> Project:
    """Drop recipes and paint versions that nothing uses any more; undo keeps them in its own values."""
    used = {coat.recipe for coat in project.coats} | {r.id for r in project.recipes if r.kept}
    by_id = {recipe.id: recipe for recipe in project.recipes}
    waiting = [name for name in used if name]
    while waiting:
        cups = {cup for cup, _unused in by_id[waiting.pop()].cups} - used
        used |= cups
        waiting += cups
    recipes = tuple(recipe for recipe in project.recipes if recipe.id in used)
    versions = {version for recipe in recipes for version, _unused in recipe.parts}
    paints = tuple(paint for paint in project.paints if paint.id in versions)
    return project.model_copy(update={"recipes": recipes, "paints": paints})
