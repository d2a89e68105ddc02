"""What a zone looks like at each stage: its coats laid one after another, at every place that stands for it.

The coatings may hold many variants at once, each with a thickness or a mixture of its own: then every colour has one row for each.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Self

from lean_sepia.answers.predicting.coatings import coating_of, main_sheen, on_panels, sheens_of
from lean_sepia.arrays import FloatArray
from lean_sepia.document.model import Coat, Project
from lean_sepia.paint.profile import Place, places
from lean_sepia.paint.stack import UNCOLOURED, Coating, Patch, Stack
from lean_sepia.plan.names import Finish

_FILMS = ("film", "tint")
Laid = tuple[Coat, Coating]


@dataclass(frozen=True, eq=False)
class ZoneCoats:
    """The coats of a zone that are on, bottom first, each as what is laid.

    sheens : the shares of the zone under its varnishes, and the sheen of each; None where no varnish lies
    sheltered_too : whether what lies over all of the zone lies where its sheltered sample was taken too
    breaks : where panels of one coat end and those of the next begin
    """

    laid: tuple[Laid, ...]
    sheens: tuple[tuple[float, Finish | None], ...]
    sheltered_too: bool = False
    breaks: tuple[float, ...] = ()

    @classmethod
    def of(cls, project: Project, zone_id: str) -> Self:
        """Those of a zone of a document."""
        coats = [coat for coat in project.coats_of(zone_id) if coat.on]
        given = [(coat, coating_of(project, coat)) for coat in coats]
        return cls.laying(given, sheltered_too=project.zone(zone_id).sheltered_too)

    @classmethod
    def laying(cls, given: Sequence[Laid], *, sheltered_too: bool) -> Self:
        """These coats, bottom first, with their panels given out."""
        laid, breaks = on_panels(given)
        return cls(tuple(laid), tuple(sheens_of([coat for coat, _c in given])), sheltered_too, tuple(breaks))

    @property
    def varnish(self) -> Finish | None:
        """The sheen of the last varnish on most of the zone; None where there is none."""
        return main_sheen(self.sheens)

    @property
    def places(self) -> list[tuple[Place, float]]:
        """The places that stand for the zone, with their weights."""
        return places((coating.profile for _coat, coating in self.laid), self.breaks)


def covers_the_area(coat: Coat, coating: Coating) -> bool:
    """Whether a coat lies over all of its zone as a film: a filter, a mist, dust made of paint; not marks, not loose powder."""
    return (
        coating.covers in _FILMS
        and coating.covers_all
        and coating.body is not None
        and not coat.nature.is_varnish
    )


def counts_at(stage: str, coat: Coat, coating: Coating, *, sheltered_too: bool) -> bool:
    """Whether a coat lies where a zone is looked at in a stage: `seen` everything, the others what the place of their sample has."""
    if stage == "seen" or coating.covers in UNCOLOURED:
        return True
    if coating.covers not in _FILMS:
        return False
    if stage == "exposed":
        return coat.nature.stage != "seen" or covers_the_area(coat, coating)
    later = sheltered_too and coat.nature.stage == "seen" and covers_the_area(coat, coating)
    return coat.nature.stage == "fresh" or later


@dataclass(frozen=True)
class Growing:
    """A zone while it is painted, at one place: all that lies there, what of it covers the area, and what the sheltered place has."""

    seen: Stack = field(default_factory=Stack)
    exposed: Stack = field(default_factory=Stack)
    fresh: Stack = field(default_factory=Stack)

    @classmethod
    def bare(cls) -> Self:
        """Before anything is laid."""
        nothing = Stack()
        return cls(nothing, nothing, nothing)

    def lay(self, coat: Coat, coating: Coating, *, sheltered_too: bool) -> tuple[Growing, Patch | None]:
        """With one more coat; and the patch on which that lies on what was the largest."""
        seen, patch = self.seen.lay_patch(coating)
        made = {id(self.seen): seen}  # stacks are the same until something tells them apart
        grown = {}
        for stage in ("exposed", "fresh"):
            stack: Stack = getattr(self, stage)
            if not counts_at(stage, coat, coating, sheltered_too=sheltered_too):
                grown[stage] = Stack(stack.patches, stack.sheen, (*stack.marks, coating.mark))
            else:
                if id(stack) not in made:
                    made[id(stack)] = stack.lay(coating)
                grown[stage] = made[id(stack)]
        return Growing(seen, **grown), patch

    def stages(self, zone: ZoneCoats) -> dict[str, FloatArray]:
        """XYZ (..., 3) at each stage that there is."""
        found = {}
        for stage in ("fresh", "exposed"):
            stack: Stack = getattr(self, stage)
            if stack.main is not None:
                found[stage] = stack.xyz(zone.varnish, stack.main)
        parts = [
            (share, xyz) for share, sheen in zone.sheens if share and (xyz := self.seen.seen_xyz(sheen)) is not None
        ]  # fmt: skip
        if parts:
            found["seen"] = sum(share * xyz for share, xyz in parts)  # type: ignore[assignment]
        return found


@dataclass
class Run:
    """XYZ (3,) at the stages of one stack, and of each coat and what lies under it, by the coat's id."""

    stages: dict[str, FloatArray] = field(default_factory=dict)
    coats: dict[str, FloatArray] = field(default_factory=dict)
    grounds: dict[str, FloatArray] = field(default_factory=dict)

    @classmethod
    def at(cls, zone: ZoneCoats, place: Place) -> Run:
        """The coats laid one after another at one place of the zone."""
        state, run, ground = Growing.bare(), cls(), None
        for coat, whole in zone.laid:
            if ground is not None:
                run.grounds[coat.id] = ground
            state, patch = state.lay(coat, whole.at(place), sheltered_too=zone.sheltered_too)
            if patch is not None:
                run.coats[coat.id] = state.seen.xyz(zone.varnish, patch)
            ground = state.seen.xyz(zone.varnish, state.seen.main) if state.seen.main else None
        run.stages = state.stages(zone)
        return run

    @classmethod
    def over(cls, zone: ZoneCoats) -> Run:
        """The mean over the places of a zone."""
        runs = [(cls.at(zone, place), weight) for place, weight in zone.places]
        if len(runs) == 1:
            return runs[0][0]
        return cls(
            *(
                mean_of([(getattr(run, name), w) for run, w in runs])
                for name in ("stages", "coats", "grounds")
            )
        )


def mean_of(found: Sequence[tuple[Mapping[str, FloatArray], float]]) -> dict[str, FloatArray]:
    """The means of what is found at several places, each with its weight; what is not there at one counts at the others."""
    means = {}
    for name in dict.fromkeys(name for values, _weight in found for name in values):
        known = [(values[name], weight) for values, weight in found if name in values]
        means[name] = _weighted(known)
    return means


def _weighted(known: Iterable[tuple[FloatArray, float]]) -> FloatArray:
    pairs = list(known)
    whole = sum(weight for _value, weight in pairs)
    return sum(value * weight for value, weight in pairs) / whole  # type: ignore[return-value]
