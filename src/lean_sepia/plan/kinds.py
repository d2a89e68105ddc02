"""The one table of kinds of step: what each is called, lays and needs, when it comes, what serves it, and how it is undone.

Everything that asks what a kind is asks here; how long it must be left alone says the table of waits by pairs of traits. Times at
the bench and order are common practice without a source.
"""

from __future__ import annotations

from typing import Any, Literal

from lean_sepia.language import N_
from lean_sepia.paint.handling.carriers import CarrierName
from lean_sepia.paint.handling.undo import Undo
from lean_sepia.paint.stack import Covers
from lean_sepia.photo.stated.roles import Role
from lean_sepia.plan.traits.kind import Caution, Family, Kind, Room, Stage
from lean_sepia.plan.traits.said import Look, Otherwise, Pause, Phase, Preset, Usually

_HOUR = 60.0
_MORNING = _HALF_DAY = 12 * _HOUR
_BRUSH = ("brush", "airbrush")
_SPRAY = ("airbrush", "spray-can", "brush")
_TINT = ("glaze", "flood", "airbrush", "mist")
_ANY_SPOT = ("sponge", "brush", "drybrush", "flick")
_ONE_IN_10, _ONE_IN_20 = 10 / 11, 20 / 21  # parts of thinner to all
_LIGHT = Preset(area_share=0.25)
_WIPED_AND_DRAWN = ("blend", "wipe-back")
_POWDER_SERVED = ("wipe-back", "fix-powder")
_NONE: tuple[str, ...] = ()
_ALWAYS = Usually()

_FILTER_DRY = Look(15, N_("A filter shows only when it is dry: is it enough, or does it want a second pass?"))
_TIDE_MARKS = Look(20, N_("Tide marks and pools: draw them off with a clean, almost dry brush."))
_STILL_MOVES = Look(
    _MORNING, N_("By daylight, while it can still be moved: is it too much anywhere?"), "slow"
)
_LEVEL = Look(30, N_("Along the surface against a lamp: dry spray, dust and runs show now."))
_COLOUR = (
    Look(20, N_("Acrylic and lacquer dry darker or lighter than they are wet: judge the colour now."), "quick"),
    Look(_MORNING, N_("Judge the colour when it is dry, by daylight."), "slow"),
)  # fmt: skip
_DRY_BRUSH = (N_("The brush dry, and the powder in a lid, not in the jar."),)
_GONE = (Undo(None, N_("What is scraped off is gone: touch it up with the mix of the coat."), False),)


def _paint(title: str, phase: Phase, room: Room, stage: Stage, minutes: float, *, next: str, usual: Preset | None = None,
           roles: tuple[Role, ...] = (), otherwise: tuple[Otherwise, ...] = (),
           whole_model: bool = False, usually: Usually | None = None) -> Kind:  # fmt: skip
    return Kind(
        title=title, family="paint", covers="film", hands_on_min=minutes, room=room, tools=_SPRAY, medium="acrylic-water",
        stage=stage, phase=phase, cloths=False, masks=False, looks=_COLOUR, sets_min=None, over_itself=None,
        served_by=_WIPED_AND_DRAWN if room == "tone" and stage == "exposed" else _NONE, undone=None, next=next,
        otherwise=otherwise, usually=usually, whole_model=whole_model, wet=True, usual=usual, roles=roles,
    )  # fmt: skip


def _varnish(
    title: str, finish: Literal["flat", "satin", "gloss"], phase: Phase, look: Look, usually: Usually
) -> Kind:
    return Kind(
        title=title, family="varnish", covers="varnish", hands_on_min=15, room="plan", tools=_SPRAY, medium="acrylic-water",
        stage="seen", phase=phase, cloths=False, masks=False, looks=(look,), sets_min=None, over_itself=None,
        served_by=_NONE, undone=None, next="wash", usually=usually, whole_model=True, wet=True, finish=finish,
    )  # fmt: skip


def _glaze(title: str, phase: Phase, minutes: float, usual: Preset, *looks: Look, covers: Covers = "tint",
           tools: tuple[str, ...] = _TINT, runs: bool = False, sets_min: float | None = None,
           over_itself: Pause | None = None, usually: Usually | None = None) -> Kind:  # fmt: skip
    return Kind(
        title=title, family="glaze", covers=covers, hands_on_min=minutes, room="glaze", tools=tools, medium="oil",
        stage="seen", phase=phase, cloths=True, masks=False, looks=looks, sets_min=sets_min, over_itself=over_itself,
        served_by=_WIPED_AND_DRAWN, undone=None, next="chips", usually=usually, wet=True, runs=runs, usual=usual,
    )  # fmt: skip


def _spots(title: str, phase: Phase, minutes: float, tools: tuple[str, ...], medium: str, usual: Preset, *looks: Look,
           cloths: bool, roles: tuple[Role, ...], otherwise: tuple[Otherwise, ...] = (), usually: Usually | None = None) -> Kind:  # fmt: skip
    return Kind(
        title=title, family="spots", covers="spots", hands_on_min=minutes, room="wear", tools=tools, medium=medium,
        stage="seen", phase=phase, cloths=cloths, masks=False, looks=looks, sets_min=None, over_itself=None,
        served_by=_WIPED_AND_DRAWN, undone=None, next="dust", otherwise=otherwise, usually=usually, wet=True, usual=usual, roles=roles,
    )  # fmt: skip


def _powder(title: str, minutes: float, *, medium: str = "pigment", usual: Preset = _LIGHT, roles: tuple[Role, ...],
            phase_wet: Phase | None = None, blown: bool = True, ready: tuple[str, ...] = (), usually: Usually | None = None) -> Kind:  # fmt: skip
    return Kind(
        title=title, family="powder", covers="loose", hands_on_min=minutes, room="wear", tools=_ANY_SPOT, medium=medium,
        stage="seen", phase=Phase.DUSTING, phase_wet=phase_wet, cloths=False, masks=False, looks=(), sets_min=None,
        over_itself=None, served_by=_POWDER_SERVED, undone=None, next="powder", usually=usually, usual=usual, roles=roles, cautions=("grains",), ready=ready,
        blown=blown,
    )  # fmt: skip


def _by_hand(title: str, family: Family, phase: Phase, minutes: float, *cautions: Caution, undone: tuple[Undo, ...],
             sets_min: float | None, covers: Covers = "nothing", room: Room = "plan", medium: str | None = None,
             cloths: bool = False, masks: bool = False, looks: tuple[Look, ...] = (), served_by: tuple[str, ...] = _NONE,
             phase_wet: Phase | None = None, wet: bool = False, usual: Preset | None = None,
             roles: tuple[Role, ...] = (), heed: tuple[str, ...] = (), ready: tuple[str, ...] = (), reworks: bool = False,
             moves: bool = False, dulls: bool = False, apart: bool = False, fixes: bool = False, clear: bool = False,
             joins: bool = False, parts: bool = False, carrier: CarrierName | None = None, usually: Usually | None = None) -> Kind:  # fmt: skip
    """What is done with no tool that lays paint."""
    return Kind(
        title=title, family=family, covers=covers, hands_on_min=minutes, room=room, tools=_NONE, medium=medium, stage="seen",
        phase=phase, cloths=cloths, masks=masks, looks=looks, sets_min=sets_min, over_itself=None, served_by=served_by,
        undone=undone, next=_NEXT_BY_HAND[family], usually=usually, phase_wet=phase_wet, wet=wet, usual=usual, roles=roles, cautions=cautions, heed=heed, ready=ready,
        reworks=reworks, moves=moves, dulls=dulls, apart=apart, fixes=fixes, clear=clear, joins=joins, parts=parts, carrier=carrier,
    )  # fmt: skip


def _marking(**other: Any) -> Kind:
    return Kind(
        title=N_("Lettering"), family="marking", covers="spots", hands_on_min=40, room="plan", medium="acrylic-water",
        stage="exposed", phase=Phase.LETTERING, cloths=False, masks=False, over_itself=None, next="satin-coat", usually=_ALWAYS,
        wet=True, cautions=("blade",), usual=Preset(1, 0.2, 0.02), roles=("early-marking", "late-marking"), **other,
    )  # fmt: skip


_LETTERING = _marking(
    tools=_NONE, sets_min=_HALF_DAY, served_by=("setting-solution",),
    looks=(Look(_MORNING, N_("Silvering and edges: prick what is silver and soften it again.")),),
    ready=(N_("Warm water, 30 to 60 seconds; tweezers and a brush for each job."),),
    undone=(
        Undo(1, N_("Float it with water and push it.")),
        Undo(_HOUR, N_("Soak it with warm water and slide it off; it may tear."), False),
        Undo(None, N_("Lift it with tape or scrape it off; the coat below suffers."), False),
    ),
    painted=_marking(
        tools=_BRUSH, sets_min=None, served_by=_NONE, looks=_COLOUR, undone=None,
        ready=(N_("A stencil or tape along the edges, pressed down; the paint nearly dry, in several thin passes."),),
    ),
)  # fmt: skip
"""Lettering is printed, a decal, unless it is laid with a tool."""

_NEXT_BY_HAND: dict[Family, str] = {
    "preparation": "filter",
    "mask": "base",
    "marking": "satin-coat",
    "assembly": "filter",
}

KINDS: dict[str, Kind] = {
    "wash-model": _by_hand(
        N_("Wash the parts"), "preparation", Phase.CLEANING, 15, sets_min=120, usually=_ALWAYS,
        undone=(Undo(None, N_("Nothing to undo: wash again and let it dry.")),),
    ),
    "found": Kind(
        title=N_("Found finish"), family="paint", covers="film", hands_on_min=0, room="match", tools=_NONE, medium=None,
        stage="fresh", phase=Phase.FOUND, cloths=False, masks=False, looks=(), sets_min=None, over_itself=None,
        served_by=_NONE, whole_model=True, next="tone",
        undone=(Undo(None, N_("It is there already: what is done to it decides, so test on a hidden spot."), False),),
    ),
    "test-piece": _by_hand(
        N_("Test piece"), "preparation", Phase.TRYING, 20, sets_min=None, apart=True,
        looks=(Look(_MORNING, N_("What a solvent did shows the next day.")),),
        undone=(Undo(None, N_("Nothing to undo: that is what it is for.")),),
    ),
    "primer": _paint(N_("Primer"), Phase.PRIMING, "match", "fresh", 20, next="base", usually=_ALWAYS, whole_model=True, usual=Preset(2, 0.5), roles=("undercoat",)),
    "preshade": _paint(N_("Pre-shading"), Phase.SHADING_BEFORE, "tone", "fresh", 30, next="base", usual=Preset(1, 0.7, 1.0, "recess", 0.1),
                       usually=Usually("light", ("pre-shade",))),
    "base": _paint(N_("Base colour"), Phase.BASE, "match", "fresh", 30, next="tone", usually=_ALWAYS),
    "mask": _by_hand(
        N_("Mask"), "mask", Phase.MASKING, 30, "blade", sets_min=0, masks=True, served_by=("unmask",),
        undone=(Undo(None, N_("Lift it and lay it again, low along the surface; warm stubborn tape with a finger.")),),
    ),
    "resist": _by_hand(
        N_("Resist"), "mask", Phase.RESISTING, 15, sets_min=10, covers="resist", room="wear", masks=True,
        served_by=("remove-resist",), usually=Usually("chips", ("resist",)), usual=Preset(area_share=0.05),
        looks=(Look(10, N_("The skin is clear and no longer white: now it protects.")),),
        undone=(Undo(None, N_("Rub it off again while nothing lies on it.")),),
    ),
    "camouflage": _paint(N_("Second colour"), Phase.PATTERN, "match", "fresh", 45, next="tone", usual=Preset(2, 0.7), roles=("patch",),
                         otherwise=(Otherwise("camouflage", "reverse", Phase.PATTERN_FIRST),)),
    "unmask": _by_hand(
        N_("Take masks off"), "mask", Phase.UNMASKING, 10, "blade", sets_min=0, reworks=True,
        looks=(Look(5, N_("Edges that crept under the mask: touch them up while the mix is there.")),),
        undone=(Undo(None, N_("Mask again along the edge; creep is scraped with a fresh blade held flat, or touched up."), False),),
    ),
    "remove-resist": _by_hand(
        N_("Rub the resist off"), "mask", Phase.RUBBING, 30, "wet", sets_min=0, usually=Usually("chips", ("resist",)), wet=True, covers="unresist", room="wear",
        reworks=True,
        undone=(Undo(None, N_("What is rubbed off is gone: touch it up with the mix of the coat."), False),),
    ),
    "tone": _paint(N_("Light and shade"), Phase.SHADING, "tone", "exposed", 30, next="filter", usual=Preset(2, 0.9),
                   usually=Usually("light", ("post-shade", ""))),
    "marking": _LETTERING,
    "setting-solution": _by_hand(
        N_("Setting solution"), "marking", Phase.LETTERING, 10, sets_min=_HALF_DAY, wet=True, moves=True,
        looks=(Look(30, N_("Wrinkles go by themselves: do not touch the decal before it is dry.")),),
        undone=(Undo(1, N_("Blot it at once.")), Undo(None, N_("The decal has drawn in for good."), False)),
    ),
    "fade": _paint(N_("Fade"), Phase.FADING, "tone", "exposed", 25, next="filter", usual=Preset(2, 0.8)),
    "filter": _glaze(
        N_("Filter"), Phase.FILTERING, 15, Preset(2, _ONE_IN_20), _FILTER_DRY, sets_min=6 * _HOUR,
        over_itself=Pause(15, N_("filter before the next filter")),
    ),
    "chips": _spots(
        N_("Chips"), Phase.CHIPPING, 40, _ANY_SPOT, "acrylic-water", Preset(1, 0.0, 0.02), cloths=False,
        roles=("rust", "undercoat"), usually=Usually("chips", ("before-wash", "after-wash", "")), otherwise=(Otherwise("chips", "after-wash", Phase.CHIPPING_LATE),),
    ),
    "scrape": _by_hand(
        N_("Scrape"), "preparation", Phase.CHIPPING, 20, "blade", sets_min=0, covers="taken", room="wear",
        usual=Preset(area_share=0.02), roles=("undercoat",), undone=_GONE,
    ),
    "bloom": _by_hand(
        N_("Alcohol bloom"), "preparation", Phase.DUSTING, 10, sets_min=20, wet=True, moves=True, dulls=True, carrier="alcohol",
        looks=(Look(30, N_("Dry and by daylight: it is lighter and duller than it was. Is it enough, is it even?")),),
        ready=(N_("A test spot first: by how much alcohol lightens and dulls a matte coat, nobody knows before."),),
        undone=(Undo(None, N_("A thin matte coat over it takes most of it back."), False),),
    ),
    "wash": _glaze(N_("Wash"), Phase.WASHING, 25, Preset(1, _ONE_IN_10), _TIDE_MARKS, _STILL_MOVES, runs=True),
    "pin-wash": _glaze(N_("Pin wash"), Phase.WASHING, 30, Preset(1, _ONE_IN_10, 0.05), _TIDE_MARKS, _STILL_MOVES, runs=True,
                       tools=("seam", *_TINT), usually=_ALWAYS),
    "oil-dots": _glaze(
        N_("Oil dots"), Phase.DOTTING, 40, Preset(1, 0.0, 0.1),
        Look(20, N_("The oils have drawn into the surface a little: begin to draw them out.")),
        covers="spots", tools=("brush", "glaze"),
    ),
    "blend": _by_hand(
        N_("Draw the oils out"), "preparation", Phase.DRAWING_OUT, 40, sets_min=None, medium="oil", cloths=True, reworks=True,
        moves=True, looks=(_STILL_MOVES,),
        ready=(N_("Wipe the brush after every stroke; it stays almost dry."), N_("Strokes down on upright faces, along the traffic on decks.")),
        undone=(Undo(_HALF_DAY, N_("Draw it off with a brush damp with white spirit.")), Undo(None, N_("It has set: glaze over it."), False)),
    ),
    "streaks": _spots(N_("Streaks"), Phase.STREAKING, 30, ("brush", *_ANY_SPOT), "oil", Preset(1, 0.8, 0.03), _STILL_MOVES,
                      cloths=True, roles=("rust",)),
    "graphite": Kind(
        title=N_("Graphite"), family="powder", covers="spots", hands_on_min=10, room="wear", tools=_ANY_SPOT, medium="pigment",
        stage="seen", phase=Phase.POLISHING, cloths=False, masks=False, looks=(), sets_min=None, over_itself=None,
        served_by=_NONE, next="powder", metal=True, colour=(46.0, 0.0, -2.0), usual=Preset(area_share=0.01), cautions=("grains",),
        heed=(N_("Graphite dust conducts: keep it off electrics."),),
        ready=(N_("Clean fingers or a cotton bud: grease takes the shine."),),
        undone=(Undo(None, N_("Wipe it off with a soft rubber; a trace of shine stays."), False),),
    ),
    "gloss-coat": _varnish(N_("Gloss coat"), "gloss", Phase.SHINE, _LEVEL, Usually("decals", ("gloss-first", ""))),
    "satin-coat": _varnish(N_("Satin coat"), "satin", Phase.SHINE, _LEVEL, Usually("varnish", ("often",), Phase.SEALING)),
    "matte-coat": _varnish(N_("Matte coat"), "flat", Phase.MATTING,
                           Look(_HOUR, N_("Flat all over, and no white bloom? Colours lie deeper under it than they did.")), _ALWAYS),
    "powder": _powder(N_("Powder"), 20, roles=("dust", "rust"), ready=_DRY_BRUSH, usually=_ALWAYS),
    "pastel": _powder(N_("Pastel"), 20, medium="pastel", roles=("dust", "rust")),
    "dust": _powder(N_("Dust"), 20, usual=Preset(1, 0.0, 0.25, "below", 0.2), roles=("dust",), phase_wet=Phase.TOUCHING_UP),
    "soot": _powder(N_("Soot"), 15, usual=Preset(area_share=0.08), roles=("soot",), phase_wet=Phase.TOUCHING_UP, blown=False),
    "wipe-back": _by_hand(
        N_("Wipe back"), "preparation", Phase.WIPING, 15, sets_min=0, covers="taken", room="wear", cloths=True, reworks=True,
        moves=True, phase_wet=Phase.CLEANING_UP, usual=Preset(1, 0.0, 0.89, "open", 0.25),
        ready=(N_("The cloth damp, a clean fold for every stroke."),),
        undone=(Undo(None, N_("Lay more and wipe again.")),),
    ),
    "fix-powder": _by_hand(
        N_("Fix the powder"), "preparation", Phase.FIXING, 10, sets_min=60, fixes=True,
        undone=(Undo(60, N_("Lift it with the fluid itself and a soft brush."), False), Undo(None, N_("Fixed powder stays; paint over it."), False)),
    ),
    "touch-up": _paint(N_("Touch-up"), Phase.TOUCHING_UP, "match", "seen", 20, next="filter", usual=Preset(2, 0.5, 0.05), roles=("patch", "replaced")),
    "fit-glass": _by_hand(
        N_("Fit the glass"), "assembly", Phase.CLEAR_PARTS, 20, sets_min=60, clear=True,
        undone=(Undo(60, N_("Slide it out before the glue grips.")), Undo(None, N_("Press it out from inside; clear parts crack."), False)),
    ),
    "take-apart": _by_hand(
        N_("Take apart"), "assembly", Phase.CLEANING, 20, sets_min=0, parts=True,
        ready=(N_("A tray with a place for every part; photograph how it sits before it comes off."),),
        undone=(Undo(None, N_("Put it together again.")),),
    ),
    "assemble": _by_hand(
        N_("Assemble"), "assembly", Phase.PUTTING_TOGETHER, 30, sets_min=60, joins=True,
        undone=(Undo(5, N_("Pull it apart before the glue grips.")), Undo(None, N_("Cut the joint with a fresh blade, away from you."), False)),
    ),
    "other": _by_hand(
        N_("Another step"), "preparation", Phase.PUTTING_TOGETHER, 15, sets_min=0,
        undone=(Undo(None, N_("Only you know what this step does: note how to undo it."), False),),
    ),
}  # fmt: skip
"""In the usual order of work."""


def nature_of(kind: str, *, printed: bool) -> Kind:
    """What a kind is; what may be printed or painted, as its row says of that."""
    row = KINDS[kind]
    return row if printed or row.painted is None else row.painted
