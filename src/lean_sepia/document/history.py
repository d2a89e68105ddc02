"""Undo and redo: each edit is kept as what it took out and put in, older ones packed, so that thousands take no room."""

from __future__ import annotations

import pickle
import zlib
from dataclasses import dataclass, field
from typing import Any

from lean_sepia.document.check import fault_of_edit
from lean_sepia.document.model import Project
from lean_sepia.errors import EditError
from lean_sepia.language import _

_AT_HAND, _IN_A_PACK, _MOST_PACKS = 400, 200, 100


@dataclass(frozen=True, slots=True)
class _Change:
    """What one edit did to one field: the place, what was there and what is; the whole value where it is no list."""

    field: str
    place: int | None
    before: Any
    after: Any

    def applied(self, project: Project, *, back: bool) -> Any:
        """The field's value with the change done, or taken back."""
        old, new = (self.after, self.before) if back else (self.before, self.after)
        if self.place is None:
            return new
        present = getattr(project, self.field)
        return (*present[: self.place], *new, *present[self.place + len(old) :])


def _change(name: str, before: Any, after: Any) -> _Change:
    if not isinstance(before, tuple):
        return _Change(name, None, before, after)
    shorter = min(len(before), len(after))
    start = 0
    while start < shorter and before[start] is after[start]:
        start += 1
    end = 0
    while end < shorter - start and before[-1 - end] is after[-1 - end]:
        end += 1
    return _Change(name, start, before[start : len(before) - end], after[start : len(after) - end])


@dataclass(frozen=True, slots=True)
class _Edit:
    name: str
    changes: tuple[_Change, ...]

    def applied(self, project: Project, *, back: bool) -> Project:
        return project.model_copy(
            update={change.field: change.applied(project, back=back) for change in self.changes}
        )


@dataclass
class History:
    """The present document and the named edits that led to it; values are immutable, so undo is exact."""

    present: Project
    _past: list[_Edit] = field(default_factory=list)
    _future: list[_Edit] = field(default_factory=list)
    _packs: list[bytes] = field(default_factory=list)

    def push(self, name: str, project: Project) -> bool:
        """Make `project` the present under an edit's name; False where nothing changed.

        Raises
        ------
        EditError
            The document would break one of its rules and could not be loaded again; the present is kept.
        """
        if project == self.present:
            return False
        fault = fault_of_edit(self.present, project)
        if fault:
            raise EditError(_("“{0}” was not done: {1}. The project is unchanged.").format(name, fault))
        changes = tuple(
            _change(field, before, after)
            for field in Project.model_fields
            if (before := getattr(self.present, field)) is not (after := getattr(project, field))
        )
        self._past.append(_Edit(name, changes))
        self._pack()
        self._future.clear()
        self.present = project
        return True

    def _pack(self) -> None:
        """Put the oldest edits away once there are many: they are alike, and take a twentieth when packed."""
        if len(self._past) > _AT_HAND:
            self._packs.append(zlib.compress(pickle.dumps(self._past[:_IN_A_PACK])))
            del self._past[:_IN_A_PACK]
            del self._packs[:-_MOST_PACKS]

    @property
    def undo_name(self) -> str | None:
        """Name of the edit that undo takes back, or None."""
        return self._past[-1].name if self._past else None

    @property
    def redo_name(self) -> str | None:
        """Name of the edit that redo does again, or None."""
        return self._future[-1].name if self._future else None

    def undo(self) -> bool:
        """Go back one edit; False where there is none."""
        if not self._past:
            return False
        edit = self._past.pop()
        if not self._past and self._packs:
            self._past = pickle.loads(zlib.decompress(self._packs.pop()))
        self._future.append(edit)
        self.present = edit.applied(self.present, back=True)
        return True

    def redo(self) -> bool:
        """Do the undone edit again; False where there is none."""
        if not self._future:
            return False
        edit = self._future.pop()
        self._past.append(edit)
        self.present = edit.applied(self.present, back=False)
        return True
