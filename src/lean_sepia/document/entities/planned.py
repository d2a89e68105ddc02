"""The plan as the document keeps it: steps, where and when they are done, what was accepted and what was logged."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from lean_sepia.document.bounds import Key, Minutes, Name, Words
from lean_sepia.document.entities.worn import Frozen
from lean_sepia.paint.handling.carriers import CarrierName
from lean_sepia.plan.kinds import nature_of
from lean_sepia.plan.names import KindName, MediumName, Place, ToolName
from lean_sepia.plan.step import MaskKind
from lean_sepia.plan.traits.kind import Kind


class Step(Frozen):
    """One step of the work; the document's order of steps is the only order.

    Where coats are laid in it, zones, medium, finish and tool are theirs; `zones`, `medium` and `tool` are for steps without a coat.
    Title and times are kept only where the user gave them. by_hand : whether the user put it where it is, so that nothing moves it
    started, ended : when it was done at the bench, on the clock of the wall; spent_min : how long it took, where that is known
    serves : the steps it works on: draws out, wipes, softens, fixes, unmasks; the newest fitting ones before it where none is named
    sitting : what names the steps that are done at one go with it; none where it is done by itself
    ticked : what was ticked off of the list before it; remark : one line from the bench
    """

    id: Key
    kind: KindName
    title: Name = ""
    zones: tuple[Key, ...] = ()
    after: tuple[Key, ...] = ()
    medium: MediumName | None = None
    carrier: CarrierName | None = None
    tool: ToolName | None = None
    mask: MaskKind | None = None
    place: Place | None = None
    hands_on_min: Minutes | None = None
    touch_dry_min: Minutes | None = None
    full_cure_min: Minutes | None = None
    workable_until_min: Minutes | None = None
    removable_until_min: Minutes | None = None
    note: Words = ""
    serves: tuple[Key, ...] = ()
    sitting: Name = ""
    by_hand: bool = False
    done: bool = False
    started: Name = ""
    ended: Name = ""
    spent_min: Minutes | None = None
    ticked: tuple[Name, ...] = ()
    remark: Words = ""

    @property
    def nature(self) -> Kind:
        """What its kind is, as the one table says; of what may be printed or painted, by whether it is laid with a tool."""
        return nature_of(self.kind, printed=self.tool is None)


Degrees = Annotated[float, Field(ge=-50, le=80)]


class Workplace(Frozen):
    """Where the work is done, unless a step says otherwise, and the limits of weather and hours for work outdoors.

    place : None for where what the person owns allows it
    """

    place: Place | None = None
    daylight: Name = "daily 9:00-18:00"
    coldest_c: Degrees = 12.0
    warmest_c: Degrees = 28.0
    dampest_percent: Annotated[float, Field(ge=0, le=100)] = 65.0
    windiest_m_s: Annotated[float, Field(ge=0, le=60)] = 3.0


AT_HOME = Workplace()


class Accepted(Frozen):
    """A finding that is meant: it stays quiet, with the reason that was given."""

    id: Key
    code: Name
    step: Key
    after: Key | None = None
    reason: Words = ""


class PutOff(Frozen):
    """A remark that is not told any more in this project, by what it is known by."""

    id: Words


class LoggedWait(Frozen):
    """How long a kind of coat, of a medium or any, really took before another could follow."""

    id: Key
    below: KindName
    medium: MediumName | None = None
    then: KindName
    minutes: Minutes
    note: Words = ""
