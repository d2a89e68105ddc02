"""The coats of a document as what is laid: their films, shares and sheens, and what lies below a coat."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from functools import lru_cache

from lean_sepia.document.edits.steps import place_for
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import coat_paint, medium_of
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.ink import hides_as_printed, ink_of_lab
from lean_sepia.paint.kubelka_munk import opaque_reflectance
from lean_sepia.paint.laying import Matter
from lean_sepia.paint.profile import MIDDLE, PANELS
from lean_sepia.paint.stack import Coating, Opaque, Stack
from lean_sepia.plan.names import Finish


def final_varnish(coats: Sequence[Coat]) -> Finish | None:
    """The sheen of the last varnish on most of a zone; None where none is: there coats are seen at their own sheen."""
    return main_sheen(sheens_of(coats))


def main_sheen(sheens: Sequence[tuple[float, Finish | None]]) -> Finish | None:
    """The sheen of the largest of the shares of a zone."""
    return max(sheens, key=lambda part: part[0])[1]


def sheens_of(coats: Sequence[Coat]) -> list[tuple[float, Finish | None]]:
    """The shares of a zone, the uppermost varnish first, and the sheen of each; what none covers is last, with None."""
    left, parts = 1.0, list[tuple[float, Finish | None]]()
    for coat in reversed(coats):
        if coat.on and coat.nature.is_varnish:
            parts.append((left * coat.area_share, coat.nature.finish))
            left *= 1 - coat.area_share
    return [*parts, (left, None)]


def coating_of(project: Project, coat: Coat) -> Coating:
    """A coat of the document as what is laid."""
    paint = coat_paint(project, coat)
    body: Matter | Opaque | None = paint
    if (
        paint is not None and not paint.lies_as_film
    ):  # metallics and powders lie in their own colour, never as a film
        body = Opaque(opaque_reflectance(paint.K, paint.S), paint.surface)
    elif paint is None and coat.lab is not None:
        ink = coat.printed == "ink" and not hides_as_printed(coat.lab)
        body = ink_of_lab(coat.lab, coat.finish) if ink else _opaque(coat.lab, coat.finish)
    kind = coat.nature
    X = (
        film_thickness(coat.passes, coat.thinner_share, coat.tool) * (1 - coat.wiped)
        if coat.printed is None
        else 1.0
    )
    covers = kind.coat_covers(medium_of(project, coat))
    if covers == "film" and coat.wiped:
        covers = "tint"  # a veil is too thin to have a sheen of its own
    return Coating(
        covers, body, X, coat.area_share, mark=coat.id, down_to=coat.down_to or "",
        keep=coat.keep if coat.keep is not None or paint is None else paint.keep, profile=coat.profile, far=coat.far,
    )  # fmt: skip


_opaque = lru_cache(maxsize=256)(Opaque.of_lab)


def on_panels(laid: Sequence[tuple[Coat, Coating]]) -> tuple[list[tuple[Coat, Coating]], list[float]]:
    """Coats with their panels given out one after another, as shares of the area, and where each one's end.

    Once all panels are given out, the next coat begins again with the first.
    """
    at, given, breaks = 0.0, [], []
    for coat, coating in laid:
        if coating.profile == PANELS:
            at = 0.0 if at + coating.share > 1 + 1e-9 else at
            coating = replace(coating, start=at)
            at += coating.share
            breaks.append(at)
        given.append((coat, coating))
    return given, breaks


def coats_below(project: Project, zone_id: str, kind: str) -> tuple[Coat, ...]:
    """The coats that are on under a zone's coat of a kind, or under where one would come, bottom first."""
    coats = project.coats_of(zone_id)
    here = next((index for index, coat in enumerate(coats) if coat.kind == kind), None)
    if here is None:
        place = place_for(project, kind)
        order = {step.id: index for index, step in enumerate(project.steps)}
        here = sum(order[coat.step] < place for coat in coats)
    return tuple(coat for coat in coats[:here] if coat.on)


def stack_below(project: Project, zone_id: str, kind: str) -> Stack:
    """What lies under a zone's coat of a kind, or under where one would come."""
    return stack_of(project, coats_below(project, zone_id, kind))


def stack_of(project: Project, coats: Iterable[Coat]) -> Stack:
    """Coats laid one on another, at the place that stands for a zone."""
    stack = Stack()
    for coat in coats:
        stack = stack.lay(coating_of(project, coat).at(MIDDLE))
    return stack
