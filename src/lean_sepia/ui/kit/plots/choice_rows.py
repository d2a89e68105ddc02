"""What painted lists have in common: rows of which one is chosen, by a click or the arrow keys."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QWidget

from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing


@guarded
class ChoiceRows(KeyboardRing, QWidget):
    """Rows that know which of them is chosen; how they look is for those that draw them."""

    chosen = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self._current = 0
        self._spoken: tuple[str, ...] = ()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    @property
    def current(self) -> int:
        """Index of the chosen row."""
        return self._current

    def _set(self, spoken: Sequence[str], current: int) -> None:
        """Have as many rows as there are words for them."""
        self._spoken = tuple(spoken)
        self._current = min(current, max(0, len(self._spoken) - 1))
        self._describe()
        self.update()

    def _describe(self) -> None:
        if self._spoken:
            self.setAccessibleName(self._spoken[self._current])

    def boxes(self) -> list[QRectF]:
        """Where each row lies."""
        raise NotImplementedError

    def _choose(self, index: int) -> None:
        if 0 <= index < len(self._spoken) and index != self._current:
            self._current = index
            self._describe()
            self.update()
            self.chosen.emit(index)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for index, box in enumerate(self.boxes()):
            if box.contains(event.position()):
                self._choose(index)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        moves = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
        if event.key() in moves:
            self._choose(self._current + moves[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)
