"""One change of a hand to what is planned, and the planned finish that changes are tried on."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Self

import numpy as np

from lean_sepia.answers.nearer.course import Course, Effect
from lean_sepia.answers.predicting.run import Laid, ZoneCoats
from lean_sepia.answers.stages import aims
from lean_sepia.answers.targets import Target, targets_of
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import paint_of
from lean_sepia.paint.media import media_mix
from lean_sepia.paint.paint import Knowledge, Mixture, Paint, Palette
from lean_sepia.paint.saunderson import Surface
from lean_sepia.paint.stack import Opaque

Edit = Callable[[Project], Project]


@dataclass(frozen=True, eq=False)
class Change:
    """What a hand would do otherwise, what that does to each zone, and the edit that does it.

    said : makes the words for it
    family : what it is one of, such as all other lighteners of one fade: of a family only the best is offered
    bottles : names of bottles that it needs and nothing here uses yet; known : how well the least known paint of it is known
    mix : the mix that is otherwise and its shares of single paints; draws : of what is made from a cup, the cup, its share and all shares
    """

    said: Callable[[], str]
    family: tuple[object, ...]
    effects: Mapping[str, Effect]
    edit: Edit
    bottles: tuple[str, ...] = ()
    known: Knowledge = Knowledge.SPECTRAL
    mix: tuple[str, FloatArray] | None = None
    draws: tuple[str, float, FloatArray] | None = None

    @property
    def words(self) -> str:
        """What is done otherwise, in words: they are made for what is shown, not for all that is tried."""
        return self.said()


@dataclass(frozen=True, eq=False)
class Planned:
    """A document as changes are tried on it.

    shelf : the bottles there are; zones : those that are looked at; fixed : coats that are not to be changed, besides what is done
    courses : every zone; targets : of each stage of each of them that has one
    laid_with : the coats laid with a mix, once that was asked for
    """

    project: Project
    shelf: tuple[Paint, ...]
    zones: tuple[str, ...]
    fixed: frozenset[str]
    courses: Mapping[str, Course]
    targets: Mapping[str, Mapping[str, Target]]
    laid_with: dict[str, list[Laid]] = field(default_factory=dict)

    @classmethod
    def of(
        cls,
        project: Project,
        shelf: Sequence[Paint],
        zones: Collection[str] = (),
        fixed: Collection[str] = (),
    ) -> Self:
        """A document, looked at in some zones or in all."""
        chosen = tuple(zone.id for zone in project.zones if not zones or zone.id in zones)
        done = {step.id for step in project.steps if step.done}
        held = {coat.id for coat in project.coats if coat.step in done}
        courses, targets = {}, {}
        for zone in project.zones:
            course = Course(ZoneCoats.of(project, zone.id))
            courses[zone.id] = course
            targets[zone.id] = targets_beside(project, zone.id, course)
        return cls(project, tuple(shelf), chosen, frozenset(held | set(fixed)), courses, targets)

    @property
    def judged(self) -> list[str]:
        """The zones that have a target and a colour to compare with it."""
        return [zone.id for zone in self.project.zones if self.targets[zone.id]]

    def missed(self, zone: str, labs: Mapping[str, FloatArray]) -> FloatArray:
        """The mean ΔE00 (...) over the stages of a zone that have a target, of their L*a*b* (..., 3)."""
        away = [delta_e00(labs[stage], target.lab) for stage, target in self.targets[zone].items()]
        return np.asarray(np.mean(away, axis=0))

    def free(self, coat: Coat) -> bool:
        """Whether a coat may still be changed: it is on, not done, not held, and not there from before."""
        return coat.on and coat.id not in self.fixed and not coat.nature.is_found

    def laid(self, zone: str) -> tuple[Laid, ...]:
        """The coats of a zone that are on, bottom first."""
        return self.courses[zone].zone.laid

    @cached_property
    def free_laid(self) -> list[Laid]:
        """The coats of the zones that are looked at which may still be changed."""
        return [one for zone in self.zones for one in self.laid(zone) if self.free(one[0])]

    @cached_property
    def cups(self) -> Cups:
        """Everything that is mixed and may be."""
        return Cups.of(self.project, self.shelf)

    def with_cup(self, recipe: str) -> list[Laid]:
        """The coats, of all zones, that are laid with a mix or with one that is made from it."""
        if recipe not in self.laid_with:
            made = self.cups.made_from(recipe)
            every = (one for course in self.courses.values() for one in course.zone.laid)
            self.laid_with[recipe] = [one for one in every if one[0].recipe in made]
        return self.laid_with[recipe]

    def stirs(
        self, media: Collection[str], inside: Collection[str], tools: Collection[str]
    ) -> tuple[Paint, ...]:
        """The bottles that could be stirred into a mix of these media that is laid with these tools, besides those inside."""
        owns = self.project.owns
        return tuple(
            paint for paint in self.shelf
            if paint.proposed and paint.id not in inside and paint.id in self.cups.others
            and all(media_mix(paint.medium, medium) for medium in media) and all(owns.may_lay(paint, tool) for tool in tools)
        )  # fmt: skip

    def may_lie_as_film(self, coat: Coat) -> bool:
        """Whether what a coat is mixed of lies as a film, into which others can be stirred."""
        return bool(coat.recipe) and not any(
            isinstance(coating.body, Opaque) for other, coating in self.laid(coat.zone) if other.id == coat.id
        )

    def may_mix(self, recipe: str) -> bool:
        """Whether a mix may still be another: nothing laid with it is done or held, and all of it lies as films."""
        coats = self.with_cup(recipe)
        held = {coat.recipe for coat in self.project.coats if coat.id in self.fixed and coat.on}
        return (
            bool(coats)
            and not (self.cups.made_from(recipe) & held)
            and not any(isinstance(coating.body, Opaque) for _coat, coating in coats)
        )


def targets_beside(project: Project, zone: str, course: Course) -> dict[str, Target]:
    """The target of each stage of a zone that has one and a colour to compare with it."""
    coats = [coat for coat, _coating in course.zone.laid]
    known = aims(targets_of(project, zone), fades=any(coat.nature.fades for coat in coats))
    based = any(coat.nature.is_base or coat.nature.is_found for coat in coats)
    return {
        stage: target for stage, target in known.items() if stage in course.now and (based or stage == "seen")
    }


def together(planned: Planned, one: Change, other: Change) -> dict[str, Effect] | None:
    """What two changes do to each zone at once; None where one would undo the other."""
    for lower, upper in ((one, other), (other, one)):
        if lower.mix is not None and upper.draws is not None and upper.draws[0] == lower.mix[0]:
            return _merged(
                lower.effects, _of_new_cup(planned, lower.mix[1], upper.draws, upper.effects), over=True
            )
    return _merged(one.effects, other.effects, over=False)


def _merged(
    first: Mapping[str, Effect], second: Mapping[str, Effect], *, over: bool
) -> dict[str, Effect] | None:
    """Both effects; where the second lies over the first, what it is made of holds."""
    merged = dict(first)
    for zone, effect in second.items():
        mine = merged.get(zone)
        if mine is None:
            merged[zone] = effect
            continue
        if over:
            mine = mine.without_bodies(
                name for name, touch in effect.touches.items() if touch.body is not None
            )
        if mine.meets(effect):
            return None
        merged[zone] = mine.with_(effect)
    return merged


def _of_new_cup(
    planned: Planned, cup: FloatArray, draws: tuple[str, float, FloatArray], effects: Mapping[str, Effect]
) -> dict[str, Effect]:  # fmt: skip
    """What is made from a cup, once the cup has other shares (paints,)."""
    name, own, shares = draws
    body = planned.cups.matter(shares + own * (cup - planned.cups.share_of(name)))
    return {zone: effect.of_body(body) for zone, effect in effects.items()}


@dataclass(frozen=True, eq=False)
class Cups:
    """The mixes of a document as shares of single paints: those it has versions of by version, others of the shelf behind them."""

    project: Project
    palette: Palette | None
    index: Mapping[str, int]
    others: Mapping[str, int]
    shares: dict[str, FloatArray] = field(default_factory=dict)

    @classmethod
    def of(cls, project: Project, shelf: Sequence[Paint]) -> Self:
        """Those of a document, with a shelf."""
        versions = list(project.paints)
        films = [paint for paint in shelf if paint.lies_as_film]
        paints = [*(paint_of(version) for version in versions), *films]
        index = {version.id: number for number, version in enumerate(versions)}
        others = {paint.id: len(versions) + number for number, paint in enumerate(films)}
        return cls(project, Palette.of(paints) if paints else None, index, others)

    def share_of(self, recipe: str) -> FloatArray:
        """The shares (paints,) of all paints in a mix."""
        if recipe not in self.shares:
            made = self.project.recipe(recipe)
            self.shares[recipe] = self.of_parts(
                [(self.single(version), count) for version, count in made.parts]
                + [(self.share_of(cup), count) for cup, count in made.cups]
            )
        return self.shares[recipe]

    def media(self, shares: FloatArray) -> set[str]:
        """The media of what is in a mix of these shares (paints,)."""
        return (
            {self.palette.paints[number].medium for number in shares.nonzero()[0]} if self.palette else set()
        )

    def single(self, version: str) -> FloatArray:
        """The shares of one paint alone, by version."""
        return self._one(self.index[version])

    def bottle(self, paint: str) -> FloatArray:
        """The shares of one bottle of the shelf alone."""
        return self._one(self.others[paint])

    def _one(self, number: int) -> FloatArray:
        row = np.zeros(len(self.palette.paints) if self.palette else 0)
        row[number] = 1.0
        return row

    @staticmethod
    def of_parts(parts: Sequence[tuple[FloatArray, float]]) -> FloatArray:
        """The shares of a mix of other mixes, by parts."""
        whole = sum(count for _shares, count in parts)
        return np.asarray(sum(shares * (count / whole) for shares, count in parts))

    def made_from(self, recipe: str) -> set[str]:
        """The mix and all that are made from its cup, directly or by way of others."""
        found = {recipe}
        while True:
            more = {
                r.id
                for r in self.project.recipes
                if r.id not in found and any(cup in found for cup, _n in r.cups)
            }
            if not more:
                return found
            found |= more

    def followers(self, recipe: str) -> dict[str, tuple[float, FloatArray]]:
        """The mix and all that are made from its cup, each with the share of it that they hold and the shares (paints,) of the rest."""
        found = {recipe: (1.0, np.zeros(len(self.share_of(recipe))))}
        touched = self.made_from(recipe)

        def of(name: str) -> tuple[float, FloatArray]:
            if name not in found:
                made = self.project.recipe(name)
                whole = sum(count for _name, count in (*made.parts, *made.cups))
                own, rest = 0.0, np.zeros(len(self.share_of(recipe)))
                for version, count in made.parts:
                    rest = rest + self.single(version) * (count / whole)
                for cup, count in made.cups:
                    inside, other = of(cup) if cup in touched else (0.0, self.share_of(cup))
                    own, rest = own + inside * count / whole, rest + other * (count / whole)
                found[name] = own, rest
            return found[name]

        return {name: of(name) for name in touched}

    def matter(self, shares: FloatArray) -> Mixture:
        """What a mix of these shares is."""
        assert self.palette is not None
        return self.palette.mixture(shares)

    def each_matter(self, shares: FloatArray) -> list[Mixture]:
        """What each of several mixes (n, paints) is."""
        every = self.matter(shares)
        g, k1, k2 = (
            np.broadcast_to(value, len(shares)).tolist()
            for value in (every.surface.g, every.surface.k1, every.surface.k2)
        )
        return [
            Mixture(every.K[row], every.S[row], Surface(g[row], k1[row], k2[row]))
            for row in range(len(shares))
        ]

    @staticmethod
    def repeated(matter: Mixture, times: int) -> Mixture:
        """Several mixes, each so many times one behind the other."""
        g, k1, k2 = (
            np.repeat(value, times) if np.ndim(value) else value
            for value in (matter.surface.g, matter.surface.k1, matter.surface.k2)
        )
        return Mixture(
            np.repeat(matter.K, times, axis=0), np.repeat(matter.S, times, axis=0), Surface(g, k1, k2)
        )

    def known(self, shares: FloatArray) -> Knowledge:
        """How well the least known paint of a mix is known."""
        return self.each_known(shares[None, :])[0]

    def each_known(self, shares: FloatArray) -> list[Knowledge]:
        """The same of several mixes (n, paints)."""
        assert self.palette is not None
        best = max(Knowledge)
        knowledge = np.array([int(paint.knowledge) for paint in self.palette.paints])
        return [Knowledge(value) for value in np.where(shares > 0, knowledge, int(best)).min(axis=1).tolist()]
