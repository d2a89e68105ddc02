"""A whole job laid: every entry as the sheet lays it, at its usual place or where it says, and what is done with the whole then."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from lean_sepia.answers.coats.draft import usual_draft
from lean_sepia.answers.coats.laying import laid
from lean_sepia.answers.coats.mixing import LayQuestion
from lean_sepia.answers.whole.in_turn import in_a_circle, in_turn, named_by
from lean_sepia.answers.whole.job_file import Entry, JobFile, On
from lean_sepia.answers.working.mending import mend_of
from lean_sepia.document.check import fault_of_edit
from lean_sepia.document.edits.coats import LOWEST, lay_layer, remove_coat
from lean_sepia.document.edits.items import put
from lean_sepia.document.edits.mixes import Mix
from lean_sepia.document.edits.planning import set_school
from lean_sepia.document.edits.steps import add_step, arrange, remove_step
from lean_sepia.document.edits.zones import add_subject, add_zone, state_target
from lean_sepia.document.model import Project
from lean_sepia.document.serving import may_serve
from lean_sepia.document.work import found_in
from lean_sepia.errors import EditError, SepiaError
from lean_sepia.language import _
from lean_sepia.paint.paint import Paint
from lean_sepia.plan.kinds import KINDS, nature_of


@dataclass(frozen=True)
class Laid:
    """The project, the step and the coats of every entry, and what was refused with its sentence."""

    project: Project
    step_of: dict[str, str] = field(default_factory=dict)
    coats_of: dict[str, tuple[str, ...]] = field(default_factory=dict)
    refused: tuple[tuple[str, str], ...] = ()
    zones: dict[str, str] = field(default_factory=dict)

    def entries_of(self, step: str) -> list[str]:
        """The entries that a step lays, in the order they were laid."""
        return [name for name, own in self.step_of.items() if own == step]


def lay_job(job: JobFile, bottles: Sequence[Paint]) -> Laid:
    """Lay a job. What cannot be laid is refused with its sentence, the rest goes on.

    Raises
    ------
    SepiaError
        Schools, hours or zones cannot be.
    """
    project, zones = _ground(job)
    state = Laid(project, zones=zones)
    turning = in_a_circle(job.lay)
    circle = _("{0} refer to each other in a circle. Let one of them go.").format(
        ", ".join(map(repr, turning))
    )
    refused = dict.fromkeys(turning, circle)
    waiting = [entry for entry in in_turn(job) if entry.id not in turning]
    while waiting:  # what finds no ground yet may find one once the rest is laid
        left = []
        for entry in waiting:
            try:
                state = _one(state, entry, bottles)
            except SepiaError as error:
                refused[entry.id] = str(error)
                left.append(entry)
        if len(left) == len(waiting):
            break
        waiting = left
    out = [*turning, *(entry.id for entry in waiting)]
    state = replace(state, refused=(*job.faulty, *((name, refused[name]) for name in out)))
    for then in job.then:
        state = _then(state, then.do, then.code, then.id, asked=then.asked)
    present = {step.id for step in state.project.steps}
    gone = {name for name, step in state.step_of.items() if step not in present}
    return replace(state, step_of={n: s for n, s in state.step_of.items() if n not in gone})


def _ground(job: JobFile) -> tuple[Project, dict[str, str]]:
    """The project before anything is laid: models, zones, targets, what is there already."""
    project = Project(
        title=job.subject or "Job", owns=job.owns, plan_start=job.start, evenings=job.evenings,
    )  # fmt: skip
    if job.place is not None:
        project = project.model_copy(
            update={"workplace": project.workplace.model_copy(update={"place": job.place})}
        )
    for question, choice in job.schools.items():
        project = set_school(project, question, choice)
    subjects: dict[str, str] = {}
    zones: dict[str, str] = {}
    for given in job.zones:
        if given.model not in subjects:
            project = add_subject(project, given.model or job.subject or "Model", job.scale)
            subjects[given.model] = project.subjects[-1].id
        project, zone = add_zone(project, given.name or given.id, subjects[given.model])
        zones[given.id] = zone
        own = project.zone(zone).model_copy(update={"area_cm2": given.area_cm2, "apart": given.apart})
        project = put(project, "zones", own)
        for target in ("fresh", "exposed", "seen"):
            if (lab := getattr(given, target)) is not None:
                project = state_target(project, zone, lab, target)
        below: str | None = None
        for layer in given.found:
            mix = Mix(lab=layer.lab, finish=layer.finish, medium=layer.medium)
            project, below = lay_layer(project, zone, mix, layer.name, below)
    return project, zones


def _one(state: Laid, entry: Entry, bottles: Sequence[Paint]) -> Laid:
    """One entry laid or added."""
    zones = _zones(state, entry)
    for name in named_by(entry):
        if name not in state.step_of:
            raise EditError(_("{0!r} names {1!r}, which is not laid.").format(entry.id, name))
    serves = [state.step_of[name] for name in entry.serves]
    _check_serving(state, entry, zones)
    before = state.project
    if nature_of(entry.kind, printed=False).covers == "nothing":
        project, step = _work(state, entry, zones, serves)
        coats: tuple[str, ...] = ()
    else:
        project, step, coats = _coats(state, entry, zones, serves, bottles)
    if entry.minutes is not None:
        project = put(project, "steps", project.step(step).model_copy(update={"hands_on_min": entry.minutes}))
    if fault := fault_of_edit(before, project):
        raise EditError(_("This cannot be: {0}.").format(fault))
    return replace(
        state, project=project, step_of={**state.step_of, entry.id: step}, coats_of={**state.coats_of, entry.id: coats}
    )  # fmt: skip


def _zones(state: Laid, entry: Entry) -> list[str]:
    if entry.zones == "all":
        return list(state.zones.values())
    unknown = [zone for zone in entry.zones if zone not in state.zones]
    if unknown or not entry.zones:
        raise EditError(
            _("{0!r} is on {1!r}, which is no zone of this job. Its zones: {2}.").format(
                entry.id, ", ".join(unknown) or _("nothing"), ", ".join(state.zones)
            )
        )
    return [state.zones[zone] for zone in entry.zones]


def _check_serving(state: Laid, entry: Entry, zones: Sequence[str]) -> None:
    """What is served lies on a zone of the entry, and is something that this kind works on."""
    for name in entry.serves:
        step = state.project.step(state.step_of[name])
        if not may_serve(entry.kind, step.nature):
            raise EditError(
                _("{0!r}: {1} does not work on {2!r}, which is {3}.").format(
                    entry.id, _(KINDS[entry.kind].title), name, _(step.nature.title)
                )
            )
        mine = {coat.zone for coat in state.project.laid_in(step.id)} | set(step.zones)
        if mine and not mine & set(zones):
            raise EditError(_("{0!r} works on {1!r}, which is on none of its zones.").format(entry.id, name))


def _work(state: Laid, entry: Entry, zones: Sequence[str], serves: Sequence[str]) -> tuple[Project, str]:
    """A step without a coat."""
    place: int | None = None
    after: tuple[str, ...] = ()
    order = [step.id for step in state.project.steps]
    if entry.on == "top":
        place = len(order)
    elif isinstance(entry.on, On):
        named = state.step_of[entry.on.after or entry.on.before or ""]
        place = order.index(named) + (1 if entry.on.after else 0)
        after = (named,) if entry.on.after else ()
    own = () if entry.zones == "all" and KINDS[entry.kind].joins else tuple(zones)
    project, step = add_step(state.project, entry.kind, own, title=entry.name, place=place, serves=serves)
    if after and not serves:
        project = put(project, "steps", project.step(step).model_copy(update={"after": after}))
    return project, step


def _coats(
    state: Laid, entry: Entry, zones: Sequence[str], serves: Sequence[str], bottles: Sequence[Paint]
) -> tuple[Project, str, tuple[str, ...]]:
    """A coat on its zones, as the sheet lays it."""
    project = state.project
    above, after = _above(state, entry, zones)
    printed = KINDS[entry.kind].is_print and (entry.made_as != "paint") and entry.tool is None
    tool = entry.tool or (
        next(iter(nature_of(entry.kind, printed=False).tools), None)
        if KINDS[entry.kind].is_print and not printed
        else None
    )
    draft = usual_draft(entry.kind, tool, owns=project.owns)
    draft = replace(
        draft, of=entry.of, thinned=entry.thinned if draft.printed is None else "", name=entry.name,
        passes=entry.passes or draft.passes, area_share=entry.area_share or draft.area_share,
    )  # fmt: skip
    if (
        entry.area_share is not None
        and entry.area_share < 1
        and draft.profile is not None
        and KINDS[entry.kind].covers == "taken"
    ):
        draft = replace(draft, profile=None)
    known = {step.id for step in project.steps}
    found = laid(LayQuestion(project, tuple(zones), draft, tuple(bottles), above, serves=tuple(serves)))
    step = found.project.coat(found.coat).step
    coats = tuple(c.id for c in found.project.laid_in(step) if c.zone in set(zones) and c.kind == entry.kind)
    result = found.project
    if entry.down_to is not None:
        for coat in coats:
            there = next(
                (c for c in state.coats_of[entry.down_to] if result.coat(c).zone == result.coat(coat).zone),
                None,
            )
            if there is not None:
                result = put(result, "coats", result.coat(coat).model_copy(update={"down_to": there}))
    if after and step not in known:
        result = put(result, "steps", result.step(step).model_copy(update={"after": after}))
        result = _behind(result, step, after[0])
    return result, step, coats


def _behind(project: Project, step: str, named: str) -> Project:
    """A step that comes after another in the work stands behind it."""
    order = [one.id for one in project.steps]
    if order.index(step) > order.index(named):
        return project
    left = [one for one in project.steps if one.id != step]
    place = next(i for i, one in enumerate(left) if one.id == named) + 1
    return project.model_copy(update={"steps": (*left[:place], project.step(step), *left[place:])})


def _above(state: Laid, entry: Entry, zones: Sequence[str]) -> tuple[str | None, tuple[str, ...]]:
    """The coat an entry lies on, None for its usual place; and the steps that it comes after in the work."""
    project = state.project
    mine = project.coats_of(zones[0])
    if entry.on == "top":
        return (mine[-1].id if mine else LOWEST), ()
    if not isinstance(entry.on, On):
        return None, ()
    named = entry.on.after or entry.on.before or ""
    there = next((c for c in state.coats_of.get(named, ()) if project.coat(c).zone == zones[0]), None)
    if there is None:
        return None, (state.step_of[named],) if entry.on.after else ()
    if entry.on.after:
        return there, ()
    ids = [coat.id for coat in mine]
    index = ids.index(there)
    return (ids[index - 1] if index else LOWEST), ()


def _then(state: Laid, do: str, code: str, name: str, *, asked: bool) -> Laid:
    """One thing done with the whole."""
    project = state.project
    try:
        if do == "put-in-order":
            return replace(state, project=arrange(project))
        if do == "remove":
            if name not in state.step_of:
                raise EditError(_("{0!r} is not laid.").format(name))
            return replace(state, project=_without(state, name))
        for finding in found_in(project):
            if finding.code == code and (mend := mend_of(project, finding)) and (asked or not mend.turned):
                return replace(state, project=mend.project)
        return state
    except SepiaError as error:
        return replace(state, refused=(*state.refused, (name or do, str(error))))


def _without(state: Laid, name: str) -> Project:
    """The project without an entry: its coats, or its step."""
    project = state.project
    coats = [c for c in state.coats_of.get(name, ()) if any(coat.id == c for coat in project.coats)]
    if not coats:
        return remove_step(project, state.step_of[name])
    for coat in coats:
        project = remove_coat(project, coat)
    return project
