"""What was measured of the wear of a region, as the document keeps it, and the base of all parts of the document."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from lean_sepia.document.bounds import Bounded, Count, Key, Lab, Name, Point, Share, Size


class Frozen(BaseModel):
    """Base of all parts of the document."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, revalidate_instances="always")


Spot = tuple[Bounded, Bounded, Size]


class WearStroke(Frozen):
    """A correction by hand: what a stroke of the brush on the photo shows, a kind of wear or, where it is empty, the ground."""

    kind: Name = ""
    path: Annotated[tuple[Point, ...], Field(min_length=1, max_length=2000)]
    radius: Size


class WearClass(Frozen):
    """One class of wear in a region, with the colour it was recognised by; sizes on the prototype, None where no length is known.

    every_mm : median size of all its marks, also of those too small or cut, from which the like can be made
    spot : where on the photo it was pointed at
    islands : whether the sizes are those of the ground that is left; by_height : share of each fifth that is covered, from above
    """

    name: Name
    lab: Lab
    coverage_percent: Bounded
    coverage_range90: tuple[Bounded, Bounded] | None = None
    median_mm: Bounded | None
    median_range90: tuple[Bounded, Bounded] | None = None
    p90_mm: Bounded | None
    count: Count
    direction_deg: Bounded | None
    direction_within_deg: Bounded | None = None
    streak_mm: Bounded | None = None
    edge_share: Bounded
    islands: bool = False
    by_height: tuple[Share, ...] = ()
    every_mm: Bounded | None = None
    spot: Spot | None = None


class WearRecord(Frozen):
    """The survey of a region; what needs a length is None where none is known.

    ground, ground_spot : the sound paint and where on the photo it was pointed at, where it was; strokes : corrections by hand
    """

    mm_per_px: Size | None
    coverage_percent: Bounded
    classes: tuple[WearClass, ...]
    iso_4628_3: Name
    astm_d610: Annotated[int, Field(ge=0, le=10)]
    smallest_visible_mm: Bounded
    visible_coverage_percent: Bounded | None
    tint_lab_shift: tuple[Bounded, Bounded, Bounded] | None
    ground: Lab | None = None
    ground_spot: Spot | None = None
    strokes: Annotated[tuple[WearStroke, ...], Field(max_length=200)] = ()


Trodden = Literal["step", "hatch", "rail", "cargo", "door", "hinge", "bolt", "seam", "exhaust", "runoff"]
Climate = Literal["", "arid", "damp"]
Drift = Literal["", "left", "right"]
MOST_SOURCES, MOST_PLANNED = 60, 12


class Source(Frozen):
    """Where a zone is trodden, gripped or loaded, or where water, rust or soot starts: x and y from its upper left corner, 0–1.

    reach : how far wear spreads round it, as a share of the zone's breadth
    """

    what: Trodden
    x: Share
    y: Share
    reach: Annotated[float, Field(gt=0, le=1)] = 0.08


class PlannedWear(Frozen):
    """How much of one kind of wear a zone is to have.

    kind : from the table of kinds, or a name of one's own; share : of the area, at heaviness 1; median_mm : of its marks, on the
    prototype; tool : what its marks are made with, the usual one where it is empty
    """

    kind: Name
    share: Share
    median_mm: Size | None = None
    tool: Name = ""


class WearPlan(Frozen):
    """What wear a zone is to have, without a photo too.

    heaviness : by which all shares are multiplied; larger : how many times larger than life marks are made, by choice
    edges : whether the zone's edges wear like what is trodden; water_from : the zone above, whose water runs on over this one
    drift : to which side soot and dust are carried
    dark_first : dark marks before light ones; two_tone : whether each kind of chips that is laid later lies inside those before it
    seed : of the chance in it; the side that mirrors another has its own
    """

    kinds: Annotated[tuple[PlannedWear, ...], Field(max_length=MOST_PLANNED)] = ()
    heaviness: Annotated[float, Field(ge=0, le=5)] = 1.0
    sources: Annotated[tuple[Source, ...], Field(max_length=MOST_SOURCES)] = ()
    climate: Climate = ""
    edges: bool = False
    water_from: Key | None = None
    drift: Drift = ""
    larger: Annotated[float, Field(ge=1, le=10)] = 1.0
    dark_first: bool = False
    two_tone: bool = False
    seed: Annotated[int, Field(ge=0, le=1_000_000)] = 11
