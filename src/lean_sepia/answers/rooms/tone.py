"""Tone: light, shade and fade over the base."""

from __future__ import annotations

from lean_sepia.answers.rooms.room import Noticing, RoomNature, RoomState, zones_coated
from lean_sepia.language import N_


def _state(seen: Noticing) -> RoomState:
    return zones_coated(seen, "tone")


HELP = N_(
    "Tone: the faded colour.\n\n"
    "Each row takes the base in steps to its faded colour with another lightener. "
    "The figure is the remaining difference; the words say when the hue turns, as red does to pink."
)
ROOM = RoomNature(title=N_("Tone"), widget="tone.tone_room:ToneRoom", help=HELP, state=_state)
