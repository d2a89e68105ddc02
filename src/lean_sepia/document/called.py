"""What coats and steps are called: their own names, else those of their kinds."""

from __future__ import annotations

from lean_sepia.document.entities.planned import Step
from lean_sepia.document.model import Coat, Project
from lean_sepia.language import _

_MOST_NAMED = 2


def coat_name(coat: Coat) -> str:
    """What a coat is called: its own name, else that of its kind."""
    return coat.name or _(coat.nature.title)


def title_of(project: Project, step: Step) -> str:
    """What a step is called: its own title, else its coats or kind and where that is."""
    if step.title:
        return step.title
    coats = [coat for coat in project.coats if coat.step == step.id]
    title = coat_name(coats[0]) if coats else _(step.nature.title)
    zones = dict.fromkeys(coat.zone for coat in coats) or dict.fromkeys(step.zones)
    if step.nature.whole_model or not zones or len(zones) > _MOST_NAMED:
        return title
    return f"{title}, {', '.join(project.zone(zone).short for zone in zones)}"
