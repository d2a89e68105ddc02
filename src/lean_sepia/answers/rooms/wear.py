"""Wear: how much of it there is, and how large it is."""

from __future__ import annotations

from lean_sepia.answers.rooms.room import Noticing, RoomNature, RoomState, state_of
from lean_sepia.language import N_, _


def _state(seen: Noticing) -> RoomState:
    project, zones = seen.project, len(seen.project.zones)
    worn = {region.zone for region in project.regions if region.wear}
    worn |= {coat.zone for coat in project.coats if coat.on and coat.nature.room == "wear"}
    detail = _("signature set") if project.signature and worn else _("{0} of {1}").format(len(worn), zones)
    return state_of(detail, len(worn), zones)


HELP = N_(
    "Wear: how much, how large.\n\n"
    "Trace a part of the zone on the photo, point at sound paint and at each kind of wear, say how long a pixel is, and measure. "
    "Below, the photo and the plan lie edge to edge: draw the slider to how heavy you want it. "
    "As planned shows the whole zone: click where it is trodden or wet, say what is worn, then lay it. "
    "On the model measures your own work and says what is off. "
    "What is too small to be seen at your scale becomes a tint."
)
ROOM = RoomNature(title=N_("Wear"), widget="wear.wear_room:WearRoom", help=HELP, state=_state)
