"""What coats and steps are called: their own names, else those of their kinds."""

from __future__ import annotations

from typing import TypeVar

from lean_sepia.document.entities.planned import Step
from lean_sepia.document.entities.worn import Frozen
from lean_sepia.document.model import Coat, Project
from lean_sepia.language import _

Named = TypeVar("Named", bound=Frozen)
_MOST_NAMED = 2
_NAMED = ("title", "name", "short")
_LISTS = ("subjects", "zones", "paints", "recipes", "steps", "coats")


def coat_name(coat: Coat) -> str:
    """What a coat is called: its own name, else that of its kind."""
    return coat.name or _(coat.nature.title)


def title_of(project: Project, step: Step) -> str:
    """What a step is called: its own title, else its coats or kind and where that is."""
    if step.title:
        return step.title
    coats = project.laid_in(step.id)
    title = coat_name(coats[0]) if coats else _(step.nature.title)
    zones = dict.fromkeys(coat.zone for coat in coats) or dict.fromkeys(step.zones)
    if step.nature.whole_model or not zones or len(zones) > _MOST_NAMED:
        return title
    return f"{title}, {', '.join(project.zone(zone).short for zone in zones)}"


def with_short_names(project: Project, most: int) -> Project:
    """The project with every name that is longer than so many letters cut, as for a page with little room."""

    def cut(one: Named) -> Named:
        long = {field: one.__dict__[field] for field in _NAMED if len(one.__dict__.get(field, "")) > most}
        return (
            one.model_copy(update={field: f"{text[: most - 1]}…" for field, text in long.items()})
            if long
            else one
        )

    lists = {field: tuple(cut(one) for one in getattr(project, field)) for field in _LISTS}
    return cut(project).model_copy(update=lists)
