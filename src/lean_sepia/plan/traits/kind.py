"""What a kind of step is: the traits that everything else asks for, in place of its name."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from lean_sepia.paint.handling.carriers import CarrierName
from lean_sepia.paint.handling.undo import Undo
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.stack import Covers
from lean_sepia.photo.stated.roles import Role
from lean_sepia.plan.traits.said import Look, Otherwise, Pause, Phase, Preset, Usually

Family = Literal["preparation", "paint", "varnish", "marking", "glaze", "spots", "powder", "mask", "assembly"]
"""paint: a full coat of colour; glaze: a thin tint; spots: marks of something wet; powder: what may lie dry."""
Room = str
"""The name of a room of the window: a key of the one table of rooms."""
Stage = Literal["fresh", "exposed", "seen"]
Caution = Literal["grains", "blade", "wet"]


@dataclass(frozen=True, kw_only=True)
class Kind:
    """One kind of step. What has no default matters to everything that plans: a row without it does not load.

    covers : how its coats lie in the strata; dry powders lie as spots whatever this says
    hands_on_min : minutes it usually takes at the bench
    room : in which it is worked on
    tools : that it is laid with, the usual one first; none for what is not laid
    medium : what it is usually made of, or works in
    stage : of a zone's targets, the first that holds this coat
    phase : when it usually comes; otherwise : when some schools have it come; usually : whether it is part of a usual plan
    cloths : whether something is wiped or drawn out in it, so that cloths are at hand
    masks : whether it keeps what comes later off what it lies on, until something takes it off
    looks : when to look at it again
    sets_min : minutes until what follows may come, where no pair of the table of waits says; None as its medium cures
    over_itself : the wait before a second one of the same kind on it; None as the pairs say
    served_by : kinds that work on it: draw it out, wipe it, soften it, fix it, take it off
    undone : how it is taken back; None as its medium is
    next : the kind that usually comes on it
    usual : how it is laid with its usual tool, where that is not as a coat of that tool; roles : in which its colour is sampled
    whole_model : laid on every zone at once unless the user splits it
    runs : a wash, which flows along seams and needs a sheen below; finish : of a varnish
    reworks : works on what was laid while that can still be worked: draws out, wipes, unmasks
    phase_wet : when it comes where it is made of paint, or where nothing lies loose that it could work on
    moves : works with a fluid that is meant to reach what was laid; dulls : with one that is meant to reach whatever is topmost
    apart : done on a piece of its own; fixes : holds loose powder; metal : a shine of metal that dust and varnish bury
    colour : L*a*b* of what it is always made of, where nothing else is said; practice, no source
    clear : puts clear parts in; joins : puts parts together, parts : takes them off; blown : what is too much of it is blown off
    carrier : the fluid it works with, where it is made of nothing
    painted : how it is where it is laid with a tool in place of printed; None where there is one way only
    cautions, heed : what hurts, by codes and in words of its own; ready : in what state things must be
    """

    title: str
    family: Family
    covers: Covers
    hands_on_min: float
    room: Room
    tools: tuple[str, ...]
    medium: str | None
    stage: Stage
    phase: Phase
    cloths: bool
    masks: bool
    looks: tuple[Look, ...]
    sets_min: float | None
    over_itself: Pause | None
    served_by: tuple[str, ...]
    undone: tuple[Undo, ...] | None
    next: str
    otherwise: tuple[Otherwise, ...] = ()
    usually: Usually | None = None
    phase_wet: Phase | None = None
    whole_model: bool = False
    wet: bool = False
    runs: bool = False
    finish: Literal["flat", "satin", "gloss"] | None = None
    usual: Preset | None = None
    roles: tuple[Role, ...] = ()
    cautions: tuple[Caution, ...] = ()
    heed: tuple[str, ...] = ()
    ready: tuple[str, ...] = ()
    reworks: bool = False
    moves: bool = False
    dulls: bool = False
    apart: bool = False
    fixes: bool = False
    metal: bool = False
    colour: tuple[float, float, float] | None = None
    clear: bool = False
    joins: bool = False
    parts: bool = False
    carrier: CarrierName | None = None
    blown: bool = False
    painted: Kind | None = None

    def __post_init__(self) -> None:
        """Refuse a row from which nobody can tell how it is undone or worked on."""
        if self.undone is None and self.medium is None:
            raise ValueError(f"{self.title}: the table says neither how it is undone nor what it is made of")
        if self.room == "glaze" and self.family != "glaze":
            raise ValueError(f"{self.title}: only what is a glaze has a page in Glaze")

    @cached_property
    def is_paint(self) -> bool:
        """Whether it is a full coat of paint."""
        return self.family == "paint"

    @cached_property
    def sets_the_colour(self) -> bool:
        """Whether it is a full coat that may well have the colour of what it lies on, such as a second primer or a touch-up."""
        return self.is_paint and self.room == "match"

    @cached_property
    def is_full_coat(self) -> bool:
        """Whether it covers all it is laid on: a primer, a base, a pattern; not a tone or a touch-up."""
        return self.sets_the_colour and self.stage == "fresh"

    @cached_property
    def is_found(self) -> bool:
        """Whether it was there before the work began."""
        return self.phase is Phase.FOUND

    @cached_property
    def is_primer(self) -> bool:
        """Whether paint lies on it rather than beside it."""
        return self.phase is Phase.PRIMING

    @cached_property
    def is_base(self) -> bool:
        """Whether it is the colour that a zone has where nothing else lies on it."""
        return self.phase is Phase.BASE

    @cached_property
    def is_pattern(self) -> bool:
        """Whether it is a further colour beside the base."""
        return self.phase is Phase.PATTERN

    @cached_property
    def is_colour(self) -> bool:
        """Whether it is a colour of the livery: base or pattern."""
        return self.is_base or self.is_pattern

    @cached_property
    def shades(self) -> bool:
        """Whether it is light, shade or fade over a full coat."""
        return self.is_paint and self.room == "tone"

    @cached_property
    def lights(self) -> bool:
        """Whether it is light and shade, before the base or over it, in one school or the other; not a fade."""
        return self.phase in (Phase.SHADING_BEFORE, Phase.SHADING)

    @cached_property
    def fades(self) -> bool:
        """Whether it takes a finished coat towards what weather makes of it."""
        return self.phase is Phase.FADING

    @cached_property
    def is_varnish(self) -> bool:
        """Whether it is a clear coat that sets the sheen of all below it."""
        return self.family == "varnish"

    @cached_property
    def shines(self) -> bool:
        """Whether it is a varnish on which markings hold and washes run."""
        return self.is_varnish and self.finish != "flat"

    @cached_property
    def is_marking(self) -> bool:
        """Whether it is lettering or a mark of its own colour, printed or painted, not what softens one."""
        return self.family == "marking" and self.covers != "nothing"

    @cached_property
    def is_decal(self) -> bool:
        """Whether it is a printed marking or what softens one: they go on young paint and at once on each other."""
        return self.family == "marking" and not self.tools

    @cached_property
    def is_print(self) -> bool:
        """Whether it is a printed marking: a film that is slid on, which silvers, softens and lifts."""
        return self.is_decal and self.is_marking

    @cached_property
    def is_painted_mark(self) -> bool:
        """Whether it is lettering laid as paint."""
        return self.is_marking and not self.is_decal

    @cached_property
    def is_glaze(self) -> bool:
        """Whether it is a tint: filter, wash or oil dots."""
        return self.family == "glaze"

    @cached_property
    def is_filter(self) -> bool:
        """Whether it is a tint drawn out over all it lies on."""
        return self.is_glaze and not self.runs and not self.is_dots

    @cached_property
    def is_dots(self) -> bool:
        """Whether it is dots of colour that want drawing out."""
        return self.is_glaze and self.covers == "spots"

    @cached_property
    def along_seams(self) -> bool:
        """Whether it stands in seams alone."""
        return "seam" in self.tools

    @cached_property
    def is_fine(self) -> bool:
        """Whether it is a glaze or wet marks: thin, on a ground, shutting nothing off."""
        return self.family in ("glaze", "spots")

    @cached_property
    def is_powder(self) -> bool:
        """Whether it may lie dry."""
        return self.family == "powder"

    @cached_property
    def marks(self) -> bool:
        """Whether it is wear that is looked at mark by mark: wet marks or powder."""
        return self.family in ("spots", "powder")

    @cached_property
    def in_spots(self) -> bool:
        """Whether it lies in marks with edges, or takes such away, rather than as a film or a haze."""
        return self.covers in ("spots", "resist", "taken")

    @cached_property
    def is_streaks(self) -> bool:
        """Whether it is marks that run down."""
        return self.phase is Phase.STREAKING

    @cached_property
    def damages(self) -> bool:
        """Whether it shows where paint has gone: chips laid on, or scraped."""
        return self.phase is Phase.CHIPPING

    @cached_property
    def optional(self) -> bool:
        """Whether the finish stands without it, where time is short: glazes, marks, powder."""
        return self.is_glaze or self.marks

    @cached_property
    def is_chips(self) -> bool:
        """Whether it is damage laid on as colour, which a wash may tone."""
        return self.damages and self.leaves_film

    @cached_property
    def cleans(self) -> bool:
        """Whether it washes what is to be painted."""
        return self.phase is Phase.CLEANING

    @cached_property
    def wet_in_wet(self) -> bool:
        """Whether several colours of it are laid into each other while they are wet: dots, streaks, tones of light and shade."""
        return self.is_dots or self.is_streaks or self.shades

    @cached_property
    def on_a_ground(self) -> bool:
        """Whether it is of the families that lie on full coats and never under them."""
        return self.family in ("varnish", "marking", "glaze", "spots", "powder")

    @cached_property
    def lost_under_paint(self) -> bool:
        """Whether it is finished work that a full coat would bury."""
        return self.on_a_ground and not self.is_varnish and self.covers != "nothing"

    @cached_property
    def lies_under_the_base(self) -> bool:
        """Whether it comes before the colours: found, primed, pre-shaded, resisted."""
        return self.phase < Phase.PATTERN_FIRST

    @cached_property
    def is_mask(self) -> bool:
        """Whether it is tape, liquid or putty laid over a part, to be lifted again."""
        return self.masks and self.covers == "nothing"

    @cached_property
    def resists(self) -> bool:
        """Whether it is a mask in spots, from which what is laid on it is rubbed off."""
        return self.masks and self.covers != "nothing"

    @cached_property
    def unmasks(self) -> bool:
        """Whether it takes a mask off."""
        return self.reworks and self.family == "mask"

    @cached_property
    def lifts(self) -> bool:
        """Whether it takes off tape, liquid or putty; a resist is rubbed off."""
        return self.unmasks and self.covers == "nothing"

    @cached_property
    def softens(self) -> bool:
        """Whether it draws out or wipes what was laid, while that is fresh."""
        return self.reworks and not self.unmasks

    @cached_property
    def wipes(self) -> bool:
        """Whether it takes a part of what was laid off again while that is fresh."""
        return self.softens and self.covers == "taken"

    @cached_property
    def draws_out(self) -> bool:
        """Whether it spreads what was laid while that is fresh, and takes nothing off."""
        return self.softens and self.covers == "nothing"

    @cached_property
    def touches(self) -> bool:
        """Whether it works by hand on what lies there: draws out, wipes, fixes, scrapes."""
        return self.softens or self.fixes or self.covers == "taken"

    @cached_property
    def lays_nothing(self) -> bool:
        """Whether its coat has no colour of its own: it keeps off, or takes away."""
        return self.covers in ("resist", "unresist", "taken")

    @cached_property
    def needs_ground(self) -> bool:
        """Whether it cannot be the first thing that lies there."""
        return self.covers != "nothing" and not self.is_paint

    @cached_property
    def to_do(self) -> bool:
        """Whether there is work in it; a found finish is there already."""
        return self.hands_on_min > 0

    @cached_property
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
