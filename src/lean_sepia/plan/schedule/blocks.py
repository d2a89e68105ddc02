"""What is done without a break: a step, a sitting of several, or the part of a long step that fits one evening."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from lean_sepia.plan.hours.bench_minutes import FURTHER_COLOUR
from lean_sepia.plan.net import Links
from lean_sepia.plan.step import PlanStep


@dataclass(frozen=True)
class Block:
    """Steps by their index, one after the other, each with its minutes there."""

    members: tuple[tuple[int, float], ...]

    @property
    def hands(self) -> float:
        """Minutes in all."""
        return sum(minutes for _index, minutes in self.members)

    def offset(self, index: int) -> float:
        """Minutes from its begin until a step begins."""
        before = 0.0
        for one, minutes in self.members:
            if one == index:
                return before
            before += minutes
        raise ValueError(index)

    def tail(self, index: int) -> float:
        """Minutes from the end of a step until its own end."""
        return self.hands - self.offset(index) - dict(self.members)[index]


@dataclass(frozen=True)
class Blocks:
    """All blocks, and for every step those it is done in, in order."""

    blocks: tuple[Block, ...]
    of: tuple[tuple[int, ...], ...]

    @classmethod
    def made(cls, steps: Sequence[PlanStep], longest_min: float, *, together: bool = True) -> Blocks:
        """Sittings as one block each, as far as an evening holds them; long work that was worked out over several evenings."""
        blocks: list[Block] = []
        of: list[list[int]] = [[] for _step in steps]
        done: set[int] = set()
        for index, step in enumerate(steps):
            if index in done:
                continue
            sitting = [
                i for i, other in enumerate(steps)
                if i == index or (together and step.sitting and other.sitting == step.sitting and not (other.done or step.done))
            ]  # fmt: skip
            done.update(sitting)
            for members in _packed(_of_one_go(steps, sitting), longest_min):
                for i, _minutes in members:
                    of[i].append(len(blocks))
                blocks.append(Block(tuple(members)))
        return cls(tuple(blocks), tuple(map(tuple, of)))

    def links(self, before: Links) -> Links:
        """What every block waits for, and how long after the end of it."""
        answer: Links = [{} for _block in self.blocks]

        def tie(first: int, then: int, minutes: float) -> None:
            if first != then:
                answer[then][first] = max(answer[then].get(first, 0.0), minutes)

        for places in self.of:
            for one, two in pairwise(places):
                tie(one, two, 0.0)
        for index, earlier in enumerate(before):
            then = self.of[index][0]
            for i, wait in earlier.items():
                first = self.of[i][-1]
                tie(
                    first, then, max(0.0, wait - self.blocks[first].tail(i) - self.blocks[then].offset(index))
                )
        return answer

    def limits(self, limits: dict[int, tuple[int, float]]) -> dict[int, tuple[int, float]]:
        """Second clocks from block to block."""
        found: dict[int, tuple[int, float]] = {}
        for index, (partner, minutes) in limits.items():
            first, then = self.of[index][-1], self.of[partner][0]
            if first != then:
                found.setdefault(first, (then, minutes))
        return found


def _of_one_go(steps: Sequence[PlanStep], sitting: Sequence[int]) -> list[tuple[int, float]]:
    """The steps of a sitting with their minutes: one set-up, and a short one for each further colour in the same airbrush."""
    members: list[tuple[int, float]] = []
    for number, index in enumerate(sitting):
        step = steps[index]
        saved = 0.0
        if number and step.set_up_min:
            other_colour = step.sprayed and step.cup != steps[sitting[number - 1]].cup
            saved = step.set_up_min - (FURTHER_COLOUR if other_colour else 0.0)
        members.append((index, max(0.0, step.hands_min - saved)))
    return members


def _packed(members: Sequence[tuple[int, float]], longest_min: float) -> list[list[tuple[int, float]]]:
    """Members in as few evenings as hold them; one that is longer than an evening by itself is divided evenly."""
    packed: list[list[tuple[int, float]]] = [[]]
    for index, minutes in members:
        pieces = max(1, math.ceil(minutes / longest_min - 1e-9)) if longest_min > 0 else 1
        for _piece in range(pieces):
            part = minutes / pieces
            if packed[-1] and sum(m for _i, m in packed[-1]) + part > longest_min + 1e-9:
                packed.append([])
            packed[-1].append((index, part))
    return packed
