"""A zone as it is planned, ready to be asked what any change to its coats would make of it: many changes at once.

The coats below the first that a change touches are laid once and kept; changes that touch the same coats are laid side by side.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np

from lean_sepia.answers.predicting.run import Growing, Laid, ZoneCoats, mean_of
from lean_sepia.answers.stages import STAGES
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.document.model import Coat
from lean_sepia.paint.laying import Matter
from lean_sepia.paint.paint import Mixture
from lean_sepia.paint.profile import PANELS
from lean_sepia.paint.saunderson import Surface
from lean_sepia.paint.stack import Coating, Opaque, Patch

_SMALL_SHARE = 0.3  # of the area: what is smaller never becomes the largest patch


@dataclass(frozen=True, eq=False)
class Touch:
    """What is otherwise of one coat: what it is made of, how thick, on what share; or that it is left out. None for what stays.

    coat : the coat itself, where its kind is another
    """

    body: Mixture | None = None
    X: float | None = None
    share: float | None = None
    coat: Coat | None = None
    out: bool = False

    @property
    def shape(self) -> tuple[object, ...]:
        """What must be the same of touches that are laid side by side; a large share may make another patch the largest."""
        kind = self.coat.kind if self.coat is not None else ""
        large = self.share if self.share is not None and self.share > _SMALL_SHARE else None
        return self.share is not None, large, kind, self.out

    def of(self, laid: Laid) -> Laid:
        """The coat with it."""
        coat, coating = laid
        changed = {
            name: value for name, value in (("body", self.body), ("X", self.X), ("share", self.share)) if value is not None
        }  # fmt: skip
        return self.coat or coat, replace(coating, **changed)  # type: ignore[arg-type]

    def meets(self, other: Touch) -> bool:
        """Whether both change the same of a coat, so that one would undo the other."""
        if self.out or other.out or (self.coat and other.coat):
            return True
        return any(
            getattr(self, name) is not None and getattr(other, name) is not None
            for name in ("body", "X", "share")
        )

    def with_(self, other: Touch) -> Touch:
        """Both at once."""
        mine = {name: getattr(self, name) if getattr(self, name) is not None else getattr(other, name)
                for name in ("body", "X", "share", "coat")}  # fmt: skip
        return Touch(**mine, out=self.out or other.out)


@dataclass(frozen=True, eq=False)
class Effect:
    """What a change does to one zone: what is otherwise of its coats, and coats that are added, each with the one it comes on."""

    touches: Mapping[str, Touch] = field(default_factory=dict)
    added: tuple[tuple[str | None, Laid], ...] = ()

    @property
    def shape(self) -> tuple[object, ...]:
        """What must be the same of effects that are laid side by side."""
        touched = tuple((name, touch.shape) for name, touch in self.touches.items())
        return touched, tuple(
            (after, coat.kind, coating.covers, coating.share) for after, (coat, coating) in self.added
        )

    def on(self, zone: ZoneCoats) -> ZoneCoats:
        """The zone with it."""
        laid: list[Laid] = [one for after, one in self.added if after is None]
        for one in zone.laid:
            touch = self.touches.get(one[0].id)
            if touch is None or not touch.out:
                laid.append(one if touch is None else touch.of(one))
            laid += [new for after, new in self.added if after == one[0].id]
        if any(coating.profile == PANELS for _coat, coating in laid) or self.turns_sheens(zone):
            return ZoneCoats.laying(laid, sheltered_too=zone.sheltered_too)
        return replace(zone, laid=tuple(laid))

    def turns_sheens(self, zone: ZoneCoats) -> bool:
        """Whether a varnish is touched, so that the sheens of the zone are others."""
        varnished = {coat.id for coat, _coating in zone.laid if coat.nature.is_varnish}
        return bool(varnished & self.touches.keys())

    def meets(self, other: Effect) -> bool:
        """Whether both change the same of a coat."""
        shared = self.touches.keys() & other.touches.keys()
        return any(self.touches[name].meets(other.touches[name]) for name in shared)

    def with_(self, other: Effect) -> Effect:
        """Both at once."""
        both = dict(self.touches)
        for name, touch in other.touches.items():
            both[name] = both[name].with_(touch) if name in both else touch
        # Two that come on the same coat lie as their kinds do.
        added = sorted(self.added + other.added, key=lambda one: one[1][0].nature.phase)
        return Effect(both, tuple(added))

    def without_bodies(self, names: Iterable[str]) -> Effect:
        """The same, but for what some coats are made of."""
        touches = {**self.touches}
        for name in names:
            if name in touches:
                touches[name] = replace(touches[name], body=None)
        return Effect(touches, self.added)

    def of_body(self, body: Mixture) -> Effect:
        """The same, with all that is made of something else made of this."""
        touches = {
            name: touch if touch.body is None else replace(touch, body=body)
            for name, touch in self.touches.items()
        }
        return Effect(
            touches,
            tuple((after, (coat, replace(coating, body=body))) for after, (coat, coating) in self.added),
        )

    @property
    def side_by_side(self) -> bool:
        """Whether it can be laid beside others: what hides is laid by itself."""
        bodies = [coating.body for _after, (_coat, coating) in self.added]
        return not any(isinstance(body, Opaque) for body in bodies)


class Course:
    """One zone: its coats, and what lies there after each of them, at every place that stands for it."""

    def __init__(self, zone: ZoneCoats) -> None:
        self.zone = zone
        self._places = zone.places

    @cached_property
    def _states(self) -> list[list[Growing]]:
        """What lies there before anything and after each coat, at every place."""
        alike = _alike(self.zone)
        first = [Growing.bare()]
        for coat, coating in self.zone.laid[:alike]:
            first.append(first[-1].lay(coat, coating, sheltered_too=self.zone.sheltered_too)[0])
        every = []
        for place, _weight in self._places:
            states = list(first)
            for coat, coating in self.zone.laid[alike:]:
                states.append(
                    states[-1].lay(coat, coating.at(place), sheltered_too=self.zone.sheltered_too)[0]
                )
            every.append(states)
        return every

    def stages(self, zone: ZoneCoats) -> dict[str, FloatArray]:
        """L*a*b* (..., 3) at each stage of the zone with other coats, one row for each variant that they hold."""
        return self._stages(zone, self._finished(zone))

    @staticmethod
    def _stages(zone: ZoneCoats, states: Sequence[tuple[Growing, float]]) -> dict[str, FloatArray]:
        found = [(state.stages(zone), weight) for state, weight in states]
        means = found[0][0] if len(found) == 1 else mean_of(found)
        return {stage: lab_from_xyz(xyz) for stage, xyz in means.items()}

    def stages_and_marks(
        self, zone: ZoneCoats, marks: Sequence[str]
    ) -> tuple[dict[str, FloatArray], dict[str, FloatArray]]:
        """The stages, and L*a*b* (..., 3) of some marks, by the ids of their coats, under all that is laid later; at the first place."""
        states = self._finished(zone)
        stack, found = states[0][0].seen, {}
        for name in marks:
            patches = [
                patch
                for patch in stack.patches
                if name in stack.marks and _holds(patch, stack.marks.index(name))
            ]
            if patches:
                patch = max(patches, key=lambda one: float(np.mean(one.share)))
                found[name] = lab_from_xyz(stack.xyz(zone.varnish, patch))
        return self._stages(zone, states), found

    def _finished(self, zone: ZoneCoats) -> list[tuple[Growing, float]]:
        """The zone with other coats once all are laid, at every place that stands for it."""
        pairs = enumerate(zip(self.zone.laid, zone.laid, strict=False))
        shared = min(len(self.zone.laid), len(zone.laid))
        same = next((number for number, (mine, other) in pairs if mine is not other), shared)
        places = self._places if zone.breaks == self.zone.breaks else zone.places
        if [place for place, _w in places] != [place for place, _w in self._places]:
            places, same = zone.places, 0
        if "_states" not in self.__dict__ and zone is self.zone:
            same = 0  # asked once, it need not be kept
        alike = _alike(zone)
        shared_state = self._states[0][same] if same else Growing.bare()
        for coat, coating in zone.laid[same:alike]:
            shared_state, _patch = shared_state.lay(coat, coating, sheltered_too=zone.sheltered_too)
        found = []
        for number, (place, weight) in enumerate(places):
            state = self._states[number][same] if alike < same else shared_state
            for coat, coating in zone.laid[max(same, alike) :]:
                state, _patch = state.lay(coat, coating.at(place), sheltered_too=zone.sheltered_too)
            found.append((state, weight))
        return found

    @cached_property
    def now(self) -> dict[str, FloatArray]:
        """L*a*b* (3,) at each stage as it is planned."""
        return self.stages(self.zone)

    def with_effects(self, effects: Sequence[Effect]) -> dict[str, FloatArray]:
        """L*a*b* (n, 3) at each stage under each of several effects; nan where one leaves nothing there."""
        answer = {stage: np.full((len(effects), 3), np.nan) for stage in STAGES}
        effects = [self._without_gaps(effect) for effect in effects]
        groups: dict[object, list[int]] = {}
        for number, effect in enumerate(effects):
            groups.setdefault(effect.shape if effect.side_by_side else number, []).append(number)
        for numbers in groups.values():
            together = side_by_side([effects[number] for number in numbers], self.zone)
            stages = self.stages(together.on(self.zone))
            for stage, labs in stages.items():
                answer[stage][numbers] = labs
        return answer

    def _without_gaps(self, effect: Effect) -> Effect:
        """The same, with coats left out that are the same as of no thickness or on no share, so that they can be laid beside others."""
        if len(effect.touches) != 1 or effect.added:
            return effect
        ((name, touch),) = effect.touches.items()
        coating = self._by_id[name][1]
        lowest = self.zone.laid[0][0].id == name  # which is opaque, however thin
        if not touch.out or lowest or isinstance(coating.body, Opaque) or coating.body is None:
            return effect
        if coating.covers == "spots" and np.all(coating.share <= _SMALL_SHARE):
            return Effect({name: Touch(share=0.0)})
        if coating.covers == "tint" or (coating.covers == "film" and self._one_surface):
            return Effect({name: Touch(X=0.0)})
        return effect

    @cached_property
    def _by_id(self) -> dict[str, Laid]:
        return {coat.id: (coat, coating) for coat, coating in self.zone.laid}

    @cached_property
    def _one_surface(self) -> bool:
        """Whether all coats are seen through one surface in the end: under a varnish over all, all of the same k1 and k2."""
        surfaces = {
            (float(c.body.surface.k1), float(c.body.surface.k2))
            for _coat, c in self.zone.laid
            if c.body is not None
        }
        return (
            len(surfaces) < 2
            and len(self.zone.laid) > 1
            and all(sheen for share, sheen in self.zone.sheens if share > 0)
        )


def _holds(patch: Patch, coat: int) -> bool:
    """Whether a coat, counted from the lowest, lies in a patch."""
    at: Patch | None = patch
    while at is not None and at.since > coat:
        at = at.below
    return at is not None and at.since == coat


def _alike(zone: ZoneCoats) -> int:
    """How many coats of a zone, from the lowest, lie alike at all places: until one runs out over it."""
    return next((number for number, (_c, coating) in enumerate(zone.laid) if coating.profile), len(zone.laid))


def side_by_side(effects: Sequence[Effect], zone: ZoneCoats) -> Effect:
    """Effects of one shape on a zone as one, each thickness, share and mixture with a row for each of them."""
    first = effects[0]
    if len(effects) == 1:
        return first
    now = {coat.id: coating for coat, coating in zone.laid}
    touches = {
        name: touch if touch.out or touch.coat else _rows([one.touches[name] for one in effects], now[name])
        for name, touch in first.touches.items()
    }
    added = []
    for number, (after, (coat, coating)) in enumerate(first.added):
        others = [one.added[number][1][1] for one in effects]
        body = _bodies([other.body for other in others])  # type: ignore[misc]
        X = _column([other.X for other in others])
        added.append((after, (coat, replace(coating, body=body, X=X))))  # type: ignore[arg-type]
    return Effect(touches, tuple(added))


def _rows(touches: Sequence[Touch], now: Coating) -> Touch:
    """Touches of one coat as one; what a touch leaves as it is has the value there is."""
    body = X = share = None
    if any(touch.body is not None for touch in touches):
        body = _bodies([touch.body or now.body for touch in touches])  # type: ignore[misc]
    if any(touch.X is not None for touch in touches):
        X = _column([now.X if touch.X is None else touch.X for touch in touches])
    if touches[0].share is not None:
        share = np.array([touch.share for touch in touches], dtype=float)
        share = touches[0].share if np.ptp(share) == 0 else share  # type: ignore[assignment]
    return Touch(body, X, share)  # type: ignore[arg-type]


def _column(values: Sequence[float]) -> FloatArray:
    return np.array(values, dtype=float)[:, None]


def _bodies(bodies: Sequence[Matter]) -> Mixture:
    g, k1, k2 = (
        np.array([getattr(body.surface, name) for body in bodies], dtype=float) for name in ("g", "k1", "k2")
    )
    return Mixture(
        np.stack([body.K for body in bodies]), np.stack([body.S for body in bodies]), Surface(g, k1, k2)
    )
