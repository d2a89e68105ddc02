"""The bench card: what to mix, in which order, how long to wait and what to watch, on A4 paper."""

from __future__ import annotations

import io
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfgen.canvas import Canvas

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.srgb import screen_rgb
from lean_sepia.colour.words import colour_name, difference
from lean_sepia.errors import BadInputError
from lean_sepia.plan.cautions import DEFER, cautions
from lean_sepia.plan.rules import check_plan
from lean_sepia.plan.step import PlanStep
from lean_sepia.project.edits import plan_steps
from lean_sepia.project.model import Coat, Lab, Project, Zone
from lean_sepia.project.paints import portions
from lean_sepia.project.strata import Strata, strata_of
from lean_sepia.recipe.parts import DROPS_PER_ML, drops_for
from lean_sepia.report.fonts import BOLD, REGULAR, register_fonts
from lean_sepia.text_files import write_whole

_MARGIN = 14 * mm
_LINE = 4.6 * mm
_INK, _SECOND, _HAIR = 0.11, 0.33, 0.72
_DEFAULT_ML = 6.0
_MOST_COUNTED_DROPS = 10


@dataclass
class _Page:
    """A canvas with a cursor that runs down the page."""

    canvas: Canvas
    heading: str
    y: float = 0.0
    number: int = 0

    def begin(self) -> None:
        """Start a page with its heading and the check line."""
        if self.number:
            self.canvas.showPage()
        self.number += 1
        width, height = A4
        self.y = height - _MARGIN
        self.text(_MARGIN, self.heading, 9, second=True)
        self.canvas.drawRightString(width - _MARGIN, self.y, f"page {self.number}")
        self._check_line()
        self.y -= 8 * mm

    def _check_line(self) -> None:
        """A line of 100 mm at the foot: lay a ruler on it before measuring anything else on the page."""
        y, x = _MARGIN - 2 * mm, _MARGIN
        self.canvas.setLineWidth(0.6)
        self.canvas.setStrokeGray(_INK)
        self.canvas.line(x, y, x + 100 * mm, y)
        for tick in range(11):
            size = 2.2 * mm if tick % 5 == 0 else 1.2 * mm
            self.canvas.line(x + tick * 10 * mm, y, x + tick * 10 * mm, y + size)
        self.canvas.setFont(REGULAR, 7)
        self.canvas.setFillGray(_SECOND)
        self.canvas.drawString(x + 104 * mm, y, "100 mm: if a ruler disagrees, print without scaling")

    def need(self, height: float) -> None:
        """Start a new page unless this much room is left."""
        if self.y - height < _MARGIN + 8 * mm:
            self.begin()

    def text(
        self, x: float, words: str, size: float = 9, *, bold: bool = False, second: bool = False
    ) -> None:
        """One line at the cursor's height."""
        self.canvas.setFont(BOLD if bold else REGULAR, size)
        self.canvas.setFillGray(_SECOND if second else _INK)
        self.canvas.drawString(x, self.y, words)

    def paragraph(self, x: float, words: str, width: float, size: float = 9, *, second: bool = False) -> None:
        """Wrapped text; the cursor ends below it."""
        for line in _wrapped(words, width, size):
            self.need(_LINE)
            self.text(x, line, size, second=second)
            self.y -= _LINE * size / 9

    def swatch(self, x: float, y: float, width: float, height: float, lab: Lab | None) -> None:
        """A field of one colour, hatched where the colour is not known."""
        if lab is None:
            self.canvas.setStrokeGray(_SECOND)
            self.canvas.setLineWidth(0.4)
            self.canvas.rect(x, y, width, height, fill=0)
            self.canvas.line(x, y, x + width, y + height)
            return
        (red, green, blue), _ = screen_rgb(lab)
        self.canvas.setFillColorRGB(red / 255, green / 255, blue / 255)
        self.canvas.rect(x, y, width, height, stroke=0, fill=1)

    def hairline(self) -> None:
        """A thin line across the page."""
        self.canvas.setStrokeGray(_HAIR)
        self.canvas.setLineWidth(0.4)
        self.canvas.line(_MARGIN, self.y, A4[0] - _MARGIN, self.y)


def _wrapped(words: str, width: float, size: float) -> list[str]:
    lines, current = [], ""
    for word in words.split():
        trial = f"{current} {word}".strip()
        if current and pdfmetrics.stringWidth(trial, REGULAR, size) > width:
            lines.append(current)
            current = word
        else:
            current = trial
    return [*lines, current] if current else lines


def bench_card(project: Project, *, volume_ml: float = _DEFAULT_ML) -> bytes:
    """The bench card of a project as a PDF.

    `volume_ml` is how much of each mix the drops are counted for.
    """
    register_fonts()
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=A4, invariant=True)
    canvas.setTitle(f"Bench card: {project.title}")
    canvas.setCreator("Lean Sepia")
    labels = [f"{s.name} · 1:{s.scale:g}{' · ' + s.livery if s.livery else ''}" for s in project.subjects]
    what_if = any(subject.what_if for subject in project.subjects)
    page = _Page(
        canvas, " | ".join(labels) + (" · WHAT IF: no prototype looked like this" if what_if else "")
    )
    page.begin()
    page.text(_MARGIN, f"Bench card: {project.title}", 16, bold=True)
    page.y -= 7 * mm
    if project.signature:
        page.paragraph(_MARGIN, f"Signature, done first and best: {project.signature}.", A4[0] - 2 * _MARGIN)
    page.y -= 2 * mm
    for zone in project.zones:
        _zone(page, project, zone, strata_of(project, zone.id), volume_ml)
    _order(page, project)
    canvas.save()
    return out.getvalue()


def write_bench_card(project: Project, path: str | Path, *, volume_ml: float = _DEFAULT_ML) -> None:
    """Write the bench card beside its place first, then rename.

    Raises
    ------
    BadInputError
        The place cannot be written to.
    """
    data = bench_card(project, volume_ml=volume_ml)
    try:
        write_whole(path, data)
    except OSError as error:
        raise BadInputError(
            f"The card {path} cannot be written: {error.strerror}. Choose another folder."
        ) from None


def _zone(page: _Page, project: Project, zone: Zone, cut: Strata, volume_ml: float) -> None:
    mixes = [band.coat for band in cut.bands if band.coat.recipe and band.coat.on]
    heights = _band_heights(cut)
    mix_lines = sum(len(project.recipe(coat.recipe or "").parts) + 1.6 for coat in mixes)
    tall = max(sum(heights), mix_lines * _LINE, 16 * mm) + 14 * mm
    page.need(tall)
    page.hairline()
    page.y -= 6 * mm
    page.text(_MARGIN, zone.name, 12, bold=True)
    if zone.area_cm2:
        page.text(_MARGIN + 62 * mm, f"{zone.area_cm2:g} cm²", 9, second=True)
    page.y -= 4 * mm
    top = page.y
    _column(page, cut, heights)
    column_bottom = page.y
    page.y = top
    _swatches(page, cut)
    page.y = top - 3 * mm
    for coat in mixes:
        _mix(page, project, coat, volume_ml)
    page.y = min(page.y, column_bottom, top - 22 * mm) - 4 * mm


def _band_heights(cut: Strata) -> list[float]:
    return [min(16 * mm, max(5.4 * mm, 9 * mm * band.film * band.coat.area_share)) for band in cut.bands]


def _column(page: _Page, cut: Strata, heights: Sequence[float]) -> None:
    """The cut through the coats, top coat on top."""
    for band, height in reversed(list(zip(cut.bands, heights, strict=True))):
        page.y -= height
        page.swatch(_MARGIN, page.y, 16 * mm, height, band.lab if band.coat.on else None)
        page.canvas.setStrokeGray(_HAIR)
        page.canvas.setLineWidth(0.4)
        page.canvas.line(_MARGIN, page.y, _MARGIN + 62 * mm, page.y)
        base = page.y
        page.y = base + height / 2 - 1.0 * mm
        page.text(_MARGIN + 18 * mm, band.coat.name, 8)
        page.canvas.setFont(REGULAR, 7)
        page.canvas.setFillGray(_SECOND)
        page.canvas.drawRightString(_MARGIN + 62 * mm, page.y, band.detail)
        page.y = base


def _swatches(page: _Page, cut: Strata) -> None:
    """Target and prediction edge to edge for each stage that has both."""
    x = _MARGIN + 148 * mm
    for name, target, predicted in (
        ("fresh", cut.targets.fresh, cut.fresh),
        ("exposed", cut.targets.exposed, cut.exposed),
        ("seen", cut.targets.seen, cut.seen),
    ):
        if target is None:
            continue
        page.y -= 8 * mm
        page.swatch(x, page.y, 17 * mm, 7 * mm, target.lab)
        page.swatch(x + 17 * mm, page.y, 17 * mm, 7 * mm, predicted)
        page.y -= 3 * mm
        if predicted:
            words = f"{name}: target | predicted, {float(delta_e00(target.lab, predicted)):.1f} ΔE00"
        else:
            words = f"{name}: {colour_name(target.lab)}"
        if predicted:
            words += f". {difference(target.lab, predicted).words.capitalize()}"
        for line in _wrapped(words, 34 * mm, 6.5):
            page.text(x, line, 6.5, second=True)
            page.y -= 2.7 * mm


def _mix(page: _Page, project: Project, coat: Coat, volume_ml: float) -> None:
    x = _MARGIN + 68 * mm
    recipe = project.recipe(coat.recipe or "")
    lines = portions(project, recipe)
    rates = [project.paint(line.version).drops_per_ml or DROPS_PER_ML for line in lines if line.version]
    drops = drops_for([line.count for line in lines], volume_ml, sum(rates) / len(rates))
    page.text(x, coat.name, 9, bold=True)
    page.canvas.setFont(REGULAR, 7.5)
    page.canvas.setFillGray(_SECOND)
    page.canvas.drawRightString(x + 76 * mm, page.y, laying_words(coat))
    page.y -= _LINE
    for line, drop_count in zip(lines, drops, strict=True):
        page.text(x + 2 * mm, f"{line.count}", 9, bold=True)
        page.text(x + 9 * mm, line.name, 9)
        if line.count <= _MOST_COUNTED_DROPS:
            for index in range(line.count):
                page.canvas.setFillGray(_SECOND)
                page.canvas.circle(x + (42 + index * 2.7) * mm, page.y + 1 * mm, 0.95 * mm, stroke=0, fill=1)
        page.canvas.setFont(REGULAR, 8)
        page.canvas.setFillGray(_SECOND)
        if len(lines) > 1:
            page.canvas.drawRightString(x + 76 * mm, page.y, f"{drop_count} drops")
        page.y -= _LINE
    page.y -= 0.6 * _LINE


def laying_words(coat: Coat) -> str:
    """How a coat is thinned and laid, such as "60 % thinner, 2 coats, airbrush" or "1 : 20 thinner, 2 passes"."""
    glazed = coat.application == "glaze"
    unit = "pass" if glazed else "coat"
    plural = "" if coat.passes == 1 else "es" if glazed else "s"
    words = [f"{coat.passes} {unit}{plural}"]
    if coat.thinner_share:
        thinned = f"{100 * coat.thinner_share:.0f} % thinner"
        if glazed:
            thinned = f"1 : {coat.thinner_share / (1 - coat.thinner_share):.0f} thinner"
        words.insert(0, thinned)
    if not glazed:
        words.append(coat.application)
    return ", ".join(words)


def _order(page: _Page, project: Project) -> None:
    steps = plan_steps(project)
    if not steps:
        return
    page.need(40 * mm)
    page.hairline()
    page.y -= 7 * mm
    page.text(_MARGIN, "Order of work", 13, bold=True)
    page.y -= 6 * mm
    findings = check_plan(steps)
    warned: dict[str, list[str]] = {}
    for finding in findings:
        warned.setdefault(finding.step, []).append(finding.message)
    for number, step in enumerate(steps, start=1):
        _step(page, number, step, warned.get(step.id, []))
    page.y -= 2 * mm
    page.paragraph(_MARGIN, DEFER, A4[0] - 2 * _MARGIN, 8, second=True)


def _step(page: _Page, number: int, step: PlanStep, warnings: Sequence[str]) -> None:
    page.need(3 * _LINE)
    page.canvas.setLineWidth(0.5)
    page.canvas.setStrokeGray(_INK)
    page.canvas.rect(_MARGIN, page.y - 0.6 * mm, 3 * mm, 3 * mm, fill=0)
    page.text(_MARGIN + 6 * mm, f"{number}", 9, bold=True)
    page.text(_MARGIN + 13 * mm, step.name, 9)
    waits = [f"{step.hands_on_min:g} min at the bench"]
    if step.touch_dry_min:
        waits.append(f"touch-dry {span(step.touch_dry_min)}")
    if step.full_cure_min:
        waits.append(f"cured {span(step.full_cure_min)}")
    if step.removable_until_min is not None:
        waits.append(f"can be wiped off for {span(step.removable_until_min)}")
    page.canvas.setFont(REGULAR, 8)
    page.canvas.setFillGray(_SECOND)
    page.canvas.drawRightString(A4[0] - _MARGIN, page.y, ", ".join(waits))
    page.y -= _LINE
    for words in (*warnings, *cautions(step)):
        # The font has no diamond: it is drawn, as on screen.
        page.need(_LINE)
        diamond = page.canvas.beginPath()
        x, y = _MARGIN + 14 * mm, page.y + 1 * mm
        for index, (dx, dy) in enumerate(((0, 1.1), (1.1, 0), (0, -1.1), (-1.1, 0))):
            move: Callable[[float, float], None] = diamond.lineTo if index else diamond.moveTo
            move(x + dx * mm, y + dy * mm)
        diamond.close()
        page.canvas.drawPath(diamond, stroke=1, fill=int(words in warnings))
        page.paragraph(
            _MARGIN + 17 * mm, words, A4[0] - 2 * _MARGIN - 17 * mm, 8, second=words not in warnings
        )


def span(minutes: float) -> str:
    """A wait in the unit people use.

    >>> span(90), span(1440), span(20)
    ('1 h 30', '24 h', '20 min')
    """
    if minutes < 60:
        return f"{minutes:g} min"
    hours, rest = divmod(round(minutes), 60)
    return f"{hours} h {rest:02d}" if rest else f"{hours} h"


def card_name(project: Project) -> str:
    """A file name for the card of a project, with the day it was made."""
    safe = (
        "".join(letter if letter.isalnum() else "-" for letter in project.title.lower()).strip("-") or "card"
    )
    return f"{safe}-bench-card-{datetime.now():%Y-%m-%d}.pdf"
