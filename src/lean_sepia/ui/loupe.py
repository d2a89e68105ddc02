"""The colour under the pointer, corrected, in figures and words."""

from __future__ import annotations

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from lean_sepia.colour.words import colour_name
from lean_sepia.ui.panel import Panel, label
from lean_sepia.ui.swatch import Fields


class Loupe(Panel):
    """The colour under the pointer, corrected, in figures and words."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(kind="raised", margin=10)
        self.setParent(parent)
        self.setFixedSize(214, 74)
        self._field = Fields(margin=0, height=44)
        self._field.setFixedSize(46, 50)
        self._figures, self._name = label("", ""), label("", "second", wrap=True)
        words = QVBoxLayout()
        words.setSpacing(1)
        words.addWidget(self._figures)
        words.addWidget(self._name)
        words.addStretch(1)
        line = QHBoxLayout()
        line.setSpacing(10)
        line.addWidget(self._field)
        line.addLayout(words, 1)
        self.add(line)
        self.hide()

    def sizeHint(self) -> QSize:
        return QSize(214, 74)

    def show_lab(self, lab: tuple[float, float, float]) -> None:
        """Show a colour."""
        self._field.show_labs([lab])
        self._figures.setText(f"{lab[0]:.0f}  {lab[1]:+.0f}  {lab[2]:+.0f}".replace("-", "−"))
        self._name.setText(colour_name(lab))
        self.show()
