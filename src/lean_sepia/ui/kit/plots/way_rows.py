"""Ways to a colour as low rows on the panel: a name, its parts, a small ramp, and a verdict in words; one of them chosen."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen

from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.plain import fitting
from lean_sepia.ui.kit.plots.choice_rows import ChoiceRows
from lean_sepia.ui.kit.swatch import Lab, paint_field
from lean_sepia.ui.kit.theme import ACCENT, HAIRLINE, SECOND, TEXT, WELL, font

_TALL, _PARTS, _RAMP, _FIGURE = 30.0, 78.0, 128.0, 40.0


@dataclass(frozen=True)
class WayRow:
    """A name, parts, the colours along the way, how far off it ends, and what is to be said of it."""

    name: str
    parts: str
    labs: tuple[Lab | None, ...]
    figure: str
    words: str


@guarded
class WayRows(ChoiceRows):
    """Draws the rows with hairlines between them; the chosen one is outlined."""

    def __init__(self) -> None:
        super().__init__()
        self._rows: tuple[WayRow, ...] = ()
        self.empty_words = ""
        self.setMinimumHeight(int(2 * _TALL))

    def sizeHint(self) -> QSize:
        return QSize(600, int(_TALL * max(2, len(self._rows))) + 2)

    def show_rows(self, rows: Sequence[WayRow], current: int = 0) -> None:
        """Show ways, one of them chosen."""
        self._rows = tuple(rows)
        self._set([f"{row.name}, {row.parts}, {row.figure}, {row.words}" for row in rows], current)
        self.setMinimumHeight(int(_TALL * max(2, len(rows))) + 2)
        self.updateGeometry()

    def boxes(self) -> list[QRectF]:
        return [QRectF(1, 1 + _TALL * index, self.width() - 2, _TALL) for index in range(len(self._rows))]

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        colours = self.palette()
        painter.setPen(colours.color(SECOND))
        if not self._rows:
            painter.setFont(font(13))
            flags = Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(self.rect().adjusted(0, 0, -8, 0), flags, self.empty_words)
            return
        widest = max(QFontMetrics(font(13, True)).horizontalAdvance(row.name) for row in self._rows)
        names = min(self.width() * 0.34, widest + 20)
        for index, (row, box) in enumerate(zip(self._rows, self.boxes(), strict=True)):
            self._draw(painter, row, box, names)
            painter.setPen(QPen(colours.color(HAIRLINE), 1))
            painter.drawLine(box.bottomLeft(), box.bottomRight())
            if index == self._current:
                painter.setPen(QPen(colours.color(ACCENT) if self.ring else colours.color(TEXT), 2))
                painter.drawRect(box.adjusted(0, 1, 0, -1))

    def _draw(self, painter: QPainter, row: WayRow, box: QRectF, names: float) -> None:
        ink, second = self.palette().color(TEXT), self.palette().color(SECOND)
        bold, plain, elide = font(13, True), font(12), Qt.TextElideMode.ElideRight
        left = box.left() + 8
        painter.setPen(ink)
        painter.setFont(bold)
        name = painter.fontMetrics().elidedText(row.name, elide, int(names - 14))
        self._text(painter, QRectF(left, box.top(), names, _TALL), name)
        at = left + names + _PARTS
        painter.drawText(
            QRectF(at + _RAMP, box.top(), _FIGURE, _TALL),
            Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            row.figure,
        )
        painter.setFont(plain)
        painter.setPen(second)
        self._text(painter, QRectF(left + names, box.top(), _PARTS, _TALL), row.parts)
        rest = QRectF(at + _RAMP + _FIGURE + 12, box.top(), 0, _TALL)
        rest.setRight(box.right() - 6)
        self._text(painter, rest, fitting(painter.fontMetrics(), row.words, rest.width()))
        well = QRectF(at, box.top() + 4, _RAMP, _TALL - 8)
        painter.fillRect(well, self.palette().color(WELL))
        width = (_RAMP - 4) / max(1, len(row.labs))
        edges = [round(at + 2 + i * width) for i in range(len(row.labs) + 1)]
        for i, lab in enumerate(row.labs):
            paint_field(
                painter,
                QRectF(edges[i], well.top() + 2, edges[i + 1] - edges[i], well.height() - 4),
                lab,
                ink,
            )

    @staticmethod
    def _text(painter: QPainter, box: QRectF, words: str) -> None:
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, words)
