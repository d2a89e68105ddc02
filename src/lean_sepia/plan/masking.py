"""What the masking of a plan costs, and a pattern painted base first against the reverse order."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from lean_sepia.plan.hours.bench_minutes import set_up_minutes, work_minutes
from lean_sepia.plan.order import Order, one_model
from lean_sepia.plan.step import PlanStep

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
            minutes += hand_minutes(step, covered) if step.hands_on_min is None else step.hands_on_min
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


def hand_minutes(step: PlanStep, area_cm2: float) -> float:
    """Minutes to lay or to lift a mask of an area, with setting out and clearing away."""
    return set_up_minutes(step.nature, None) + (work_minutes(step.nature, None, area_cm2) or 0.0)


def _by_hand(step: PlanStep, area_cm2: float) -> PlanStep:
    return step.model_copy(update={"hands_on_min": hand_minutes(step, area_cm2)})


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
            mask = PlanStep(id=f"mask {tone.zone}", kind="mask", zones=(tone.zone,))
            steps.append(_by_hand(mask, tone.area_cm2))
    masked = order[:-1]
    if masked:
        lift = PlanStep(id="lift", kind="unmask", zones=tuple(tone.zone for tone in masked))
        steps.append(_by_hand(lift, sum(tone.area_cm2 for tone in masked)))
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
