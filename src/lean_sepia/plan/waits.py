"""The one table of waits: how long what lies below must be left alone before what comes next, and until when that is possible.

What counts is the pair: the first line of the table that names both decides; what no line names waits for the full cure of the medium
below. A project's own logged times come first, times given for a step next. All are common practice without a source, in minutes.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from lean_sepia.language import N_
from lean_sepia.paint.media import MEDIA
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.step import PlanStep

_HOUR = 60.0
_HALF, _DAY = 12 * _HOUR, 24 * _HOUR
TOUCH_DRY = 20.0
_LONGEST_MASK = 7 * _DAY


@dataclass(frozen=True)
class Wait:
    """Minutes from the end of one step: the other may start, is late, comes too late; `safe` is the longer of two usual times."""

    not_before: float
    words: str
    late: float | None = None
    closed: float | None = None
    safe: float | None = None


@dataclass(frozen=True)
class _Sketch:
    """All of a step that the table asks for."""

    kind: str
    medium: str | None
    tool: str | None
    solvent: str
    mask: str | None
    loose: bool

    @classmethod
    def of(cls, step: PlanStep) -> _Sketch:
        usual = step.nature.medium if step.nature.leaves_film and step.nature.family != "marking" else None
        return cls(step.kind, step.medium or usual, step.tool, step.solvent, step.mask, step.loose)


@dataclass(frozen=True)
class Laid:
    """Which steps a line of the table means: all that is said must fit; nothing said fits everything."""

    kinds: frozenset[str] = frozenset()
    but: frozenset[str] = frozenset()
    media: frozenset[str] = frozenset()
    tools: frozenset[str] = frozenset()
    carriers: frozenset[str] = frozenset()
    mask: str = ""
    loose: bool | None = None

    def fits(self, step: _Sketch) -> bool:
        """Whether a step is meant."""
        return (
            (not self.kinds or step.kind in self.kinds)
            and step.kind not in self.but
            and (not self.media or step.medium in self.media)
            and (not self.tools or step.tool in self.tools)
            and (not self.carriers or step.solvent in self.carriers)
            and (not self.mask or step.mask == self.mask)
            and (self.loose is None or step.loose is self.loose)
        )


@dataclass(frozen=True)
class Pair:
    """One line of the table; `same_medium` where it holds only for one medium over itself."""

    below: Laid
    then: Laid
    wait: Wait
    same_medium: bool = False

    def fits(self, below: _Sketch, then: _Sketch) -> bool:
        """Whether it is about these two."""
        return (
            self.below.fits(below)
            and self.then.fits(then)
            and (not self.same_medium or below.medium == then.medium)
        )


def _family(*families: str) -> frozenset[str]:
    return frozenset(name for name, kind in KINDS.items() if kind.family in families)


_ACRYLIC = frozenset({"acrylic-water", "acrylic-alcohol"})
_DRIES_FAST = _ACRYLIC | {"lacquer"}
_SLOW = frozenset({"oil", "enamel"})
_PAINT, _VARNISH, _GLAZE = _family("paint"), _family("varnish"), _family("glaze")
_FINE = _family("spots", "glaze")
_WASH, _DECAL = frozenset({"wash", "pin-wash"}), frozenset({"marking", "setting-solution"})
_FILM = _PAINT | _FINE | {"soot", "dust"}
_POWDER = _family("powder")
_TOUCHES = frozenset({"blend", "wipe-back", "fix-powder", "scrape"})
_ALWAYS = Laid()


def _pair(below: Laid, then: Laid, minutes: float, words: str, *, late: float | None = None, closed: float | None = None,
          safe: float | None = None, same: bool = False) -> Pair:  # fmt: skip
    return Pair(below, then, Wait(minutes, words, late, closed, safe), same)


def _kinds(*names: str) -> Laid:
    return Laid(kinds=frozenset(names))


PAIRS: tuple[Pair, ...] = (
    # What asks for nothing.
    _pair(_kinds("found", "test-piece"), _ALWAYS, 0, N_("nothing to wait for")),
    _pair(_ALWAYS, _kinds("test-piece"), 0, N_("a piece of its own")),
    # Work on what was just laid: the second clock runs.
    _pair(_kinds("oil-dots"), _kinds("blend"), 0, N_("oil dots before blending"), late=_HALF, closed=2 * _DAY),
    _pair(Laid(_WASH, media=_SLOW), _kinds("blend", "wipe-back"), 1, N_("wash before cleaning up"), closed=_HALF),
    _pair(Laid(frozenset({"chips", "streaks"}), media=frozenset({"enamel"})), _kinds("blend", "wipe-back"), 5, N_("enamel marks before softening"), closed=_HALF),
    _pair(Laid(_FINE, media=_SLOW), _kinds("blend", "wipe-back"), 0, N_("oils before they are removed"), closed=_HALF),
    _pair(Laid(_FINE, media=_ACRYLIC), Laid(frozenset({"wipe-back"}), carriers=frozenset({"alcohol", "lacquer-thinner"})), 0, N_("acrylic before wiping back with a solvent")),
    _pair(Laid(_FINE | {"fade", "tone", "soot", "dust"}, media=_ACRYLIC, loose=False), _kinds("wipe-back"), 0, N_("acrylic before wiping back"), closed=10),
    _pair(Laid(_PAINT - {"found"}, media=_ACRYLIC), Laid(frozenset({"remove-resist"}), carriers=frozenset({"water"})), 0, N_("acrylic before rubbing with water"), late=10),
    # Dry things.
    _pair(Laid(loose=True), _ALWAYS, 0, N_("powder needs no drying")),
    _pair(_kinds("fix-powder"), _ALWAYS, 60, N_("powder that was fixed")),
    # Masks.
    _pair(Laid(frozenset({"mask"}), mask="tape"), _kinds("unmask"), 0, N_("tape")),
    _pair(Laid(frozenset({"mask"}), mask="liquid"), _kinds("unmask"), 10, N_("the skin of a liquid mask"), late=_LONGEST_MASK),
    _pair(Laid(frozenset({"mask"}), mask="putty"), _kinds("unmask"), 0, N_("masking putty"), late=_LONGEST_MASK),
    _pair(_kinds("resist"), _kinds("remove-resist"), 10, N_("the skin of a liquid mask"), late=_LONGEST_MASK),
    _pair(_kinds("resist"), _ALWAYS, 10, N_("the skin of a liquid mask")),
    _pair(Laid(frozenset({"mask"}), mask="liquid"), _ALWAYS, 10, N_("the skin of a liquid mask")),
    _pair(_kinds("mask", "unmask", "remove-resist", "wipe-back", "scrape", "other"), _ALWAYS, 0, N_("nothing to wait for")),
    _pair(Laid(_VARNISH), _kinds("remove-resist", "unmask"), 30, N_("varnish before rubbing off a mask")),
    _pair(Laid(_PAINT | _FINE | _POWDER), _kinds("remove-resist", "unmask"), TOUCH_DRY, N_("paint before unmasking")),
    _pair(Laid(_PAINT | _VARNISH), _kinds("resist"), TOUCH_DRY, N_("liquid mask on what is touch-dry")),
    _pair(Laid(_PAINT | _VARNISH), Laid(frozenset({"mask"}), mask="liquid"), TOUCH_DRY, N_("liquid mask on what is touch-dry")),
    _pair(Laid(_PAINT | _VARNISH), Laid(frozenset({"mask"}), mask="putty"), TOUCH_DRY, N_("masking putty on what is touch-dry")),
    # Markings and their solutions, at once among themselves.
    _pair(_kinds("marking"), _kinds("setting-solution"), 0, N_("decal before softener")),
    _pair(_kinds("setting-solution"), _kinds("marking", "setting-solution"), 0, N_("softener before the next decal")),
    _pair(Laid(_DECAL), Laid(_VARNISH), _HALF, N_("decals before a varnish")),
    _pair(Laid(_DECAL), Laid(_GLAZE), _HALF, N_("decals before a filter or wash")),
    _pair(Laid(_DECAL), Laid(_DECAL), TOUCH_DRY, N_("one marking over another")),
    _pair(Laid(_VARNISH, media=_DRIES_FAST), Laid(_DECAL | _FINE | _TOUCHES), 3 * _HOUR, N_("varnish before decals, washes or chips"), safe=_HALF),
    _pair(Laid(_PAINT, media=_DRIES_FAST), Laid(_DECAL), TOUCH_DRY, N_("bare paint before decals")),
    _pair(Laid(_PAINT, media=_SLOW), Laid(_DECAL), 6 * _HOUR, N_("bare enamel or oil before decals")),
    # Powder on varnish.
    _pair(Laid(_VARNISH, tools=frozenset({"spray-can"})), Laid(_POWDER | {"streaks"}, loose=True), _DAY, N_("varnish from a can before powder")),
    _pair(Laid(_VARNISH, media=_DRIES_FAST), Laid(loose=True), 3 * _HOUR, N_("varnish before powder")),
    # Primer before paint; then one coat over another.
    _pair(Laid(frozenset({"primer"}), media=frozenset({"acrylic-water"})), Laid(_PAINT, but=frozenset({"primer"})), _HALF, N_("water-borne primer before paint")),
    _pair(_kinds("primer"), Laid(_PAINT, but=frozenset({"primer"})), 60, N_("solvent primer before paint")),
    _pair(Laid(_VARNISH, media=_DRIES_FAST), Laid(_PAINT | {"soot", "dust"}, tools=frozenset({"mist"})), 60, N_("varnish before a mist coat")),
    _pair(Laid(_FILM, media=_DRIES_FAST), Laid(_PAINT | {"soot", "dust"}, tools=frozenset({"mist"})), TOUCH_DRY, N_("a mist over what is touch-dry")),
    # Oils and enamels among themselves.
    _pair(_kinds("filter"), _kinds("filter"), 15, N_("filter before the next filter")),
    _pair(_kinds("filter"), Laid(_WASH), 6 * _HOUR, N_("filter before a wash")),
    _pair(Laid(_FINE | {"blend"}, media=_SLOW), Laid(_FINE, media=_SLOW), 6 * _HOUR, N_("between oil techniques"), safe=_DAY),
    _pair(_kinds("blend"), Laid(_FINE, media=_SLOW), 6 * _HOUR, N_("between oil techniques"), safe=_DAY),
    _pair(Laid(_PAINT, media=frozenset({"enamel"})), Laid(_PAINT, media=frozenset({"enamel"})), 6 * _HOUR, N_("enamel over enamel")),
    # Varnish.
    _pair(_kinds("filter"), Laid(_VARNISH), 6 * _HOUR, N_("filter before a varnish")),
    _pair(Laid(frozenset({"streaks"}), media=_SLOW), Laid(_VARNISH), _DAY, N_("oil streaks before they are sealed")),
    _pair(Laid(media=_SLOW), Laid(_VARNISH, media=frozenset({"lacquer"})), _DAY, N_("oil or enamel before a lacquer varnish")),
    _pair(_kinds("blend"), Laid(_VARNISH, media=frozenset({"lacquer"})), _DAY, N_("oil or enamel before a lacquer varnish")),
    _pair(Laid(media=_SLOW), Laid(_VARNISH, media=_ACRYLIC), _HALF, N_("oil or enamel before an acrylic varnish")),
    _pair(_kinds("blend"), Laid(_VARNISH), _HALF, N_("oil or enamel before an acrylic varnish")),
    _pair(Laid(_VARNISH, media=_DRIES_FAST), Laid(_VARNISH), 60, N_("varnish before the next varnish")),
    _pair(Laid(_FILM, media=_DRIES_FAST), Laid(_VARNISH, media=_ACRYLIC), 60, N_("paint before an acrylic varnish")),
    _pair(Laid(_PAINT, media=_DRIES_FAST), Laid(_TOUCHES), TOUCH_DRY, N_("work on what lies over touch-dry paint")),
    # Washes and spots of acrylic, and everything of one medium over itself.
    _pair(Laid(_WASH, media=_ACRYLIC), _ALWAYS, TOUCH_DRY, N_("acrylic wash")),
    _pair(Laid(_PAINT, media=_DRIES_FAST), Laid(_GLAZE, media=_SLOW), _HALF, N_("paint before an oil or enamel filter or wash")),
    _pair(Laid(_FILM, media=_DRIES_FAST), Laid(_FILM), TOUCH_DRY, N_("one medium over itself"), same=True),
)  # fmt: skip

_ALONE = {"wash-model": 120.0, "assemble": 60.0, "fit-glass": 60.0, "fix-powder": 60.0, "resist": 10.0, "setting-solution": _HALF,
          "marking": _HALF, "filter": 6 * _HOUR}  # fmt: skip
_NO_MEDIUM = {"blend": "oil"}


def full_cure(step: PlanStep) -> float:
    """Minutes until anything may follow: as given for the step, else that of its kind or medium."""
    if step.full_cure_min is not None:
        return step.full_cure_min
    if step.kind in ("found", "test-piece"):
        return 0.0
    return _ALONE.get(step.kind, _cure_of(step.kind, step.medium))


def _cure_of(kind: str, medium: str | None) -> float:
    """Minutes in which the medium cures, or the usual one of a kind that leaves something."""
    usual = KINDS[kind].medium if KINDS[kind].leaves_film else None
    medium = medium or _NO_MEDIUM.get(kind) or usual
    return MEDIA[medium].full_cure_min if medium else 0.0


@dataclass(frozen=True)
class LoggedTime:
    """How long one kind of coat really took before another could follow, as it was logged at the bench."""

    below: str
    below_medium: str | None
    then: str
    minutes: float

    def fits(self, below: PlanStep, then: PlanStep) -> bool:
        """Whether it is about these two."""
        return (
            below.kind == self.below
            and then.kind == self.then
            and (not self.below_medium or below.medium == self.below_medium)
        )


@dataclass(frozen=True)
class Drying:
    """What the person knows of drying: their own logged times, and one factor for thick coats, cold and damp.

    rest : minutes that oil dots rest before blending, by those who let them
    """

    factor: float = 1.0
    logged: tuple[LoggedTime, ...] = ()
    rest: float = 0.0

    def wait(self, below: PlanStep, then: PlanStep) -> Wait:
        """The wait between one step and one that comes after it on a shared zone."""
        found = table_wait(below, then)
        late, closed = found.late, found.closed
        if then.kind in ("blend", "wipe-back") and below.removable_until_min is not None:
            closed = below.removable_until_min
        if then.kind in ("blend", "wipe-back") and below.workable_until_min is not None:
            late = below.workable_until_min
        return Wait(self._not_before(below, then, found), found.words, late, closed, found.safe)

    def _not_before(self, below: PlanStep, then: PlanStep, found: Wait) -> float:
        for logged in reversed(self.logged):
            if logged.fits(below, then):
                return logged.minutes
        given = _given(below, then)
        if given is not None:
            return given
        rest = self.rest if (below.kind, then.kind) == ("oil-dots", "blend") else 0.0
        return max(found.not_before, rest) * self.factor

    def alone(self, step: PlanStep) -> float:
        """Minutes from the end of a step that nothing follows until it is ready."""
        given = step.full_cure_min
        return given if given is not None else full_cure(step) * self.factor


USUAL = Drying()


def _given(below: PlanStep, then: PlanStep) -> float | None:
    """The time stated for a step, where something is to lie on it; what is worked on while it is fresh goes by the table."""
    if then.nature.reworks or then.kind == "test-piece":
        return None
    return below.touch_dry_min if _one_paint_over_itself(below, then) else below.full_cure_min


def _one_paint_over_itself(below: PlanStep, then: PlanStep) -> bool:
    return below.nature.is_paint and then.nature.is_paint and below.medium == then.medium


def table_wait(below: PlanStep, then: PlanStep) -> Wait:
    """What the table says of two steps, with nothing given or logged."""
    return _table(_Sketch.of(below), _Sketch.of(then))


@lru_cache(maxsize=20_000)
def _table(below: _Sketch, then: _Sketch) -> Wait:
    for pair in PAIRS:
        if pair.fits(below, then):
            return pair.wait
    if below.kind in _ALONE:
        return Wait(_ALONE[below.kind], N_("until it has set"))
    return Wait(_cure_of(below.kind, below.medium), N_("until it has cured"))


_REST_MIN = 20.0


def rested(schools: Mapping[str, str]) -> float:
    """Minutes that oil dots rest before they are drawn out, as the school chosen for it says."""
    return _REST_MIN if schools.get("oil-rest") == "rest" else 0.0


def removable_for(step: PlanStep) -> float | None:
    """Minutes for which what a step lays can still be wiped or drawn out; None where no clock closes it, or it is not wiped."""
    if step.removable_until_min is not None:
        return step.removable_until_min
    wiped = PlanStep(id="wiped", kind="wipe-back")
    return table_wait(step, wiped).closed if step.nature.leaves_film else None
