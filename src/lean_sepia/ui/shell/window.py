"""The main window: the first page until a project is open, then its workspace."""

from __future__ import annotations

import importlib
from collections.abc import Callable, Mapping
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any, Literal

from PySide6.QtCore import QEvent, QPoint, Qt, QTimer
from PySide6.QtGui import QAction, QCloseEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QMainWindow,
    QStackedWidget,
    QStyle,
)

from lean_sepia.errors import SaveError, SepiaError
from lean_sepia.language import _
from lean_sepia.report.export import Leaving
from lean_sepia.ui.kit import theme
from lean_sepia.ui.kit.dialogs.ask import tell
from lean_sepia.ui.kit.dialogs.file_filters import projects
from lean_sepia.ui.kit.dialogs.files import ask_file, last_folder, remember_folder
from lean_sepia.ui.kit.faults import faults, guarded, report_file
from lean_sepia.ui.kit.importing import import_beside
from lean_sepia.ui.kit.job import Jobs, Progress
from lean_sepia.ui.kit.true_size import measured_px_per_mm, remember_px_per_mm
from lean_sepia.ui.shell.litter import take_back
from lean_sepia.ui.shell.main_menu import MainMenu, menu_exports
from lean_sepia.ui.shell.settings import Settings, save_settings
from lean_sepia.ui.shell.starting.new_projects import NewProjects
from lean_sepia.ui.shell.starting.start_page import StartPage
from lean_sepia.ui.shell.whole import Whole

if TYPE_CHECKING:
    from lean_sepia.demo.folder import Demo
    from lean_sepia.ui.shell.workspace import Workspace


def the_app() -> QApplication:
    """The running application."""
    app = QApplication.instance()
    assert isinstance(app, QApplication)
    return app


def load_first_room(_progress: Progress) -> None:
    """The core, the workspace and the first room: a job loads them, so that a project opens at once."""
    importlib.import_module("lean_sepia.ui.shell.workspace").load_first_room()
    importlib.import_module("lean_sepia.ui.shell.keeping")
    importlib.import_module("lean_sepia.colour.lights").weights()  # read and interpolated once


_AT_REST_MS = 300
_DESIGN_SIZE, _SMALLEST = (1280, 800), (480, 320)


@guarded
class MainWindow(QMainWindow):
    """Owns the menu, the settings and whichever project is open. The core is imported with the first project."""

    def __init__(self, settings: Settings, *, synchronous: bool = False, remember: bool = True) -> None:
        super().__init__()
        self.settings = settings
        self._synchronous = synchronous
        self._remember = remember
        self.jobs = Jobs(self, synchronous=synchronous)
        self.jobs.failed.connect(self._tell)
        faults.happened.connect(self._tell_mistake, Qt.ConnectionType.QueuedConnection)
        self.workspace: Workspace | None = None
        self._leaving = False
        self.starting = NewProjects(
            self, self.jobs, lambda path: self.workspace if self.open_project(path) else None, self.refuse, self._habits
        )  # fmt: skip
        self._stack = QStackedWidget()
        self.start_page = StartPage(settings.existing())
        self._connect_start_page()
        self._stack.addWidget(self.start_page)
        self.setCentralWidget(Whole(self._stack))
        self.setWindowTitle("Lean Sepia")
        self._take_place()
        self.menu = MainMenu(self, self._calls())
        self.menu.entries["evening"].setChecked(settings.evening)
        self.menu.aboutToShow.connect(self._refresh_menu)
        show_menu = QAction(self)
        show_menu.setShortcut(QKeySequence("F10"))
        show_menu.triggered.connect(self._open_menu)
        self.addAction(show_menu)
        self._refresh_menu()
        remember_folder(settings.folder)
        remember_px_per_mm(settings.px_per_mm)
        if not synchronous:
            QTimer.singleShot(_AT_REST_MS, self, self.prepare)

    def prepare(self) -> None:
        """While the start page is read, load what the first project needs."""
        import_beside(self.jobs, "first room", load_first_room, lambda _answer: None)

    def _take_place(self) -> None:
        """Open at the size of last time, never larger than the screen leaves beside its bars and the window's frame."""
        screen = self.screen().availableGeometry()
        width, height = self.settings.size or _DESIGN_SIZE
        frame = self.style().pixelMetric(QStyle.PixelMetric.PM_TitleBarHeight)
        width = max(_SMALLEST[0], min(width, screen.width()))
        height = max(_SMALLEST[1], min(height, screen.height() - frame))
        self.setMinimumSize(*_SMALLEST)
        self.resize(width, height)
        self.move(
            screen.left() + max(0, screen.width() - width) // 2,
            screen.top() + max(0, screen.height() - height - frame) // 2,
        )
        if self.settings.maximised:
            self.setWindowState(self.windowState() | Qt.WindowState.WindowMaximized)

    def _connect_start_page(self) -> None:
        page = self.start_page
        page.demo_wanted.connect(self.open_demo)
        page.photo_wanted.connect(self.starting.from_photo)
        page.colour_wanted.connect(self.starting.from_colour)
        page.open_wanted.connect(self.ask_open)
        page.project_wanted.connect(lambda name: self.open_project(Path(name)))
        page.photos_dropped.connect(self.starting.with_photos)

    def _calls(self) -> dict[str, Callable[[], object]]:
        """What each entry of the menu does."""
        return {
            "new": self.starting.from_photo, "colour": self.starting.from_colour, "open": self.ask_open, "demo": self.open_demo,
            "untouched": lambda: self.open_demo("untouched"), "bus": lambda: self.open_demo("bus"), "copy": self.ask_save_copy, "back": self.ask_revision,
            "undo": lambda: self._step(back=True), "redo": lambda: self._step(back=False),
            **{name: partial(self.ask_export, name) for name, _export in menu_exports()},
            "details": lambda: self._in_workspace(lambda space: space.edit_subject()),
            "sister": lambda: self._in_workspace(lambda space: space.ask_sister()),
            "cups": lambda: self._in_workspace(lambda space: space.sheets.cups()), "evening": self.toggle_lighting,
            "help": self.show_help, "start": self.close_project, "quit": self.close,
        }  # fmt: skip

    def _in_workspace(self, act: Callable[[Workspace], object]) -> None:
        if self.workspace:
            act(self.workspace)

    def _open_menu(self) -> None:
        if self.workspace is not None:
            self.workspace.top_bar.open_menu(self.menu)
        else:
            self.menu.popup(self.mapToGlobal(QPoint(16, 16)))

    def _refresh_menu(self) -> None:
        self.menu.show_state(self.workspace.session.history if self.workspace else None)

    def _step(self, *, back: bool) -> None:
        if self.workspace:
            session = self.workspace.session
            (session.undo if back else session.redo)()

    def toggle_lighting(self) -> None:
        """Change between day bench and evening bench."""
        self.settings = replace(self.settings, evening=not self.settings.evening)
        self.menu.entries["evening"].setChecked(self.settings.evening)
        theme.apply(the_app(), theme.EVENING if self.settings.evening else theme.DAY)
        self._keep_settings()

    def _keep_settings(self) -> None:
        if self._remember:
            save_settings(self.settings)

    def open_demo(self, which: Literal["worked", "untouched", "bus"] = "worked") -> None:
        """Open one of the demo's projects, which are made first where they are missing."""
        from lean_sepia.demo.folder import ensure_demo

        self._tell(_("Preparing the demo: its photos are rendered once, which takes half a minute."))

        def opened(demo: Demo) -> None:
            self._tell("")
            self.open_project({"worked": demo.worked, "untouched": demo.untouched, "bus": demo.bus}[which])

        self.jobs.start("demo", lambda progress: ensure_demo(progress=lambda _words: progress(0.5)), opened)

    def ask_open(self) -> None:
        """Ask for a project file."""
        file = ask_file(self, _("Open a project"), projects())
        if file:
            self.open_project(file)

    def open_project(self, path: Path) -> bool:
        """Open a project; what is open stays open where that fails."""
        from lean_sepia.answers.rooms.table import ROOMS, first_room
        from lean_sepia.ui.shell.keeping import opened_somehow
        from lean_sepia.ui.shell.session import Session
        from lean_sepia.ui.shell.workspace import Workspace

        if self._is_open(path):
            return True
        try:
            store = opened_somehow(self, path)
            if store is None:
                return False
            try:
                session = Session(store, Jobs(synchronous=self._synchronous))
            except SepiaError:
                store.close()
                raise
        except SepiaError as error:
            self.refuse(str(error))
            return False
        if not self._leave():
            session.close()
            return False
        path = store.path
        room = self.settings.room_of(path)
        self.workspace = Workspace(session, self.menu, room if room in ROOMS else first_room())
        session.settled.connect(self._refresh_menu)
        session.settled.connect(self._show_title)
        session.moved.connect(self._follow_project)
        self._stack.addWidget(self.workspace)
        self._stack.setCurrentWidget(self.workspace)
        self.workspace.top_bar.tabs.setFocus()
        self._show_title()
        self.settings = self.settings.with_recent(path)
        self._keep_settings()
        if session.opening_note:
            session.refused.emit(session.opening_note)
        self._refresh_menu()
        return True

    def _habits(self) -> Mapping[str, Any]:
        """What the open project says of the person, else what the last one did."""
        if self.workspace is None:
            return self.settings.habits
        from lean_sepia.document.keeping.habits import habits_of

        return habits_of(self.workspace.session.project)

    def _show_title(self) -> None:
        """Say in the title of the window what is worked on, as it is called now."""
        if self.workspace:
            self.setWindowTitle(f"{self.workspace.session.project.title} – Lean Sepia")

    def _is_open(self, path: Path) -> bool:
        present = self.workspace.session.store.path if self.workspace else None
        try:
            return present is not None and present.samefile(path)
        except (OSError, ValueError):
            return False

    def _follow_project(self) -> None:
        """The project goes on in another file."""
        if self.workspace:
            self.settings = self.settings.with_recent(self.workspace.session.store.path)
            self._keep_settings()

    def _nothing_begun(self) -> bool:
        """Whether no project is about to be made; waits for that, and asks."""
        if not self.jobs.acting:
            return True
        from lean_sepia.ui.shell.keeping import finished_or_given_up

        return finished_or_given_up(self, self.jobs)

    def refuse(self, message: str) -> None:
        """Say why something was not done, wherever the user is."""
        if self.workspace:
            self.workspace.session.refused.emit(message)
        elif self.isVisible() and not self._synchronous:
            tell(self, "Lean Sepia", message)
        self._tell(message)

    def _may_close(self) -> bool:
        """Leave the project; a mistake in doing so never closes the window by itself, and never keeps it from being closed."""
        self._leaving = True
        try:
            return self._nothing_begun() and self._leave()
        except Exception as error:  # noqa: BLE001 - whatever it is, the work must not go with it
            faults.note(error)
            from lean_sepia.ui.shell.keeping import closed_after_mistake

            return closed_after_mistake(self, self.workspace.session if self.workspace else None, error)
        finally:
            self._leaving = False

    def _leave(self) -> bool:
        """Close the project; False where something of it is not done or not saved, and the user stays."""
        if self.workspace:
            from lean_sepia.ui.shell.keeping import finished_or_given_up, saved_or_given_up

            session = self.workspace.session
            if (typed_in := self.focusWidget()) is not None:
                typed_in.clearFocus()  # what was typed and not confirmed is an edit too
            if not finished_or_given_up(self, session.jobs) or not saved_or_given_up(self, session):
                return False
            self.settings = self.settings.with_room(
                session.store.path, self.workspace.last_room, self._habits()
            )
            self._keep_settings()
            self.workspace.session.close()
            take_back()
            self._stack.removeWidget(self.workspace)
            self.workspace.deleteLater()
            self.workspace = None
        return True

    def close_project(self) -> None:
        """Back to the first page."""
        if not self._leave():
            return
        self._stack.removeWidget(self.start_page)
        self.start_page.deleteLater()
        self.start_page = StartPage(self.settings.existing())
        self._connect_start_page()
        self._stack.insertWidget(0, self.start_page)
        self._stack.setCurrentWidget(self.start_page)
        self.setWindowTitle("Lean Sepia")
        self._refresh_menu()

    def ask_save_copy(self) -> None:
        """Ask where to and write a copy of the project."""
        if self.workspace is not None:
            from lean_sepia.ui.shell.keeping import ask_save_copy

            ask_save_copy(self, self.workspace.session)

    def ask_export(self, name: str) -> None:
        """Ask where to and write what leaves the project."""
        if self.workspace is not None:
            from lean_sepia.ui.kit.dialogs.exporting import ask_export

            session = self.workspace.session
            ask_export(self, name, Leaving(session.project), session.jobs)

    def ask_revision(self) -> None:
        """Offer the kept revisions and go back to one, as an edit that can be undone."""
        if self.workspace is not None:
            from lean_sepia.ui.shell.keeping import ask_revision

            ask_revision(self, self.workspace.session)

    def show_help(self) -> None:
        """Help for the room that is open."""
        if self.workspace:
            self.workspace.show_help()

    def _tell_mistake(self, mistake: str) -> None:
        """The program made a mistake somewhere: the work is saved before anything else is done."""
        words = _("The program made a mistake ({0}).").format(mistake)
        if report_file().is_file():
            words += _(" A report lies in {0}; it goes nowhere by itself.").format(report_file())
        if self.workspace:
            session = self.workspace.session
            try:
                fault = session.save_now()
            except Exception as error:  # noqa: BLE001 - a second mistake must not hide that nothing is saved
                faults.note(error)
                fault = SaveError(_("Saving made a mistake too ({0}).").format(type(error).__name__))
            saved = _("Your work is saved.")
            words = f"{words} {saved if fault is None else fault}"
        self._tell(words)

    def _tell(self, message: str) -> None:
        self.start_page.message.setText(message)
        if self.workspace and message:
            self.workspace.session.refused.emit(message)

    def changeEvent(self, event: QEvent) -> None:
        """Turned to again: another window may have written to the shelf."""
        super().changeEvent(event)
        if event.type() == QEvent.Type.ActivationChange and self.isActiveWindow() and self.workspace:
            self.workspace.session.look_at_shelf()

    def closeEvent(self, event: QCloseEvent) -> None:
        """Everything is saved already or is saved now; asked is only where that fails."""
        if self._leaving or not self._may_close():
            event.ignore()
            return
        maximised = self.isMaximized()
        size = self.settings.size if maximised else (self.width(), self.height())
        self.settings = replace(
            self.settings,
            size=size,
            maximised=maximised,
            folder=last_folder(),
            px_per_mm=measured_px_per_mm(),
        )
        self._keep_settings()
        self.jobs.close()
        event.accept()
