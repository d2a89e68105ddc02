"""How worn a part of a photo of the prototype is, kind by kind, and the photo beside the plan that follows from it."""

from __future__ import annotations

import cv2
import numpy as np
from PySide6.QtCore import Signal

from lean_sepia.answers.preview.texture import Frame
from lean_sepia.answers.wearing.planning import WearRow, measured_kinds, vehicle_total
from lean_sepia.answers.wearing.simulating import Simulated, simulate
from lean_sepia.answers.wearing.surveying import WearAnswer, beside, measured_region
from lean_sepia.answers.wearing.tinting import tint_draft
from lean_sepia.answers.wearing.told import beside_words, doubts_words, grade_words, worn_words
from lean_sepia.arrays import FloatArray, Image8
from lean_sepia.colour.srgb import screen_pixels
from lean_sepia.colour.words import difference
from lean_sepia.document.edits.photos import place_region
from lean_sepia.document.edits.wear import plan_wear
from lean_sepia.document.entities.worn import PlannedWear, WearPlan, WearRecord
from lean_sepia.document.model import Project
from lean_sepia.language import _
from lean_sepia.ui.kit.job import Progress
from lean_sepia.ui.kit.panel import Panel, button, line, row
from lean_sepia.ui.kit.rows import Rows
from lean_sepia.ui.kit.true_size import px_per_mm
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.wear.beside_panel import HEIGHT, BesidePanel
from lean_sepia.ui.wear.measured import HeightsPanel, SizesPanel
from lean_sepia.ui.wear.photo_page import PhotoPage
from lean_sepia.ui.wear.planned import Planned

_ENLARGED = 5.0
_SEEN_SHIFT = 0.1  # of L*a*b*, below which a tint is none


class PrototypePage(PhotoPage):
    """Trace a part, point at the ground and at each kind, measure; choose how heavy it is to be."""

    draft_wanted = Signal(object)

    def __init__(self, session: Session, planned: Planned) -> None:
        super().__init__(session, planned)
        self.beside = BesidePanel()
        self.beside.heaviness.moved.connect(planned.preview)
        self.beside.heaviness.chosen.connect(planned.keep_heaviness)
        planned.previewed.connect(self._draw)
        self.body.addWidget(self.beside)
        self.sizes, self.heights = SizesPanel(), HeightsPanel()
        self._all_panel = Panel(_("In all"))
        self._lines = Rows(spacing=4)
        self.to_glaze = button(
            _("Make it a filter…"), "tool", _("The sheet with the filter that does as much")
        )
        self.to_glaze.clicked.connect(self._hand_to_glaze)
        self._all_panel.add(self._lines)
        self._all_panel.add(row(self.to_glaze, None))
        for panel in (self.sizes, self.heights, self._all_panel):
            self.side.addWidget(panel)
        self._tint: tuple[float, float, float] | None = None
        self._record: WearRecord | None = None

    def show_record(self, record: WearRecord | None) -> None:
        project, zone = self.session.project, self.session.zone
        self._record = record
        self.pointing.show_marks()
        measured = record is not None
        self.beside.setVisible(bool(self.planned.plan.kinds) and measured)
        self.beside.heaviness.show_heaviness(self.planned.plan.heaviness, measured=True)
        for panel in (self.sizes, self.heights, self._all_panel):
            panel.setVisible(measured)
        if record is None or not zone:
            self.said.emit(_("Not measured yet."), self.what_is_missing())
            self.show_pointed()
            return
        self.said.emit(worn_words(record), self._remarks(record))
        self.planned.when_known(lambda rows: self._show_rows(record, rows))
        scale = self.planned.scale
        self.sizes.show_sizes(self._sizes() / scale, record, scale)
        self.heights.show_record(record)
        self._show_all(project, zone, record)
        self._draw()

    def _show_rows(self, record: WearRecord, rows: tuple[WearRow, ...]) -> None:
        if record is self._record:  # still what is looked at
            self.kinds.show_rows(record, rows, self.pointing.hidden)

    def _show_all(self, project: Project, zone: str, record: WearRecord) -> None:
        region = self._region()
        lines = [*(beside_words(record, *other) for other in (beside(project, region) if region else []))]
        total = vehicle_total(project, project.zone(zone).subject)
        if total:
            lines.append(_("Whole model: {0} % worn, as planned.").format(f"{100 * total:.1f}"))
        if grade := grade_words(record):
            lines.append(grade)
        shift = record.tint_lab_shift
        self._tint = shift if shift is not None and float(np.linalg.norm(shift)) >= _SEEN_SHIFT else None
        if self._tint is not None:
            base = np.array(self.session.cut(zone).fresh or (50, 0, 0))
            words = _("What is too small to be seen makes the paint {0}.")
            lines.append(words.format(difference(base, base + np.array(self._tint)).words))
        self.to_glaze.setVisible(self._tint is not None)
        self._all_panel.setVisible(bool(lines))
        self._lines.fill([line(words, "second") for words in lines])

    def _sizes(self) -> FloatArray:
        return self.answer.sizes_mm if self.answer is not None else np.array([])

    def _remarks(self, record: WearRecord) -> str:
        words = [self.session.project.zone(self.session.zone).name]
        if record.mm_per_px is None:
            words.append(_("No length is known: shares only, no sizes"))
        if self.answer is not None:
            words += doubts_words(self.answer.survey)
        return ". ".join(words)

    def _hand_to_glaze(self) -> None:
        if self._tint is None:
            return
        draft = tint_draft(self.session.project, self.session.zone, self._tint, self.planned.bottles)
        if draft is None:
            self.session.refused.emit(
                _(
                    "A filter needs a base below it and a bottle that can be thinned. Lay the zone's base first."
                )
            )
        else:
            self.draft_wanted.emit(draft)

    # Photo and plan, edge to edge

    def _draw(self) -> None:
        """Draw the plan beside the photo, at one scale, in the background."""
        project, zone, plan = self.session.project, self.session.zone, self.planned.plan
        if not plan.kinds or not zone or not self.beside.isVisibleTo(self):
            return
        width = max(120, self.beside.width() // 2)
        answer, usual = self.answer, px_per_mm(self) * _ENLARGED
        self.beside.show_captions(
            _("Photo, in even light") if answer is not None else "",
            _("As planned, at 1:{0}").format(f"{self.planned.scale:g}"),
        )
        bottles = self.planned.bottles

        def draw(_progress: Progress) -> tuple[Image8 | None, Simulated | None]:
            left, per_mm = _patch(answer, width, usual)
            return left, simulate(project, zone, plan, bottles, Frame(width, HEIGHT, per_mm, 1))

        def done(drawn: tuple[Image8 | None, Simulated | None]) -> None:
            left, found = drawn
            words = (
                _("The photo beside the plan")
                if found
                else _("Give this zone its colour first: sample it, or lay its base.")
            )
            self.beside.pair.show_pair(left, found.pixels if found else None, words)

        self.session.jobs.start("wear plan", draw, done)

    def keep(self, answer: WearAnswer) -> bool:
        name = _("Measure wear of {0}").format(self.session.project.zone(answer.question.zone).name)
        return self.session.edit(name, lambda p: kept(p, answer))


def _patch(answer: WearAnswer | None, width: int, usual: float) -> tuple[Image8 | None, float]:
    """The middle of what was measured, in even light, and how many pixels a millimetre on the model is there; runs in a job."""
    if answer is None:
        return None, usual
    (height, breadth), mm = answer.look.shape, answer.question.mm_per_px
    zoom = max(HEIGHT / height, width / breadth, 1.0)
    tall, wide = min(height, round(HEIGHT / zoom)), min(breadth, round(width / zoom))
    top, side = answer.typical_window(tall, wide)
    part = screen_pixels(answer.even(slice(top, top + tall), slice(side, side + wide)))
    pixels = np.asarray(cv2.resize(part, (width, HEIGHT), interpolation=cv2.INTER_CUBIC), dtype=np.uint8)
    return pixels, zoom * answer.question.scale / mm if mm else usual


def kept(project: Project, answer: WearAnswer) -> Project:
    """A project with what was measured; a plan that was made for the zone takes over new measures of the photo it goes by."""
    zone = answer.question.zone
    project = place_region(project, answer.region)
    plan, first = project.zone(zone).wear, measured_region(project, zone)
    if plan is None or first is None or first.id != answer.region.id:
        return project
    return plan_wear(project, zone, plan.model_copy(update={"kinds": _renewed(plan, answer.record)}))


def _renewed(plan: WearPlan, record: WearRecord) -> tuple[PlannedWear, ...]:
    measured = {one.kind: one for one in measured_kinds(record)}
    others = tuple(one for one in plan.kinds if one.kind not in measured)
    tools = {one.kind: one.tool for one in plan.kinds}
    return (*(one.model_copy(update={"tool": tools.get(one.kind, "")}) for one in measured.values()), *others)
