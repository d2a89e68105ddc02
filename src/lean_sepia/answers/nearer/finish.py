"""The finish of several zones solved as a whole: bases, fades, filters and dust together, in whole drops and whole passes.

Mix by mix everything that it could be is tried while all else stays, from the bottom to the top and over again, until nothing comes
nearer. What is done or held stays, and no coat is added or left out.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from lean_sepia.answers.nearer.change import Planned
from lean_sepia.answers.nearer.hands.blocks import Block, builders
from lean_sepia.answers.nearer.harm import Standing, on_the_largest
from lean_sepia.answers.nearer.offers import Progress
from lean_sepia.answers.nearer.outcome import UNSURE_SHARE, Offer, outcome_of
from lean_sepia.answers.nearer.stated import what_is_otherwise
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.showing import READABLE_L
from lean_sepia.document.model import Project
from lean_sepia.document.versions import paint_of
from lean_sepia.errors import EditError, SepiaError
from lean_sepia.language import _
from lean_sepia.paint.paint import Knowledge, Paint

MANY = 3  # changes of which an offer is no longer one of a hand
_ROUNDS, _LEAST_GAIN = 6, 0.01
_SPOILT = (
    3.0  # by how much a ΔE00 of contrast that is lost, or an L* of reading, counts more than one of a miss
)
_LOST_DE00 = 0.3


@dataclass(frozen=True, eq=False)
class Guarded:
    """What a solution must not spoil: the least contrast of two tones, and by how much lettering differs in L* from its ground.

    reads : by zone and lettering the least of that: what reading needs, or what there is where it is less
    """

    contrast: Mapping[tuple[str, str], float]
    reads: Mapping[str, Mapping[str, float]]

    @classmethod
    def of(cls, planned: Planned, standing: Standing) -> Guarded:
        """As it is planned."""
        least = {
            pair: min(now, standing.wanted.get(pair, now)) - _LOST_DE00
            for pair, now in standing.contrast.items()
        }
        reads: dict[str, dict[str, float]] = {}
        for coat, lighter in standing.reads.items():
            reads.setdefault(planned.project.coat(coat).zone, {})[coat] = min(READABLE_L, abs(lighter))
        return cls(least, reads)

    def spoilt(self, labs: Mapping[str, FloatArray], others: Mapping[str, FloatArray]) -> FloatArray | float:
        """How much is spoilt by zones whose largest patch is L*a*b* (n, 3), beside others that stay (3,)."""
        total: FloatArray | float = 0.0
        for pair, least in self.contrast.items():
            if any(zone in labs for zone in pair):
                one, other = (labs.get(zone, others.get(zone)) for zone in pair)
                if one is not None and other is not None:
                    total = total + _SPOILT * np.maximum(0.0, least - delta_e00(one, other))
        return total

    def unread(self, zone: str, ground: FloatArray, marks: Mapping[str, FloatArray]) -> FloatArray | float:
        """How much lettering of a zone reads worse: on a ground L*a*b* (n, 3), itself (n, 3) under all that comes later."""
        total: FloatArray | float = 0.0
        for name, least in self.reads.get(zone, {}).items():
            if name in marks:
                total = total + np.maximum(0.0, least - np.abs(marks[name][..., 0] - ground[..., 0])) / 2
        return total


def solve(
    project: Project,
    shelf: Sequence[Paint],
    zones: Collection[str] = (),
    fixed: Collection[str] = (),
    progress: Progress | None = None,
) -> Offer | None:
    """The finish of these zones, all where none are named, solved as a whole; None where nothing comes nearer."""
    first = Planned.of(project, shelf, zones, fixed)
    if not first.judged:
        return None
    standing = Standing.of(first)
    guarded = Guarded.of(first, standing)
    solved = _descended(project, shelf, zones, fixed, guarded, progress or (lambda _share: None))
    touched = [
        zone.id
        for zone in project.zones
        if project.coats_of(zone.id) != solved.coats_of(zone.id) or _mixed_anew(project, solved, zone.id)
    ]
    if not touched:
        return None
    outcome = outcome_of(first, solved, touched, standing)
    used = {version.shelf_id for version in project.paints}
    bottles = tuple(version.name for version in solved.paints if version.shelf_id not in used)
    known = min((paint_of(version).knowledge for version in solved.paints), default=Knowledge.SPECTRAL)
    words = what_is_otherwise(project, solved)
    return Offer(
        words,
        outcome,
        UNSURE_SHARE[known] * outcome.moved,
        bottles,
        lambda document: _taken_over(document, project, solved),
        MANY,
    )


def _taken_over(document: Project, before: Project, solved: Project) -> Project:
    """The solution in the document it was found for."""
    if document is not before and document != before:
        raise EditError(_("The project has changed since this was worked out. Ask again."))
    return solved


def _mixed_anew(before: Project, after: Project, zone: str) -> bool:
    recipes = {coat.recipe for coat in before.coats_of(zone) if coat.recipe}
    known = {recipe.id: recipe for recipe in after.recipes}
    waiting, met = list(recipes), set[str]()
    while waiting:
        name = waiting.pop()
        if name is None or name in met:
            continue
        met.add(name)
        old = before.recipe(name)
        if known.get(name) != old:
            return True
        waiting += [cup for cup, _count in old.cups]
    return False


def _descended(
    project: Project, shelf: Sequence[Paint], zones: Collection[str], fixed: Collection[str], guarded: Guarded, tell: Progress
) -> Project:  # fmt: skip
    """Block by block, round by round; a mix is tried again only where something of its zones is otherwise since."""
    looked: dict[tuple[str, int], tuple[object, ...]] = {}
    for number in range(_ROUNDS):
        before = project
        planned = Planned.of(project, shelf, zones, fixed)
        for recipe in dict.fromkeys(coat.recipe for coat, _coating in planned.free_laid if coat.recipe):
            if all(one.id != recipe for one in project.recipes):
                continue
            for which, build in enumerate(builders(planned, recipe)):
                state = _state(planned, recipe)
                if looked.get((recipe, which)) == state:
                    continue
                project, planned = _best_of(
                    project, planned, build(planned, recipe), guarded, shelf, zones, fixed
                )
                looked[recipe, which] = _state(planned, recipe)
        tell((number + 1) / _ROUNDS)
        if project is before:
            break
    return project


def _state(planned: Planned, recipe: str) -> tuple[object, ...]:
    """What the blocks of a mix follow from: the coats of its zones and all they are mixed of."""
    zones = {coat.zone for coat, _coating in planned.with_cup(recipe)}
    coats = [coat for zone in sorted(zones) for coat, _coating in planned.laid(zone)]
    recipes = [planned.project.recipe(coat.recipe) for coat in coats if coat.recipe]
    cups = [planned.project.recipe(cup) for made in recipes for cup, _count in made.cups]
    return (*coats, *recipes, *cups)


def _best_of(
    project: Project, planned: Planned, block: Block, guarded: Guarded, shelf: Sequence[Paint], zones: Collection[str],
    fixed: Collection[str],
) -> tuple[Project, Planned]:  # fmt: skip
    """The document with the best row of a block, where that comes nearer."""
    if not block.count:
        return project, planned
    gains = _gains(planned, block, guarded)
    best = int(np.argmax(gains))
    if gains[best] < _LEAST_GAIN:
        return project, planned
    try:
        project = block.edit(best)(project)
    except SepiaError:
        return project, planned
    return project, Planned.of(project, shelf, zones, fixed)


def _gains(planned: Planned, block: Block, guarded: Guarded) -> FloatArray:
    """By how much the mean over zones falls with each row, less what is spoilt."""
    judged = max(1, len(planned.judged))
    gains = np.zeros(block.count)
    now = {
        zone: lab
        for zone, course in planned.courses.items()
        if (lab := on_the_largest(course.now)) is not None
    }
    labs: dict[str, FloatArray] = {}
    for zone, effect in block.effects.items():
        course, targets = planned.courses[zone], planned.targets[zone]
        letters = list(guarded.reads.get(zone, ()))
        stages, marks = course.stages_and_marks(effect.on(course.zone), letters)
        main = on_the_largest(stages)
        if main is not None:
            labs[zone] = np.broadcast_to(main, (block.count, 3))
            gains -= guarded.unread(zone, labs[zone], marks) / judged
            gains += (
                guarded.unread(zone, now[zone], course.stages_and_marks(course.zone, letters)[1]) / judged
            )
        for stage, target in targets.items():
            before = float(delta_e00(course.now[stage], target.lab))
            after = delta_e00(np.broadcast_to(stages[stage], (block.count, 3)), target.lab)
            gains += (before - after) / len(targets) / judged
    before_spoilt = guarded.spoilt({zone: now[zone][None, :] for zone in labs if zone in now}, now)
    gains -= (guarded.spoilt(labs, now) - before_spoilt) / judged
    return gains
