"""How heavy the whole model is weathered, from clean to far too much: fades, filters, washes, marks and dust together, the light first.

1 is as it is planned. Below it the marks and the dust go first to nothing and the fade last; above it all grow alike. What people know
the subject by stays. Where each kind begins is common practice without a source.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from lean_sepia.answers.nearer.change import targets_beside
from lean_sepia.answers.nearer.course import Course
from lean_sepia.answers.nearer.harm import on_the_largest, tones
from lean_sepia.answers.predicting.run import ZoneCoats
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.called import coat_name
from lean_sepia.document.edits.coats import change_coat
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.work import bench_minutes
from lean_sepia.plan.schools import SCHOOLS

_BEGINS: tuple[tuple[str, float], ...] = (
    ("fading", 0.0), ("tinting", 0.1), ("washing", 0.25), ("marks", 0.4), ("veils", 0.5),
)  # fmt: skip
MOST, SUBTLE = 2.0, 0.5
_STEPS = 21
_CONTRAST_LEFT, _FAR_TOO_WORN = 0.75, 0.2
_WORDS_FROM = 4  # letters from which two words that begin alike mean the same


def _group(coat: Coat) -> str:
    """With which kind of weathering a coat goes; "" of what is none."""
    nature = coat.nature
    if nature.shades and not nature.lies_under_the_base:
        return "fading"
    if nature.is_glaze:
        return "washing" if nature.runs else "tinting"
    if nature.is_powder and not nature.metal:
        return "veils"
    return "marks" if nature.marks or nature.covers == "taken" else ""


def factor_of(group: str, level: float) -> float:
    """How many times as much as planned of a kind lies at a level."""
    begins = dict(_BEGINS)[group]
    return level if level >= 1 else max(0.0, (level - begins) / (1 - begins))


def signature_coats(project: Project) -> frozenset[str]:
    """The coats that make what people know the subject by: on the zone of a feature, and named alike."""
    found = set()
    for feature in project.features:
        words = {word[:_WORDS_FROM] for word in feature.words.casefold().split() if len(word) >= _WORDS_FROM}
        for coat in project.coats:
            named = {word[:_WORDS_FROM] for word in f"{coat_name(coat)} {coat.kind}".casefold().split()}
            if coat.zone == feature.zone and _group(coat) and words & named:
                found.add(coat.id)
    return frozenset(found)


def weathered(project: Project, level: float) -> Project:
    """The document weathered so much: coats of nothing are switched off; what is done, and the signature, stay as they are."""
    kept, done = signature_coats(project), {step.id for step in project.steps if step.done}
    for coat in project.coats:
        group = _group(coat)
        if not coat.on or not group or coat.id in kept or coat.step in done:
            continue
        factor = factor_of(group, level)
        project = project if factor == 1 else _with(project, coat, factor)
    return project


def _with(project: Project, coat: Coat, factor: float) -> Project:
    if coat.area_share < 1:
        share = min(1.0, round(coat.area_share * factor, 4))
        return (
            change_coat(project, coat.id, area_share=share)
            if share > 0
            else change_coat(project, coat.id, on=False)
        )
    passes = round(coat.passes * factor)
    if factor > 0 and passes < 1 and coat.passes * factor >= 1 / 3:
        passes = 1
    return change_coat(project, coat.id, passes=passes) if passes else change_coat(project, coat.id, on=False)


@dataclass(frozen=True)
class Weathering:
    """What a level comes to: marks and veils as shares of the area, what is left of the contrast of tones, minutes, mean miss.

    labs : L*a*b* of each zone as it is seen, by id; contrast : of the pair of tones that loses most, None without tones
    missed : mean ΔE00 over the zones from what is to be seen, else from the exposed colour; None where nothing says
    """

    level: float
    worn: float
    veiled: float
    contrast: float | None
    minutes: float
    missed: float | None
    labs: Mapping[str, tuple[float, float, float]]


@dataclass(frozen=True)
class Levels:
    """Every level with what it comes to, and where to stop: as the photo, subtle, by taste, and where it is too much; None where nothing is."""

    each: tuple[Weathering, ...]
    as_photo: float | None
    too_much: float | None

    @property
    def planned(self) -> Weathering:
        """As it is planned."""
        return self.at(1.0)

    def at(self, level: float) -> Weathering:
        """The nearest of the levels that were worked out."""
        return min(self.each, key=lambda one: abs(one.level - level))

    def usual(self, school: str) -> float:
        """Where a school of `amount` usually stops."""
        return {"subtle": SUBTLE, "as-photo": self.as_photo or 1.0}.get(school, 1.0)


def usual_level(project: Project, levels: Levels) -> float:
    """Where the project's school of amount stops."""
    return levels.usual(project.schools.get("amount", SCHOOLS["amount"].usual))


def levels_of(project: Project, progress: Callable[[float], None] | None = None) -> Levels:
    """Work out every level from clean to far too much."""
    tell, each = progress or (lambda _share: None), list[Weathering]()
    first = _contrasts(project, {})
    for number, level in enumerate(np.linspace(0, MOST, _STEPS)):
        each.append(_weathering(project, weathered(project, float(level)), float(level), first))
        tell((number + 1) / _STEPS)
    known = [one for one in each if one.missed is not None]
    nearest = min(known, key=lambda one: one.missed or 0.0).level if known else None
    base = next(one for one in each if one.level >= 1 - 1e-9)
    beyond = [one.level for one in each if one.level > base.level and _is_too_much(one, base)]
    return Levels(tuple(each), nearest, min(beyond, default=None))


def _is_too_much(one: Weathering, planned: Weathering) -> bool:
    lost = (
        one.contrast is not None
        and planned.contrast is not None
        and one.contrast < _CONTRAST_LEFT * planned.contrast
    )
    return lost or one.worn > max(_FAR_TOO_WORN, planned.worn)


def _weathering(
    planned: Project, project: Project, level: float, clean: Mapping[tuple[str, str], float]
) -> Weathering:
    areas = [zone.area_cm2 or 0.0 for zone in project.zones]
    usual = float(np.mean([area for area in areas if area])) if any(areas) else 1.0
    weights = {zone.id: zone.area_cm2 or usual for zone in project.zones}
    whole = sum(weights.values()) or 1.0
    shares = {"marks": 0.0, "veils": 0.0}
    for coat in project.coats:
        group = _group(coat)
        if coat.on and group in shares and coat.area_share < 1:
            shares[group] += coat.area_share * weights[coat.zone] / whole
    stages, missed = {}, []
    for zone in project.zones:
        course = Course(ZoneCoats.of(project, zone.id))
        stages[zone.id] = course.now
        targets = targets_beside(planned, zone.id, course)
        stage = next((name for name in ("seen", "exposed") if name in targets), None)
        if stage is not None:
            missed.append(float(delta_e00(course.now[stage], targets[stage].lab)))
    contrasts = _contrasts(project, stages)
    left = [contrasts[pair] / before for pair, before in clean.items() if before > 0 and pair in contrasts]
    minutes = sum(taken for _coats, taken in bench_minutes(project).values())
    labs = {zone: tuple(float(v) for v in found["seen"]) for zone, found in stages.items() if "seen" in found}
    return Weathering(
        level, min(1.0, shares["marks"]), min(1.0, shares["veils"]), min(left, default=None), minutes,
        float(np.mean(missed)) if missed else None, labs,  # type: ignore[arg-type]
    )  # fmt: skip


def _contrasts(
    project: Project, stages: Mapping[str, Mapping[str, np.ndarray]]
) -> dict[tuple[str, str], float]:
    """The ΔE00 between every two tones of one surface."""
    found: dict[tuple[str, str], float] = {}
    for pair in tones(project):
        one, other = (
            on_the_largest(stages.get(zone) or Course(ZoneCoats.of(project, zone)).now) for zone in pair
        )
        if one is not None and other is not None:
            found[pair] = float(delta_e00(one, other))
    return found
