"""A plan as another school would have it: steps put in, left out or moved, and what that changes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.order import Order
from lean_sepia.plan.placing import place_of
from lean_sepia.plan.rules.surfaces import flat_below
from lean_sepia.plan.step import Material, PlanStep

_CHIPS, _RESIST = "chips", "resist"  # the question, and the choice that is also the kind


def adapted(steps: Sequence[PlanStep], schools: Mapping[str, str], question: str) -> tuple[PlanStep, ...]:
    """The steps as the school chosen for a question would have them; the others stay in their order."""
    change = _CHANGES.get(question)
    return tuple(change(list(steps), schools) if change else _placed_anew(list(steps), question, schools))


def _put(steps: list[PlanStep], new: PlanStep, schools: Mapping[str, str]) -> list[PlanStep]:
    place = place_of(steps, new, schools)
    return [*steps[:place], new, *steps[place:]]


def _placed_anew(steps: list[PlanStep], question: str, schools: Mapping[str, str]) -> list[PlanStep]:
    """Steps of which the answer to a question decides when they come, taken out and put where the schools have them."""
    rest = [step for step in steps if not _depends(step, question)]
    for step in steps:
        if not _depends(step, question):
            continue
        rest = _put(rest, step, schools)
    return rest


def _depends(step: PlanStep, question: str) -> bool:
    return any(other.question == question for other in step.nature.otherwise)


def _like(step: PlanStep, kind: str, tail: str) -> PlanStep:
    medium = Material(medium="acrylic-water", finish="flat")
    return PlanStep(
        id=f"{step.id} {tail}",
        kind=kind,
        zones=step.zones,
        model=step.model,
        material=medium,
        place=step.place,
    )


def _decals(steps: list[PlanStep], schools: Mapping[str, str]) -> list[PlanStep]:
    if schools.get("decals") == "gloss-first":
        order = Order(steps)
        flat = [step for index, step in enumerate(order) if step.nature.is_print and flat_below(order, index)]
        for marking in flat:
            place = steps.index(marking)
            steps = [*steps[:place], _like(marking, "gloss-coat", "gloss"), *steps[place:]]
        return steps
    return [step for i, step in enumerate(steps) if not (step.nature.shines and _serves_markings(steps, i))]


def _serves_markings(steps: Sequence[PlanStep], index: int) -> bool:
    """Whether a gloss or satin coat is there for markings only: they are the next on it, and no wash before another varnish."""
    followed = False
    for step in steps[index + 1 :]:
        if not step.shares_zone(steps[index]):
            continue
        if step.nature.is_varnish:
            return followed
        if step.nature.runs:
            return False
        followed = followed or step.nature.is_print
    return followed


def _light(steps: list[PlanStep], schools: Mapping[str, str]) -> list[PlanStep]:
    wanted = {"post-shade": "tone", "pre-shade": "preshade"}.get(schools.get("light", ""), "")
    shading = [step for step in steps if step.nature.lights]
    answer = [step for step in steps if not step.nature.lights]
    for step in shading:
        if wanted:
            answer = _put(answer, step.model_copy(update={"kind": wanted}), schools)
    return answer


def _chips(steps: list[PlanStep], schools: Mapping[str, str]) -> list[PlanStep]:
    if schools.get(_CHIPS) != _RESIST:
        return _placed_anew(steps, _CHIPS, schools)
    answer = [step for step in steps if not _depends(step, _CHIPS)]
    for step in steps:
        if _depends(step, _CHIPS):
            answer = _put(
                answer, _like(step, _RESIST, "resist").model_copy(update={"material": None}), schools
            )
            answer = _put(
                answer, _like(step, "remove-resist", "rub").model_copy(update={"material": None}), schools
            )
    return answer


def _varnish(steps: list[PlanStep], schools: Mapping[str, str]) -> list[PlanStep]:
    choice = schools.get("varnish")
    if choice == "often":
        answer: list[PlanStep] = []
        for index, step in enumerate(steps):
            answer.append(step)
            follower = next((later for later in steps[index + 1 :] if later.shares_zone(step)), None)
            if (step.nature.is_glaze or step.nature.is_decal) and follower and not (follower.nature.is_varnish or follower.nature.reworks or follower.nature.moves):  # fmt: skip
                answer.append(_like(step, "satin-coat", "seal"))
        return answer
    if choice == "rarely":
        last = {id(step) for step in _last_varnishes(steps)}
        return [step for i, step in enumerate(steps) if not step.nature.is_varnish or id(step) in last or not _only_between(steps, i)]  # fmt: skip
    powdered = [i for i, step in enumerate(steps) if step.loose]
    first = min(powdered, default=len(steps))
    return [step for i, step in enumerate(steps) if not (step.nature.is_varnish and i > first)]


def _last_varnishes(steps: Sequence[PlanStep]) -> list[PlanStep]:
    answer = []
    for index, step in enumerate(steps):
        later = any(other.nature.is_varnish and other.shares_zone(step) for other in steps[index + 1 :])
        if step.nature.is_varnish and not later:
            answer.append(step)
    return answer


def _only_between(steps: Sequence[PlanStep], index: int) -> bool:
    """Whether neither markings nor a wash follow directly on a varnish, so that it only keeps layers apart."""
    for step in steps[index + 1 :]:
        if step.shares_zone(steps[index]):
            return not (step.nature.is_marking or step.nature.is_glaze)
    return True


_CHANGES = {
    "decals": _decals, "light": _light, _CHIPS: _chips, "varnish": _varnish,
}  # fmt: skip


def changed_by() -> frozenset[str]:
    """Questions whose answer changes the steps or their times."""
    phases = {other.question for kind in KINDS.values() for other in kind.otherwise}
    return frozenset({*_CHANGES, *phases, "oil-rest"})
