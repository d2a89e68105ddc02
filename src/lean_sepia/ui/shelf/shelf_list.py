"""Bottles as the shelf shows them: one coat over white and black, the masstone, and how well each is known."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from lean_sepia.arrays import triple
from lean_sepia.colour.words import colour_name
from lean_sepia.language import N_, _
from lean_sepia.paint.film import BLACK_GROUND, WHITE_GROUND
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import Knowledge, Paint
from lean_sepia.paint.saunderson import into_paint
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing
from lean_sepia.ui.kit.plain import fitting
from lean_sepia.ui.kit.swatch import Lab, bottle_lab, paint_field
from lean_sepia.ui.kit.theme import ACCENT, HAIRLINE, PANEL, SECOND, TEXT, WELL, font

_TALL = 50
KNOWN = {
    Knowledge.ONE_CONSTANT: N_("from one colour"),
    Knowledge.TWO_CONSTANT: N_("from two colours"),
    Knowledge.SPECTRAL: N_("from spectra"),
}

Films = tuple[Lab, Lab, Lab | None]


def film_labs(paint: Paint) -> Films:
    """One coat over white, one over black, and the masstone, which a clear medium has not."""
    seen = [Laying(into_paint(ground)).lab(paint) for ground in (WHITE_GROUND, BLACK_GROUND)]
    return triple(seen[0]), triple(seen[1]), bottle_lab(paint)


@guarded
class ShelfList(KeyboardRing, QWidget):
    """Bottles in two columns; arrows and clicks choose."""

    chosen = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self._paints: tuple[Paint, ...] = ()
        self._labs: dict[str, Films] = {}
        self.current = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(_("Paints on the shelf"))

    def show_paints(self, paints: Sequence[Paint]) -> None:
        """Show these bottles in this order."""
        self._paints = tuple(paints)
        for paint in paints:
            if paint.id not in self._labs:
                self._labs[paint.id] = film_labs(paint)
        self.current = min(self.current, max(0, len(paints) - 1))
        self.setFixedHeight(max(1, (len(paints) + 1) // 2) * _TALL)
        self._describe()
        self.update()

    def forget(self) -> None:
        """Paints were changed: their films are computed anew."""
        self._labs.clear()

    def _describe(self) -> None:
        if self._paints:
            paint = self._paints[self.current]
            mass = self._labs[paint.id][2]
            colour = colour_name(mass) if mass else _("clear")
            self.setAccessibleDescription(f"{paint.name}, {colour}, {_(KNOWN[paint.knowledge])}")

    def _box(self, index: int) -> QRectF:
        width = self.width() / 2
        return QRectF(width * (index % 2), _TALL * (index // 2), width, _TALL)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        index = int(event.position().y() // _TALL) * 2 + int(event.position().x() >= self.width() / 2)
        self._choose(index)

    def _choose(self, index: int) -> None:
        if 0 <= index < len(self._paints):
            self.current = index
            self._describe()
            self.update()
            self.chosen.emit(index)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        moves = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Up: -2, Qt.Key.Key_Down: 2}
        if event.key() in moves:
            self._choose(self.current + moves[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        colours = self.palette()
        painter.fillRect(self.rect(), colours.color(PANEL))
        for index, paint in enumerate(self._paints):
            box = self._box(index)
            if not box.intersects(QRectF(event.rect())):
                continue
            white, black, mass = self._labs[paint.id]
            painter.setFont(font(12))
            painter.setPen(colours.color(SECOND))
            painter.drawText(
                QRectF(box.left(), box.top(), 28, _TALL),
                Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
                str(index + 1),
            )
            well = QRectF(box.left() + 42, box.top() + 7, 92, 36)
            painter.fillRect(well, colours.color(WELL))
            paint_field(painter, QRectF(well.left() + 4, well.top() + 4, 42, 28), white, colours.color(TEXT))
            paint_field(painter, QRectF(well.left() + 46, well.top() + 4, 42, 28), black, colours.color(TEXT))
            masstone = QRectF(well.right() + 8, well.top(), 36, 36)
            painter.fillRect(masstone, colours.color(WELL))
            paint_field(painter, masstone.adjusted(4, 4, -4, -4), mass, colours.color(TEXT))
            left = masstone.right() + 12
            painter.setFont(font(13, True))
            painter.setPen(colours.color(TEXT))
            painter.drawText(
                QRectF(left, box.top() + 7, box.right() - left - 6, 18),
                Qt.AlignmentFlag.AlignVCenter,
                fitting(painter.fontMetrics(), paint.name, box.right() - left - 8),
            )
            painter.setFont(font(12))
            painter.setPen(colours.color(SECOND))
            words = f"{_(MEDIA[paint.medium].words)} · {_(KNOWN[paint.knowledge])}"
            painter.drawText(QRectF(left, box.top() + 25, box.right() - left - 6, 18), Qt.AlignmentFlag.AlignVCenter,
                             fitting(painter.fontMetrics(), words, box.right() - left - 8))  # fmt: skip
            painter.setPen(QPen(colours.color(HAIRLINE), 1))
            painter.drawLine(box.bottomLeft(), box.bottomRight())
            if index == self.current:
                painter.setPen(QPen(colours.color(ACCENT if self.ring else TEXT), 2))
                painter.drawRect(box.adjusted(1, 1, -1, -1))

    def sizeHint(self) -> QSize:
        return QSize(780, max(1, (len(self._paints) + 1) // 2) * _TALL)
