"""Undo and redo: the document's past and future values, kept whole."""

from __future__ import annotations

from dataclasses import dataclass, field

from lean_sepia.document.model import Project, dangling_reference
from lean_sepia.errors import EditError
from lean_sepia.language import _

_MOST_STEPS = 500


@dataclass
class History:
    """The present document and the named edits that led to it; values are immutable, so undo is exact."""

    present: Project
    _past: list[tuple[str, Project]] = field(default_factory=list)
    _future: list[tuple[str, Project]] = field(default_factory=list)

    def push(self, name: str, project: Project) -> bool:
        """Make `project` the present under an edit's name; False where nothing changed.

        Raises
        ------
        EditError
            The document would refer to something that does not exist; the present is kept.
        """
        if project == self.present:
            return False
        fault = dangling_reference(project)
        if fault:
            raise EditError(_("“{0}” was not done: {1}. The project is unchanged.").format(name, fault))
        self._past.append((name, self.present))
        del self._past[:-_MOST_STEPS]
        self._future.clear()
        self.present = project
        return True

    @property
    def undo_name(self) -> str | None:
        """Name of the edit that undo takes back, or None."""
        return self._past[-1][0] if self._past else None

    @property
    def redo_name(self) -> str | None:
        """Name of the edit that redo does again, or None."""
        return self._future[-1][0] if self._future else None

    def undo(self) -> bool:
        """Go back one edit; False where there is none."""
        if not self._past:
            return False
        name, before = self._past.pop()
        self._future.append((name, self.present))
        self.present = before
        return True

    def redo(self) -> bool:
        """Do the undone edit again; False where there is none."""
        if not self._future:
            return False
        name, after = self._future.pop()
        self._past.append((name, self.present))
        self.present = after
        return True
