"""Offers below each other: now, target and after edge to edge, what is done in words, what it gains and costs; one of them chosen."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PySide6.QtCore import QRect, QRectF, QSize, Qt
from PySide6.QtGui import QFont, QFontMetrics, QPainter, QPaintEvent, QPen, QResizeEvent

from lean_sepia.language import _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.plots.choice_rows import ChoiceRows
from lean_sepia.ui.kit.swatch import Lab, paint_field
from lean_sepia.ui.kit.theme import ACCENT, SECOND, TEXT, WELL, WELL_TEXT, font

_FIELDS, _TALL, _PAD, _FIGURE, _GAP = 108.0, 44.0, 8.0, 40.0, 10.0
_WRAP = Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft


@dataclass(frozen=True)
class OfferRow:
    """What is done, the colours now, aimed at and after, the figure that is left, and what it gains, costs and spoils, a line each."""

    words: str
    now: Lab | None
    target: Lab | None
    after: Lab | None
    figure: str
    lines: tuple[str, ...]


@guarded
class OfferRows(ChoiceRows):
    """Draws the rows as tall as their words need; the chosen one is outlined."""

    def __init__(self) -> None:
        super().__init__()
        self._rows: tuple[OfferRow, ...] = ()
        self._tall: list[float] = []

    def show_rows(self, rows: Sequence[OfferRow], current: int = 0) -> None:
        """Show offers, one of them chosen."""
        self._rows = tuple(rows)
        self._set([", ".join((row.words, row.figure, *row.lines)) for row in rows], current)
        self._measure()

    def _width(self, beside: float) -> int:
        return int(self.width() - beside - 2 * _PAD - _GAP - 2)

    def _measure(self) -> None:
        bold, plain = QFontMetrics(font(13, True)), QFontMetrics(font(12))
        self._tall = []
        for row in self._rows:
            words = self._height(bold, row.words, self._width(_FIGURE))
            lines = sum(self._height(plain, line, self._width(_FIELDS)) + 2 for line in row.lines)
            self._tall.append(words + 4 + max(_TALL + 18, lines) + 2 * _PAD)
        self.setMinimumHeight(int(sum(self._tall)) + 4)
        self.updateGeometry()
        self.update()

    @staticmethod
    def _height(metrics: QFontMetrics, words: str, width: int) -> float:
        return float(metrics.boundingRect(QRect(0, 0, max(40, width), 10_000), int(_WRAP), words).height())

    def sizeHint(self) -> QSize:
        return QSize(340, int(sum(self._tall)) + 4)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._measure()

    def boxes(self) -> list[QRectF]:
        at, found = 1.0, []
        for tall in self._tall:
            found.append(QRectF(1, at, self.width() - 2, tall))
            at += tall
        return found

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter, colours = QPainter(self), self.palette()
        for index, (row, box) in enumerate(zip(self._rows, self.boxes(), strict=True)):
            self._draw(painter, row, box.adjusted(_PAD, _PAD, -_PAD, -_PAD))
            if index == self._current:
                painter.setPen(QPen(colours.color(ACCENT) if self.ring else colours.color(TEXT), 2))
                painter.drawRect(box.adjusted(0, 1, 0, -1))

    def _draw(self, painter: QPainter, row: OfferRow, box: QRectF) -> None:
        ink, second = self.palette().color(TEXT), self.palette().color(SECOND)
        painter.setFont(font(15, True))
        painter.setPen(ink)
        figure = QRectF(box.right() - _FIGURE, box.top() - 2, _FIGURE, 22)
        painter.drawText(figure, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, row.figure)
        at = (
            box.top()
            + self._say(
                painter, row.words, font(13, True), QRectF(box.left(), box.top(), self._width(_FIGURE), 0)
            )
            + 4
        )
        well = QRectF(box.left(), at, _FIELDS, _TALL)
        painter.fillRect(well, self.palette().color(WELL))
        inner, third = well.adjusted(6, 6, -6, -6), (_FIELDS - 12) / 3
        names = (_("now"), _("target"), _("after"))
        painter.setFont(font(11))
        painter.setPen(second)
        for number, (lab, name) in enumerate(zip((row.now, row.target, row.after), names, strict=True)):
            field = QRectF(inner.left() + number * third, inner.top(), third, inner.height())
            paint_field(painter, field, lab, self.palette().color(WELL_TEXT))
            below = QRectF(field.left() - 4, well.bottom() + 2, third + 8, 16)
            painter.drawText(below, Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop, name)
        for line in row.lines:
            at += 2 + self._say(
                painter, line, font(12), QRectF(box.left() + _FIELDS + _GAP, at, self._width(_FIELDS), 0)
            )

    def _say(self, painter: QPainter, words: str, face: QFont, box: QRectF) -> float:
        """Write words in a box as tall as they need; returns how tall that is."""
        painter.setFont(face)
        tall = self._height(QFontMetrics(face), words, int(box.width()))
        painter.drawText(QRectF(box.left(), box.top(), box.width(), tall), int(_WRAP), words)
        return tall
