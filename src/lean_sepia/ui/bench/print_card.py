"""Ask where the bench card goes and print it in the background."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path

from PySide6.QtWidgets import QWidget

from lean_sepia.document.model import Project
from lean_sepia.language import _
from lean_sepia.ui.kit.dialogs.files import ask_place
from lean_sepia.ui.kit.job import Jobs


def ask_card(parent: QWidget, project: Project, jobs: Jobs) -> None:
    """Ask for a place and print there; nothing happens where none is named."""
    place = ask_place(parent, _("Print the bench card"), card_name(project), "PDF (*.pdf)")
    if place:
        jobs.act("write", lambda: lambda _progress: _print(project, place), lambda _answer: None)


def card_name(project: Project) -> str:
    """A file name for the card of a project, with the day it was made."""
    safe = "".join(letter if letter.isalnum() else "-" for letter in project.title.lower()).strip("-")
    return f"{safe or 'card'}-bench-card-{datetime.now():%Y-%m-%d}.pdf"


def _print(project: Project, place: Path) -> None:
    from lean_sepia.report.bench_card import (
        write_bench_card,  # its typesetting takes a third of a second to import
    )

    write_bench_card(project, place)
