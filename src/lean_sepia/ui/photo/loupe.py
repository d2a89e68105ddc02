"""The place under the pointer: enlarged, with its corrected colour in figures and words."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from lean_sepia.arrays import Image8
from lean_sepia.colour.words import colour_name
from lean_sepia.language import plain
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import Panel, label
from lean_sepia.ui.kit.swatch import Fields
from lean_sepia.ui.kit.theme import WELL
from lean_sepia.ui.photo.marks import draw_shape
from lean_sepia.ui.photo.screen_image import to_image

_SIDE = 76


@guarded
class _Glass(QWidget):
    """A few pixels, large, with the disc that is measured."""

    def __init__(self) -> None:
        super().__init__()
        self._image: QImage | None = None
        self._reach = 0.0
        self.setFixedSize(_SIDE, _SIDE)

    def show_pixels(self, pixels: Image8, reach: float) -> None:
        """Show a square of pixels and a disc of this radius, as a share of the half side."""
        self._image = to_image(pixels)
        self._reach = reach
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.palette().color(WELL))
        if self._image is None:
            return
        painter.drawImage(self.rect(), self._image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        draw_shape(painter, "circle", QRectF(self.rect()).center(), self._reach * _SIDE / 2)


@guarded
class Loupe(Panel):
    """Follows the pointer over a photo."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(kind="raised", margin=10)
        self.setParent(parent)
        self.setFixedSize(262, 98)
        self._glass = _Glass()
        self._field = Fields(margin=0, height=22)
        self._field.setFixedHeight(22)
        self._figures, self._name = label("", ""), label("", "second", wrap=True)
        words = QVBoxLayout()
        words.setSpacing(3)
        words.addWidget(self._field)
        words.addWidget(self._figures)
        words.addWidget(self._name)
        words.addStretch(1)
        line = QHBoxLayout()
        line.setSpacing(10)
        line.addWidget(self._glass)
        line.addLayout(words, 1)
        self.add(line)
        self.hide()

    def sizeHint(self) -> QSize:
        return QSize(262, 98)

    def show_place(self, lab: tuple[float, float, float], pixels: Image8, reach: float) -> None:
        """Show a colour and the square of pixels (n, n, 3) round it; `reach` as in a share of its half side."""
        self._glass.show_pixels(pixels, reach)
        self._field.show_labs([lab])
        figures = (f"{sign} {plain(value)}" for sign, value in zip(("L*", "a*", "b*"), lab, strict=True))
        self._figures.setText("  ".join(figures))
        self._name.setText(colour_name(lab))
        self.show()
