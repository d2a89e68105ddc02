"""Paint versions: the project's own immutable copies of the paints its recipes use."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from lean_sepia.arrays import triple
from lean_sepia.document.bounds import Lab
from lean_sepia.document.entities.mixed import PaintVersion, Recipe
from lean_sepia.document.model import Coat, Project
from lean_sepia.language import _
from lean_sepia.paint.paint import Knowledge, Paint, stirred

_OF_THE_BOTTLE = ("use", "body", "can", "thinner_share", "cover_said")
"""What a bottle is besides its colour; told apart in a version's content only where it is not as usual."""
_PLAIN = PaintVersion.model_construct()


def version_of(paint: Paint) -> PaintVersion:
    """The version of a shelf paint as it is now, named by a hash of its content."""
    content = {
        "shelf_id": paint.id, "name": paint.name, "line": paint.line, "medium": paint.medium, "finish": paint.finish,
        "K": [round(float(value), 6) for value in paint.K], "S": [round(float(value), 6) for value in paint.S],
        "g": paint.g, "k1": paint.k1, "k2": paint.k2, "knowledge": str(paint.knowledge), "notes": list(paint.notes),
    }  # fmt: skip
    if paint.drops_per_ml is not None:
        content["drops_per_ml"] = paint.drops_per_ml
    if paint.keep is not None:
        content["keep"] = paint.keep
    content |= {
        name: value for name in _OF_THE_BOTTLE if (value := getattr(paint, name)) != getattr(_PLAIN, name)
    }
    digest = hashlib.sha256(json.dumps(content, sort_keys=True).encode()).hexdigest()[:16]
    return PaintVersion.model_validate({"id": digest, **content})


@lru_cache(maxsize=512)
def paint_of(version: PaintVersion) -> Paint:
    """The solver's paint of a version."""
    return Paint(
        version.shelf_id, version.name, version.medium, version.finish, np.array(version.K), np.array(version.S),
        version.g, Knowledge[version.knowledge.upper().replace("-", "_")], version.line, version.k1, version.k2, version.notes,
        version.drops_per_ml, keep=version.keep, **{name: getattr(version, name) for name in _OF_THE_BOTTLE},
    )  # fmt: skip


def with_versions(project: Project, paints: Sequence[Paint]) -> tuple[Project, dict[str, str]]:
    """The project with versions of these paints, and the version id of each shelf id."""
    versions = {paint.id: version_of(paint) for paint in paints}
    present = {version.id for version in project.paints}
    new = tuple(version for version in versions.values() if version.id not in present)
    return (
        project.model_copy(update={"paints": project.paints + new}),
        {shelf_id: version.id for shelf_id, version in versions.items()},
    )


def recipe_paint(project: Project, recipe: Recipe) -> Paint:
    """A recipe's mixture as if it were one paint."""
    return _recipe_paint(project, recipe, {})


def _recipe_paint(project: Project, recipe: Recipe, known: dict[str, Paint]) -> Paint:
    if recipe.id not in known:
        cups = tuple(_recipe_paint(project, project.recipe(cup), known) for cup, _parts in recipe.cups)
        known[recipe.id] = _mixture(recipe, tuple(project.paint(v) for v, _parts in recipe.parts), cups)
    return known[recipe.id]


@lru_cache(maxsize=512)
def _mixture(recipe: Recipe, versions: tuple[PaintVersion, ...], cups: tuple[Paint, ...]) -> Paint:
    paints = [*cups, *(paint_of(version) for version in versions)]
    counts = [float(count) for _unused, count in (*recipe.cups, *recipe.parts)]
    return stirred(recipe.id, recipe.name, paints, counts)


def from_cup(recipe: Recipe) -> str:
    """A mix as something that is taken out of its cup, in words that can be typed again."""
    return _("from the cup “{0}”").format(recipe.name)


@dataclass(frozen=True)
class Portion:
    """One line of a recipe as it is read out: so many parts of something, in its colour."""

    count: int
    name: str
    version: str | None
    lab: Lab


def portions(project: Project, recipe: Recipe) -> list[Portion]:
    """A recipe's lines: the cups it starts from, if any, then its paints."""
    lines = []
    for cup, count in recipe.cups:
        basis = project.recipe(cup)
        colour = triple(recipe_paint(project, basis).masstone_lab())
        lines.append(Portion(count, from_cup(basis), None, colour))
    for version, count in recipe.parts:
        paint = project.paint(version)
        lines.append(Portion(count, paint.name, version, triple(paint_of(paint).masstone_lab())))
    return lines


def coat_paint(project: Project, coat: Coat) -> Paint | None:
    """What a coat is mixed of as if it were one paint; None where it has no recipe."""
    return recipe_paint(project, project.recipe(coat.recipe)) if coat.recipe else None


def medium_of(project: Project, coat: Coat) -> str | None:
    """The medium of a coat: that of its recipe's first paint, else the stated or the usual one of its kind; None where unknown."""
    paint = coat_paint(project, coat)
    if paint:
        return paint.medium
    return {None: coat.nature.medium, "unknown": None}.get(coat.medium, coat.medium)


def finish_of(project: Project, coat: Coat) -> str:
    """The sheen a coat dries to by itself: a varnish's, its recipe's, or the one its colour was measured at."""
    own = coat.nature.finish
    paint = coat_paint(project, coat)
    return own or (paint.finish if paint else coat.finish)
