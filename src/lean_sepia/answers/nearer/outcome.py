"""What comes of a change, by the document as it is with it, and a change as it is offered."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import partial

import numpy as np

from lean_sepia.answers.nearer.board import LEAST_GAIN
from lean_sepia.answers.nearer.change import Change, Edit, Planned
from lean_sepia.answers.nearer.course import Course
from lean_sepia.answers.nearer.harm import Standing, harms
from lean_sepia.answers.predicting.run import ZoneCoats
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.model import Project
from lean_sepia.document.work import bench_minutes
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.paint.paint import Knowledge
from lean_sepia.plan.traits.kind import Room

UNSURE_SHARE = {Knowledge.SPECTRAL: 0.1, Knowledge.TWO_CONSTANT: 0.2, Knowledge.ONE_CONSTANT: 0.35}
"""By what share the move of a colour that a change promises may come out larger or smaller, by how well its paints are known."""


@dataclass(frozen=True, eq=False)
class Outcome:
    """What a document that is otherwise in some zones brings.

    zones : mean ΔE00 over the stages of each before and after; labs : of each stage before and after
    gain : by how much the mean over all zones with a target falls; moved : by how much its colours change, ΔE00
    minutes : more at the bench, less than 0 where it is less; harms : what it spoils, in words
    """

    zones: Mapping[str, tuple[float, float]]
    labs: Mapping[str, Mapping[str, tuple[FloatArray, FloatArray]]]
    gain: float
    moved: float
    minutes: float
    harms: tuple[str, ...]


@dataclass(frozen=True, eq=False)
class Offer:
    """A change, or several at once, with what it brings.

    unsure : how far the gain may come out otherwise; bottles : that are needed besides those in use
    room : where the first coat that is otherwise is worked on
    """

    words: str
    outcome: Outcome
    unsure: float
    bottles: tuple[str, ...]
    edit: Edit = field(repr=False)
    changes: int = 1
    room: Room = "match"

    @property
    def gain(self) -> float:
        """By how much the mean over all zones with a target falls, ΔE00."""
        return self.outcome.gain

    @property
    def sure(self) -> bool:
        """Whether it gains more than it may come out otherwise."""
        return self.gain > max(self.unsure, LEAST_GAIN)


def as_it_comes_out(planned: Planned, changes: Sequence[Change], standing: Standing) -> Offer | None:
    """An offer of changes, by the document as it is with them; None where it cannot be so."""
    project = planned.project
    try:
        for change in changes:
            project = change.edit(project)
    except SepiaError:
        return None
    touched = sorted({zone for change in changes for zone in change.effects})
    outcome = outcome_of(planned, project, touched, standing)
    known = min(change.known for change in changes)
    return Offer(
        _("; ").join(change.words for change in changes), outcome, UNSURE_SHARE[known] * outcome.moved,
        tuple(dict.fromkeys(name for change in changes for name in change.bottles)), partial(all_of, edits=[c.edit for c in changes]),
        len(changes), _room_of(planned, changes[0]),
    )  # fmt: skip


def all_of(project: Project, edits: Sequence[Edit]) -> Project:
    """Several edits as one."""
    for edit in edits:
        project = edit(project)
    return project


def _room_of(planned: Planned, change: Change) -> Room:
    """Where the first coat that a change touches or adds is worked on."""
    for zone, effect in change.effects.items():
        coats = [coat for coat, _coating in planned.laid(zone) if coat.id in effect.touches]
        coats += [coat for _after, (coat, _coating) in effect.added]
        for coat in coats:
            if coat.nature.room != "plan":
                return coat.nature.room
    return "match"


def outcome_of(planned: Planned, project: Project, touched: Sequence[str], standing: Standing) -> Outcome:
    """What a document that is otherwise in some zones brings, beside the one that is planned."""
    zones, labs, moved, gain, judged = {}, {}, 0.0, 0.0, max(1, len(planned.judged))
    stages = {zone: Course(ZoneCoats.of(project, zone)).now for zone in touched}
    for zone, then in stages.items():
        targets, now = planned.targets[zone], planned.courses[zone].now
        if not targets:
            continue
        labs[zone] = {stage: (now[stage], then.get(stage, now[stage])) for stage in targets}
        first, last = ({stage: pair[n] for stage, pair in labs[zone].items()} for n in (0, 1))
        before, after = float(planned.missed(zone, first)), float(planned.missed(zone, last))
        zones[zone] = before, after
        gain += (before - after) / judged
        moved += float(np.mean([delta_e00(*pair) for pair in labs[zone].values()])) / judged
    taken = bench_minutes(project, standing.minutes)
    minutes = sum(m for _coats, m in taken.values()) - sum(m for _coats, m in standing.minutes.values())
    return Outcome(zones, labs, gain, moved, minutes, harms(planned, project, stages, standing, zones))
