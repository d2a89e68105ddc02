"""What makes a miss: the share of every coat in it, along the path from the bottom to the top and by leaving it out.

The path begins with the coat that everything above rests on: the topmost that hides what is below it, else the uppermost full
colour. Its share is the miss it has by itself; that of each coat above is by how much it makes the miss larger or smaller where it
comes. What lies below is put under it, from the nearest to the lowest, before anything comes on it, so that what is hidden has no
share. All are seen under the final varnish. The shares add up to the miss; what they leave is named as the rest.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from lean_sepia.answers.nearer.change import Planned, targets_beside
from lean_sepia.answers.nearer.course import Course, Effect, Touch
from lean_sepia.answers.predicting.run import Laid, ZoneCoats, counts_at
from lean_sepia.answers.targets import Target
from lean_sepia.arrays import FloatArray, triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.bounds import Lab
from lean_sepia.document.called import coat_name
from lean_sepia.document.model import Coat, Project
from lean_sepia.paint.film import hides
from lean_sepia.paint.stack import Opaque

WORTH_NAMING_DE00 = 0.5  # a coat that makes less of a miss is not pointed at


@dataclass(frozen=True)
class Part:
    """One coat's part in a miss.

    lab : the colour of the path after it; None of what lies below where the path begins
    share : by how much it makes the miss larger, ΔE00, less than 0 where it brings it nearer; without : the miss without it, None where
        nothing would be left
    """

    coat: Coat
    name: str
    lab: Lab | None
    share: float
    without: float | None


@dataclass(frozen=True)
class Miss:
    """How far a stage of a zone is from its target, and what makes it: the parts bottom first, and what no coat makes."""

    zone: str
    stage: str
    target: Target
    predicted: Lab
    de00: float
    parts: tuple[Part, ...]
    rest: float

    @property
    def path(self) -> list[Part]:
        """The parts that have a colour on the way, bottom first."""
        return [part for part in self.parts if part.lab is not None]

    @property
    def largest(self) -> tuple[Part, float] | None:
        """The coat that makes most of the miss, and how much; None where none makes any.

        It is the one without which the miss would be least, where that gains anything; else the one with the largest share on the path.
        """
        gained = [(part, self.de00 - part.without) for part in self.parts if part.without is not None]
        best = max(gained, key=lambda one: one[1], default=None)
        if best is not None and best[1] >= WORTH_NAMING_DE00:
            return best
        made = max(self.parts, key=lambda part: part.share, default=None)
        return (made, made.share) if made is not None and made.share > 0 else None


def misses(planned: Planned, zone: str) -> list[Miss]:
    """What makes the miss of each stage of a zone that has a target."""
    return _misses(planned.courses[zone], zone, planned.targets[zone])


def misses_of(project: Project, zone: str) -> list[Miss]:
    """The same of a zone of a document."""
    course = Course(ZoneCoats.of(project, zone))
    return _misses(course, zone, targets_beside(project, zone, course))


def _misses(course: Course, zone: str, targets: Mapping[str, Target]) -> list[Miss]:
    if not targets:
        return []
    without = _left_out(course)
    return [
        _miss(course, zone, stage, target, triple(course.now[stage]), without)
        for stage, target in targets.items()
    ]


def _left_out(course: Course) -> dict[str, dict[str, FloatArray]]:
    """The stages of a zone without each of its coats."""
    ids = [coat.id for coat, _coating in course.zone.laid]
    effects = [Effect({name: Touch(out=True)}) for name in ids]
    found = course.with_effects(effects)
    return {name: {stage: labs[row] for stage, labs in found.items()} for row, name in enumerate(ids)}


def _miss(
    course: Course, zone: str, stage: str, target: Target, lab: Lab, without: dict[str, dict[str, FloatArray]]
) -> Miss:
    laid, total = course.zone.laid, float(delta_e00(lab, target.lab))
    counting = [
        counts_at(stage, coat, coating, sheltered_too=course.zone.sheltered_too) for coat, coating in laid
    ]
    first = _begins(laid, counting)
    # The coat it begins with, then what lies below it from the nearest to the lowest, then what comes on it.
    steps = [(n, n, first + 1) for n in range(first, -1, -1)] + [
        (n, 0, n + 1) for n in range(first + 1, len(laid))
    ]
    labs: dict[int, Lab] = {}
    shares = dict.fromkeys(range(len(laid)), 0.0)
    before = 0.0
    for number, low, high in steps:
        colour = _colour(course.zone, laid[low:high], stage)
        if colour is None:
            continue
        away = float(delta_e00(colour, target.lab))
        shares[number], before = away - before, away
        if low == 0:
            labs[high - 1] = colour
    parts = tuple(
        Part(
            coat,
            coat_name(coat),
            labs.get(number),
            shares[number],
            _away(without[coat.id].get(stage), target),
        )
        for number, (coat, _coating) in enumerate(laid)
    )
    return Miss(zone, stage, target, lab, total, parts, total - sum(shares.values()))


def _away(lab: FloatArray | None, target: Target) -> float | None:
    return None if lab is None or np.isnan(lab).any() else float(delta_e00(lab, target.lab))


def _colour(zone: ZoneCoats, laid: Sequence[Laid], stage: str) -> Lab | None:
    """A stage with these coats only, bottom first, under the final varnish of all."""
    only = ZoneCoats(tuple(laid), zone.sheens, zone.sheltered_too, zone.breaks)
    lab = Course(only).now.get(stage)
    return None if lab is None else triple(lab)


def _begins(laid: Sequence[Laid], counting: Sequence[bool]) -> int:
    """Where the path begins: the topmost coat that hides what is below, else the uppermost full colour, else the lowest."""
    full = 0
    for number in range(len(laid) - 1, -1, -1):
        coat, coating = laid[number]
        if (
            not counting[number]
            or coating.covers != "film"
            or coating.share < 1
            or coating.profile
            or coating.body is None
        ):
            continue
        if isinstance(coating.body, Opaque) or bool(hides(coating.body, coating.X)):
            return number
        if not full and (coat.nature.is_colour or coat.nature.is_found):
            full = number
    return full
