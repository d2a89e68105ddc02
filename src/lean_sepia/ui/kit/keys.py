"""Keys that do something, as against those that move or type: they do it once for each press."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QAbstractSpinBox, QLineEdit, QPlainTextEdit, QScrollArea, QWidget

TYPED_INTO = (QLineEdit, QPlainTextEdit, QAbstractSpinBox)
"""Where a key that is held down goes on typing."""
_ROUND = 4  # px that are seen round a control
_DOING = frozenset(
    {
        Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Delete, Qt.Key.Key_Backspace, Qt.Key.Key_Insert,
    }
)  # fmt: skip


def bring_into_sight(now: QWidget | None) -> None:
    """Scroll to the control the keyboard has come to, in every area it stands in; Qt does so only within the area it comes from."""
    parent = now.parentWidget() if now is not None else None
    while now is not None and parent is not None and not parent.isWindow():
        if isinstance(parent, QScrollArea) and now.height() < parent.viewport().height():
            parent.ensureWidgetVisible(
                now, _ROUND, _ROUND
            )  # what is larger scrolls to the row in it by itself
        parent = parent.parentWidget()


def held_down(event: QKeyEvent) -> bool:
    """Whether a key that does something is only held: what was done by pressing it is not done again."""
    return event.isAutoRepeat() and event.key() in _DOING
