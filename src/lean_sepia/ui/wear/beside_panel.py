"""The photo in even light and the plan at the model's scale, edge to edge at equal size, with how heavy it is to be."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QGridLayout, QSlider, QWidget

from lean_sepia.arrays import Image8
from lean_sepia.language import N_, _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import button, label, row
from lean_sepia.ui.kit.theme import WELL, WELL_TEXT, font

_STOPS = (
    (0.0, N_("clean")),
    (0.5, N_("subtle")),
    (1.0, N_("as measured")),
    (2.0, N_("heavy")),
    (4.0, N_("far too much")),
)
_STEP = 25
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
        self._left, self._right, self.words = _image(left), _image(right), words
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


def _image(pixels: Image8 | None) -> QImage | None:
    if pixels is None:
        return None
    whole = np.ascontiguousarray(pixels)
    height, width, _channels = whole.shape
    return QImage(whole.tobytes(), width, height, 3 * width, QImage.Format.Format_RGB888).copy()


def heaviness_at(position: int) -> float:
    """The heaviness at a position of the slider: each stop is as far from the next."""
    stop, part = divmod(position / _STEP, 1)
    low, high = _STOPS[min(int(stop), len(_STOPS) - 1)][0], _STOPS[min(int(stop) + 1, len(_STOPS) - 1)][0]
    return low + part * (high - low)


def position_of(heaviness: float) -> int:
    """Where on the slider a heaviness lies."""
    return round(
        float(np.interp(heaviness, [stop for stop, _words in _STOPS], np.arange(len(_STOPS)) * _STEP))
    )


class BesidePanel(QWidget):
    """Says how heavy the wear is to be; `chosen` when the hand lets go."""

    moved = Signal(float)
    chosen = Signal(float)
    chart_wanted = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.pair = EdgeToEdge()
        self._left, self._right = label("", "second"), label("", "second")
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, _STEP * (len(_STOPS) - 1))
        self.slider.setPageStep(_STEP)
        self.slider.setAccessibleName(_("How heavy"))
        self.slider.valueChanged.connect(lambda position: self.moved.emit(heaviness_at(position)))
        self.slider.valueChanged.connect(self._let_go)
        self.slider.sliderReleased.connect(lambda: self.chosen.emit(heaviness_at(self.slider.value())))
        self.chart = button(
            _("Stop marks…"),
            "tool",
            _("This zone's own marks at 0.5 to 20 %, on paper at true size, to hold beside the model"),
        )
        self.chart.clicked.connect(self.chart_wanted)
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setVerticalSpacing(4)
        columns = 2 * (len(_STOPS) - 1)
        grid.addLayout(row(self._left, None, self._right, spacing=8), 0, 0, 1, columns)
        grid.addWidget(self.pair, 1, 0, 1, columns)
        grid.addWidget(self.slider, 2, 0, 1, columns)
        for number, (_stop, words) in enumerate(_STOPS):  # each stands under its stop on the slider
            first, last = max(0, 2 * number - 1), min(columns - 1, 2 * number)
            align = Qt.AlignmentFlag.AlignHCenter
            if number in (0, len(_STOPS) - 1):
                align = Qt.AlignmentFlag.AlignRight if number else Qt.AlignmentFlag.AlignLeft
            grid.addWidget(label(_(words), "second"), 3, first, 1, last - first + 1, align)
        for column in range(columns):
            grid.setColumnStretch(column, 1)
            grid.setColumnMinimumWidth(column, 1)
        grid.addLayout(row(None, self.chart), 4, 0, 1, columns)

    def _let_go(self) -> None:
        if not self.slider.isSliderDown():  # moved by a key or the wheel
            self.chosen.emit(heaviness_at(self.slider.value()))

    def show_heaviness(self, heaviness: float) -> None:
        """Put the slider where the plan is; nobody is told."""
        blocked = self.slider.blockSignals(True)
        self.slider.setValue(position_of(heaviness))
        self.slider.blockSignals(blocked)

    def show_captions(self, left: str, right: str) -> None:
        """Say what lies left and right."""
        self._left.setText(left)
        self._right.setText(right)
