"""What a change would spoil: the contrast between tones of a surface, lettering that must read, other zones."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Self

from lean_sepia.answers.coats.showing import showing_of
from lean_sepia.answers.nearer.change import Planned
from lean_sepia.answers.nearer.course import Course
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.showing import READABLE_L
from lean_sepia.document.called import coat_name
from lean_sepia.document.model import Project
from lean_sepia.document.work import Taken, bench_minutes
from lean_sepia.language import _

_LOSES_DE00 = 0.3  # contrast that is lost and seen
_WORSE_DE00 = 0.1
_READS_WORSE_L = 2.0
Pair = tuple[str, str]


@dataclass(frozen=True, eq=False)
class Standing:
    """How things stand as planned: the contrast of tones of one surface, the lightness of lettering over its ground, minutes at the bench.

    wanted : the contrast that the targets of two tones have, where both are known
    """

    contrast: Mapping[Pair, float]
    wanted: Mapping[Pair, float]
    reads: Mapping[str, float]
    minutes: Taken

    @classmethod
    def of(cls, planned: Planned) -> Self:
        """As it is planned."""
        labs = {zone: _main(course) for zone, course in planned.courses.items()}
        contrast, wanted = {}, {}
        for pair in tones(planned.project):
            one, other = labs[pair[0]], labs[pair[1]]
            if one is None or other is None:
                continue
            contrast[pair] = float(delta_e00(one, other))
            targets = [planned.targets[zone] for zone in pair]
            stage = next(
                (s for s in ("exposed", "fresh", "seen") if all(s in known for known in targets)), None
            )
            if stage is not None:
                wanted[pair] = float(delta_e00(targets[0][stage].lab, targets[1][stage].lab))
        return cls(contrast, wanted, dict(_readings(planned.project)), bench_minutes(planned.project))


def _main(course: Course) -> FloatArray | None:
    return on_the_largest(course.now)


def on_the_largest(stages: Mapping[str, FloatArray]) -> FloatArray | None:
    """L*a*b* (3,) of the largest patch of a zone, by its stages; None where nothing lies there."""
    return stages.get("exposed", stages.get("seen"))


def tones(project: Project) -> Iterable[Pair]:
    """Every two zones that are tones of one surface."""
    for surface in project.surfaces:
        yield from combinations([zone.id for zone in project.zones_of(surface.id)], 2)


def _readings(project: Project, zones: Sequence[str] | None = None) -> Iterable[tuple[str, float]]:
    """By how much lighter or darker in L* each lettering is than its ground in the end, by the coat."""
    for coat in project.coats:
        if coat.on and coat.nature.is_marking and (zones is None or coat.zone in zones):
            found = showing_of(project, coat)
            if found is not None:
                yield coat.id, found.lighter


def lost_contrast(
    planned: Planned, labs: Mapping[str, FloatArray], standing: Standing
) -> list[tuple[Pair, float, float]]:
    """The pairs of tones that would fall below the contrast they are to have, with what they have now and would have.

    labs : of the zones that are otherwise, as they would be on the largest patch
    """
    lost = []
    for pair, before in standing.contrast.items():
        if not labs.keys() & set(pair):
            continue
        one, other = (labs[zone] if zone in labs else _main(planned.courses[zone]) for zone in pair)
        after = float(delta_e00(one, other))  # type: ignore[arg-type]
        least = min(before, standing.wanted.get(pair, before))
        if after < least - _LOSES_DE00:
            lost.append((pair, before, after))
    return lost


def harms(
    planned: Planned,
    project: Project,
    stages: Mapping[str, Mapping[str, FloatArray]],
    standing: Standing,
    zones: Mapping[str, tuple[float, float]],
) -> tuple[str, ...]:
    """What a document that is otherwise in some zones, whose stages are these, would spoil, in words."""
    said = []
    labs = {zone: lab for zone, then in stages.items() if (lab := on_the_largest(then)) is not None}
    for (one, other), before, after in lost_contrast(planned, labs, standing):
        names = [project.zone(zone).short for zone in (one, other)]
        said.append(
            _("{0} and {1} then differ by {2:.1f} in place of {3:.1f}.").format(*names, after, before)
        )
    for coat, lighter in _readings(project, list(stages)):
        was = standing.reads.get(coat)
        if was is None or abs(lighter) >= min(READABLE_L, abs(was) - _READS_WORSE_L):
            continue
        found = project.coat(coat)
        words = (
            _("{0} on {1} then no longer reads.")
            if abs(was) >= READABLE_L
            else _("{0} on {1} then reads worse.")
        )
        said.append(words.format(coat_name(found), project.zone(found.zone).short))
    for zone, (before, after) in zones.items():
        if after > before + _WORSE_DE00:
            said.append(
                _("{0} is then {1:.1f} further off.").format(project.zone(zone).short, after - before)
            )
    return tuple(said)
