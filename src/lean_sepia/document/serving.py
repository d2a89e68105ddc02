"""Which steps of a document work on which others, and which are done at one go."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from functools import cache

from lean_sepia.document.entities.planned import Step
from lean_sepia.document.model import Project
from lean_sepia.document.versions import medium_of
from lean_sepia.paint.media import MEDIA
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.traits.kind import Kind


@cache
def serving_kinds() -> frozenset[str]:
    """The kinds of step that work on what others lay."""
    return frozenset(name for kind in KINDS.values() for name in kind.served_by)


def may_serve(kind: str, laid: Kind) -> bool:
    """Whether a kind can work on another where that is said.

    What its row says; wiping works on paint too, which is rubbed through, and drawing out on all that is laid wet in wet.
    """
    nature = KINDS[kind]
    through = nature.wipes and laid.is_paint and not laid.is_found
    return kind in laid.served_by or through or (nature.draws_out and laid.wet_in_wet)


def zones_of(project: Project, step: Step) -> frozenset[str]:
    """The zones a step is on: those of its coats and its own, all where it has none."""
    mine = {coat.zone for coat in project.laid_in(step.id)} | set(step.zones)
    return frozenset(mine or (zone.id for zone in project.zones))


def fitting(project: Project, kind: str, zones: Iterable[str], before: Sequence[Step]) -> tuple[str, ...]:
    """The newest steps among some, on each of the zones, that a kind works on; none where it works on nothing."""
    if kind not in serving_kinds():
        return ()
    wanted = set(zones)
    found: dict[str, None] = {}
    for step in reversed(before):
        if kind not in step.nature.served_by or _is_dry_paint(project, kind, step):
            continue
        mine = zones_of(project, step) & wanted
        if mine:
            found[step.id] = None
            wanted -= mine
        if not wanted:
            break
    order = {step.id: index for index, step in enumerate(before)}
    return tuple(
        n for n in sorted(at_one_sitting(project, kind, found), key=lambda n: order.get(n, -1)) if n in order
    )


def _is_dry_paint(project: Project, kind: str, step: Step) -> bool:
    """Whether a step lays paint that sets too soon to be drawn out."""
    if not KINDS[kind].draws_out or not step.nature.is_paint:
        return False
    laid = project.laid_in(step.id)
    medium = medium_of(project, laid[0]) if laid else step.medium or step.nature.medium
    return medium is None or not MEDIA[medium].slow


def at_one_sitting(project: Project, kind: str, names: Iterable[str]) -> tuple[str, ...]:
    """Steps and all that is done at one go with them and that a kind works on: what is laid at one go is worked on at one go."""
    found = dict.fromkeys(names)
    sittings = {step.sitting for step in project.steps if step.id in found and step.sitting}
    for step in project.steps:
        if step.sitting in sittings and kind in step.nature.served_by:
            found[step.id] = None
    return tuple(found)


def served(project: Project, step: Step) -> tuple[str, ...]:
    """The steps that one works on: those it names, else the newest fitting ones before it."""
    if step.kind not in serving_kinds():
        return ()
    present = {other.id for other in project.steps}
    named = tuple(name for name in step.serves if name in present)
    if named:
        return named
    places = (i for i, other in enumerate(project.steps) if other.id == step.id)
    index = next(places, len(project.steps))  # one that is tried for comes last
    return fitting(project, step.kind, zones_of(project, step), project.steps[:index])


def served_lasts(project: Project, names: Iterable[str]) -> int:
    """Behind which place in the order of steps comes what works on these: after them and all that works on them already."""
    wanted = set(names)
    last = -1
    for index, step in enumerate(project.steps):
        if step.id in wanted or (step.kind in serving_kinds() and wanted & set(served(project, step))):
            last = index
    return last + 1
