"""The plan on a time axis: evenings as light stretches, nights hatched, hands-on bars with their waits."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from PySide6.QtCore import QPointF, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from lean_sepia.language import _, clock, weekday, weekday_and_time
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing
from lean_sepia.ui.kit.theme import ACCENT, HAIRLINE, PANEL, RAISED, SECOND, TEXT, THIRD, WINDOW, font

_HEAD, _LINE, _GAP, _HATCH = 46, 30, 26, 7


@dataclass(frozen=True)
class Bar:
    """One step in time."""

    id: str
    number: int
    title: str
    start: datetime
    end: datetime
    ready: datetime
    critical: bool = False
    done: bool = False


@guarded
class Timeline(KeyboardRing, QWidget):
    """Evenings side by side, each as wide as it is long; the gap between two is a night, cut and hatched."""

    chosen = Signal(str)
    move_wanted = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self._bars: tuple[Bar, ...] = ()
        self._windows: tuple[tuple[datetime, datetime], ...] = ()
        self._current = ""
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(_("Steps in order"))

    def sizeHint(self) -> QSize:
        return QSize(640, _HEAD + _LINE * max(1, len(self._bars)) + 14)

    def minimumSizeHint(self) -> QSize:
        return QSize(300, _HEAD + _LINE * max(1, len(self._bars)) + 14)

    def show_plan(
        self, bars: Sequence[Bar], windows: Sequence[tuple[datetime, datetime]], current: str
    ) -> None:
        """Show steps, and the evenings that they use."""
        self._bars, self._windows, self._current = tuple(bars), tuple(windows), current
        self.setMinimumHeight(self.minimumSizeHint().height())
        self._describe()
        self.update()

    def _describe(self) -> None:
        bar = next((bar for bar in self._bars if bar.id == self._current), None)
        if bar:
            self.setAccessibleDescription(
                f"{bar.number} {bar.title}, {weekday_and_time(bar.start)}–{clock(bar.end)}"
            )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        index = int((event.position().y() - _HEAD) // _LINE)
        if 0 <= index < len(self._bars):
            self._choose(index)

    def _choose(self, index: int) -> None:
        self._current = self._bars[index].id
        self._describe()
        self.update()
        self.chosen.emit(self._current)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ids = [bar.id for bar in self._bars]
        moves = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
        if event.key() not in moves or self._current not in ids:
            super().keyPressEvent(event)
            return
        step = moves[Qt.Key(event.key())]
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.move_wanted.emit(step)
            return
        index = ids.index(self._current) + step
        if 0 <= index < len(ids):
            self._choose(index)

    def _names(self) -> float:
        """Width of the names: less in a narrow window, where the evenings need it more."""
        return 206.0 if self.width() > 600 else 158.0

    def _columns(self) -> list[QRectF]:
        """One column per evening, as wide as it is long."""
        if not self._windows:
            return []
        total = sum((end - start).total_seconds() for start, end in self._windows)
        room = self.width() - self._names() - 12 - _GAP * (len(self._windows) - 1)
        columns, x = [], self._names()
        for start, end in self._windows:
            width = max(24.0, room * (end - start).total_seconds() / total)
            columns.append(QRectF(x, 0, width, self.height()))
            x += width + _GAP
        return columns

    def _x(self, moment: datetime, columns: list[QRectF]) -> float:
        """Where a moment lies; inside a night it lies in the gap."""
        for index, ((start, end), column) in enumerate(zip(self._windows, columns, strict=True)):
            if moment < start:
                if index == 0:
                    return column.left()
                earlier = self._windows[index - 1][1]
                share = (moment - earlier) / (start - earlier)
                return columns[index - 1].right() + _GAP * share
            if moment <= end:
                return column.left() + column.width() * ((moment - start) / (end - start))
        return columns[-1].right() + 6

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        colours = self.palette()
        painter.fillRect(self.rect(), colours.color(PANEL))
        columns = self._columns()
        for index, ((start, end), column) in enumerate(zip(self._windows, columns, strict=True)):
            painter.fillRect(column, colours.color(RAISED))
            narrow = column.width() < 46
            painter.setPen(colours.color(TEXT))
            painter.setFont(font(12, True))
            painter.drawText(
                QRectF(column.left() + 3, 8, max(column.width(), 40), 32),
                Qt.AlignmentFlag.AlignLeft,
                f"{weekday(start)}\n{start.day}" if narrow else f"{weekday(start)} {start.day}",
            )
            if column.width() > 84:
                painter.setFont(font(11))
                painter.setPen(colours.color(SECOND))
                painter.drawText(
                    QRectF(column.left() + 4, 25, column.width(), 16),
                    Qt.AlignmentFlag.AlignLeft,
                    f"{clock(start)}–{clock(end)}",
                )
            if index + 1 < len(columns):
                gap = QRectF(column.right(), 0, _GAP, self.height())
                self._night(painter, gap, self._windows[index + 1][0] - end, event.rect())
        first = max(0, int((event.rect().top() - _HEAD) // _LINE))
        last = int((event.rect().bottom() - _HEAD) // _LINE) + 1
        for index, bar in enumerate(self._bars[first:last], start=first):
            self._step(painter, bar, _HEAD + index * _LINE, columns)
        if self.ring:
            painter.setPen(QPen(colours.color(ACCENT), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))

    def _night(self, painter: QPainter, box: QRectF, span: timedelta, visible: QRect) -> None:
        """A hatched gap with the hours it stands for; hatched only where it is seen, since a plan may be long."""
        soft = QColor(self.palette().color(HAIRLINE))
        painter.save()
        painter.setClipRect(box)
        painter.setPen(QPen(soft, 1))
        above = max(0, int((visible.top() - box.top()) // _HATCH))
        y = box.top() - box.width() + above * _HATCH
        while y < min(box.bottom(), visible.bottom() + 1):
            painter.drawLine(QPointF(box.left(), y + box.width()), QPointF(box.right(), y))
            y += _HATCH
        painter.restore()
        painter.setFont(font(11))
        painter.setPen(self.palette().color(SECOND))
        hours = round(span.total_seconds() / 3600)
        head = QRectF(box.left() - 4, 25, box.width() + 8, 14)
        painter.fillRect(head, self.palette().color(PANEL))
        painter.drawText(head, Qt.AlignmentFlag.AlignCenter, _("{0} h").format(hours))

    def _step(self, painter: QPainter, bar: Bar, y: float, columns: list[QRectF]) -> None:
        colours = self.palette()
        current = bar.id == self._current
        if current:
            painter.fillRect(QRectF(0, y, self.width(), _LINE), colours.color(WINDOW))
        painter.setPen(QPen(colours.color(HAIRLINE), 1))
        painter.drawLine(QPointF(0, y), QPointF(self.width(), y))
        painter.setFont(font(12, True))
        painter.setPen(colours.color(TEXT))
        painter.drawText(
            QRectF(8, y, 24, _LINE),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
            str(bar.number),
        )
        painter.setFont(font(12, current))
        painter.setPen(colours.color(SECOND if bar.done else TEXT))
        words = QFontMetrics(painter.font()).elidedText(
            ("✓ " if bar.done else "") + bar.title, Qt.TextElideMode.ElideRight, int(self._names()) - 50
        )
        painter.drawText(QRectF(40, y, self._names() - 46, _LINE), Qt.AlignmentFlag.AlignVCenter, words)
        if not columns:
            return
        left, right = self._x(bar.start, columns), self._x(bar.end, columns)
        box = QRectF(left, y + 8, max(4.0, right - left), _LINE - 16)
        if bar.critical:
            painter.fillRect(box, colours.color(TEXT))
        else:  # hollow: shape tells them apart in both lightings
            painter.setPen(QPen(colours.color(TEXT), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5))
        until = min(self._x(bar.ready, columns), self.width() - 8.0)
        painter.setPen(QPen(colours.color(THIRD), 4, Qt.PenStyle.CustomDashLine))
        pen = painter.pen()
        pen.setDashPattern([0.4, 0.6])
        pen.setCapStyle(Qt.PenCapStyle.FlatCap)
        painter.setPen(pen)
        if until > box.right() + 3:
            painter.drawLine(QPointF(box.right() + 2, box.center().y()), QPointF(until, box.center().y()))
        if current:
            painter.setPen(QPen(colours.color(TEXT), 2))
            painter.drawRect(box.adjusted(-3, -3, 3, 3))
