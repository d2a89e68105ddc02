"""The zone column: the rack, the chosen core, and what will be seen beside the target."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtGui import QCursor
from PySide6.QtWidgets import QFrame, QMenu, QVBoxLayout

from lean_sepia.document.called import coat_name
from lean_sepia.document.edits.coats import copy_coat
from lean_sepia.document.edits.zones import add_zone, duplicate_zone, move_zone, remove_zone
from lean_sepia.document.model import Project
from lean_sepia.language import _
from lean_sepia.plan.usual import next_kind
from lean_sepia.ui.kit.dialogs.ask import ask_text, confirm
from lean_sepia.ui.kit.panel import button, label, row
from lean_sepia.ui.kit.plain import menu_words
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.shell.strata.bands import COLUMN
from lean_sepia.ui.shell.strata.core import Core
from lean_sepia.ui.shell.strata.foot import Foot
from lean_sepia.ui.shell.strata.rack import Rack


class StrataColumn(QFrame):
    """The left column of the window."""

    room_wanted = Signal(str)
    coat_wanted = Signal(
        str, object
    )  # a kind, and what it is to lie on: a coat's id, LOWEST, or None for its usual place
    coat_opened = Signal(str)
    zone_opened = Signal()
    zones_wanted = Signal()
    surface_wanted = Signal()
    nearer_wanted = Signal()
    heaviness_wanted = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setObjectName("column")
        self.setFixedWidth(COLUMN)
        self._session = session
        self._name = label("", "title", wrap=True)
        self._about = label("", "second")
        self.foot = Foot(session)
        self.foot.nearer_wanted.connect(self.nearer_wanted)
        self._core = Core(session)
        self._core.room_wanted.connect(self.room_wanted)
        self._core.coat_wanted.connect(self.coat_wanted)
        self._core.coat_opened.connect(self.coat_opened)
        self._core.copy_wanted.connect(self._copy)
        add = button("+", "step", _("Add zones"))
        add.setAccessibleName(_("Add zones"))
        add.clicked.connect(self.zones_wanted)
        self._lay = button(
            _("Lay a coat…"),
            "tool",
            _("A coat by hand, where its kind usually comes; between two bands, click their hairline"),
        )
        self._lay.clicked.connect(self._lay_usual)
        more = button("…", "step", _("About this zone, duplicate, move, remove"))
        more.setAccessibleName(_("About this zone, duplicate, move, remove"))
        more.clicked.connect(self._zone_menu)
        self._more = more
        layout = QVBoxLayout(self)
        layout.setContentsMargins(16, 12, 16, 10)
        layout.setSpacing(4)
        layout.addLayout(row(label(_("ZONES"), "caption"), None, add, more, spacing=4))
        layout.addSpacing(4)
        layout.addWidget(Rack(session))
        layout.addSpacing(8)
        layout.addLayout(row(self._name, self._lay, spacing=4))
        layout.addWidget(self._about)
        layout.addSpacing(8)
        layout.addWidget(self._core, 1)
        layout.addSpacing(8)
        layout.addWidget(self.foot)
        session.changed.connect(self._refresh)
        session.zone_changed.connect(self._refresh)
        self._refresh()

    def _refresh(self) -> None:
        session = self._session
        self._more.setEnabled(bool(session.zone))
        self._lay.setEnabled(bool(session.zone))
        if not session.zone:
            self._name.setText(_("No zone chosen"))
            self._about.setText("")
            self.foot.show_nothing()
            return
        zone = session.project.zone(session.zone)
        self._name.setText(zone.name)
        subject = session.project.subject_of(zone)
        about = [f"{subject.name} 1:{subject.scale:g}"]
        if zone.area_cm2:
            about.append(_("{0} cm²").format(f"{zone.area_cm2:g}"))
        self._about.setText(" · ".join(about))
        self.foot.show_cut(session.cut(session.zone))

    def _lay_usual(self) -> None:
        coats = self._session.project.coats_of(self._session.zone)
        kind = next_kind(coats[-1].kind, self._session.project.schools) if coats else "found"
        self.coat_wanted.emit(kind, None)

    def _copy(self, coat_id: str) -> None:
        """Offer the zones that a coat may be laid on too; each is one edit."""
        project = self._session.project
        coat, menu = project.coat(coat_id), QMenu(self)
        with_it = {other.zone for other in project.laid_in(coat.step)}
        for zone in project.zones:
            if zone.id in with_it:
                continue
            subject = project.subject_of(zone)
            several = len(project.subjects) > 1
            words = _("{0}, {1}").format(zone.name, subject.name) if several else zone.name
            menu.addAction(menu_words(words), partial(self.copy_to, coat_id, zone.id))
        if menu.isEmpty():
            menu.addAction(_("Every zone has it")).setEnabled(False)
        menu.popup(QCursor.pos())

    def copy_to(self, coat_id: str, zone_id: str) -> None:
        """Lay a coat on another zone too, in the same step."""
        project = self._session.project
        words = _("Lay {0} on {1} too").format(coat_name(project.coat(coat_id)), project.zone(zone_id).name)
        self._session.edit(words, lambda p: copy_coat(p, coat_id, [zone_id]))

    def show_open(self, above: str | None) -> None:
        """Mark the gap for which a sheet is open."""
        self._core.show_open(above)

    def add_named_zone(self, name: str) -> None:
        """Add a zone with this name and choose it."""
        made: list[str] = []

        def change(project: Project) -> Project:
            project, zone_id = add_zone(project, name)
            made.append(zone_id)
            return project

        if self._session.edit(_("Add zone {0}").format(name.strip()), change):
            self._session.choose_zone(made[0])

    def _zone_menu(self) -> None:
        menu = QMenu(self)
        menu.addAction(_("About this zone…"), self.zone_opened.emit)
        menu.addAction(_("Tones of one surface…"), self.surface_wanted.emit)
        menu.addAction(_("How heavy, the whole model…"), self.heaviness_wanted.emit)
        menu.addSeparator()
        menu.addAction(_("Duplicate…"), self._duplicate)
        menu.addAction(_("Make the other side of it…"), partial(self._duplicate, True))
        menu.addAction(_("Move left"), partial(self._move, -1))
        menu.addAction(_("Move right"), partial(self._move, 1))
        menu.addSeparator()
        menu.addAction(_("Remove with its samples and coats…"), self._remove)
        menu.popup(self._more.mapToGlobal(self._more.rect().bottomLeft()))

    def _duplicate(self, mirrored: bool = False) -> None:
        zone = self._session.project.zone(self._session.zone)
        title = _("The other side") if mirrored else _("Duplicate zone")
        name = ask_text(self, title, _("Name of the new zone"), _("Make it"), zone.name)
        if name is not None:
            self.duplicate(name, mirrored=mirrored)

    def duplicate(self, name: str, *, mirrored: bool = False) -> None:
        """Make a zone like the chosen one, or its other side, and choose it."""
        made: list[str] = []
        zone_id = self._session.zone

        def change(project: Project) -> Project:
            project, new = duplicate_zone(project, zone_id, name, mirrored=mirrored)
            made.append(new)
            return project

        if self._session.edit(_("Duplicate as {0}").format(name.strip()), change):
            self._session.choose_zone(made[0])

    def _move(self, places: int) -> None:
        zone = self._session.project.zone(self._session.zone)
        self._session.edit(_("Move zone {0}").format(zone.name), lambda p: move_zone(p, zone.id, places))

    def _remove(self) -> None:
        zone = self._session.project.zone(self._session.zone)
        question = _("Remove “{0}” with its samples, regions and coats? Undo brings it back.").format(
            zone.name
        )
        if confirm(self, _("Remove zone"), question, _("Remove it")):
            self._session.edit(_("Remove zone {0}").format(zone.name), lambda p: remove_zone(p, zone.id))
