"""A plan as another school would have it: steps put in, left out or moved, and what that changes."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from lean_sepia.plan.order import Order
from lean_sepia.plan.placing import place_of
from lean_sepia.plan.rules.surfaces import flat_below
from lean_sepia.plan.step import Material, PlanStep

_SHEEN = ("gloss-coat", "satin-coat")


def adapted(steps: Sequence[PlanStep], schools: Mapping[str, str], question: str) -> tuple[PlanStep, ...]:
    """The steps as the school chosen for a question would have them; the others stay in their order."""
    change = _CHANGES.get(question)
    return tuple(change(list(steps), schools)) if change else tuple(steps)


def _put(steps: list[PlanStep], new: PlanStep, schools: Mapping[str, str]) -> list[PlanStep]:
    place = place_of(steps, new, schools)
    return [*steps[:place], new, *steps[place:]]


def _placed_anew(steps: list[PlanStep], kinds: Iterable[str], schools: Mapping[str, str]) -> list[PlanStep]:
    """Steps of some kinds taken out and put where the schools have them."""
    moved = [step for step in steps if step.kind in kinds]
    rest = [step for step in steps if step.kind not in kinds]
    for step in moved:
        rest = _put(rest, step, schools)
    return rest


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
        flat = [
            step for index, step in enumerate(order) if step.kind == "marking" and flat_below(order, index)
        ]
        for marking in flat:
            place = steps.index(marking)
            steps = [*steps[:place], _like(marking, "gloss-coat", "gloss"), *steps[place:]]
        return steps
    return [step for i, step in enumerate(steps) if not (step.kind in _SHEEN and _serves_markings(steps, i))]


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
        followed = followed or step.kind == "marking"
    return followed


def _camouflage(steps: list[PlanStep], schools: Mapping[str, str]) -> list[PlanStep]:
    return _placed_anew(steps, ("camouflage",), schools)


def _light(steps: list[PlanStep], schools: Mapping[str, str]) -> list[PlanStep]:
    wanted = {"post-shade": "tone", "pre-shade": "preshade"}.get(schools.get("light", ""), "")
    answer = [step for step in steps if step.kind not in ("tone", "preshade")]
    for step in steps:
        if step.kind in ("tone", "preshade") and wanted:
            answer = _put(answer, step.model_copy(update={"kind": wanted}), schools)
    return answer


def _chips(steps: list[PlanStep], schools: Mapping[str, str]) -> list[PlanStep]:
    if schools.get("chips") != "resist":
        return _placed_anew(steps, ("chips",), schools)
    answer = [step for step in steps if step.kind != "chips"]
    for step in steps:
        if step.kind == "chips":
            answer = _put(
                answer, _like(step, "resist", "resist").model_copy(update={"material": None}), schools
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
            if step.nature.family in ("marking", "glaze") and follower and not follower.nature.is_varnish and not follower.nature.reworks and follower.kind != "setting-solution":  # fmt: skip
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
            return not (step.kind == "marking" or step.nature.is_glaze)
    return True


_CHANGES = {
    "decals": _decals, "camouflage": _camouflage, "light": _light, "chips": _chips, "varnish": _varnish,
}  # fmt: skip
CHANGED_BY = frozenset({*_CHANGES, "oil-rest"})
"""Questions whose answer changes the steps or their times."""
