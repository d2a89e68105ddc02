"""A plain histogram of mark sizes with the line below which the eye sees nothing."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.theme import HAIRLINE, SECOND, TEXT, THIRD, font


@guarded
class SizeBars(QWidget):
    """Counts by size on a doubling scale, in millimetres."""

    def __init__(self) -> None:
        super().__init__()
        self._edges: tuple[float, ...] = ()
        self._counts: tuple[int, ...] = ()
        self._limit = 0.0
        self.setMinimumHeight(120)

    def sizeHint(self) -> QSize:
        return QSize(260, 150)

    def show_sizes(self, edges: Sequence[float], counts: Sequence[int], limit: float) -> None:
        """Show counts (n) between size edges (n + 1), with the smallest visible size as a line."""
        self._edges, self._counts, self._limit = tuple(edges), tuple(counts), limit
        self.setAccessibleName(
            ", ".join(
                f"{low:.2g}–{high:.2g} mm: {n}"
                for low, high, n in zip(edges, edges[1:], counts, strict=False)
            )
        )
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        colours = self.palette()
        if not self._counts:
            return
        floor, top = self.height() - 20, 8
        width = self.width() / len(self._counts)
        most = max(*self._counts, 1)
        painter.setFont(font(11))
        for index, count in enumerate(self._counts):
            tall = (floor - top) * count / most
            hidden = self._edges[index + 1] <= self._limit
            bar = QRectF(index * width + 1, floor - tall, width - 3, tall)
            painter.fillRect(bar, colours.color(HAIRLINE if hidden else THIRD))
            painter.setPen(colours.color(SECOND))
            painter.drawText(
                QRectF(index * width + 2, floor + 3, width, 14),
                Qt.AlignmentFlag.AlignLeft,
                f"{self._edges[index]:.2g}" if index % 2 == 0 else "",
            )
        painter.setPen(QPen(colours.color(HAIRLINE), 1))
        painter.drawLine(QPointF(0, floor), QPointF(self.width(), floor))
        if self._edges[0] < self._limit < self._edges[-1]:
            index = max(i for i, edge in enumerate(self._edges) if edge <= self._limit)
            share = (self._limit - self._edges[index]) / (self._edges[index + 1] - self._edges[index])
            x = (index + share) * width
            painter.setPen(QPen(colours.color(TEXT), 1.6, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(x, top - 4), QPointF(x, floor))
