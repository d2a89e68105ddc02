"""A way of colours as tall fields side by side, each with its caption, one of them outlined under a stop mark."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.swatch import Lab, lab_words, paint_field
from lean_sepia.ui.kit.theme import WELL, WELL_TEXT, font

_MARGIN, _MARK, _CAPTION, _GAP = 12.0, 13.0, 24.0, 14.0


@dataclass(frozen=True)
class Stop:
    """One field: its colour, the words below it, and whether it is broader, as what is aimed at, and apart from those before it."""

    lab: Lab | None
    caption: str
    apart: bool = False
    gap: bool = False


@guarded
class PathStrip(QWidget):
    """Draws fields edge to edge; the stop mark is a triangle above the field at which to stop, and its outline."""

    def __init__(self) -> None:
        super().__init__()
        self._stops: tuple[Stop, ...] = ()
        self._marked: int | None = None
        self.empty_words = ""
        self.setMinimumHeight(112)

    def sizeHint(self) -> QSize:
        return QSize(600, 184)

    def show_stops(self, stops: Sequence[Stop], marked: int | None = None) -> None:
        """Show these fields from left to right; `marked` is where to stop."""
        self._stops, self._marked = tuple(stops), marked
        self.setAccessibleName("; ".join(stop.caption for stop in stops) or self.empty_words)
        hint(self, "\n".join(f"{stop.caption}: {lab_words(stop.lab)}" for stop in stops if stop.lab))
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.palette().color(WELL))
        ink = self.palette().color(WELL_TEXT)
        painter.setPen(ink)
        if not self._stops:
            painter.setFont(font(15))
            flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(self.rect().adjusted(40, 12, -40, -12), flags, self.empty_words)
            return
        inner = QRectF(self.rect()).adjusted(_MARGIN, _MARK + 2, -_MARGIN, -_CAPTION - 4)
        weights = [1.4 if stop.apart else 1.0 for stop in self._stops]
        unit = (inner.width() - _GAP * sum(stop.gap for stop in self._stops)) / sum(weights)
        spans, at = [], inner.left()
        for stop, weight in zip(self._stops, weights, strict=True):
            at += _GAP if stop.gap else 0
            spans.append((at, at + weight * unit))
            at += weight * unit
        painter.setFont(font(12))
        for index, stop in enumerate(self._stops):
            left, right = round(spans[index][0]), round(spans[index][1])
            paint_field(painter, QRectF(left, inner.top(), right - left, inner.height()), stop.lab, ink)
            painter.setPen(ink)
            words = painter.fontMetrics().elidedText(
                stop.caption, Qt.TextElideMode.ElideRight, right - left - 6
            )
            painter.drawText(
                QRectF(left + 3, inner.bottom() + 4, right - left - 4, _CAPTION - 4),
                Qt.AlignmentFlag.AlignVCenter,
                words,
            )
        if self._marked is not None and self._marked < len(self._stops):
            start, end = spans[self._marked]
            box = QRectF(start, inner.top(), end - start, inner.height())
            painter.setPen(QPen(ink, 2))
            painter.drawRect(box.adjusted(0, -1, 0, 1))
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setBrush(ink)
            x, y = box.center().x(), box.top() - 2
            painter.drawPolygon(QPolygonF([QPointF(x - 6, y - 9), QPointF(x + 6, y - 9), QPointF(x, y)]))
