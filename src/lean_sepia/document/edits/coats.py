"""Edits of coats: what is laid on a zone, with what, and how."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import asdict, dataclass, replace

from lean_sepia.document.bounds import Lab
from lean_sepia.document.called import title_of
from lean_sepia.document.edits.items import fresh_id, put, without
from lean_sepia.document.edits.masks import embrace
from lean_sepia.document.edits.mixes import NOTHING_MIXED, ONCE, Manner, Mix, with_recipe, without_unused
from lean_sepia.document.edits.sittings import as_deep_as_it_serves, at_one_go, done_at_one_go, sitting_end
from lean_sepia.document.edits.steps import add_step, move_step, place_for, serve_too, without_step
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.serving import at_one_sitting, fitting, served_lasts
from lean_sepia.document.versions import medium_of
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.names import Finish

_FOUND = "found"


@dataclass(frozen=True)
class Marks:
    """Wear of one kind to lay: its kind of step, its name, its colour, and the share of the area it covers."""

    kind: str
    name: str
    lab: Lab
    area_share: float


def lay_found(project: Project, zone_id: str, lab: Lab, finish: Finish = "flat") -> Project:
    """Say what a zone looks like before anything is laid on it: the lowest coat, with nothing to do."""
    return _laid(project, zone_id, _FOUND, Mix(lab=lab, finish=finish), ONCE)


def lay_layer(
    project: Project, zone_id: str, mix: Mix, name: str = "", on: str | None = None
) -> tuple[Project, str]:
    """Say one more layer of what a zone looks like already, on another of them or under all else; returns the coat's id."""
    return lay(project, [zone_id], _FOUND, mix, ONCE, name, on or LOWEST)


def lay_primer(project: Project, zone_id: str, mix: Mix, manner: Manner = ONCE) -> Project:
    """Give a zone its primer; zones primed with one paint share a step."""
    return _laid(project, zone_id, "primer", mix, manner)


def pin_base(project: Project, zone_id: str, mix: Mix, manner: Manner = ONCE) -> Project:
    """Make a recipe a zone's base coat."""
    return _laid(project, zone_id, "base", mix, manner)


def lay_fade(project: Project, zone_id: str, mix: Mix, manner: Manner = ONCE) -> Project:
    """Lay a fade mixed from a zone's base cup.

    Raises
    ------
    EditError
        The zone has no base recipe.
    """
    return _laid(project, zone_id, "fade", mix, manner)


def lay_filter(
    project: Project, zones: Iterable[str], mix: Mix, manner: Manner = ONCE, kind: str = "filter"
) -> Project:
    """Lay one filter on several zones, a step each."""
    for zone_id in zones:
        project = _laid(project, zone_id, kind, mix, manner)
    return project


def lay_marking(project: Project, zone_id: str, mix: Mix, manner: Manner, name: str = "") -> Project:
    """Lay lettering on a share of a zone: a colour alone is printed with white below or in it, a mix is painted."""
    if mix.lab is not None and manner.printed is None:
        manner = replace(manner, printed="white")
    return _laid(project, zone_id, "marking", mix, manner, name)


def lay_varnish(project: Project, zones: Iterable[str], kind: str, mix: Mix = NOTHING_MIXED) -> Project:
    """Lay a clear coat on zones, in one step; of a bottle where one is named."""
    for zone_id in zones:
        project = _laid(project, zone_id, kind, mix, ONCE)
    return project


def lay_varnish_at(
    project: Project, zones: Sequence[str], kind: str, place: int, mix: Mix = NOTHING_MIXED
) -> tuple[Project, str]:
    """Lay one more clear coat on zones, in a step of its own at a place in the order of work; returns the step's id."""
    project, step = add_step(project, kind, place=place)
    for zone_id in zones:
        project, coat = _made(project, zone_id, kind, mix, ONCE, "", None)
        project = put(project, "coats", coat.model_copy(update={"step": step}))
    return project, step


def lay_varnish_in_place(
    project: Project, zones: Sequence[str], kind: str, mix: Mix = NOTHING_MIXED
) -> tuple[Project, str]:
    """Lay one more clear coat where its kind comes by its phase and the schools; returns the step's id."""
    return lay_varnish_at(project, zones, kind, place_for(project, kind, zones, KINDS[kind].medium), mix)


def lay_wear(project: Project, zone_id: str, found: Iterable[Marks], finish: Finish = "flat") -> Project:
    """Lay wear, each kind on its share of a zone; its colours are those seen at a finish."""
    for marks in found:
        mix = Mix(lab=marks.lab, finish=finish)
        project = _laid(project, zone_id, marks.kind, mix, Manner(area_share=marks.area_share), marks.name)
    return project


def _laid(project: Project, zone_id: str, kind: str, mix: Mix, manner: Manner, name: str = "") -> Project:
    """Give a zone its coat of a kind and name: the one there is keeps its step and whether it is on, else one is made."""
    old = next(
        (c for c in project.coats_of(zone_id) if c.kind == kind and (not name or c.name == name)), None
    )
    project, coat = _made(project, zone_id, kind, mix, manner, name, old)
    medium = medium_of(project, coat)
    if old is None or _is_among_others(project, coat, medium):
        shared = _shared_step(project, kind, medium)
        if shared is None:
            place = place_for(project, kind, (zone_id,), medium)
            project, shared = add_step(project, kind, place=place)
        coat = coat.model_copy(update={"step": shared})
    return without_unused(put(project, "coats", coat))


def _made(
    project: Project, zone_id: str, kind: str, mix: Mix, manner: Manner, name: str, old: Coat | None
) -> tuple[Project, Coat]:
    """A coat, in the step of the old one or none yet, and the project with its recipe."""
    project, recipe = with_recipe(project, zone_id, kind, mix, old)
    coat = Coat.model_validate(
        {
            "id": old.id if old else fresh_id(project.coats, "c"), "zone": zone_id, "step": old.step if old else "",
            "kind": kind, "name": name or (old.name if old else ""), "recipe": recipe, "lab": mix.lab, "finish": mix.finish,
            "medium": None if recipe else mix.medium, "on": old.on if old else True,
            **asdict(manner), "tool": manner.tool or project.owns.usual_tool(kind),
        }
    )  # fmt: skip
    return project, coat


def lay(
    project: Project,
    zones: Sequence[str],
    kind: str,
    mix: Mix,
    manner: Manner = ONCE,
    name: str = "",
    above: str | None = None,
    serves: Sequence[str] = (),
) -> tuple[Project, str]:
    """Lay one more coat, on several zones at once with the same mix and in one step; returns the id of the first.

    above : the coat of the first zone it lies directly on; `LOWEST` to lie under all; None for where its kind usually comes
    serves : the steps it works on, where they are said; the newest fitting ones where they are not

    Raises
    ------
    EditError
        Nothing lies there for what needs a ground, or a base cup is asked for that there is not.
    """
    first = zones[0]
    before = project
    project, coat = _made(project, first, kind, mix, manner, name, None)
    # What lies there is looked at as it was: nothing of it is made anew for a mix that is not laid yet.
    place, until = _gap(before, coat, medium_of(project, coat), above, zones, serves)
    works_on = at_one_sitting(project, kind, serves) or fitting(project, kind, zones, project.steps[:place])
    if not works_on:
        place = _on_top_of_all(project, zones[1:], place, until)
    if KINDS[kind].needs_ground:
        place, until = _on_a_ground(project, coat, place, until, anywhere=above is None)
    step = _step_between(project, coat, place, until)
    partner = done_at_one_go(project, coat, zones) if above is None and step is None else None
    if partner is not None:
        place = sitting_end(project, partner)
    if step is None:
        project, step = add_step(project, kind, place=place, serves=works_on)
        if partner is not None:
            project = at_one_go(project, step, partner)
        if above is not None:  # put between two others by the user, it stays there
            project = put(project, "steps", project.step(step).model_copy(update={"by_hand": True}))
    project = put(project, "coats", coat.model_copy(update={"step": step}))
    project = copy_coat(project, coat.id, zones[1:])
    if partner is not None:
        project = serve_too(project, step, partner)
    project = embrace(project)
    return as_deep_as_it_serves(project, step, works_on if manner.down_to is None else ()), coat.id


LOWEST = ""


def _on_a_ground(project: Project, coat: Coat, place: int, until: int, *, anywhere: bool) -> tuple[int, int]:
    """The places between which a coat comes that lies on something: where it may come anywhere, on the lowest there is at least."""
    order = {step.id: index for index, step in enumerate(project.steps)}
    mine = project.coats_of(coat.zone)
    if any(order[other.step] < place for other in mine):
        return place, until
    if anywhere and mine:
        place = max(place, order[mine[0].step] + 1)
        return place, place
    words = _(
        "{0} lies on something, and nothing lies on {1} there. Say what is there already, or lay a base first."
    )
    raise EditError(words.format(_(coat.nature.title), project.zone(coat.zone).name))


def _gap(
    project: Project,
    new: Coat,
    medium: str | None,
    above: str | None,
    zones: Sequence[str],
    serves: Sequence[str],
) -> tuple[int, int]:
    """Between which places in the order of steps a coat comes: the first free one, and the one it must come before."""
    order = {step.id: index for index, step in enumerate(project.steps)}
    mine = project.coats_of(new.zone)
    if new.nature.is_found and not (above and project.coat(above).nature.is_found):
        above = LOWEST
    usual = place_for(project, new.kind, zones, medium, serves)
    if above is None:
        return usual, usual
    if above == LOWEST:
        upper = order[mine[0].step] if mine else usual
        return upper, upper
    lower = order[project.coat(above).step]
    until = min((order[coat.step] for coat in mine if order[coat.step] > lower), default=len(order))
    worked_on = served_lasts(
        project, (project.coat(above).step,)
    )  # what lies there is drawn out before anything lies on it
    return min(max(lower + 1, worked_on), until), until


def _on_top_of_all(project: Project, others: Sequence[str], place: int, until: int) -> int:
    """A place in a gap, as far up as what lies on the other zones asks for: on top of the first, it is on top of all."""
    order = {step.id: index for index, step in enumerate(project.steps)}
    tops = [order[coats[-1].step] + 1 for zone in others if (coats := project.coats_of(zone))]
    return min(until, max([place, *tops]))


def _step_between(project: Project, coat: Coat, place: int, until: int) -> str | None:
    """A step between two places in which a coat can be laid with those of other zones: what the whole model gets at once."""
    if not coat.nature.whole_model:
        return None
    medium = medium_of(project, coat)
    reach = project.steps if place == until else project.steps[place:until]
    for step in reach:
        coats = project.laid_in(step.id)
        same = all(medium_of(project, other) == medium and other.zone != coat.zone for other in coats)
        if step.kind == coat.kind and same and not step.title and not step.done:
            return step.id
    return None


def edit_coat(project: Project, coat_id: str, kind: str, mix: Mix, manner: Manner, name: str = "") -> Project:
    """Lay a coat otherwise: of another kind, mix or manner, in its place among the coats.

    Where others share its step and it no longer fits them, it gets one of its own.
    """
    old = project.coat(coat_id)
    project, coat = _made(project, old.zone, kind, mix, manner, name, old)
    coat = coat.model_copy(update={"name": name})
    project = put(project, "coats", coat)
    step = project.step(coat.step)
    others = any(other.id != coat_id for other in project.laid_in(step.id))
    if others and (step.kind != kind or _is_among_others(project, coat, medium_of(project, coat))):
        project, own = add_step(project, kind, place=project.steps.index(step) + 1)
        project = change_coat(project, coat_id, step=own)
    elif step.kind != kind:
        project = put(project, "steps", step.model_copy(update={"kind": kind, "medium": None}))
    return without_unused(project)


def copy_coat(project: Project, coat_id: str, zones: Iterable[str]) -> Project:
    """Lay a coat on other zones too: the same mix, in the same step. A zone that has a coat in that step gets this one instead."""
    coat = project.coat(coat_id)
    for zone_id in zones:
        if zone_id == coat.zone:
            continue
        there = next((c for c in project.coats_of(zone_id) if c.step == coat.step), None)
        identity = there.id if there else fresh_id(project.coats, "c")
        copied = coat.model_copy(update={"id": identity, "zone": zone_id, "down_to": None, "mix_ml": None})
        project = put(project, "coats", copied)
    return without_unused(project)


def _is_among_others(project: Project, coat: Coat, medium: str | None) -> bool:
    """Whether a coat lies in a step with coats of other media, which cannot be laid together."""
    others = [other for other in project.laid_in(coat.step) if other.id != coat.id]
    return any(medium_of(project, other) != medium for other in others)


def _shared_step(project: Project, kind: str, medium: str | None) -> str | None:
    """Primer and varnish are laid on the whole model at once unless the user splits them."""
    if not KINDS[kind].whole_model:
        return None
    for step in project.steps:
        coats = project.laid_in(step.id)
        if step.kind == kind and all(medium_of(project, coat) == medium for coat in coats):
            return step.id
    return None


def change_coat(project: Project, coat_id: str, **changes: object) -> Project:
    """Change fields of one coat, checked."""
    return put(project, "coats", Coat.model_validate({**project.coat(coat_id).model_dump(), **changes}))


def switch_coat(project: Project, coat_id: str, on: bool) -> Project:
    """Switch a coat on or off."""
    return change_coat(project, coat_id, on=on)


def remove_coat(project: Project, coat_id: str) -> Project:
    """Remove a coat, and its step where nothing else is laid in it; a cup that others are mixed from stays a recipe."""
    coat = project.coat(coat_id)
    project = without(project, "coats", coat_id)
    for other in project.coats:
        if other.down_to == coat_id:
            project = change_coat(project, other.id, down_to=None)
    if not project.laid_in(coat.step):
        project = without_step(project, coat.step)
    return without_unused(project)


def move_coat(project: Project, coat_id: str, places: int) -> Project:
    """Move a coat past its neighbours within its zone.

    Where its step also serves other zones, this zone's part becomes a step of its own, in the same edit.
    """
    coat = project.coat(coat_id)
    mine = project.coats_of(coat.zone)
    position = [other.id for other in mine].index(coat_id)
    target = max(0, min(len(mine) - 1, position + places))
    if target == position:
        return project
    step = project.step(coat.step)
    if any(other.zone != coat.zone for other in project.laid_in(step.id)):
        zone = project.zone(coat.zone)
        title = f"{title_of(project, step)}, {zone.name}"
        own = step.model_copy(update={"id": fresh_id(project.steps, "s"), "title": title, "zones": ()})
        steps = list(project.steps)
        steps.insert(steps.index(step) + 1, own)
        project = project.model_copy(update={"steps": tuple(steps)})
        project = change_coat(project, coat_id, step=own.id)
        step = own
    order = [other.id for other in project.steps]
    neighbour = mine[target].step
    if neighbour == step.id:
        return project
    # Directly before or behind the neighbour's step, counted after this one has been taken out.
    shift = order.index(neighbour) - order.index(step.id)
    return move_step(project, step.id, shift)
