"""Paint versions: the project's own immutable copies of the paints its recipes use."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from lean_sepia.paint.paint import Knowledge, Paint, Palette
from lean_sepia.project.model import PaintVersion, Project, Recipe


def version_of(paint: Paint) -> PaintVersion:
    """The version of a shelf paint as it is now, named by a hash of its content."""
    content = {
        "shelf_id": paint.id, "name": paint.name, "line": paint.line, "medium": paint.medium, "finish": paint.finish,
        "K": [round(float(value), 6) for value in paint.K], "S": [round(float(value), 6) for value in paint.S],
        "g": paint.g, "k1": paint.k1, "k2": paint.k2, "knowledge": str(paint.knowledge), "notes": list(paint.notes),
    }  # fmt: skip
    digest = hashlib.sha256(json.dumps(content, sort_keys=True).encode()).hexdigest()[:16]
    return PaintVersion.model_validate({"id": digest, **content})


@lru_cache(maxsize=512)
def paint_of(version: PaintVersion) -> Paint:
    """The solver's paint of a version."""
    return Paint(
        version.shelf_id, version.name, version.medium, version.finish, np.array(version.K), np.array(version.S),
        version.g, Knowledge[version.knowledge.upper().replace("-", "_")], version.line, version.k1, version.k2, version.notes,
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
    paints = [paint_of(project.paint(version)) for version, _ in recipe.parts]
    counts = np.array([count for _, count in recipe.parts], dtype=float)
    K, S, g = Palette.of(paints).mixture(counts / counts.sum())
    first = paints[0]
    weakest = min(paint.knowledge for paint in paints)
    return Paint(
        recipe.id, recipe.name, first.medium, first.finish, K, S, float(g), weakest, "", first.k1, first.k2
    )


def parts_text(project: Project, recipe: Recipe) -> str:
    """Parts and names in one line, such as "5 Slate teal : 2 Bone white"."""
    return " : ".join(f"{count} {project.paint(version).name}" for version, count in recipe.parts)
