"""Keys that do something, as against those that move or type: they do it once for each press."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QAbstractSpinBox, QLineEdit, QPlainTextEdit

TYPED_INTO = (QLineEdit, QPlainTextEdit, QAbstractSpinBox)
"""Where a key that is held down goes on typing."""
_DOING = frozenset(
    {
        Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Delete, Qt.Key.Key_Backspace, Qt.Key.Key_Insert,
    }
)  # fmt: skip


def held_down(event: QKeyEvent) -> bool:
    """Whether a key that does something is only held: what was done by pressing it is not done again."""
    return event.isAutoRepeat() and event.key() in _DOING
