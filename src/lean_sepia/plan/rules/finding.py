"""A rule, what it says, and what was found by it."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

from lean_sepia.language import N_, _
from lean_sepia.plan.order import Order
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.waits.drying import USUAL, Drying

Severity = Literal["stop", "warn", "note"]
SEVERITY_WORDS: dict[Severity, str] = {"stop": N_("stop"), "warn": N_("warning"), "note": N_("note")}
_MILDER: dict[Severity, Severity | None] = {"stop": "warn", "warn": "note", "note": None}


def milder(severity: Severity) -> Severity | None:
    """One step milder; nothing where it was a note."""
    return _MILDER[severity]


@dataclass(frozen=True)
class Finding:
    """One thing noticed: `step` is where it happens, `after` the earlier step it concerns, if any."""

    code: str
    severity: Severity
    step: str
    after: str | None
    message: str

    @property
    def key(self) -> tuple[str, str, str | None]:
        """What tells it from others: the rule and the steps, whatever is said."""
        return self.code, self.step, self.after


_WEIGHTS: dict[Severity, int] = {"stop": 10_000, "warn": 100, "note": 1}


def weight_of(findings: Iterable[Finding]) -> int:
    """How much speaks against a plan: one stop counts more than any number of warnings that there will be, and so on."""
    return sum(_WEIGHTS[finding.severity] for finding in findings)


@dataclass(frozen=True)
class Case:
    """A plan that is looked at: its steps, the schools that were chosen, and how things dry."""

    order: Order
    schools: Mapping[str, str] = field(default_factory=dict)
    drying: Drying = USUAL

    @classmethod
    def of(
        cls, steps: Sequence[PlanStep], schools: Mapping[str, str] | None = None, drying: Drying = USUAL
    ) -> Case:
        """The case of steps in their order."""
        return cls(Order(steps), schools or {}, drying)


@dataclass(frozen=True)
class Hit:
    """A case of a rule: the step, the one it concerns, how grave, and what is said; `remedy` where it is not the rule's own."""

    step: PlanStep
    after: PlanStep | None
    severity: Severity
    words: str
    remedy: str = ""


@dataclass(frozen=True)
class Rule:
    """One rule.

    severities : that it can have, the gravest first
    why : what it is about; remedy : what helps, unless a case says otherwise
    silent : schools under which it has nothing to say, by question
    needs : a kind of step that would end it, laid before the step it stops at
    dated : whether only steps with dates can break it; safety : whether it is about health and cannot be waved off for good
    """

    code: str
    severities: tuple[Severity, ...]
    why: str
    remedy: str
    find: Callable[[Case], Iterator[Hit]]
    silent: tuple[tuple[str, tuple[str, ...]], ...] = ()
    needs: tuple[str, ...] = ()
    dated: bool = False
    safety: bool = False

    def findings(self, case: Case) -> Iterator[Finding]:
        """What it finds in a plan; nothing where the schools chosen think otherwise."""
        if any(case.schools.get(question) in choices for question, choices in self.silent):
            return
        for hit in self.find(case):
            words = f"{hit.words} {hit.remedy or _(self.remedy)}"
            after = hit.after.id if hit.after else None
            yield Finding(self.code, hit.severity, hit.step.id, after, words)
