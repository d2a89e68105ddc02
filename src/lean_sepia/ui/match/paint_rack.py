"""The paints at hand as a row of chips: a click adds a drop to the chosen recipe, a drag adds it to any."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QMimeData, QPoint, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QDrag, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QAbstractButton, QApplication, QHBoxLayout, QWidget

from lean_sepia.paint.paint import Paint
from lean_sepia.ui.kit.panel import KeyboardRing, clear, holder, scrolled
from lean_sepia.ui.kit.swatch import Drops, Lab, bottle_lab, lab_words, paint_field
from lean_sepia.ui.kit.theme import ACCENT, SECOND, WELL

DROP_MIME = "application/x-lean-sepia-drop"


def drag_drop(source: QWidget, paint_id: str, lab: Lab | None) -> bool:
    """Let a drop of a paint be dragged; returns whether something took it."""
    mime = QMimeData()
    mime.setData(DROP_MIME, paint_id.encode())
    drag = QDrag(source)
    drag.setMimeData(mime)
    picture = QPixmap(16, 14)
    picture.fill(Qt.GlobalColor.transparent)
    drop = Drops(lab, 1)
    drop.setAttribute(Qt.WidgetAttribute.WA_TranslucentBackground)
    drop.resize(16, 13)
    drop.render(picture, QPoint(), renderFlags=QWidget.RenderFlag.DrawChildren)
    drag.setPixmap(picture)
    return drag.exec(Qt.DropAction.CopyAction) != Qt.DropAction.IgnoreAction


def dragged_paint(mime: QMimeData) -> str | None:
    """The id of the paint a drop of which is dragged, or None."""
    return bytes(mime.data(DROP_MIME).data()).decode() if mime.hasFormat(DROP_MIME) else None


class DropSource:
    """For widgets a drop of a paint is dragged from: `pulled` says when the hand has moved far enough."""

    _press: QPoint | None = None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._press = event.position().toPoint()
        super().mousePressEvent(event)  # type: ignore[misc]

    def pulled(self, event: QMouseEvent) -> bool:
        """Whether this move begins a drag."""
        if self._press is None:
            return False
        away = event.position().toPoint() - self._press
        if away.manhattanLength() < QApplication.startDragDistance():
            return False
        self._press = None
        return True


class _RackChip(DropSource, KeyboardRing, QAbstractButton):
    def __init__(self, paint: Paint) -> None:
        super().__init__()
        self.paint, self._lab = paint, bottle_lab(paint)
        self.setFixedSize(22, 24)
        self.setCursor(Qt.CursorShape.OpenHandCursor)
        self.setAccessibleName(self.tr("Add a drop of {0}").format(paint.name))
        words = lab_words(self._lab) if self._lab else self.tr("clear: it changes the sheen")
        self.setToolTip(f"{paint.name}\n{words}")

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
        self._row = QHBoxLayout()
        self._row.setSpacing(3)
        self._ids: tuple[str, ...] = ()
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        area = scrolled(holder(self._row), sideways=True)
        area.setFixedHeight(34)
        layout.addWidget(area)

    def show_paints(self, paints: Sequence[Paint]) -> None:
        """Show these paints; nothing happens where they are shown already."""
        ids = tuple(paint.id for paint in paints)
        if ids == self._ids:
            return
        self._ids = ids
        clear(self._row)
        for paint in paints:
            chip = _RackChip(paint)
            chip.clicked.connect(lambda _c=False, name=paint.id: self.drop_wanted.emit(name))
            self._row.addWidget(chip)
        self._row.addStretch(1)
