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
from lean_sepia.document.model import Coat, PaintVersion, Project, Recipe
from lean_sepia.language import _
from lean_sepia.paint.paint import Knowledge, Paint, stirred
from lean_sepia.plan.kinds import KINDS


def version_of(paint: Paint) -> PaintVersion:
    """The version of a shelf paint as it is now, named by a hash of its content."""
    content = {
        "shelf_id": paint.id, "name": paint.name, "line": paint.line, "medium": paint.medium, "finish": paint.finish,
        "K": [round(float(value), 6) for value in paint.K], "S": [round(float(value), 6) for value in paint.S],
        "g": paint.g, "k1": paint.k1, "k2": paint.k2, "knowledge": str(paint.knowledge), "notes": list(paint.notes),
    }  # fmt: skip
    if paint.drops_per_ml is not None:
        content["drops_per_ml"] = paint.drops_per_ml
    digest = hashlib.sha256(json.dumps(content, sort_keys=True).encode()).hexdigest()[:16]
    return PaintVersion.model_validate({"id": digest, **content})


@lru_cache(maxsize=512)
def paint_of(version: PaintVersion) -> Paint:
    """The solver's paint of a version."""
    return Paint(
        version.shelf_id, version.name, version.medium, version.finish, np.array(version.K), np.array(version.S),
        version.g, Knowledge[version.knowledge.upper().replace("-", "_")], version.line, version.k1, version.k2, version.notes,
        version.drops_per_ml,
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
    versions = tuple(project.paint(version) for version, _unused in recipe.parts)
    basis = recipe_paint(project, project.recipe(recipe.basis)) if recipe.basis else None
    return _mixture(recipe, versions, basis)


@lru_cache(maxsize=512)
def _mixture(recipe: Recipe, versions: tuple[PaintVersion, ...], basis: Paint | None) -> Paint:
    paints = [paint_of(version) for version in versions]
    counts = [float(count) for _unused, count in recipe.parts]
    if basis is not None:
        paints.insert(0, basis)
        counts.insert(0, float(recipe.basis_parts))
    return stirred(recipe.id, recipe.name, paints, counts)


@dataclass(frozen=True)
class Portion:
    """One line of a recipe as it is read out: so many parts of something, in its colour."""

    count: int
    name: str
    version: str | None
    lab: Lab


def portions(project: Project, recipe: Recipe) -> list[Portion]:
    """A recipe's lines: the cup it starts from, if any, then its paints."""
    lines = []
    if recipe.basis:
        basis = project.recipe(recipe.basis)
        lines.append(
            Portion(
                recipe.basis_parts,
                _("from the base cup"),
                None,
                triple(recipe_paint(project, basis).masstone_lab()),
            )
        )
    for version, count in recipe.parts:
        paint = project.paint(version)
        lines.append(Portion(count, paint.name, version, triple(paint_of(paint).masstone_lab())))
    return lines


def coat_paint(project: Project, coat: Coat) -> Paint | None:
    """What a coat is mixed of as if it were one paint; None where it has no recipe."""
    return recipe_paint(project, project.recipe(coat.recipe)) if coat.recipe else None


def medium_of(project: Project, coat: Coat) -> str | None:
    """The medium of a coat: that of its recipe's first paint, else the usual one of its kind."""
    paint = coat_paint(project, coat)
    return paint.medium if paint else KINDS[coat.kind].medium


def finish_of(project: Project, coat: Coat) -> str:
    """The sheen a coat dries to by itself: a varnish's, its recipe's, or the one its colour was measured at."""
    own = KINDS[coat.kind].finish
    paint = coat_paint(project, coat)
    return own or (paint.finish if paint else coat.finish)
