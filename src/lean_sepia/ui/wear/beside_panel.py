"""The photo in even light and the plan at the model's scale, edge to edge at equal size, with how heavy it is to be."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QVBoxLayout, QWidget

from lean_sepia.arrays import Image8
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import label, row
from lean_sepia.ui.kit.theme import WELL, WELL_TEXT, font
from lean_sepia.ui.photo.screen_image import to_image
from lean_sepia.ui.wear.heaviness import Heaviness

HEIGHT = 132


@guarded
class EdgeToEdge(QWidget):
    """Two pictures of equal size without a gap between them."""

    def __init__(self) -> None:
        super().__init__()
        self._left: QImage | None = None
        self._right: QImage | None = None
        self.words = ""
        self.setFixedHeight(HEIGHT)

    def show_pair(self, left: Image8 | None, right: Image8 | None, words: str) -> None:
        """Show 8-bit sRGB (h, w, 3) beside another; None for nothing. words : read aloud, and shown where there is nothing."""
        self._left, self._right, self.words = _shown(left), _shown(right), words
        self.setAccessibleName(words)
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.palette().color(WELL))
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        half = self.width() / 2
        for image, x in ((self._left, 0.0), (self._right, half)):
            if image is not None:
                painter.drawImage(QRectF(x, 0, half, self.height()), image, QRectF(image.rect()))
        if self._left is None and self._right is None:
            painter.setPen(self.palette().color(WELL_TEXT))
            painter.setFont(font(12))
            flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(self.rect().adjusted(14, 8, -14, -8), flags, self.words)


def _shown(pixels: Image8 | None) -> QImage | None:
    return None if pixels is None else to_image(pixels)


class BesidePanel(QWidget):
    """Shows both, and says how heavy the wear is to be."""

    def __init__(self) -> None:
        super().__init__()
        self.pair = EdgeToEdge()
        self._left, self._right = label("", "second"), label("", "second")
        self.heaviness = Heaviness()
        body = QVBoxLayout(self)
        body.setContentsMargins(0, 0, 0, 0)
        body.setSpacing(4)
        body.addLayout(row(self._left, None, self._right, spacing=8))
        body.addWidget(self.pair)
        body.addWidget(self.heaviness)

    def show_captions(self, left: str, right: str) -> None:
        """Say what lies left and right."""
        self._left.setText(left)
        self._right.setText(right)
