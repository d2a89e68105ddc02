"""The plan as evenings: each with its steps at their hours, threads of drying between them, masks as brackets."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from lean_sepia.answers.plan import PlanAnswer
from lean_sepia.answers.working.stretches import Stretch, stretches
from lean_sepia.language import _, ngettext
from lean_sepia.plan.hours.evenings import Evenings, Window, parse_evenings
from lean_sepia.plan.hours.wall_clock import later
from lean_sepia.plan.order import Order

_SHORTEST_THREAD = timedelta(minutes=45)


@dataclass(frozen=True)
class SheetStep:
    """What is done without a break on an evening's sheet; `grave` is the gravest finding on it.

    parts : of a sitting, its steps; none of a step by itself
    serves : the steps it works on
    """

    id: str
    number: int
    title: str
    detail: str
    start: datetime
    end: datetime
    critical: bool = False
    done: bool = False
    grave: str = ""
    parts: tuple[SheetStep, ...] = ()
    serves: tuple[str, ...] = ()

    @property
    def ids(self) -> tuple[str, ...]:
        """The ids of the steps in it."""
        return tuple(part.id for part in self.parts) or (self.id,)


@dataclass(frozen=True)
class Thread:
    """What dries from the end of one step to the start of another, and for how long."""

    first: str
    then: str
    wait: timedelta


@dataclass(frozen=True)
class MaskBracket:
    """A mask from where it goes on to where it comes off; None where it stays on."""

    mask: str
    off: str | None


@dataclass(frozen=True)
class EveningSheet:
    """One evening and its steps from top to bottom.

    idle : the evenings since the sheet before it on which there is time and nothing to do; nights : how many nights lie between them
    """

    window: Window
    steps: tuple[SheetStep, ...]
    idle: tuple[Window, ...] = ()
    nights: int = 0


@dataclass(frozen=True)
class EveningPlan:
    """All evenings with work in them, the threads between their steps, and the masks."""

    sheets: tuple[EveningSheet, ...]
    threads: tuple[Thread, ...]
    brackets: tuple[MaskBracket, ...]


def evening_plan(found: PlanAnswer, details: dict[str, str]) -> EveningPlan:
    """The evenings of a plan that can be placed; `details` are a few words on each step."""
    if found.schedule is None:
        return EveningPlan((), (), ())
    critical = set(found.schedule.critical_path)
    grave: dict[str, str] = {}
    for finding in reversed(found.findings):  # the gravest comes first, so it is taken last
        grave[finding.step] = finding.severity
    rows = [_row(one, details, critical, grave) for one in stretches(found)]
    sheets = _sheets(_windows(found, rows), rows, parse_evenings(found.question.evenings))
    order = Order(found.question.work)
    brackets = tuple(
        MaskBracket(order[one.mask].id, None if one.off is None else order[one.off].id)
        for one in order.brackets
    )
    return EveningPlan(tuple(sheets), _threads(found), brackets)


def _row(
    one: Stretch, details: Mapping[str, str], critical: Collection[str], grave: Mapping[str, str]
) -> SheetStep:
    """A stretch as one row, a sitting with its parts."""
    parts = tuple(
        SheetStep(
            step.id, one.number, step.name, details.get(step.id, ""), start, end, step.id in critical, step.done,
            grave.get(step.id, ""), serves=step.works_on,
        )
        for step, (start, end) in zip(one.steps, one.spans, strict=True)
    )  # fmt: skip
    first = parts[0]
    if one.piece:
        first = replace(first, detail=_("goes on"))
    if len(parts) == 1:
        return first
    worst = next(
        (part.grave for part in parts if part.grave == "stop"), next((p.grave for p in parts if p.grave), "")
    )
    words = ngettext("{0} at one sitting", "{0} at one sitting", len(parts)).format(len(parts))
    return replace(
        first, detail=words, end=one.end, critical=any(part.critical for part in parts),
        done=all(part.done for part in parts), grave=worst, parts=parts,
    )  # fmt: skip


def _windows(found: PlanAnswer, rows: Sequence[SheetStep]) -> list[Window]:
    """The evenings used, and for steps that were done outside of them the days on which they were."""
    windows = list(found.used)
    for row in rows:
        if not any(
            window.start <= row.start < window.end or window.start <= row.start <= window.end == row.start
            for window in windows
        ):
            windows.append(Window(row.start, max(row.end, row.start + timedelta(minutes=30))))
    merged: list[Window] = []
    for window in sorted(windows, key=lambda one: one.start):
        if (
            merged
            and window.start.date() == merged[-1].start.date()
            and window.start <= merged[-1].end + timedelta(hours=3)
        ):
            merged[-1] = Window(merged[-1].start, max(merged[-1].end, window.end))
        else:
            merged.append(window)
    return merged


def _sheets(
    windows: Sequence[Window], rows: Sequence[SheetStep], evenings: Evenings
) -> Iterator[EveningSheet]:
    """A sheet for each window, and what lies between it and the one before."""
    before: Window | None = None
    for window in windows:
        if before is None:
            yield EveningSheet(window, _on(window, rows))
        else:
            idle = []
            for free in evenings.windows(before.end):
                if free.end > window.start:
                    break
                if free.start.date() > before.end.date():
                    idle.append(free)
            nights = (window.start.date() - before.start.date()).days
            yield EveningSheet(window, _on(window, rows), tuple(idle), nights)
        before = window


def _on(window: Window, rows: Sequence[SheetStep]) -> tuple[SheetStep, ...]:
    mine = [row for row in rows if window.start <= row.start <= window.end]
    return tuple(sorted(mine, key=lambda row: (row.start, row.number)))


def _threads(found: PlanAnswer) -> tuple[Thread, ...]:
    """For every step the wait that holds it longest, where it is long enough to be seen."""
    placed, work = found.placed, found.question.work
    threads = []
    for step, before in zip(work, found.links, strict=True):
        free = [(later(placed[work[i].id].end, wait), wait, work[i].id) for i, wait in before.items()]
        if not free or step.done:
            continue
        _moment, wait, earlier = max(free)
        if timedelta(minutes=wait) >= _SHORTEST_THREAD and not _is_long_past(found, earlier, step.id):
            threads.append(Thread(earlier, step.id, timedelta(minutes=wait)))
    return tuple(threads)


def _is_long_past(found: PlanAnswer, earlier: str, step: str) -> bool:
    placed = found.placed
    return placed[step].start - placed[earlier].end > timedelta(days=9)
