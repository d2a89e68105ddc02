"""What the masking of a plan costs, and a pattern painted base first against the reverse order."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from lean_sepia.plan.order import Order, one_model
from lean_sepia.plan.step import PlanStep

_FIXED_MIN, _MIN_PER_CM2, _OFF_MIN = 10.0, 0.3, 10.0  # practice, no source
_USUAL_CM2 = 60.0


@dataclass(frozen=True)
class MaskingCost:
    """What masking costs.

    masked_cm2 : area put under masks; masks : how often something is masked; minutes : at the bench, laying and lifting
    overspray : pairs of a spray and a zone of its model that is painted and lies open beside it
    """

    masked_cm2: float
    masks: int
    minutes: float
    overspray: int


def masking_cost(steps: Sequence[PlanStep], areas: Mapping[str, float]) -> MaskingCost:
    """What the masks of a plan cost; a zone of unknown area counts as a usual one."""
    order = Order(steps)
    area = minutes = 0.0
    masks = overspray = 0
    painted: dict[str, str] = {}
    for index, step in enumerate(order):
        zones = order.zones(step)
        if step.nature.is_mask:
            covered = sum(areas.get(zone, _USUAL_CM2) for zone in zones)
            area, masks = area + covered, masks + 1
            minutes += masking_minutes(covered) if step.hands_on_min is None else step.hands_on_min
        elif step.nature.lifts:
            minutes += step.hands_min
        if step.sprayed and step.nature.leaves_film:
            covered_zones = _masked_at(order, index)
            open_beside = [
                zone for zone, model in painted.items()
                if zone not in zones and zone not in covered_zones and one_model(model, step.model)
            ]  # fmt: skip
            overspray += len(open_beside)
        if step.is_full_coat:
            painted |= dict.fromkeys(zones, step.model)
    return MaskingCost(area, masks, minutes, overspray)


def masking_minutes(area_cm2: float) -> float:
    """Minutes to mask an area; common practice without a source."""
    return _FIXED_MIN + _MIN_PER_CM2 * area_cm2


def _masked_at(order: Order, index: int) -> set[str]:
    return {zone for i in order.masks_on(index) if order[i].nature.is_mask for zone in order.zones(order[i])}


@dataclass(frozen=True)
class Tone:
    """One tone of a pattern: its zone, its area, and how it is sprayed."""

    zone: str
    area_cm2: float
    hands_min: float = 30.0


def pattern_steps(tones: Sequence[Tone], reverse: bool) -> tuple[PlanStep, ...]:
    """The steps of a pattern whose first tone is its base: base first, or from the last tone back to the base."""
    order = list(reversed(tones)) if reverse else list(tones)
    steps: list[PlanStep] = []
    for number, tone in enumerate(order):
        # Each tone is sprayed over all that is not masked; those still to come are painted over by their own.
        rest = tuple(other.zone for other in order[number:])
        kind = "base" if tone is tones[0] else "camouflage"
        steps.append(
            PlanStep(id=f"spray {tone.zone}", kind=kind, zones=rest, application="airbrush", hands_on_min=tone.hands_min)
        )  # fmt: skip
        if number < len(order) - 1:
            steps.append(PlanStep(id=f"mask {tone.zone}", kind="mask", zones=(tone.zone,),
                                  hands_on_min=masking_minutes(tone.area_cm2)))  # fmt: skip
    masked = tuple(tone.zone for tone in order[:-1])
    if masked:
        steps.append(PlanStep(id="lift", kind="unmask", zones=masked, hands_on_min=_OFF_MIN * len(masked)))
    return tuple(steps)


@dataclass(frozen=True)
class Comparison:
    """A pattern painted both ways."""

    base_first: MaskingCost
    reverse: MaskingCost

    @property
    def reverse_is_less(self) -> bool:
        """Whether the reverse order masks less area."""
        return self.reverse.masked_cm2 < self.base_first.masked_cm2


def compare_orders(tones: Sequence[Tone]) -> Comparison:
    """What a pattern costs base first and in reverse."""
    areas = {tone.zone: tone.area_cm2 for tone in tones}
    return Comparison(*(masking_cost(pattern_steps(tones, reverse), areas) for reverse in (False, True)))
