"""Where sheets, steps, threads and brackets lie at a size."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QFontMetrics

from lean_sepia.answers.working.evening_sheets import EveningPlan, SheetStep
from lean_sepia.ui.kit.theme import font

HEAD, BAR, GAP = 58.0, 9.0, 32.0
_LEAST_WIDTH, _MOST_WIDTH = 162.0, 300.0
_FOOT, _ONE_LINE, _LEAST_HEIGHT = 10.0, 19.0, 330.0
_LINE, _PART_LINE = 15.0, 17.0
_LEAST_MINUTES = 150.0


@dataclass(frozen=True)
class Row:
    """A step on its sheet: its solid height, its words, both together, and how many lines of words there is room for.

    parts : of a sitting that is open, its steps and where their words stand
    """

    step: SheetStep
    sheet: int
    bar: QRectF
    text: QRectF
    lines: int
    title_lines: int
    parts: tuple[tuple[SheetStep, QRectF], ...] = ()

    @property
    def box(self) -> QRectF:
        """The bar with the words."""
        return self.bar.united(self.text)


@dataclass(frozen=True)
class Layout:
    """Everything at its place."""

    plan: EveningPlan
    boxes: tuple[QRectF, ...]
    rows: tuple[Row, ...]
    per_minute: float

    @classmethod
    def wanted(cls, plan: EveningPlan) -> tuple[int, int]:
        """The least size at which everything can be read."""
        count = max(1, len(plan.sheets))
        most = max((len(sheet.steps) for sheet in plan.sheets), default=1)
        height = max(_LEAST_HEIGHT, HEAD + _FOOT + most * (_ONE_LINE + 4))
        return int(count * (_LEAST_WIDTH + GAP) - GAP), int(height)

    @classmethod
    def of(cls, plan: EveningPlan, width: float, height: float, current: str = "") -> Layout:
        """The layout at a size; the sitting in which a step is chosen is open."""
        count = max(1, len(plan.sheets))
        each = min(_MOST_WIDTH, max(_LEAST_WIDTH, (width - (count - 1) * GAP) / count))
        boxes = tuple(QRectF(i * (each + GAP), 0, each, height) for i in range(len(plan.sheets)))
        longest = max(
            [_LEAST_MINUTES, *(_minutes(s.window.start, step.end) for s in plan.sheets for step in s.steps)]
        )
        per_minute = (height - HEAD - _FOOT - _ONE_LINE) / longest
        rows = [
            row for number, box in enumerate(boxes) for row in _rows(plan, number, box, per_minute, current)
        ]
        return cls(plan, boxes, tuple(rows), per_minute)

    def hour_lines(self, box: QRectF) -> Iterator[float]:
        """Where the hours of a sheet lie."""
        y = box.top() + HEAD
        while y < box.bottom() - 2:
            yield y
            y += 60 * self.per_minute

    def row_at(self, point: QPointF) -> Row | None:
        """The step under a point."""
        return next((row for row in self.rows if row.box.adjusted(-4, -2, 4, 2).contains(point)), None)

    def step_at(self, point: QPointF) -> str:
        """The id of the step under a point; of an open sitting that of the part."""
        row = self.row_at(point)
        if row is None:
            return ""
        return next((part.id for part, box in row.parts if box.contains(point)), row.step.id)

    def next_row(self, point: QPointF) -> Row | None:
        """The step before which something at a point would come: the first whose middle lies below or on a later sheet."""
        sheet = next(
            (i for i, box in enumerate(self.boxes) if point.x() <= box.right() + GAP / 2), len(self.boxes)
        )
        for row in self.rows:
            if row.sheet > sheet or (row.sheet == sheet and row.box.center().y() > point.y()):
                return row
        return None

    def _row(self, name: str) -> Row | None:
        return next((row for row in self.rows if name in row.step.ids), None)

    def threads(self, current: str) -> Iterator[tuple[list[QPointF], timedelta, QPointF]]:
        """Paths from the end of one step to the start of another on a later sheet, their waits, and the middles of where those stand.

        Of several to one sheet from one step the first; across more than one night only those of the chosen step.
        """
        told: set[tuple[str, int]] = set()
        for thread in self.plan.threads:
            first, then = self._row(thread.first), self._row(thread.then)
            if first is None or then is None or first.sheet >= then.sheet:
                continue
            if (then.sheet - first.sheet > 1 and current not in (thread.first, thread.then)) or (
                thread.first,
                then.sheet,
            ) in told:
                continue
            told.add((thread.first, then.sheet))
            turn = self.boxes[then.sheet].left() - GAP / 2
            y, end = first.bar.bottom() - 1, then.bar.top() + 6
            path = [
                QPointF(first.bar.right() + 3, y),
                QPointF(turn, y),
                QPointF(turn, end),
                QPointF(then.bar.left() - 1, end),
            ]
            yield path, thread.wait, QPointF(turn, (y + end) / 2)

    def served(self) -> Iterator[tuple[QPointF, QPointF, QPointF]]:
        """Short threads at the left of bars from what is served to what serves it, on one sheet: where each begins, turns and ends."""
        for row in self.rows:
            for name in row.step.serves:
                other = self._row(name)
                if other is None or other is row or other.sheet != row.sheet:
                    continue
                x, y = row.bar.left() - 5, row.bar.top() + 4
                yield QPointF(x, other.bar.top() + 4), QPointF(x, y), QPointF(row.bar.left(), y)

    def brackets(self) -> Iterator[tuple[float, float, float, bool, bool]]:
        """Lines at the right of sheets from where a mask goes on to where it comes off: x, top, bottom, and which ends are there."""
        for number, bracket in enumerate(self.plan.brackets):
            on, off = self._row(bracket.mask), self._row(bracket.off) if bracket.off else None
            if on is None:
                continue
            last = off.sheet if off is not None else on.sheet
            for sheet in range(on.sheet, last + 1):
                box = self.boxes[sheet]
                top = on.box.top() if sheet == on.sheet else box.top() + HEAD
                bottom = off.box.bottom() if off is not None and sheet == last else box.bottom() - 6
                yield (
                    box.right() - 7 - 5 * (number % 2),
                    top,
                    bottom,
                    sheet == on.sheet,
                    off is not None and sheet == last,
                )


def _minutes(start: datetime, end: datetime) -> float:
    return (end - start).total_seconds() / 60


def _rows(plan: EveningPlan, number: int, box: QRectF, per_minute: float, current: str) -> Iterator[Row]:
    """The steps of a sheet from top to bottom; words are pushed down where they would touch, bars keep their hours."""
    sheet = plan.sheets[number]
    free = 0.0
    for place, step in enumerate(sheet.steps):
        top = box.top() + HEAD + _minutes(sheet.window.start, step.start) * per_minute
        height = max(4.0, _minutes(step.start, step.end) * per_minute - 2)
        after = sheet.steps[place + 1 :]
        until = (
            box.top() + HEAD + _minutes(sheet.window.start, after[0].start) * per_minute
            if after
            else box.bottom()
        )
        text_top = max(top, free)
        room = int((min(until, box.bottom()) - text_top) // _LINE)
        width = box.width() - 26 - 20
        long = QFontMetrics(font(12, True)).horizontalAdvance(step.title) > width - 26
        title_lines = 2 if long and room >= 2 else 1
        lines = title_lines + (1 if step.detail and room > title_lines else 0)
        opened = step.parts if current in step.ids else ()
        tall = lines * _LINE + 1
        parts = tuple(
            (part, QRectF(box.left() + 26, text_top + tall + index * _PART_LINE, width, _PART_LINE))
            for index, part in enumerate(opened)
        )
        tall += len(parts) * _PART_LINE
        free = text_top + tall + 4
        bar = QRectF(box.left() + 12, top, BAR, height)
        yield Row(
            step, number, bar, QRectF(box.left() + 26, text_top, width, tall), lines, title_lines, parts
        )
