"""The document as one immutable value. Everything refers to everything else by id."""

from __future__ import annotations

from typing import Annotated, Literal, TypeVar

from pydantic import Field

from lean_sepia.document.bounds import (
    Bounded,
    Count,
    Interval,
    Key,
    Lab,
    Lightness,
    Name,
    Opponent,
    Parts,
    Point,
    Share,
    Size,
    Words,
)
from lean_sepia.document.entities.mixed import PaintVersion, Recipe
from lean_sepia.document.entities.panels import PanelGrid
from lean_sepia.document.entities.planned import AT_HOME, Accepted, LoggedWait, PutOff, Step, Workplace
from lean_sepia.document.entities.worn import Frozen, WearPlan, WearRecord
from lean_sepia.document.lookup import item_of, looked_up
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.paint.handling.carriers import CarrierName
from lean_sepia.photo.stated.picture_kind import PictureKind
from lean_sepia.photo.stated.roles import Role
from lean_sepia.plan.kinds import nature_of
from lean_sepia.plan.names import Finish, KindName, MediumName, ProfileName, ToolName
from lean_sepia.plan.owned import EVERYTHING, Owned
from lean_sepia.plan.traits.kind import Kind

FORMAT = 11  # of this document; a newer form is refused, an older one migrated
TargetName = Literal["fresh", "exposed", "seen"]
Shape = Literal["disc", "polygon", "brush"]
Trust = Literal["", "sure", "likely", "doubtful"]
Tones = Literal["colour", "black-and-white", "colourised"]
Printed = Literal["ink", "white"]


class Subject(Frozen):
    """A model on the bench and the prototype it follows."""

    id: Key
    name: Name
    scale: Annotated[float, Field(gt=0, le=10_000)] = 72
    livery: Name = ""
    livery_from: Name = ""
    livery_to: Name = ""
    what_if: bool = False


class Stated(Frozen):
    """A target that is known without a photo: which, its colour, the radius that holds it 9 times in 10, and where it is from."""

    target: TargetName = "fresh"
    lab: Lab
    de00_90: Size = 2.0
    origin: Name = ""


class Surface(Frozen):
    """Several zones that are tones of one surface, such as a camouflaged hull; their shares sum to one."""

    id: Key
    name: Name


class Zone(Frozen):
    """An area of one model that is finished as one.

    stated : the targets known without a photo, at most one of each
    follows : the sisters whose photos count for it; empty where all do
    surface, share : the surface it is a tone of, and how much of it it covers, where that is known
    mirrors : the zone of the other side, with which it shares its mixes; panels : how it divides, where that is known
    sheltered_too : whether what is laid over all of it lies where its sheltered colour is looked for, too
    wear : what wear it is to have, where that was planned; apart : whether it is painted off the model until parts are put together
    """

    id: Key
    subject: Key
    name: Name
    short: Name
    note: Words = ""
    area_cm2: Size | None = None
    stated: tuple[Stated, ...] = ()
    follows: tuple[Name, ...] = ()
    surface: Key | None = None
    share: Share | None = None
    mirrors: Key | None = None
    panels: PanelGrid | None = None
    wear: WearPlan | None = None
    apart: bool = False
    sheltered_too: bool = False


class AnchorMark(Frozen):
    """Something known in a photo: grey if a* and b* are 0, of unknown lightness where that is None.

    `group` names the chart it is a patch of, where it is; a `guess` is taken for what it is and counts less.
    """

    id: Key
    x: Bounded
    y: Bounded
    radius: Size
    lightness: Lightness | None = None
    a: Opponent = 0.0
    b: Opponent = 0.0
    name: Name = ""
    group: Name = ""
    guess: bool = False


class Photo(Frozen):
    """A photo in the store, what is known about it, and the anchors of its correction.

    `prototype` is the sister it shows; `date` may be a span, such as 1956/1958; `mm_per_px` is its scale on the prototype; with the
    photo it was straightened from, `copy_of`, it shares its errors; `kind` is what it is stated to be, `like` one developed alike.
    """

    id: Key
    sha256: Key
    name: Name
    title: Name
    width: Parts
    height: Parts
    date: Name = ""
    process: Name = ""
    light: Name = ""
    source: Name = ""
    trust: Trust = ""
    tones: Tones = "colour"
    kind: PictureKind = "unknown"
    like: Name = ""
    prototype: Name = ""
    copy_of: Name = ""
    of_model: bool = False
    mm_per_px: Size | None = None
    notes: tuple[Words, ...] = ()
    anchors: tuple[AnchorMark, ...] = ()


class ClippedChannel(Frozen):
    """A channel that lies at an end of its scale over a share of a sample."""

    channel: Literal["red", "green", "blue"]
    end: Literal["low", "high"]
    share: Share


class Sample(Frozen):
    """The corrected colour of a disc, polygon or brush stroke on a photo, in a role for a zone.

    x, y : its middle; path : corners of the polygon or points of the stroke, `radius` that of disc or brush
    uneven : what it is besides one even colour: a printed screen, two colours that meet, a rough surface
    """

    id: Key
    photo: Key
    zone: Key
    role: Role
    x: Bounded
    y: Bounded
    radius: Size
    shape: Shape = "disc"
    path: tuple[Point, ...] = ()
    lab: Lab
    lab_range90: tuple[Interval, Interval, Interval]
    de00_90: Annotated[float, Field(ge=0, le=1e6)]
    pixels: Count
    clipped_share: Share
    clipped: tuple[ClippedChannel, ...] = ()
    uneven: Literal["", "screen", "two", "rough"] = ""
    bound: bool = False


class Tone(Frozen):
    """One colour of a region and the share of the area it covers."""

    name: Name
    lab: Lab
    share: Share


class Region(Frozen):
    """A polygon on one photo for one zone; `seen` is its plain mean, `tones` how its area divides into colours."""

    id: Key
    zone: Key
    photo: Key
    corners: Annotated[tuple[Point, ...], Field(min_length=3)]
    seen: Lab
    wear: WearRecord | None = None
    tones: tuple[Tone, ...] = ()


class Feature(Frozen):
    """Something people know the subject by: it is done first and best. It may be located on a zone and a photo."""

    id: Key
    words: Annotated[Words, Field(min_length=1)]
    zone: Key | None = None
    photo: Key | None = None
    x: Bounded | None = None
    y: Bounded | None = None


class Scheme(Frozen):
    """A colour scheme the prototype may have worn: its years, and the colour of each zone it names."""

    id: Key
    name: Name
    worn_from: Name = ""
    worn_to: Name = ""
    colours: tuple[tuple[Key, Lab], ...] = ()


class Coat(Frozen):
    """One coat on one zone, laid in a step. Its colour comes from a recipe, or is a stated `lab`.

    name : where it is called otherwise than its kind; finish : at which `lab` was measured; a recipe brings its own
    medium : of a coat without a recipe, where it is not the usual one of its kind; of a found finish it may be unknown
    carrier : what it is thinned with, where that is not what its medium says
    mix_ml : how much of the thinned mix the user wants, where that is not what its area needs
    profile, far : how its film or share runs over the zone: full from below, from above, at the edges or in recesses, and `far`
        times as much at the other end
    down_to : of what takes away, the coat that shows then; the lowest where none is named
    keep : of loose powder, what the first varnish leaves of it, learnt from a swatch
    wiped : of what is drawn out, the share that is taken up again while that is done
    printed : of a marking, how: ink alone on clear film, through which its ground shows, or with white below or in it; None where it
        is painted
    speck_mm : of what is flicked on, how broad the specks are in the mean, on the model
    """

    id: Key
    zone: Key
    step: Key
    kind: KindName
    name: Name = ""
    recipe: Key | None = None
    lab: Lab | None = None
    passes: Annotated[int, Field(ge=1, le=1000)] = 1
    thinner_share: Annotated[float, Field(ge=0, lt=1)] = 0.0
    tool: ToolName = "airbrush"
    area_share: Share = 1.0
    finish: Finish = "flat"
    medium: MediumName | Literal["unknown"] | None = None
    carrier: CarrierName | None = None
    mix_ml: Size | None = None
    profile: ProfileName | None = None
    far: Share = 0.0
    down_to: Key | None = None
    keep: Share | None = None
    wiped: Annotated[float, Field(ge=0, lt=1)] = 0.0
    printed: Printed | None = None
    speck_mm: Annotated[float, Field(gt=0, le=20)] | None = None
    on: bool = True

    @property
    def nature(self) -> Kind:
        """What its kind is, as the one table says; of what is printed in place of painted, as its row for that says."""
        return nature_of(self.kind, printed=self.printed is not None)


Item = TypeVar("Item", bound="Frozen")


class Project(Frozen):
    """The whole document.

    sight_km, white_share : of the scale effect, at what distance everything is lost in the air, and the customary share of white
    """

    format: Annotated[int, Field(ge=1, le=FORMAT)] = FORMAT
    title: Name = "Untitled"
    subjects: tuple[Subject, ...] = ()
    zones: tuple[Zone, ...] = ()
    photos: tuple[Photo, ...] = ()
    samples: tuple[Sample, ...] = ()
    regions: tuple[Region, ...] = ()
    paints: tuple[PaintVersion, ...] = ()
    recipes: tuple[Recipe, ...] = ()
    coats: tuple[Coat, ...] = ()
    steps: tuple[Step, ...] = ()
    owns: Owned = EVERYTHING
    schools: dict[Name, Name] = Field(default_factory=dict)
    features: tuple[Feature, ...] = ()
    schemes: tuple[Scheme, ...] = ()
    surfaces: tuple[Surface, ...] = ()
    mark_tools: dict[Name, Size] = Field(default_factory=dict)
    plan_start: Name = ""
    evenings: Name = "mon-fri 19:00-21:30,sat 10:00-16:00"
    deadline: Name = ""
    workplace: Workplace = AT_HOME
    drying: Annotated[float, Field(ge=0.1, le=10)] = 1.0
    accepted: tuple[Accepted, ...] = ()
    waits: tuple[LoggedWait, ...] = ()
    put_off: tuple[PutOff, ...] = ()
    sight_km: Annotated[float, Field(ge=0.5, le=300)] = 10.0
    white_share: Annotated[float, Field(ge=0, le=0.5)] = 0.06

    @property
    def signature(self) -> str:
        """What people know the subject by, in one line; empty where nothing was named."""
        return "; ".join(feature.words for feature in self.features)

    def zone(self, zone_id: str) -> Zone:
        """The zone with this id."""
        return _of_id(self.zones, zone_id)

    def subject_of(self, zone: Zone) -> Subject:
        """The model a zone belongs to."""
        return _of_id(self.subjects, zone.subject)

    def surface(self, surface_id: str) -> Surface:
        """The surface with this id."""
        return _of_id(self.surfaces, surface_id)

    def zones_of(self, surface_id: str) -> tuple[Zone, ...]:
        """The zones that are tones of a surface."""
        return tuple(zone for zone in self.zones if zone.surface == surface_id)

    def photo(self, photo_id: str) -> Photo:
        """The photo with this id."""
        return _of_id(self.photos, photo_id)

    def developed_alike(self, photo_id: str) -> tuple[Photo, ...]:
        """The other photos of the same camera or scan as one: those named by each other, however many steps away."""
        links = [{photo.id, photo.like} for photo in self.photos if photo.like]
        found = {photo_id}
        while more := [link for link in links if link & found and not link <= found]:
            found.update(*more)
        return tuple(photo for photo in self.photos if photo.id in found - {photo_id})

    def recipe(self, recipe_id: str) -> Recipe:
        """The recipe with this id."""
        return _of_id(self.recipes, recipe_id)

    def paint(self, version_id: str) -> PaintVersion:
        """The paint version with this id."""
        return _of_id(self.paints, version_id)

    def coat(self, coat_id: str) -> Coat:
        """The coat with this id."""
        return _of_id(self.coats, coat_id)

    def step(self, step_id: str) -> Step:
        """The step with this id."""
        return _of_id(self.steps, step_id)

    def coats_of(self, zone_id: str) -> tuple[Coat, ...]:
        """The coats of a zone, bottom first: sorted by their steps."""
        return looked_up("coats of zones", (self.coats, self.steps), self._coats_by_zone).get(zone_id, ())

    def laid_in(self, step_id: str) -> tuple[Coat, ...]:
        """The coats that are laid in a step, those switched off too."""
        return looked_up("coats of steps", (self.coats,), self._coats_by_step).get(step_id, ())

    @property
    def found_zones(self) -> frozenset[str]:
        """The zones on which there is a finish that was there already."""
        return looked_up(
            "zones of found finishes", (self.coats,),
            lambda: frozenset(coat.zone for coat in self.coats if coat.nature.is_found),
        )  # fmt: skip

    def bases_of(self, zone_id: str) -> tuple[Coat, ...]:
        """The base coats of a zone, bottom first; one, as a rule."""
        return tuple(coat for coat in self.coats_of(zone_id) if coat.nature.is_base)

    def _coats_by_step(self) -> dict[str, tuple[Coat, ...]]:
        found: dict[str, list[Coat]] = {}
        for coat in self.coats:
            found.setdefault(coat.step, []).append(coat)
        return {step: tuple(coats) for step, coats in found.items()}

    def _coats_by_zone(self) -> dict[str, tuple[Coat, ...]]:
        order = {step.id: index for index, step in enumerate(self.steps)}
        found: dict[str, list[Coat]] = {}
        for coat in sorted(self.coats, key=lambda coat: order[coat.step]):
            found.setdefault(coat.zone, []).append(coat)
        return {zone: tuple(coats) for zone, coats in found.items()}


def _of_id(items: tuple[Item, ...], identity: str) -> Item:
    """The item with this id; what was taken away meanwhile is refused like any edit that cannot be."""
    found: Item | None = item_of(items, identity)
    if found is not None:
        return found
    raise EditError(_("What this is about is no longer in the project ({0}).").format(identity))
