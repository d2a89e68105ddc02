"""What every step waits for: one that lies open below it, a mask around it, or one that it is said to come after."""

from __future__ import annotations

import heapq
from collections.abc import Callable, Iterator, Sequence
from graphlib import CycleError, TopologicalSorter

from lean_sepia.errors import PlanError
from lean_sepia.language import _
from lean_sepia.plan.order import Ground, Order, one_model
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.waits.drying import USUAL, Drying

Links = list[dict[int, float]]
"""For every step the earlier ones it waits for, and how many minutes after the end of each it may start."""


_LARGE = 400  # steps, beyond which of those that wait alike only the latest is looked at


def links(steps: Sequence[PlanStep], drying: Drying = USUAL) -> Links:
    """What every step waits for.

    Steps on a shared zone keep their order, and `after` adds to it. A mask, the sprayed steps of its model up to the one that takes it
    off, and that one keep their order whatever their zones.
    """
    order = Order(steps)
    answer: Links = [{} for _unused in order]

    def tie(first: int, then: int, minutes: float) -> None:
        answer[then][first] = max(answer[then].get(first, 0.0), minutes)

    large = len(order) > _LARGE
    alike: list[object] = [_waits_like(step) if large else place for place, step in enumerate(order)]
    for index, step in enumerate(order):
        works_on = [order.place[name] for name in step.works_on if order.place.get(name, index) < index]
        for earlier in works_on:  # both its clocks are theirs, and nobody else's
            tie(earlier, index, _apart(order[earlier], step, drying))
        for ground in order.grounds(index):
            for earlier in () if works_on else _waited_for(order, ground, alike):
                tie(earlier, index, _apart(order[earlier], step, drying))
            if ground.before:
                tie(ground.before[-1], index, 0.0)
        for name in step.after:
            earlier = order.place[name]
            tie(earlier, index, drying.wait(order[earlier], step).not_before)
    _keep_under_masks(order, drying, tie)
    _keep_apart(order, tie)
    return answer


def _waited_for(order: Order, ground: Ground, alike: Sequence[object]) -> Iterator[int]:
    """What a step waits for in one zone: of those that wait alike the latest, which ends last."""
    met: set[object] = set()
    stated = [i for i in ground.before if order[i].states_time]
    for earlier in sorted({*ground.open, *stated}, reverse=True):
        if alike[earlier] not in met:
            met.add(alike[earlier])
            yield earlier


def _apart(below: PlanStep, then: PlanStep, drying: Drying) -> float:
    """The wait between two steps; none within what is done at one go."""
    if below.sitting and below.sitting == then.sitting:
        return 0.0
    return drying.wait(below, then).not_before


def _waits_like(step: PlanStep) -> tuple[object, ...]:
    """All that decides how long what follows a step must wait."""
    return (
        step.kind,
        step.medium,
        step.tool,
        step.solvent,
        step.mask,
        step.touch_dry_min,
        step.full_cure_min,
        step.sitting,
    )


def _keep_under_masks(order: Order, drying: Drying, tie: Callable[[int, int, float], None]) -> None:
    """A mask, the sprays that the plan puts under it and the step that takes it off keep their order."""
    for bracket in order.brackets:
        sprays = order.sprays_under(bracket)
        first = bracket.mask
        for then in sprays:
            skin = drying.wait(order[first], order[then]).not_before if first == bracket.mask else 0.0
            tie(first, then, skin)
            first = then
        if bracket.off is not None:
            for before in (bracket.mask, *sprays):
                tie(before, bracket.off, drying.wait(order[before], order[bracket.off]).not_before)


def _keep_apart(order: Order, tie: Callable[[int, int, float], None]) -> None:
    """What was painted off the model is put on it only after all that the plan sprays beside it before that."""
    for index, step in enumerate(order):
        if not step.nature.joins or not any(before.apart for before in order.earlier(index)):
            continue
        for earlier in range(index):
            spray = order[earlier]
            if spray.sprayed and spray.nature.leaves_film and one_model(spray.model, step.model):
                tie(earlier, index, 0.0)


def check_steps(steps: Sequence[PlanStep]) -> None:
    """Refuse plans that cannot be meant.

    Raises
    ------
    PlanError
        Two steps share an id, `after` names an unknown step, the order is circular, an end is before its start, or a step must
        be done before it can be.
    """
    index: dict[str, int] = {}
    for position, step in enumerate(steps):
        if step.id in index:
            raise PlanError(
                _("Two steps have the id {0!r}. Give each step an id of its own.").format(step.id)
            )
        index[step.id] = position
        if step.start and step.end and step.end < step.start:
            raise PlanError(_("Step {0!r} ends before it starts. Swap its start and end.").format(step.id))
        _check_clocks(step)
    for step in steps:
        for name in step.after:
            if name not in index:
                raise PlanError(
                    _("Step {0!r} comes after {1!r}, which is not in the plan.").format(step.id, name)
                )
    topological_order(steps, links(steps))


def _check_clocks(step: PlanStep) -> None:
    """A step cannot be workable for longer than it can be removed."""
    work, off = step.workable_until_min, step.removable_until_min
    if work is not None and off is not None and work > off:
        raise PlanError(
            _("Step {0!r} is to be workable for {1:g} min and removable for {2:g} min: what can be worked can be removed. Make the second at least as long.").format(step.id, work, off)
        )  # fmt: skip


def topological_order(steps: Sequence[PlanStep], before: Links) -> list[int]:
    """Indices in an order that keeps every predecessor first, file order otherwise.

    Raises
    ------
    PlanError
        The steps wait for each other in a circle; the message names them.
    """
    sorter = TopologicalSorter({index: set(earlier) for index, earlier in enumerate(before)})
    try:
        sorter.prepare()
    except CycleError as error:
        stuck = ", ".join(repr(steps[i].id) for i in sorted(set(error.args[1])))
        raise PlanError(
            _(
                "Steps {0} wait for each other in a circle: steps on a shared zone keep the file's order, and `after` adds to it."
            ).format(stuck)
        ) from None
    order: list[int] = []
    ready: list[int] = []
    while sorter.is_active():
        for index in sorter.get_ready():
            heapq.heappush(ready, index)
        order.append(heapq.heappop(ready))
        sorter.done(order[-1])
    return order
