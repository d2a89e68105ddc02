"""The best order in which to place steps: all orders of a small plan, tried with bounds; changes that help of a large one."""

from __future__ import annotations

import random
from collections.abc import Sequence

from lean_sepia.plan.schedule.serial import Placing, Problem, place_all

_EXACT, _MOST_NODES = 10, 60_000
_WORK, _MOST_CHANGES = 9_000, 160  # steps placed in all, and changes tried


def best_placing(problem: Problem, order: Sequence[int]) -> Placing:
    """Every step placed so that the last is ready as early as can be found; the same each time."""
    tails = problem.tails(order)
    rank = {index: position for position, index in enumerate(order)}
    tries = [
        place_all(problem, lambda i, bound: (bound, -tails[i])),
        place_all(problem, lambda i, _bound: (-tails[i],)),
        place_all(problem, lambda i, _bound: (float(rank[i]),)),
    ]
    best = min(tries, key=Placing.cost)
    if len(order) <= _EXACT:
        best = _Exact(problem, tails, best).run()
        if best.cost()[2] < len({task.cup for task in problem.tasks if task.cup}):
            return best  # each colour is sprayed once: nothing is left to better
    return _changed(problem, best)


class _Exact:
    """Depth first through the orders that precedence allows, cut where a bound says that nothing better follows."""

    def __init__(self, problem: Problem, tails: Sequence[float], best: Placing) -> None:
        self.problem, self.tails, self.best = problem, tails, best
        self.cost = best.cost()
        self.seen: set[tuple[tuple[int, float], ...]] = set()
        self.nodes = 0

    def run(self) -> Placing:
        """The best of all orders."""
        self._go(Placing(self.problem))
        return self.best

    def _go(self, placing: Placing) -> None:
        if len(placing.slots) == len(self.problem.tasks):
            cost = placing.cost()
            if cost < self.cost:
                self.best, self.cost = placing, cost
            return
        key = tuple(sorted((i, slot.start) for i, slot in placing.slots.items()))
        if key in self.seen or self.nodes > _MOST_NODES:
            return
        self.seen.add(key)
        ready = [i for i in range(len(self.tails)) if self._may_come(placing, i)]
        for index in sorted(ready, key=lambda i: -self.tails[i]):
            self.nodes += 1
            further = placing.copy()
            further.place(index)
            if (further.late, self._bound(further)) < self.cost[:2]:
                self._go(further)

    def _may_come(self, placing: Placing, index: int) -> bool:
        return index not in placing.slots and all(i in placing.slots for i in self.problem.before[index])

    def _bound(self, placing: Placing) -> float:
        """No order of the rest is ready before this: each by itself, and the last of each group that shares the hands."""
        problem = self.problem
        finish = max(problem.ready(i, slot.end) for i, slot in placing.slots.items())
        rest = []
        for i in range(len(self.tails)):
            if i not in placing.slots and problem.tasks[i].fixed is None:
                bound = placing.bound(i)[0]
                start, _blocker = placing.bench.earliest(problem.hours(i), bound, problem.tasks[i].hands)
                finish = max(finish, start + self.tails[i])
                rest.append((self.tails[i] - problem.tasks[i].hands, start, problem.tasks[i].hands))
        rest.sort(reverse=True)
        first, hands = float("inf"), 0.0
        for tail, start, length in rest:
            first, hands = min(first, start), hands + length
            finish = max(finish, first + hands + tail)
        return round(finish, 6)


def _changed(problem: Problem, best: Placing) -> Placing:
    """Take a step out of the order in which steps were placed and put it in elsewhere, as long as that helps."""
    dice = random.Random(len(problem.tasks))
    sequence = sorted(best.slots, key=lambda i: (best.slots[i].start, i))
    cost = best.cost()
    for _try in range(min(_MOST_CHANGES, _WORK // len(sequence))):
        trial = list(sequence)
        moved = trial.pop(dice.randrange(len(trial)))
        trial.insert(max(0, min(len(trial), sequence.index(moved) + dice.randint(-12, 12))), moved)
        rank = {index: float(position) for position, index in enumerate(trial)}
        placing = place_all(problem, lambda i, _bound: (rank[i],))  # noqa: B023
        found = placing.cost()
        if found <= cost:
            best, cost, sequence = placing, found, trial
    return best
