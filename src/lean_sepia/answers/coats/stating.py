"""A target as people state it without a photo: a colour, a bottle, a mix, a cup, or a field of a colour list."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from lean_sepia.arrays import triple
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.colour.written import is_colour, read_colour
from lean_sepia.document.bounds import Lab
from lean_sepia.document.model import Project
from lean_sepia.document.versions import recipe_paint
from lean_sepia.errors import EditError, SepiaError
from lean_sepia.language import _
from lean_sepia.paint.kubelka_munk import opaque_reflectance
from lean_sepia.paint.paint import Paint, mixed
from lean_sepia.recipe.phrases.mixture_text import matching
from lean_sepia.recipe.phrases.spoken_mix import read_spoken_mix


@dataclass(frozen=True)
class ColourList:
    """An imported list of colours: its name, and each field's name and colour."""

    name: str
    fields: tuple[tuple[str, Lab], ...]


def colour_list(name: str, paints: Sequence[Paint]) -> ColourList:
    """The colours of a file that was read as a shelf."""
    return ColourList(name, tuple((paint.name, triple(paint.masstone_lab())) for paint in paints))


def read_stated(
    text: str, project: Project, bottles: Sequence[Paint], lists: Sequence[ColourList] = ()
) -> tuple[Lab, str]:
    """The colour that a text states, and where it is from: L*a*b*, a screen colour, or the name of something that has one.

    Raises
    ------
    SepiaError
        It is none of these.
    """
    clean = text.strip()
    if not clean:
        raise EditError(_("State a colour: a bottle, a mix, L*a*b* with commas, or #4f7a6c."))
    if is_colour(clean):
        kind = (
            _("typed as a screen colour") if clean.startswith(("#", "rgb", "srgb")) else _("typed as L*a*b*")
        )
        return read_colour(clean), kind
    for listed in lists:
        named = {str(index): name for index, (name, _lab) in enumerate(listed.fields)}
        if len(found := matching(clean, named)) == 1:
            name, lab = listed.fields[int(found[0])]
            return lab, _("{0}, of the list {1}").format(name, listed.name)
    names = {paint.id: paint.name for paint in bottles}
    cups = {recipe.id: recipe.name for recipe in project.recipes}
    try:
        spoken = read_spoken_mix(clean, names, cups)
    except SepiaError as error:
        words = _("“{0}” is no colour, bottle, mix or field of a list that is known here. {1}")
        raise EditError(words.format(clean, error)) from None
    known = {paint.id: paint for paint in bottles}
    parts = [(known[name], count) for name, count in spoken.parts]
    parts += [(recipe_paint(project, project.recipe(cup)), count) for cup, count in spoken.cups]
    if len(parts) == 1:
        return triple(parts[0][0].masstone_lab()), _("the colour of {0}").format(parts[0][0].name)
    made = mixed([paint for paint, _count in parts], [count for _paint, count in parts])
    lab = triple(lab_from_reflectance(made.surface.seen(opaque_reflectance(made.K, made.S))))
    return lab, _("mixed: {0}").format(clean)


def read_colour_or_bottle(text: str, bottles: Sequence[Paint]) -> tuple[Lab, str]:
    """What a text states before there is a project.

    Raises
    ------
    SepiaError
        It is no colour, bottle or mix.
    """
    return read_stated(text, Project(), bottles)


def suggestions(
    project: Project, bottles: Sequence[Paint], lists: Sequence[ColourList] = ()
) -> Mapping[str, Lab]:
    """What can be stated by name, with its colour, in the order in which it is offered."""
    found = {paint.name: triple(paint.masstone_lab()) for paint in bottles if not paint.clear}
    found |= {recipe.name: triple(recipe_paint(project, recipe).masstone_lab()) for recipe in project.recipes}
    for listed in lists:
        found |= dict(listed.fields)
    return found
