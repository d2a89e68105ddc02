"""The sign of a warning."""

from __future__ import annotations

from PySide6.QtCore import QPointF
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.theme import TEXT, font


@guarded
class Diamond(QWidget):
    """The sign of a warning: a shape, not a hue. Filled for a stop."""

    def __init__(self, filled: bool = False, size: int = 20, mark: str = "!") -> None:
        super().__init__()
        self._filled, self._mark = filled, mark
        self.setFixedSize(size, size)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        ink = self.palette().color(TEXT)
        middle, reach = self.width() / 2, self.width() / 2 - 1.5
        shape = QPolygonF([QPointF(middle, middle - reach), QPointF(middle + reach, middle),
                           QPointF(middle, middle + reach), QPointF(middle - reach, middle)])  # fmt: skip
        painter.setPen(QPen(ink, 1.2))
        if self._filled:
            painter.setBrush(ink)
        painter.drawPolygon(shape)
        if self._mark and not self._filled and self.width() >= 16:
            painter.setFont(font(11, True))
            painter.drawText(self.rect(), 0x84, self._mark)
