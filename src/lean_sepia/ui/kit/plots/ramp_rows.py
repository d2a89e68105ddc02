"""Rows of colours on the well, one of them chosen: lighteners in Tone, filters in Glaze."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen

from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.plots.choice_rows import ChoiceRows
from lean_sepia.ui.kit.swatch import Lab, paint_field
from lean_sepia.ui.kit.theme import ACCENT, WELL, WELL_TEXT, font

_GAP = 10


@dataclass(frozen=True)
class RampRow:
    """A name with a second line, groups of touching colours, a figure and what it means."""

    name: str
    detail: str
    groups: tuple[tuple[Lab | None, ...], ...]
    figure: str
    words: str = ""


@guarded
class RampRows(ChoiceRows):
    """Draws rows; arrow keys and clicks choose."""

    def __init__(self) -> None:
        super().__init__()
        self._rows: tuple[RampRow, ...] = ()
        self._heads: tuple[str, ...] = ()
        self.empty_words = ""
        self.foot = ""
        self.setMinimumHeight(180)

    def sizeHint(self) -> QSize:
        return QSize(600, 360)

    def show_rows(self, rows: Sequence[RampRow], heads: Sequence[str], current: int = 0) -> None:
        """Show rows under column heads."""
        self._rows, self._heads = tuple(rows), tuple(heads)
        self._set([f"{row.name}, {row.detail}, {row.figure} {row.words}" for row in rows], current)

    def _widths(self) -> tuple[float, float]:
        """Widths of the names at the left and of the figures at the right, as wide as their words."""
        bold, plain = QFontMetrics(font(13, True)), QFontMetrics(font(12))
        names = max(
            max(bold.horizontalAdvance(row.name), plain.horizontalAdvance(row.detail)) for row in self._rows
        )
        ends = [plain.horizontalAdvance(row.words) for row in self._rows]
        ends += [plain.horizontalAdvance(head) for head in self._heads[len(self._rows[0].groups) :]]
        return min(190.0, names + 18.0), max(ends) + 18.0

    def boxes(self) -> list[QRectF]:
        top, bottom = 34.0, 26.0 if self.foot else 10.0
        room = self.height() - top - bottom
        tall = min(104.0, room / max(1, len(self._rows)))
        return [
            QRectF(18, top + tall * index, self.width() - 36, tall - _GAP) for index in range(len(self._rows))
        ]

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        colours = self.palette()
        painter.fillRect(self.rect(), colours.color(WELL))
        ink = colours.color(WELL_TEXT)
        painter.setPen(ink)
        if not self._rows:
            painter.setFont(font(15))
            painter.drawText(
                self.rect().adjusted(40, 20, -40, -20),
                Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap,
                self.empty_words,
            )
            return
        boxes = self.boxes()
        names, ends = self._widths()
        left, right = boxes[0].left() + names, boxes[0].right() - ends
        count = len(self._rows[0].groups)
        gap = 12.0 if count > 1 else 0.0
        width = (right - left - gap * (count - 1)) / count
        painter.setFont(font(12, True))
        aligned = Qt.AlignmentFlag.AlignVCenter
        for index, head in enumerate(self._heads[:count]):
            painter.drawText(QRectF(left + index * (width + gap), 8, width, 20), aligned, head)
        painter.setFont(font(12))
        if len(self._heads) > count:
            painter.drawText(
                QRectF(right, 8, ends, 20), aligned | Qt.AlignmentFlag.AlignRight, self._heads[count]
            )
        for index, (row, box) in enumerate(zip(self._rows, boxes, strict=True)):
            self._row(painter, row, box, left, right, width, gap)
            if index == self._current:
                accent = self.ring
                painter.setPen(QPen(colours.color(ACCENT) if accent else ink, 2))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(QRectF(left - 5, box.top() - 4, right - left + 10, box.height() + 8))
                painter.setPen(ink)
        if self.foot:
            painter.setFont(font(12))
            painter.drawText(QRectF(18, boxes[-1].bottom() + 8, self.width() - 36, 18), aligned, self.foot)

    def _row(
        self,
        painter: QPainter,
        row: RampRow,
        box: QRectF,
        left: float,
        right: float,
        width: float,
        gap: float,
    ) -> None:
        ink = self.palette().color(WELL_TEXT)
        middle = box.center().y()
        names, ends = left - box.left(), box.right() - right
        painter.setPen(ink)
        painter.setFont(font(13, True))
        painter.drawText(QRectF(box.left(), middle - 18, names - 8, 18), Qt.AlignmentFlag.AlignVCenter,
                         painter.fontMetrics().elidedText(row.name, Qt.TextElideMode.ElideRight, int(names - 10)))  # fmt: skip
        painter.drawText(
            QRectF(right, middle - 18, ends, 18),
            Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            row.figure,
        )
        painter.setFont(font(12))
        painter.drawText(QRectF(box.left(), middle, names - 8, 18), Qt.AlignmentFlag.AlignVCenter, row.detail)
        painter.drawText(
            QRectF(right + 10, middle, ends - 10, 18),
            Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            row.words,
        )
        for index, group in enumerate(row.groups):
            start = left + index * (width + gap)
            edges = [round(start + width * i / len(group)) for i in range(len(group) + 1)]
            for i, lab in enumerate(group):
                paint_field(
                    painter, QRectF(edges[i], box.top(), edges[i + 1] - edges[i], box.height()), lab, ink
                )
