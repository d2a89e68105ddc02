"""A zone's panels as they have faded: a click tells of one, a drag draws one."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from lean_sepia.language import _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing
from lean_sepia.ui.kit.swatch import Lab, paint_field
from lean_sepia.ui.kit.theme import ACCENT, WELL, WELL_TEXT, font

_MARGIN = 8.0
_DRAG = 6.0
Box = tuple[float, float, float, float]


@guarded
class PanelMap(KeyboardRing, QWidget):
    """Draws panels in their colours; those that were replaced carry a stroke. Arrow keys move, Space is a click."""

    picked = Signal(int)
    drawn = Signal(float, float, float, float)

    def __init__(self, height: int = 120, *, active: bool = True) -> None:
        super().__init__()
        self._boxes: tuple[Box, ...] = ()
        self._labs: tuple[Lab, ...] = ()
        self._struck: frozenset[int] = frozenset()
        self._at = 0
        self._from: QPointF | None = None
        self._to: QPointF | None = None
        self._active = active
        self.empty_words = ""
        self.setMinimumHeight(height)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus if active else Qt.FocusPolicy.NoFocus)

    def sizeHint(self) -> QSize:
        return QSize(560, 150)

    def show_panels(self, boxes: Sequence[Box], labs: Sequence[Lab], struck: Collection[int] = ()) -> None:
        """Show panels, left, top, right and bottom as shares of the zone, each in its colour."""
        self._boxes, self._labs, self._struck = tuple(boxes), tuple(labs), frozenset(struck)
        self._at = min(self._at, max(0, len(boxes) - 1))
        self.setAccessibleName(_("Panels, {0} of them replaced").format(len(self._struck)))
        self.update()

    @property
    def _inner(self) -> QRectF:
        return QRectF(self.rect()).adjusted(_MARGIN, _MARGIN, -_MARGIN, -_MARGIN)

    def _rect(self, box: Box) -> QRectF:
        inner = self._inner
        left, right = (round(inner.left() + inner.width() * share) for share in (box[0], box[2]))
        top, bottom = (round(inner.top() + inner.height() * share) for share in (box[1], box[3]))
        return QRectF(left, top, right - left, bottom - top)

    def _share(self, place: QPointF) -> tuple[float, float]:
        inner = self._inner
        x, y = (place.x() - inner.left()) / inner.width(), (place.y() - inner.top()) / inner.height()
        return min(1.0, max(0.0, x)), min(1.0, max(0.0, y))

    def _number_at(self, place: QPointF) -> int | None:
        hit = [number for number, box in enumerate(self._boxes) if self._rect(box).contains(place)]
        return hit[-1] if hit else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._active and event.button() == Qt.MouseButton.LeftButton:
            self._from = self._to = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._from is not None:
            self._to = event.position()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        start, self._from = self._from, None
        if start is None:
            return
        end = event.position()
        if abs(end.x() - start.x()) > _DRAG and abs(end.y() - start.y()) > _DRAG:
            self.drawn.emit(*self._share(start), *self._share(end))
        elif (number := self._number_at(start)) is not None:
            self._at = number
            self.picked.emit(number)
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        if event.key() in steps and self._boxes:
            self._at = (self._at + steps[Qt.Key(event.key())]) % len(self._boxes)
            self.update()
        elif event.key() == Qt.Key.Key_Space and self._boxes:
            self.picked.emit(self._at)
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.palette().color(WELL))
        ink = self.palette().color(WELL_TEXT)
        painter.setPen(ink)
        if not self._boxes:
            painter.setFont(font(13))
            flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(self.rect().adjusted(24, 8, -24, -8), flags, self.empty_words)
            return
        for number, (box, lab) in enumerate(zip(self._boxes, self._labs, strict=True)):
            rect = self._rect(box)
            paint_field(painter, rect, lab, ink)
            if number in self._struck:
                painter.setPen(QPen(ink if lab[0] > 50 else self.palette().color(WELL), 1.2))
                painter.drawLine(rect.bottomLeft() + QPointF(4, -4), rect.topRight() + QPointF(-4, 4))
        if self.ring:
            painter.setPen(QPen(self.palette().color(ACCENT), 2))
            painter.drawRect(self._rect(self._boxes[self._at]).adjusted(1, 1, -1, -1))
        if self._from is not None and self._to is not None:
            painter.setPen(QPen(ink, 1, Qt.PenStyle.DashLine))
            painter.drawRect(QRectF(self._from, self._to).normalized())
