"""Rules that need dates: both clocks of every pair of steps."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime, timedelta

from lean_sepia.language import _, clock, day
from lean_sepia.plan.hours.wall_clock import later, minutes_between
from lean_sepia.plan.order import Order
from lean_sepia.plan.rules.finding import Case, Hit
from lean_sepia.plan.step import PlanStep


def _too_soon(case: Case, index: int) -> tuple[PlanStep, datetime] | None:
    """The step below that is longest from being ready when a dated step starts, and when it is."""
    step = case.order[index]
    worst = None
    for below in case.order.waited_for(index):
        if below.end is None or step.start is None or step.done:
            continue
        free = later(below.end, case.drying.wait(below, step).not_before)
        if step.start < free and (worst is None or free > worst[1]):
            worst = below, free
    return worst


def not_cured(case: Case) -> Iterator[Hit]:
    """A dated step that starts before what lies below it is ready for it."""
    for index, step in enumerate(case.order):
        found = _too_soon(case, index) if not step.nature.is_mask else None
        if found and step.start:
            below, free = found
            words = _("{0} starts {1} before {2} is ready for it.").format(
                step.name, _span(timedelta(minutes=minutes_between(step.start, free))), below.name
            )
            yield Hit(step, below, "stop", words, _("Wait until {0}, {1}.").format(day(free), clock(free)))


def mask_before_cure(case: Case) -> Iterator[Hit]:
    """Masking tape on paint that has not cured."""
    for index, step in enumerate(case.order):
        found = _too_soon(case, index) if step.nature.is_mask else None
        if found:
            below, free = found
            words = _("{0}: tape would lift {1}, which cures until {2}, {3}.")
            yield Hit(step, below, "stop", words.format(step.name, below.name, day(free), clock(free)))


def too_late(case: Case) -> Iterator[Hit]:
    """A dated step that works on what can no longer be worked: the second clock has run out."""
    order = case.order
    for index, step in enumerate(order):
        if not step.nature.reworks or step.start is None:
            continue
        for below in _worked_on(order, index):
            if below.end is None:
                continue
            wait = case.drying.wait(below, step)
            age = minutes_between(below.end, step.start)
            if wait.closed is not None and age > wait.closed:
                words = _("{0} comes {1} after {2}, which could be worked for {3}.").format(
                    step.name, _span(timedelta(minutes=age)), below.name, _span(timedelta(minutes=wait.closed)))  # fmt: skip
                yield Hit(step, below, "stop", words)
                break
            if wait.late is not None and age > wait.late:
                words = _("{0} comes {1} after {2}, which is easily worked for {3}.").format(
                    step.name, _span(timedelta(minutes=age)), below.name, _span(timedelta(minutes=wait.late)))  # fmt: skip
                yield Hit(step, below, "note" if wait.harder else "warn", words)
                break


def _worked_on(order: Order, index: int) -> Iterator[PlanStep]:
    """What a step works on: the latest of what lies open there that has a second clock for it, with its masks."""
    step = order[index]
    if step.works_on:
        yield from (
            order[order.place[name]] for name in step.works_on if order.place.get(name, index) < index
        )
        return
    if step.nature.unmasks:
        masks = sorted({i for ground in order.grounds(index) for i in ground.masks}, reverse=True)
        yield from (order[i] for i in masks)
    seen_kind = None
    for below in order.open_below(index):
        if not below.nature.leaves_film or below.loose:
            continue
        if seen_kind is None or below.kind == seen_kind:
            seen_kind = below.kind
            yield below


def _span(delta: timedelta) -> str:
    minutes = round(delta.total_seconds() / 60)
    if minutes < 90:
        return _("{0} min").format(minutes)
    hours = minutes / 60
    return _("{0} h").format(f"{hours:.0f}") if hours < 48 else _("{0} days").format(f"{hours / 24:.0f}")
