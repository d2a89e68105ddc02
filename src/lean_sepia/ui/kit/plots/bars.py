"""Bars: mark sizes with the line below which the eye sees nothing, and how much is worn at which height."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.swatch import Lab, qcolor
from lean_sepia.ui.kit.theme import HAIRLINE, SECOND, TEXT, THIRD, WELL, font

_BAR, _FIGURE = 14, 38


@guarded
class SizeBars(QWidget):
    """Counts by size on a doubling scale, in millimetres."""

    def __init__(self) -> None:
        super().__init__()
        self._edges: tuple[float, ...] = ()
        self._counts: tuple[int, ...] = ()
        self._limit = 0.0
        self.setMinimumHeight(80)

    def sizeHint(self) -> QSize:
        return QSize(260, 88)

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


@guarded
class HeightBars(QWidget):
    """One bar for each fifth from above, made up of kinds in their colours on the well, with its sum in per cent."""

    def __init__(self) -> None:
        super().__init__()
        self._kinds: tuple[tuple[Lab, tuple[float, ...]], ...] = ()
        self.setFixedHeight(5 * _BAR)

    def sizeHint(self) -> QSize:
        return QSize(240, 5 * _BAR)

    def show_heights(self, kinds: Sequence[tuple[Lab, tuple[float, ...]]]) -> None:
        """Show for each kind its colour and the share of each fifth, from above."""
        self._kinds = tuple(kinds)
        self.setAccessibleName(", ".join(f"{100 * share:.1f} %" for share in self._sums()))
        self.update()

    def _sums(self) -> list[float]:
        return [sum(shares) for shares in zip(*(heights for _lab, heights in self._kinds), strict=True)]

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter, colours = QPainter(self), self.palette()
        sums = self._sums()
        most, room = max(*sums, 1e-6) if sums else 1.0, self.width() - _FIGURE
        painter.setFont(font(11))
        for number, whole in enumerate(sums):
            top, x = number * _BAR, 0.0
            painter.fillRect(QRectF(0, top, room, _BAR - 3), colours.color(WELL))
            for lab, heights in self._kinds:
                wide = room * heights[number] / most
                painter.fillRect(QRectF(x, top, wide, _BAR - 3), qcolor(lab)[0])
                x += wide
            painter.setPen(colours.color(SECOND))
            flags = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(QRectF(room, top, _FIGURE, _BAR - 3), flags, f"{100 * whole:.1f}")
