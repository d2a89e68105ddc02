"""Putting an item into one of the document's lists. Only the edits of this folder use it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, TypeVar

from lean_sepia.document.entities.worn import Frozen
from lean_sepia.document.model import Project

Item = TypeVar("Item", bound=Frozen)


def fresh_id(taken: Sequence[Any], prefix: str) -> str:
    """An id that none of the items has, such as "z3"."""
    ids = {item.id for item in taken}
    number = len(ids) + 1
    while f"{prefix}{number}" in ids:
        number += 1
    return f"{prefix}{number}"


def _with(items: tuple[Item, ...], item: Item) -> tuple[Item, ...]:
    """Replace the item with the same id, or append."""
    identity = item.id  # type: ignore[attr-defined]
    if any(old.id == identity for old in items):  # type: ignore[attr-defined]
        return tuple(item if old.id == identity else old for old in items)  # type: ignore[attr-defined]
    return (*items, item)


def put(project: Project, field: str, item: Frozen) -> Project:
    """Add an item to one of the document's lists, or replace the one with its id."""
    return project.model_copy(update={field: _with(getattr(project, field), item)})


def without(project: Project, field: str, item_id: str) -> Project:
    """The document without one item of one of its lists."""
    return project.model_copy(
        update={field: tuple(item for item in getattr(project, field) if item.id != item_id)}
    )
