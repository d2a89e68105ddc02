"""Bench: one step at a time, and what was noted of its bottles."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from lean_sepia.answers.rooms.room import Advice, Noticing, RoomNature, RoomState, Urgency, state_of
from lean_sepia.document.model import Project
from lean_sepia.language import N_, _

_NAME = "bench"


def _state(seen: Noticing) -> RoomState:
    work = [step for step in seen.project.steps if step.nature.to_do]
    done = sum(step.done for step in work)
    return state_of(_("{0} of {1} done").format(done, len(work)) if done else _("not begun"), done, len(work))


def _advice(seen: Noticing) -> Iterator[Advice]:
    yield from _noted(seen.project, seen.notes)
    yield Advice(_("Nothing stands in the way. The bench card has every step in order."), _NAME)


def _noted(project: Project, notes: Mapping[str, str]) -> Iterator[Advice]:
    """What the user noted of a bottle that is used in a step that is not done."""
    done = {step.id for step in project.steps if step.done}
    told: set[str] = set()
    for coat in project.coats:
        if not coat.recipe or not coat.on or coat.step in done:
            continue
        for version, _count in project.recipe(coat.recipe).parts:
            paint = project.paint(version)
            note = notes.get(paint.shelf_id, "")
            if note and paint.shelf_id not in told:
                told.add(paint.shelf_id)
                words = _("{0}, used on {1}: {2}")
                yield Advice(
                    words.format(paint.name, project.zone(coat.zone).name, note),
                    _NAME,
                    coat.zone,
                    Urgency.NOTED,
                    (paint.shelf_id,),
                )


HELP = N_(
    "Bench: one step at a time.\n\n"
    "Space or Page Down marks the step as done, starts its clocks and shows the next; Page Up goes back. "
    "Clocks run on while the program is closed. Print the card to work from paper."
)
ROOM = RoomNature(
    title=N_("Bench"), widget="bench.bench_room:BenchRoom", help=HELP, state=_state, advice=_advice
)
