"""Placing steps one after the other, each as early as order, drying, its second clock and the hours allow."""

from __future__ import annotations

import heapq
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from itertools import pairwise

from lean_sepia.plan.net import Links
from lean_sepia.plan.schedule.bench_time import Bench, Hours

_TRIES = 60


@dataclass(frozen=True)
class Slot:
    """When a step is done, and the step whose wait or work set its start; None for the start of the plan."""

    start: float
    end: float
    cause: int | None


@dataclass(frozen=True)
class Task:
    """What placing asks of a step.

    hands : minutes at the bench; alone : minutes until it is ready where nothing follows
    outdoors : whether it is done in the hours for that; cup : what is in the tool, where it is sprayed
    fixed : start and end, where it was done already
    """

    hands: float
    alone: float
    outdoors: bool = False
    cup: str = ""
    fixed: tuple[float, float] | None = None


@dataclass(frozen=True)
class Problem:
    """Steps, what each waits for, by when what works on it must come, and the hours there are."""

    tasks: Sequence[Task]
    before: Links
    limits: dict[int, tuple[int, float]]
    indoors: Hours
    outdoors: Hours
    after: list[list[tuple[int, float]]] = field(default_factory=list)

    @classmethod
    def of(
        cls,
        tasks: Sequence[Task],
        before: Links,
        limits: dict[int, tuple[int, float]],
        indoors: Hours,
        outdoors: Hours,
    ) -> Problem:
        """With what follows each step looked up once."""
        after: list[list[tuple[int, float]]] = [[] for _unused in tasks]
        for index, earlier in enumerate(before):
            for i, wait in earlier.items():
                after[i].append((index, wait))
        return cls(tasks, before, limits, indoors, outdoors, after)

    def hours(self, index: int) -> Hours:
        """The hours in which a step can be done."""
        return self.outdoors if self.tasks[index].outdoors else self.indoors

    def ready(self, index: int, end: float) -> float:
        """When a step is ready for all that follows it, or cured where nothing does."""
        waits = [wait for _then, wait in self.after[index]]
        return end + (max(waits) if waits else self.tasks[index].alone)

    def tails(self, order: Sequence[int]) -> list[float]:
        """Minutes from each step's start to the end of the longest chain behind it."""
        tail = [task.hands for task in self.tasks]
        for index in range(len(tail)):
            tail[index] = self.ready(index, self.tasks[index].hands)
        for index in reversed(order):
            for then, wait in self.after[index]:
                tail[index] = max(tail[index], self.tasks[index].hands + wait + tail[then])
        return tail


@dataclass
class Placing:
    """Steps that are placed so far."""

    problem: Problem
    bench: Bench = field(default_factory=Bench)
    slots: dict[int, Slot] = field(default_factory=dict)
    late: int = 0

    def copy(self) -> Placing:
        """The same, to be filled on."""
        return Placing(self.problem, self.bench.copy(), dict(self.slots), self.late)

    def bound(self, index: int) -> tuple[float, int | None]:
        """Earliest start that drying allows, and the step that sets it."""
        bound, cause = 0.0, None
        for earlier, wait in self.problem.before[index].items():
            slot = self.slots.get(earlier)
            if slot is None:
                continue
            free = slot.end + wait
            if free > bound or (cause is None and free >= bound):
                bound, cause = free, earlier
        return bound, cause

    def place(self, index: int) -> int | None:
        """Place a step; the step that works on it is placed with it where its second clock asks for that, and returned."""
        task = self.problem.tasks[index]
        if task.fixed is not None:
            self.slots[index] = Slot(*task.fixed, None)
            return None
        partner = self._partner(index)
        if partner is None:
            self.place_plain(index)
            return None
        bound, cause = self.bound(index)
        limit, hours = self.problem.limits[index][1], self.problem.hours(index)
        first = None
        for _try in range(_TRIES):
            start, blocker = self.bench.earliest(hours, bound, task.hands)
            slot = Slot(start, start + task.hands, cause if blocker is None else blocker)
            first = first or slot
            then = self._start_of(partner, index, slot)
            if then - slot.end <= limit:
                break
            place = hours.first_after(slot.start + 1e-6)
            inside = hours[place]
            bound = (
                max(then - limit - task.hands, slot.start + 1.0)
                if then - limit - task.hands < inside[1]
                else hours[place + 1][0]
            )
        else:
            slot = first if first is not None else slot
        self._set(index, slot)
        self.place_plain(partner)
        if self.slots[partner].start - self.slots[index].end > limit:
            self.late += 1
        return partner

    def place_plain(self, index: int) -> None:
        """Place a step as early as can be."""
        bound, cause = self.bound(index)
        task = self.problem.tasks[index]
        start, blocker = self.bench.earliest(self.problem.hours(index), bound, task.hands)
        self._set(index, Slot(start, start + task.hands, cause if blocker is None else blocker))

    def _set(self, index: int, slot: Slot) -> None:
        self.bench.take(slot.start, slot.end - slot.start, index)
        self.slots[index] = slot

    def _partner(self, index: int) -> int | None:
        """The step that has to come soon after one, where all else that it waits for is placed."""
        found = self.problem.limits.get(index)
        if found is None or self.problem.tasks[found[0]].fixed is not None:
            return None
        others = self.problem.before[found[0]]
        return found[0] if all(i == index or i in self.slots for i in others) else None

    def _start_of(self, partner: int, index: int, slot: Slot) -> float:
        trial = self.bench.copy()
        trial.take(slot.start, slot.end - slot.start, index)
        bound = max(self.bound(partner)[0], slot.end + self.problem.before[partner][index])
        return trial.earliest(self.problem.hours(partner), bound, self.problem.tasks[partner].hands)[0]

    def cost(self) -> tuple[int, float, int]:
        """What is too late, when all is ready, and how often what is in the tool changes."""
        finish = max((self.problem.ready(i, slot.end) for i, slot in self.slots.items()), default=0.0)
        return self.late, round(finish, 6), self._changes()

    def _changes(self) -> int:
        cups = [
            self.problem.tasks[step].cup for _b, _e, step in self.bench.busy if self.problem.tasks[step].cup
        ]
        return sum(one != two for one, two in pairwise(cups))


def place_all(problem: Problem, priority: Callable[[int, float], tuple[float, ...]]) -> Placing:
    """Place every step, always the first by a priority among those whose turn has come."""
    placing = Placing(problem)
    left = [len(earlier) for earlier in problem.before]
    queue = [(priority(i, 0.0), i) for i in range(len(left)) if not left[i]]
    heapq.heapify(queue)

    def follow(index: int) -> None:
        for then, _wait in problem.after[index]:
            left[then] -= 1
            if not left[then] and then not in placing.slots:
                heapq.heappush(queue, (priority(then, placing.bound(then)[0]), then))

    while queue:
        _unused, index = heapq.heappop(queue)
        if index in placing.slots:
            continue
        partner = placing.place(index)
        follow(index)
        if partner is not None:
            follow(partner)
    return placing
