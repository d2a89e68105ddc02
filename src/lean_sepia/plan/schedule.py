"""When each step starts: one pair of hands, inside the evenings, waits in calendar time."""

from __future__ import annotations

import heapq
from bisect import bisect_left, bisect_right, insort
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import islice

from lean_sepia.errors import PlanError
from lean_sepia.language import _
from lean_sepia.plan.evenings import Evenings, Window
from lean_sepia.plan.step import PlanStep, predecessors, topological_order


@dataclass(frozen=True)
class Placed:
    """A step in time; `ready` is its end plus the wait that the following steps need."""

    id: str
    start: datetime
    end: datetime
    ready: datetime


@dataclass(frozen=True)
class Schedule:
    """All steps in the plan's order, when the last one is ready, and what held the finish back."""

    steps: tuple[Placed, ...]
    finish: datetime
    critical_path: tuple[str, ...]


@dataclass(frozen=True)
class _Net:
    """The steps, what each waits for, and how many minutes: looked up once, asked for again and again."""

    steps: Sequence[PlanStep]
    before: list[list[int]]
    waits: list[list[float]]

    @classmethod
    def of(cls, steps: Sequence[PlanStep]) -> _Net:
        before = predecessors(steps)
        waits = [
            [steps[i].wait_before(step) for i in earlier] for step, earlier in zip(steps, before, strict=True)
        ]
        return cls(steps, before, waits)

    def links(self, index: int) -> Iterator[tuple[int, float]]:
        """The steps that one waits for, and the minutes after their ends."""
        return zip(self.before[index], self.waits[index], strict=True)


@dataclass(frozen=True)
class _Slot:
    start: datetime
    end: datetime
    cause: int | None  # the step whose wait or work set this start; None for the start of the plan


class _Bench:
    """The hands' calendar: evenings, less what is already placed."""

    def __init__(self, evenings: Evenings, start: datetime) -> None:
        self._source = evenings.windows(start)
        self._windows: list[Window] = []
        self._busy: list[tuple[datetime, datetime, int]] = []
        self._longest = timedelta()

    def _window(self, index: int) -> Window:
        while len(self._windows) <= index:
            window = next(self._source, None)
            if window is None:
                raise PlanError(
                    _("The plan does not end within three years of these evenings. Add bench time.")
                )
            self._windows.append(window)
        return self._windows[index]

    def earliest(self, bound: datetime, length: timedelta) -> tuple[datetime, int | None]:
        """First start at or after `bound` that fits whole into an evening, and the step that was in the way."""
        blocker = None
        index = bisect_left(self._windows, bound, key=lambda window: window.end)
        while True:
            window = self._window(index)
            index += 1
            moment, blocking = self._past_what_is_busy(max(bound, window.start), length, window.end)
            blocker = blocker if blocking is None else blocking
            if moment + length <= window.end:
                return moment, blocker

    def _past_what_is_busy(
        self, moment: datetime, length: timedelta, limit: datetime
    ) -> tuple[datetime, int | None]:
        """The first moment from which the hands are free for so long, looked for up to a limit, and what was in the way."""
        blocker = None
        first = bisect_right(self._busy, moment - self._longest, key=lambda busy: busy[0])
        for begin, end, step in islice(self._busy, first, None):
            if begin >= limit:
                break
            if begin < moment + length and end > moment:
                moment, blocker = end, step
        return moment, blocker

    def take(self, start: datetime, length: timedelta, step: int) -> None:
        """Mark the hands as busy."""
        if length:
            insort(self._busy, (start, start + length, step))
            self._longest = max(self._longest, length)


def build_schedule(steps: Sequence[PlanStep], start: datetime, evenings: Evenings) -> Schedule:
    """Place every step as early as order, drying and the evenings allow.

    Steps are placed one after the other by a priority; three priorities are tried and the earliest finish kept.

    Raises
    ------
    PlanError
        A step is longer than every evening, or the plan is circular.
    """
    order = topological_order(steps)
    for step in steps:
        if step.hands_on_min > evenings.longest_min:
            raise PlanError(
                _(
                    "Step {0!r} takes {1:g} min and the longest evening has {2} min. A step is not split: make it two steps, or the evening longer."
                ).format(step.id, step.hands_on_min, evenings.longest_min)
            )
    if not steps:
        return Schedule((), start, ())
    net = _Net.of(steps)
    tail = _tails(net, order)
    rank = {index: position for position, index in enumerate(order)}
    priorities: tuple[Callable[[int, datetime], tuple[float, ...]], ...] = (
        lambda i, bound: (bound.timestamp(), -tail[i]),
        lambda i, _bound: (-tail[i],),
        lambda i, _bound: (float(rank[i]),),
    )
    answers = [_place(net, start, evenings, priority) for priority in priorities]
    readies = [_ready(net, slots) for slots in answers]
    best = min(range(len(answers)), key=lambda number: max(readies[number]))
    return _summary(steps, answers[best], readies[best])


def _tails(net: _Net, order: Sequence[int]) -> list[float]:
    """Minutes from each step's start to the end of the longest chain behind it."""
    tail = [step.hands_on_min + step.full_cure_min for step in net.steps]
    for index in reversed(order):
        for earlier, wait in net.links(index):
            chain = net.steps[earlier].hands_on_min + wait + tail[index]
            tail[earlier] = max(tail[earlier], chain)
    return tail


def _place(
    net: _Net,
    start: datetime,
    evenings: Evenings,
    priority: Callable[[int, datetime], tuple[float, ...]],
) -> list[_Slot]:
    steps = net.steps
    bench = _Bench(evenings, start)
    slots: dict[int, _Slot] = {}
    following: list[list[int]] = [[] for _unused in steps]
    for index, earlier in enumerate(net.before):
        for i in earlier:
            following[i].append(index)
    left = [len(earlier) for earlier in net.before]

    def entry(index: int) -> tuple[tuple[float, ...], int]:
        return priority(index, _bound(net, slots, start, index)[0]), index

    queue = [entry(index) for index in range(len(steps)) if not left[index]]
    heapq.heapify(queue)
    while queue:
        _unused, index = heapq.heappop(queue)
        bound, cause = _bound(net, slots, start, index)
        length = timedelta(minutes=steps[index].hands_on_min)
        moment, blocker = bench.earliest(bound, length)
        bench.take(moment, length, index)
        slots[index] = _Slot(moment, moment + length, cause if blocker is None else blocker)
        for later in following[index]:
            left[later] -= 1
            if not left[later]:
                heapq.heappush(queue, entry(later))
    return [slots[index] for index in range(len(steps))]


def _bound(net: _Net, slots: dict[int, _Slot], start: datetime, index: int) -> tuple[datetime, int | None]:
    """Earliest start that drying allows, and the step that sets it."""
    bound, cause = start, None
    for earlier, wait in net.links(index):
        free = slots[earlier].end + timedelta(minutes=wait)
        if free > bound or (cause is None and free >= bound):
            bound, cause = free, earlier
    return bound, cause


def _ready(net: _Net, slots: Sequence[_Slot]) -> list[datetime]:
    """When each step is ready for all that follows it, or cured where nothing does."""
    longest: list[float | None] = [None] * len(net.steps)
    for index in range(len(net.steps)):
        for earlier, wait in net.links(index):
            longest[earlier] = max(longest[earlier] or 0.0, wait)
    return [
        slot.end + timedelta(minutes=step.full_cure_min if wait is None else wait)
        for step, slot, wait in zip(net.steps, slots, longest, strict=True)
    ]


def _summary(steps: Sequence[PlanStep], slots: Sequence[_Slot], ready: Sequence[datetime]) -> Schedule:
    finish = max(ready)
    path = []
    index: int | None = ready.index(finish)
    while index is not None:
        path.append(steps[index].id)
        index = slots[index].cause
    placed = [
        Placed(step.id, slot.start, slot.end, when)
        for step, slot, when in zip(steps, slots, ready, strict=True)
    ]
    return Schedule(tuple(placed), finish, tuple(reversed(path)))


def lay_without_waiting(steps: Sequence[PlanStep], start: datetime, evenings: Evenings) -> list[PlanStep]:
    """Give steps without dates the time they get when they are done straight through, one after the other."""
    bench = _Bench(evenings, start)
    cursor = start
    dated = []
    for index, step in enumerate(steps):
        if step.start is None or step.end is None:
            length = timedelta(minutes=step.hands_on_min)
            moment = step.start or bench.earliest(cursor, length)[0]
            step = step.model_copy(update={"start": moment, "end": step.end or moment + length})
        bench.take(step.start or cursor, timedelta(minutes=step.hands_on_min), index)
        cursor = step.end or cursor
        dated.append(step)
    return dated
