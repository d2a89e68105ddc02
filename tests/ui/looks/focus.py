"""Where the keyboard comes to: every stop of the Tab key in a window, and whether it is seen there."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

import numpy as np
from PySide6.QtCore import QPoint, QRect, QSize, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractSpinBox, QApplication, QLineEdit, QScrollArea, QWidget
from tests.ui.looks.cut import settled

from lean_sepia.ui.kit.theme import ACCENT

_MOST, _ROUND, _SEEN = 400, 3, 8


def stops(top: QWidget) -> Iterator[QWidget]:
    """Every control the Tab key comes to, once round."""
    top.window().activateWindow()
    settled()
    focused = QApplication.focusWidget()
    if focused is not None:
        focused.clearFocus()
    seen: list[QWidget] = []
    for _press in range(_MOST):
        QTest.keyClick(QApplication.focusWidget() or top.window(), Qt.Key.Key_Tab)
        now = QApplication.focusWidget()
        if now is not None and seen and now is seen[-1]:
            continue  # from the hour to the minute of one field
        if now is None or now in seen:
            return
        seen.append(now)
        yield now
    raise AssertionError("Tab never comes round")


def is_seen(stop: QWidget) -> bool:
    """Whether the accent round it says that the keyboard is there."""
    window = stop.window()
    box = QRect(stop.mapTo(window, QPoint(-_ROUND, -_ROUND)), stop.size() + QSize(2 * _ROUND, 2 * _ROUND))
    with_it = _accented(window, box)
    if with_it < _SEEN:
        return False
    if isinstance(stop, QLineEdit | QAbstractSpinBox):
        return True
    reason, policy = Qt.FocusReason.TabFocusReason, stop.focusPolicy()
    stop.clearFocus()
    without = _accented(window, box)
    stop.setFocus(reason)
    assert stop.focusPolicy() == policy
    return with_it - without >= _SEEN


def _accented(window: QWidget, box: QRect) -> int:
    """Pixels of the accent in a part of a window."""
    image = window.grab(box).toImage().convertToFormat(QImage.Format.Format_RGB32)
    pixels = np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), image.bytesPerLine() // 4, 4)
    accent = window.palette().color(ACCENT)
    away = pixels[:, : image.width(), :3].astype(int) - (accent.blue(), accent.green(), accent.red())
    return int((np.abs(away).max(axis=-1) < 6).sum())


def name_of(stop: QWidget) -> str:
    """What a screen reader says of it."""
    return stop.accessibleName() or str(getattr(stop, "text", lambda: "")())


def unreached(top: QWidget, reached: list[QWidget]) -> list[str]:
    """Controls that are there, take the keyboard by their kind, and are not among the stops."""
    from tests.ui.looks.cut import _CONTROLS

    there = [
        widget for widget in top.findChildren(QWidget)
        if isinstance(widget, _CONTROLS) and widget.isVisible() and widget.isEnabled()
        and widget.focusPolicy() & Qt.FocusPolicy.TabFocus and not isinstance(widget.parentWidget(), QAbstractSpinBox)
    ]  # fmt: skip
    return [f"{type(widget).__name__} “{name_of(widget)}”" for widget in there if widget not in reached]


def out_of_sight(stop: QWidget) -> bool:
    """Whether the area it stands in did not scroll to it."""
    return stop.visibleRegion().isEmpty() and not isinstance(stop, QScrollArea)


def out_of_order(reached: list[QWidget]) -> list[str]:
    """Where the keyboard goes back among controls that stand side by side: neither to the right nor down."""
    found = []
    for one, two in pairwise(reached):
        if one.parentWidget() is not two.parentWidget():
            continue
        first, second = one.geometry(), two.geometry()
        below = second.center().y() > first.center().y() + _ROUND
        beside = abs(second.center().y() - first.center().y()) < max(first.height(), second.height()) / 2
        if not below and not (beside and second.x() > first.x()):
            found.append(f"from “{name_of(one)}” the keyboard goes back to “{name_of(two)}”")
    return found
