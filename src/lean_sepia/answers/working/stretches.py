"""The plan by the clock: what is done without a break, a sitting as one, long work as one for every evening."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import cached_property

from lean_sepia.answers.plan import PlanAnswer
from lean_sepia.plan.schedule.build import Placed
from lean_sepia.plan.step import PlanStep

Span = tuple[datetime, datetime]


@dataclass(frozen=True)
class Stretch:
    """Steps done one after the other without a break, each with when it is worked on.

    number : of what is done, by the clock; long work has one number on all its evenings, and all of a sitting has one
    piece : which evening of several this is, from 0
    """

    number: int
    steps: tuple[PlanStep, ...]
    spans: tuple[Span, ...]
    piece: int = 0

    @property
    def lead(self) -> PlanStep:
        """The step that it is called by."""
        return self.steps[0]

    @property
    def start(self) -> datetime:
        """When it begins."""
        return self.spans[0][0]

    @property
    def end(self) -> datetime:
        """When it ends."""
        return self.spans[-1][1]

    @cached_property
    def ids(self) -> tuple[str, ...]:
        """The ids of its steps."""
        return tuple(step.id for step in self.steps)


def stretches(found: PlanAnswer) -> tuple[Stretch, ...]:
    """All that is worked on in a plan that can be placed, in order of time; of what was done when nobody kept, nothing."""
    placed, steps = found.placed, {step.id: step for step in found.question.work}
    groups: dict[tuple[str, int], list[tuple[PlanStep, Span]]] = {}
    for name, step in steps.items():
        one = placed.get(name)
        if one is None or _long_done(step):
            continue
        for number, span in enumerate(_parts(one)):
            key = (f"sitting {step.sitting}", number) if step.sitting else (name, number)
            groups.setdefault(key, []).append((step, span))
    made: list[tuple[str, int, list[tuple[PlanStep, Span]]]] = []
    for (name, piece), members in groups.items():
        made += [(name, piece, run) for run in _runs(sorted(members, key=lambda member: member[1]))]
    made.sort(key=lambda one: (one[2][0][1], one[2][-1][1]))
    before = sum(_long_done(step) for step in found.question.work)
    numbers: dict[str, int] = {}
    for name, _piece, _run in made:
        numbers.setdefault(name, before + len(numbers) + 1)
    return tuple(
        Stretch(numbers[name], tuple(step for step, _span in run), tuple(span for _step, span in run), piece)
        for name, piece, run in made
    )


def _long_done(step: PlanStep) -> bool:
    """Whether it was done when nobody kept."""
    return step.done and step.end is None


def _parts(one: Placed) -> tuple[Span, ...]:
    return one.parts or ((one.start, one.end),)


def _runs(members: Sequence[tuple[PlanStep, Span]]) -> list[list[tuple[PlanStep, Span]]]:
    """Members that follow each other without a break."""
    runs: list[list[tuple[PlanStep, Span]]] = []
    for step, span in members:
        last = runs[-1][-1][1] if runs else None
        if last is not None and abs((span[0] - last[1]).total_seconds()) < 1:
            runs[-1].append((step, span))
        else:
            runs.append([(step, span)])
    return runs


def numbers_of(found: PlanAnswer) -> dict[str, int]:
    """The number of every step by the clock; first come those done nobody knows when, last those that cannot be placed."""
    known = {step.id: place for place, step in enumerate(filter(_long_done, found.question.work), start=1)}
    for one in stretches(found):
        for name in one.ids:
            known.setdefault(name, one.number)
    last = max(known.values(), default=0)
    left = (step.id for step in found.question.work if step.id not in known)
    return known | {name: place for place, name in enumerate(left, start=last + 1)}


def in_turn(found: PlanAnswer) -> tuple[PlanStep, ...]:
    """The steps in the order of their numbers, those of one number as they follow each other."""
    numbers, placed = numbers_of(found), found.placed
    return tuple(
        sorted(
            found.question.work,
            key=lambda step: (numbers[step.id], placed[step.id].start if step.id in placed else datetime.max),
        )
    )
