"""When work cannot be saved where it was, or is open elsewhere: the questions, and what each answer does."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from PySide6.QtCore import QEventLoop, QTimer
from PySide6.QtWidgets import QWidget

from lean_sepia.document.keeping.habits import with_habits
from lean_sepia.document.keeping.place import SUFFIX, free_name
from lean_sepia.document.model import Project
from lean_sepia.document.store import ProjectStore
from lean_sepia.errors import InUseError, SepiaError
from lean_sepia.files.gate import file_name
from lean_sepia.language import _, day, day_and_time
from lean_sepia.shelf.shelf import user_folder
from lean_sepia.ui.kit.dialogs.ask import ask_choice, choose
from lean_sepia.ui.kit.dialogs.file_filters import projects
from lean_sepia.ui.kit.dialogs.files import ask_place
from lean_sepia.ui.kit.job import Jobs
from lean_sepia.ui.shell.session import Session

_LONGEST_TITLE, _PATIENCE_MS = 60, 3000


def finished_or_given_up(window: QWidget, jobs: Jobs) -> bool:
    """Wait a moment for what was done and is still worked out; after that ask. False: the user stays."""
    while not _finished(jobs, _PATIENCE_MS):
        answer = choose(
            window, _("Not finished"), _("Something that was begun here is still being worked out, such as a photo being read."),
            _("Wait for it"), _("Leave without it"), _("Stay here"),
        )  # fmt: skip
        if answer == 1:
            return True
        if answer != 0:
            return False
    return True


def _finished(jobs: Jobs, patience_ms: int) -> bool:
    """Whether nothing is left to be worked out, after so long at most; the hand waits meanwhile."""
    if jobs.acting:
        loop = QEventLoop()
        jobs.acts_done.connect(loop.quit)
        QTimer.singleShot(patience_ms, loop, loop.quit)
        loop.exec(QEventLoop.ProcessEventsFlag.ExcludeUserInputEvents)
    return not jobs.acting


def saved_or_given_up(window: QWidget, session: Session) -> bool:
    """Save before a project is left; where that fails ask until it is saved or given up. False: the project stays open."""
    while (error := session.save_now()) is not None:
        answer = choose(
            window, _("Not saved"), _("{0} What was done since the last save is only in this window.").format(error),
            _("Try again"), _("Save elsewhere…"), _("Stay here"), _("Discard it"),
        )  # fmt: skip
        if answer == 1:
            place = ask_place(window, _("Save as"), free_name(session.store.path).name, projects())
            if place is not None:
                session.save_elsewhere(place)
        elif answer == 3:
            return True
        elif answer != 0:
            return False
    return True


def closed_after_mistake(window: QWidget, session: Session | None, error: Exception) -> bool:
    """Ask whether to close although leaving the project made a mistake; what is not saved is said."""
    unsaved = session is not None and session.unsaved
    said = (
        _("What was done since the last save is only in this window.")
        if unsaved
        else _("Your work is saved.")
    )
    words = _("Closing the project made a mistake ({0}). {1}").format(type(error).__name__, said)
    return choose(window, _("Not closed"), words, _("Stay here"), _("Close all the same")) == 1


def opened_somehow(window: QWidget, path: Path) -> ProjectStore | None:
    """A project to work on; where someone else has it the user chooses to read it, to take a copy, or neither.

    Raises
    ------
    ProjectFileError
        It cannot be opened.
    """
    try:
        return ProjectStore.open(path)
    except InUseError as error:
        answer = choose(
            window, _("Open elsewhere"), str(error), _("Read it"), _("Work on a copy"), _("Leave it")
        )
    if answer == 0:
        return ProjectStore.open(path, reading=True)
    return copy_of(path) if answer == 1 else None


def copy_of(path: Path) -> ProjectStore:
    """A copy of a project beside it, opened.

    Raises
    ------
    ProjectFileError
        It cannot be written or read.
    """
    original = ProjectStore.open(path, reading=True)
    try:
        place = free_name(path.with_name(_("{0} copy").format(path.stem) + SUFFIX))
        original.save_copy(place)
    finally:
        original.close()
    return ProjectStore.open(place)


def new_project(title: str, habits: Mapping[str, object]) -> Path:
    """Make an empty project in the user's folder, named for its title; it begins with the habits of the person.

    Raises
    ------
    ProjectFileError
        The folder cannot be written to.
    """
    name = file_name(title[:_LONGEST_TITLE], SUFFIX)
    path = free_name(user_folder() / "projects" / name)
    ProjectStore.create(path, with_habits(Project(title=path.stem), habits)).close()
    return path


def ask_save_copy(window: QWidget, session: Session) -> None:
    """Ask where to and write a copy of the project."""
    place = ask_place(window, _("Save a copy as"), session.store.path.name, projects())
    if place:
        session.save_now()
        try:
            session.store.save_copy(place)
        except SepiaError as error:
            session.refused.emit(str(error))
        else:
            session.jobs.written.emit(place)


def ask_revision(window: QWidget, session: Session) -> None:
    """Offer the kept revisions and go back to one, as an edit that can be undone."""
    session.save_now()
    try:
        kept = session.store.revisions()
    except SepiaError as error:
        session.refused.emit(str(error))
        return
    moments = [revision.saved_at.astimezone() for revision in kept]
    words = [
        f"{day(moment)}, {moment:%H:%M:%S}   {revision.label}"
        for moment, revision in zip(moments, kept, strict=True)
    ]
    choice = ask_choice(window, _("Go back"), _("The project as it was"), _("Go back"), words)
    if choice is not None:
        revision = kept[choice]
        name = _("Go back to {0}").format(day_and_time(revision.saved_at.astimezone()))
        session.edit(name, lambda _present: session.store.revision(revision.id))
