"""Lines of hours to fill in: the days of the week, from when to when."""

from __future__ import annotations

from datetime import datetime, timedelta
from functools import partial

from PySide6.QtCore import Qt, QTime, Signal
from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from lean_sepia.language import _, weekday
from lean_sepia.plan.hours.evenings import Hours, hours_of, parse_evenings, written_hours
from lean_sepia.ui.kit.fields.wheel import TimeBox
from lean_sepia.ui.kit.panel import button, row
from lean_sepia.ui.kit.plain import hint

_MONDAY = datetime(2029, 1, 1)


class HoursLine(QWidget):
    """Seven days to tick and two times."""

    removed = Signal()

    def __init__(self, hours: Hours) -> None:
        super().__init__()
        self.days: list[QPushButton] = []
        for number, on in enumerate(hours.days):
            name = weekday(_MONDAY + timedelta(days=number))
            choice = button(name[:2], "tool", name)
            choice.setCheckable(True)
            choice.setChecked(on)
            choice.setFixedWidth(40)
            choice.setAccessibleName(name)
            self.days.append(choice)
        self.begin, self.end = _time_box(hours.begin, _("Begins")), _time_box(hours.end, _("Ends"))
        away = button("×", "tool", _("Take this line away"))
        away.setFixedWidth(28)
        away.setAccessibleName(_("Take this line away"))
        away.clicked.connect(self.removed)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 4)
        column.setSpacing(4)
        column.addLayout(row(*self.days, None, spacing=3))
        column.addLayout(row(self.begin, self.end, None, away))

    @property
    def hours(self) -> Hours:
        """What is filled in; an end at or before the beginning lies on the next day."""
        begin, end = _minutes(self.begin), _minutes(self.end)
        return Hours(tuple(day.isChecked() for day in self.days), begin, end if end > begin else end + 1440)


class HoursLines(QWidget):
    """As many lines of hours as there are."""

    def __init__(self, text: str) -> None:
        super().__init__()
        self.lines: list[HoursLine] = []
        self._column = QVBoxLayout()
        self._column.setSpacing(6)
        add = button(_("More hours"), "tool", _("One more line, for other days or another time"))
        add.clicked.connect(self.add_line)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(6)
        outer.addLayout(self._column)
        outer.addLayout(row(add, None))
        for hours in hours_of(parse_evenings(text)):
            self._put(hours)

    def add_line(self) -> None:
        """One more line, on no day yet."""
        self._put(Hours((False,) * 7, 19 * 60, 21 * 60 + 30))

    def _put(self, hours: Hours) -> None:
        line = HoursLine(hours)
        line.removed.connect(partial(self._remove, line))
        self.lines.append(line)
        self._column.addWidget(line)

    def _remove(self, line: HoursLine) -> None:
        self.lines.remove(line)
        line.hide()
        line.deleteLater()

    @property
    def text(self) -> str:
        """The hours as they are written.

        Raises
        ------
        PlanError
            There are none.
        """
        return written_hours([line.hours for line in self.lines if any(line.hours.days)])


def _time_box(minutes: int, name: str) -> TimeBox:
    box = TimeBox(QTime(minutes // 60 % 24, minutes % 60))
    box.setDisplayFormat("HH:mm")
    box.setFixedWidth(72)
    box.setAlignment(Qt.AlignmentFlag.AlignCenter)
    box.setAccessibleName(name)
    hint(box, name)
    return box


def _minutes(box: TimeBox) -> int:
    return box.time().hour() * 60 + box.time().minute()
