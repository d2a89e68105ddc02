"""The zone column: the rack, the chosen core, and what will be seen beside the target."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFrame, QMenu, QVBoxLayout

from lean_sepia.answers.strata import Strata, seen_miss
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.words import difference
from lean_sepia.document.edits.zones import add_zone, change_zone, remove_zone
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.ui.kit.dialogs.ask import ask_text, confirm
from lean_sepia.ui.kit.panel import button, label, row
from lean_sepia.ui.kit.swatch import Fields
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.shell.strata.bands import COLUMN
from lean_sepia.ui.shell.strata.core import Core
from lean_sepia.ui.shell.strata.rack import Rack
from lean_sepia.ui.shell.strata.zone_dialog import ZoneDialog


class StrataColumn(QFrame):
    """The left column of the window."""

    room_wanted = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setObjectName("column")
        self.setFixedWidth(COLUMN)
        self._session = session
        self._name = label("", "title", wrap=True)
        self._about = label("", "second")
        self._foot = Fields(margin=12, height=64)
        self._foot_words = label("", "second", wrap=True)
        self._foot_words.setMinimumHeight(34)
        self._core = Core(session)
        self._core.room_wanted.connect(self.room_wanted)
        add = button("+", "step", _("Add a zone"))
        add.setAccessibleName(_("Add a zone"))
        add.clicked.connect(self.add_zone)
        more = button("…", "step", _("Rename or remove this zone"))
        more.setAccessibleName(_("Rename or remove this zone"))
        more.clicked.connect(self._zone_menu)
        self._more = more
        layout = QVBoxLayout(self)
        layout.setContentsMargins(16, 12, 16, 10)
        layout.setSpacing(4)
        layout.addLayout(row(label(_("ZONES"), "caption"), None, add, more, spacing=4))
        layout.addSpacing(4)
        layout.addWidget(Rack(session))
        layout.addSpacing(8)
        layout.addWidget(self._name)
        layout.addWidget(self._about)
        layout.addSpacing(8)
        layout.addWidget(self._core, 1)
        layout.addSpacing(8)
        layout.addWidget(self._foot)
        layout.addWidget(self._foot_words)
        session.changed.connect(self._refresh)
        session.zone_changed.connect(self._refresh)
        self._refresh()

    def _refresh(self) -> None:
        session = self._session
        self._more.setEnabled(bool(session.zone))
        if not session.zone:
            self._name.setText(_("No zone chosen"))
            self._about.setText("")
            self._foot.show_labs([None, None])
            self._foot_words.setText("")
            return
        zone = session.project.zone(session.zone)
        self._name.setText(zone.name)
        subject = session.project.subject_of(zone)
        about = [f"{subject.name} 1:{subject.scale:g}"]
        if zone.area_cm2:
            about.append(_("{0} cm²").format(f"{zone.area_cm2:g}"))
        self._about.setText(" · ".join(about))
        self._show_foot(session.cut(session.zone))

    def _show_foot(self, cut: Strata) -> None:
        pair = seen_miss(cut)
        if pair is None:
            target = cut.targets.seen or cut.targets.exposed or cut.targets.fresh
            self._foot.show_labs([target.lab if target else None, None], _("Target and what will be seen"))
            self._foot_words.setText(
                _("Target | not matched yet.") if target else _("No target yet: take a sample in Evidence.")
            )
            return
        target_lab, predicted, stage = pair
        miss = float(delta_e00(target_lab, predicted))
        words = difference(target_lab, predicted).words
        self._foot.show_labs([target_lab, predicted], _("Target and what will be seen"))
        said = {
            "seen": _("Target | what will be seen"),
            "exposed": _("Target | after the fade"),
            "fresh": _("Target | the fresh base"),
        }[stage]
        self._foot_words.setText(f"{said}: {words}. ΔE00 {miss:.1f}.")

    def add_zone(self) -> None:
        """Ask for a name and add a zone."""
        name = ask_text(self, _("New zone"), _("Name of the area, such as Hull or Roof"), _("Add zone"))
        if name is not None:
            self.add_named_zone(name)

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
        menu.addAction(_("About this zone…"), self._describe)
        menu.addAction(_("Remove with its samples and coats…"), self._remove)
        menu.popup(self._more.mapToGlobal(self._more.rect().bottomLeft()))

    def _describe(self) -> None:
        project = self._session.project
        dialog = ZoneDialog(project.zone(self._session.zone), project, self)
        if dialog.exec():
            try:
                changed = dialog.zone()
            except SepiaError as error:
                self._session.refused.emit(str(error))
                return
            self._session.edit(_("About {0}").format(changed.name), lambda p: change_zone(p, changed))

    def _remove(self) -> None:
        zone = self._session.project.zone(self._session.zone)
        question = _("Remove “{0}” with its samples, regions and coats? Undo brings it back.").format(
            zone.name
        )
        if confirm(self, _("Remove zone"), question, _("Remove it")):
            self._session.edit(_("Remove zone {0}").format(zone.name), lambda p: remove_zone(p, zone.id))
