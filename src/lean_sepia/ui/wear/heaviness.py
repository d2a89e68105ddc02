"""How heavy the wear is to be, from clean to far too much."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QGridLayout, QLabel, QWidget

from lean_sepia.language import N_, _
from lean_sepia.ui.kit.fields.wheel import Slider
from lean_sepia.ui.kit.panel import label

_STOPS = (
    (0.0, N_("clean")),
    (0.5, N_("subtle")),
    (1.0, N_("as measured")),
    (2.0, N_("heavy")),
    (4.0, N_("far too much")),
)
_STEP, _MIDDLE = 25, 2


def heaviness_at(position: int) -> float:
    """The heaviness at a position of the slider: each stop is as far from the next."""
    return float(np.interp(position / _STEP, np.arange(len(_STOPS)), [stop for stop, _words in _STOPS]))


def position_of(heaviness: float) -> int:
    """Where on the slider a heaviness lies."""
    return round(
        float(np.interp(heaviness, [stop for stop, _words in _STOPS], np.arange(len(_STOPS)) * _STEP))
    )


class Heaviness(QWidget):
    """A slider with its stops; `moved` while it moves, `chosen` when the hand lets go."""

    moved = Signal(float)
    chosen = Signal(float)

    def __init__(self) -> None:
        super().__init__()
        self.slider = Slider()
        self.slider.setRange(0, _STEP * (len(_STOPS) - 1))
        self.slider.setPageStep(_STEP)
        self.slider.setAccessibleName(_("How heavy"))
        self.slider.valueChanged.connect(lambda position: self.moved.emit(heaviness_at(position)))
        self.slider.valueChanged.connect(self._let_go)
        self.slider.sliderReleased.connect(lambda: self.chosen.emit(heaviness_at(self.slider.value())))
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setVerticalSpacing(2)
        columns = 2 * (len(_STOPS) - 1)
        grid.addWidget(self.slider, 0, 0, 1, columns)
        self._words: list[QLabel] = []
        for number, (_stop, words) in enumerate(_STOPS):  # each stands under its stop on the slider
            first, last = max(0, 2 * number - 1), min(columns - 1, 2 * number)
            align = Qt.AlignmentFlag.AlignHCenter
            if number in (0, len(_STOPS) - 1):
                align = Qt.AlignmentFlag.AlignRight if number else Qt.AlignmentFlag.AlignLeft
            self._words.append(label(_(words), "second"))
            grid.addWidget(self._words[-1], 1, first, 1, last - first + 1, align)
        for column in range(columns):
            grid.setColumnStretch(column, 1)
            grid.setColumnMinimumWidth(column, 1)

    def _let_go(self) -> None:
        if not self.slider.isSliderDown():  # moved by a key or the wheel
            self.chosen.emit(heaviness_at(self.slider.value()))

    def show_heaviness(self, heaviness: float, *, measured: bool) -> None:
        """Put the slider where the plan is, whose middle is what was measured or what was chosen; nobody is told."""
        blocked = self.slider.blockSignals(True)
        self.slider.setValue(position_of(heaviness))
        self.slider.blockSignals(blocked)
        self._words[_MIDDLE].setText(_(_STOPS[_MIDDLE][1]) if measured else _("as chosen"))
