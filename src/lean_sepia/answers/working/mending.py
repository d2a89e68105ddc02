"""What mends a finding in one go: a step moved to where nothing speaks against it, or one put in."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace

from lean_sepia.answers.strata import strata_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.bounds import Lab
from lean_sepia.document.called import title_of
from lean_sepia.document.edits.coats import lay_varnish_at
from lean_sepia.document.edits.steps import add_step, move_step_to
from lean_sepia.document.model import Project
from lean_sepia.document.work import found_in, plan_steps
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.placing import against_phases
from lean_sepia.plan.rules.finding import Finding, weight_of
from lean_sepia.plan.rules.table import BY_CODE


@dataclass(frozen=True)
class Turned:
    """What is seen of a zone before and after its coats are turned over, L*a*b*, and the ΔE00 between; None where nothing is known."""

    before: Lab | None
    after: Lab | None

    @property
    def de00(self) -> float:
        """By how much it changes."""
        return float(delta_e00(self.before, self.after)) if self.before and self.after else 0.0


@dataclass(frozen=True)
class Mend:
    """What a button says, and the project as it is then.

    turned : the zones on which it changes what lies on what, with what is seen there before and after; such an offer asks
    """

    words: str
    project: Project
    turned: Mapping[str, Turned] = field(default_factory=dict)


def mend_of(project: Project, finding: Finding) -> Mend | None:
    """The mend of a finding that leaves least to be said; None where neither an order nor another step ends it."""
    now = weight_of(found_in(project))
    found = []
    out_of_turn = against_phases(plan_steps(project), project.schools)
    for number, mend in enumerate(_mends(project, finding)):
        after = found_in(mend.project)
        cost = weight_of(after)
        if cost >= now or finding.key in {one.key for one in after}:
            continue
        turns = bool(turned_by(project, mend.project))
        if turns and against_phases(plan_steps(mend.project), project.schools) > out_of_turn:
            continue  # nobody lays a base under its primer to be rid of a remark
        found.append((cost, number, mend))
    if not found:
        return None
    best = min(found, key=lambda one: (bool(turned_by(project, one[2].project)), *one[:2]))[2]
    return replace(best, turned=turned_by(project, best.project))


def turned_by(before: Project, after: Project) -> dict[str, Turned]:
    """The zones on which the coats that were there lie in another order, with what is seen there before and after."""
    found = {}
    for zone in before.zones:
        was = [coat.id for coat in before.coats_of(zone.id)]
        now = [coat.id for coat in after.coats_of(zone.id) if coat.id in was]
        if now != [coat for coat in was if coat in now]:
            found[zone.id] = Turned(strata_of(before, zone.id).seen, strata_of(after, zone.id).seen)
    return found


def _mends(project: Project, finding: Finding) -> Iterator[Mend]:
    yield from _moves(project, finding)
    yield from _inserts(project, finding)


def _moves(project: Project, finding: Finding) -> Iterator[Mend]:
    """The step moved before the one it concerns, or that one after the step."""
    if finding.after is None:
        return
    order = [step.id for step in project.steps]
    one, other = order.index(finding.step), order.index(finding.after)
    for moved, place, words in (
        (finding.after, one, _("Move “{0}” after “{1}”")),
        (finding.step, other, _("Move “{1}” before “{0}”")),
    ):
        titles = title_of(project, project.step(finding.after)), title_of(project, project.step(finding.step))
        try:
            yield Mend(words.format(*titles), move_step_to(project, moved, place))
        except EditError:
            continue


def _inserts(project: Project, finding: Finding) -> Iterator[Mend]:
    """A step that ends it, put in before the step, or where its kind comes."""
    order = [step.id for step in project.steps]
    place = order.index(finding.step)
    steps = {step.id: step for step in plan_steps(project)}
    here = steps[finding.step]
    zones = list(here.zones) if here.zones != "all" else []
    for kind in BY_CODE[finding.code].needs:
        for where in (place, place + 1):
            made, _step = _laid(project, kind, zones, where)
            words = _("Add {0} before “{1}”") if where == place else _("Add {0} after “{1}”")
            yield Mend(words.format(_(KINDS[kind].title), here.name), made)


def _laid(project: Project, kind: str, zones: list[str], place: int) -> tuple[Project, str]:
    if KINDS[kind].is_varnish and zones:
        return lay_varnish_at(project, zones, kind, place)
    return add_step(project, kind, zones, place=place)
