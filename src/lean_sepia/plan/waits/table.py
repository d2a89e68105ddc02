"""The one table of waits.

What counts is the pair: the first line of the table that names both decides; what no line names waits until what lies below has set,
or for the full cure of its medium. A project's own logged times come first, times given for a step next. All are common practice
without a source, in minutes.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from operator import attrgetter

from lean_sepia.language import N_
from lean_sepia.paint.media import MEDIA, Medium
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.traits.kind import Kind
from lean_sepia.plan.traits.said import Pause
from lean_sepia.plan.waits.pair import Laid, Pair, Sketch, Trait, Wait

_HOUR = 60.0
_HALF, _DAY = 12 * _HOUR, 24 * _HOUR
TOUCH_DRY = 20.0
_LONGEST_MASK = 7 * _DAY


def _one_medium(below: Sketch, then: Sketch) -> bool:
    return below.medium == then.medium


def _one_kind(below: Sketch, then: Sketch) -> bool:
    return below.kind == then.kind


def _is_served(below: Sketch, then: Sketch) -> bool:
    return then.kind in below.nature.served_by


def _dissolved(below: Sketch, then: Sketch) -> bool:
    return below.matter is not None and below.matter.bitten_by.get(then.solvent) is not None


def _with_water(_below: Sketch, then: Sketch) -> bool:
    return then.solvent == "water"


def _of_kind(below: Sketch) -> Pause | None:
    return below.nature.over_itself


def _of_medium(below: Sketch) -> Pause | None:
    minutes = below.matter.over_itself_min if below.matter else None
    return None if minutes is None else Pause(minutes, "")


def _before_softening(below: Sketch) -> Pause | None:
    minutes = below.matter.softens_after_min if below.matter else 0.0
    return Pause(minutes, "") if minutes else None


def _either(*traits: Trait) -> Trait:
    return lambda kind: any(trait(kind) for trait in traits)


_found, _apart, _varnish, _fixes = map(attrgetter, ("is_found", "apart", "is_varnish", "fixes"))
_glaze, _fine, _filter, _runs, _dots = map(
    attrgetter, ("is_glaze", "is_fine", "is_filter", "runs", "is_dots")
)
_streaks, _print, _powder, _primer, _mask = map(
    attrgetter, ("is_streaks", "is_print", "is_powder", "is_primer", "is_mask")
)
_paint = _either(attrgetter("is_paint"), attrgetter("is_painted_mark"))
_resist, _off, _lifts, _softens, _wipes, _draws_out, _touches = map(
    attrgetter, ("resists", "unmasks", "lifts", "softens", "wipes", "draws_out", "touches")
)
_decal = attrgetter("is_decal")
_quick, _slow, _mild = map(attrgetter, ("quick", "slow", "mild"))


def _spots(kind: Kind) -> bool:
    return kind.is_fine and not kind.is_glaze


def _softener(kind: Kind) -> bool:
    return kind.is_decal and not kind.is_print


def _dusty(kind: Kind) -> bool:
    """Powder by its name that is as often made of thinned paint: dust, soot."""
    return kind.is_powder and kind.phase_wet is not None


def _faded(kind: Kind) -> bool:
    return kind.shades and kind.stage == "exposed"


def _painted(kind: Kind) -> bool:
    return _paint(kind) and not kind.is_found


def _colour(kind: Kind) -> bool:
    return _paint(kind) and not kind.is_primer


def _rub(kind: Kind) -> bool:
    return kind.unmasks and not kind.lifts


def _sets_at_once(kind: Kind) -> bool:
    return kind.sets_min == 0


def _sharp(medium: Medium) -> bool:
    return medium.quick and not medium.mild


def _watery(medium: Medium) -> bool:
    return medium.quick and medium.carrier == "water"


def _reopens(medium: Medium) -> bool:
    return medium.quick and medium.workable_min is not None


_asks_nothing = _either(_found, _apart)
_weathered = _either(_fine, _faded, _dusty)
_film = _either(_paint, _fine, _dusty)
_paint_or_dust = _either(_paint, _dusty)
_coat = _either(_paint, _varnish)
_ALWAYS = Laid()


def _pair(below: Laid, then: Laid, minutes: float, words: str, *, late: float | None = None, closed: float | None = None,
          safe: float | None = None, between: Callable[[Sketch, Sketch], bool] | None = None,
          own: Callable[[Sketch], Pause | None] | None = None, closes: bool = False, harder: bool = False) -> Pair:  # fmt: skip
    return Pair(below, then, Wait(minutes, words, late, closed, safe, harder), between, own, closes)


PAIRS: tuple[Pair, ...] = (
    # What asks for nothing.
    _pair(Laid(_asks_nothing), _ALWAYS, 0, N_("nothing to wait for")),
    _pair(_ALWAYS, Laid(_apart), 0, N_("a piece of its own")),
    # Work on what was just laid: the second clock runs.
    _pair(Laid(_dots), Laid(_draws_out), 0, N_("oil dots before blending"), late=_HALF, closed=2 * _DAY, between=_is_served),
    _pair(Laid(_runs, _slow), Laid(_softens), 1, N_("wash before cleaning up"), closes=True),
    _pair(Laid(_spots, _slow), Laid(_softens), 0, N_("enamel marks before softening"), own=_before_softening, closes=True),
    _pair(Laid(_faded, _slow), Laid(_draws_out), 0, N_("oil tones before they are drawn out"), late=_HALF, closed=2 * _DAY),
    _pair(Laid(_either(_fine, _faded), _slow), Laid(_softens), 0, N_("oils before they are removed"), closes=True),
    _pair(Laid(_fine, _reopens), Laid(_wipes), 0, N_("acrylic before wiping back with a solvent"), between=_dissolved),
    _pair(Laid(_weathered, _reopens, loose=False), Laid(_wipes), 0, N_("acrylic before wiping back"), closes=True),
    _pair(Laid(_painted, _mild), Laid(_wipes), TOUCH_DRY, N_("acrylic before rubbing through with water"), late=2 * _HOUR, closed=_HALF, harder=True,
          between=_with_water),
    _pair(Laid(_painted, _mild), Laid(_rub), TOUCH_DRY, N_("acrylic before rubbing with water"), late=2 * _HOUR, harder=True, between=_with_water),
    # Dry things.
    _pair(Laid(loose=True), _ALWAYS, 0, N_("powder needs no drying")),
    _pair(Laid(_fixes), _ALWAYS, 60, N_("powder that was fixed")),
    # Masks.
    _pair(Laid(_mask, mask="tape"), Laid(_lifts), 0, N_("tape")),
    _pair(Laid(_mask, mask="liquid"), Laid(_lifts), 10, N_("the skin of a liquid mask"), late=_LONGEST_MASK),
    _pair(Laid(_mask, mask="putty"), Laid(_lifts), 0, N_("masking putty"), late=_LONGEST_MASK),
    _pair(Laid(_resist), Laid(_rub), 10, N_("the skin of a liquid mask"), late=_LONGEST_MASK),
    _pair(Laid(_resist), _ALWAYS, 10, N_("the skin of a liquid mask")),
    _pair(Laid(_mask, mask="liquid"), _ALWAYS, 10, N_("the skin of a liquid mask")),
    _pair(Laid(_sets_at_once), _ALWAYS, 0, N_("nothing to wait for")),
    _pair(Laid(_varnish), Laid(_off), 30, N_("varnish before rubbing off a mask")),
    _pair(Laid(_either(_paint, _fine, _powder)), Laid(_off), TOUCH_DRY, N_("paint before unmasking")),
    _pair(Laid(_coat), Laid(_resist), TOUCH_DRY, N_("liquid mask on what is touch-dry")),
    _pair(Laid(_coat), Laid(_mask, mask="liquid"), TOUCH_DRY, N_("liquid mask on what is touch-dry")),
    _pair(Laid(_coat), Laid(_mask, mask="putty"), TOUCH_DRY, N_("masking putty on what is touch-dry")),
    # Markings and their solutions, at once among themselves.
    _pair(Laid(_print), Laid(_softener), 0, N_("decal before softener")),
    _pair(Laid(_softener), Laid(_decal), 0, N_("softener before the next decal")),
    _pair(Laid(_decal), Laid(_varnish), _HALF, N_("decals before a varnish")),
    _pair(Laid(_decal), Laid(_glaze), _HALF, N_("decals before a filter or wash")),
    _pair(Laid(_decal), Laid(_decal), TOUCH_DRY, N_("one marking over another")),
    _pair(Laid(_varnish, _quick), Laid(_either(_decal, _fine, _touches)), 3 * _HOUR, N_("varnish before decals, washes or chips"), safe=_HALF),
    _pair(Laid(_paint, _quick), Laid(_decal), TOUCH_DRY, N_("bare paint before decals")),
    _pair(Laid(_paint, _slow), Laid(_decal), 6 * _HOUR, N_("bare enamel or oil before decals")),
    # Powder on varnish.
    _pair(Laid(_varnish, tool="spray-can"), Laid(_either(_powder, _streaks), loose=True), _DAY, N_("varnish from a can before powder")),
    _pair(Laid(_varnish, _quick), Laid(loose=True), 3 * _HOUR, N_("varnish before powder")),
    _pair(Laid(_filter, _slow), Laid(loose=True), 6 * _HOUR, N_("filter before powder")),
    _pair(Laid(_draws_out), Laid(loose=True), _HALF, N_("drawn-out oil before pastel or powder")),
    _pair(Laid(medium=_slow), Laid(loose=True), _HALF, N_("oil or enamel before pastel or powder")),
    # Primer before paint; then one coat over another.
    _pair(Laid(_primer, _watery), Laid(_colour), _HALF, N_("water-borne primer before paint")),
    _pair(Laid(_primer), Laid(_colour), 60, N_("solvent primer before paint")),
    _pair(Laid(_varnish, _quick), Laid(_paint_or_dust, tool="mist"), 60, N_("varnish before a mist coat")),
    _pair(Laid(_film, _quick), Laid(_paint_or_dust, tool="mist"), TOUCH_DRY, N_("a mist over what is touch-dry")),
    # Glazes among themselves.
    _pair(_ALWAYS, _ALWAYS, 15, N_("filter before the next filter"), between=_one_kind, own=_of_kind),
    _pair(Laid(_filter), Laid(_runs), 6 * _HOUR, N_("filter before a wash")),
    _pair(Laid(_either(_fine, _draws_out), _slow), Laid(_fine, _slow), 6 * _HOUR, N_("between oil techniques"), safe=_DAY),
    _pair(Laid(_draws_out), Laid(_fine, _slow), 6 * _HOUR, N_("between oil techniques"), safe=_DAY),
    _pair(Laid(_paint, _slow), Laid(_paint), 6 * _HOUR, N_("enamel over enamel"), between=_one_medium, own=_of_medium),
    # Varnish.
    _pair(Laid(_filter), Laid(_varnish), 6 * _HOUR, N_("filter before a varnish")),
    _pair(Laid(_streaks, _slow), Laid(_varnish), _DAY, N_("oil streaks before they are sealed")),
    _pair(Laid(medium=_slow), Laid(_varnish, _sharp), _DAY, N_("oil or enamel before a lacquer varnish")),
    _pair(Laid(_draws_out), Laid(_varnish, _sharp), _DAY, N_("oil or enamel before a lacquer varnish")),
    _pair(Laid(medium=_slow), Laid(_varnish, _mild), _HALF, N_("oil or enamel before an acrylic varnish")),
    _pair(Laid(_draws_out), Laid(_varnish), _HALF, N_("oil or enamel before an acrylic varnish")),
    _pair(Laid(_varnish, _quick), Laid(_varnish), 60, N_("varnish before the next varnish")),
    _pair(Laid(_film, _quick), Laid(_varnish, _mild), 60, N_("paint before an acrylic varnish")),
    _pair(Laid(_paint, _quick), Laid(_touches), TOUCH_DRY, N_("work on what lies over touch-dry paint")),
    # Washes and spots of acrylic, and everything of one medium over itself.
    _pair(Laid(_runs, _mild), _ALWAYS, TOUCH_DRY, N_("acrylic wash")),
    _pair(Laid(_paint, _quick), Laid(_glaze, _slow), _HALF, N_("paint before an oil or enamel filter or wash")),
    _pair(Laid(_film, _quick), Laid(_film), TOUCH_DRY, N_("one medium over itself"), between=_one_medium, own=_of_medium),
)  # fmt: skip


def table_wait(below: PlanStep, then: PlanStep) -> Wait:
    """What the table says of two steps, with nothing given or logged."""
    return _table(Sketch.of(below), Sketch.of(then))


@lru_cache(maxsize=20_000)
def _table(below: Sketch, then: Sketch) -> Wait:
    for pair in PAIRS:
        if pair.fits(below, then):
            return pair.wait_of(below)
    if below.nature.sets_min is not None:
        return Wait(below.nature.sets_min, N_("until it has set"))
    return Wait(cure_of(below.kind, below.medium), N_("until it has cured"))


def cure_of(kind: str, medium: str | None) -> float:
    """Minutes in which the medium cures, or what a kind is usually made of or worked in."""
    medium = medium or KINDS[kind].medium
    return MEDIA[medium].full_cure_min if medium else 0.0
