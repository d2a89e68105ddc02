"""Rules on sheen, on what hides what, and on the order of wear and washes."""

from __future__ import annotations

from collections.abc import Iterator

from lean_sepia.language import _
from lean_sepia.plan.order import Ground, Order
from lean_sepia.plan.rules.finding import Case, Hit
from lean_sepia.plan.rules.powders import finish_of
from lean_sepia.plan.step import PlanStep

_MOST_FILMS = 9.0


def flat_below(order: Order, index: int) -> PlanStep | None:
    """The coat that makes the surface under a step flat, in the first zone where it is."""
    for ground in order.grounds(index):
        below = order[ground.sheen] if ground.sheen is not None else None
        if below is not None and finish_of(below) == "flat":
            return below
    return None


def decal_on_matte(case: Case) -> Iterator[Hit]:
    """Markings on a flat surface may silver; schools differ."""
    for index, step in enumerate(case.order):
        below = flat_below(case.order, index) if step.nature.is_print else None
        if below:
            words = _("{0} goes on {1}, which is flat: air may silver under it.")
            yield Hit(step, below, "note", words.format(step.name, below.name))


def wash_on_matte(case: Case) -> Iterator[Hit]:
    """A wash runs on gloss and stains on flat; over all that is a choice, along seams it does not work."""
    for index, step in enumerate(case.order):
        below = flat_below(case.order, index) if step.nature.runs else None
        if below is None:
            continue
        if step.nature.along_seams:
            words = _(
                "{0} goes on {1}, which is flat: it stains and leaves tide marks instead of running along seams."
            )
            yield Hit(step, below, "warn", words.format(step.name, below.name))
        else:
            words = _("{0} goes on {1}, which is flat: it stains the whole surface and leaves tide marks.")
            yield Hit(step, below, "note", words.format(step.name, below.name),
                      _("Fine where that is wanted; for dirt in recesses only, lay a gloss or satin coat first."))  # fmt: skip


def chips_after_wash(case: Case) -> Iterator[Hit]:
    """Chips after the wash stay brighter; schools differ."""
    for index, step in enumerate(case.order):
        if not step.nature.is_chips:
            continue
        wash = next((earlier for earlier in case.order.earlier(index) if earlier.nature.runs), None)
        if wash:
            words = _("{0} comes after {1}, so the wash will not tone the chips.")
            yield Hit(step, wash, "note", words.format(step.name, wash.name))


def marking_hides_chips(case: Case) -> Iterator[Hit]:
    """Lettering laid over chips looks newer than the damage below it."""
    for index, step in enumerate(case.order):
        if not step.nature.is_marking:
            continue
        for earlier in _since_full_coat(case.order, index):
            if earlier.nature.damages:
                words = _("{0} would cover {1} where they meet, and look newer than the damage.")
                yield Hit(step, earlier, "note", words.format(step.name, earlier.name))
                break


def _since_full_coat(order: Order, index: int) -> Iterator[PlanStep]:
    """Earlier steps on a zone of a step that no full coat of paint has covered, the latest first."""
    for ground in order.grounds(index):
        yield from (order[i] for i in _visible(order, ground))


def _visible(order: Order, ground: Ground) -> Iterator[int]:
    for i in reversed(ground.before):
        if order[i].is_full_coat:
            return
        yield i


def buried(case: Case) -> Iterator[Hit]:
    """An opaque coat over finished work that no mask protects."""
    order = case.order
    for index, step in enumerate(order):
        if step.nature.is_found or not step.is_full_coat:
            continue
        lost = next(
            (order[i] for ground in order.grounds(index) for i in _visible(order, ground)
             if order[i].nature.lost_under_paint and not _masked_since(ground, i)),
            None,
        )  # fmt: skip
        if lost:
            words = _("{0} would cover {1}, and nothing masks it.").format(step.name, lost.name)
            yield Hit(step, lost, "warn", words)


def _masked_since(ground: Ground, index: int) -> bool:
    return any(mask > index for mask in ground.masks)


def over_final_varnish(case: Case) -> Iterator[Hit]:
    """A coat of paint that no varnish follows, though the zone was varnished before."""
    order = case.order
    last = {}
    for index, step in enumerate(order):
        if step.nature.is_varnish:
            last.update(dict.fromkeys(order.zones(step), index))
    told: set[str] = set()
    for index, step in enumerate(order):
        full = step.is_full_coat or (step.nature.shades and not step.misted)
        if not full or step.nature.is_found:
            continue
        bare = [key for key in order.zones(step) if key in last and last[key] < index and key not in told]
        if bare:
            told.update(bare)
            varnish = order[last[bare[0]]]
            words = _("{0} comes after {1}, the last varnish there: its sheen and hold will differ.")
            yield Hit(step, varnish, "note", words.format(step.name, varnish.name))


def dots_unblended(case: Case) -> Iterator[Hit]:
    """Oil dots that nobody draws out stay dots."""
    order = case.order
    for index, step in enumerate(order):
        if not step.nature.is_dots:
            continue
        shut = None
        for later in order.later(index):
            if later.nature.softens:
                break
            if later.seals:
                shut = later
                break
        else:
            later = step
            yield Hit(step, None, "warn", _("{0} are never drawn out.").format(step.name))
            continue
        if shut is not None:
            words = _("{0} shuts off {1}, which were never drawn out.").format(shut.name, step.name)
            yield Hit(shut, step, "warn", words)


def many_films(case: Case) -> Iterator[Hit]:
    """So many films over one another that detail drowns."""
    order = case.order
    films: dict[str, float] = {}
    told: set[str] = set()
    for step in order:
        amount = films_of(step)
        for key in order.zones(step):
            films[key] = films.get(key, 0.0) + amount
            if amount and films[key] > _MOST_FILMS and key not in told:
                told.add(key)
                words = _(
                    "With {0} the zone carries {1:.0f} full films: fine detail drowns under more than {2:.0f}."
                )
                yield Hit(step, None, "note", words.format(step.name, films[key], _MOST_FILMS))
                break


def films_of(step: PlanStep) -> float:
    """Full films that a step lays: as said, else one for a full coat or a varnish."""
    if step.films is not None:
        return step.films
    return 1.0 if (step.seals and not step.nature.is_found) else 0.0


def blind_shading(case: Case) -> Iterator[Hit]:
    """Light and shade laid while part of the pattern is masked is laid without seeing the whole."""
    order = case.order
    for index, step in enumerate(order):
        if not step.nature.shades:
            continue
        if any(earlier.nature.apart for earlier in order.earlier(index)):
            continue
        mask = next(
            (order[i] for ground in order.grounds(index) for i in ground.masks
             if order[i].nature.is_mask and any(order[b].nature.is_pattern for b in ground.before if b < i)),
            None,
        )  # fmt: skip
        if mask:
            words = _(
                "{0} is laid while {1} covers part of the pattern: nobody sees how the tones stand to each other."
            )
            yield Hit(step, mask, "note", words.format(step.name, mask.name))
