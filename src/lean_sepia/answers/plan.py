"""What Plan asks: the steps as rules and schedule see them, what spoils what, and when each can be done."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from functools import cached_property

from lean_sepia.document.check import plan_moment
from lean_sepia.document.model import Project
from lean_sepia.document.work import accepted_in, drying_of, plan_steps
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.plan.hours.evenings import Evenings, Window, parse_evenings
from lean_sepia.plan.hours.wall_clock import later, minutes_between
from lean_sepia.plan.net import Links, links
from lean_sepia.plan.order import Order
from lean_sepia.plan.rules.finding import Finding
from lean_sepia.plan.rules.table import check_plan
from lean_sepia.plan.schedule.build import Placed, Schedule, build_schedule
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.waits.drying import USUAL, Drying

_MOST_DROPPED, _ROUND_MIN = 5, 5


@dataclass(frozen=True)
class PlanQuestion:
    """The steps, how they dry, and when there is time for them.

    accepted : code, step and earlier step of findings that are meant; daylight : hours for work outdoors
    """

    steps: tuple[PlanStep, ...]
    start: str
    evenings: str
    schools: Mapping[str, str] = field(default_factory=dict)
    drying: Drying = USUAL
    accepted: frozenset[tuple[str, str, str | None]] = frozenset()
    daylight: str = ""
    deadline: str = ""

    @property
    def work(self) -> tuple[PlanStep, ...]:
        """The steps in which there is something to do: what is there already needs no time."""
        return tuple(step for step in self.steps if step.nature.to_do)


@dataclass(frozen=True)
class PlanAnswer:
    """What was found against the order, and when each step is done; without a schedule, why there is none.

    quiet : findings that are meant; used : the evenings with work in them; dropped : steps to leave out so that the deadline is kept
    """

    question: PlanQuestion
    findings: tuple[Finding, ...]
    schedule: Schedule | None
    used: tuple[Window, ...]
    fault: str = ""
    quiet: tuple[Finding, ...] = ()
    dropped: tuple[str, ...] = ()

    @property
    def hands(self) -> timedelta:
        """Time at the bench."""
        return timedelta(minutes=sum(step.hands_min for step in self.question.steps))

    @property
    def waiting(self) -> timedelta:
        """Time from the first start to the finish in which the hands are free."""
        if self.schedule is None or not self.schedule.steps:
            return timedelta()
        begin = min(placed.start for placed in self.schedule.steps)
        between = timedelta(minutes=minutes_between(begin, self.schedule.finish))
        return max(timedelta(), between - self.hands)

    @property
    def late(self) -> timedelta | None:
        """By how much the deadline is missed; None where there is none, or it is kept."""
        if not self.question.deadline or self.schedule is None:
            return None
        over = self.schedule.finish - datetime.fromisoformat(self.question.deadline)
        return over if over > timedelta() else None

    @cached_property
    def placed(self) -> dict[str, Placed]:
        """When each step is done, by its id."""
        return {one.id: one for one in self.schedule.steps} if self.schedule else {}

    @cached_property
    def links(self) -> Links:
        """What each step in which there is work waits for."""
        return links(self.question.work, self.question.drying)


def present() -> datetime:
    """The moment it is, on the clock of the wall."""
    return datetime.now()


def _start(project: Project, now: datetime) -> str:
    """When what is not done yet can begin: now, or later where a later start was chosen."""
    soon = (now + timedelta(minutes=_ROUND_MIN, microseconds=-1)).replace(second=0, microsecond=0)
    soon -= timedelta(minutes=soon.minute % _ROUND_MIN)
    begun = any(step.done and step.nature.to_do for step in project.steps)
    chosen = None if begun else plan_moment(project.plan_start)
    return max(soon, chosen or soon).isoformat(timespec="minutes")


def ask(project: Project, now: datetime | None = None) -> PlanQuestion:
    """The question for a document; without a later start of its own the plan begins, or goes on, from now."""
    return PlanQuestion(
        plan_steps(project), _start(project, (now or present()).replace(tzinfo=None)), project.evenings, project.schools,
        drying_of(project), accepted_in(project),
        project.workplace.daylight, project.deadline,
    )  # fmt: skip


def answer(question: PlanQuestion) -> PlanAnswer:
    """Check the order and place every step."""
    every = check_plan(question.steps, question.schools, question.drying)
    findings = tuple(f for f in every if f.key not in question.accepted)
    quiet = tuple(f for f in every if f.key in question.accepted)
    try:
        evenings = parse_evenings(question.evenings)
        begin = datetime.fromisoformat(question.start)
        schedule = schedule_of(question, question.work, begin, evenings)
    except SepiaError as error:
        return PlanAnswer(question, findings, None, (), str(error), quiet)
    except ValueError:
        fault = _("A start is written 2026-11-30T19:00; found {0!r}.").format(question.start)
        return PlanAnswer(question, findings, None, (), fault, quiet)
    every = _timed(question, schedule)
    findings = tuple(f for f in every if f.key not in question.accepted)
    quiet = tuple(f for f in every if f.key in question.accepted)
    found = PlanAnswer(question, findings, schedule, _used(schedule, evenings, begin), "", quiet)
    return replace(found, dropped=_to_drop(found, begin, evenings)) if found.late else found


def schedule_of(
    question: PlanQuestion, steps: tuple[PlanStep, ...], begin: datetime, evenings: Evenings
) -> Schedule:
    """When each of the steps is done."""
    outdoors = parse_evenings(question.daylight) if question.daylight else None
    return build_schedule(steps, begin, evenings, question.drying, outdoors)


def _timed(question: PlanQuestion, schedule: Schedule) -> list[Finding]:
    """All that is found once everything has its time: how old a film is decides what bites it, and second clocks run; waits are kept."""
    placed = {one.id: one for one in schedule.steps}
    dated = [
        step.model_copy(update={"start": placed[step.id].start, "end": placed[step.id].end})
        if step.id in placed
        else step
        for step in question.steps
    ]
    kept = ("not-cured", "mask-before-cure")  # by the schedule
    return [f for f in check_plan(dated, question.schools, question.drying) if f.code not in kept]


def _used(schedule: Schedule, evenings: Evenings, begin: datetime) -> tuple[Window, ...]:
    used = []
    spans = [span for placed in schedule.steps for span in placed.parts or ((placed.start, placed.end),)]
    last = max((end for _start, end in spans), default=begin)
    for window in evenings.windows(begin):
        if window.start > last:
            break
        if any(window.start <= start < window.end for start, _end in spans):
            used.append(window)
    return tuple(used)


def _to_drop(found: PlanAnswer, begin: datetime, evenings: Evenings) -> tuple[str, ...]:
    """Glazes, spots and powder without which the deadline is kept, each the one that gains most; none where that is not enough."""
    question, left = found.question, list(found.question.work)
    deadline = datetime.fromisoformat(question.deadline)
    dropped: list[str] = []
    while len(dropped) < _MOST_DROPPED:
        trials = []
        for step in left:
            if step.done or not step.nature.optional:
                continue
            rest = tuple(
                other.model_copy(update={"after": tuple(n for n in other.after if n != step.id)})
                for other in left
                if other.id != step.id and not (other.nature.draws_out and step.nature.is_dots and other.shares_zone(step))
            )  # fmt: skip
            trials.append((schedule_of(question, rest, begin, evenings).finish, step.id, rest))
        if not trials:
            return ()
        finish, name, rest = min(trials, key=lambda trial: trial[0])
        dropped.append(name)
        left = list(rest)
        if finish <= deadline:
            return tuple(dropped)
    return ()


@dataclass(frozen=True)
class Clocks:
    """Both clocks of a step: the earliest start and what sets it, and until when it can still be worked on.

    late, closed : when the work on what lies below is late, and when it comes too late; None where nothing presses
    safe : from when it is safer, where what lies below has a longer usual wait too
    """

    not_before: datetime
    because: str
    late: datetime | None = None
    closed: datetime | None = None
    safe: datetime | None = None


def clocks_of(found: PlanAnswer) -> dict[str, Clocks]:
    """Both clocks of every step that is placed."""
    placed, work = found.placed, found.question.work
    order, drying = Order(work), found.question.drying
    answer, before = {}, found.links
    for index, step in enumerate(work):
        if step.id not in placed:
            continue
        begin, because = None, ""
        for earlier, minutes in before[index].items():
            free = later(placed[work[earlier].id].end, minutes)
            if begin is None or free > begin:
                begin, because = free, work[earlier].id
        late = closed = safe = None
        for below in order.open_below(index):
            wait, end = drying.wait(below, step), placed[below.id].end
            if wait.safe is not None:
                safe = max(safe or end, later(end, wait.safe))
            if step.nature.reworks and (not step.works_on or below.id in step.works_on):
                late = _first(late, wait.late, end)
                closed = _first(closed, wait.closed, end)
        answer[step.id] = Clocks(begin or placed[step.id].start, because, late, closed, safe)
    return answer


def _first(known: datetime | None, minutes: float | None, end: datetime) -> datetime | None:
    if minutes is None:
        return known
    moment = later(end, minutes)
    return moment if known is None else min(known, moment)
