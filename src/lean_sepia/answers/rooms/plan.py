"""Plan: the order of work, and what speaks against it."""

from __future__ import annotations

from collections.abc import Iterator

from lean_sepia.answers.rooms.room import Advice, Noticing, RoomNature, RoomState, Urgency
from lean_sepia.document.work import accepted_in, found_in
from lean_sepia.language import N_, _, ngettext

_NAME = "plan"


def _state(seen: Noticing) -> RoomState:
    work = sum(step.nature.to_do for step in seen.project.steps)
    words = ngettext("{0} step", "{0} steps", work).format(work) if work else _("no step yet")
    return RoomState(words, "done" if work else "empty")


def _advice(seen: Noticing) -> Iterator[Advice]:
    project = seen.project
    accepted = accepted_in(project)
    for finding in found_in(project):
        if finding.severity != "note" and finding.key not in accepted:
            yield Advice(
                finding.message, _NAME, urgency=Urgency.ORDER, about=tuple(part or "" for part in finding.key)
            )


HELP = N_(
    "Plan: the order of work.\n\n"
    "Each evening is a sheet with its steps; dashed threads are what dries, brackets what is masked. "
    "Arrows choose a step, Ctrl and arrows or dragging move it, Enter opens it, Delete removes it. "
    "What was found can be mended, or kept with a reason."
)
ROOM = RoomNature(title=N_("Plan"), widget="plan.plan_room:PlanRoom", help=HELP, state=_state, advice=_advice)
