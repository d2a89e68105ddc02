"""Where sheets, steps, threads and brackets lie at a size."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QFontMetrics

from lean_sepia.answers.working.evening_sheets import EveningPlan, SheetStep
from lean_sepia.plan.hours.evenings import Window
from lean_sepia.ui.kit.theme import font
from lean_sepia.ui.plan.sheet_widths import NUMBERED, OPEN, Spread, least_width, spread

HEAD, BAR = 58.0, 9.0
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
    widths: Spread

    @classmethod
    def wanted(cls, plan: EveningPlan) -> tuple[int, int]:
        """The least size at which everything can be read."""
        most = max((len(sheet.steps) for sheet in plan.sheets), default=1)
        height = max(_LEAST_HEIGHT, HEAD + _FOOT + most * (_ONE_LINE + 4))
        return int(least_width(plan.sheets)), int(height)

    @classmethod
    def of(cls, plan: EveningPlan, width: float, height: float, current: str = "") -> Layout:
        """The layout at a size; the sheet and the sitting in which a step is chosen are open."""
        widths = spread(plan.sheets, width, _chosen(plan, current))
        boxes = tuple(
            QRectF(left, 0, each, height) for left, each in zip(widths.lefts, widths.widths, strict=True)
        )
        longest = max(
            [_LEAST_MINUTES, *(_minutes(s.window.start, step.end) for s in plan.sheets for step in s.steps)]
        )
        per_minute = (height - HEAD - _FOOT - _ONE_LINE) / longest
        rows = [
            row for number, box in enumerate(boxes) for row in _rows(plan, number, box, per_minute, current)
        ]
        return cls(plan, boxes, tuple(rows), per_minute, widths)

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

    def is_folded(self, sheet: int) -> bool:
        """Whether there is no room for words on a sheet."""
        return self.boxes[sheet].width() < OPEN

    def sheet_at(self, point: QPointF) -> int | None:
        """The place of the sheet under a point."""
        return next((place for place, box in enumerate(self.boxes) if box.contains(point)), None)

    def idle(self) -> Iterator[tuple[Window, float]]:
        """The evenings without work, and where the hairline of each stands between two sheets."""
        for place, sheet in enumerate(self.plan.sheets):
            if not place or not sheet.idle:
                continue
            last = self.plan.sheets[place - 1].window.start.date()
            for window in sheet.idle:
                nights = (window.start.date() - last).days
                yield (
                    window,
                    self.boxes[place - 1].right()
                    + self.widths.night / 2
                    + (nights - 0.5) * self.widths.further,
                )

    def next_row(self, point: QPointF) -> Row | None:
        """The step before which something at a point would come: the first whose middle lies below or on a later sheet."""
        lefts = (*(box.left() for box in self.boxes[1:]), float("inf"))
        middles = ((box.right() + left) / 2 for box, left in zip(self.boxes, lefts, strict=True))
        sheet = next((i for i, middle in enumerate(middles) if point.x() <= middle), len(self.boxes))
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
            turn = self.boxes[then.sheet].left() - self.widths.night / 2
            y, end = (
                max(first.bar.bottom() - 1, first.text.bottom() + 1 if first.lines else 0),
                then.bar.top() + 6,
            )
            below = first.bar.bottom() < y
            path = [
                *([QPointF(first.bar.center().x(), first.bar.bottom())] if below else []),
                QPointF(first.bar.center().x() if below else first.bar.right() + 3, y),
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
                    box.right() - (3 if self.is_folded(sheet) else 7 + 5 * (number % 2)),
                    top,
                    bottom,
                    sheet == on.sheet,
                    off is not None and sheet == last,
                )


def _chosen(plan: EveningPlan, current: str) -> int:
    """The place of the sheet of a step; else of the first with something to do."""
    sheets = list(enumerate(plan.sheets))
    own = (place for place, sheet in sheets if any(current in step.ids for step in sheet.steps))
    left = (place for place, sheet in sheets if any(not step.done for step in sheet.steps))
    return next(own, next(left, 0))


def _minutes(start: datetime, end: datetime) -> float:
    return (end - start).total_seconds() / 60


def _rows(
    plan: EveningPlan, number_of_sheet: int, box: QRectF, per_minute: float, current: str
) -> Iterator[Row]:
    """The steps of a sheet from top to bottom; words are pushed down where they would touch, bars keep their hours."""
    sheet = plan.sheets[number_of_sheet]
    free = 0.0
    for place, step in enumerate(sheet.steps):
        top = box.top() + HEAD + _minutes(sheet.window.start, step.start) * per_minute
        height = max(4.0, _minutes(step.start, step.end) * per_minute - 2)
        if box.width() < OPEN:
            yield _folded(step, number_of_sheet, box, top, height)
            continue
        bar = QRectF(box.left() + 12, top, BAR, height)
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
        yield Row(
            step,
            number_of_sheet,
            bar,
            QRectF(box.left() + 26, text_top, width, tall),
            lines,
            title_lines,
            parts,
        )


def _folded(step: SheetStep, sheet: int, box: QRectF, top: float, height: float) -> Row:
    """A step on a folded sheet: its bar, and its number where there is room."""
    numbered = box.width() >= NUMBERED
    bar = QRectF(box.left() + (6 if numbered else (box.width() - BAR) / 2), top, BAR, height)
    number = QRectF(bar.right() + 1, top - 1, box.right() - bar.right() - 6 if numbered else 0, 16)
    return Row(step, sheet, bar, number, 0, 0)
