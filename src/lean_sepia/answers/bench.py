"""What Bench asks: one step of the work, with its mixes, its colours, its waits and what to watch."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal

from lean_sepia.answers.amounts import Cup, at_one_go, cups_of
from lean_sepia.answers.coats.draft import run_words
from lean_sepia.answers.plan import Clocks, PlanAnswer, clocks_of
from lean_sepia.answers.strata import Strata, passes_words
from lean_sepia.answers.targets import Target, target_for
from lean_sepia.answers.working.before import Check, checks_before
from lean_sepia.answers.working.stretches import in_turn, numbers_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.bounds import Lab
from lean_sepia.document.called import coat_name
from lean_sepia.document.model import Coat, Project, Zone
from lean_sepia.document.versions import medium_of
from lean_sepia.document.work import coats_in
from lean_sepia.language import _, weekday_and_time
from lean_sepia.paint.handling.carriers import CARRIERS
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.care.cautions import cautions
from lean_sepia.plan.care.clearing import clearing
from lean_sepia.plan.care.looking import angles, looks_again
from lean_sepia.plan.care.readying import pressure, to_put_out, tool_state
from lean_sepia.plan.care.rescue import test_first, undoing
from lean_sepia.plan.hours.wall_clock import later
from lean_sepia.plan.order import Order
from lean_sepia.plan.rules.finding import Finding
from lean_sepia.plan.schedule.build import Placed
from lean_sepia.plan.step import PlanStep
from lean_sepia.plan.waits.drying import removable_for

_MOST_COLOURS = 4
_MOST_NAMED = 3
_FAINT_DE00, _PALE = 2.0, 80.0
_MARKS_BELOW = 0.5  # of the area: what covers more is a field


@dataclass(frozen=True)
class StepColour:
    """What a step should give in one zone, beside the target of that stage where the zone has one.

    marks_on : of marks, the colour they lie on; share : of the area that they cover
    """

    zone: Zone
    lab: Lab | None
    target: Target | None
    marks_on: Lab | None = None
    share: float = 1.0


@dataclass(frozen=True)
class BenchStep:
    """One step as it is done at the bench; `how` says how its first coat is laid, `poured` which cups were mixed in an earlier step.

    faint : what helps where the coat can hardly be told from what it lies on
    """

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
    clocks: Clocks | None = None
    checks: tuple[Check, ...] = ()
    effort: str = ""
    weather: str = ""
    masks: str = ""
    poured: tuple[str, ...] = ()
    faint: str = ""

    @property
    def to_put_out(self) -> tuple[str, ...]:
        """What to have at hand before it begins."""
        return to_put_out(self.step, tuple(line.name for cup in self.cups for line in cup.lines))

    @property
    def prompts(self) -> tuple[str, ...]:
        """The state of the tool, the pressure with its purpose, from where to look, and what to try first."""
        said = (
            *(_("From the cup “{0}”, which is mixed already.").format(name) for name in self.poured),
            self.faint,
            self.masks,
            self.effort,
            self.weather,
            test_first(self.step),
            *tool_state(self.step),
            pressure(self.step),
            *angles(self.step),
        )
        return tuple(words for words in said if words)

    @property
    def undoing(self) -> tuple[str, ...]:
        """How it can be undone, until when, the earliest first; with moments where it was done."""
        end = self.step.end if self.step.done else None
        said: list[str] = []
        for undo in undoing(self.step):
            if undo.until_min is None:
                said.append(_("Later: {0}").format(_(undo.how)) if said else _(undo.how))
            elif undo.until_min > 0 and end is not None:
                until = weekday_and_time(later(end, undo.until_min))
                said.append(_("Until {0}: {1}").format(until, _(undo.how)))
            elif undo.until_min > 0:
                said.append(_("For {0}: {1}").format(span(undo.until_min), _(undo.how)))
            else:
                said.append(_(undo.how))
        return tuple(said)

    @property
    def clearing(self) -> tuple[str, ...]:
        """How its tools are cleaned, and where what is left goes."""
        return clearing(self.step)

    @property
    def title(self) -> str:
        """What the step is called."""
        return self.step.name


def bench_steps(project: Project, cuts: Mapping[str, Strata], plan: PlanAnswer) -> tuple[BenchStep, ...]:
    """Every step of a plan as it is done at the bench, in order of time."""
    placed = plan.placed
    found: dict[str, list[Finding]] = {}
    for finding in plan.findings:
        found.setdefault(finding.step, []).append(finding)
    clocks, order = clocks_of(plan), Order(plan.question.work)
    numbers, turn = numbers_of(plan), in_turn(plan)
    cups, poured = _cups_by_step(project, turn)
    answer = []
    for step in turn:
        coats = coats_in(project, step.id)
        zones = tuple(zone for zone in project.zones if step.zones == "all" or zone.id in step.zones)
        answer.append(
            BenchStep(
                numbers[step.id], step, project.step(step.id).done, zones, len(zones) == len(project.zones), coats,
                laying_words(project, coats[0]) if coats else "",
                tuple(cups.get(step.id, ())), tuple(_colour(project, cuts[c.zone], c) for c in coats[:_MOST_COLOURS]),
                tuple(found.get(step.id, ())), cautions(step), placed.get(step.id), clocks.get(step.id),
                checks_before(project, order, step), _effort(project, zones) if step.nature.covers != "nothing" else "", _weather(project, step),
                _masks(order, order.place[step.id]), tuple(poured.get(step.id, ())), _faint(cuts, coats),
            )
        )  # fmt: skip
    return tuple(answer)


def _cups_by_step(
    project: Project, turn: Sequence[PlanStep]
) -> tuple[dict[str, list[Cup]], dict[str, list[str]]]:
    """The cups that are mixed in each step, and the names of those that were mixed before, in an earlier step of its sitting."""
    rank = {step.id: place for place, step in enumerate(turn)}
    mixed, poured = dict[str, list[Cup]](), dict[str, list[str]]()
    for coats in at_one_go(project):
        placed = sorted((coat for coat in coats if coat.step in rank), key=lambda coat: rank[coat.step])
        for cup in cups_of(project, placed):
            first, *others = dict.fromkeys(coat.step for coat in cup.coats)
            mixed.setdefault(first, []).append(cup)
            for step in others:
                poured.setdefault(step, []).append(cup.name)
    return mixed, poured


def step_details(project: Project, plan: PlanAnswer) -> dict[str, str]:
    """A few words on each step: the parts of its mix, else how it is laid, else where."""
    answer = {}
    for step in plan.question.work:
        coats = coats_in(project, step.id)
        recipe = project.recipe(coats[0].recipe) if coats and coats[0].recipe else None
        if recipe is not None and len(recipe.parts) > 1:
            words = " : ".join(str(count) for _version, count in recipe.parts)
        elif recipe is not None and recipe.parts:
            words = project.paint(recipe.parts[0][0]).name
        elif coats:
            words = laying_words(project, coats[0])
        else:
            zones = [zone.short for zone in project.zones if step.zones != "all" and zone.id in step.zones]
            words = ", ".join(zones) if len(zones) < len(project.zones) else _("the whole model")
            words = "" if step.name.endswith(words) else words
        answer[step.id] = words
    return answer


def _effort(project: Project, zones: Sequence[Zone]) -> str:
    """How much care a step's parts deserve: the signature most, what no photo shows least. Common practice without a source."""
    mine = {zone.id for zone in zones}
    first = next((feature for feature in project.features if feature.zone in mine), None)
    if first is not None:
        return _("The signature sits here: {0}. Take your time.").format(first.words)
    seen = {sample.zone for sample in project.samples} | {region.zone for region in project.regions}
    if mine and seen and not mine & seen:
        return _("No photo shows this part, so few will look at it: half the effort will do.")
    return ""


def _masks(order: Order, index: int) -> str:
    """What a mask is on against and when it comes off; under which masks a step is sprayed."""
    step = order[index]
    for bracket in order.brackets:
        if bracket.mask != index:
            continue
        sprays = ", ".join(order[i].name for i in order.sprays_under(bracket)) or _("nothing that is planned")
        if bracket.off is None:
            return _("Against: {0}. Nobody takes it off yet.").format(sprays)
        return _("Against: {0}. It comes off with “{1}”.").format(sprays, order[bracket.off].name)
    under = (
        [order[one.mask].name for one in order.brackets if index in order.sprays_under(one)]
        if step.sprayed
        else []
    )
    return _("Masked meanwhile: {0}.").format(", ".join(under)) if under else ""


def _faint(cuts: Mapping[str, Strata], coats: Sequence[Coat]) -> str:
    """What helps to see a film of nearly the colour that it lies on; empty where it shows by itself. Common practice without a source."""
    for coat in coats:
        if coat.nature.is_varnish or coat.nature.covers != "film" or coat.nature.is_found:
            continue
        band = next((band for band in cuts[coat.zone].bands if band.coat.id == coat.id), None)
        if band and band.lab and band.ground and float(delta_e00(band.ground, band.lab)) < _FAINT_DE00:
            if min(band.lab[0], band.ground[0]) > _PALE:
                return _(
                    "White over white: a drop of tint in the first pass, or a lamp from the side, shows where it lies."
                )
            return _("It hardly differs from what it lies on: a lamp from the side shows where it is wet.")
    return ""


def _weather(project: Project, step: PlanStep) -> str:
    """The limits for work outdoors."""
    if step.place != "outdoors":
        return ""
    limits = project.workplace
    return _(
        "Outdoors only dry and out of the sun, {0:g} to {1:g} °C, below {2:g} % damp and {3:g} m/s of wind."
    ).format(limits.coldest_c, limits.warmest_c, limits.dampest_percent, limits.windiest_m_s)


@dataclass(frozen=True)
class Timer:
    """A clock that runs since a step was done.

    kind : "ready" for what comes next, "closes" for until when it can be worked on, "look" for a look again
    words : what the time that is left is for; over : what is so when it is over
    """

    step: str
    kind: Literal["ready", "closes", "look"]
    moment: datetime
    words: str
    over: str

    @property
    def key(self) -> str:
        """What tells it from other clocks."""
        return f"{self.step} {self.kind} {self.words}"


def timers(plan: PlanAnswer, steps: Sequence[BenchStep]) -> tuple[Timer, ...]:
    """The clocks of steps that are done whose time was kept, the next first: they follow from the document alone, so a restart loses none."""
    work = plan.question.work
    found: dict[str, Timer] = {}
    before = plan.links
    ready: dict[tuple[int, datetime], list[str]] = {}
    for index, step in enumerate(work):
        for i, wait in before[index].items() if not step.done else ():
            end = work[i].end
            if work[i].done and end is not None and wait > 0:
                ready.setdefault((i, later(end, wait)), []).append(step.name)
    for (i, moment), names in ready.items():
        pair = work[i].name, "; ".join(names[:_MOST_NAMED])
        words, over = _("until {0} is ready for {1}").format(*pair), _("{0} is ready for {1}").format(*pair)
        timer = Timer(work[i].id, "ready", moment, words, over)
        found[timer.key] = timer
    for one in steps:
        step = one.step
        if not step.done or step.end is None:
            continue
        until = removable_for(step)
        if until is not None:
            words = _("left to wipe or draw out {0}").format(step.name)
            over = _("{0} can no longer be wiped or drawn out").format(step.name)
            timer = Timer(step.id, "closes", later(step.end, until), words, over)
            found[timer.key] = timer
        for look in looks_again(step):
            timer = Timer(
                step.id,
                "look",
                later(step.end, look.after_min),
                _("until you look again at {0}").format(f"{step.name}: {_(look.words)}"),
                f"{step.name}. {_(look.words)}",
            )
            found[timer.key] = timer
    return tuple(sorted(found.values(), key=lambda timer: timer.moment.timestamp()))


def _colour(project: Project, cut: Strata, coat: Coat) -> StepColour:
    band = next(band for band in cut.bands if band.coat.id == coat.id)
    target = target_for(cut.targets, coat.kind, coat.name)[0] if coat.nature.stage != "seen" else None
    marks = coat.nature.in_spots and coat.area_share < _MARKS_BELOW
    return StepColour(
        project.zone(coat.zone), band.lab, target, band.ground if marks else None, coat.area_share
    )


def laying_words(project: Project, coat: Coat) -> str:
    """How a coat is thinned and laid, such as "60 % thinner, 2 coats, airbrush" or "1 : 20 thinner, 2 passes"."""
    words = [*_thinning(project, coat), *([_(TOOLS[coat.tool].words)] if coat.nature.tools else [])]
    if coat.area_share < 1:
        words.append(_("on {0} % of the area").format(f"{100 * coat.area_share:.3g}"))
    if coat.speck_mm:
        words.append(_("specks of about {0:g} mm").format(coat.speck_mm))
    if coat.profile:
        words.append(run_words(coat))
    if coat.down_to:
        words.append(_("down to {0}").format(coat_name(project.coat(coat.down_to))))
    return ", ".join(words)


def _thinning(project: Project, coat: Coat) -> list[str]:
    kind, tool = coat.nature, TOOLS[coat.tool]
    if kind.loose(medium_of(project, coat)):
        mixed = project.recipe(coat.recipe).parts if coat.recipe else ()
        names = [(project.paint(version).name, count) for version, count in mixed]
        return [*(f"{count} {name}" if len(names) > 1 else name for name, count in names), _("dry")]
    if not kind.tools:
        return []
    words = [passes_words(coat)]
    if coat.thinner_share and tool.drawn_out:
        parts = f"{coat.thinner_share / (1 - coat.thinner_share):.0f}"
        words.insert(0, _("1 : {0} thinner").format(parts))
    elif coat.thinner_share:
        words.insert(0, _("{0} % thinner").format(f"{100 * coat.thinner_share:.0f}"))
    if coat.wiped:
        words.append(_("drawn out to a veil, {0} % taken up again").format(f"{100 * coat.wiped:.0f}"))
    if coat.carrier and coat.thinner_share:
        words[0] = _("{0}, {1}").format(words[0], _(CARRIERS[coat.carrier].words))
    return words


def span(minutes: float) -> str:
    """A wait in the unit people use.

    >>> span(90), span(1440), span(20)
    ('1 h 30', '24 h', '20 min')
    """
    if minutes < 60:
        return _("{0} min").format(f"{round(minutes) if minutes >= 1 else minutes:g}")
    hours, rest = divmod(round(minutes), 60)
    return _("{0} h {1}").format(hours, f"{rest:02d}") if rest else _("{0} h").format(hours)


def span_of(delta: timedelta) -> str:
    """A length of time in the unit people use."""
    return span(delta.total_seconds() / 60)
