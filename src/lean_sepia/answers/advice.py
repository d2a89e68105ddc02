"""What the program has noticed, the most important first, and how far each room has come: all rooms are asked."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import TYPE_CHECKING

from lean_sepia.answers.coats.showing import Showing
from lean_sepia.answers.rooms.room import (
    NO_NOTES,
    NO_OFFERS,
    NO_SHOWINGS,
    Advice,
    Noticing,
    RoomState,
    Urgency,
)
from lean_sepia.answers.rooms.table import ROOMS
from lean_sepia.answers.strata import Strata
from lean_sepia.document.entities.planned import PutOff
from lean_sepia.document.model import Project
from lean_sepia.plan.traits.kind import Room

if TYPE_CHECKING:
    from lean_sepia.answers.nearer.outcome import Offer


def advice(
    project: Project,
    strata: Mapping[str, Strata],
    showings: Mapping[str, Mapping[str, Showing]] = NO_SHOWINGS,
    notes: Mapping[str, str] = NO_NOTES,
    nearer: Mapping[str, Offer] = NO_OFFERS,
) -> list[Advice]:
    """Everything worth saying, put off or not, the most important first; never empty: all is well where nothing else is noticed.

    showings : how the coats of each zone show, by zone and coat; notes : what the user noted of bottles, by shelf id
    nearer : the change that would bring most, by zone
    """
    seen = Noticing(project, strata, showings, notes, nearer)
    said = sorted(
        (one for room in ROOMS.values() for one in room.advice(seen)),
        key=lambda one: (one.urgency, -one.gain),
    )
    return [one for one in said if one.urgency != Urgency.ALL_IS_WELL] or said


def as_told(said: Sequence[Advice], put_off: Iterable[PutOff], room: Room | None) -> list[Advice]:
    """What of it is told in a room: nothing that was put off, and first what concerns the room."""
    silent = {one.id for one in put_off}
    left = [one for one in said if one.key not in silent]
    return sorted(left, key=lambda one: one.room != room)


def room_states(project: Project, strata: Mapping[str, Strata]) -> dict[Room, RoomState]:
    """State of every room."""
    seen = Noticing(project, strata)
    return {name: room.state(seen) for name, room in ROOMS.items()}
