"""Keys that do something, as against those that move or type: they do it once for each press."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QLineEdit,
    QPlainTextEdit,
    QScrollArea,
    QWidget,
)

TYPED_INTO = (QLineEdit, QPlainTextEdit, QAbstractSpinBox)
"""Where a key that is held down goes on typing."""
_ROUND = 4  # px that are seen round a control
_OF_ONE_PIECE = (QAbstractSpinBox, QComboBox, QLineEdit, QPlainTextEdit, QAbstractButton)
_DOING = frozenset(
    {
        Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Delete, Qt.Key.Key_Backspace, Qt.Key.Key_Insert,
    }
)  # fmt: skip


def bring_into_sight(now: QWidget | None) -> None:
    """Scroll to the control the keyboard has come to, in every area it stands in; Qt does so only within the area it comes from.

    What is larger than its area scrolls to the row in it by itself.
    """
    parent = now.parentWidget() if now is not None else None
    while now is not None and parent is not None and not parent.isWindow():
        if isinstance(parent, QScrollArea) and now.height() < parent.viewport().height():
            parent.ensureWidgetVisible(now, _ROUND, _ROUND)
        parent = parent.parentWidget()


def reading_order(top: QWidget) -> list[QWidget]:
    """What takes the Tab key in a widget, line by line as one reads it: the order in which things were made says nothing."""
    found: list[QWidget] = []
    for widget in _line_by_line(top):
        if widget.focusPolicy() & Qt.FocusPolicy.TabFocus and widget.isEnabled():
            found.append(widget)
        if not isinstance(widget, _OF_ONE_PIECE):
            found += reading_order(widget)
    return found


def _line_by_line(top: QWidget) -> list[QWidget]:
    """The children that are shown, from the top down; those beside each other from the left."""
    shown = [
        one for one in top.children() if isinstance(one, QWidget) and one.isVisible() and not one.isWindow()
    ]
    lines: list[list[QWidget]] = []
    for widget in sorted(shown, key=lambda one: one.y()):
        above = lines[-1][0].geometry() if lines else None
        box = widget.geometry()
        if above is None or above.bottom() - box.top() < min(above.height(), box.height()) / 2:
            lines.append([])
        lines[-1].append(widget)
    return [widget for line in lines for widget in sorted(line, key=lambda one: one.x())]


def step_in_order(top: QWidget, forward: bool, *, around: bool = False) -> bool:
    """Move the keyboard to what is read next in a widget; at its ends round to the other, or False where it goes on elsewhere."""
    stops, now = reading_order(top), QApplication.focusWidget()
    while now is not None and now not in stops and now is not top:
        now = now.parentWidget()  # from the line inside a field to the field
    place = stops.index(now) + (1 if forward else -1) if now in stops else -1
    if around and stops:
        place %= len(stops)
    if not 0 <= place < len(stops):
        return False
    stops[place].setFocus(Qt.FocusReason.TabFocusReason if forward else Qt.FocusReason.BacktabFocusReason)
    return True


def held_down(event: QKeyEvent) -> bool:
    """Whether a key that does something is only held: what was done by pressing it is not done again."""
    return event.isAutoRepeat() and event.key() in _DOING
