"""The evenings as sheets beside each other: steps at their hours, what dries between them as threads, masks as brackets."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QFont,
    QFontMetrics,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPalette,
    QPen,
    QPolygonF,
)

from lean_sepia.answers.bench import span_of
from lean_sepia.answers.working.evening_sheets import EveningPlan, EveningSheet, SheetStep
from lean_sepia.language import _, clock, day, weekday
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.theme import ACCENT, HAIRLINE, PANEL, RAISED, SECOND, TEXT, THIRD, WINDOW, font
from lean_sepia.ui.plan.sheet_layout import HEAD, Layout, Row
from lean_sepia.ui.plan.sheet_widths import NUMBERED, OPEN
from lean_sepia.ui.plan.steps_view import StepsView

_DRAG = 7


@guarded
class EveningSheets(StepsView):
    """A sheet for each evening. Steps are chosen, opened, moved by Ctrl and the arrows, or dragged to another place."""

    dropped = Signal(str, str)  # a step, and the one it is to come before; empty for last
    remove_wanted = Signal(str)

    def __init__(self) -> None:
        super().__init__(_("Evenings with their steps"))
        self.judge: Callable[[str, str], str] = lambda _step, _before: ""
        self._plan = EveningPlan((), (), ())
        self._now = datetime.now()
        self._hit = False
        self._drag: tuple[str, QPointF] | None = None
        self._over: tuple[QPointF, str, str] | None = (
            None  # where the pointer is, before which step, what that breaks
        )

    # What is shown

    def show_plan(self, plan: EveningPlan, current: str, now: datetime) -> None:
        """Show evenings, with one step chosen."""
        self._plan, self._current, self._now = plan, current, now
        self._describe()
        self.updateGeometry()
        self.update()

    @property
    def steps(self) -> list[SheetStep]:
        """All steps in the order of the plan."""
        every = {
            part.id: part
            for sheet in reversed(self._plan.sheets)
            for step in reversed(sheet.steps)
            for part in reversed(step.parts or (step,))
        }
        return sorted(every.values(), key=lambda step: (step.number, step.start))

    def layout_now(self) -> Layout:
        """Where everything lies at the present size."""
        return Layout.of(self._plan, self.width(), self.height(), self._current)

    def sizeHint(self) -> QSize:
        return QSize(*Layout.wanted(self._plan))

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()

    # What the user does

    def mousePressEvent(self, event: QMouseEvent) -> None:
        layout = self.layout_now()
        row, sheet = layout.row_at(event.position()), layout.sheet_at(event.position())
        self._hit = row is not None
        if row is not None:
            self._choose(layout.step_at(event.position()))
            if event.button() == Qt.MouseButton.LeftButton and not row.step.done:
                self._drag = row.step.id, event.position()
        elif sheet is not None and layout.is_folded(sheet):
            steps = self._plan.sheets[sheet].steps
            self._choose(next((step for step in steps if not step.done), steps[0]).id)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._drag is None:
            return
        name, start = self._drag
        if self._over is None and (event.position() - start).manhattanLength() < _DRAG:
            return
        before = self._place_at(event.position(), name)
        words = self._over[2] if self._over and self._over[1] == before else self.judge(name, before)
        self._over = event.position(), before, words
        self.setCursor(Qt.CursorShape.ClosedHandCursor)
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        drag, over = self._drag, self._over
        self._drag = self._over = None
        self.unsetCursor()
        self.update()
        if drag is not None and over is not None and event.button() == Qt.MouseButton.LeftButton:
            self.dropped.emit(drag[0], over[1])

    def mouseDoubleClickEvent(self, _event: QMouseEvent) -> None:
        if (
            self._hit
        ):  # by the first of the two: a folded sheet opens at it, and other steps lie under the second
            self.opened.emit(self._current)

    def _place_at(self, point: QPointF, name: str) -> str:
        """The step before which something dropped here comes; empty for the end."""
        here = self.layout_now().next_row(point)
        if here is None or name not in here.step.ids:
            return here.step.id if here else ""
        numbers = [step.id for step in self.steps]
        last = max(numbers.index(one) for one in here.step.ids)
        return next(iter(numbers[last + 1 :]), "")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self._drag is not None:
            self._drag = self._over = None
            self.unsetCursor()
            self.update()
        elif event.key() == Qt.Key.Key_Delete and any(step.id == self._current for step in self.steps):
            self.remove_wanted.emit(self._current)
        else:
            super().keyPressEvent(event)

    # How it is drawn

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        layout = self.layout_now()
        for sheet, box in zip(self._plan.sheets, layout.boxes, strict=True):
            self._sheet(painter, sheet, box, layout)
        self._idle(painter, layout)
        self._threads(painter, layout)
        for row in layout.rows:
            self._row(painter, row)
        self._served(painter, layout)
        self._brackets(painter, layout)
        if self._over is not None:
            self._moving(painter, layout)

    def _ink(self, role: QPalette.ColorRole) -> QColor:
        return self.palette().color(role)

    def _sheet(self, painter: QPainter, sheet: EveningSheet, box: QRectF, layout: Layout) -> None:
        tonight = any(not step.done for step in sheet.steps) and sheet is self._first_open()
        painter.setBrush(self._ink(RAISED if tonight else PANEL))
        painter.setPen(QPen(self._ink(TEXT if tonight else HAIRLINE), 2 if tonight else 1))
        painter.drawRoundedRect(box.adjusted(1, 1, -1, -1), 4, 4)
        painter.setPen(QPen(self._ink(HAIRLINE), 1))
        for y in layout.hour_lines(box):
            painter.drawLine(QPointF(box.left() + 2, y), QPointF(box.right() - 2, y))
        painter.setPen(self._ink(TEXT))
        if box.width() < OPEN:
            self._folded_head(painter, sheet, box)
            return
        title, second = self._head(sheet, box.width() - 24)
        painter.setFont(font(15, True))
        painter.drawText(QPointF(box.left() + 12, box.top() + 25), title)
        painter.setFont(font(12))
        painter.setPen(self._ink(SECOND))
        painter.drawText(QPointF(box.left() + 12, box.top() + 44), second)

    def _folded_head(self, painter: QPainter, sheet: EveningSheet, box: QRectF) -> None:
        """The day of the week above the day of the month, where there is room for both."""
        start = sheet.window.start
        lines = [(str(start.day), 44.0, TEXT)]
        if box.width() >= NUMBERED:
            lines.insert(0, (weekday(start), 25.0, SECOND))
        for words, y, role in lines:
            painter.setFont(font(12, role == TEXT))
            painter.setPen(self._ink(role))
            painter.drawText(QRectF(box.left(), y - 14, box.width(), 18), Qt.AlignmentFlag.AlignCenter, words)

    def _idle(self, painter: QPainter, layout: Layout) -> None:
        """Evenings without work: a hairline with its date, upright where there is room for it."""
        face = font(11)
        for window, x in layout.idle():
            painter.setPen(QPen(self._ink(HAIRLINE), 1))
            painter.drawLine(QPointF(x, 4), QPointF(x, self.height() - 4))
            if layout.widths.further < QFontMetrics(face).height() - 2:
                continue
            words = day(window.start)
            painter.save()
            painter.translate(x, HEAD + 8)
            painter.rotate(-90)
            painter.setFont(face)
            wide = QFontMetrics(face).horizontalAdvance(words) + 6
            box = QRectF(-wide, -8, wide, 16)
            painter.fillRect(box, self._ink(WINDOW))
            painter.setPen(self._ink(SECOND))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)
            painter.restore()

    def _first_open(self) -> EveningSheet | None:
        return next((s for s in self._plan.sheets if any(not step.done for step in s.steps)), None)

    def _head(self, sheet: EveningSheet, room: float) -> tuple[str, str]:
        start, end = sheet.window.start, sheet.window.end
        hours = f"{clock(start)}–{clock(end)}"
        ahead = (start.date() - self._now.date()).days
        if ahead == 0:
            dated = _("{0}, {1}").format(day(start), hours)
            fits = QFontMetrics(font(12)).horizontalAdvance(dated) <= room
            return (_("Tonight") if start.hour >= 16 else _("Today")), dated if fits else hours
        return day(start), _("tomorrow, {0}").format(hours) if ahead == 1 else hours

    def _row(self, painter: QPainter, row: Row) -> None:
        step, ink = row.step, self._ink(SECOND if row.step.done else TEXT)
        bar = QRectF(row.bar)
        if step.critical and not step.done:
            painter.fillRect(bar, ink)
        else:
            painter.setPen(QPen(ink, 1.4))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(bar.adjusted(0.7, 0.7, -0.7, -0.7))
        if not row.lines:
            self._folded(painter, row)
            return
        text = row.text
        painter.setPen(ink)
        painter.setFont(font(12))
        wide = 18.0 if step.number < 100 else 25.0
        number = QRectF(text.left(), text.top(), wide, 16)
        painter.drawText(
            number, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, str(step.number)
        )
        words = QRectF(number.right() + 6, text.top(), text.width() - wide - 6, 15.0 * row.title_lines + 1)
        face = font(12, True)
        painter.setFont(face)
        title = ("✓ " if step.done else "") + step.title
        if step.grave:
            self._sign(painter, QPointF(text.right() + 2, text.top() + 8), step.grave == "stop")
        if row.title_lines > 1:
            painter.drawText(words, Qt.TextFlag.TextWordWrap, title)
        else:
            painter.drawText(words, Qt.AlignmentFlag.AlignVCenter, _short(title, face, words.width()))
        if row.lines > row.title_lines:
            painter.setFont(font(11))
            painter.setPen(self._ink(SECOND))
            detail = QRectF(words.left(), words.bottom() - 1, text.right() - words.left(), 15)
            painter.drawText(
                detail, Qt.AlignmentFlag.AlignVCenter, _short(step.detail, font(11), detail.width())
            )
        for part, box in row.parts:
            self._part(painter, part, box)
        if self._current in step.ids:
            painter.setPen(QPen(self._ink(ACCENT if self.ring and self.hasFocus() else TEXT), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(row.box.adjusted(1, -2, -1, 1))

    def _folded(self, painter: QPainter, row: Row) -> None:
        """A step on a folded sheet: its number where there is room, else its sign alone."""
        if row.text.width() > 0:
            painter.setFont(font(11))
            painter.setPen(self._ink(SECOND if row.step.done else TEXT))
            painter.drawText(row.text, Qt.AlignmentFlag.AlignCenter, str(row.step.number))
        if row.step.grave:
            self._sign(painter, QPointF(row.bar.center().x(), row.bar.bottom() + 6), row.step.grave == "stop")

    def _part(self, painter: QPainter, part: SheetStep, box: QRectF) -> None:
        """One line of an open sitting: a dash at its hour's place, the chosen one in bold."""
        chosen = part.id == self._current
        face = font(11, chosen)
        painter.setFont(face)
        painter.setPen(self._ink(TEXT if chosen else SECOND))
        words = ("✓ " if part.done else "– ") + (part.detail or part.title)
        left = box.left() + 24
        painter.drawText(
            QRectF(left, box.top(), box.right() - left, box.height()),
            Qt.AlignmentFlag.AlignVCenter,
            _short(words, face, box.right() - left),
        )

    def _sign(self, painter: QPainter, middle: QPointF, filled: bool) -> None:
        diamond = QPolygonF([middle + QPointF(*p) for p in ((0, -5), (5, 0), (0, 5), (-5, 0))])
        painter.save()
        painter.setPen(QPen(self._ink(TEXT), 1.3))
        painter.setBrush(self._ink(TEXT) if filled else Qt.BrushStyle.NoBrush)
        painter.drawPolygon(diamond)
        painter.restore()

    def _threads(self, painter: QPainter, layout: Layout) -> None:
        for path, words, where in layout.threads(self._current):
            painter.setPen(QPen(self._ink(THIRD), 1.2, Qt.PenStyle.DashLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolyline(path)
            tip = path[-1]
            painter.setBrush(self._ink(THIRD))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.drawPolygon(QPolygonF([tip, tip + QPointF(-6, -4), tip + QPointF(-6, 4)]))
            painter.setFont(font(11))
            painter.setPen(self._ink(SECOND))
            said = span_of(words)
            width = QFontMetrics(font(11)).horizontalAdvance(said) + 4
            if width > layout.widths.night:
                continue
            box = QRectF(where.x() - width / 2, where.y() - 8, width, 16)
            painter.fillRect(box, self._ink(WINDOW))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, said)

    def _served(self, painter: QPainter, layout: Layout) -> None:
        """What works on another hangs on it."""
        painter.setPen(QPen(self._ink(TEXT), 1.4))
        for begin, turn, end in layout.served():
            painter.drawPolyline([begin + QPointF(5, 0), begin, turn, end])

    def _brackets(self, painter: QPainter, layout: Layout) -> None:
        painter.setPen(QPen(self._ink(TEXT), 1.6))
        for x, top, bottom, begins, ends in layout.brackets():
            painter.drawLine(QPointF(x, top), QPointF(x, bottom))
            for y, there in ((top, begins), (bottom, ends)):
                if there:
                    painter.drawLine(QPointF(x - 3, y), QPointF(x, y))

    def _moving(self, painter: QPainter, layout: Layout) -> None:
        """Where a dragged step would come, and what that would break."""
        assert self._over is not None
        point, before, words = self._over
        row = next((row for row in layout.rows if row.step.id == before), None)
        if row is not None:
            painter.setPen(QPen(self._ink(TEXT), 3))
            y = row.box.top() - 3
            painter.drawLine(QPointF(row.box.left(), y), QPointF(row.box.right(), y))
        said = words or _("Nothing speaks against it.")
        painter.setFont(font(12))
        width = 250.0
        metrics = QFontMetrics(font(12))
        flags = Qt.TextFlag.TextWordWrap
        height = metrics.boundingRect(0, 0, int(width) - 20, 400, flags, said).height() + 16
        left = min(max(4.0, point.x() + 14), self.width() - width - 4)
        box = QRectF(left, min(point.y() + 14, self.height() - height - 4.0), width, height)
        painter.setPen(QPen(self._ink(TEXT), 1))
        painter.setBrush(self._ink(RAISED))
        painter.drawRoundedRect(box, 4, 4)
        painter.drawText(box.adjusted(10, 8, -10, -8), flags, said)


def _short(text: str, face: QFont, width: float) -> str:
    return QFontMetrics(face).elidedText(text, Qt.TextElideMode.ElideRight, int(width))
