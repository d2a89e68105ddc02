"""A room's promise against the strata: the same coat at the same stage under the same final varnish.

Random projects: a ground stated by colour or primed, a base, a fade with one lightener as a film, a filter, a varnish. Then, on the
finished zone with dust over it and a coat that runs out, each room solves its coat anew under all that lies above it.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from benchmarks.invented_paints import invented_paints
from lean_sepia.answers import match
from lean_sepia.answers.glazing import filters
from lean_sepia.answers.strata import Strata, strata_of
from lean_sepia.answers.targets import Target
from lean_sepia.answers.toning import fading
from lean_sepia.answers.toning.fading import Spray
from lean_sepia.answers.toning.wishes import Aim
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.coats import lay, lay_filter, lay_found, lay_primer, lay_varnish, pin_base
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.zones import add_zone, state_target
from lean_sepia.document.model import Project
from lean_sepia.paint.paint import Paint
from lean_sepia.recipe.fades.fade import Goal
from lean_sepia.recipe.limits import NO_LIMITS

_VARNISHES = (None, "matte-coat", "satin-coat", "gloss-coat")
_FINISHES = ("flat", "satin", "gloss")
_TOOLS = ("airbrush", "close", "mist", "brush")
Promise = tuple[str, tuple[float, float, float], tuple[float, float, float] | None]
"""What was promised: by which room, which colour; and the colour the strata show."""


def promises(paints: list[Paint], rng: np.random.Generator) -> Iterator[Promise]:
    """Lay one random project coat by coat; each room's promise beside what the strata show of that coat."""
    project, zone = add_zone(Project(title="Any"), "Hull")
    lab = tuple(float(v) for v in (rng.uniform(25, 85), rng.uniform(-25, 30), rng.uniform(-25, 35)))
    project = state_target(project, zone, (lab[0], lab[1], lab[2]))
    if rng.random() < 0.5:
        ground = (float(rng.uniform(30, 90)), float(rng.uniform(-10, 20)), float(rng.uniform(-10, 20)))
        project = lay_found(project, zone, ground, rng.choice(_FINISHES))
    else:
        primer = Mix.of(paints, [(str(rng.choice([p.id for p in paints])), 1)])
        project = lay_primer(project, zone, primer, _manner(rng))
    if (varnish := rng.choice(_VARNISHES)) is not None:
        project = lay_varnish(project, [zone], str(varnish))
    for step in (_base, _fade, _filter):
        kind, project, promised = step(project, zone, paints, rng)
        yield kind, promised, _band(strata_of(project, zone), kind)
    yield from promises_under(project, zone, paints, rng)


def promises_under(
    project: Project, zone: str, paints: list[Paint], rng: np.random.Generator
) -> Iterator[Promise]:
    """Each coat of a finished zone solved anew under what lies above it, and what the strata show of the stage once it is laid."""
    dust = Manner(
        1,
        0.9,
        "mist",
        profile=rng.choice([None, "below", "edges", "recess"]),
        far=round(float(rng.uniform(0, 0.6)), 2),
    )
    project, _coat = lay(
        project, [zone], "dust", Mix.of(paints, [(str(rng.choice([p.id for p in paints])), 1)]), dust
    )
    lab = tuple(float(v) for v in (rng.uniform(25, 85), rng.uniform(-25, 30), rng.uniform(-25, 35)))
    project = state_target(project, zone, (lab[0], lab[1], lab[2]), "exposed")
    target = strata_of(project, zone).targets.exposed
    assert target is not None
    question = match.ask(
        project, zone, target, paints, passes=2, thinner_share=0.6, sheen=match.AS_PLANNED, max_paints=2, max_parts=8,
        limits=NO_LIMITS, mix_ml=7.0, stage="exposed",
    )  # fmt: skip
    recipe = match.answer(question).choices[0].recipe
    laid = pin_base(project, zone, Mix.of(paints, recipe.parts), Manner(2, 0.6))
    yield "base under all", recipe.lab, strata_of(laid, zone).exposed
    tone = fading.ask(project, zone, Aim(target, Goal(target.lab)), paints, Spray(2, 0.8))
    assert tone is not None
    fade = fading.answer(tone).fades[0]
    yield "fade under all", fade.option.lab, strata_of(fading.lay_answer(project, tone, fade), zone).exposed
    glaze = filters.ask(project, zone, paints)
    assert glaze is not None
    tint = filters.answer(glaze).filters[0].glaze
    laid = lay_filter(project, [zone], *filters.mix_of(glaze, tint))
    yield "filter under all", tint.labs[0], strata_of(laid, zone).exposed


def _manner(rng: np.random.Generator) -> Manner:
    return Manner(int(rng.integers(1, 4)), float(rng.uniform(0, 0.9)), str(rng.choice(_TOOLS)))


def _base(project: Project, zone: str, paints: list[Paint], rng: np.random.Generator):
    manner = Manner(int(rng.integers(1, 4)), round(float(rng.uniform(0, 0.9)), 2))
    target = strata_of(project, zone).targets.fresh
    assert target is not None
    question = match.ask(
        project, zone, target, paints, passes=manner.passes, thinner_share=manner.thinner_share, sheen=match.AS_PLANNED,
        max_paints=2, max_parts=8, limits=NO_LIMITS, mix_ml=7.0,
    )  # fmt: skip
    recipe = match.answer(question).choices[0].recipe
    return "base", pin_base(project, zone, Mix.of(paints, recipe.parts), manner), recipe.lab


def _fade(project: Project, zone: str, paints: list[Paint], rng: np.random.Generator):
    manner = Manner(int(rng.integers(1, 4)), round(float(rng.uniform(0.5, 0.9)), 2))
    before = strata_of(project, zone).fresh
    assert before is not None
    wish = Target(*_wished(before, float(rng.uniform(-8, 15))))
    spray = Spray(
        manner.passes if rng.random() < 0.7 else None,
        manner.thinner_share,
        lighteners=int(rng.integers(1, 3)),
    )
    question = fading.ask(project, zone, Aim(wish, Goal(wish.lab)), paints, spray)
    assert question is not None
    found = fading.answer(question).fades
    best = found[int(rng.integers(len(found)))]
    return "fade", fading.lay_answer(project, question, best), best.option.lab


def _wished(
    before: tuple[float, float, float], lighter: float
) -> tuple[tuple[float, float, float], None, str]:
    L, a, b = before
    return (min(100.0, max(0.0, L + lighter)), a, b), None, "a wish"


def _filter(project: Project, zone: str, paints: list[Paint], rng: np.random.Generator):
    question = filters.ask(project, zone, paints)
    assert question is not None
    found = filters.answer(question).filters
    best = found[int(rng.integers(len(found)))].glaze
    laid = lay_filter(project, [zone], *filters.mix_of(question, best))
    return "filter", laid, best.labs[0]


def _band(cut: Strata, kind: str) -> tuple[float, float, float] | None:
    return next(band.lab for band in cut.bands if band.coat.kind == kind)


def worst_promise(projects: int, seed: int = 9) -> dict[str, float]:
    """The largest ΔE00 between promise and strata over so many random projects, by kind of coat."""
    rng = np.random.default_rng(seed)
    worst: dict[str, float] = {}
    for number in range(projects):
        if number % 20 == 0:
            paints = invented_paints(14, rng)
            odd = paints[int(rng.integers(5, 14))]
            paints = [p if p is not odd else _with_own_surface(p, rng) for p in paints]
        for kind, promised, shown in promises(paints, rng):
            assert shown is not None
            worst[kind] = max(worst.get(kind, 0.0), float(delta_e00(promised, shown)))
    return worst


def _with_own_surface(paint: Paint, rng: np.random.Generator) -> Paint:
    from dataclasses import replace

    return replace(paint, k1=float(rng.uniform(0.02, 0.06)), k2=float(rng.uniform(0.4, 0.7)))


def main() -> bool:
    """200 projects: at most 0.05 ΔE00 between any room and the strata."""
    worst = worst_promise(200)
    reached = max(worst.values()) <= 0.05
    said = ", ".join(f"{kind} {value:.4f}" for kind, value in worst.items())
    print(
        f"promise against strata, 200 projects, worst ΔE00: {said}  (at most 0.05: {'reached' if reached else 'NOT REACHED'})"
    )
    return reached
