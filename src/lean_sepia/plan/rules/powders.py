"""Rules on loose powder, and on metal that later coats dull."""

from __future__ import annotations

from collections.abc import Iterator

from lean_sepia.language import _
from lean_sepia.plan.order import Ground, Order
from lean_sepia.plan.rules.finding import Case, Hit
from lean_sepia.plan.step import PlanStep


def _loose_in(order: Order, ground: Ground) -> Iterator[tuple[PlanStep, bool]]:
    """Powder that lies open in a zone, the latest first, and whether it was fixed since."""
    fixed = False
    for index in reversed(ground.open):
        step = order[index]
        fixed = fixed or step.nature.fixes
        if step.loose:
            yield step, fixed


def _each(order: Order, index: int) -> Iterator[tuple[PlanStep, bool]]:
    """Powder that lies open where a step is done, each once."""
    seen: set[str] = set()
    for ground in order.grounds(index):
        for powder, fixed in _loose_in(order, ground):
            if powder.id not in seen:
                seen.add(powder.id)
                yield powder, fixed


def unsealed_under_wet(case: Case) -> Iterator[Hit]:
    """Something wet on powder that lies loose lifts or drowns it."""
    for index, step in enumerate(case.order):
        if not step.wet or step.nature.is_varnish or step.nature.fixes or step.nature.wipes:
            continue
        for powder, fixed in _each(case.order, index):
            if fixed:
                continue
            words = _("{0} would wash away or drown {1}, which lies loose.").format(step.name, powder.name)
            yield Hit(step, powder, "note" if step.misted else "warn", words)
            break


def powder_fades_under_varnish(case: Case) -> Iterator[Hit]:
    """Powder loses most of its effect under a varnish."""
    for index, step in enumerate(case.order):
        if not step.nature.is_varnish:
            continue
        for powder, fixed in _each(case.order, index):
            if powder.nature.metal:
                continue
            words = _("{0} will nearly vanish under {1}.").format(powder.name, step.name)
            yield Hit(step, powder, "note" if step.misted or fixed else "warn", words)


def powder_hides_graphite(case: Case) -> Iterator[Hit]:
    """Dust over a graphite shine buries it."""
    for index, step in enumerate(case.order):
        if not step.loose or step.nature.metal:
            continue
        for earlier in case.order.open_below(index):
            if earlier.nature.metal:
                words = _("{0} would bury the shine of {1}.").format(step.name, earlier.name)
                yield Hit(step, earlier, "warn", words)


def powder_on_gloss(case: Case) -> Iterator[Hit]:
    """Powder finds no hold on gloss."""
    for index, step in enumerate(case.order):
        if not step.loose or step.nature.metal:
            continue
        for ground in case.order.grounds(index):
            if ground.sheen is None:
                continue
            below = case.order[ground.sheen]
            if finish_of(below) == "gloss":
                words = _("{0} finds no hold on {1}, which is gloss.").format(step.name, below.name)
                yield Hit(step, below, "warn", words)
                break


def varnish_kills_metallic(case: Case) -> Iterator[Hit]:
    """A clear coat takes the life out of metal; gloss the least."""
    for index, step in enumerate(case.order):
        if not step.nature.is_varnish:
            continue
        for earlier in case.order.open_below(index):
            if earlier.nature.metal or (earlier.material and earlier.material.finish == "metallic"):
                gloss = step.nature.finish == "gloss" and not earlier.nature.metal
                words = _("{0} dulls the metal of {1}.").format(step.name, earlier.name)
                yield Hit(step, earlier, "note" if gloss or step.misted else "warn", words)


def finish_of(step: PlanStep) -> str | None:
    """The sheen that a paint or a varnish dries to."""
    if step.nature.finish:
        return step.nature.finish
    return step.material.finish if step.material else None
