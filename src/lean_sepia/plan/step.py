"""A step of the work as rules and schedule see it."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from functools import cached_property
from typing import Annotated, Any, Literal, Self

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from lean_sepia.language import _
from lean_sepia.paint.handling.carriers import CarrierName
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.hours.evenings import YEARS, in_our_time
from lean_sepia.plan.kinds import nature_of
from lean_sepia.plan.names import Finish, KindName, MediumName, Place, ToolName
from lean_sepia.plan.traits.kind import Kind


class Material(BaseModel):
    """What a step lays down."""

    model_config = ConfigDict(frozen=True, extra="allow")
    medium: MediumName | Literal["unknown"] | None = None
    finish: Finish = "flat"


def _on_the_wall(moment: datetime) -> datetime:
    """The time the clock on the wall shows: a plan has no time zone."""
    if not in_our_time(moment):
        raise ValueError(_("a date from {0} to {1}").format(*YEARS))
    return moment.replace(tzinfo=None)


_LONGEST_MIN = 525_600
MOST_STEPS = 2000
"""Of one plan."""

_SPOTS = 0.5  # of the area: what covers less is spots, which seal nothing
Minutes = Annotated[float, Field(ge=0, le=_LONGEST_MIN, allow_inf_nan=False)]
Moment = Annotated[datetime, AfterValidator(_on_the_wall)]
MaskKind = Literal["tape", "liquid", "putty"]


class PlanStep(BaseModel):
    """One step: what, where, how long the hands are busy and how long it must be left alone.

    Times that are left out are those of the tables; a stated touch_dry_min holds for paint of the same medium on it, a stated
    full_cure_min for all else. `area_share` is the share of its zones that it covers, `films` how many films it lays there,
    `cup` what it is mixed from, so that steps of one colour come together.

    works_on : ids of the steps it works on: draws out, wipes, softens, fixes, unmasks; its clocks are theirs and nobody else's
    sitting : what names the steps that are done at one go, wet in wet or from one cup, with one set-up and no wait between them
    set_up_min : of its time at the bench, what setting up and cleaning take
    pace : how many times as long as the tables say the work takes this person, where the bench logged that
    apart : whether its zones are off the model, until they are put together; on_found : whether a found finish lies there
    under_hand : the medium of what it works on
    """

    model_config = ConfigDict(frozen=True, extra="allow")
    id: str = Field(min_length=1)
    title: str = ""
    kind: KindName
    material: Material | None = None
    zones: tuple[str, ...] | Literal["all"] = "all"
    model: str = ""
    after: tuple[str, ...] = ()
    hands_on_min: Minutes | None = None
    touch_dry_min: Minutes | None = None
    full_cure_min: Minutes | None = None
    workable_until_min: Minutes | None = None
    removable_until_min: Minutes | None = None
    carrier: CarrierName | None = None
    application: ToolName | None = None
    place: Place | None = None
    mask: MaskKind | None = None
    area_share: Annotated[float, Field(ge=0, le=1)] | None = None
    films: Annotated[float, Field(ge=0, le=1000)] | None = None
    cup: str = ""
    works_on: tuple[str, ...] = ()
    sitting: str = ""
    set_up_min: Minutes = 0.0
    pace: Annotated[float, Field(gt=0)] = 1.0
    apart: bool = False
    on_found: bool | None = None
    under_hand: str | None = None
    done: bool = False
    start: Moment | None = None
    end: Moment | None = None

    @cached_property
    def nature(self) -> Kind:
        """What its kind is, as the one table says; a marking is printed unless it is laid with a tool."""
        return nature_of(self.kind, printed=self.application is None)

    @cached_property
    def _zone_set(self) -> frozenset[str]:
        return frozenset(self.zones)

    def model_copy(self, *, update: Mapping[str, Any] | None = None, deep: bool = False) -> Self:
        """A copy; what was worked out of the fields is worked out anew."""
        copied = super().model_copy(update=update, deep=deep)
        for worked_out in ("nature", "_zone_set"):
            copied.__dict__.pop(worked_out, None)
        return copied

    @property
    def hands_min(self) -> float:
        """Minutes at the bench: as stated, else the usual ones of its kind."""
        return self.nature.hands_on_min if self.hands_on_min is None else self.hands_on_min

    @property
    def loose(self) -> bool:
        """Whether it leaves loose powder; the medium decides, never the name."""
        return MEDIA[self.medium].loose if self.medium else self.nature.is_powder

    @property
    def solvent(self) -> CarrierName:
        """The carrier, from the medium unless stated."""
        if self.carrier is not None:
            return self.carrier
        return MEDIA[self.medium].carrier if self.medium else self.nature.carrier or "none"

    @property
    def at_hand(self) -> CarrierName:
        """The fluid that is at hand in it: its own, or what thins what it works on."""
        if self.solvent == "none" and self.under_hand is not None and self.nature.moves:
            return MEDIA[self.under_hand].carrier
        return self.solvent

    @property
    def wet(self) -> bool:
        """Whether something wet is put on the model."""
        if self.carrier is not None or self.medium is not None:
            return self.solvent != "none" and self.tool != "drybrush"
        return self.nature.wet

    @property
    def medium(self) -> str | None:
        """Medium of the material, if there is one and it is known."""
        return self.material.medium if self.material and self.material.medium != "unknown" else None

    @property
    def slow(self) -> bool:
        """Whether it stays open for hours: as its medium does, else that of what its kind is usually made of or worked in."""
        medium = self.medium or self.nature.medium
        return medium is not None and MEDIA[medium].slow

    @property
    def tool(self) -> str | None:
        """What it is laid with: as stated, else the usual tool of its kind."""
        return self.application or next(iter(self.nature.tools), None)

    @property
    def sprayed(self) -> bool:
        """Whether it makes a mist: with the tool that is stated, else with the usual one of its kind."""
        return self.tool is not None and TOOLS[self.tool].sprayed

    @property
    def misted(self) -> bool:
        """Whether it is no more than a mist from further off."""
        return self.tool == "mist"

    @property
    def brushed(self) -> bool:
        """Whether a wet brush works on what lies below."""
        return self.wet and not self.sprayed

    @property
    def is_full_coat(self) -> bool:
        """Whether it is a coat of paint over all it is laid on: no mist, no tone over part of it, no touch-up, no spots."""
        return self.nature.is_full_coat and not self.misted and self._covers_all

    @property
    def seals(self) -> bool:
        """Whether it shuts off what lies below from what comes later: full coats and varnishes do; spots, glazes and mists do not."""
        return (self.is_full_coat or self.nature.is_varnish) and not self.misted and self._covers_all

    @property
    def _covers_all(self) -> bool:
        dabbed = self.tool is not None and TOOLS[self.tool].dabbed
        return (self.area_share is None or self.area_share >= _SPOTS) and not dabbed

    @property
    def states_time(self) -> bool:
        """Whether it says itself how long it must be left alone: that holds for all that comes later there."""
        return self.touch_dry_min is not None or self.full_cure_min is not None

    @property
    def name(self) -> str:
        """Title, or the id where there is none."""
        return self.title or self.id

    def serves(self, other: PlanStep) -> bool:
        """Whether its kind is one that works on what another lays: draws it out, wipes it, fixes it, takes it off."""
        return self.kind in other.nature.served_by

    def shares_zone(self, other: PlanStep) -> bool:
        """Whether two steps touch a common zone."""
        if self.zones == "all" or other.zones == "all":
            return self.model == other.model or not self.model or not other.model
        return not self._zone_set.isdisjoint(other._zone_set)
