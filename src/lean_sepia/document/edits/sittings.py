"""What is done at one go: wet in wet, or from one cup on several zones; and how deep what takes away reaches."""

from __future__ import annotations

from collections.abc import Sequence

from lean_sepia.document.called import title_of
from lean_sepia.document.edits.items import put
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.serving import at_one_sitting, may_serve, served_lasts, zones_of
from lean_sepia.document.versions import medium_of
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.tools import TOOLS


def as_deep_as_it_serves(project: Project, step: str, works_on: Sequence[str]) -> Project:
    """What takes away reaches down to just below what it works on, zone by zone."""
    for coat in project.coats:
        if coat.step != step or coat.nature.covers != "taken" or not works_on:
            continue
        mine = project.coats_of(coat.zone)
        lowest = next((i for i, other in enumerate(mine) if other.step in works_on), 0)
        if lowest > 0:
            project = put(project, "coats", coat.model_copy(update={"down_to": mine[lowest - 1].id}))
    return project


def sitting_end(project: Project, step: str) -> int:
    """Behind which place in the order of steps comes what is done at one go with a step: after all that is already."""
    named = project.step(step).sitting
    places = [
        i for i, other in enumerate(project.steps) if other.id == step or (named and other.sitting == named)
    ]
    return max(places) + 1


def done_at_one_go(project: Project, coat: Coat, zones: Sequence[str]) -> str | None:
    """The latest step that is not done yet with which a coat is laid at one go: wet in wet, or from one cup on other zones."""
    medium = medium_of(project, coat)
    slow = medium is not None and MEDIA[medium].slow
    models = {project.zone(zone).subject for zone in zones}
    for step in reversed(project.steps):
        coats = project.laid_in(step.id)
        if (
            step.done
            or step.kind != coat.kind
            or not coats
            or {project.zone(c.zone).subject for c in coats} != models
        ):
            continue
        theirs = medium_of(project, coats[0])
        sprayed = TOOLS[coat.tool].sprayed or TOOLS[coats[0].tool].sprayed
        wet = coat.nature.wet_in_wet and not sprayed and slow and theirs is not None and MEDIA[theirs].slow
        if (wet or _from_one_cup(project, coat, coats[0], zones, coats)) and _may_join(
            project, step.id, coat, zones
        ):
            return step.id
    return None


def _from_one_cup(
    project: Project, coat: Coat, other: Coat, zones: Sequence[str], coats: Sequence[Coat]
) -> bool:
    if not coat.recipe or not other.recipe or coat.nature.whole_model or {c.zone for c in coats} & set(zones):
        return False
    one, two = project.recipe(coat.recipe), project.recipe(other.recipe)
    how = [(c.tool, c.thinner_share, c.carrier) for c in (coat, other)]
    return TOOLS[coat.tool].sprayed and (one.parts, one.cups) == (two.parts, two.cups) and how[0] == how[1]


def _may_join(project: Project, step: str, coat: Coat, zones: Sequence[str]) -> bool:
    """Whether all that a coat belongs on is laid before a step, and all that belongs on it after."""
    index = next(i for i, other in enumerate(project.steps) if other.id == step)
    place = {other.id: i for i, other in enumerate(project.steps)}
    for zone in zones:
        for other in project.coats_of(zone):
            here = place[other.step]
            if other.kind != coat.kind and (other.nature.phase < coat.nature.phase) != (here < index):
                return False
    return True


def at_one_go(project: Project, step: str, partner: str) -> Project:
    """A step is done at one go with another."""
    named = project.step(partner).sitting or partner
    for name in (partner, step):
        project = put(project, "steps", project.step(name).model_copy(update={"sitting": named}))
    return project


def work_on(project: Project, step_id: str, names: Sequence[str]) -> Project:
    """A step works on others from now on, and comes right after them; on the newest that fit where none are named.

    Raises
    ------
    EditError
        It cannot work on one of them, or lies on none of its zones.
    """
    step = project.step(step_id)
    for other in map(project.step, names):
        if not may_serve(step.kind, other.nature):
            words = _("“{0}” does not work on “{1}”: that is {2}.")
            raise EditError(
                words.format(title_of(project, step), title_of(project, other), _(other.nature.title))
            )
        if not zones_of(project, other) & zones_of(project, step):
            words = _("“{0}” works on “{1}”, which is on none of its parts. Choose one on its own parts.")
            raise EditError(words.format(title_of(project, step), title_of(project, other)))
    names = at_one_sitting(project, step.kind, names)
    project = put(project, "steps", step.model_copy(update={"serves": names}))
    if not names:
        return project
    left = project.model_copy(update={"steps": tuple(one for one in project.steps if one.id != step_id)})
    place = served_lasts(left, names)
    moved = left.model_copy(
        update={"steps": (*left.steps[:place], project.step(step_id), *left.steps[place:])}
    )
    return as_deep_as_it_serves(moved, step_id, names)
