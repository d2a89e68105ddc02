"""What the program has noticed, the most important first, and how far each room has come: all rooms are asked."""

from __future__ import annotations

from collections.abc import Mapping

from lean_sepia.answers.coats.showing import Showing
from lean_sepia.answers.rooms.room import NO_NOTES, NO_SHOWINGS, Advice, Noticing, RoomState
from lean_sepia.answers.rooms.table import ROOMS
from lean_sepia.answers.strata import Strata
from lean_sepia.document.model import Project
from lean_sepia.plan.traits.kind import Room


def advice(
    project: Project,
    strata: Mapping[str, Strata],
    showings: Mapping[str, Mapping[str, Showing]] = NO_SHOWINGS,
    notes: Mapping[str, str] = NO_NOTES,
) -> list[Advice]:
    """Everything worth saying, the most important first; never empty.

    showings : how the coats of each zone show, by zone and coat; notes : what the user noted of bottles, by shelf id
    """
    seen = Noticing(project, strata, showings, notes)
    said = (one for room in ROOMS.values() for one in room.advice(seen))
    return sorted(said, key=lambda one: one.urgency)


def room_states(project: Project, strata: Mapping[str, Strata]) -> dict[Room, RoomState]:
    """State of every room."""
    seen = Noticing(project, strata)
    return {name: room.state(seen) for name, room in ROOMS.items()}
