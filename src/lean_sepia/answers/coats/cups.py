"""The mixes of a project as cups: what is in each, who uses it, how much it takes and what is left."""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.answers.amounts import CUP_ML, Line, cup_lines, needed, set_aside
from lean_sepia.arrays import triple
from lean_sepia.document.bounds import Lab
from lean_sepia.document.called import coat_name
from lean_sepia.document.entities.mixed import Recipe
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import recipe_paint
from lean_sepia.language import _
from lean_sepia.recipe.batch import RESERVE


@dataclass(frozen=True)
class Cup:
    """One mix: its colour, its lines for all that uses it, and how much of it, unthinned, that takes.

    coats : laid with it; others : mixes made from it; thinned : the thinner shares it is laid with
    reserve_ml : what of it is for touch-ups; left_ml : what is left, where the user said or nothing was laid yet
    cup_ml, cups : the size of the cup, and how many of them the whole batch fills
    """

    recipe: Recipe
    lab: Lab
    lines: tuple[Line, ...]
    coats: tuple[Coat, ...]
    others: tuple[str, ...]
    thinned: tuple[float, ...]
    paint_ml: float
    reserve_ml: float
    left_ml: float | None
    cup_ml: float
    cups: int


def cups_in(project: Project) -> list[Cup]:
    """Every mix of a project, in the order in which they were made."""
    return [_cup(project, recipe) for recipe in project.recipes]


def _cup(project: Project, recipe: Recipe) -> Cup:
    coats = tuple(coat for coat in project.coats if coat.recipe == recipe.id)
    own = sum(needed(project, coat).paint_ml for coat in coats if coat.on)
    aside = sum(ml for _name, ml in set_aside(project, {recipe.id}))
    size = recipe.cup_ml or CUP_ML
    paint_ml = own + aside or size
    thinned = tuple(sorted({coat.thinner_share for coat in coats}))
    whole = sum(needed(project, coat).total_ml for coat in coats if coat.on) + aside or size
    done = {step.id for step in project.steps if step.done}
    volumes = {coat.id: needed(project, coat) for coat in coats if coat.on}
    spare = {
        name: v.reserve_ml * v.paint_ml / v.total_ml if v.total_ml else 0.0 for name, v in volumes.items()
    }
    laid = sum(volumes[c.id].paint_ml - spare[c.id] for c in coats if c.on and c.step in done)
    left = recipe.left_ml if recipe.left_ml is not None else max(0.0, paint_ml - laid) if laid else None
    others = tuple(other.name for other in project.recipes if recipe.id in dict(other.cups))
    return Cup(
        recipe, triple(recipe_paint(project, recipe).masstone_lab()), cup_lines(project, recipe, paint_ml), coats, others, thinned,
        paint_ml, sum(spare.values()) if volumes else paint_ml * RESERVE / (1 + RESERVE), left, size, max(1, -int(-whole // size)),
    )  # fmt: skip


def used_by(project: Project, cup: Cup) -> str:
    """Which coats, zones and models a cup serves, in words."""
    several = len(project.subjects) > 1
    said = []
    for coat in cup.coats:
        zone = project.zone(coat.zone)
        where = f"{zone.name}, {project.subject_of(zone).name}" if several else zone.name
        said.append(_("{0} on {1}").format(coat_name(coat), where))
    said += [_("the mix “{0}”").format(name) for name in cup.others]
    return "; ".join(said) or _("nothing yet")
