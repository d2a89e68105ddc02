"""Every single change tried on a planned finish, all side by side."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Self

import numpy as np

from lean_sepia.answers.nearer.change import Change, Planned
from lean_sepia.answers.nearer.hands.laid_more import laid_more
from lean_sepia.answers.nearer.hands.laid_otherwise import laid_otherwise
from lean_sepia.answers.nearer.hands.mixed_otherwise import mixed_otherwise
from lean_sepia.arrays import FloatArray

LEAST_GAIN = 0.05  # ΔE00: what is less is no gain that anything promises


@dataclass(frozen=True, eq=False)
class Board:
    """Changes tried one by one: for each zone with a target, which of them touch it and what its stages become.

    touching : by zone, the numbers (n,) of the changes that touch it; labs : by zone and stage L*a*b* (n, 3) of each of them
    now : by zone and stage L*a*b* (3,) as planned; gains : (changes,) of the mean over all zones
    """

    changes: tuple[Change, ...]
    now: Mapping[str, Mapping[str, FloatArray]]
    touching: Mapping[str, np.ndarray]
    labs: Mapping[str, Mapping[str, FloatArray]]
    gains: FloatArray

    @classmethod
    def of(cls, planned: Planned, changes: Sequence[Change]) -> Self:
        """Try all of them."""
        judged = planned.judged
        gains = np.zeros(len(changes))
        touching, labs, nows = {}, {}, {}
        for zone in judged:
            course, targets = planned.courses[zone], planned.targets[zone]
            now = nows[zone] = course.now
            numbers = np.array(
                [n for n, change in enumerate(changes) if zone in change.effects], dtype=np.int64
            )
            found = course.with_effects([changes[number].effects[zone] for number in numbers])
            labs[zone] = {
                stage: np.where(np.isnan(found[stage]), now[stage], found[stage]) for stage in targets
            }
            touching[zone] = numbers
            if len(numbers):
                gains[numbers] += (planned.missed(zone, now) - planned.missed(zone, labs[zone])) / len(judged)
        return cls(tuple(changes), nows, touching, labs, gains)


def single_changes(planned: Planned) -> list[Change]:
    """Everything a hand could do otherwise, one thing at a time."""
    return [*laid_otherwise(planned), *mixed_otherwise(planned), *laid_more(planned)]
