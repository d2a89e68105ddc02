"""The schedule against the best of all orders, found without any bound, and the time a large plan takes."""

from __future__ import annotations

import random
import time
from bisect import bisect_right
from collections.abc import Sequence
from datetime import datetime, timedelta

from benchmarks.figure import report
from lean_sepia.plan.hours.evenings import Evenings, parse_evenings
from lean_sepia.plan.net import links
from lean_sepia.plan.plan_file import parse_plan
from lean_sepia.plan.schedule.build import build_schedule
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.waits.drying import USUAL

_START = datetime(2031, 3, 3, 19)
_EVENINGS = parse_evenings("mon-fri 19:00-21:30,sat 10:00-16:00")
_CASES, _STEPS = 200, 8
_KINDS = ("primer", "base", "fade", "camouflage", "chips", "gloss-coat", "matte-coat", "marking")


def random_steps(dice: random.Random, count: int, zones: int, model: str = "") -> list[dict[str, object]]:
    """Steps of one model, some with times of their own and some that wait for others."""
    steps: list[dict[str, object]] = []
    for number in range(count):
        step: dict[str, object] = {
            "id": f"{model}{number}", "model": model, "kind": dice.choice(_KINDS), "zones": [f"z{dice.randrange(zones)}"],
            "material": {"medium": dice.choice(("acrylic-water", "lacquer", "enamel"))}, "hands_on_min": dice.choice((10, 20, 35, 50, 90)),
        }  # fmt: skip
        if dice.random() < 0.5:
            step["touch_dry_min"], step["full_cure_min"] = (
                dice.choice((0, 20, 60, 300)),
                dice.choice((0, 60, 720, 2880)),
            )
        if number and dice.random() < 0.2:
            step["after"] = [f"{model}{dice.randrange(number)}"]
        steps.append(step)
    return steps


def _earliest(
    windows: Sequence[tuple[datetime, datetime]],
    bound: datetime,
    length: timedelta,
    busy: list[tuple[datetime, datetime]],
) -> datetime:
    for begin, end in windows:
        moment = max(begin, bound)
        for one, two in busy:
            if one < moment + length and two > moment:
                moment = two
        if end > bound and moment + length <= end:
            return moment
    raise AssertionError("three years are not enough")


def best_of_all_orders(steps: Sequence[PlanStep], start: datetime, evenings: Evenings) -> datetime:
    """When the last step is ready in the best of all orders that precedence allows: each is tried, nothing is cut."""
    before = links(steps)
    windows = [(w.start, w.end) for w in evenings.windows(start)]
    after: list[list[float]] = [[] for _unused in steps]
    for waits in before:
        for earlier, wait in waits.items():
            after[earlier].append(wait)
    cure = [
        timedelta(minutes=max(after[i]) if after[i] else USUAL.alone(step)) for i, step in enumerate(steps)
    ]
    hands = [timedelta(minutes=step.hands_min) for step in steps]
    best = datetime.max

    def go(ends: dict[int, datetime], busy: list[tuple[datetime, datetime]], finish: datetime) -> None:
        nonlocal best
        if len(ends) == len(steps):
            best = min(best, finish)
            return
        for i in range(len(steps)):
            if i in ends or any(j not in ends for j in before[i]):
                continue
            bound = max([start, *(ends[j] + timedelta(minutes=wait) for j, wait in before[i].items())])
            begin = _earliest(windows, bound, hands[i], busy)
            place = bisect_right(busy, (begin, begin))
            go({**ends, i: begin + hands[i]}, [*busy[:place], (begin, begin + hands[i]), *busy[place:]],
               max(finish, begin + hands[i] + cure[i]))  # fmt: skip

    go({}, [], start)
    return best


def file_order(steps: Sequence[PlanStep], start: datetime, evenings: Evenings) -> datetime:
    """When the last step is ready if they are done in the order of the file, as a list on paper is."""
    chained = [
        step.model_copy(update={"after": (*step.after, *([steps[i - 1].id] if i else []))})
        for i, step in enumerate(steps)
    ]
    return build_schedule(chained, start, evenings).finish


def main() -> bool:
    """No plan of eight steps longer than the best of all orders; 150 steps over three models in half a second."""
    dice = random.Random(20_310_303)
    longer, ours, straight = 0, 0.0, 0.0
    spent = searched = 0.0
    for _case in range(_CASES):
        steps = parse_plan({"steps": random_steps(dice, _STEPS, dice.choice((2, 3, 4, 5)))}).steps
        begin = time.perf_counter()
        found = build_schedule(steps, _START, _EVENINGS).finish
        spent += time.perf_counter() - begin
        begin = time.perf_counter()
        longer += found > best_of_all_orders(steps, _START, _EVENINGS)
        searched += time.perf_counter() - begin
        ours += (found - _START).total_seconds()
        straight += (file_order(steps, _START, _EVENINGS) - _START).total_seconds()
    large = [step for model in "abc" for step in random_steps(dice, 50, 8, model)]
    steps = parse_plan({"steps": large}).steps
    begin = time.perf_counter()
    build_schedule(steps, _START, _EVENINGS)
    whole = time.perf_counter() - begin
    beside = f"{1e3 * spent / _CASES:.1f} ms a plan"
    return all((
        report(f"plans of {_STEPS} steps that end later than the best of all orders, of {_CASES}", longer, 0, "one plan"),
        report("their length", ours / straight, 1.0, "that of the file's order"),
        report("time to find it", spent / searched, 1.0, "that of trying every order", beside),
        report("150 steps over three models, seconds", whole, 0.5, "1 s"),
    ))  # fmt: skip
