"""A picture of the finish on the well, whole or as much of its middle as there is room for."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from lean_sepia.arrays import Image8
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.theme import WELL, WELL_TEXT, font

_MARGIN = 6


@guarded
class FinishView(QWidget):
    """Shows pixels one to one in the middle of the well, or fitted into it."""

    resized = Signal()

    def __init__(self, height: int = 150) -> None:
        super().__init__()
        self._image: QImage | None = None
        self._fitted = False
        self.empty_words = ""
        self.setFixedHeight(height)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(240, self.height())

    @property
    def room(self) -> QSize:
        """How many pixels there are for a picture."""
        return QSize(max(16, self.width() - 2 * _MARGIN), max(16, self.height() - 2 * _MARGIN))

    def show_pixels(self, pixels: Image8 | None, spoken: str, *, fitted: bool = False) -> None:
        """Show 8-bit sRGB (height, breadth, 3); None for nothing, and then the words why."""
        self._fitted = fitted
        self.setAccessibleName(spoken)
        if pixels is None:
            self._image, self.empty_words = None, spoken
        else:
            height, breadth, _channels = pixels.shape
            kept = pixels.tobytes()
            self._image = QImage(kept, breadth, height, 3 * breadth, QImage.Format.Format_RGB888).copy()
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if event.oldSize().width() != event.size().width():
            self.resized.emit()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.palette().color(WELL))
        if self._image is None:
            painter.setPen(self.palette().color(WELL_TEXT))
            painter.setFont(font(12))
            flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(self.rect().adjusted(14, 8, -14, -8), flags, self.empty_words)
            return
        room = self.room
        size = QSize(self._image.width(), self._image.height())
        if self._fitted:
            size.scale(room, Qt.AspectRatioMode.KeepAspectRatio)
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        left, top = (self.width() - size.width()) / 2, (self.height() - size.height()) / 2
        painter.drawImage(QRectF(left, top, size.width(), size.height()), self._image)
