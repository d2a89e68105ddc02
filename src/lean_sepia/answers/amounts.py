"""How much of each mix to make: one meaning for Match, Bench and the card."""

from __future__ import annotations

import math
from collections.abc import Collection, Sequence
from dataclasses import dataclass

from lean_sepia.arrays import triple
from lean_sepia.document.bounds import Lab
from lean_sepia.document.called import coat_name
from lean_sepia.document.model import Coat, Project, Recipe
from lean_sepia.document.versions import from_cup, medium_of, paint_of, recipe_paint
from lean_sepia.language import _, ngettext
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import Paint
from lean_sepia.recipe.batch import BatchVolume, batch_volume
from lean_sepia.recipe.parts import DROPS_PER_ML, Measured, measure_out

CUP_ML = 7.0
"""Size of the usual mixing cup; a larger batch is split into equal cups (practice)."""


@dataclass(frozen=True)
class Line:
    """One thing that goes into the cup: its parts, how it is measured out, what it is called, and its colour.

    version : of the paint; None for what is taken from another cup
    """

    count: int
    amount: Measured
    name: str
    version: str | None
    lab: Lab


@dataclass(frozen=True)
class Cup:
    """One mix of a step, for all coats that are laid with it.

    paint_ml : before it is thinned, with what is set aside; thinner_ml : that goes to the rest of it
    set_aside : for coats mixed from this cup, taken out before it is thinned: their names and millilitres
    cups : equal cups it is split into; by_area : whether every zone's area is known
    """

    coats: tuple[Coat, ...]
    name: str
    lines: tuple[Line, ...]
    paint_ml: float
    thinner_ml: float
    set_aside: tuple[tuple[str, float], ...]
    cups: int
    by_area: bool

    @property
    def total_ml(self) -> float:
        """The whole batch."""
        return self.paint_ml + self.thinner_ml


def thinned(total_ml: float, thinner_share: float) -> BatchVolume:
    """A volume of thinned mix as paint and thinner."""
    return BatchVolume(total_ml, total_ml * (1 - thinner_share), total_ml * thinner_share)


def usual_volume(area_cm2: float | None, passes: int, thinner_share: float, tool: str) -> BatchVolume:
    """The thinned mix that an area needs; one cup where the area is not known."""
    if not area_cm2:
        return thinned(CUP_ML, thinner_share)
    return batch_volume(area_cm2, passes, thinner_share=thinner_share, tool=tool)


def needed(project: Project, coat: Coat) -> BatchVolume:
    """The thinned mix a coat needs: what the user said, else by the share of the area it covers."""
    if coat.mix_ml is not None:
        return thinned(coat.mix_ml, coat.thinner_share)
    area = project.zone(coat.zone).area_cm2
    return usual_volume(area and area * coat.area_share, coat.passes, coat.thinner_share, coat.tool)


def cups_of(project: Project, coats: Sequence[Coat]) -> list[Cup]:
    """The mixes of coats that are laid in one step; coats of the same mix share a cup."""
    same: dict[object, list[Coat]] = {}
    for coat in coats:
        if coat.recipe and coat.on and not coat.nature.loose(medium_of(project, coat)):
            recipe = project.recipe(coat.recipe)
            same.setdefault((recipe.parts, recipe.cups, coat.thinner_share), []).append(coat)
    return [_cup(project, together) for together in same.values()]


def _cup(project: Project, coats: Sequence[Coat]) -> Cup:
    recipe = project.recipe(coats[0].recipe or "")
    own = sum(needed(project, coat).paint_ml for coat in coats)
    aside = set_aside(project, {coat.recipe for coat in coats})
    wanted = own + sum(ml for _name, ml in aside)
    lines = cup_lines(project, recipe, wanted)
    paint_ml = sum(line.amount.ml for line in lines)
    # Whole drops may make a little more or less of it: the thinner follows, so that the thinning stays right.
    share = coats[0].thinner_share
    thinner_ml = own * (paint_ml / wanted) * share / (1 - share)
    by_area = all(project.zone(coat.zone).area_cm2 is not None for coat in coats)
    return Cup(
        tuple(coats), coat_name(coats[0]), lines, paint_ml, thinner_ml, aside,
        max(1, math.ceil(round((paint_ml + thinner_ml) / (recipe.cup_ml or CUP_ML), 6))), by_area,
    )  # fmt: skip


def drop_rate(paint: Paint) -> float | None:
    """Drops in a millilitre of a paint; None for one from a tube, which does not drip."""
    return paint.drops_per_ml or (None if MEDIA[paint.medium].tube else DROPS_PER_ML)


def set_aside(project: Project, recipes: Collection[str | None]) -> tuple[tuple[str, float], ...]:
    """What coats mixed from these recipes' cups take out of them."""
    taken = []
    for coat in project.coats:
        if not coat.recipe or not coat.on:
            continue
        recipe = project.recipe(coat.recipe)
        wanted = sum(count for cup, count in recipe.cups if cup in recipes)
        if wanted:
            parts = sum(count for _name, count in (*recipe.cups, *recipe.parts))
            name = f"{coat_name(coat)}, {project.zone(coat.zone).short}"
            taken.append((name, needed(project, coat).paint_ml * wanted / parts))
    return tuple(taken)


def cup_lines(project: Project, recipe: Recipe, paint_ml: float) -> tuple[Line, ...]:
    """What goes into a cup of a recipe, measured out for so much of it."""
    entries: list[tuple[int, str, str | None, Lab, float | None]] = []
    for cup_id, count in recipe.cups:
        cup = project.recipe(cup_id)
        colour = triple(recipe_paint(project, cup).masstone_lab())
        entries.append((count, from_cup(cup), None, colour, DROPS_PER_ML))
    for version_id, count in recipe.parts:
        version = project.paint(version_id)
        paint = paint_of(version)
        entries.append((count, version.name, version_id, triple(paint.masstone_lab()), drop_rate(paint)))
    amounts = measure_out([entry[0] for entry in entries], paint_ml, [entry[4] for entry in entries])
    return tuple(
        Line(count, amount, name, version_id, lab)
        for (count, name, version_id, lab, _rate), amount in zip(entries, amounts, strict=True)
    )


def amount_words(amount: Measured) -> str:
    """How much of one thing, such as "9 drops", "1.4 ml" or "a bead of 7 mm"."""
    if amount.bead_mm is not None:
        return _("a bead of {0} mm").format(f"{max(amount.bead_mm, 1):.0f}")
    if amount.drops is not None:
        return ngettext("{0} drop", "{0} drops", amount.drops).format(amount.drops)
    return _("{0} ml").format(f"{amount.ml:.1f}")


def cup_notes(cup: Cup) -> list[str]:
    """What else there is to say of a cup: how much it makes, what is set aside, and into how many it is split."""
    said = [_("{0} ml in all").format(f"{cup.total_ml:.1f}")]
    if not cup.by_area:
        said[0] = _("{0} ml, a cup: the area is not given").format(f"{cup.total_ml:.1f}")
    said += [
        _("set {0} ml aside before thinning: {1}").format(f"{ml:.1f}", name) for name, ml in cup.set_aside
    ]
    if cup.cups > 1:
        each = f"{cup.total_ml / cup.cups:.1f}"
        said.append(
            ngettext("in {0} cup of {1} ml", "in {0} equal cups of {1} ml", cup.cups).format(cup.cups, each)
        )
    return said
