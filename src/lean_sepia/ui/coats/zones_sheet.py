"""The sheet on which zones are made in a row: a line each, with name, area and a colour."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLineEdit

from lean_sepia.document.edits.zones import NewZone, add_zones
from lean_sepia.document.model import Project, Stated
from lean_sepia.errors import SepiaError
from lean_sepia.language import _, ngettext
from lean_sepia.ui.coats.colour_line import ColourLine
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.fields.number_box import NumberBox
from lean_sepia.ui.kit.panel import button, label, measure_box
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.shell.session import Session


@guarded
class ZonesSheet(Sheet):
    """Name after name; a new line opens as soon as the last one has a name."""

    def __init__(self, session: Session) -> None:
        super().__init__(_("zones in a row"), _("New zones"))
        self._session = session
        self.lines: list[tuple[QLineEdit, NumberBox, ColourLine]] = []
        self.add(
            label(
                _(
                    "A name, its area on the model, and its colour where you know it. Only the name is needed."
                ),
                "second",
                wrap=True,
            )
        )
        self._fault = label("", "second", wrap=True)
        self._rows_end = self.body.count()
        self.body.addWidget(self._fault)
        self.body.addStretch(1)
        self.make = button("", "main")
        leave = button(_("Leave it"))
        self.make.clicked.connect(self.add_all)
        leave.clicked.connect(self.left)
        self.buttons([self.make, leave])
        self._open_line()
        self._count()

    def _open_line(self) -> None:
        name = QLineEdit()
        name.setPlaceholderText(_("Hull, Roof, Door…"))
        name.setAccessibleName(_("Name of zone {0}").format(len(self.lines) + 1))
        area = measure_box(0, 100_000, 0, "cm²", _("Area on the model"), width=96)
        area.setSpecialValueText(_("area?"))
        colour = ColourLine(self._session, _("Colour of zone {0}").format(len(self.lines) + 1))
        self.lines.append((name, area, colour))
        first, second = self.line(_("zone {0}").format(len(self.lines)), name, area), self.line("", colour)
        for widget in (first, second):
            self.body.removeWidget(widget)
            self.body.insertWidget(self._rows_end, widget)
            self._rows_end += 1
        name.textChanged.connect(lambda _t: self._count())
        colour.changed.connect(self._count)

    def _count(self) -> None:
        if self.lines[-1][0].text().strip():
            self._open_line()
        named = sum(bool(name.text().strip()) for name, _area, _colour in self.lines)
        self.make.setText(ngettext("Make {0} zone", "Make {0} zones", named).format(named))
        self.make.setEnabled(named > 0)
        faults = [colour.fault for _name, _area, colour in self.lines if colour.fault]
        self._fault.setText(faults[0] if faults else "")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.focusNextChild()
        else:
            super().keyPressEvent(event)

    def wanted(self) -> list[NewZone]:
        """The zones as they stand on the sheet.

        Raises
        ------
        SepiaError
            A colour cannot be read.
        """
        answer = []
        for name, area, colour in self.lines:
            if not name.text().strip():
                continue
            known = colour.stated()
            stated = (Stated(lab=known[0], origin=known[1]),) if known else ()
            answer.append(NewZone(name.text().strip(), area.value() or None, stated))
        return answer

    def add_all(self) -> None:
        """Make them all, as one edit."""
        try:
            wanted = self.wanted()
        except SepiaError as error:
            self._fault.setText(str(error))
            return
        made: list[str] = []
        session = self._session
        subject = session.project.zone(session.zone).subject if session.zone else ""

        def change(project: Project) -> Project:
            project, ids = add_zones(project, wanted, subject)
            made.extend(ids)
            return project

        words = ngettext("Make {0} zone", "Make {0} zones", len(wanted)).format(len(wanted))
        if session.edit(words, change):
            self.left.emit()
            session.choose_zone(made[0])
