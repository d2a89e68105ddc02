"""The one table of kinds of step: what each is called, lays and needs, when it comes, and which room owns it.

Everything that asks what a kind is asks here; how long it must be left alone says the table of waits. Times at the bench and order
are common practice without a source.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from lean_sepia.language import N_
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.stack import Covers

Family = Literal["preparation", "paint", "varnish", "marking", "glaze", "spots", "powder", "mask", "assembly"]
"""paint: a full coat of colour; glaze: a thin tint; spots: marks of something wet; powder: what may lie dry."""
Room = Literal["evidence", "match", "tone", "glaze", "wear", "plan", "bench"]
Caution = Literal["dust", "blade", "wet"]

_BRUSH = ("brush", "airbrush")
_SPRAY = ("airbrush", "spray-can", "brush")
_TINT = ("glaze", "flood", "airbrush", "mist")
_ANY_SPOT = ("sponge", "brush", "drybrush")
_ONE_IN_10, _ONE_IN_20 = 10 / 11, 20 / 21  # parts of thinner to all
_NO_TOOL: tuple[str, ...] = ()


@dataclass(frozen=True)
class Preset:
    """Passes, thinner share, share of the area; `profile` and `far` of what is put more here than there."""

    passes: int = 1
    thinner_share: float = 0.0
    area_share: float = 1.0
    profile: str | None = None
    far: float = 0.0


@dataclass(frozen=True)
class Kind:
    """One kind of step.

    covers : how its coats lie in the strata; dry powders lie as spots whatever this says
    hands_on_min : minutes it usually takes at the bench
    tools : that it is laid with, the usual one first; none for what is not laid
    medium : what it is usually made of
    usual : how it is laid with its usual tool, where that is not as a coat of that tool; roles : in which its colour is sampled
    stage : of a zone's targets, the first that holds this coat
    whole_model : laid on every zone at once unless the user splits it
    runs : a wash, which flows along seams and needs a sheen below; finish : of a varnish
    reworks : works on what was laid while that can still be worked: draws out, wipes, unmasks
    """

    title: str
    family: Family
    covers: Covers
    hands_on_min: float
    room: Room = "plan"
    tools: tuple[str, ...] = _NO_TOOL
    medium: str | None = None
    stage: Literal["fresh", "exposed", "seen"] = "seen"
    whole_model: bool = False
    wet: bool = False
    runs: bool = False
    finish: Literal["flat", "satin", "gloss"] | None = None
    usual: Preset | None = None
    roles: tuple[str, ...] = ()
    cautions: tuple[Caution, ...] = ()
    reworks: bool = False

    @property
    def is_paint(self) -> bool:
        """Whether it is a full coat of paint."""
        return self.family == "paint"

    @property
    def sets_the_colour(self) -> bool:
        """Whether it is a full coat that may well have the colour of what it lies on, such as a second primer or a touch-up."""
        return self.is_paint and self.room == "match"

    @property
    def is_full_coat(self) -> bool:
        """Whether it covers all it is laid on: a primer, a base, a pattern; not a tone or a touch-up."""
        return self.sets_the_colour and self.stage == "fresh"

    @property
    def is_varnish(self) -> bool:
        """Whether it is a clear coat that sets the sheen of all below it."""
        return self.family == "varnish"

    @property
    def is_glaze(self) -> bool:
        """Whether it is a tint: filter, wash or oil dots."""
        return self.family == "glaze"

    @property
    def needs_ground(self) -> bool:
        """Whether it cannot be the first thing that lies there."""
        return self.covers != "nothing" and not self.is_paint

    @property
    def followed_by(self) -> str:
        """The kind of coat that usually comes next on it."""
        return _NEXT.get(self.family, "filter") if self.stage != "fresh" or not self.is_paint else "tone"

    @property
    def to_do(self) -> bool:
        """Whether there is work in it; a found finish is there already."""
        return self.hands_on_min > 0

    @property
    def leaves_film(self) -> bool:
        """Whether it leaves something on the model that a later step can spoil."""
        return self.family not in ("preparation", "mask", "assembly")

    def loose(self, medium: str | None) -> bool:
        """Whether it lies loose: the medium decides, never the name; unknown media of powders count as dry."""
        if self.family != "powder":
            return False
        return medium is None or MEDIA[medium].loose

    def coat_covers(self, medium: str | None) -> Covers:
        """How a coat of it made of a medium lies: dust or soot made of thinned paint is a film like any other."""
        return "film" if self.family == "powder" and not self.loose(medium) else self.covers


_LIGHT = Preset(area_share=0.25)


def _paint(title: str, room: Room, stage: Literal["fresh", "exposed", "seen"], minutes: float,
           whole_model: bool = False, usual: Preset | None = None, roles: tuple[str, ...] = ()) -> Kind:  # fmt: skip
    return Kind(
        title, "paint", "film", minutes, room, _SPRAY, "acrylic-water", stage,
        whole_model=whole_model, wet=True, usual=usual, roles=roles,
    )  # fmt: skip


def _varnish(title: str, finish: Literal["flat", "satin", "gloss"]) -> Kind:
    return Kind(
        title, "varnish", "varnish", 15, "plan", _SPRAY, "acrylic-water",
        whole_model=True, wet=True, finish=finish,
    )  # fmt: skip


def _powder(
    title: str,
    minutes: float,
    medium: str = "pigment",
    covers: Covers = "loose",
    *,
    usual: Preset = _LIGHT,
    roles: tuple[str, ...] = (),
) -> Kind:
    return Kind(
        title, "powder", covers, minutes, "wear", _ANY_SPOT, medium, usual=usual, roles=roles,
        cautions=("dust",),
    )  # fmt: skip


def _other(
    title: str,
    family: Family,
    minutes: float,
    *cautions: Caution,
    wet: bool = False,
    covers: Covers = "nothing",
    room: Room = "plan",
    usual: Preset | None = None,
    roles: tuple[str, ...] = (),
    reworks: bool = False,
) -> Kind:
    return Kind(
        title, family, covers, minutes, room, wet=wet, usual=usual, roles=roles, cautions=cautions, reworks=reworks
    )  # fmt: skip


KINDS: dict[str, Kind] = {
    "wash-model": _other(N_("Wash the parts"), "preparation", 15),
    "found": Kind(N_("Found finish"), "paint", "film", 0, "match", stage="fresh", whole_model=True),
    "test-piece": _other(N_("Test piece"), "preparation", 20),
    "primer": _paint(N_("Primer"), "match", "fresh", 20, whole_model=True,
                    usual=Preset(2, 0.5), roles=("undercoat",)),
    "preshade": _paint(N_("Pre-shading"), "tone", "fresh", 30, usual=Preset(1, 0.7, 1.0, "recess", 0.1)),
    "base": _paint(N_("Base colour"), "match", "fresh", 30),
    "mask": _other(N_("Mask"), "mask", 30, "blade"),
    "resist": _other(N_("Resist"), "mask", 15, covers="resist", room="wear", usual=Preset(area_share=0.05)),
    "camouflage": _paint(N_("Second colour"), "match", "fresh", 45, usual=Preset(2, 0.7), roles=("patch",)),
    "unmask": _other(N_("Take masks off"), "mask", 10, "blade", reworks=True),
    "remove-resist": _other(N_("Rub the resist off"), "mask", 30, "wet", wet=True, covers="unresist", room="wear", reworks=True),
    "tone": _paint(N_("Light and shade"), "tone", "exposed", 30, usual=Preset(2, 0.9)),
    "marking": Kind(N_("Lettering"), "marking", "spots", 40, "plan", _BRUSH, "acrylic-water", "exposed",
                    wet=True, cautions=("blade",), usual=Preset(1, 0.2, 0.02), roles=("early-marking", "late-marking")),
    "setting-solution": _other(N_("Setting solution"), "marking", 10, wet=True),
    "fade": _paint(N_("Fade"), "tone", "exposed", 25, usual=Preset(2, 0.8)),
    "filter": Kind(N_("Filter"), "glaze", "tint", 15, "glaze", _TINT, "oil", wet=True,
                    usual=Preset(2, _ONE_IN_20)),
    "chips": Kind(N_("Chips"), "spots", "spots", 40, "wear", _ANY_SPOT, "acrylic-water", wet=True,
                    usual=Preset(1, 0.0, 0.02), roles=("rust", "undercoat")),
    "scrape": _other(N_("Scrape"), "preparation", 20, "blade", covers="taken", room="wear",
                    usual=Preset(area_share=0.02), roles=("undercoat",)),
    "wash": Kind(N_("Wash"), "glaze", "tint", 25, "glaze", _TINT, "oil", wet=True, runs=True,
                    usual=Preset(1, _ONE_IN_10)),
    "pin-wash": Kind(N_("Pin wash"), "glaze", "tint", 30, "glaze", ("seam", *_TINT), "oil", wet=True,
                     runs=True, usual=Preset(1, _ONE_IN_10, 0.05)),
    "oil-dots": Kind(N_("Oil dots"), "glaze", "spots", 40, "glaze", ("brush", "glaze"), "oil", wet=True,
                    usual=Preset(1, 0.0, 0.1)),
    "blend": _other(N_("Draw the oils out"), "preparation", 40, reworks=True),
    "streaks": Kind(N_("Streaks"), "spots", "spots", 30, "wear", ("brush", *_ANY_SPOT), "oil", wet=True,
                    usual=Preset(1, 0.8, 0.03), roles=("rust",)),
    "graphite": _powder(N_("Graphite"), 10, covers="spots", usual=Preset(area_share=0.01)),
    "gloss-coat": _varnish(N_("Gloss coat"), "gloss"),
    "satin-coat": _varnish(N_("Satin coat"), "satin"),
    "matte-coat": _varnish(N_("Matte coat"), "flat"),
    "powder": _powder(N_("Powder"), 20, roles=("dust", "rust")),
    "pastel": _powder(N_("Pastel"), 20, "pastel", roles=("dust", "rust")),
    "dust": _powder(N_("Dust"), 20, usual=Preset(1, 0.0, 0.25, "below", 0.2), roles=("dust",)),
    "soot": _powder(N_("Soot"), 15, usual=Preset(area_share=0.08), roles=("soot",)),
    "wipe-back": _other(N_("Wipe back"), "preparation", 15, covers="taken", room="wear",
                    usual=Preset(1, 0.0, 0.89, "open", 0.25), reworks=True),
    "fix-powder": _other(N_("Fix the powder"), "preparation", 10),
    "touch-up": _paint(N_("Touch-up"), "match", "seen", 20, usual=Preset(2, 0.5, 0.05), roles=("patch", "replaced")),
    "fit-glass": _other(N_("Fit the glass"), "assembly", 20),
    "assemble": _other(N_("Assemble"), "assembly", 30),
    "other": _other(N_("Another step"), "preparation", 15),
}  # fmt: skip
"""In the usual order of work."""

_NEXT: dict[Family, str] = {"paint": "filter", "varnish": "wash", "marking": "satin-coat", "glaze": "chips", "spots": "dust",
                            "powder": "powder", "mask": "base"}  # fmt: skip
RANK = {name: position for position, name in enumerate(KINDS)}
