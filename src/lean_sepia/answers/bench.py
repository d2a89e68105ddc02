"""What Bench asks: one step of the work, with its mixes, its colours, its waits and what to watch."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import timedelta

from lean_sepia.answers.amounts import Cup, cups_of
from lean_sepia.answers.coats.draft import run_words
from lean_sepia.answers.plan import PlanAnswer
from lean_sepia.answers.strata import Strata, passes_words
from lean_sepia.answers.targets import Target, target_for
from lean_sepia.document.bounds import Lab
from lean_sepia.document.called import coat_name
from lean_sepia.document.model import Coat, Project, Zone
from lean_sepia.document.versions import medium_of
from lean_sepia.document.work import coats_in
from lean_sepia.language import _
from lean_sepia.paint.media import CARRIER_WORDS
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.care.cautions import cautions
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.rules.finding import Finding
from lean_sepia.plan.schedule.build import Placed
from lean_sepia.plan.step import PlanStep

_MOST_COLOURS = 4


@dataclass(frozen=True)
class StepColour:
    """What a step should give in one zone, beside the target of that stage where the zone has one."""

    zone: Zone
    lab: Lab | None
    target: Target | None


@dataclass(frozen=True)
class BenchStep:
    """One step as it is done at the bench; `how` says how its first coat is laid."""

    number: int
    step: PlanStep
    done: bool
    zones: tuple[Zone, ...]
    whole_model: bool
    coats: tuple[Coat, ...]
    how: str
    cups: tuple[Cup, ...]
    colours: tuple[StepColour, ...]
    findings: tuple[Finding, ...]
    cautions: tuple[str, ...]
    placed: Placed | None

    @property
    def title(self) -> str:
        """What the step is called."""
        return self.step.name


def bench_steps(project: Project, cuts: Mapping[str, Strata], plan: PlanAnswer) -> tuple[BenchStep, ...]:
    """Every step of a plan as it is done at the bench, in order."""
    placed = {one.id: one for one in plan.schedule.steps} if plan.schedule else {}
    found: dict[str, list[Finding]] = {}
    for finding in plan.findings:
        found.setdefault(finding.step, []).append(finding)
    answer = []
    for number, step in enumerate(plan.question.work, start=1):
        coats = coats_in(project, step.id)
        zones = tuple(zone for zone in project.zones if step.zones == "all" or zone.id in step.zones)
        answer.append(
            BenchStep(
                number, step, project.step(step.id).done, zones, len(zones) == len(project.zones), coats,
                laying_words(project, coats[0]) if coats else "",
                tuple(cups_of(project, coats)), tuple(_colour(project, cuts[c.zone], c) for c in coats[:_MOST_COLOURS]),
                tuple(found.get(step.id, ())), cautions(step), placed.get(step.id),
            )
        )  # fmt: skip
    return tuple(answer)


def _colour(project: Project, cut: Strata, coat: Coat) -> StepColour:
    band = next(band for band in cut.bands if band.coat.id == coat.id)
    target = target_for(cut.targets, coat.kind, coat.name)[0] if KINDS[coat.kind].stage != "seen" else None
    return StepColour(project.zone(coat.zone), band.lab, target)


def laying_words(project: Project, coat: Coat) -> str:
    """How a coat is thinned and laid, such as "60 % thinner, 2 coats, airbrush" or "1 : 20 thinner, 2 passes"."""
    words = [*_thinning(project, coat), *([_(TOOLS[coat.tool].words)] if KINDS[coat.kind].tools else [])]
    if coat.area_share < 1:
        words.append(_("on {0} % of the area").format(f"{100 * coat.area_share:.3g}"))
    if coat.profile:
        words.append(run_words(coat))
    if coat.down_to:
        words.append(_("down to {0}").format(coat_name(project.coat(coat.down_to))))
    return ", ".join(words)


def _thinning(project: Project, coat: Coat) -> list[str]:
    kind, tool = KINDS[coat.kind], TOOLS[coat.tool]
    if kind.loose(medium_of(project, coat)):
        names = (
            [project.paint(version).name for version, _n in project.recipe(coat.recipe).parts]
            if coat.recipe
            else []
        )
        return [*names, _("dry")]
    if not kind.tools:
        return []
    words = [passes_words(coat)]
    if coat.thinner_share and tool.drawn_out:
        parts = f"{coat.thinner_share / (1 - coat.thinner_share):.0f}"
        words.insert(0, _("1 : {0} thinner").format(parts))
    elif coat.thinner_share:
        words.insert(0, _("{0} % thinner").format(f"{100 * coat.thinner_share:.0f}"))
    if coat.carrier and coat.thinner_share:
        words[0] = _("{0}, {1}").format(words[0], _(CARRIER_WORDS[coat.carrier]))
    return words


def span(minutes: float) -> str:
    """A wait in the unit people use.

    >>> span(90), span(1440), span(20)
    ('1 h 30', '24 h', '20 min')
    """
    if minutes < 60:
        return _("{0} min").format(f"{minutes:g}")
    hours, rest = divmod(round(minutes), 60)
    return _("{0} h {1}").format(hours, f"{rest:02d}") if rest else _("{0} h").format(hours)


def span_of(delta: timedelta) -> str:
    """A length of time in the unit people use."""
    return span(delta.total_seconds() / 60)
