"""Glaze: thin tints over several zones."""

from __future__ import annotations

from lean_sepia.answers.rooms.room import Noticing, RoomNature, RoomState, zones_coated
from lean_sepia.language import N_


def _state(seen: Noticing) -> RoomState:
    return zones_coated(seen, "glaze")


HELP = N_(
    "Glaze: one thin tint over several zones.\n\n"
    "In each field: before, after, what the photo shows. The best filter lowers the mean of all zones."
)
ROOM = RoomNature(title=N_("Glaze"), widget="glaze.glaze_room:GlazeRoom", help=HELP, state=_state)
