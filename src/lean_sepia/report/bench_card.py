"""The bench card: what to mix, in which order, how long to wait and what to watch, on A4 paper."""

from __future__ import annotations

import io
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    BaseDocTemplate,
    Flowable,
    Frame,
    HRFlowable,
    KeepTogether,
    PageTemplate,
    Spacer,
)

from lean_sepia.answers import plan
from lean_sepia.answers.amounts import Cup, amount_words, cup_notes
from lean_sepia.answers.bench import BenchStep, bench_steps, laying_words, span
from lean_sepia.answers.strata import Band, Strata, strata_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.words import colour_name, difference
from lean_sepia.document.called import with_short_names
from lean_sepia.document.model import Project, Zone
from lean_sepia.errors import BadInputError
from lean_sepia.files.gate import write_export
from lean_sepia.language import _, clock, day, weekday_and_time
from lean_sepia.plan.care.cautions import DEFER
from lean_sepia.plan.care.looking import looks_again
from lean_sepia.plan.hours.wall_clock import later
from lean_sepia.plan.waits.drying import removable_for
from lean_sepia.recipe.parts import volume_words
from lean_sepia.report.export import Leaving
from lean_sepia.report.flowables import HAIR, INK, SECOND, Drops, Field, Sign, grid, words
from lean_sepia.report.fonts import REGULAR, register_fonts

_MARGIN, _HEAD, _FOOT = 14 * mm, 10 * mm, 12 * mm
_WIDTH = A4[0] - 2 * _MARGIN
_ROOM = A4[1] - 2 * _MARGIN - _HEAD - _FOOT + 6 * mm
_CORE, _GAP, _SWATCHES = 56 * mm, 5 * mm, 32 * mm
_MIXES = _WIDTH - _CORE - _SWATCHES - 2 * _GAP
_MOST_DOTS = 10
_LONGEST_NAME = 80


def bench_card(project: Project) -> bytes:
    """The bench card of a project as a PDF."""
    register_fonts()
    project = with_short_names(project, _LONGEST_NAME)
    cuts = {zone.id: strata_of(project, zone.id) for zone in project.zones}
    steps = bench_steps(project, cuts, plan.answer(plan.ask(project)))
    by_coat = {coat.id: cup for step in steps for cup in step.cups for coat in cup.coats}
    out = io.BytesIO()
    template = BaseDocTemplate(
        out, pagesize=A4, title=_("Bench card: {0}").format(project.title), creator="Lean Sepia", invariant=1,
    )  # fmt: skip
    frame = Frame(
        _MARGIN, _MARGIN + _FOOT - 6 * mm, _WIDTH, _ROOM,
        leftPadding=0, rightPadding=0, topPadding=0, bottomPadding=0,
    )  # fmt: skip
    heading = _heading(project)
    template.addPageTemplates(
        PageTemplate(frames=[frame], onPage=lambda canvas, _doc: _page(canvas, heading))
    )
    story: list[Flowable] = [
        words(_("Bench card: {0}").format(project.title), 16, bold=True),
        Spacer(0, 2 * mm),
    ]
    if project.signature:
        story.append(words(_("Signature, done first and best: {0}.").format(project.signature)))
    story += _zones(project, cuts, by_coat)
    story += _order(steps)
    template.build(story)
    return out.getvalue()


def write_bench_card(project: Project, path: str | Path) -> None:
    """Write the bench card beside its place first, then rename.

    Raises
    ------
    BadInputError
        The place cannot be written to.
    """
    write_export(path, bench_card(project), BadInputError)


def write_card(leaving: Leaving, path: str | Path) -> None:
    """Write the bench card of a project."""
    write_bench_card(leaving.project, path)


# The page


def _heading(project: Project) -> str:
    labels = [
        f"{subject.name} · 1:{subject.scale:g}" + (f" · {subject.livery}" if subject.livery else "")
        for subject in project.subjects
    ]
    if any(subject.what_if for subject in project.subjects):
        labels.append(_("WHAT IF: no prototype looked like this"))
    return " · ".join(labels)


def _page(canvas: Canvas, heading: str) -> None:
    """Heading, page number, and a line of 100 mm: lay a ruler on it before measuring anything else on the page."""
    width, height = A4
    canvas.setFont(REGULAR, 8)
    canvas.setFillColor(SECOND)
    number = _("page {0}").format(canvas.getPageNumber())
    room = _WIDTH - canvas.stringWidth(number, REGULAR, 8) - 6 * mm
    while heading and canvas.stringWidth(heading, REGULAR, 8) > room:
        heading = heading[:-2].rstrip("… ") + "…"
    canvas.drawString(_MARGIN, height - _MARGIN, heading)
    canvas.drawRightString(width - _MARGIN, height - _MARGIN, number)
    y = _MARGIN - 2 * mm
    canvas.setLineWidth(0.6)
    canvas.setStrokeColor(INK)
    canvas.line(_MARGIN, y, _MARGIN + 100 * mm, y)
    for tick in range(11):
        size = 2.2 * mm if tick % 5 == 0 else 1.2 * mm
        canvas.line(_MARGIN + tick * 10 * mm, y, _MARGIN + tick * 10 * mm, y + size)
    canvas.setFont(REGULAR, 7)
    canvas.drawString(_MARGIN + 104 * mm, y, _("100 mm: if a ruler disagrees, print without scaling"))


def _rule() -> HRFlowable:
    return HRFlowable(width="100%", thickness=0.4, color=HAIR, spaceBefore=2.5 * mm, spaceAfter=2.5 * mm)


# The zones


def _zones(project: Project, cuts: Mapping[str, Strata], by_coat: Mapping[str, Cup]) -> list[Flowable]:
    shown = [zone for zone in project.zones if cuts[zone.id].bands]
    bare = [zone.name for zone in project.zones if not cuts[zone.id].bands]
    story: list[Flowable] = []
    for zone in shown:
        story += _together([_rule(), *_zone(project, zone, cuts[zone.id], by_coat)])
    if bare:
        story += [_rule(), words(_("Without a coat yet: {0}.").format(", ".join(bare)), second=True)]
    return story


def _together(parts: list[Flowable]) -> list[Flowable]:
    """Parts on one page, where they fit on one; else they begin where there is room."""
    high = sum(part.wrap(_WIDTH, _ROOM)[1] for part in parts)
    return [KeepTogether(parts)] if high <= _ROOM else parts


def _zone(project: Project, zone: Zone, cut: Strata, by_coat: Mapping[str, Cup]) -> list[Flowable]:
    area = _("{0} cm²").format(f"{zone.area_cm2:g}") if zone.area_cm2 else _("area not given")
    head = grid([[words(zone.name, 12, bold=True), words(area, 9, second=True, right=True)]],
                [_WIDTH - 40 * mm, 40 * mm])  # fmt: skip
    mixes: list[Flowable] = []
    for band in cut.bands:
        cup = by_coat.get(band.coat.id)
        if cup is not None and band.coat.on:
            mixes += [*_mix(project, cup, zone), Spacer(0, 2 * mm)]
    columns = grid(
        [[_core(cut.bands), "", mixes or "", "", _swatches(cut) or ""]],
        [_CORE, _GAP, _MIXES, _GAP, _SWATCHES],
    )
    return [head, Spacer(0, 2 * mm), columns]


def _core(bands: Sequence[Band]) -> Flowable:
    """The cut through the coats, top coat on top."""
    rows, heights = [], []
    for band in reversed(bands):
        height = min(16 * mm, max(8.4 * mm, 9 * mm * band.film * band.coat.area_share))
        text = (
            [words(band.name, 8), words(band.detail, 6.8, second=True)]
            if band.detail
            else words(band.name, 8)
        )
        rows.append([Field([band.lab if band.coat.on else None], 14 * mm, height), "", text])
        heights.append(height)
    return grid(rows, [14 * mm, 2 * mm, _CORE - 16 * mm], top=False)


def _mix(project: Project, cup: Cup, zone: Zone) -> list[Flowable]:
    """What goes into one cup; told once, where it serves several zones."""
    coat = next(coat for coat in cup.coats if coat.zone == zone.id)
    half = _MIXES / 2
    head = grid(
        [[words(cup.name, 9, bold=True), words(laying_words(project, coat), 7.2, second=True, right=True)]],
        [half, half],
    )
    if cup.coats[0].zone != zone.id:
        return [head, words(_("from the same cup"), 8, second=True)]
    rows: list[list[Any]] = []
    for line in cup.lines:
        dots = Drops(line.count) if len(cup.lines) > 1 and line.count <= _MOST_DOTS else ""
        rows.append([words(str(line.count), bold=True), words(line.name, 8.6), dots,
                     words(amount_words(line.amount), 8, right=True)])  # fmt: skip
    if cup.thinner_ml > 0:
        amount = volume_words(cup.thinner_ml)
        rows.append(["", words(_("thinner"), 8.6, second=True), "", words(amount, 8, right=True)])
    body = grid(rows, [6 * mm, _MIXES - (6 + 27.5 + 25) * mm, 27.5 * mm, 25 * mm], padding=0.4)
    return [head, body, *(words(note, 7.2, second=True) for note in cup_notes(cup))]


def _swatches(cut: Strata) -> list[Flowable]:
    """Target and prediction edge to edge for each stage that has both."""
    story: list[Flowable] = []
    for name, target, predicted in (
        (_("fresh"), cut.targets.fresh, cut.fresh),
        (_("faded"), cut.targets.exposed, cut.exposed),
        (_("seen"), cut.targets.seen, cut.seen),
    ):
        if target is None:
            continue
        story += [Field([target.lab, predicted], _SWATCHES, 7 * mm), Spacer(0, 0.8 * mm)]
        if predicted:
            said = _("{0}: target | predicted, {1} ΔE00. {2}").format(
                name, f"{float(delta_e00(target.lab, predicted)):.1f}",
                difference(target.lab, predicted).words.capitalize(),
            )  # fmt: skip
        else:
            said = f"{name}: {colour_name(target.lab)}"
        story += [words(said, 6.5, second=True), Spacer(0, 1.5 * mm)]
    return story


# The order of work


def _order(steps: Sequence[BenchStep]) -> list[Flowable]:
    if not steps:
        return []
    head: list[Flowable] = [_rule(), words(_("Order of work"), 13, bold=True), Spacer(0, 2 * mm)]
    first, *rest = [_step(step) for step in steps]
    story: list[Flowable] = [KeepTogether([*head, *first]), *(KeepTogether(step) for step in rest)]
    return [*story, Spacer(0, 2 * mm), words(_(DEFER), 8, second=True)]


def _step(step: BenchStep) -> list[Flowable]:
    row = [
        Sign(box=True),
        words(str(step.number), bold=True),
        words(step.title),
        words(_waits(step), 8, second=True, right=True),
    ]
    wide = _WIDTH - (6 + 7) * mm
    story: list[Flowable] = [grid([row], [6 * mm, 7 * mm, wide * 0.42, wide * 0.58], padding=0.6)]
    if step.how and not step.cups:  # what is mixed stands with its zone
        story.append(grid([["", words(step.how, 8, second=True)]], [13 * mm, _WIDTH - 13 * mm], padding=0.3))
    stops = [(finding.message, True) for finding in step.findings]
    notes = [_limits(step), *step.cautions, *_looks(step)]
    for said, filled in [*stops, *((words_, False) for words_ in notes if words_)]:
        line = ["", Sign(filled), words(said, 8, second=not filled)]
        story.append(grid([line], [13 * mm, 4 * mm, _WIDTH - 17 * mm], padding=0.3))
    return story


def _waits(step: BenchStep) -> str:
    """When it is done, from when and until when something may follow, as in Plan and on Bench."""
    said = []
    if step.placed is not None:
        said.append(f"{day(step.placed.start)}, {clock(step.placed.start)}–{clock(step.placed.end)}")
        said.append(_("ready {0}").format(weekday_and_time(step.placed.ready)))
    else:
        said.append(_("{0} at the bench").format(span(step.step.hands_min)))
    until = removable_for(step.step)
    if until is not None:
        said.append(_("can be wiped off for {0}").format(span(until)))
    return ", ".join(said)


def _limits(step: BenchStep) -> str:
    """What presses: before when it is late, and after when nothing more can be done."""
    if step.clocks is None or (step.clocks.late is None and step.clocks.closed is None):
        return ""
    said = []
    if step.clocks.late is not None:
        said.append(_("better not after {0}").format(weekday_and_time(step.clocks.late)))
    if step.clocks.closed is not None:
        said.append(_("not after {0}").format(weekday_and_time(step.clocks.closed)))
    return ", ".join(said)


def _looks(step: BenchStep) -> list[str]:
    """When to look at it again, with the day."""
    end = step.placed.end if step.placed is not None else None
    said = []
    for look in looks_again(step.step):
        when = (
            weekday_and_time(later(end, look.after_min))
            if end
            else _("after {0}").format(span(look.after_min))
        )
        said.append(_("Look again {0}: {1}").format(when, _(look.words)))
    return said
