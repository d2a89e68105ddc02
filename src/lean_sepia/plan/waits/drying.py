"""How things dry here: the table of waits, what a step says of itself, and what was logged at the bench."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.waits.pair import Wait
from lean_sepia.plan.waits.table import cure_of, table_wait


def full_cure(step: PlanStep) -> float:
    """Minutes until anything may follow: as given for the step, else that of its kind or medium."""
    if step.full_cure_min is not None:
        return step.full_cure_min
    if step.nature.is_found or step.nature.apart:
        return 0.0
    return step.nature.sets_min or cure_of(step.kind, step.medium)


@dataclass(frozen=True)
class LoggedTime:
    """How long one kind of coat really took before another could follow, as it was logged at the bench."""

    below: str
    below_medium: str | None
    then: str
    minutes: float

    def fits(self, below: PlanStep, then: PlanStep) -> bool:
        """Whether it is about these two."""
        return (
            below.kind == self.below
            and then.kind == self.then
            and (not self.below_medium or below.medium == self.below_medium)
        )


@dataclass(frozen=True)
class Drying:
    """What the person knows of drying: their own logged times, and one factor for thick coats, cold and damp.

    rest : minutes that oil dots rest before blending, by those who let them
    """

    factor: float = 1.0
    logged: tuple[LoggedTime, ...] = ()
    rest: float = 0.0

    def wait(self, below: PlanStep, then: PlanStep) -> Wait:
        """The wait between one step and one that comes after it on a shared zone."""
        found = table_wait(below, then)
        late, closed = found.late, found.closed
        if then.nature.softens and below.removable_until_min is not None:
            closed = below.removable_until_min
        if then.nature.softens and below.workable_until_min is not None:
            late = below.workable_until_min
        return Wait(self._not_before(below, then, found), found.words, late, closed, found.safe, found.harder)

    def _not_before(self, below: PlanStep, then: PlanStep, found: Wait) -> float:
        for logged in reversed(self.logged):
            if logged.fits(below, then):
                return logged.minutes
        given = _given(below, then)
        if given is not None:
            return given
        rest = self.rest if below.nature.is_dots and then.nature.draws_out else 0.0
        return max(found.not_before, rest) * self.factor

    def alone(self, step: PlanStep) -> float:
        """Minutes from the end of a step that nothing follows until it is ready."""
        given = step.full_cure_min
        return given if given is not None else full_cure(step) * self.factor


USUAL = Drying()


def _given(below: PlanStep, then: PlanStep) -> float | None:
    """The time stated for a step, where something is to lie on it; what is worked on while it is fresh goes by the table."""
    if then.nature.reworks or then.nature.apart:
        return None
    return below.touch_dry_min if _one_paint_over_itself(below, then) else below.full_cure_min


def _one_paint_over_itself(below: PlanStep, then: PlanStep) -> bool:
    return below.nature.is_paint and then.nature.is_paint and below.medium == then.medium


_REST_MIN = 20.0


def rested(schools: Mapping[str, str]) -> float:
    """Minutes that oil dots rest before they are drawn out, as the school chosen for it says."""
    return _REST_MIN if schools.get("oil-rest") == "rest" else 0.0


def removable_for(step: PlanStep) -> float | None:
    """Minutes for which what a step lays can still be wiped or drawn out; None where no clock closes it, or it is not wiped."""
    if step.removable_until_min is not None:
        return step.removable_until_min
    wiped = PlanStep(id="wiped", kind="wipe-back")
    return table_wait(step, wiped).closed if step.nature.leaves_film else None
