"""Coats laid on what is planned: a filter of any tint there is, a mist of the base with any lightener."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from lean_sepia.answers.glazing.grounds import tint_paints
from lean_sepia.answers.glazing.tints import tints
from lean_sepia.answers.nearer.change import Change, Planned
from lean_sepia.answers.nearer.course import Effect
from lean_sepia.answers.nearer.hands.laid_otherwise import thinning_words
from lean_sepia.answers.predicting.coatings import coating_of
from lean_sepia.answers.predicting.run import Laid
from lean_sepia.colour.lab import chroma, hue_deg
from lean_sepia.document.edits.coats import lay
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.model import Coat, Project
from lean_sepia.errors import SepiaError
from lean_sepia.language import ngettext
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.paint import Paint
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.schools import SCHOOLS

_PARTS, _PASSES = (10, 20, 40), (1, 2)
_MIST_THINNER, _MIXED = 0.9, ((1, 1), (3, 1))
_GREY = 8.0  # C* below which a colour has no hue to be related to
_RELATED_DEG = 90.0
FILTER = tints().filters[0]
FADE = next(name for name, kind in KINDS.items() if kind.fades)


def laid_more(planned: Planned) -> Iterator[Change]:
    """Every zone that is looked at with one more thin coat."""
    for zone in planned.zones:
        if planned.laid(zone) and planned.targets[zone]:
            yield from _filters(zone, planned)
            yield from _mists(zone, planned)


@dataclass(frozen=True, eq=False)
class _Trial:
    """A coat as it would be laid: the coat, what it comes on, and how it lies."""

    coat: Coat
    after: str | None
    coating: Laid

    @classmethod
    def of(cls, planned: Planned, zone: str, kind: str, mix: Mix, manner: Manner) -> _Trial | None:
        """Where the coat would come; None where it cannot be laid there, or not on top of what is done."""
        try:
            project, made = lay(planned.project, [zone], kind, mix, manner)
        except SepiaError:
            return None
        order = [coat for coat in project.coats_of(zone) if coat.on]
        here = next(number for number, coat in enumerate(order) if coat.id == made)
        if {coat.id for coat in order} - {made} != {coat.id for coat, _c in planned.laid(zone)}:
            return None
        coat = order[here]
        return cls(coat, order[here - 1].id if here else None, (coat, coating_of(project, coat)))


def _filters(zone: str, planned: Planned) -> Iterator[Change]:
    owns = planned.project.owns
    tool = owns.usual_tool(FILTER)
    found = [paint for paint in tint_paints(planned.shelf) if not paint.ready and owns.may_lay(paint, tool)]
    by_medium: dict[str, list[Paint]] = {}
    for paint in _of_the_school(found, zone, planned):
        by_medium.setdefault(paint.medium, []).append(paint)
    for paints in by_medium.values():
        trial = _Trial.of(
            planned, zone, FILTER, Mix.of(paints[:1], [(paints[0].id, 1)]), Manner(1, 0.95, tool)
        )
        if trial is None:
            continue
        for paint in paints:
            for parts in _PARTS:
                for passes in _PASSES:
                    yield _filter(planned, zone, trial, paint, parts / (1 + parts), passes, tool)


def _of_the_school(tints: Sequence[Paint], zone: str, planned: Planned) -> list[Paint]:
    """The tints whose hue the project's school allows on a zone."""
    school = planned.project.schools.get("filter-hue", SCHOOLS["filter-hue"].usual)
    now = planned.courses[zone].now
    ground = now.get("fresh", now.get("seen"))
    if school != "related" or ground is None or float(chroma(ground)) < _GREY:
        return list(tints)
    hue, kept = float(hue_deg(ground)), []
    for paint in tints:
        own = paint.masstone_lab()
        away = abs((float(hue_deg(own)) - hue + 180) % 360 - 180)
        if float(chroma(own)) < _GREY or away <= _RELATED_DEG:
            kept.append(paint)
    return kept


def _filter(
    planned: Planned, zone: str, trial: _Trial, paint: Paint, thinner: float, passes: int, tool: str
) -> Change:
    coat, coating = trial.coating
    laid = (coat, replace(coating, body=paint, X=film_thickness(passes, thinner, tool)))
    mix = Mix.of([paint], [(paint.id, 1)])
    return Change(
        partial(_filter_words, planned, zone, paint, thinner, passes), ("added", FILTER, zone), {zone: Effect(added=((trial.after, laid),))},
        partial(_laid, zone=zone, kind=FILTER, mix=mix, manner=Manner(passes, thinner, tool)), _new(planned, paint), paint.knowledge,
    )  # fmt: skip


def _filter_words(planned: Planned, zone: str, paint: Paint, thinner: float, passes: int) -> str:
    words = ngettext(
        "A filter of {0} on {1}, {2}, {3} pass", "A filter of {0} on {1}, {2}, {3} passes", passes
    )
    return words.format(
        paint.name, planned.project.zone(zone).short, thinning_words(thinner, tint=True), passes
    )


def _mist_words(planned: Planned, zone: str, paint: Paint, parts: tuple[int, int], passes: int) -> str:
    words = ngettext(
        "A fade of the base and {0}, {1}, on {2}, {3} coat",
        "A fade of the base and {0}, {1}, on {2}, {3} coats",
        passes,
    )
    return words.format(paint.name, f"{parts[0]} : {parts[1]}", planned.project.zone(zone).short, passes)


def _mists(zone: str, planned: Planned) -> Iterator[Change]:
    """A mist of the zone's own base with something in it, where it has no fade yet and the person sprays."""
    project, owns = planned.project, planned.project.owns
    base = next((coat for coat in project.bases_of(zone) if coat.recipe and coat.on), None)
    tool = owns.usual_tool(FADE)
    fades = any(coat.nature.fades for coat, _coating in planned.laid(zone))
    if (
        base is None
        or base.recipe is None
        or fades
        or not owns.has("airbrush")
        or not planned.may_lie_as_film(base)
    ):
        return
    share = planned.cups.share_of(base.recipe)
    inside = {project.paint(version).shelf_id for version, _n in project.recipe(base.recipe).parts}
    paints = planned.stirs(planned.cups.media(share), inside, {tool})
    if not paints:
        return
    first = Mix.of(paints[:1], [(paints[0].id, 1)], base_parts=1)
    trial = _Trial.of(planned, zone, FADE, first, Manner(1, _MIST_THINNER, tool))
    if trial is None:
        return
    rows = [(paint, parts) for paint in paints for parts in _MIXED]
    shares = np.array(
        [
            planned.cups.of_parts([(share, own), (planned.cups.bottle(paint.id), light)])
            for paint, (own, light) in rows
        ]
    )
    known = planned.cups.each_known(shares)
    for (paint, parts), body, sure, row in zip(
        rows, planned.cups.each_matter(shares), known, shares, strict=True
    ):
        for passes in _PASSES:
            coat, coating = trial.coating
            laid = (coat, replace(coating, body=body, X=film_thickness(passes, _MIST_THINNER, tool)))
            mix = Mix.of([paint], [(paint.id, parts[1])], base_parts=parts[0])
            manner = Manner(passes, _MIST_THINNER, tool)
            yield Change(
                partial(_mist_words, planned, zone, paint, parts, passes), ("added", FADE, zone),
                {zone: Effect(added=((trial.after, laid),))}, partial(_laid, zone=zone, kind=FADE, mix=mix, manner=manner),
                _new(planned, paint), sure, draws=(base.recipe, parts[0] / sum(parts), row),
            )  # fmt: skip


def _laid(project: Project, zone: str, kind: str, mix: Mix, manner: Manner) -> Project:
    return lay(project, [zone], kind, mix, manner)[0]


def _new(planned: Planned, paint: Paint) -> tuple[str, ...]:
    """The bottle, where nothing of the document is mixed of it yet."""
    return () if any(version.shelf_id == paint.id for version in planned.project.paints) else (paint.name,)
