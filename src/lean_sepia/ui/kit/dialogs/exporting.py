"""Buttons for what leaves a project, made from the table of exports, and the question where to."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import QPushButton, QWidget

from lean_sepia.language import _
from lean_sepia.report.export import EXPORTS, Leaving
from lean_sepia.ui.kit.dialogs.files import ask_place
from lean_sepia.ui.kit.job import Jobs
from lean_sepia.ui.kit.panel import button


def export_button(
    name: str, jobs: Jobs, leaving: Callable[[], Leaving | None], look: str = "tool"
) -> QPushButton:
    """A button that asks where an export goes and writes it; it does nothing where there is nothing to write."""
    export = EXPORTS[name]
    made = button(_(export.label), look, _(export.hint))

    def ask() -> None:
        found = leaving()
        if found is not None:
            ask_export(made.window(), name, found, jobs)

    made.clicked.connect(ask)
    return made


def ask_export(parent: QWidget, name: str, leaving: Leaving, jobs: Jobs) -> None:
    """Ask for a place and write there in the background; nothing happens where none is named."""
    export = EXPORTS[name]
    title = _(export.label).rstrip("…")
    file = f"{export.called(leaving)}{export.ending}"
    place = ask_place(parent, title, file, f"{_(export.kind)} (*{export.ending})")
    if place is not None:
        write_beside(jobs, place, lambda: export.write(leaving, place))


def write_beside(jobs: Jobs, place: Path, write: Callable[[], object]) -> None:
    """Write a file in the background; that it is there is said, and where."""

    def say(_answer: object) -> None:
        jobs.written.emit(place)

    jobs.act("write", lambda: lambda _progress: write(), say)
