"""The plan file: steps in JSON, with the schools that were chosen and a factor for drying."""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from lean_sepia.errors import EditError, PlanError
from lean_sepia.files.gate import read_json
from lean_sepia.language import _
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.net import check_steps
from lean_sepia.plan.schools import checked_school
from lean_sepia.plan.step import MOST_STEPS, PlanStep
from lean_sepia.plan.waits.drying import Drying, rested

_FACTORS = (0.1, 10.0)


@dataclass(frozen=True)
class Plan:
    """Steps in their order, the schools that were chosen, and how things dry."""

    steps: tuple[PlanStep, ...]
    schools: dict[str, str] = field(default_factory=dict)
    factor: float = 1.0

    @property
    def drying(self) -> Drying:
        """How long things dry, as the schools and the factor say."""
        return Drying(self.factor, rest=rested(self.schools))


def parse_plan(data: Any) -> Plan:
    """A plan from the decoded JSON of a plan file.

    Raises
    ------
    PlanError
        The content breaks a rule; the message names the step and the field.
    """
    if not isinstance(data, dict) or not isinstance(data.get("steps"), list):
        raise PlanError(_('A plan file is {"steps": [...]}; no list named "steps" was found.'))
    if len(data["steps"]) > MOST_STEPS:
        words = _("A plan has at most {0} steps; found {1}. Divide it.")
        raise PlanError(words.format(MOST_STEPS, len(data["steps"])))
    steps = []
    for position, record in enumerate(data["steps"]):
        try:
            steps.append(_of_its_model(PlanStep.model_validate(record)))
        except ValidationError as error:
            raise PlanError(_plain(error, record, position)) from None
    check_steps(steps)
    return Plan(tuple(steps), _schools(data.get("schools")), _factor(data.get("drying_factor", 1.0)))


def _of_its_model(step: PlanStep) -> PlanStep:
    """Zones are named within a model; two models may both have a hull."""
    if not step.model or step.zones == "all":
        return step
    return step.model_copy(update={"zones": tuple(f"{step.model}/{zone}" for zone in step.zones)})


def _schools(found: Any) -> dict[str, str]:
    if found is None:
        return {}
    if not isinstance(found, dict):
        raise PlanError(
            _('Schools are written {{"decals": "smooth"}}; found {0!r}.').format(ascii(found)[:60])
        )
    for question, choice in found.items():
        if not isinstance(choice, str):
            raise PlanError(
                _('Schools are written {{"decals": "smooth"}}; found {0!r}.').format(ascii(choice)[:60])
            )
        try:
            checked_school(question, choice)
        except EditError as error:
            raise PlanError(str(error)) from None
    return dict(found)


def _factor(found: Any) -> float:
    low, high = _FACTORS
    if isinstance(found, bool) or not isinstance(found, (int, float)) or not low <= found <= high:
        words = _("A drying factor is a number from {0:g} to {1:g}; found {2!r}.")
        raise PlanError(words.format(low, high, ascii(found)[:60]))
    return float(found)


def read_plan(path: str | Path) -> Plan:
    """Read a plan file.

    Raises
    ------
    PlanError
        The file is missing, not JSON in UTF-8, or breaks a rule.
    """
    return parse_plan(read_json(path, _("The plan"), PlanError))


def _plain(error: ValidationError, record: Any, position: int) -> str:
    first = error.errors()[0]
    name = record.get("id", position + 1) if isinstance(record, dict) else position + 1
    field_name = ".".join(
        str(part)
        for part in first["loc"]
        if not str(part).startswith(("tuple[", "literal[", "function-after"))
    )
    if first["type"] == "missing":
        return _("Step {0!r} has no {1!r}, which every step needs.").format(name, field_name)
    if field_name == "kind":
        return _("Step {0!r} has the kind {1!r}; kinds are: {2}.").format(
            name, first["input"], ", ".join(KINDS)
        )
    return _("Step {0!r}, field {1!r}: {2}; found {3!r}.").format(
        name, field_name, first["msg"], ascii(first["input"])[:60]
    )
