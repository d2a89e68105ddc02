"""What the pinned toolkit must not do."""

import sys

from PySide6.QtWidgets import QLabel


def test_calls_into_the_toolkit_keep_the_count_of_none(qtbot):
    """PySide6 6.12.0 loses a reference to None with every such call on Python 3.11: an evening's work would end it."""
    shown = QLabel("drop")
    qtbot.addWidget(shown)
    before = sys.getrefcount(None)
    for _ in range(2000):
        shown.setText("drop")
        shown.update()
    assert abs(sys.getrefcount(None) - before) < 200
