"""The one table of rooms, in working order. Tabs, keys, help, states and advice are made from it."""

from __future__ import annotations

from lean_sepia.answers.rooms import bench, evidence, glaze, match, plan, tone, wear
from lean_sepia.answers.rooms.room import RoomNature
from lean_sepia.plan.traits.kind import Room

ROOMS: dict[Room, RoomNature] = {
    "evidence": evidence.ROOM,
    "match": match.ROOM,
    "tone": tone.ROOM,
    "glaze": glaze.ROOM,
    "wear": wear.ROOM,
    "plan": plan.ROOM,
    "bench": bench.ROOM,
}


def first_room() -> Room:
    """The room that is open at first."""
    return next(iter(ROOMS))
