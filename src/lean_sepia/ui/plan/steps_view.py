"""What the sheets and the lanes share: one step is chosen, walked to, opened and moved."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QWidget

from lean_sepia.answers.working.evening_sheets import SheetStep
from lean_sepia.language import clock, weekday_and_time
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing

_MOVES = {Qt.Key.Key_Up: -1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: 1, Qt.Key.Key_Right: 1}


@guarded
class StepsView(KeyboardRing, QWidget):
    """Arrows walk through the steps in the order of the plan, with Ctrl they move the chosen one, Enter opens it."""

    chosen = Signal(str)
    opened = Signal(str)
    move_wanted = Signal(int)

    def __init__(self, name: str) -> None:
        super().__init__()
        self._current = ""
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(name)

    @property
    def steps(self) -> Sequence[SheetStep]:
        """All steps that are shown, in the order of the plan."""
        raise NotImplementedError

    def _describe(self) -> None:
        step = next((step for step in self.steps if step.id == self._current), None)
        if step:
            self.setAccessibleDescription(
                f"{step.number} {step.title}, {weekday_and_time(step.start)}–{clock(step.end)}"
            )

    def _choose(self, name: str) -> None:
        self._current = name
        self._describe()
        self.update()
        self.chosen.emit(name)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ids = [step.id for step in self.steps]
        if self._current not in ids:
            super().keyPressEvent(event)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.opened.emit(self._current)
        elif event.key() not in _MOVES:
            super().keyPressEvent(event)
        elif event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.move_wanted.emit(_MOVES[Qt.Key(event.key())])
        else:
            self.ring = True
            index = ids.index(self._current) + _MOVES[Qt.Key(event.key())]
            if 0 <= index < len(ids):
                self._choose(ids[index])
