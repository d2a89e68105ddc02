"""An open project on screen: top bar, zone column, the rooms, the advice line."""

from __future__ import annotations

import importlib
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QKeySequence, QShortcut
from PySide6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QMenu,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from lean_sepia.answers.rooms.table import ROOMS, first_room
from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.zones import add_sister, add_subject, change_subject, state_target
from lean_sepia.language import N_, _
from lean_sepia.plan.traits.kind import Room
from lean_sepia.ui.kit.dialogs.ask import ask_text, tell
from lean_sepia.ui.kit.drag import DROP_MIME
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.importing import import_beside
from lean_sepia.ui.kit.keys import bring_into_sight, step_in_order
from lean_sepia.ui.kit.plots.colour_plane import load_plot
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.shell.adding_photos import PhotoAdding, has_picture
from lean_sepia.ui.shell.advice_line import AdviceLine
from lean_sepia.ui.shell.litter import set_aside, take_back
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.shell.sheets import Sheets
from lean_sepia.ui.shell.strata.column import StrataColumn
from lean_sepia.ui.shell.subject_dialog import SubjectDialog
from lean_sepia.ui.shell.top_bar import TopBar

if TYPE_CHECKING:
    from lean_sepia.ui.shelf.shelf_page import ShelfPage


def load_room(name: Room) -> type[RoomPage]:
    """The class of a room."""
    module, page = ROOMS[name].widget.split(":")
    found: type[RoomPage] = getattr(importlib.import_module(f"lean_sepia.ui.{module}"), page)
    return found


def load_first_room() -> type[RoomPage]:
    """The class of the room that is open at first."""
    return load_room(first_room())


_QUIET_MS = 1500
SHELF_HELP = N_(
    "Shelf: the paints you own.\n\n"
    "Measure a whole shelf from one photo of a painted card, or import a shelf file. Left field: a thin coat over white and over black; right: opaque."
)


_EVERYWHERE = N_(
    "In every room: Ctrl+1 to Ctrl+7 open rooms, Alt and arrows choose a zone, Ctrl+Enter presses the button with the heavy outline, "
    "F3 shows the next remark at the foot, F4 puts it off."
)


@guarded
class Workspace(QWidget):
    """Built once per open project; rooms are made when first entered."""

    def __init__(self, session: Session, menu: QMenu, room: Room | None = None) -> None:
        super().__init__()
        self.session = session
        session.setParent(self)
        session.jobs.setParent(self)
        self.setAcceptDrops(True)
        self.top_bar = TopBar(menu)
        self.column = StrataColumn(session)
        self.advice = AdviceLine(session)
        self.photos = PhotoAdding(session, self)
        self.photos.added.connect(self._photo_added)
        self.rooms: dict[Room, RoomPage] = {}
        self.shelf_page: ShelfPage | None = None
        self._stack = QStackedWidget()
        self._stack.setObjectName("page")
        self._room: Room | None = None  # None while the shelf is open
        self.last_room: Room = first_room()
        middle = QHBoxLayout()
        middle.setSpacing(0)
        middle.addWidget(self.column)
        middle.addWidget(self._stack, 1)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self.top_bar)
        layout.addLayout(middle, 1)
        layout.addWidget(self.advice)
        self.photos.begun.connect(self.advice.follow)
        self.top_bar.tabs.room_wanted.connect(self.open_room)
        self.top_bar.shelf_wanted.connect(self.open_shelf)
        self.sheets = Sheets(session, self._stack)
        self._connect_column()
        session.settled.connect(self._refresh)
        self._connect_keys()
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        app.focusChanged.connect(self._follow_keyboard)
        self._refresh()
        self._waiting: Room | None = room or first_room()
        session.jobs.later("first room", self._open_first_room)
        self._prepared = False
        session.jobs.busy_changed.connect(lambda _busy: self._prepare())
        QTimer.singleShot(_QUIET_MS, self, self._prepare)  # a project without photos starts no job

    def _connect_column(self) -> None:
        """What the column and the advice ask for."""
        self.column.room_wanted.connect(self.open_room)
        self.sheets.gap_open.connect(self.column.show_open)
        self.column.coat_wanted.connect(self.sheets.lay)
        self.column.coat_opened.connect(self.sheets.change)
        self.column.zone_opened.connect(self.sheets.zone)
        self.column.zones_wanted.connect(self.sheets.zones)
        self.column.surface_wanted.connect(self.sheets.surface)
        self.column.nearer_wanted.connect(self.sheets.nearer)
        self.column.heaviness_wanted.connect(self.sheets.heaviness)
        self.advice.wanted.connect(self._follow_advice)
        self.advice.nearer_wanted.connect(self._show_nearer)

    def _connect_keys(self) -> None:
        for index, room in enumerate(ROOMS, start=1):
            QShortcut(QKeySequence(f"Ctrl+{index}"), self, partial(self.open_room, room))
        QShortcut(QKeySequence(QKeySequence.StandardKey.Paste), self, self.paste).setAutoRepeat(False)
        QShortcut(QKeySequence("Ctrl+Return"), self, self.press_main).setAutoRepeat(False)
        QShortcut(QKeySequence("F3"), self, self.advice.walk)
        QShortcut(QKeySequence("Shift+F3"), self, lambda: self.advice.walk(places=-1))
        QShortcut(QKeySequence("F4"), self, self.advice.put_off).setAutoRepeat(False)
        QShortcut(QKeySequence("Alt+Up"), self, lambda: self.session.step_zone(-1))
        QShortcut(QKeySequence("Alt+Down"), self, lambda: self.session.step_zone(1))

    def _prepare(self) -> None:
        """Once the first photo is shown, do what is asked for next and takes long: paints, the plots, the other rooms."""
        jobs, shelf = self.session.jobs, self.session.shelf
        if not self._prepared and jobs.idle:
            self._prepared = True
            jobs.start(
                "shelf",
                lambda _p: shelf.paints(),
                lambda _paints: import_beside(jobs, "plot library", load_plot, self._prepare_rooms),
            )

    def _prepare_rooms(self, _module: object) -> None:
        self.session.look_whether_coats_show()
        self.session.look_what_is_nearer()
        import_beside(
            self.session.jobs, "rooms", lambda _p: [load_room(name) for name in ROOMS], self._all_is_there
        )

    def _all_is_there(self, _rooms: object) -> None:
        if self.session.jobs.at_once:  # a test, or a walk through many projects
            take_back()
        else:
            set_aside()

    @property
    def room(self) -> Room | None:
        """The room that is open; None while the shelf is."""
        return self._room

    def _refresh(self) -> None:
        project = self.session.project
        subject = project.subjects[0] if project.subjects else None
        words = [project.title] if subject is None else [f"{subject.name} · 1:{subject.scale:g}"]
        if subject and subject.livery:
            words.append(subject.livery)
        if any(other.what_if for other in project.subjects):
            words.append(_("WHAT IF"))
        self.top_bar.show_title(" · ".join(words))
        self.top_bar.tabs.show_states(self.session.room_states())

    def _open_first_room(self) -> None:
        if self._waiting is not None:
            self.open_room(self._waiting)

    def open_room(self, name: Room) -> None:
        """Show a room."""
        self._waiting = None
        if name not in self.rooms:
            page = load_room(name)(self.session)
            page.photos_wanted.connect(self.add_photos)
            page.coat_wanted.connect(self.sheets.lay)
            page.draft_wanted.connect(self.sheets.lay_draft)
            page.finish_wanted.connect(self.sheets.finish)
            page.sheet_wanted.connect(self.sheets.show)
            page.job_followed.connect(self.advice.follow)
            page.room_wanted.connect(self.open_room)
            self.rooms[name] = page
            self._stack.addWidget(page)
        self._room = self.last_room = name
        self._stack.setCurrentWidget(self.rooms[name])
        self.top_bar.tabs.show_room(name)
        self.advice.stand_in(name)
        self.column.show()

    def open_shelf(self) -> None:
        """Show the shelf beside the rooms, with the way back."""
        from lean_sepia.ui.shelf.shelf_page import ShelfPage

        if self.shelf_page is None:
            self.shelf_page = ShelfPage(self.session)
            self.shelf_page.back.connect(lambda: self.open_room(self.last_room))
            self._stack.addWidget(self.shelf_page)
        self._room = None
        self.sheets.close()
        self.top_bar.tabs.show_room(None)
        self.advice.stand_in(None)
        self.column.hide()
        self._stack.setCurrentWidget(self.shelf_page)

    def _follow_advice(self, room: Room, zone: str) -> None:
        if zone:
            self.session.choose_zone(zone)
        self.open_room(room)

    def _show_nearer(self, zone: str) -> None:
        if zone:
            self.session.choose_zone(zone)
        if self._room is None:
            self.open_room(self.last_room)
        self.sheets.nearer()

    def _follow_keyboard(self, _before: QWidget | None, now: QWidget | None) -> None:
        bring_into_sight(now)

    def focusNextPrevChild(self, forward: bool) -> bool:
        return step_in_order(self, forward, around=True) or super().focusNextPrevChild(forward)

    def press_main(self) -> None:
        """Press the button with the heavy outline, of the open sheet or else of the room, wherever the keyboard is."""
        sheet = next((one for one in self.findChildren(Sheet) if one.isVisible()), None)
        page: QWidget | None = sheet or self._stack.currentWidget()
        buttons = page.findChildren(QPushButton) if page is not None else []
        wanted = [
            one for one in buttons if one.property("kind") == "main" and one.isVisible() and one.isEnabled()
        ]
        if wanted:
            wanted[0].click()

    def show_help(self) -> None:
        """What this room is for and its keys."""
        words = _(ROOMS[self._room].help if self._room else SHELF_HELP)
        tell(self, _("Help"), f"{words}\n\n{_(_EVERYWHERE)}")

    def edit_subject(self) -> None:
        """Change the model's name, scale and livery."""
        project = self.session.project
        if not project.subjects:
            self.session.edit(_("Add model"), lambda p: add_subject(p, p.title, 72))
        dialog = SubjectDialog(self.session.project.subjects[0], self)
        if dialog.exec():
            subject = dialog.subject()
            self.session.edit(_("Model and livery"), lambda p: change_subject(p, subject))

    def ask_sister(self) -> None:
        """Ask for the name of a sister of the chosen zone's model, and put her on the bench with the same coats."""
        session = self.session
        if not session.zone:
            session.refused.emit(_("Name a zone first: a sister is a model like one that is there."))
            return
        subject = session.project.subject_of(session.project.zone(session.zone))
        name = ask_text(
            self,
            _("A sister model"),
            _("What is she called? She gets the zones and coats of {0}, of the same mixes.").format(
                subject.name
            ),
            _("Add her"),
        )
        if name is not None:
            self.add_sister(subject.id, name)

    def add_sister(self, subject_id: str, name: str) -> None:
        """Put a sister of a model on the bench."""
        self.session.edit(_("Add {0}").format(name.strip()), lambda p: add_sister(p, subject_id, name)[0])

    def add_photos(self, names: list[str]) -> None:
        """Add picture files, each an edit of its own."""
        self.photos.add_files(names)

    def paste(self) -> None:
        """Add pictures from the clipboard: copied files, or a copied picture."""
        if not self.photos.add_from(QApplication.clipboard().mimeData()):
            self.session.refused.emit(
                _("There is no picture on the clipboard. Copy one, or copy picture files, and paste again.")
            )

    def _photo_added(self) -> None:
        if not self.session.project.zones:
            self.column.add_named_zone(_("First zone"))

    def add_stated_colour(self, lab: Lab, origin: str = "") -> None:
        """Give a project without photos a zone whose target is stated, and open Match."""
        self.column.add_named_zone(_("First zone"))
        zone = self.session.zone
        self.session.edit(_("State a colour"), lambda p: state_target(p, zone, lab, origin=origin))
        self.open_room("match")

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if has_picture(event.mimeData()) or event.mimeData().hasFormat(DROP_MIME):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        if event.mimeData().hasFormat(DROP_MIME):
            # A drop of paint let go outside every card: that takes it away; Esc, which ends a drag too, does not.
            event.acceptProposedAction()
        elif self.photos.add_from(event.mimeData()):
            event.setDropAction(Qt.DropAction.CopyAction)
            event.accept()
