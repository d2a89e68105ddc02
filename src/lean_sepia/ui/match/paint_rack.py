"""The paints at hand as a row of chips: a click adds a drop to the chosen recipe, a drag adds it to any."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QWidget

from lean_sepia.language import _
from lean_sepia.paint.paint import Paint
from lean_sepia.ui.kit.drag import DropSource, drag_drop
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing, scrolled
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.rows import Rows
from lean_sepia.ui.kit.swatch import bottle_lab, lab_words, paint_field
from lean_sepia.ui.kit.theme import ACCENT, SECOND, WELL


@guarded
class _RackChip(DropSource, KeyboardRing, QAbstractButton):
    def __init__(self, paint: Paint) -> None:
        super().__init__()
        self.paint, self._lab = paint, bottle_lab(paint)
        self.setFixedSize(22, 24)
        self.setCursor(Qt.CursorShape.OpenHandCursor)
        self.setAccessibleName(_("Add a drop of {0}").format(paint.name))
        words = lab_words(self._lab) if self._lab else _("clear: it changes the sheen")
        hint(self, f"{paint.name}\n{words}")

    def sizeHint(self) -> QSize:
        return QSize(22, 24)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        paint_field(painter, QRectF(self.rect()), self._lab, self.palette().color(SECOND))
        painter.setPen(QPen(self.palette().color(ACCENT if self.ring else WELL), 2 if self.ring else 1))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.pulled(event):
            self.setDown(False)
            drag_drop(self, self.paint.id, self._lab)


class PaintRack(QWidget):
    """All paints that may go into a mixture, in shelf order."""

    drop_wanted = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._row = Rows(spacing=3, across=True)
        self._ids: tuple[str, ...] = ()
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        area = scrolled(self._row, sideways=True)
        area.setFixedHeight(34)
        layout.addWidget(area)

    def show_paints(self, paints: Sequence[Paint]) -> None:
        """Show these paints; nothing happens where they are shown already."""
        ids = tuple(paint.id for paint in paints)
        if ids == self._ids:
            return
        self._ids = ids
        chips = [_RackChip(paint) for paint in paints]
        for chip, name in zip(chips, ids, strict=True):
            chip.clicked.connect(partial(self._want, name))
        self._row.fill([*chips, None])

    def _want(self, name: str, _checked: bool = False) -> None:
        self.drop_wanted.emit(name)
