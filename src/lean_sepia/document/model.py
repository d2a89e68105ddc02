"""The document as one immutable value. Everything refers to everything else by id."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal, TypeVar, get_args

from pydantic import BaseModel, ConfigDict, Field

from lean_sepia.errors import EditError
from lean_sepia.language import N_, _
from lean_sepia.paint.media import Carrier
from lean_sepia.plan.names import Finish, KindName, MediumName, Place, ToolName

FORMAT = 3
"""Number of this document form; a newer one is refused, an older one migrated."""

Lab = tuple[float, float, float]
Interval = tuple[float, float]
Role = Literal[
    "base", "sheltered", "faded", "undercoat", "patch", "replaced", "rust", "dust", "soot", "early-marking", "late-marking",
]  # fmt: skip
ROLES: tuple[Role, ...] = get_args(Role)
ROLE_WORDS: dict[str, str] = {
    "base": N_("base"), "sheltered": N_("sheltered"), "faded": N_("faded"), "undercoat": N_("undercoat"), "patch": N_("patch"),
    "replaced": N_("replaced"), "rust": N_("rust"), "dust": N_("dust"), "soot": N_("soot"),
    "early-marking": N_("early marking"), "late-marking": N_("late marking"),
}  # fmt: skip
Shape = Literal["disc", "polygon", "brush"]
Trust = Literal["", "sure", "likely", "doubtful"]
Tones = Literal["colour", "black-and-white", "colourised"]


class Frozen(BaseModel):
    """Base of all parts of the document."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class Subject(Frozen):
    """A model on the bench and the prototype it follows."""

    id: str
    name: str
    scale: float = Field(gt=0, default=72)
    livery: str = ""
    livery_from: str = ""
    livery_to: str = ""
    what_if: bool = False


class Zone(Frozen):
    """An area of one model that is finished as one; `stated` is a colour the user knows without a photo.

    `follows` names the sisters whose photos count for it; empty where all do.
    """

    id: str
    subject: str
    name: str
    short: str
    note: str = ""
    area_cm2: float | None = Field(default=None, gt=0)
    stated: Lab | None = None
    follows: tuple[str, ...] = ()


class AnchorMark(Frozen):
    """Something known in a photo: grey if a* and b* are 0, of unknown lightness where that is None.

    `group` names the chart it is a patch of, where it is.
    """

    id: str
    x: float
    y: float
    radius: float = Field(gt=0)
    lightness: float | None = None
    a: float = 0.0
    b: float = 0.0
    name: str = ""
    group: str = ""


class Photo(Frozen):
    """A photo in the store, what is known about it, and the anchors of its correction.

    `prototype` names the sister it shows where several are blended; `date` may be a span, such as 1956/1958; `mm_per_px` is
    its scale on the prototype, where it is known; `copy_of` is the photo it was straightened from, with which it shares its errors.
    """

    id: str
    sha256: str
    name: str
    title: str
    width: int
    height: int
    date: str = ""
    process: str = ""
    light: str = ""
    source: str = ""
    trust: Trust = ""
    tones: Tones = "colour"
    prototype: str = ""
    copy_of: str = ""
    of_model: bool = False
    mm_per_px: float | None = Field(default=None, gt=0)
    notes: tuple[str, ...] = ()
    anchors: tuple[AnchorMark, ...] = ()


class ClippedChannel(Frozen):
    """A channel that lies at an end of its scale over a share of a sample."""

    channel: Literal["red", "green", "blue"]
    end: Literal["low", "high"]
    share: float


class Sample(Frozen):
    """The corrected colour of a disc, polygon or brush stroke on a photo, in a role for a zone.

    x, y : its middle; path : corners of the polygon or points of the stroke, `radius` that of disc or brush
    """

    id: str
    photo: str
    zone: str
    role: Role
    x: float
    y: float
    radius: float = Field(gt=0)
    shape: Shape = "disc"
    path: tuple[tuple[float, float], ...] = ()
    lab: Lab
    lab_range90: tuple[Interval, Interval, Interval]
    de00_90: float
    pixels: int
    clipped_share: float
    clipped: tuple[ClippedChannel, ...] = ()
    bound: bool = False


class WearClass(Frozen):
    """One class of wear in a region, with the colour it was recognised by; sizes on the prototype."""

    name: str
    lab: Lab
    coverage_percent: float
    median_mm: float
    p90_mm: float
    count: int
    direction_deg: float | None
    edge_share: float


class WearRecord(Frozen):
    """The survey of a region."""

    mm_per_px: float
    coverage_percent: float
    classes: tuple[WearClass, ...]
    iso_4628_3: str
    astm_d610: int
    smallest_visible_mm: float
    visible_coverage_percent: float
    tint_lab_shift: Lab


class Tone(Frozen):
    """One colour of a region and the share of the area it covers."""

    name: str
    lab: Lab
    share: float = Field(ge=0, le=1)


class Region(Frozen):
    """A polygon on one photo for one zone; `seen` is its plain mean, `tones` how its area divides into colours."""

    id: str
    zone: str
    photo: str
    corners: tuple[tuple[float, float], ...]
    seen: Lab
    wear: WearRecord | None = None
    tones: tuple[Tone, ...] = ()


class Feature(Frozen):
    """Something people know the subject by: it is done first and best. It may be located on a zone and a photo."""

    id: str
    words: str = Field(min_length=1)
    zone: str | None = None
    photo: str | None = None
    x: float | None = None
    y: float | None = None


class Scheme(Frozen):
    """A colour scheme the prototype may have worn: its years, and the colour of each zone it names."""

    id: str
    name: str
    worn_from: str = ""
    worn_to: str = ""
    colours: tuple[tuple[str, Lab], ...] = ()


class PaintVersion(Frozen):
    """A paint as it was when the project took it from the shelf; never changed, named by its content."""

    id: str
    shelf_id: str
    name: str
    line: str = ""
    medium: MediumName
    finish: Finish
    K: tuple[float, ...] = Field(min_length=31, max_length=31)
    S: tuple[float, ...] = Field(min_length=31, max_length=31)
    g: float
    k1: float = 0.04
    k2: float = 0.6
    knowledge: Literal["one-constant", "two-constant", "spectral"]
    notes: tuple[str, ...] = ()
    drops_per_ml: float | None = None


class Recipe(Frozen):
    """A mixture: whole parts of paint versions, and of another recipe where it is made from that one's cup."""

    id: str
    name: str
    parts: tuple[tuple[str, int], ...]
    basis: str | None = None
    basis_parts: int = Field(default=0, ge=0)


class Coat(Frozen):
    """One coat on one zone, laid in a step. Its colour comes from a recipe, or is a stated `lab`.

    name : where it is called otherwise than its kind; finish : at which `lab` was measured; a recipe brings its own
    mix_ml : how much of the thinned mix the user wants, where that is not what its area needs
    """

    id: str
    zone: str
    step: str
    kind: KindName
    name: str = ""
    recipe: str | None = None
    lab: Lab | None = None
    passes: int = Field(default=1, ge=1)
    thinner_share: float = Field(default=0.0, ge=0, lt=1)
    tool: ToolName = "airbrush"
    area_share: float = Field(default=1.0, ge=0, le=1)
    finish: Finish = "flat"
    mix_ml: float | None = Field(default=None, gt=0)
    on: bool = True


class Step(Frozen):
    """One step of the work; the document's order of steps is the only order.

    Where coats are laid in it, zones, medium, finish and tool are theirs; `zones` and `medium` are for steps without a coat.
    Title and times are kept only where the user gave them.
    """

    id: str
    kind: KindName
    title: str = ""
    zones: tuple[str, ...] = ()
    after: tuple[str, ...] = ()
    medium: MediumName | None = None
    carrier: Carrier | None = None
    place: Place | None = None
    hands_on_min: float | None = Field(default=None, ge=0)
    touch_dry_min: float | None = Field(default=None, ge=0)
    full_cure_min: float | None = Field(default=None, ge=0)
    removable_until_min: float | None = Field(default=None, ge=0)
    note: str = ""
    done: bool = False


Item = TypeVar("Item", bound="Frozen")


class Project(Frozen):
    """The whole document."""

    format: int = FORMAT
    title: str = "Untitled"
    subjects: tuple[Subject, ...] = ()
    zones: tuple[Zone, ...] = ()
    photos: tuple[Photo, ...] = ()
    samples: tuple[Sample, ...] = ()
    regions: tuple[Region, ...] = ()
    paints: tuple[PaintVersion, ...] = ()
    recipes: tuple[Recipe, ...] = ()
    coats: tuple[Coat, ...] = ()
    steps: tuple[Step, ...] = ()
    schools: dict[str, str] = {}
    features: tuple[Feature, ...] = ()
    schemes: tuple[Scheme, ...] = ()
    plan_start: str = ""
    evenings: str = "mon-fri 19:00-21:30,sat 10:00-16:00"

    @property
    def signature(self) -> str:
        """What people know the subject by, in one line; empty where nothing was named."""
        return "; ".join(feature.words for feature in self.features)

    def zone(self, zone_id: str) -> Zone:
        """The zone with this id."""
        return _of_id(self.zones, zone_id)

    def subject_of(self, zone: Zone) -> Subject:
        """The model a zone belongs to."""
        return next(subject for subject in self.subjects if subject.id == zone.subject)

    def photo(self, photo_id: str) -> Photo:
        """The photo with this id."""
        return _of_id(self.photos, photo_id)

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
        order = {step.id: index for index, step in enumerate(self.steps)}
        return tuple(sorted((c for c in self.coats if c.zone == zone_id), key=lambda coat: order[coat.step]))


def _of_id(items: Iterable[Item], identity: str) -> Item:
    """The item with this id; what was taken away meanwhile is refused like any edit that cannot be."""
    for item in items:
        if item.id == identity:  # type: ignore[attr-defined]
            return item
    raise EditError(_("What this is about is no longer in the project ({0}).").format(identity))


def dangling_reference(project: Project) -> str | None:
    """A sentence about the first reference to something that does not exist, or None."""
    known = {
        "zone": {zone.id for zone in project.zones},
        "photo": {photo.id for photo in project.photos},
        "step": {step.id for step in project.steps},
        "recipe": {recipe.id for recipe in project.recipes},
        "paint": {paint.id for paint in project.paints},
        "model": {subject.id for subject in project.subjects},
    }
    references = [
        *(("model", zone.subject, f"zone {zone.name!r}") for zone in project.zones),
        *(("photo", sample.photo, "a sample") for sample in project.samples),
        *(("zone", sample.zone, "a sample") for sample in project.samples),
        *(("photo", region.photo, "a region") for region in project.regions),
        *(("zone", region.zone, "a region") for region in project.regions),
        *(("paint", paint, f"recipe {r.name!r}") for r in project.recipes for paint, _ in r.parts),
        *(("recipe", recipe.basis, f"recipe {recipe.name!r}") for recipe in project.recipes if recipe.basis),
        *(("zone", f.zone, "a feature") for f in project.features if f.zone),
        *(("photo", f.photo, "a feature") for f in project.features if f.photo),
        *(("zone", zone, f"scheme {s.name!r}") for s in project.schemes for zone, _ in s.colours),
        *(("zone", coat.zone, f"coat {coat.id!r}") for coat in project.coats),
        *(("step", coat.step, f"coat {coat.id!r}") for coat in project.coats),
        *(("recipe", coat.recipe, f"coat {coat.id!r}") for coat in project.coats if coat.recipe),
        *(("zone", zone, f"step {step.id!r}") for step in project.steps for zone in step.zones),
        *(("step", other, f"step {step.id!r}") for step in project.steps for other in step.after),
    ]
    for kind, target, source in references:
        if target not in known[kind]:
            return f"{source} refers to {kind} {target!r}, which does not exist"
    return None
