"""The schedule of a plan."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from lean_sepia.errors import PlanError
from lean_sepia.language import _
from lean_sepia.plan.hours.evenings import Evenings
from lean_sepia.plan.hours.wall_clock import later
from lean_sepia.plan.net import Links, links, topological_order
from lean_sepia.plan.order import Order
from lean_sepia.plan.schedule.bench_time import Bench, Hours, WallClock
from lean_sepia.plan.schedule.blocks import Block, Blocks
from lean_sepia.plan.schedule.search import best_placing
from lean_sepia.plan.schedule.serial import Placing, Problem, Task
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.waits.drying import USUAL, Drying

_LONG_AGO = 30 * 24 * 60.0


@dataclass(frozen=True)
class Placed:
    """A step in time; `ready` is its end plus the wait that the following steps need.

    parts : when it is worked on, one evening after the other; one part of what is done without a break
    """

    id: str
    start: datetime
    end: datetime
    ready: datetime
    parts: tuple[tuple[datetime, datetime], ...] = ()


@dataclass(frozen=True)
class Schedule:
    """All steps in the plan's order, when the last one is ready, and what held the finish back."""

    steps: tuple[Placed, ...]
    finish: datetime
    critical_path: tuple[str, ...]
    changes: int = 0


def build_schedule(
    steps: Sequence[PlanStep],
    start: datetime,
    evenings: Evenings,
    drying: Drying = USUAL,
    outdoors: Evenings | None = None,
) -> Schedule:
    """Place every step so that the last is ready as early as order, drying and the evenings allow.

    A plan of up to ten steps is searched through; a larger one starts from three priorities and is changed as long as that helps.
    What works on a step, such as blending, is kept within its second clock where the evenings allow. `outdoors` are the hours of
    steps whose place that is.

    Raises
    ------
    PlanError
        A step is longer than every evening, there are no hours for it, or the plan is circular.
    """
    before = links(steps, drying)
    topological_order(steps, before)
    for step in steps:
        if step.hands_min > evenings.longest_min and not step.done and not step.set_up_min:
            raise PlanError(
                _(
                    "Step {0!r} takes {1:g} min and the longest evening has {2} min. A step is not split: make it two steps, or the evening longer."
                ).format(step.name, step.hands_min, evenings.longest_min)
            )
    if not steps:
        return Schedule((), start, ())
    clock = WallClock(start)
    outside = _daylight(steps, evenings, outdoors)
    indoors = Hours(evenings, clock)
    tasks = [_task(step, drying, clock, outside is not None) for step in steps]
    blocks, net, order = _in_blocks(
        steps, before, min(evenings.longest_min, (outside or evenings).longest_min)
    )
    problem = Problem.of(
        [_whole(block, tasks) for block in blocks.blocks], net, blocks.limits(_limits(steps, drying)), indoors,
        Hours(outside, clock) if outside else indoors,
    )  # fmt: skip
    return _summary(steps, blocks, before, tasks, best_placing(problem, order), clock)


def _in_blocks(
    steps: Sequence[PlanStep], before: Links, longest_min: float
) -> tuple[Blocks, Links, list[int]]:
    """The steps in blocks, what each waits for, and an order of them; sittings whose parts wait for what lies between come apart."""
    for together in (True, False):
        blocks = Blocks.made(steps, longest_min, together=together)
        net = blocks.links(before)
        try:
            return blocks, net, topological_order([steps[b.members[0][0]] for b in blocks.blocks], net)
        except PlanError:
            if not together:
                raise
    raise AssertionError  # the loop ends before


def _whole(block: Block, tasks: Sequence[Task]) -> Task:
    """A block as one task."""
    own = [tasks[index] for index, _minutes in block.members]
    if own[0].fixed is not None:
        return own[0]
    cup = next((task.cup for task in reversed(own) if task.cup), "")
    return Task(block.hands, own[-1].alone, any(task.outdoors for task in own), cup)


def _task(step: PlanStep, drying: Drying, clock: WallClock, outdoor_hours: bool) -> Task:
    fixed = None
    if step.done:  # where nobody knows when, long enough ago that nothing waits for it
        end = clock.minutes(step.end) if step.end is not None else -_LONG_AGO
        fixed = (clock.minutes(step.start) if step.start is not None else end), end
    cup = (step.cup or step.medium or "") if step.sprayed else ""
    outdoors = outdoor_hours and step.place == "outdoors"
    return Task(step.hands_min, drying.alone(step), outdoors, cup, fixed)


def _daylight(steps: Sequence[PlanStep], evenings: Evenings, outdoors: Evenings | None) -> Evenings | None:
    """The evenings as far as they lie in the hours for work outdoors, where some step needs them."""
    outside = [step for step in steps if step.place == "outdoors" and not step.done]
    if outdoors is None or not outside:
        return None
    both = evenings.within(outdoors)
    longest = max(outside, key=lambda step: step.hands_min)
    if both.longest_min < longest.hands_min:
        raise PlanError(
            _("Step {0!r} is done outdoors and takes {1:g} min; the evenings leave {2} min in a row within the hours for outdoors ({3}). Add hours by daylight, or give the step another place.").format(
                longest.name, longest.hands_min, both.longest_min, outdoors.text
            )
        )  # fmt: skip
    return both


def _limits(steps: Sequence[PlanStep], drying: Drying) -> dict[int, tuple[int, float]]:
    """For a step with a second clock, what works on it and the minutes until that is late."""
    order = Order(steps)
    limits: dict[int, tuple[int, float]] = {}
    for index, step in enumerate(order):
        if not step.nature.softens:
            continue
        theirs = [order[order.place[name]] for name in step.works_on if name in order.place]
        for below in theirs or order.open_below(index):
            wait = drying.wait(below, step)
            ends = [value for value in (wait.late, wait.closed) if value is not None]
            if ends and below.nature.leaves_film:
                limits.setdefault(order.place[below.id], (index, min(ends)))
                break
    return limits


def _summary(
    steps: Sequence[PlanStep],
    blocks: Blocks,
    before: Links,
    tasks: Sequence[Task],
    placing: Placing,
    clock: WallClock,
) -> Schedule:
    spans = [_spans(blocks, placing, index) for index in range(len(steps))]
    waits: list[float | None] = [None] * len(steps)
    for then, earlier in enumerate(before):
        for i, wait in earlier.items():
            if steps[i].sitting and steps[i].sitting == steps[then].sitting:
                continue
            waits[i] = max(wait, waits[i] or 0.0)
    ready = [
        spans[index][-1][1] + (task.alone if wait is None else wait)
        for index, (task, wait) in enumerate(zip(tasks, waits, strict=True))
    ]
    finish = max(ready)
    path: list[str] = []
    block: int | None = blocks.of[ready.index(finish)][-1]
    last = ready.index(finish)
    while block is not None and steps[last].id not in path:
        path.append(steps[last].id)
        block = placing.slots[block].cause
        last = blocks.blocks[block].members[-1][0] if block is not None else last
    placed = [
        Placed(
            step.id, clock.moment(span[0][0]), clock.moment(span[-1][1]), clock.moment(when),
            tuple((clock.moment(a), clock.moment(b)) for a, b in span),
        )
        for step, span, when in zip(steps, spans, ready, strict=True)
    ]  # fmt: skip
    _late, _finish, changes = placing.cost()
    return Schedule(tuple(placed), clock.moment(finish), tuple(reversed(path)), changes)


def _spans(blocks: Blocks, placing: Placing, index: int) -> list[tuple[float, float]]:
    """When a step is worked on, in minutes of the clock."""
    found = []
    for number in blocks.of[index]:
        block, slot = blocks.blocks[number], placing.slots[number]
        begin = slot.start + block.offset(index)
        alone = len(block.members) == 1
        found.append((slot.start, slot.end) if alone else (begin, begin + dict(block.members)[index]))
    return found


def lay_without_waiting(steps: Sequence[PlanStep], start: datetime, evenings: Evenings) -> list[PlanStep]:
    """Give steps without dates the time they get when they are done straight through, one after the other."""
    clock = WallClock(start)
    bench, hours, cursor = Bench(), Hours(evenings, clock), 0.0
    dated = []
    for index, step in enumerate(steps):
        length = step.hands_min
        if step.start is None or step.end is None:
            moment = clock.minutes(step.start) if step.start else bench.earliest(hours, cursor, length)[0]
            begin = clock.moment(moment)
            step = step.model_copy(update={"start": begin, "end": step.end or later(begin, length)})
        if step.start and step.end:
            bench.take(clock.minutes(step.start), length, index)
            cursor = max(cursor, clock.minutes(step.end))
        dated.append(step)
    return dated
