"""What is otherwise in one document than in another, in words: mixes, how coats are laid, coats added and left out."""

from __future__ import annotations

from lean_sepia.answers.nearer.hands.laid_otherwise import thinning_words
from lean_sepia.document.called import coat_name
from lean_sepia.document.entities.mixed import Recipe
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import from_cup
from lean_sepia.language import _, ngettext
from lean_sepia.paint.tools import TOOLS


def what_is_otherwise(before: Project, after: Project) -> str:
    """One line for each mix and coat that is otherwise, in the order of the zones."""
    said = list[str]()
    mixes = {recipe.id: recipe for recipe in before.recipes}
    for recipe in after.recipes:
        if recipe.id in mixes and recipe != mixes[recipe.id]:
            said.append(_("{0}: {1}").format(recipe.name, mix_words(after, recipe)))
    old = {coat.id: coat for coat in before.coats}
    for zone in after.zones:
        for coat in after.coats_of(zone.id):
            was, name = old.get(coat.id), _("{0}, {1}").format(coat_name(coat), zone.short)
            if was is None:
                said.append(_("{0}: laid with it").format(name))
            elif was.on and not coat.on:
                said.append(_("Without {0}").format(name))
            elif (was.passes, was.thinner_share) != (coat.passes, coat.thinner_share):
                said.append(_("{0}: {1}").format(name, _laid_words(coat)))
    return "; ".join(said)


def mix_words(project: Project, recipe: Recipe) -> str:
    """What a mix is made of, such as "5 Deep sea + 2 Chalk"."""
    parts = [(count, from_cup(project.recipe(cup))) for cup, count in recipe.cups]
    parts += [(count, project.paint(version).name) for version, count in recipe.parts]
    return " + ".join(f"{count} {name}" for count, name in parts)


def _laid_words(coat: Coat) -> str:
    tint = TOOLS[coat.tool].drawn_out
    thinned = thinning_words(coat.thinner_share, tint=tint)
    return ngettext("{0} pass, {1}", "{0} passes, {1}", coat.passes).format(coat.passes, thinned)
