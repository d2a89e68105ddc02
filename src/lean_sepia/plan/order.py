"""Steps in their order: what lies open below each, what is masked meanwhile, and what each has to wait for."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from lean_sepia.plan.step import PlanStep

Key = str
"""A zone, named once among all models."""


@dataclass(frozen=True)
class Ground:
    """What a step finds in one zone: indices of earlier steps, the latest last.

    open : all that was done there since it was last shut off by a full coat, that coat included
    masks : what covers the zone; before : everything done there
    sheen : the topmost paint or varnish, which decides how wet things run
    """

    zone: Key
    open: tuple[int, ...]
    masks: tuple[int, ...]
    before: tuple[int, ...]
    sheen: int | None


@dataclass
class _Zone:
    """A zone while the steps are walked through."""

    open: list[int] = field(default_factory=list)
    masks: list[int] = field(default_factory=list)
    before: list[int] = field(default_factory=list)
    sheen: int | None = None

    def met(self, zone: Key) -> Ground:
        return Ground(zone, tuple(self.open), tuple(self.masks), tuple(self.before), self.sheen)

    def take(self, index: int, step: PlanStep, steps: Sequence[PlanStep]) -> None:
        """What a step leaves behind."""
        self.before.append(index)
        if step.nature.masks:
            self.masks.append(index)
        elif step.nature.unmasks:
            self.masks = [i for i in self.masks if not step.serves(steps[i])]
        if step.seals:
            self.open = [index]
        elif not step.nature.apart:
            self.open.append(index)
        if step.nature.is_varnish or (step.is_full_coat and step.material is not None):
            self.sheen = index


@dataclass(frozen=True)
class Bracket:
    """A mask and the step that takes the last of it off; None where nobody does."""

    mask: int
    off: int | None


class Order(tuple[PlanStep, ...]):
    """The steps in their order, with what each finds where it is done."""

    @cached_property
    def place(self) -> dict[str, int]:
        """Where each step stands, by its id."""
        return {step.id: index for index, step in enumerate(self)}

    @cached_property
    def _zones_of_model(self) -> dict[str, tuple[Key, ...]]:
        named: dict[str, dict[Key, None]] = {"": {}}
        for step in self:
            zones = named.setdefault(step.model, {})
            if step.zones != "all":
                zones.update(dict.fromkeys(step.zones))
        for model, zones in named.items():
            if model and not zones:
                zones[f"all of {model}"] = None
        everything = {zone: None for zones in named.values() for zone in zones} or {"all": None}
        return {model: tuple(zones) for model, zones in named.items() if model} | {"": tuple(everything)}

    def zones(self, step: PlanStep) -> tuple[Key, ...]:
        """The zones a step touches; "all" are those its model has, of a step of no model those of every one."""
        return self._zones_of_model[step.model] if step.zones == "all" else tuple(dict.fromkeys(step.zones))

    @cached_property
    def _walk(self) -> tuple[list[tuple[Ground, ...]], list[Bracket]]:
        zones: dict[Key, _Zone] = {}
        grounds = []
        for index, step in enumerate(self):
            mine = [(key, zones.setdefault(key, _Zone())) for key in self.zones(step)]
            grounds.append(tuple(zone.met(key) for key, zone in mine))
            for _key, zone in mine:
                zone.take(index, step, self)
        left_on = {i for zone in zones.values() for i in zone.masks}
        last_off: dict[int, int] = {}
        for index, step in enumerate(self):
            if step.nature.unmasks:
                for ground in grounds[index]:
                    last_off |= {i: index for i in ground.masks if step.serves(self[i])}
        brackets = [
            Bracket(i, None if i in left_on else last_off.get(i))
            for i, step in enumerate(self)
            if step.nature.masks
        ]
        return grounds, brackets

    def grounds(self, index: int) -> tuple[Ground, ...]:
        """What a step finds, zone by zone."""
        return self._walk[0][index]

    @property
    def brackets(self) -> list[Bracket]:
        """Every mask with the step that takes it off, in order."""
        return self._walk[1]

    def open_below(self, index: int) -> Iterator[PlanStep]:
        """Earlier steps that lie open where a step is done, each once, the latest first."""
        return (self[i] for i in self._once(ground.open for ground in self.grounds(index)))

    def waited_for(self, index: int) -> Iterator[PlanStep]:
        """What a step has to wait for below it, the latest first: what lies open, and whatever states a time of its own.

        What works on others waits for those alone; what is done at one go with it asks for no wait.
        """
        step = self[index]
        if theirs := [self.place[name] for name in step.works_on if self.place.get(name, index) < index]:
            return (self[i] for i in sorted(theirs, reverse=True) if not self.at_one_go(self[i], step))
        places = (
            ground.open + tuple(i for i in ground.before if self[i].states_time)
            for ground in self.grounds(index)
        )
        return (self[i] for i in self._once(places) if not self.at_one_go(self[i], step))

    @staticmethod
    def at_one_go(one: PlanStep, other: PlanStep) -> bool:
        """Whether two steps are done at one go."""
        return bool(one.sitting) and one.sitting == other.sitting

    def earlier(self, index: int) -> Iterator[PlanStep]:
        """Earlier steps on a zone of a step, each once, the latest first."""
        return (self[i] for i in self._once(ground.before for ground in self.grounds(index)))

    @staticmethod
    def _once(places: Iterable[tuple[int, ...]]) -> list[int]:
        return sorted({i for some in places for i in some}, reverse=True)

    def later(self, index: int) -> Iterator[PlanStep]:
        """Later steps on a zone of a step, in order."""
        mine = set(self.zones(self[index]))
        return (step for step in self[index + 1 :] if not mine.isdisjoint(self.zones(step)))

    def masks_on(self, index: int) -> list[int]:
        """The masks of all zones that are on while a step is done."""
        return [
            one.mask for one in self.brackets if one.mask < index and (one.off is None or index < one.off)
        ]

    def sprays_under(self, bracket: Bracket) -> list[int]:
        """The sprayed steps of a mask's model between it and the step that takes it off; not those on parts that are off the model."""
        end = len(self) if bracket.off is None else bracket.off
        model = self[bracket.mask].model
        between = range(bracket.mask + 1, end)
        return [
            i for i in between if self[i].sprayed and not self[i].apart and one_model(self[i].model, model)
        ]


def one_model(one: str, other: str) -> bool:
    """Whether two steps are on one model; a step that names none may be on any."""
    return one == other or not one or not other
