"""Edits of the order of work: steps added, divided, joined, copied, moved and taken away."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from lean_sepia.document.called import title_of
from lean_sepia.document.edits.items import fresh_id, put
from lean_sepia.document.edits.masks import after_the_sprays, before_the_sprays
from lean_sepia.document.edits.mixes import without_unused
from lean_sepia.document.entities.planned import Step
from lean_sepia.document.model import Project
from lean_sepia.document.serving import at_one_sitting, fitting, served, served_lasts, zones_of
from lean_sepia.document.work import found_in, plan_step, plan_steps
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.placing import arranged, place_of
from lean_sepia.plan.usual import usual_kinds


def place_for(
    project: Project,
    kind: str,
    zones: Sequence[str] = (),
    medium: str | None = None,
    serves: Sequence[str] = (),
) -> int:
    """Where in the order of steps one of this kind comes: by its phase, the schools, and what speaks against it.

    What works on others comes right after them: those it names, else the newest fitting ones.
    """
    every = zones or [zone.id for zone in project.zones]
    works_on = at_one_sitting(project, kind, serves) or fitting(project, kind, every, project.steps)
    if works_on and KINDS[kind].unmasks:
        return after_the_sprays(project, works_on)
    if KINDS[kind].is_mask and zones and (before := before_the_sprays(project, zones)) is not None:
        return before
    if works_on:
        return served_lasts(project, works_on)
    if KINDS[kind].resists and (between := _before_the_last_base(project, every)) is not None:
        return between
    step = Step(id="\0", kind=kind, zones=tuple(zones), medium=medium)
    placed = plan_steps(project)
    place = place_of(placed, plan_step(project, step), project.schools)
    order = [step.id for step in project.steps]
    usual = order.index(placed[place].id) if place < len(placed) else len(order)
    return max(usual, _behind_what_is_done(project, zones))


def _before_the_last_base(project: Project, zones: Sequence[str]) -> int | None:
    """Between the base colours of zones, where there are several: what a resist takes off is the last of them."""
    bases = [
        index for index, step in enumerate(project.steps)
        if step.nature.is_base and not step.done and zones_of(project, step) & set(zones)
    ]  # fmt: skip
    first_done = _behind_what_is_done(project, zones)
    return max(bases[-1], first_done) if len(bases) > 1 else None


def _behind_what_is_done(project: Project, zones: Sequence[str]) -> int:
    """The first place behind all that is done on some zones, all where none are named: nothing comes before that any more."""
    wanted = set(zones) or {zone.id for zone in project.zones}
    done = (i for i, step in enumerate(project.steps) if step.done and zones_of(project, step) & wanted)
    return max(done, default=-1) + 1


def add_step(
    project: Project,
    kind: str,
    zones: Sequence[str] = (),
    medium: str | None = None,
    title: str = "",
    place: int | None = None,
    serves: Sequence[str] = (),
) -> tuple[Project, str]:
    """Add a step at a place, else where its kind usually comes; returns its id.

    serves : the steps it works on, where they are said; the newest fitting ones where they are not
    """
    place = place_for(project, kind, zones, medium, serves) if place is None else place
    every = zones or [zone.id for zone in project.zones]
    works_on = at_one_sitting(project, kind, serves) or fitting(project, kind, every, project.steps[:place])
    if works_on and zones and KINDS[kind].draws_out:  # what is done at one go is drawn out at one go
        theirs = [zone for name in works_on for zone in sorted(zones_of(project, project.step(name)))]
        zones = list(dict.fromkeys([*zones, *theirs]))
    step = Step(
        id=fresh_id(project.steps, "s"), kind=kind, title=title, zones=tuple(zones), medium=medium, serves=tuple(works_on)
    )  # fmt: skip
    return with_step(project, step, place), step.id


def with_step(project: Project, step: Step, place: int) -> Project:
    """The document with one more step at a place in the order of work."""
    return project.model_copy(update={"steps": (*project.steps[:place], step, *project.steps[place:])})


def add_usual_steps(project: Project) -> Project:
    """The steps of a usual plan on the whole model, as the schools chosen have it."""
    for kind in usual_kinds(project.schools):
        project, _step = add_step(project, kind, place=len(project.steps))
    return project


def arrange(project: Project, but: Collection[str] = ()) -> Project:
    """Put steps that the user did not place where nothing speaks against them, as far as the order can do that."""
    steps = plan_steps(project)
    movable = {step.id for step in project.steps if not step.by_hand and not step.done and step.nature.to_do}
    laid = {coat.step for coat in project.coats}
    order = [step.id for step in arranged(steps, project.schools, movable - set(but), laid)]
    if order == [step.id for step in steps]:
        return project
    waiting = iter(order)
    shown = set(order)
    whole = [next(waiting) if step.id in shown else step.id for step in project.steps]
    return _ordered(project, whole)


def arrange_around(project: Project, before: Project) -> Project:
    """The same after something was added: steps that there were words about before stay where they are."""
    named = {name for finding in found_in(before) for name in (finding.step, finding.after) if name}
    return arrange(project, named)


def _ordered(project: Project, order: Sequence[str]) -> Project:
    by_id = {step.id: step for step in project.steps}
    return project.model_copy(update={"steps": tuple(by_id[name] for name in order)})


def without_step(project: Project, step_id: str) -> Project:
    """The document without a step; nothing waits for it any more, and what was accepted about it goes too.

    What worked on nothing else goes with it, with its coats.
    """
    idle = [step.id for step in project.steps if step.serves and set(step.serves) == {step_id}]
    steps = tuple(
        step.model_copy(
            update={
                "after": tuple(other for other in step.after if other != step_id),
                "serves": tuple(other for other in step.serves if other != step_id),
            }
        )
        if step_id in step.after or step_id in step.serves
        else step
        for step in project.steps
        if step.id != step_id
    )
    accepted = tuple(one for one in project.accepted if step_id not in (one.step, one.after))
    project = project.model_copy(update={"steps": steps, "accepted": accepted})
    for name in idle:
        project = remove_step(project, name)
    return project


def serve_too(project: Project, step_id: str, like: str) -> Project:
    """What works on one step works on another too, on its zones as well."""
    zones = zones_of(project, project.step(step_id))
    for step in project.steps:
        if like not in step.serves or step_id in step.serves or step.done:
            continue
        added = [zone for zone in zones if zone not in zones_of(project, step)]
        coats = project.laid_in(step.id)
        for zone in added if coats else ():
            copied = coats[0].model_copy(
                update={"id": fresh_id(project.coats, "c"), "zone": zone, "down_to": None}
            )
            project = put(project, "coats", copied)
        own = {"serves": (*step.serves, step_id)} | (
            {} if coats or not step.zones else {"zones": (*step.zones, *added)}
        )
        project = put(project, "steps", step.model_copy(update=own))
    return project


def remove_step(project: Project, step_id: str) -> Project:
    """Take a step away with the coats that are laid in it; mixes that others are made from stay."""
    gone = {coat.id for coat in project.laid_in(step_id)}
    coats = tuple(
        coat.model_copy(update={"down_to": None}) if coat.down_to in gone else coat
        for coat in project.coats
        if coat.id not in gone
    )
    return without_unused(without_step(project.model_copy(update={"coats": coats}), step_id))


def move_step(project: Project, step_id: str, places: int) -> Project:
    """Move a step up (negative) or down in the order of work, with all that is done at one go with it.

    Raises
    ------
    EditError
        The step would pass one that it comes after, or that comes after it.
    """
    group, rest = _sitting_and_rest(project, step_id)
    following = {step.id for name in group for step in _servers_of(project, name, group)}
    passed = [step for step in rest if step.id not in following]
    first = next(i for i, step in enumerate(project.steps) if step.id in group)
    before = sum(step in passed for step in project.steps[:first])
    return _moved(project, group, passed, before + places)


def move_step_to(project: Project, step_id: str, place: int) -> Project:
    """Move a step to a place in the order of work, counted without it; it stays there when others are arranged.

    What is done at one go with it goes with it.

    Raises
    ------
    EditError
        The step would pass one that it comes after, or that comes after it.
    """
    group, rest = _sitting_and_rest(project, step_id)
    others = [step.id for step in project.steps if step.id != step_id]
    behind = sum(name not in group for name in others[: max(0, place)])
    return _moved(project, group, rest, behind)


def _sitting_and_rest(project: Project, step_id: str) -> tuple[list[str], list[Step]]:
    """A step with all that is done at one go with it and is not done yet, and all other steps."""
    sitting = project.step(step_id).sitting
    group = [
        s.id for s in project.steps if s.id == step_id or (sitting and s.sitting == sitting and not s.done)
    ]
    return group, [step for step in project.steps if step.id not in group]


def _moved(project: Project, group: Sequence[str], rest: list[Step], place: int) -> Project:
    target = max(0, min(len(rest), place))
    moved = [project.step(name) for name in group]
    order = [step.id for step in project.steps]
    for index, passed in enumerate(rest):
        for step in moved:
            turned = (index < target) != (order.index(passed.id) < order.index(step.id))
            if turned and (passed.id in step.after or step.id in passed.after):
                raise EditError(
                    _("“{0}” and “{1}” are bound to their order. Take that tie off first.").format(
                        title_of(project, step), title_of(project, passed)
                    )
                )
    by_hand = [step.model_copy(update={"by_hand": True}) for step in moved]
    changed = project.model_copy(update={"steps": (*rest[:target], *by_hand, *rest[target:])})
    for name in group:
        changed = _with_servers(changed, name, project)
    return changed


def _servers_of(project: Project, step_id: str, group: Collection[str]) -> list[Step]:
    """What works on a step, and on nothing but what is done at one go with it."""
    return [
        step for step in project.steps
        if step.id not in group and step_id in served(project, step) and set(served(project, step)) <= set(group)
    ]  # fmt: skip


def _with_servers(project: Project, step_id: str, before: Project) -> Project:
    """What works on a step that was moved stands behind it as it did."""
    group = set(_sitting_and_rest(before, step_id)[0])
    servers = _servers_of(before, step_id, group)
    if not servers:
        return project
    names = {step.id for step in servers}
    left = [step for step in project.steps if step.id not in names]
    place = max(i for i, step in enumerate(left) if step.id in group) + 1
    return project.model_copy(update={"steps": (*left[:place], *servers, *left[place:])})


def duplicate_step(project: Project, step_id: str) -> tuple[Project, str]:
    """The same step once more right after it, with the same coats; not done yet."""
    step = project.step(step_id)
    copied = step.model_copy(update={"id": fresh_id(project.steps, "s"), **UNDONE})
    project = with_step(project, copied, project.steps.index(step) + 1)
    for coat in project.laid_in(step_id):
        again = coat.model_copy(update={"id": fresh_id(project.coats, "c"), "step": copied.id})
        project = put(project, "coats", again)
    return serve_too(project, copied.id, step_id), copied.id


UNDONE: dict[str, object] = {
    "done": False,
    "started": "",
    "ended": "",
    "spent_min": None,
    "ticked": (),
    "remark": "",
}
