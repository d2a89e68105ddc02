"""The one menu of the window: every entry with its keys, and which of them mean something now."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMenu, QWidget

from lean_sepia.language import _
from lean_sepia.report.export import EXPORTS, Export
from lean_sepia.ui.kit.plain import menu_words

if TYPE_CHECKING:
    from lean_sepia.document.history import History

Entry = tuple[str, Callable[[], object]]
_NEEDS_A_PROJECT = ("copy", "back", "details", "sister", "cups", "start", "help")


def menu_exports() -> list[tuple[str, Export]]:
    """What leaves a project whole, and so is offered whatever room is open."""
    return [(name, export) for name, export in EXPORTS.items() if export.about == "project"]


class MainMenu(QMenu):
    """Its entries are also the window's own actions, so that their keys work while it is closed."""

    def __init__(self, window: QWidget, calls: dict[str, Callable[[], object]]) -> None:
        super().__init__(window)
        self.entries: dict[str, QAction] = {}
        for entry in self._words():
            if entry is None:
                self.addSeparator()
                continue
            key, text, keys = entry
            action = QAction(text, window)
            if keys:
                action.setShortcut(QKeySequence(keys))
                action.setAutoRepeat(key in ("undo", "redo"))
            action.triggered.connect(lambda _checked=False, call=calls[key]: call())
            self.addAction(action)
            window.addAction(action)
            self.entries[key] = action
        self.entries["evening"].setCheckable(True)

    @staticmethod
    def _words() -> tuple[tuple[str, str, str] | None, ...]:
        return (
            ("new", _("New project from a photo…"), "Ctrl+N"),
            ("colour", _("New project from a colour…"), ""),
            ("open", _("Open…"), "Ctrl+O"),
            ("demo", _("Open the demo"), ""),
            ("untouched", _("Open the demo, untouched"), ""),
            ("bus", _("Open the second demo: a bus without a photo"), ""),
            None,
            ("copy", _("Save a copy as…"), "Ctrl+Shift+S"),
            ("back", _("Go back to an earlier state…"), ""),
            *((name, _(export.label), export.keys) for name, export in menu_exports()),
            None,
            ("undo", _("Undo"), "Ctrl+Z"),
            ("redo", _("Redo"), "Ctrl+Shift+Z"),
            None,
            ("details", _("Model and livery…"), ""),
            ("sister", _("Add a sister model…"), ""),
            ("cups", _("Cups of this project…"), "Ctrl+M"),
            ("evening", _("Evening bench lighting"), "Ctrl+E"),
            ("help", _("Help for this room"), "F1"),
            ("start", _("Close the project"), "Ctrl+W"),
            ("quit", _("Quit"), "Ctrl+Q"),
        )

    def show_state(self, history: History | None) -> None:
        """Offer what can be done with the open project, whose history this is; without one what needs none."""
        for key in (*_NEEDS_A_PROJECT, *(name for name, _export in menu_exports())):
            self.entries[key].setEnabled(history is not None)
        for key, word, name in (
            ("undo", _("Undo"), history.undo_name if history else None),
            ("redo", _("Redo"), history.redo_name if history else None),
        ):
            self.entries[key].setText(menu_words(f"{word}: {name}") if name else word)
            self.entries[key].setEnabled(history is None or name is not None)
