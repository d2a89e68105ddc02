"""Finishes for measuring: random zones with random coats on them, mixed from a random shelf, and targets not far from what they give."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from benchmarks.invented_paints import invented_paints
from lean_sepia.answers.strata import strata_of
from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.coats import lay, lay_fade
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.zones import NewZone, add_zones, change_zone, group_zones, state_target
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.paint.paint import Knowledge, Paint

_ORDER = (
    "primer", "base", "satin-coat", "tone", "marking", "fade", "filter", "wash", "chips", "streaks", "dust", "matte-coat",
)  # fmt: skip
_ALWAYS = ("primer", "base", "matte-coat")
_KNOWN = (Knowledge.SPECTRAL, Knowledge.TWO_CONSTANT, Knowledge.ONE_CONSTANT)


def random_shelf(count: int, rng: np.random.Generator) -> list[Paint]:
    """Acrylics, and a third of oils for tints."""
    return [
        replace(
            paint, medium="oil" if number % 3 == 2 else paint.medium, knowledge=_KNOWN[int(rng.integers(3))]
        )
        for number, paint in enumerate(invented_paints(count, rng))
    ]


def random_finish(rng: np.random.Generator, zones: int, coats: int, shelf: Sequence[Paint]) -> Project:
    """A project of so many zones with so many coats each, at the most; stages have targets some ΔE00 from what is planned."""
    project = Project(title="Any")
    named = [NewZone(f"Zone {number}") for number in range(zones)]
    project, ids = add_zones(project, named)
    for zone in ids:
        project = change_zone(
            project, project.zone(zone).model_copy(update={"area_cm2": float(rng.uniform(5, 300))})
        )
    spare = [kind for kind in _ORDER if kind not in _ALWAYS]
    for zone in ids:
        chosen = {*_ALWAYS, *rng.choice(spare, max(0, coats - len(_ALWAYS)), replace=False).tolist()}
        for kind in _ORDER:
            if kind in chosen:
                project = _laid(project, zone, kind, shelf, rng)
    if zones > 1 and rng.random() < 0.5:
        project = group_zones(project, "Hull", {ids[0]: None, ids[1]: None})
    for zone in ids:
        project = _with_targets(project, zone, rng)
    return project


def _laid(
    project: Project, zone: str, kind: str, shelf: Sequence[Paint], rng: np.random.Generator
) -> Project:
    films = [paint for paint in shelf if paint.medium != "oil"]
    oils = [paint for paint in shelf if paint.medium == "oil"]
    a, b, c = (films[int(n)] for n in rng.choice(len(films), 3, replace=False))
    oil = oils[int(rng.integers(len(oils)))]
    if kind == "base":
        mix = Mix.of(films, [(a.id, int(rng.integers(1, 6))), (b.id, int(rng.integers(1, 4)))])
        return lay(project, [zone], kind, mix, Manner(int(rng.integers(1, 4)), 0.6, "airbrush"))[0]
    if kind in ("fade", "tone"):
        mix = Mix.of(films, [(c.id, int(rng.integers(1, 4)))], base_parts=int(rng.integers(1, 9)))
        manner = Manner(int(rng.integers(1, 4)), float(rng.choice([0.7, 0.8, 0.9])), "airbrush")
        if kind == "fade":
            return lay_fade(project, zone, mix, manner)
        return lay(
            project, [zone], kind, mix, replace(manner, area_share=round(float(rng.uniform(0.1, 1)), 2))
        )[0]
    if kind in ("filter", "wash"):
        thinner = float(rng.choice([10, 15, 20, 30])) if kind == "filter" else 10.0
        manner = Manner(int(rng.integers(1, 3)), thinner / (1 + thinner), "glaze")
        return lay(project, [zone], kind, Mix.of(oils, [(oil.id, 1)]), manner)[0]
    if kind in ("chips", "streaks"):
        share = round(float(rng.uniform(0.005, 0.06)), 4)
        return lay(project, [zone], kind, Mix.of(films, [(b.id, 1)]), Manner(1, 0.0, "brush", share))[0]
    if kind == "marking":
        white = Mix(lab=(92.0, 0.0, 2.0))
        return lay(project, [zone], kind, white, Manner(1, 0.0, "brush", 0.02, printed="white"))[0]
    if kind == "dust":
        profile = rng.choice([None, "below"]) if rng.random() < 0.3 else None
        return lay(
            project,
            [zone],
            kind,
            Mix.of(films, [(a.id, 1)]),
            Manner(1, 0.9, "mist", profile=profile, far=0.2),
        )[0]
    mix = Mix.of(films, [(c.id, 1)]) if kind == "primer" else Mix()
    return lay(project, [zone], kind, mix, Manner(2, 0.5, "airbrush"))[0]


def _with_targets(project: Project, zone: str, rng: np.random.Generator) -> Project:
    cut = strata_of(project, zone)
    for stage in ("fresh", "exposed", "seen"):
        lab = getattr(cut, stage)
        if lab is None or rng.random() < 0.25:
            continue
        aim = np.array(lab) + rng.normal(0, 1, 3) * rng.uniform(1, 6)
        aim[0] = np.clip(aim[0], 5, 97)
        try:
            project = state_target(project, zone, _lab(aim), stage)
        except SepiaError:
            continue
    return project


def _lab(values: np.ndarray) -> Lab:
    return float(values[0]), float(values[1]), float(values[2])
