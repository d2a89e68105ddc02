"""Hours at the bench are seen, typed and kept."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QFontMetrics
from PySide6.QtTest import QTest

from lean_sepia.ui.plan.hours_lines import HoursLines


def test_times_are_seen_and_typed(qtbot):
    lines = HoursLines("mon-fri 19:00-21:30,sat 10:00-16:00")
    qtbot.addWidget(lines)
    lines.show()
    begin = lines.lines[0].begin
    needed = QFontMetrics(begin.font()).horizontalAdvance(begin.text())
    assert begin.text() == "19:00"
    assert begin.lineEdit().width() >= needed
    lines.activateWindow()
    qtbot.waitUntil(lines.isActiveWindow)
    begin.setFocus(Qt.FocusReason.TabFocusReason)
    qtbot.waitUntil(begin.hasFocus)
    QTest.keyClicks(begin, "2015")
    assert lines.text == "mon-fri 20:15-21:30,sat 10:00-16:00"
    begin.selectAll()
    QTest.keyClicks(begin, "18:45")  # over all of it, though the minutes were typed last
    assert lines.text == "mon-fri 18:45-21:30,sat 10:00-16:00"


def test_a_line_is_added_for_another_day_and_taken_away(qtbot):
    lines = HoursLines("mon-fri 19:00-21:30")
    qtbot.addWidget(lines)
    lines.add_line()
    assert lines.text == "mon-fri 19:00-21:30"  # on no day yet
    lines.lines[1].days[6].click()
    assert lines.text == "mon-fri 19:00-21:30,sun 19:00-21:30"
    lines.lines[0].removed.emit()
    assert lines.text == "sun 19:00-21:30"
