"""The plan by part: the core of each zone, growing from left to right over the evenings, each coat in its colour, hatched while it dries."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from PySide6.QtCore import QPointF, QRect, QRectF, QSize, Qt
from PySide6.QtGui import QFontMetrics, QMouseEvent, QPainter, QPaintEvent, QPen

from lean_sepia.answers.working.evening_sheets import SheetStep
from lean_sepia.document.bounds import Lab
from lean_sepia.language import _, clock, weekday
from lean_sepia.plan.hours.evenings import Window
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.swatch import qcolor
from lean_sepia.ui.kit.theme import ACCENT, HAIRLINE, PANEL, RAISED, SECOND, TEXT, font
from lean_sepia.ui.plan.steps_view import StepsView

_HEAD, _LINE, _MOST_LINE, _GAP, _HATCH = 46, 44, 132, 26, 7
_ABOVE, _BELOW, _THICKEST, _CLEAR = 18.0, 5.0, 11.0, 3.0


@dataclass(frozen=True)
class LaneStep:
    """A step on a lane, and until when it dries there.

    bands : the colours of the coats it lays there, bottom first, None of what has none of its own, such as a varnish
    """

    step: SheetStep
    ready: datetime
    bands: tuple[Lab | None, ...] = ()


@dataclass(frozen=True)
class Lane:
    """One part of the model, what was there already, bottom first, and what is done on it."""

    title: str
    steps: tuple[LaneStep, ...]
    found: tuple[Lab | None, ...] = ()


@guarded
class Lanes(StepsView):
    """Evenings side by side, each as wide as it is long; the gap between two is a night, cut and hatched."""

    def __init__(self) -> None:
        super().__init__(_("Parts with their steps"))
        self._lanes: tuple[Lane, ...] = ()
        self._windows: tuple[Window, ...] = ()

    def sizeHint(self) -> QSize:
        return QSize(640, _HEAD + _LINE * max(1, len(self._lanes)) + 14)

    def minimumSizeHint(self) -> QSize:
        across = int(self._names() + 12 + len(self._windows) * (24 + _GAP) - _GAP)
        return QSize(max(300, across), self.sizeHint().height())

    def show_plan(self, lanes: Sequence[Lane], windows: Sequence[Window], current: str) -> None:
        """Show lanes, and the evenings that they use."""
        self._lanes, self._windows, self._current = tuple(lanes), tuple(windows), current
        self.setMinimumSize(self.minimumSizeHint())
        self._describe()
        self.update()

    def choose(self, step: str) -> None:
        """Show another step as the chosen one."""
        self._current = step
        self._describe()
        self.update()

    @property
    def steps(self) -> list[SheetStep]:
        """All steps in the order of the plan, each once."""
        steps = {one.step.id: one.step for lane in self._lanes for one in lane.steps}
        return sorted(steps.values(), key=lambda step: (step.number, step.start))

    @property
    def _line(self) -> float:
        """Height of a lane: they share the room there is."""
        room = (self.height() - _HEAD - 8) / max(1, len(self._lanes))
        return max(float(_LINE), min(float(_MOST_LINE), room))

    def _under(self, event: QMouseEvent) -> str:
        """The step under the pointer: the last of those whose bar, made easy to hit, lies there."""
        index = int((event.position().y() - _HEAD) // self._line)
        if not 0 <= index < len(self._lanes):
            return ""
        columns = self._columns()
        hit = ""
        for one in self._lanes[index].steps:
            left, right = self._x(one.step.start, columns), self._x(one.step.end, columns)
            if left - 4 <= event.position().x() <= max(right, left + 16) + 4:
                hit = one.step.id
        return hit

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if found := self._under(event):
            self._choose(found)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if found := self._under(event):
            self.opened.emit(found)

    def _names(self) -> float:
        """Width of the names: less in a narrow window, where the evenings need it more."""
        return 132.0 if self.width() > 600 else 104.0

    def _columns(self) -> list[QRectF]:
        """One column per evening, as wide as it is long."""
        if not self._windows:
            return []
        total = sum((window.end - window.start).total_seconds() for window in self._windows)
        room = self.width() - self._names() - 12 - _GAP * (len(self._windows) - 1)
        columns, x = [], self._names()
        for window in self._windows:
            width = max(24.0, room * (window.end - window.start).total_seconds() / total)
            columns.append(QRectF(x, 0, width, self.height()))
            x += width + _GAP
        return columns

    def _x(self, moment: datetime, columns: list[QRectF]) -> float:
        """Where a moment lies; inside a night it lies in the gap."""
        for index, (window, column) in enumerate(zip(self._windows, columns, strict=True)):
            if moment < window.start:
                if index == 0:
                    return column.left()
                earlier = self._windows[index - 1].end
                share = (moment - earlier) / (window.start - earlier)
                return columns[index - 1].right() + _GAP * share
            if moment <= window.end:
                return column.left() + column.width() * (
                    (moment - window.start) / (window.end - window.start)
                )
        return columns[-1].right() + 6 if columns else self._names()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        colours = self.palette()
        painter.fillRect(self.rect(), colours.color(PANEL))
        columns = self._columns()
        for index, (window, column) in enumerate(zip(self._windows, columns, strict=True)):
            self._evening(painter, window, column)
            if index + 1 < len(columns):
                self._night(painter, column, columns[index + 1], self._windows[index + 1].start, window.end)
        for number, lane in enumerate(self._lanes):
            self._lane(painter, lane, _HEAD + number * self._line, columns)

    def _evening(self, painter: QPainter, window: Window, column: QRectF) -> None:
        colours = self.palette()
        painter.fillRect(column, colours.color(RAISED))
        narrow = column.width() < 46
        painter.setPen(colours.color(TEXT))
        painter.setFont(font(12, True))
        name = (
            f"{weekday(window.start)}\n{window.start.day}"
            if narrow
            else f"{weekday(window.start)} {window.start.day}"
        )
        painter.drawText(
            QRectF(column.left() + 3, 8, max(column.width(), 40), 32), Qt.AlignmentFlag.AlignLeft, name
        )
        if column.width() > 84:
            painter.setFont(font(11))
            painter.setPen(colours.color(SECOND))
            hours = f"{clock(window.start)}–{clock(window.end)}"
            painter.drawText(
                QRectF(column.left() + 4, 25, column.width(), 16), Qt.AlignmentFlag.AlignLeft, hours
            )

    def _night(
        self, painter: QPainter, left: QRectF, right: QRectF, until: datetime, since: datetime
    ) -> None:
        colours = self.palette()
        box = QRect(int(left.right()), _HEAD, int(right.left() - left.right()), self.height() - _HEAD)
        painter.save()
        painter.setClipRect(box)
        painter.setPen(QPen(colours.color(HAIRLINE), 1))
        for offset in range(-box.height(), box.width(), _HATCH):
            painter.drawLine(box.left() + offset, box.bottom(), box.left() + offset + box.height(), box.top())
        painter.restore()
        painter.setFont(font(11))
        painter.setPen(colours.color(SECOND))
        hours = round((until - since).total_seconds() / 3600)
        head = QRectF(box.left() - 4, 25, box.width() + 8, 14)
        painter.fillRect(head, colours.color(PANEL))
        painter.drawText(head, Qt.AlignmentFlag.AlignCenter, _("{0} h").format(hours))

    def _lane(self, painter: QPainter, lane: Lane, y: float, columns: list[QRectF]) -> None:
        colours = self.palette()
        painter.setPen(QPen(colours.color(HAIRLINE), 1))
        painter.drawLine(QPointF(0, y), QPointF(self.width(), y))
        painter.setFont(font(12, any(one.step.id == self._current for one in lane.steps)))
        painter.setPen(colours.color(TEXT))
        words = QFontMetrics(painter.font()).elidedText(
            lane.title, Qt.TextElideMode.ElideRight, int(self._names()) - 18
        )
        painter.drawText(QRectF(10, y, self._names() - 14, self._line), Qt.AlignmentFlag.AlignVCenter, words)
        if columns:
            self._core(painter, lane, y, columns)

    def _unit(self) -> float:
        """Height of a coat: the same on every core, so that what has more coats is taller."""
        most = max(
            (len(lane.found) + sum(len(one.bands) for one in lane.steps) for lane in self._lanes), default=1
        )
        return min(_THICKEST, (self._line - _ABOVE - _BELOW) / max(1, most))

    def _core(self, painter: QPainter, lane: Lane, y: float, columns: list[QRectF]) -> None:
        """The core of a part: every coat a band from when it is laid to the end of the plan."""
        colours, unit = self.palette(), self._unit()
        top = y + self._line - _BELOW
        end = columns[-1].right()
        for lab in lane.found:
            top = self._band(
                painter, QRectF(columns[0].left(), top - unit, end - columns[0].left(), unit), lab
            )
        told = -100.0  # where the last number ends: numbers never touch
        said: set[int] = set()
        for one in sorted(lane.steps, key=lambda one: one.step.start):
            left, right = self._x(one.step.start, columns), self._x(one.step.end, columns)
            bottom = top
            for lab in one.bands:
                height = unit if lab is not None else min(unit, _CLEAR)
                top = self._band(painter, QRectF(left, top - height, end - left, height), lab)
            if one.bands:
                dry = min(self._x(one.ready, columns), end)
                self._hatched(painter, QRectF(left, top, dry - left, bottom - top))
            else:  # masks, drawing out: a mark on top of what lies there
                painter.setPen(QPen(colours.color(SECOND if one.step.done else TEXT), 2))
                painter.drawLine(QPointF(left, top - 3), QPointF(max(right, left + 6), top - 3))
            box = QRectF(left, top, max(6.0, right - left), max(4.0, bottom - top))
            if one.step.number not in said:  # of a sitting once
                told = self._number(painter, one, left, y, told)
            said.add(one.step.number)
            if one.step.id == self._current:
                painter.setPen(QPen(colours.color(ACCENT if self.ring and self.hasFocus() else TEXT), 2))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(box.adjusted(-3, -3, 3, 3))

    def _band(self, painter: QPainter, box: QRectF, lab: Lab | None) -> float:
        """One coat; what has no colour of its own is a line. Returns where the next one lies."""
        if lab is None:
            painter.setPen(QPen(self.palette().color(SECOND), 1))
            painter.drawLine(box.topLeft(), box.topRight())
        else:
            painter.fillRect(box, qcolor(lab)[0])
            painter.setPen(QPen(qcolor(lab)[0].darker(135), 1))
            painter.drawLine(box.topLeft(), box.topRight())
            painter.drawLine(box.topLeft(), box.bottomLeft())
        return box.top()

    def _hatched(self, painter: QPainter, box: QRectF) -> None:
        """What still dries."""
        if box.width() < 2:
            return
        painter.save()
        painter.setClipRect(box)
        for ink, shift in ((PANEL, 0.0), (TEXT, 1.0)):  # on light and on dark coats
            painter.setPen(QPen(self.palette().color(ink), 1))
            x = box.left() - box.height()
            while x < box.right():
                painter.drawLine(
                    QPointF(x + shift, box.bottom()), QPointF(x + shift + box.height(), box.top())
                )
                x += _HATCH - 1
        painter.restore()

    def _number(self, painter: QPainter, one: LaneStep, left: float, y: float, told: float) -> float:
        """The number of a step over where it begins, where there is room; returns where it ends."""
        step = one.step
        painter.setFont(font(11, step.id == self._current))
        painter.setPen(self.palette().color(SECOND if step.done else TEXT))
        if left <= told:
            return told
        wide = QFontMetrics(painter.font()).horizontalAdvance(str(step.number))
        painter.drawText(QRectF(left, y + 2, wide + 2, 13), Qt.AlignmentFlag.AlignLeft, str(step.number))
        return left + wide + 4
