"""What Match asks: which recipes of this shelf give a zone its colour, and how each of them behaves."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, fields, replace
from itertools import compress
from operator import not_

from lean_sepia.answers.amounts import set_aside, thinned, usual_volume
from lean_sepia.answers.coats.from_shelf import varnish_of
from lean_sepia.answers.predicting.coatings import coats_below, final_varnish
from lean_sepia.answers.predicting.under import Spot, under_words
from lean_sepia.answers.stages import aimed_at
from lean_sepia.answers.targets import Target, Targets
from lean_sepia.document.edits.coats import lay_varnish, pin_base
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import medium_of, paint_of
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.handling.bodies import USES
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.stack import Coating
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.presets import preset
from lean_sepia.plan.traits.said import Preset
from lean_sepia.recipe.batch import BatchVolume
from lean_sepia.recipe.behaviour import Behaviour, behaviour_of
from lean_sepia.recipe.choice import Choice, base_paints, offer
from lean_sepia.recipe.limits import Limits
from lean_sepia.recipe.mix import MixSolver
from lean_sepia.recipe.mixture_table import Progress, no_progress
from lean_sepia.recipe.parts import DROPS_PER_ML
from lean_sepia.recipe.reasons import Substitute, media_cautions, substitutes

BASE_COATS, BASE_THINNER = 2, 0.6
"""How a base is laid unless the user says otherwise: two airbrushed coats, 60 % thinner (practice)."""

AS_PLANNED, OWN_SHEEN = "as planned", "own"
"""The final sheen besides flat, satin and gloss: that of the zone's last varnish, or the paint's own."""

_BY_ARRAY = (
    "paints",
    "laying",
    "lost",
    "beyond",
    "primers",
)  # fields that hold arrays, which `==` does not tell apart
_KIND = "base"  # what this room matches
_OFFERED_AMONG = 120


def base_coat(project: Project, zone_id: str) -> Coat | None:
    """A zone's base coat."""
    return next(iter(project.bases_of(zone_id)), None)


def planned_varnish(project: Project, zone_id: str) -> Coat | None:
    """The last varnish of a zone that is switched on."""
    coats = reversed(project.coats_of(zone_id))
    return next((coat for coat in coats if coat.on and coat.nature.is_varnish), None)


def _tool(project: Project, zone_id: str) -> str:
    coat = base_coat(project, zone_id)
    return coat.tool if coat else project.owns.usual_tool(_KIND)


def usual_manner(project: Project, zone_id: str) -> Preset:
    """How a zone's base is laid where nothing is said: with the tool there is."""
    return preset(_KIND, _tool(project, zone_id))


def pin(
    project: Project,
    zone_id: str,
    mix: Mix,
    manner: Manner,
    sheen: str = AS_PLANNED,
    shelf: Sequence[Paint] = (),
) -> Project:
    """Make a recipe the zone's base; a final sheen it was asked for, where none is planned yet, is planned with it, from the shelf."""
    project = pin_base(project, zone_id, mix, manner)
    kind = next((name for name, kind in KINDS.items() if kind.finish == sheen and kind.is_varnish), None)
    if kind is None or planned_varnish(project, zone_id) is not None:
        return project
    tool = project.owns.usual_tool(kind)
    return lay_varnish(project, [zone_id], kind, varnish_of(kind, shelf, tool))


def base_laying(
    project: Project,
    zone_id: str,
    passes: int = BASE_COATS,
    thinner_share: float = BASE_THINNER,
    sheen: str = AS_PLANNED,
    stage: str = "fresh",
    *,
    alone: bool = False,
) -> Laying:
    """How a zone's base is laid: over its primer, and judged at a stage, under what is planned above it and its final varnish.

    sheen : another than that of the final varnish, where one is asked for; alone : as if nothing else were planned above it
    """
    film = Coating("film", X=film_thickness(passes, thinner_share, _tool(project, zone_id)))
    varnish = {OWN_SHEEN: None, AS_PLANNED: final_varnish(project.coats_of(zone_id))}.get(sheen, sheen)
    return Spot.of(project, zone_id, _KIND).laying(film, stage, varnish, alone=alone)


def base_aim(project: Project, zone_id: str, targets: Targets) -> tuple[str, Target] | None:
    """The stage at which a zone's base is judged, and its target; None where nothing says what it should look like."""
    return aimed_at(project, zone_id, targets, KINDS[_KIND].stage)


def over_the_base(project: Project, zone_id: str, stage: str) -> str:
    """What a zone's base is solved under besides its varnish, in words; empty where nothing is planned above it that counts."""
    return under_words(Spot.of(project, zone_id, _KIND).later(stage))


def usable_paints(
    project: Project, zone_id: str, shelf: Sequence[Paint]
) -> tuple[tuple[Paint, ...], tuple[Paint, ...]]:
    """The paints a base may be made of with what the person has to work with, and those that this rules out."""
    owns, tool = project.owns, _tool(project, zone_id)
    if owns.cans_only:
        cans = [replace(paint, can=False) for paint in shelf if paint.can and paint.lies_as_film]
        return tuple(cans), tuple(base_paints(shelf))
    wet = base_paints(shelf)
    may = [owns.may_lay(paint, tool) for paint in wet]
    return tuple(compress(wet, may)), tuple(compress(wet, map(not_, may)))


def medium_below(project: Project, zone_id: str) -> str | None:
    """The medium of what lies directly below a zone's base, where the document says."""
    below = coats_below(project, zone_id, _KIND)
    return medium_of(project, below[-1]) if below else None


def usual_mix(project: Project, zone_id: str, passes: int, thinner_share: float) -> BatchVolume:
    """How much thinned mix a zone's base needs, laid so; one cup where its area is not known."""
    return usual_volume(project.zone(zone_id).area_cm2, passes, thinner_share, _tool(project, zone_id))


@dataclass(frozen=True, eq=False)
class MatchQuestion:
    """A zone's target, the paints, how the base is laid and what a recipe may be made of.

    pinned : whole parts by shelf id of the zone's base; lost : paints of it that are no longer on the shelf
    volume : the thinned mix for the base itself; set_aside_ml : paint of it for coats mixed from its cup
    beyond : paints of the shelf that what the person has to work with rules out
    thinner : the carrier its step states, if any; below : medium of the coat below; coats : that are laid
    primers : of the shelf; stage : at which it is judged; under : what is planned above it besides a varnish, in words, and `alone` whether that is ignored
    """

    zone: str
    target: Target
    paints: tuple[Paint, ...]
    laying: Laying
    thinner_share: float
    max_paints: int
    max_parts: int
    limits: Limits
    volume: BatchVolume
    set_aside_ml: float
    pinned: tuple[tuple[str, int], ...] = ()
    lost: tuple[Paint, ...] = ()
    beyond: tuple[Paint, ...] = ()
    tool: str = "airbrush"
    thinner: str = ""
    below: str | None = None
    coats: int = BASE_COATS
    primers: tuple[Paint, ...] = ()
    stage: str = "fresh"
    under: str = ""
    alone: bool = False

    def same_mixtures_as(self, other: MatchQuestion) -> bool:
        """Whether the mixtures to look at, and their colours, are the same."""
        return self.mixtures_key == other.mixtures_key

    def same_as(self, other: MatchQuestion | None) -> bool:
        """Whether the answer will be the same."""
        return other is not None and self.key == other.key

    @property
    def mixtures_key(self) -> tuple[object, ...]:
        """What tells apart questions that need other mixtures."""
        bottles = tuple(id(paint) for paint in self.paints)
        return (self.laying.key, self.max_paints, self.max_parts, bottles, self.limits)

    @property
    def key(self) -> tuple[object, ...]:
        """Every field: arrays and paints as `mixtures_key` tells them apart, and a lost paint by its id."""
        alike = [getattr(self, field.name) for field in fields(self) if field.name not in _BY_ARRAY]
        return (self.mixtures_key, [paint.id for paint in self.lost], *alike)

    @property
    def cup_ml(self) -> float:
        """Paint that goes into the cup, before it is thinned."""
        return self.volume.paint_ml + self.set_aside_ml

    def behaviour(self, solver: MixSolver, choice: Choice) -> Behaviour:
        """How one choice behaves."""
        media = [paint for paint in self.paints if paint.clear]
        one_coat = film_thickness(1, self.thinner_share, self.tool)
        return behaviour_of(solver, choice.recipe, self.target.lab, one_coat, media)

    def cautions(self, choice: Choice) -> list[str]:
        """What the media of a choice need, given how it is applied and what lies below."""
        medium_of = {paint.id: paint.medium for paint in self.paints}
        used = [medium_of[name] for name, _ in choice.recipe.parts]
        return media_cautions(used, tool=self.tool, thinner=self.thinner, below=self.below)


@dataclass(frozen=True, eq=False)
class MatchAnswer:
    """Recipes to choose from and how each behaves, with what is needed to try other drops."""

    question: MatchQuestion
    choices: tuple[Choice, ...]
    behaviours: tuple[Behaviour, ...]
    solver: MixSolver

    def with_drop(self, index: int, paint: str, step: int, title: str) -> MatchAnswer | None:
        """The answer with drops of a paint more or fewer in one choice; None where nothing would be left.

        Raises
        ------
        ShelfError
            The paint is not one that can be mixed here.
        """
        parts = dict(self.choices[index].recipe.parts)
        parts[paint] = parts.get(paint, 0) + step
        left = [(name, count) for name, count in parts.items() if count > 0]
        return self.with_parts(index, left, title) if left else None

    def with_parts(self, index: int, parts: Sequence[tuple[str, int]], title: str) -> MatchAnswer:
        """The answer with one choice mixed in other parts, by relative volume and shelf id.

        Raises
        ------
        ShelfError
            A paint is not one that can be mixed here.
        """
        target = self.question.target
        recipe = self.solver.recipe(parts, target.lab, target.half90)
        # Parts stay as they were counted: 4 : 2 is not drawn as 2 : 1 while drops go in one by one.
        recipe = replace(recipe, parts=tuple(sorted(parts, key=lambda part: -part[1])))
        choices, behaviours = list(self.choices), list(self.behaviours)
        choices[index] = Choice(title, recipe)
        behaviours[index] = self.question.behaviour(self.solver, choices[index])
        return replace(self, choices=tuple(choices), behaviours=tuple(behaviours))

    def stand_ins(self, parts: Sequence[tuple[str, int]], missing: Collection[str]) -> list[Substitute]:
        """Recipes for the colour of these parts without some of their bottles, which may have left the shelf."""
        question = self.question
        paints = (*question.paints, *question.lost)
        return substitutes(paints, parts, missing, question.laying, max_parts=question.max_parts)


def ask(
    project: Project,
    zone: str,
    target: Target,
    shelf: Sequence[Paint],
    *,
    passes: int,
    thinner_share: float,
    sheen: str,
    max_paints: int,
    max_parts: int,
    limits: Limits,
    mix_ml: float,
    stage: str = "fresh",
    alone: bool = False,
) -> MatchQuestion:
    """The question for a zone's base as the document stands; `mix_ml` of it is to be mixed, thinned.

    Stock among the limits is kept to in that volume. It is judged at a stage under what is planned above it; alone, as if nothing were.
    """
    coat = base_coat(project, zone)
    parts = project.recipe(coat.recipe).parts if coat and coat.recipe else ()
    versions = [(project.paint(version), count) for version, count in parts]
    paints, beyond = usable_paints(project, zone, shelf)
    present = {paint.id for paint in paints}
    volume = thinned(mix_ml, thinner_share)
    aside = sum(ml for _name, ml in set_aside(project, {coat.recipe})) if coat and coat.recipe else 0.0
    if limits.stock_ml:
        limits = replace(limits, volume_ml=volume.paint_ml + aside)
    return MatchQuestion(
        zone, target, paints, base_laying(project, zone, passes, thinner_share, sheen, stage, alone=alone), thinner_share,
        1 if project.owns.cans_only else max_paints, max_parts, limits, volume, aside,
        pinned=tuple((version.shelf_id, count) for version, count in versions),
        lost=tuple(paint_of(version) for version, _ in versions if version.shelf_id not in present),
        beyond=beyond,
        tool=_tool(project, zone),
        thinner=(project.step(coat.step).carrier or "") if coat else "",
        below=medium_below(project, zone),
        coats=passes,
        primers=tuple(paint for paint in shelf if USES[paint.use].primes and not (paint.retired or paint.empty)),
        stage=stage,
        under=over_the_base(project, zone, stage),
        alone=alone,
    )  # fmt: skip


def answer(
    question: MatchQuestion, before: MatchAnswer | None = None, progress: Progress = no_progress
) -> MatchAnswer:  # fmt: skip
    """Solve; the mixtures of an earlier answer are used again where they are the same.

    Raises
    ------
    ShelfError
        No paint is left to mix, or the limits contradict each other.
    """
    drops = round(question.cup_ml * DROPS_PER_ML)
    if before is not None and question.same_mixtures_as(before.question):
        solver = before.solver.for_cup(drops)
    else:
        solver = MixSolver(
            question.paints, question.laying, max_paints=question.max_paints, max_parts=question.max_parts,
            limits=question.limits, cup_drops=drops,
        )  # fmt: skip
    target = question.target
    ranked = solver.solve(target.lab, _OFFERED_AMONG, progress, target.half90)
    pinned = None if question.lost else question.pinned
    choices = tuple(offer(solver, ranked, target.lab, pinned, half90=target.half90))
    behaviours = tuple(question.behaviour(solver, choice) for choice in choices)
    return MatchAnswer(question, choices, behaviours, solver)
