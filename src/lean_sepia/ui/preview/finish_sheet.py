"""A closer look at the finish of a zone: larger, coat by coat, and at a true size that was measured."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QSize
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QCheckBox, QWidget

from lean_sepia.document.called import coat_name
from lean_sepia.document.model import Project
from lean_sepia.language import _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import button, label, measure_box, row
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.kit.theme import TEXT
from lean_sepia.ui.kit.true_size import LEAST, MOST, px_per_mm, remember_px_per_mm
from lean_sepia.ui.preview.finish_panel import FinishPanel
from lean_sepia.ui.shell.session import Session

RULER_PX = 300


@guarded
class Ruler(QWidget):
    """A line of a known number of pixels, to lay a ruler on."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(26)
        self.setAccessibleName(_("A line to measure on the screen"))

    def sizeHint(self) -> QSize:
        return QSize(RULER_PX + 2, 26)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setPen(QPen(self.palette().color(TEXT), 1))
        painter.drawLine(1, 14, RULER_PX, 14)
        for x in (1, RULER_PX):
            painter.drawLine(x, 5, x, 23)


@guarded
class FinishSheet(Sheet):
    """The finish large, each coat with a box to look through it, and a ruler for the true size."""

    def __init__(self, session: Session, zone: str, project: Project) -> None:
        super().__init__(session.project.zone(zone).name, _("The finish, coat by coat"))
        self._session, self._zone, self._project = session, zone, project
        self.panel = FinishPanel(session, 300, alone=True)
        self.add(self.panel)
        self.add(
            label(
                _("Coats; without a tick one is looked through, and stays in the plan"), "second", wrap=True
            )
        )
        self.boxes: dict[str, QCheckBox] = {}
        for coat in reversed(project.coats_of(zone)):
            if coat.on:
                box = QCheckBox(coat_name(coat))
                box.setChecked(True)
                box.toggled.connect(partial(self._look, coat.id))
                self.boxes[coat.id] = box
                self.add(box)
        self.add(
            label(_("True size: lay a ruler on the screen. How long is this line?"), "second", wrap=True)
        )
        self.add(Ruler())
        self.length = measure_box(
            RULER_PX / MOST,
            RULER_PX / LEAST,
            RULER_PX / px_per_mm(self),
            "mm",
            _("Length of the line"),
            1,
            92,
        )
        self.length.valueChanged.connect(self._measured)
        self.add(row(self.length, None))
        self.body.addStretch(1)
        done = button(_("Done"), "main")
        done.clicked.connect(self.leave)
        self.buttons([done])
        session.zone_changed.connect(self.leave)
        self._show()

    def _look(self, _coat: str, _on: bool) -> None:
        self._show()

    def _show(self) -> None:
        hidden = [coat for coat, box in self.boxes.items() if not box.isChecked()]
        self.panel.show_finish(self._project, self._zone, hidden)

    def _measured(self, length_mm: float) -> None:
        remember_px_per_mm(RULER_PX / length_mm)
        self._show()
