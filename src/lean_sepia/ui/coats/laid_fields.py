"""What lies there now and what will lie there, edge to edge on the well, with the target set into the second."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from lean_sepia.colour.words import colour_name
from lean_sepia.language import _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.swatch import Lab, lab_words, paint_field
from lean_sepia.ui.kit.theme import WELL, WELL_TEXT, font

_MARGIN, _WORDS = 12, 18


@guarded
class LaidFields(QWidget):
    """Two fields, and a third set into the corner of the second."""

    def __init__(self) -> None:
        super().__init__()
        self._now: Lab | None = None
        self._then: Lab | None = None
        self._target: Lab | None = None
        self._words = (_("now"), _("with this coat"), _("target"))
        self.setFixedHeight(128)

    def sizeHint(self) -> QSize:
        return QSize(340, 128)

    def show_laid(
        self, now: Lab | None, then: Lab | None, target: Lab | None, words: tuple[str, str, str]
    ) -> None:
        """Show the colours and what each is called."""
        self._now, self._then, self._target, self._words = now, then, target, words
        shown = [
            _("{0}: {1}").format(word, colour_name(lab) if lab else _("not known"))
            for word, lab in zip(words, (now, then, target), strict=True)
            if lab or word != words[2]
        ]
        self.setAccessibleName(", ".join(shown))
        hint(self, "\n".join(lab_words(lab) for lab in (now, then, target) if lab))
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.palette().color(WELL))
        ink = self.palette().color(WELL_TEXT)
        inner = QRectF(self.rect()).adjusted(_MARGIN, _MARGIN + _WORDS - 4, -_MARGIN, -_MARGIN)
        middle = round(inner.center().x())
        left = QRectF(inner.left(), inner.top(), middle - inner.left(), inner.height())
        right = QRectF(middle, inner.top(), inner.right() - middle, inner.height())
        paint_field(painter, left, self._now, ink)
        paint_field(painter, right, self._then, ink)
        painter.setFont(font(12))
        painter.setPen(ink)
        above = QRectF(inner.left(), 2, inner.width(), _WORDS + 4)
        upright = Qt.AlignmentFlag.AlignVCenter
        painter.drawText(above, upright | Qt.AlignmentFlag.AlignLeft, self._words[0])
        painter.drawText(
            above.adjusted(middle - inner.left(), 0, 0, 0),
            upright | Qt.AlignmentFlag.AlignLeft,
            self._words[1],
        )
        if self._target is not None:
            painter.drawText(above, upright | Qt.AlignmentFlag.AlignRight, self._words[2])
            set_in = QRectF(right.right() - 52, right.top(), 52, right.height() * 0.55)
            paint_field(painter, set_in, self._target, ink)
