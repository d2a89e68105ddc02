"""What a room is to the rest of the program: a row of the one table of rooms."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from enum import IntEnum, auto
from typing import TYPE_CHECKING, Literal

from lean_sepia.answers.coats.showing import Showing
from lean_sepia.answers.strata import Strata
from lean_sepia.document.model import Project
from lean_sepia.language import N_, _
from lean_sepia.plan.traits.kind import Room

if TYPE_CHECKING:
    from lean_sepia.answers.nearer.outcome import Offer

NO_SHOWINGS: Mapping[str, Mapping[str, Showing]] = {}
NO_NOTES: Mapping[str, str] = {}
NO_OFFERS: Mapping[str, Offer] = {}
State = Literal["empty", "started", "done"]
STATE_WORDS: dict[State, str] = {"empty": N_("nothing yet"), "started": N_("started"), "done": N_("done")}


class Urgency(IntEnum):
    """What is said first."""

    BEGIN = auto()
    CONTRADICTED = auto()
    DISAGREES = auto()
    ORDER = auto()
    SHOWS = auto()
    NOTED = auto()
    MISSING = auto()
    MATCHES = auto()
    ALL_IS_WELL = auto()


@dataclass(frozen=True)
class Advice:
    """One sentence, the room where it is dealt with, the zone it concerns, and how soon it is said.

    about : what it is about besides its zone, in codes and ids: what tells it from other remarks however it is worded
    gain : of remarks as urgent as each other, the greatest is said first, ΔE00
    nearer : whether it is about what would bring the zone nearer, which has a sheet of its own
    """

    text: str
    room: Room
    zone: str | None = None
    urgency: Urgency = Urgency.ALL_IS_WELL
    about: tuple[str, ...] = ()
    gain: float = 0.0
    nearer: bool = False

    @property
    def key(self) -> str:
        """What a remark that was put off is known by."""
        return "/".join(
            (self.urgency.name.lower().replace("_", "-"), *filter(None, (self.zone, *self.about)))
        )


@dataclass(frozen=True)
class RoomState:
    """How far a room has come: a few words, and whether nothing, something or all is done."""

    detail: str
    state: State


@dataclass(frozen=True, eq=False)
class Noticing:
    """What rooms look at to say how far they have come and what they notice.

    showings : how the coats of each zone show, by zone and coat; notes : what the user noted of bottles, by shelf id
    nearer : the change that would bring most, by zone, where one surely does
    """

    project: Project
    strata: Mapping[str, Strata]
    showings: Mapping[str, Mapping[str, Showing]] = field(default_factory=dict)
    notes: Mapping[str, str] = field(default_factory=dict)
    nearer: Mapping[str, Offer] = field(default_factory=dict)


def _nothing_noticed(_seen: Noticing) -> Iterator[Advice]:
    return iter(())


@dataclass(frozen=True, kw_only=True)
class RoomNature:
    """One room.

    widget : the module below the window's package and the class in it; named here, made when the room is first entered
    help : what the room is for and its keys
    state : how far it has come; advice : what it has noticed
    """

    title: str
    widget: str
    help: str
    state: Callable[[Noticing], RoomState]
    advice: Callable[[Noticing], Iterator[Advice]] = _nothing_noticed


def state_of(detail: str, count: int, of: int) -> RoomState:
    """The state of a room in which so many of so many are done."""
    if count == 0:
        return RoomState(detail if of else _(STATE_WORDS["empty"]), "empty")
    return RoomState(detail, "done" if count >= of else "started")


def zones_coated(seen: Noticing, room: Room) -> RoomState:
    """The state of a room whose work is a coat on each zone."""
    project = seen.project
    coated = sum(
        any(coat.nature.room == room and coat.on for coat in project.coats_of(zone.id))
        for zone in project.zones
    )
    return state_of(_("{0} of {1}").format(coated, len(project.zones)), coated, len(project.zones))
