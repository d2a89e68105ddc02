"""What Glaze asks of oil dots: a palette for a zone, how to draw it out there, what to protect, and laying it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from lean_sepia.answers.glazing.grounds import GlazedZone, ground_of, staining, tint_paints
from lean_sepia.document.edits.coats import lay
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.document.edits.steps import add_step
from lean_sepia.document.model import Project
from lean_sepia.language import N_, _, ngettext
from lean_sepia.paint.paint import Paint
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.schools import SCHOOLS
from lean_sepia.recipe.tints.dots import FEWEST_OILS, DotPalette, choose_dots, of_counts

DOT_TOOL = "glaze"
"""A dot is drawn out thin."""

ROLE_WORDS: dict[str, str] = {
    "light": N_("above and on open surface"), "dark": N_("low and in recesses"), "related": N_("a related hue, anywhere"),
    "opposite": N_("the opposite hue, sparingly"), "second-light": N_("the lightest, on top"), "second-dark": N_("the darkest, lowest"),
    "": N_("as you like"),
}  # fmt: skip

LEVEL, UPRIGHT = "level", "upright"


@dataclass(frozen=True, eq=False)
class DotQuestion:
    """A zone, the oils there are, how many of them, and the dots on 10 cm² where the user chose them; the seed of their places.

    opposite, streaks, rest : the schools on hue, blending and waiting; level : whether the surface lies flat, such as a deck
    """

    zone: GlazedZone
    paints: tuple[Paint, ...]
    oils: int
    chosen: tuple[tuple[str, int], ...]
    opposite: bool
    streaks: bool
    rest: bool
    level: bool
    seed: int
    kind: str


@dataclass(frozen=True, eq=False)
class DotAnswer:
    """A palette, and what to heed with it."""

    question: DotQuestion
    palette: DotPalette
    remarks: tuple[str, ...]


def ask(
    project: Project,
    zone_id: str,
    shelf: Sequence[Paint],
    *,
    oils: int = 4,
    chosen: Sequence[tuple[str, int]] = (),
    level: bool = False,
    seed: int = 1,
    kind: str = "oil-dots",
) -> DotQuestion | None:
    """The question for a zone under the project's schools; None where nothing lies there or there are too few oils."""
    zone, paints = ground_of(project, zone_id, kind), tint_paints(shelf)
    if zone is None or len(paints) < FEWEST_OILS:
        return None

    def school(name: str) -> str:
        return project.schools.get(name, SCHOOLS[name].usual)

    known = {paint.id for paint in paints}
    return DotQuestion(
        zone, paints, oils, tuple(one for one in chosen if one[0] in known), school("filter-hue") == "opposite",
        school("dots") == "streaks", school("oil-rest") == "rest", level, seed, kind,
    )  # fmt: skip


def answer(question: DotQuestion) -> DotAnswer:
    """Choose a palette, or judge the user's own.

    Raises
    ------
    ShelfError
        More or fewer oils are asked for than a palette has.
    """
    zone, known = question.zone, {paint.id: paint for paint in question.paints}
    goal = zone.target.lab if zone.target else None
    if question.chosen:
        used = [known[name] for name, _count in question.chosen]
        counts = [count for _name, count in question.chosen]
        palette = of_counts(used, counts, zone.ground, goal, question.seed)
    else:
        palette = choose_dots(
            question.paints, zone.ground, zone.before, goal, oils=question.oils, opposite=question.opposite, seed=question.seed
        )  # fmt: skip
    return DotAnswer(question, palette, tuple(_remarks(question, palette, known)))


def _remarks(question: DotQuestion, palette: DotPalette, known: dict[str, Paint]) -> list[str]:
    said = []
    if question.zone.stains:
        said.append(
            _(
                "Flat paint holds oil: seal with satin first, or damp it with spirit, or the dots stain where they sit."
            )
        )
    stains = [known[oil.paint].name for oil in palette.oils if staining(known[oil.paint])]
    if stains:
        words = ngettext(
            "{0} is noted to stain: fewer dots of it, drawn out at once.",
            "{0} are noted to stain: fewer dots of them, drawn out at once.",
            len(stains),
        )
        said.append(words.format(", ".join(stains)))
    if question.zone.lettered:
        said.append(
            _(
                "Keep dots off the lettering, or draw them out from it: a tinted letter looks dirty, not faded."
            )
        )
    said.append(
        _("Stroke: a level surface is stippled in all directions.")
        if question.level
        else _("Stroke: downwards, as rain runs, from the top edge.")
    )
    said.append(
        _("Let the dots rest some 20 minutes before blending.")
        if question.rest
        else _("No rest is needed: blend at once, within 12 hours.")
    )
    said.append(
        _("Leave thin streaks of each oil.")
        if question.streaks
        else _("Draw out with an almost dry brush until no dot is left.")
    )
    return said


def lay_dots(project: Project, found: DotAnswer) -> Project:
    """Lay each oil of a palette as a coat of its own in one sitting, and blend them after."""
    zone, kind, previous = found.question.zone.zone, found.question.kind, None
    known = {paint.id: paint for paint in found.question.paints}
    for oil in found.palette.oils:
        mix = Mix.of(found.question.paints, [(oil.paint, 1)])
        manner = Manner(1, 0.0, DOT_TOOL, oil.area_share)
        name = _("{0}, {1}").format(_(KINDS[kind].title), known[oil.paint].name)
        project, previous = lay(project, [zone], kind, mix, manner, name, previous)
    after = [step.id for step in project.steps].index(project.coat(previous or "").step) + 1
    drawing_out = KINDS[kind].served_by[0]
    if drawing_out not in [step.kind for step in project.steps[after : after + 1]]:
        project, _step = add_step(project, drawing_out, [zone], place=after)
    return project
