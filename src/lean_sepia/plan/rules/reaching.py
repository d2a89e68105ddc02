"""Rules on what reaches what it should not: spray beside what is finished, paint under a mask, work on what is sealed in."""

from __future__ import annotations

from collections.abc import Iterator

from lean_sepia.language import _
from lean_sepia.paint.media import MEDIA
from lean_sepia.plan.order import Order, one_model
from lean_sepia.plan.rules.finding import Case, Hit, Severity
from lean_sepia.plan.step import PlanStep


def sealed_in(case: Case) -> Iterator[Hit]:
    """Work on what lies under a later film."""
    order = case.order
    for index, step in enumerate(order):
        if step.nature.unmasks:
            continue
        for place in _worked_on(order, index):
            film = _film_between(order, place, index)
            if film is None:
                continue
            words = _("{0} works on {1}, which lies under {2}.").format(
                step.name, order[place].name, film.name
            )
            if _shut_out(step, order[place], film):
                yield Hit(step, film, "stop", words)
            else:
                yield Hit(
                    step,
                    film,
                    "warn",
                    words,
                    _("It takes {0} too: do it before, or mean it.").format(film.name),
                )


def _worked_on(order: Order, index: int) -> list[int]:
    """The places of what a step works on: what it names, else the newest that its kind works on where it is."""
    step = order[index]
    if step.works_on:
        return [place for name in step.works_on if (place := order.place.get(name, index)) < index]
    fitting = (order.place[earlier.id] for earlier in order.earlier(index) if step.serves(earlier))
    newest = next(fitting, None)
    return [] if newest is None else [newest]


def _film_between(order: Order, low: int, high: int) -> PlanStep | None:
    """The first film that shut off what was laid where both steps are."""
    shared = set(order.zones(order[low])) & set(order.zones(order[high]))
    for step in order[low + 1 : high]:
        if step.seals and shared & set(order.zones(step)):
            return step
    return None


def _shut_out(step: PlanStep, below: PlanStep, film: PlanStep) -> bool:
    """Whether the solvent that reaches what lies below does nothing to the film over it."""
    solvent = step.solvent
    if solvent == "none" and below.medium is not None:
        solvent = MEDIA[below.medium].carrier
    return film.medium is not None and solvent != "none" and MEDIA[film.medium].bitten_by.get(solvent) is None


def overspray(case: Case) -> Iterator[Hit]:
    """A part that is sprayed beside one that is finished and not masked, on one model."""
    order = case.order
    for index, step in enumerate(order):
        if not step.sprayed or step.application is None or step.apart or not step.nature.leaves_film:
            continue
        mine = set(order.zones(step))
        kept_off = {zone for i in order.masks_on(index) for zone in order.zones(order[i])}
        finished = [
            other for other in _finished(order, index)
            if one_model(other.model, step.model) and not set(order.zones(other)) & (mine | kept_off)
        ]  # fmt: skip
        if finished:
            severity: Severity = "note" if step.tool == "close" or step.misted else "warn"
            words = _("{0} is sprayed beside what {1} finished, and nothing masks that.")
            yield Hit(step, finished[-1], severity, words.format(step.name, finished[-1].name))


def _finished(order: Order, index: int) -> Iterator[PlanStep]:
    """Varnishes before a step over which nothing is laid any more on any of their zones, of parts that are on the model."""
    later = {
        zone
        for step in order[index:]
        if step.nature.covers in ("film", "varnish")
        for zone in order.zones(step)
    }
    for step in order[:index]:
        if step.nature.is_varnish and not step.apart and not later & set(order.zones(step)):
            yield step


def painted_under_mask(case: Case) -> Iterator[Hit]:
    """A full coat or a varnish on a zone that is masked meanwhile; patterns and what is rubbed free are what masks are for."""
    order = case.order
    for index, step in enumerate(order):
        if not (step.is_full_coat or step.nature.is_varnish) or step.nature.is_pattern:
            continue
        for i in order.masks_on(index):
            mask = order[i]
            zones = set(order.zones(mask))
            if mask.nature.is_mask and one_model(mask.model, step.model) and zones <= set(order.zones(step)):
                words = _("{0} is painted while {1} covers it.")
                yield Hit(step, mask, "warn", words.format(step.name, mask.name))
                break
