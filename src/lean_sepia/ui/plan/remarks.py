"""What is said under the date on which a plan is ready."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import timedelta

from lean_sepia.answers.bench import span, span_of
from lean_sepia.answers.plan import PlanAnswer
from lean_sepia.document.model import Project
from lean_sepia.language import _, ngettext
from lean_sepia.plan.schedule.build import Schedule


def remarks(project: Project, answer: PlanAnswer, schedule: Schedule) -> Iterator[str]:
    """The bench and the waiting, the deadline, hours meant and spent, colours changed, and what is done first."""
    yield ngettext(
        "{1} at the bench over {0} evening, {2} waiting. Full bars hold the finish back.",
        "{1} at the bench over {0} evenings, {2} waiting. Full bars hold the finish back.",
        len(answer.used),
    ).format(len(answer.used), span_of(answer.hands), span_of(round_hours(answer.waiting)))
    if answer.late is not None:
        yield _("That is {0} after the deadline.").format(span_of(round_hours(answer.late)))
        titles = {step.id: step.name for step in answer.question.work}
        if answer.dropped:
            yield _("It is kept without: {0}.").format(", ".join(titles[name] for name in answer.dropped))
        else:
            yield _("Leaving out glazes, wear and powder is not enough to keep it: add evenings.")
    spent = [step for step in project.steps if step.spent_min is not None]
    if spent:
        meant = sum(step.hands_min for step in answer.question.work if step.id in {one.id for one in spent})
        yield _("Of what is done {0} were meant and {1} spent.").format(
            span(round(meant)), span(round(sum(step.spent_min or 0 for step in spent)))
        )
    if schedule.changes:
        yield ngettext(
            "{0} change of colour in the airbrush.",
            "{0} changes of colour in the airbrush.",
            schedule.changes,
        ).format(schedule.changes)
    if project.features:
        yield _("Signature, done first and best: {0}.").format(project.features[0].words)


def round_hours(delta: timedelta) -> timedelta:
    """A wait to whole hours: minutes of days of waiting say nothing."""
    return timedelta(hours=round(delta.total_seconds() / 3600))
