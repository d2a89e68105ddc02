"""Rules on masks: left on, for nothing, on what does not hold, and glass that nobody masks."""

from __future__ import annotations

from collections.abc import Iterator

from lean_sepia.language import _
from lean_sepia.plan.order import one_model
from lean_sepia.plan.rules.finding import Case, Hit
from lean_sepia.plan.traits.said import Phase


def mask_left_on(case: Case) -> Iterator[Hit]:
    """A mask that nobody takes off."""
    order = case.order
    for bracket in order.brackets:
        if bracket.off is not None:
            continue
        mask = order[bracket.mask]
        later = [
            step
            for step in order.later(bracket.mask)
            if step.nature.is_varnish or step.nature.joins or step.nature.phase is Phase.TOUCHING_UP
        ]
        if later:
            words = _("{0} is still on when {1} comes, and nobody takes it off.").format(
                mask.name, later[-1].name
            )
            yield Hit(later[-1], mask, "stop", words)
        else:
            yield Hit(mask, None, "warn", _("Nobody takes {0} off.").format(mask.name))


def mask_for_nothing(case: Case) -> Iterator[Hit]:
    """A mask against which nothing is sprayed or painted, or one taken off that is not on."""
    order = case.order
    for bracket in order.brackets:
        mask = order[bracket.mask]
        end = len(order) if bracket.off is None else bracket.off
        between = order[bracket.mask + 1 : end]
        if not any(
            one_model(step.model, mask.model) and (step.wet or step.loose or step.sprayed) for step in between
        ):
            words = _("Nothing is sprayed or painted while {0} is on.").format(mask.name)
            yield Hit(mask, None, "note", words)
    for index, step in enumerate(order):
        if step.nature.unmasks and not any(
            step.serves(order[i]) for ground in order.grounds(index) for i in ground.masks
        ):
            words = _("{0} takes off what nobody has put on there.").format(step.name)
            yield Hit(
                step,
                None,
                "note",
                words,
                _("Add the mask before what it protects from, or leave this step out."),
            )


def tape_on_powder(case: Case) -> Iterator[Hit]:
    """Tape pulls loose powder off."""
    order = case.order
    for index, step in enumerate(order):
        if not step.nature.masks:
            continue
        fixed = False
        for below in order.open_below(index):
            fixed = fixed or below.nature.fixes
            if below.loose:
                words = _("{0} would pull {1} off, which lies loose.").format(step.name, below.name)
                yield Hit(step, below, "note" if fixed else "warn", words)
                break


def tape_on_marking(case: Case) -> Iterator[Hit]:
    """Tape lifts markings that nothing seals."""
    order = case.order
    for index, step in enumerate(order):
        if not step.nature.masks:
            continue
        for below in order.open_below(index):
            if below.nature.is_print:
                words = _("{0} may lift {1}, which nothing seals.").format(step.name, below.name)
                yield Hit(step, below, "warn", words)
                break


def glass_not_masked(case: Case) -> Iterator[Hit]:
    """Clear parts that are fitted and then sprayed over."""
    order = case.order
    for index, glass in enumerate(order):
        if not glass.nature.clear:
            continue
        mine, masked = set(order.zones(glass)), False
        for step in order[index + 1 :]:
            if not one_model(step.model, glass.model):
                continue
            same = not mine.isdisjoint(order.zones(step))
            if same and (step.nature.is_mask or step.nature.lifts):
                masked = step.nature.is_mask
            if step.sprayed and step.nature.leaves_film and not masked:
                words = _("{0} is sprayed after {1}, and nothing masks the glass.").format(
                    step.name, glass.name
                )
                yield Hit(step, glass, "warn" if same else "note", words)
                break
