"""What Plan asks: the steps as rules and schedule see them, what spoils what, and when each can be done."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

from lean_sepia.document.edits.steps import title_of
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import finish_of, medium_of
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.plan.evenings import Window, parse_evenings
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.rules import Finding, check_plan
from lean_sepia.plan.schedule import Schedule, build_schedule
from lean_sepia.plan.step import PlanStep


def coats_in(project: Project, step_id: str) -> tuple[Coat, ...]:
    """The coats that are laid in a step and are on."""
    return tuple(coat for coat in project.coats if coat.step == step_id and coat.on)


def plan_steps(project: Project) -> tuple[PlanStep, ...]:
    """The document's steps as rules and schedule see them; a step whose coats are all switched off is left out."""
    answer = []
    for step in project.steps:
        coats = coats_in(project, step.id)
        if not coats and any(coat.step == step.id for coat in project.coats):
            continue
        medium = medium_of(project, coats[0]) if coats else step.medium or KINDS[step.kind].medium
        finish = finish_of(project, coats[0]) if coats else KINDS[step.kind].finish or "flat"
        zones = sorted({coat.zone for coat in coats} | set(step.zones))
        answer.append(
            PlanStep.model_validate(
                {
                    "id": step.id, "title": title_of(project, step), "kind": step.kind, "zones": tuple(zones) or "all",
                    "material": {"medium": medium, "finish": finish} if medium else None, "after": _kept(step.after, project),
                    "carrier": step.carrier, "application": coats[0].tool if coats else next(iter(KINDS[step.kind].tools), None),
                    "place": step.place or (None if project.owns.booth else "indoors"), **_stated_times(step),
                }
            )
        )  # fmt: skip
    return tuple(answer)


def _kept(after: tuple[str, ...], project: Project) -> tuple[str, ...]:
    """The steps waited for, without those whose coats are all switched off."""
    off = {coat.step for coat in project.coats} - {coat.step for coat in project.coats if coat.on}
    off |= {step.id for step in project.steps if not KINDS[step.kind].to_do}
    return tuple(name for name in after if name not in off)


def _stated_times(step: object) -> dict[str, float]:
    """The times the user gave a step; the others are the usual ones of its kind."""
    names = ("hands_on_min", "touch_dry_min", "full_cure_min", "removable_until_min")
    return {name: value for name in names if (value := getattr(step, name)) is not None}


@dataclass(frozen=True)
class PlanQuestion:
    """The steps, and when there is time for them."""

    steps: tuple[PlanStep, ...]
    start: str
    evenings: str

    @property
    def work(self) -> tuple[PlanStep, ...]:
        """The steps in which there is something to do: what is there already needs no time."""
        return tuple(step for step in self.steps if step.nature.to_do)


@dataclass(frozen=True)
class PlanAnswer:
    """What was found against the order, and when each step is done; without a schedule, why there is none.

    used : the evenings with work in them
    """

    question: PlanQuestion
    findings: tuple[Finding, ...]
    schedule: Schedule | None
    used: tuple[Window, ...]
    fault: str = ""

    @property
    def hands(self) -> timedelta:
        """Time at the bench."""
        return timedelta(minutes=sum(step.hands_on_min for step in self.question.steps))

    @property
    def waiting(self) -> timedelta:
        """Time from the first start to the finish in which the hands are free."""
        if self.schedule is None or not self.schedule.steps:
            return timedelta()
        begin = min(placed.start for placed in self.schedule.steps)
        return self.schedule.finish - begin - self.hands


def next_evening(now: datetime) -> str:
    """Tomorrow evening, as a plan starts where no start was given."""
    return f"{now + timedelta(days=1):%Y-%m-%d}T19:00"


def ask(project: Project, now: datetime | None = None) -> PlanQuestion:
    """The question for a document; without a start of its own the plan begins tomorrow evening."""
    start = project.plan_start or next_evening(now or datetime.now())
    return PlanQuestion(plan_steps(project), start, project.evenings)


def answer(question: PlanQuestion) -> PlanAnswer:
    """Check the order and place every step."""
    findings = tuple(check_plan(question.steps))
    try:
        evenings = parse_evenings(question.evenings)
        begin = datetime.fromisoformat(question.start)
        schedule = build_schedule(question.work, begin, evenings)
    except SepiaError as error:
        return PlanAnswer(question, findings, None, (), str(error))
    except ValueError:
        fault = _("A start is written 2026-11-30T19:00; found {0!r}.").format(question.start)
        return PlanAnswer(question, findings, None, (), fault)
    used = []
    last = max((placed.end for placed in schedule.steps), default=begin)
    for window in evenings.windows(begin):
        if window.start > last:
            break
        if any(window.start <= placed.start < window.end for placed in schedule.steps):
            used.append(window)
    return PlanAnswer(question, findings, schedule, tuple(used))
