"""Wear: how worn a part of a photo is, kind by kind, what of it the model can show, and how heavy it is to be."""

from __future__ import annotations

import cv2
import numpy as np
from PySide6.QtWidgets import QWidget

from lean_sepia.answers.preview.texture import Frame
from lean_sepia.answers.wearing import surveying
from lean_sepia.answers.wearing.planning import (
    WearRow,
    kind_of,
    measured_kinds,
    plain_cut,
    plan_of,
    vehicle_total,
    wear_rows,
    with_heaviness,
)
from lean_sepia.answers.wearing.simulating import Simulated, simulate, stop_marks
from lean_sepia.answers.wearing.surveying import WearAnswer, measured_region
from lean_sepia.answers.wearing.told import doubts_words, worn_words
from lean_sepia.arrays import FloatArray, Image8
from lean_sepia.colour.srgb import screen_pixels
from lean_sepia.colour.words import difference
from lean_sepia.document.edits.coats import Marks, lay_wear
from lean_sepia.document.edits.photos import place_region, set_scale
from lean_sepia.document.edits.wear import plan_wear
from lean_sepia.document.model import Photo, Project, Region
from lean_sepia.document.worn import PlannedWear, WearPlan, WearRecord
from lean_sepia.language import _
from lean_sepia.ui.kit.dialogs.files import ask_place
from lean_sepia.ui.kit.panel import Panel, button, label, row
from lean_sepia.ui.kit.true_size import px_per_mm
from lean_sepia.ui.photo.seen_photo import Seen, prepare
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.wear.beside_panel import HEIGHT, BesidePanel
from lean_sepia.ui.wear.by_hand_panel import ByHandPanel, WornSoFar
from lean_sepia.ui.wear.kinds_panel import KindsPanel
from lean_sepia.ui.wear.measured import SizesPanel
from lean_sepia.ui.wear.pointing import Pointing

_ENLARGED = 5.0


class WearRoom(RoomPage):
    """Trace a part, point at the ground and at each kind, measure; choose how heavy, and lay it as coats."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.answer: WearAnswer | None = None
        self._zone = ""
        self._plan = WearPlan()
        self.pointing = Pointing()
        self.viewer = self.pointing.viewer
        self.measure_button = self.pointing.measure_button
        self.pointing.measure_button.clicked.connect(self.measure)
        self.pointing.pointed.connect(self._pointed)
        self.pointing.length_known.connect(self._keep_scale)
        self.pointing.refused.connect(session.refused)
        self._build_centre()
        self._build_side()

    def _build_centre(self) -> None:
        self._statement, self._remark = self.headline()
        self.centre.addWidget(self.pointing, 1)
        self.by_hand_panel = ByHandPanel(self.session)
        self.by_hand_panel.draft_wanted.connect(self.draft_wanted)
        self.centre.addWidget(self.by_hand_panel, 1)
        self.beside = BesidePanel()
        self.beside.moved.connect(self._heavier)
        self.beside.chosen.connect(self._keep_heaviness)
        self.beside.chart_wanted.connect(self._print_chart)
        self.centre.addWidget(self.beside)

    def _build_side(self) -> None:
        self.kinds = KindsPanel()
        self.kinds.toggled.connect(self.pointing.toggle)
        self.kinds.dropped.connect(self.pointing.forget)
        self.side.addWidget(self.kinds)
        self.sizes = SizesPanel()
        self.side.addWidget(self.sizes)
        self._all_panel = Panel(_("In all"))
        self._grade, self._total, self._tint = (label("", "second", wrap=True) for _line in range(3))
        for line in (self._total, self._grade, self._tint):
            self._all_panel.add(line)
        self.side.addWidget(self._all_panel)
        self.worn_so_far = WornSoFar()
        self.side.addWidget(self.worn_so_far)
        self.side.addStretch(1)
        self.lay = button(_("Lay this wear"), "main", _("Each kind becomes a coat on its share of the area"))
        self.lay.clicked.connect(self.lay_planned)
        self.side.addLayout(row(self.by_hand("chips"), None, self.lay, spacing=6))

    # What the document says

    def refresh(self) -> None:
        zone, project = self.session.zone, self.session.project
        region = measured_region(project, zone) if zone else None
        if zone != self._zone:
            self._zone, self.answer = zone, None
            self.pointing.take_up(region)
        photo, pictures = self._photo(region), self.session.pictures
        shown = photo is not None
        with_photo: tuple[QWidget, ...] = (self.pointing, self.kinds, self.sizes, self._all_panel)
        for widget in with_photo:
            widget.setVisible(shown)
        self.by_hand_panel.setVisible(not shown)
        self.worn_so_far.setVisible(not shown)
        self.by_hand_panel.refresh()
        if zone:
            self.worn_so_far.show_cut(self.session.cut(zone))
            self._plan = plan_of(project, project.zone(zone))
        self.beside.setVisible(bool(self._plan.kinds))
        self.lay.setEnabled(bool(self._plan.kinds))
        if photo is None:
            self.pointing.show_seen(None)
        elif self.pointing.seen is None or self.pointing.seen.photo != photo:
            if photo.mm_per_px and not (region and region.wear):
                self.pointing.mm.setValue(photo.mm_per_px)
            self.session.jobs.start("wear photo", lambda _progress: prepare(pictures, photo), self._show_seen)
        self._show(region.wear if region else None)

    def _photo(self, region: Region | None) -> Photo | None:
        project = self.session.project
        if region is not None:
            return project.photo(region.photo)
        sampled = [s.photo for s in project.samples if s.zone == self.session.zone]
        candidates = [photo for photo in project.photos if not photo.of_model]
        return next(
            (photo for photo in candidates if photo.id in sampled), candidates[0] if candidates else None
        )

    def _show_seen(self, seen: Seen) -> None:
        self.pointing.show_seen(seen)
        region = measured_region(self.session.project, self.session.zone)
        if self.pointing.corners and self.answer is None and region is not None and region.wear:
            self.measure(store=False)

    def _pointed(self) -> None:
        """Something was traced or pointed at: what was measured before may no longer hold."""
        self.kinds.show_pointed(self.pointing.kinds, self.pointing.ground is not None)
        self._statement.setText(_("Not measured yet."))
        self._remark.setText(self._what_is_missing())

    def _what_is_missing(self) -> str:
        if not self.pointing.corners:
            return _(
                "Trace a part of this zone on the photo, point at the sound ground and at each kind of wear, then measure."
            )
        if not self.pointing.kinds:
            return _(
                "Now point at a place that plainly shows each kind of wear, or measure all that is unlike the ground."
            )
        return _("Measure when every kind has been pointed at.")

    def _show(self, record: WearRecord | None) -> None:
        project, zone = self.session.project, self.session.zone
        self.pointing.show_marks()
        self.beside.show_heaviness(self._plan.heaviness)
        if not zone or (record is None and not self._plan.kinds):
            nothing = self._photo(None) is None
            self._statement.setText(_("Chosen, not measured.") if nothing else _("Not measured yet."))
            without = _("There is no photo of this prototype: say what is worn, and how much of it.")
            self._remark.setText(without if nothing else self._what_is_missing())
            self.kinds.show_pointed(self.pointing.kinds, self.pointing.ground is not None)
            self.sizes.show_nothing()
            self._all_panel.setVisible(False)
            return
        rows = self._rows()
        if record is not None:
            self._statement.setText(worn_words(record))
            self._remark.setText(self._remarks(record))
            rust = any(one.name.startswith("rust") for one in record.classes)
            grade = _("Rust: {0} to ISO 4628-3, grade {1} to ASTM D610.")
            self._grade.setText(grade.format(record.iso_4628_3, record.astm_d610) if rust else "")
            self._tint.setText(self._tint_words(record))
        for line in (self._grade, self._tint):
            line.setVisible(bool(line.text()))
        self.kinds.show_rows(record, rows, self.pointing.hidden)
        scale = project.subject_of(project.zone(zone)).scale
        self.sizes.show_sizes(self._sizes() / scale, record, scale)
        total = vehicle_total(project, project.zone(zone).subject)
        self._total.setText(
            _("The whole model: {0} % worn, as planned.").format(f"{100 * total:.1f}") if total else ""
        )
        self._draw()

    def _sizes(self) -> FloatArray:
        return self.answer.sizes_mm if self.answer is not None else np.array([])

    def _rows(self, plan: WearPlan | None = None) -> tuple[WearRow, ...]:
        project, zone = self.session.project, self.session.zone
        return wear_rows(project, plain_cut(project, zone), plan or self._plan, self.session.shelf.paints())

    def _remarks(self, record: WearRecord) -> str:
        words = [self.session.project.zone(self.session.zone).name]
        if record.mm_per_px is None:
            words.append(_("no length is known: shares only, no sizes"))
        if self.answer is not None:
            words += doubts_words(self.answer.survey)
        return ". ".join(words)

    def _tint_words(self, record: WearRecord) -> str:
        if record.tint_lab_shift is None or float(np.linalg.norm(record.tint_lab_shift)) < 0.1:
            return ""
        base = np.array(self.session.cut(self.session.zone).fresh or (50, 0, 0))
        return _("What is too small to be seen makes the paint {0}; that goes to Glaze.").format(
            difference(base, base + np.array(record.tint_lab_shift)).words
        )

    # Photo and plan, edge to edge

    def _draw(self) -> None:
        """Draw the plan beside the photo, at one scale, in the background."""
        project, zone, plan = self.session.project, self.session.zone, self._plan
        if not plan.kinds or not zone:
            return
        width = max(120, self.beside.width() // 2)
        left, per_mm = self._patch(width)
        scale = project.subject_of(project.zone(zone)).scale
        self.beside.show_captions(
            _("Photo, in even light") if left is not None else "",
            _("As planned, at 1:{0}").format(f"{scale:g}"),
        )
        frame, paints = Frame(width, HEIGHT, per_mm, 1), self.session.shelf.paints()

        def done(found: Simulated | None) -> None:
            words = (
                _("The photo beside the plan")
                if found
                else _("Give this zone its colour first: sample it, or lay its base.")
            )
            self.beside.pair.show_pair(left, found.pixels if found else None, words)

        self.session.jobs.start(
            "wear plan", lambda _progress: simulate(project, zone, plan, paints, frame), done
        )

    def _patch(self, width: int) -> tuple[Image8 | None, float]:
        """The middle of what was measured, in even light, and how many pixels a millimetre on the model is there."""
        usual = px_per_mm(self) * _ENLARGED
        answer = self.answer
        if answer is None:
            return None, usual
        (height, breadth), mm = answer.look.shape, answer.question.mm_per_px
        zoom = max(HEIGHT / height, width / breadth, 1.0)
        tall, wide = min(height, round(HEIGHT / zoom)), min(breadth, round(width / zoom))
        top, side = answer.typical_window(tall, wide)
        part = screen_pixels(answer.even(slice(top, top + tall), slice(side, side + wide)))
        pixels = np.asarray(cv2.resize(part, (width, HEIGHT), interpolation=cv2.INTER_CUBIC), dtype=np.uint8)
        return pixels, zoom * answer.question.scale / mm if mm else usual

    def _heavier(self, heaviness: float) -> None:
        self._plan = with_heaviness(self._plan, heaviness)
        self._draw()

    def _keep_heaviness(self, heaviness: float) -> None:
        zone, plan = self.session.zone, with_heaviness(self._plan, heaviness)
        if plan != plan_of(self.session.project, self.session.project.zone(zone)):
            self.session.edit(_("How heavy the wear is"), lambda p: plan_wear(p, zone, plan))

    def _print_chart(self) -> None:
        project, zone, paints = self.session.project, self.session.zone, self.session.shelf.paints()
        name = project.zone(zone).name
        place = ask_place(
            self,
            _("Stop marks"),
            _("stop-marks-{0}.pdf").format(project.zone(zone).short.lower()),
            "PDF (*.pdf)",
        )
        if not place:
            return
        plan, scale = self._plan, project.subject_of(project.zone(zone)).scale

        def print_it() -> None:
            from lean_sepia.report.wear_chart import PATCH_MM, PX_PER_MM, write_wear_chart

            frame = Frame(round(PATCH_MM[0] * PX_PER_MM), round(PATCH_MM[1] * PX_PER_MM), PX_PER_MM)
            patches = [
                (share, shown.pixels) for share, shown in stop_marks(project, zone, paints, frame, plan)
            ]
            write_wear_chart(place, name, scale, patches)

        self.session.jobs.start("stop marks", lambda _progress: print_it(), lambda _done: None)

    # What the hand does

    def _keep_scale(self, value: float) -> None:
        if self.pointing.seen is not None:
            photo = self.pointing.seen.photo.id
            self.session.edit(_("Scale of the photo"), lambda p: set_scale(p, photo, value))

    def measure(self, _checked: bool = False, store: bool = True) -> None:
        """Survey what was traced in the background; keep the result as an edit unless it is only shown again."""
        pointing, session = self.pointing, self.session
        if pointing.seen is None or not pointing.corners or not session.zone:
            return
        project, zone, seen = session.project, session.zone, pointing.seen
        question = surveying.ask(
            project, session.cut(zone), seen.photo, pointing.corners, tuple(pointing.kinds.values()), pointing.mm.value() or None,
            pointing.ground, pointing.strokes,
        )  # fmt: skip
        if question is None:
            session.refused.emit(
                _(
                    "This zone has no sound colour yet: point at the ground, sample it in Evidence, or state its target."
                )
            )
            return

        def done(answer: WearAnswer) -> None:
            self.answer = answer
            pointing.show_outlines(answer.outlines)
            pointing.look_at_region()
            name = _("Measure wear of {0}").format(project.zone(zone).name)
            if not store or not session.edit(name, lambda p: _kept(p, answer)):
                self._show(answer.record)

        session.jobs.start(
            "wear",
            lambda progress: surveying.answer(question, seen.picture.pixels, seen.cast, progress),
            done,
        )

    def lay_planned(self) -> None:
        """Each planned kind becomes a coat on its share of the zone's area."""
        zone = self.session.zone
        if not zone or not self._plan.kinds:
            return
        found = [
            Marks(kind_of(one.kind).kind, one.words, one.lab, one.share)
            for one in self._rows()
            if one.share > 0
        ]
        finish = self.session.cut(zone).varnish or "flat"
        self.session.edit(
            _("Lay the wear of {0}").format(self.session.project.zone(zone).name),
            lambda p: lay_wear(p, zone, found, finish),
        )


def _kept(project: Project, answer: WearAnswer) -> Project:
    """A project with what was measured; a plan that was made for the zone takes over the new measures."""
    project = place_region(project, answer.region)
    plan = project.zone(answer.question.zone).wear
    if plan is None:
        return project
    return plan_wear(
        project, answer.question.zone, plan.model_copy(update={"kinds": _renewed(plan, answer.record)})
    )


def _renewed(plan: WearPlan, record: WearRecord) -> tuple[PlannedWear, ...]:
    measured = {one.kind: one for one in measured_kinds(record)}
    kept = tuple(one for one in plan.kinds if one.kind not in measured)
    tools = {one.kind: one.tool for one in plan.kinds}
    return (*(one.model_copy(update={"tool": tools.get(one.kind, "")}) for one in measured.values()), *kept)
