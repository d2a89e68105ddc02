"""Where a step comes: by its phase and the schools, then so that as little as possible speaks against it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Mapping, Sequence

from lean_sepia.plan.rules.finding import weight_of
from lean_sepia.plan.rules.table import check_plan
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.traits.said import Phase

_UPSIDE_DOWN, _WORTH_A_SEARCH = 1_000_000, 100  # against the weight of findings
_MOST_TRIED, _MOST_TURNED, _ROUNDS = 20, 5, 16
_MOST_PLACES = 120
_WORK = 20_000  # steps looked at in all


def phase(step: PlanStep, schools: Mapping[str, str], others: Sequence[PlanStep] = ()) -> Phase:
    """When in the work a step usually comes, as the schools say; `others` are the steps there are beside it."""
    nature = step.nature
    for other in nature.otherwise:
        if schools.get(other.question) == other.choice:
            return other.phase
    if nature.shines and _seals_markings(step, schools, others):
        return Phase.SEALING
    loose = any(one.loose for one in others) if nature.wipes else step.loose
    return nature.phase if loose or nature.phase_wet is None else nature.phase_wet


def _seals_markings(step: PlanStep, schools: Mapping[str, str], others: Sequence[PlanStep]) -> bool:
    """Whether a gloss or satin coat is not the one that markings lie on, but the one over them, under filters and washes."""
    if schools.get("decals") in ("smooth", "on-matte"):
        return True
    markings = [other for other in others if other.nature.is_marking and other.shares_zone(step)]
    if markings and not any(other.nature.is_print for other in markings):
        return True  # painted lettering wants no sheen below it
    return any(other.nature.shines and other.shares_zone(step) for other in others)


def place_of(steps: Sequence[PlanStep], step: PlanStep, schools: Mapping[str, str]) -> int:
    """Where a step comes among others: the place against which least speaks, the nearest to its phase of those.

    What counts is the sequence on its own zones, with the masks that are on. No place that would have it change sides with a coat
    there is looked at: what is said against a coat where it belongs is told, and never pushes it under its ground.
    """
    usual = _usual_place(steps, step, schools)
    near = [
        i
        for i, other in enumerate(steps)
        if other.shares_zone(step) or other.nature.is_mask or other.nature.lifts
    ]
    own, start = [steps[i] for i in near], sum(i < usual for i in near)
    best = _cost([*own[:start], step, *own[start:]], schools)
    if best < _WORTH_A_SEARCH or best <= _cost(own, schools):
        return usual
    low, high = _between_its_neighbours(own, step, schools, start)
    places = sorted(range(low, high + 1), key=lambda i: (abs(i - start), -i))[:_MOST_PLACES]
    found = start
    for place in places:
        cost = _cost([*own[:place], step, *own[place:]], schools)
        if cost < best:
            best, found = cost, place
    first, last = (near[found - 1] + 1 if found else 0), (near[found] if found < len(near) else len(steps))
    return min(max(usual, first), last)


def _between_its_neighbours(
    steps: Sequence[PlanStep], step: PlanStep, schools: Mapping[str, str], usual: int
) -> tuple[int, int]:
    """The first and the last place between the coats of its zones that come before it and after it by their phases."""
    mine = phase(step, schools, steps)
    low, high = 0, len(steps)
    for index, other in enumerate(steps):
        if not other.shares_zone(step) or other.nature.covers == "nothing":
            continue
        theirs = phase(other, schools, [s for s in steps if s is not other])
        if index < usual and theirs < mine:
            low = index + 1
        elif index >= usual and theirs > mine:
            high = min(high, index)
    return low, high


def _usual_place(steps: Sequence[PlanStep], step: PlanStep, schools: Mapping[str, str]) -> int:
    """The latest place at which the fewest others are on the wrong side of it, those on its zones above all."""
    mine = phase(step, schools, steps)
    wrong = [(1 if other.shares_zone(step) else 0.01) for other in steps]
    phases = [phase(other, schools, [s for s in steps if s is not other]) for other in steps]
    cost = sum(weight for weight, other in zip(wrong, phases, strict=True) if other < mine)
    place, best = 0, cost
    for index, (weight, other) in enumerate(zip(wrong, phases, strict=True)):
        cost += weight if other > mine else -weight if other < mine else 0.0
        if cost <= best + 1e-9:
            place, best = index + 1, cost
    return place


def _cost(steps: Sequence[PlanStep], schools: Mapping[str, str]) -> int:
    """What speaks against an order; above all that something lies under the coat that is to be its ground."""
    upside_down = sum(
        steps[i].nature.on_a_ground and steps[i].shares_zone(coat)
        for j, coat in enumerate(steps)
        if coat.is_full_coat
        for i in range(j)
    )
    return upside_down * _UPSIDE_DOWN + weight_of(check_plan(steps, schools))


class _Phases:
    """The phases of steps and which of them share a zone, looked up once: neither depends on the order."""

    def __init__(self, steps: Sequence[PlanStep], schools: Mapping[str, str]) -> None:
        self.of = {step.id: phase(step, schools, [s for s in steps if s is not step]) for step in steps}
        self._together = {
            (one.id, two.id) for one in steps for two in steps if one is not two and one.shares_zone(two)
        }

    def turned(self, order: Sequence[PlanStep]) -> list[tuple[str, str]]:
        """Pairs on a shared zone that are not in the order of their phases."""
        return [
            (one.id, two.id)
            for i, one in enumerate(order)
            for two in order[i + 1 :]
            if self.of[one.id] > self.of[two.id] and (one.id, two.id) in self._together
        ]


def against_phases(steps: Sequence[PlanStep], schools: Mapping[str, str]) -> int:
    """How many pairs of steps on a shared zone are not in the order of their phases."""
    return len(_Phases(steps, schools).turned(steps))


def arranged(
    steps: Sequence[PlanStep],
    schools: Mapping[str, str],
    movable: Collection[str],
    laid: Collection[str] = (),
) -> tuple[PlanStep, ...]:
    """The steps with those that may be moved put where nothing speaks against them, as far as an order can do that, and in their phases.

    Steps that wait for each other by `after` keep their order, and so do steps on a common zone in which coats are laid or which
    work on what lies there: what lies on what is the user's word. laid : ids of the steps in which coats are laid
    """
    bound = frozenset(laid)
    order, phases = list(steps), _Phases(steps, schools)
    best = _cost(order, schools), len(phases.turned(order))
    left = _WORK // max(1, len(order))
    for _round in range(_ROUNDS):
        trials = [
            trial for step in _tried(order, schools, phases, movable) for trial in _moves(order, step, bound)
        ][:left]
        left -= len(trials)
        costed = (
            (_cost(trial, schools), len(phases.turned(trial)), number) for number, trial in enumerate(trials)
        )
        cost, turned, number = min(costed, default=(*best, 0))
        if (cost, turned) >= best:
            break
        order, best = trials[number], (cost, turned)
    return tuple(order)


def _tried(
    order: list[PlanStep], schools: Mapping[str, str], phases: _Phases, movable: Collection[str]
) -> list[PlanStep]:
    """Steps that there are words about, and those that are furthest from the order of their phases."""
    named = {name for f in check_plan(order, schools) for name in (f.step, f.after) if name in movable}
    counts = Counter(name for pair in phases.turned(order) for name in pair if name in movable)
    named |= {name for name, _count in counts.most_common(_MOST_TURNED)}
    return [step for step in order if step.id in named][:_MOST_TRIED]


def keep_their_order(one: PlanStep, other: PlanStep, bound: Collection[str]) -> bool:
    """Whether two steps may not change sides: one works on the other, or both lay coats or work on what lies on a common zone."""
    if one.id in other.works_on or other.id in one.works_on:
        return True
    shaping = all(step.id in bound or step.works_on for step in (one, other))
    return shaping and one.shares_zone(other)


def _moves(order: list[PlanStep], step: PlanStep, bound: Collection[str]) -> list[list[PlanStep]]:
    """The order with one step at every other place that what it waits for, what waits for it and what lies on what allow."""
    index = order.index(step)
    rest = order[:index] + order[index + 1 :]
    low = max((i + 1 for i, other in enumerate(rest) if other.id in step.after), default=0)
    high = min((i for i, other in enumerate(rest) if step.id in other.after), default=len(rest))
    for i, other in enumerate(rest):
        if keep_their_order(step, other, bound):
            low, high = (max(low, i + 1), high) if i < index else (low, min(high, i))
    return [[*rest[:place], step, *rest[place:]] for place in range(low, high + 1) if place != index]
