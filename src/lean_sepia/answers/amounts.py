"""How much of each mix to make: one meaning for Match, Bench and the card."""

from __future__ import annotations

import math
from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass

from lean_sepia.arrays import triple
from lean_sepia.document.bounds import Lab
from lean_sepia.document.called import coat_name
from lean_sepia.document.entities.mixed import Recipe
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import coat_paint, from_cup, medium_of, paint_of, recipe_paint
from lean_sepia.language import _, ngettext
from lean_sepia.paint.handling.bodies import USES
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.tools import TOOLS
from lean_sepia.recipe.batch import RESERVE, BatchVolume, batch_volume
from lean_sepia.recipe.parts import DROPS_PER_ML, Measured, measure_out, sprayed_out, volume_words

CUP_ML = 7.0
"""Size of the usual mixing cup; a larger batch is split into equal cups (practice)."""


@dataclass(frozen=True)
class Line:
    """One thing that goes into the cup: its parts, how it is measured out, what it is called, and its colour.

    version : of the paint; None for what is taken from another cup, and for a varnish that no bottle is named of; lab : None of what
        is clear
    """

    count: int
    amount: Measured
    name: str
    version: str | None
    lab: Lab | None


@dataclass(frozen=True)
class Cup:
    """One mix of a step, for all coats that are laid with it.

    paint_ml : before it is thinned, with what is set aside; thinner_ml : that goes to the rest of it
    set_aside : for coats mixed from this cup, taken out before it is thinned: their names and millilitres
    reserve_ml : of the whole, for touch-ups; cups : equal cups it is split into; by_area : whether every zone's area is known
    """

    coats: tuple[Coat, ...]
    name: str
    lines: tuple[Line, ...]
    paint_ml: float
    thinner_ml: float
    set_aside: tuple[tuple[str, float], ...]
    reserve_ml: float
    cups: int
    by_area: bool

    @property
    def total_ml(self) -> float:
        """The whole batch."""
        return self.paint_ml + self.thinner_ml


def thinned(total_ml: float, thinner_share: float, reserve: float = RESERVE) -> BatchVolume:
    """A volume of thinned mix as paint and thinner."""
    return BatchVolume(
        total_ml, total_ml * (1 - thinner_share), total_ml * thinner_share, total_ml * reserve / (1 + reserve)
    )


def usual_volume(
    area_cm2: float | None, passes: int, thinner_share: float, tool: str, reserve: float = RESERVE
) -> BatchVolume:
    """The thinned mix that an area needs; one cup where the area is not known."""
    if not area_cm2:
        return thinned(CUP_ML, thinner_share, reserve)
    return batch_volume(area_cm2, passes, thinner_share=thinner_share, tool=tool, reserve=reserve)


def reserve_of(project: Project, coat: Coat) -> float:
    """The share mixed on top for touch-ups: of colours that are mixed; not of varnish, washes or what is ready in its bottle."""
    paint = coat_paint(project, coat)
    ready = paint is not None and (paint.ready or paint.thinner_share > 0 or not USES[paint.use].spare)
    return 0.0 if ready or coat.nature.is_varnish else RESERVE


def needed(project: Project, coat: Coat) -> BatchVolume:
    """The thinned mix a coat needs: what the user said, else by the share of the area it covers."""
    reserve = reserve_of(project, coat)
    if coat.mix_ml is not None:
        return thinned(coat.mix_ml, coat.thinner_share, reserve)
    area = project.zone(coat.zone).area_cm2
    return usual_volume(area and area * coat.area_share, coat.passes, coat.thinner_share, coat.tool, reserve)


def at_one_go(project: Project) -> list[list[Coat]]:
    """The coats that are on, step by step; those of a sitting together, since its cups are mixed once."""
    groups: dict[str, list[Coat]] = {}
    for step in project.steps:
        coats = [coat for coat in project.laid_in(step.id) if coat.on]
        groups.setdefault((step.sitting and f"sitting {step.sitting}") or step.id, []).extend(coats)
    return [coats for coats in groups.values() if coats]


def cups_of(project: Project, coats: Sequence[Coat]) -> list[Cup]:
    """The mixes of coats that are laid in one step; coats of the same mix share a cup."""
    same: dict[object, list[Coat]] = {}
    for coat in coats:
        if not coat.on or coat.nature.loose(medium_of(project, coat)):
            continue
        if coat.recipe:
            recipe = project.recipe(coat.recipe)
            same.setdefault((recipe.parts, recipe.cups, coat.thinner_share), []).append(coat)
        elif coat.nature.is_varnish:
            same.setdefault((coat.kind, medium_of(project, coat), coat.thinner_share), []).append(coat)
    return [_cup(project, together) for together in same.values()]


def _cup(project: Project, coats: Sequence[Coat]) -> Cup:
    recipe = project.recipe(coats[0].recipe) if coats[0].recipe else None
    volumes = [needed(project, coat) for coat in coats]
    own = sum(volume.paint_ml for volume in volumes)
    aside = set_aside(project, {coat.recipe for coat in coats}) if recipe else ()
    wanted = own + sum(ml for _name, ml in aside)
    lines = cup_lines(project, recipe, wanted) if recipe else (_unnamed(coats[0], wanted),)
    paint_ml = sum(line.amount.ml for line in lines)
    # Whole drops may make a little more or less of it: the thinner follows, so that the thinning stays right.
    share = coats[0].thinner_share
    thinner_ml = own * (paint_ml / wanted) * share / (1 - share)
    by_area = all(project.zone(coat.zone).area_cm2 is not None for coat in coats)
    size = (recipe.cup_ml if recipe else None) or CUP_ML
    from_can = any(line.amount.spray_s is not None for line in lines)
    return Cup(
        tuple(coats), coats[0].name or (recipe.name if recipe else coat_name(coats[0])), lines, paint_ml, thinner_ml, aside, sum(volume.reserve_ml for volume in volumes),
        1 if from_can else max(1, math.ceil(round((paint_ml + thinner_ml) / size, 6))), by_area,
    )  # fmt: skip


def _unnamed(coat: Coat, ml: float) -> Line:
    """What a varnish is measured out of where no bottle is named."""
    amount = sprayed_out(ml) if TOOLS[coat.tool].from_can else measure_out([1], ml, [DROPS_PER_ML])[0]
    return Line(1, amount, _(coat.nature.title), None, None)


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
    entries: list[tuple[int, str, str | None, Lab | None, float | None]] = []
    alone = project.paint(recipe.parts[0][0]) if len(recipe.parts) == 1 and not recipe.cups else None
    if alone is not None and alone.can:
        colour = _lab_of(paint_of(alone))
        return (Line(1, sprayed_out(paint_ml), alone.name, recipe.parts[0][0], colour),)
    for cup_id, count in recipe.cups:
        cup = project.recipe(cup_id)
        colour = _lab_of(recipe_paint(project, cup))
        entries.append((count, from_cup(cup), None, colour, DROPS_PER_ML))
    for version_id, count in recipe.parts:
        version = project.paint(version_id)
        paint = paint_of(version)
        entries.append((count, version.name, version_id, _lab_of(paint), drop_rate(paint)))
    amounts = measure_out([entry[0] for entry in entries], paint_ml, [entry[4] for entry in entries])
    return tuple(
        Line(count, amount, name, version_id, lab)
        for (count, name, version_id, lab, _rate), amount in zip(entries, amounts, strict=True)
    )


def _lab_of(paint: Paint) -> Lab | None:
    """The colour of a paint; None of what is clear."""
    return None if paint.clear else triple(paint.masstone_lab())


def amount_words(amount: Measured) -> str:
    """How much of one thing, such as "9 drops", "1.4 ml", "a bead of 7 mm" or "5 s of spray"."""
    if amount.spray_s is not None:
        return _("{0} s of spray").format(f"{max(amount.spray_s, 1):.0f}")
    if amount.bead_mm is not None:
        return _("a bead of {0} mm").format(f"{max(amount.bead_mm, 1):.0f}")
    if amount.drops is not None:
        return ngettext("{0} drop", "{0} drops", amount.drops).format(amount.drops)
    return volume_words(amount.ml)


def counted_out(things: Iterable[tuple[Measured, str]]) -> str:
    """What goes into a cup as people count it: each amount with the name of its paint, such as "1.5 ml Deep sea, 9 drops Chalk"."""
    return ", ".join(_("{0} {1}").format(amount_words(amount), name) for amount, name in things)


def cup_notes(cup: Cup) -> list[str]:
    """What else there is to say of a cup: how much it makes, what is set aside, and into how many it is split."""
    if any(line.amount.spray_s is not None for line in cup.lines):
        return [_("straight from the can")]
    said = [_("{0} in all").format(volume_words(cup.total_ml))]
    if not cup.by_area:
        said[0] = _("{0}, a cup: the area is not given").format(volume_words(cup.total_ml))
    said += [
        _("set {0} aside before thinning: {1}").format(volume_words(ml), name) for name, ml in cup.set_aside
    ]
    if cup.cups > 1:
        each = f"{cup.total_ml / cup.cups:.1f}"
        said.append(
            ngettext("in {0} cup of {1} ml", "in {0} equal cups of {1} ml", cup.cups).format(cup.cups, each)
        )
    return said
