"""One line of the table of waits: which two steps it means, by their traits, and what it says of them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from lean_sepia.paint.handling.carriers import CarrierName
from lean_sepia.paint.media import MEDIA, Medium
from lean_sepia.plan.kinds import KINDS, nature_of
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.traits.kind import Kind
from lean_sepia.plan.traits.said import Pause


@dataclass(frozen=True)
class Wait:
    """Minutes from the end of one step: the other may start, is late, comes too late; `safe` is the longer of two usual times.

    harder : what is late is only more work
    """

    not_before: float
    words: str
    late: float | None = None
    closed: float | None = None
    safe: float | None = None
    harder: bool = False


@dataclass(frozen=True)
class Sketch:
    """All of a step that the table of waits asks for."""

    kind: str
    medium: str | None
    tool: str | None
    solvent: CarrierName
    mask: str | None
    loose: bool

    @classmethod
    def of(cls, step: PlanStep) -> Sketch:
        """The sketch of a step; what is not said of its medium is as its kind usually has it."""
        usual = step.nature.medium if step.nature.leaves_film and not step.nature.is_decal else None
        return cls(step.kind, step.medium or usual, step.tool, step.solvent, step.mask, step.loose)

    @property
    def nature(self) -> Kind:
        """What its kind is."""
        return nature_of(self.kind, printed=self.tool is None)

    @property
    def matter(self) -> Medium | None:
        """What its medium is, if it has one that is known."""
        return MEDIA[self.medium] if self.medium else None


Trait = Callable[[Kind], bool]


def _any(_kind: Kind) -> bool:
    return True


@dataclass(frozen=True)
class Laid:
    """Which steps a line of the table means, by their traits: all that is said must fit; nothing said fits everything."""

    kind: Trait = _any
    medium: Callable[[Medium], bool] | None = None
    tool: str = ""
    mask: str = ""
    loose: bool | None = None

    def fits(self, step: Sketch) -> bool:
        """Whether a step is meant."""
        matter = step.matter
        return (
            self.kind(step.nature)
            and (self.medium is None or (matter is not None and self.medium(matter)))
            and (not self.tool or step.tool == self.tool)
            and (not self.mask or step.mask == self.mask)
            and (self.loose is None or step.loose is self.loose)
        )


@dataclass(frozen=True)
class Pair:
    """One line of the table.

    between : what else must hold of the two
    own : what states a time of its own, in place of the minutes, and perhaps of the words
    closes : whether the medium of what lies below says when it can no longer be worked
    """

    below: Laid
    then: Laid
    wait: Wait
    between: Callable[[Sketch, Sketch], bool] | None = None
    own: Callable[[Sketch], Pause | None] | None = None
    closes: bool = False

    def fits(self, below: Sketch, then: Sketch) -> bool:
        """Whether it is about these two."""
        return (
            self.below.fits(below)
            and self.then.fits(then)
            and (self.between is None or self.between(below, then))
            and (self.own is None or self.own(below) is not None)
        )

    def wait_of(self, below: Sketch) -> Wait:
        """What it says of what lies below."""
        own = self.own(below) if self.own else None
        found = (
            replace(self.wait, not_before=own.minutes, words=own.words or self.wait.words)
            if own
            else self.wait
        )
        return replace(found, closed=below.matter.workable_min) if self.closes and below.matter else found

    def waits(self) -> tuple[Wait, ...]:
        """All that it may say, as the tables of kinds and media have it, in their order."""
        sketches = (
            Sketch(
                kind, medium, self.below.tool or None, "none", self.below.mask or None, bool(self.below.loose)
            )
            for kind in KINDS
            for medium in (None, *MEDIA)
        )
        meant = (
            one
            for one in sketches
            if self.below.fits(one) and (self.own is None or self.own(one) is not None)
        )
        return tuple(dict.fromkeys(self.wait_of(one) for one in meant))
