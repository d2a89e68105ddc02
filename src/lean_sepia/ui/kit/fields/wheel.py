"""The wheel changes only what has the focus; over everything else the column scrolls on."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, QTime
from PySide6.QtGui import QKeyEvent, QWheelEvent
from PySide6.QtWidgets import QSlider, QTimeEdit

from lean_sepia.ui.kit.faults import guarded

if TYPE_CHECKING:
    from PySide6.QtWidgets import QWidget as _Control
else:
    _Control = object  # a control has one widget among its bases: its own


class WheelNeedsFocus(_Control):
    """Stands before the control it is for; over one without the focus the wheel is for what scrolls."""

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Change the value where the control has the focus, else leave the wheel to what it stands in."""
        if self.hasFocus():
            super().wheelEvent(event)
        else:
            event.ignore()


@guarded
class Slider(WheelNeedsFocus, QSlider):
    """A slider in a column that may scroll; the wheel alone never gives it the focus."""

    def __init__(self) -> None:
        super().__init__(Qt.Orientation.Horizontal)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)


@guarded
class TimeBox(WheelNeedsFocus, QTimeEdit):
    """A time of the day in a column that may scroll."""

    def __init__(self, time: QTime) -> None:
        super().__init__(time)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """What is typed over all of it begins with the hour, whichever part was changed before."""
        if event.text().isdigit() and self.lineEdit().selectedText() == self.text():
            self.setSelectedSection(QTimeEdit.Section.HourSection)
        super().keyPressEvent(event)
