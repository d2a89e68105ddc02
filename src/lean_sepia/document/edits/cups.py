"""Edits of mixes as things of their own: made without a target, named, kept, used up."""

from __future__ import annotations

from lean_sepia.document.edits.items import fresh_id, put, without
from lean_sepia.document.edits.mixes import Mix, without_unused
from lean_sepia.document.entities.mixed import Recipe
from lean_sepia.document.model import Project
from lean_sepia.document.versions import with_versions
from lean_sepia.errors import EditError
from lean_sepia.language import _


def keep_mix(project: Project, name: str, mix: Mix, cup_ml: float | None = None) -> tuple[Project, str]:
    """Keep a mix under a name, whether a coat is laid with it or not; returns its id.

    Raises
    ------
    EditError
        It has no name, another has it, or nothing is in it.
    """
    clean = _free_name(project, name, None)
    if not mix.parts and not mix.cups and not mix.versions:
        raise EditError(_("A mix has at least one paint in it."))
    project, versions = with_versions(project, mix.paints)
    recipe = Recipe(
        id=fresh_id(project.recipes, "r"), name=clean,
        parts=mix.versions + tuple((versions[name], count) for name, count in mix.parts), cups=mix.cups, kept=True, cup_ml=cup_ml,
    )  # fmt: skip
    return put(project, "recipes", recipe), recipe.id


def change_cup(
    project: Project, recipe_id: str, *, name: str, cup_ml: float | None, left_ml: float | None, note: str
) -> Project:
    """Say what a mix is called, in which cup it is made, what is left of it, and what was noticed; it is kept from then on."""
    recipe = project.recipe(recipe_id)
    changes = {
        "name": _free_name(project, name, recipe_id),
        "cup_ml": cup_ml,
        "left_ml": left_ml,
        "note": note.strip(),
    }
    return put(project, "recipes", recipe.model_copy(update={**changes, "kept": True}))


def drop_cup(project: Project, recipe_id: str) -> Project:
    """Pour a mix away.

    Raises
    ------
    EditError
        A coat is laid with it, or another mix is made from it.
    """
    recipe = project.recipe(recipe_id)
    users = [project.zone(coat.zone).name for coat in project.coats if coat.recipe == recipe_id]
    users += [other.name for other in project.recipes if recipe_id in dict(other.cups)]
    if users:
        words = _("“{0}” is used: {1}. Lay those otherwise first, or keep it.")
        raise EditError(words.format(recipe.name, ", ".join(dict.fromkeys(users))))
    return without_unused(without(project, "recipes", recipe_id))


def _free_name(project: Project, name: str, own: str | None) -> str:
    clean = " ".join(name.split())
    if not clean:
        raise EditError(_("A mix needs a name, such as Hull green."))
    if any(r.name.casefold() == clean.casefold() and r.id != own for r in project.recipes):
        raise EditError(_("There is a mix “{0}” already. Choose another name.").format(clean))
    return clean
