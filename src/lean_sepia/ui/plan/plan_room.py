"""Plan: the order of work against solvents, gloss, drying and the evenings there are."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QStackedWidget, QVBoxLayout, QWidget

from lean_sepia.answers import plan
from lean_sepia.answers.bench import step_details
from lean_sepia.answers.coats.from_shelf import varnish_of
from lean_sepia.answers.plan import Clocks, PlanAnswer, clocks_of
from lean_sepia.answers.strata import Band
from lean_sepia.answers.working.evening_sheets import EveningPlan, evening_plan
from lean_sepia.document.bounds import Lab
from lean_sepia.document.called import title_of
from lean_sepia.document.edits.coats import lay_varnish_in_place
from lean_sepia.document.edits.steps import (
    add_step,
    add_usual_steps,
    arrange,
    arrange_around,
    move_step,
    move_step_to,
    remove_step,
)
from lean_sepia.document.model import Project
from lean_sepia.document.work import found_in
from lean_sepia.errors import SepiaError
from lean_sepia.language import _, day_and_time
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.schedule.build import Schedule
from lean_sepia.report.export import Leaving
from lean_sepia.ui.kit.dialogs.exporting import export_button
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.job import Work
from lean_sepia.ui.kit.panel import Panel, button, holder, label, row, scrolled
from lean_sepia.ui.plan.evening_sheets import EveningSheets
from lean_sepia.ui.plan.finding_rows import FindingRows, Mends, mends_of
from lean_sepia.ui.plan.hours_sheet import HoursSheet
from lean_sepia.ui.plan.lanes import Lane, Lanes, LaneStep
from lean_sepia.ui.plan.remarks import remarks
from lean_sepia.ui.plan.schools_sheet import SchoolsSheet
from lean_sepia.ui.plan.step_panel import StepPanel
from lean_sepia.ui.plan.step_sheet import StepSheet
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session


class PlanRoom(RoomPage):
    """The evenings in the middle; the chosen step, what was found and how you work at the right."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.current = ""
        self.answer: PlanAnswer | None = None
        self._evenings = EveningPlan((), (), ())
        self._clocks: dict[str, Clocks] = {}
        self._statement, self._remark = self.headline()
        self.sheets, self.lanes = EveningSheets(), Lanes()
        self.sheets.judge = self._judge
        self.sheets.dropped.connect(self.drop)
        self.sheets.remove_wanted.connect(self.remove)
        for view in (self.sheets, self.lanes):
            view.chosen.connect(self._choose)
            view.opened.connect(self.open_step)
            view.move_wanted.connect(self.move_current)
        self._build_views()
        self._build_foot()
        self._build_side()

    def _build_views(self) -> None:
        self._views = QStackedWidget()
        area = scrolled(self.sheets)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAsNeeded)
        self._area = area
        self._views.addWidget(area)
        frame = QFrame()
        frame.setProperty("kind", "panel")
        inner = QVBoxLayout(frame)
        inner.setContentsMargins(1, 1, 1, 1)
        lanes = scrolled(self.lanes)
        lanes.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAsNeeded)
        inner.addWidget(lanes)
        self._views.addWidget(frame)
        self._views.addWidget(self._build_empty())
        self.centre.addWidget(self._views, 1)

    def _build_empty(self) -> QWidget:
        """What to do where there is no step yet."""
        self.usual = button(
            _("Lay out the usual steps"),
            "main",
            _("From washing the parts to powder, as you work; change them as you like"),
        )
        self.usual.clicked.connect(self.add_usual)
        words = _(
            "Pin a recipe in Match and its step comes here by itself. Or begin with the usual order of work, as How you work… has it, and change what you do otherwise."
        )
        column = QVBoxLayout()
        column.addWidget(label(words, "large", wrap=True))
        column.addSpacing(8)
        column.addLayout(row(self.usual, None))
        column.addStretch(1)
        return holder(column)

    def _build_foot(self) -> None:
        self.by_part = button(_("By part"), "tool", _("A lane for each part in place of the sheets"))
        self.by_part.setCheckable(True)
        self.by_part.toggled.connect(lambda _on: self._show_view())
        self.hours = button(_("When and where…"), "tool", _("Start, evenings, deadline, place of work"))
        self.hours.clicked.connect(self.open_hours)
        self.schools = button(_("How you work…"), "tool", _("Questions on which practice divides"))
        self.schools.clicked.connect(lambda: self.sheet_wanted.emit(SchoolsSheet(self.session)))
        self.tonight = button(_("To the bench"), "tool", _("The first step that is not done"))
        self.tonight.clicked.connect(lambda: self.room_wanted.emit("bench"))
        self.centre.addLayout(row(self.by_part, self.hours, self.schools, None, self.tonight, spacing=6))

    def _build_side(self) -> None:
        self.step_panel = StepPanel(self.session)
        self.step_panel.move_wanted.connect(self.move_current)
        self.step_panel.opened.connect(lambda: self.open_step(self.current))
        self.side.addWidget(self.step_panel)
        self.kind = ChoiceBox(
            _("Kind of the step to add"),
            [(_(kind.title), name) for name, kind in KINDS.items() if not kind.is_found],
        )
        add = button(_("Add step"), "tool", _("A step of this kind on the chosen part"))
        add.clicked.connect(self.add_step)
        line = row(self.kind, add)
        line.setStretch(0, 1)
        self.side.addLayout(line)
        self._found_panel = Panel(_("Found in this plan"))
        self.findings = FindingRows(self.session)
        self._found_panel.add(scrolled(self.findings), 1)
        self.side.addWidget(self._found_panel, 1)
        self.order = button(
            _("Put in order"),
            "tool",
            _("Steps you did not place yourself go where nothing speaks against them"),
        )
        self.order.clicked.connect(self.put_in_order)
        self.calendar = export_button("calendar", self.session.jobs, lambda: Leaving(self.session.project))
        self.side.addLayout(row(self.order, None, self.calendar))

    # What the document says

    @property
    def schedule(self) -> Schedule | None:
        """When each step is done, where all can be placed."""
        return self.answer.schedule if self.answer else None

    def refresh(self) -> None:
        project = self.session.project
        question = plan.ask(project)
        self.session.jobs.start(
            "plan", lambda _progress: plan.answer(question), partial(self._answered, project)
        )

    def _answered(self, project: Project, answer: PlanAnswer) -> None:
        """Show a plan that was worked out beside; what is there stays until then, and a late answer is not shown."""
        if project is not self.session.project:
            self._mark()
            return
        self.answer = answer
        ids = [step.id for step in answer.question.work]
        if self.current not in ids:
            left = [step.id for step in answer.question.work if not step.done]
            self.current = (left or ids or [""])[0]
        self._clocks = clocks_of(answer)
        self._evenings = evening_plan(answer, step_details(project, answer))
        self._say(answer)
        self._show_views()
        self._show_step()
        self._found_panel.set_remark(str(len(answer.findings)) if answer.findings else "")
        self.findings.show_findings(answer, {})
        self._look_for_mends(answer)

    def _look_for_mends(self, answer: PlanAnswer) -> None:
        if not answer.findings:
            return
        project = self.session.project

        def shown(mends: Mends) -> None:
            if mends and self.answer is answer:
                self.findings.show_findings(answer, mends)

        self.session.jobs.start("mends", lambda _progress: mends_of(project, answer.findings), shown)

    def _say(self, answer: PlanAnswer) -> None:
        if not answer.question.work:
            self._statement.setText(_("No step yet."))
            self._remark.setText(
                _("Coats laid in the other rooms bring their steps with them; others are added at the right.")
            )
        elif answer.schedule is None:
            self._statement.setText(_("The steps cannot be placed."))
            self._remark.setText(answer.fault)
        else:
            self._statement.setText(_("Ready on {0}.").format(day_and_time(answer.schedule.finish)))
            self._remark.setText(" ".join(remarks(self.session.project, answer, answer.schedule)))

    def _show_views(self) -> None:
        answer = self.answer
        now = datetime.now()
        self.sheets.show_plan(self._evenings, self.current, now)
        self.lanes.show_plan(self._lanes(), [sheet.window for sheet in self._evenings.sheets], self.current)
        self._show_view()
        placed = answer is not None and bool(self._evenings.sheets)
        for control in (self.by_part, self.calendar, self.tonight, self.order):
            control.setEnabled(placed)

    def _show_view(self) -> None:
        """The sheets or the lanes, or what to do where there is neither."""
        empty = self.answer is None or not self.answer.question.work
        self._views.setCurrentIndex(2 if empty else int(self.by_part.isChecked()))

    def _lanes(self) -> list[Lane]:
        if self.answer is None or self.answer.schedule is None:
            return []
        rows = {step.id: step for step in self.sheets.steps}
        ready = {one.id: one.ready for one in self.answer.schedule.steps}
        lanes = []
        cuts = self.session.cuts()
        for zone in self.session.project.zones:
            mine = [
                step.id for step in self.answer.question.work if step.zones == "all" or zone.id in step.zones
            ]
            bands = cuts[zone.id].bands
            laid = {
                name: tuple(_drawn(b) for b in bands if b.coat.step == name and b.coat.on) for name in mine
            }
            steps = tuple(LaneStep(rows[name], ready[name], laid[name]) for name in mine if name in rows)
            lanes.append(Lane(zone.short, steps, tuple(b.lab for b in bands if b.coat.nature.is_found)))
        return lanes or [Lane(_("all"), tuple(LaneStep(row, ready[row.id]) for row in rows.values()))]

    def _show_step(self) -> None:
        self.step_panel.show_step(self.answer, self.current, self._clocks.get(self.current))

    # What the user does

    def _choose(self, step_id: str) -> None:
        self.current = step_id
        self.sheets.show_plan(self._evenings, step_id, datetime.now())
        self.lanes.choose(step_id)
        self._show_step()
        self._bring_into_view()

    def _bring_into_view(self) -> None:
        """Scroll the sheets to the chosen step."""
        row_of = next((row for row in self.sheets.layout_now().rows if row.step.id == self.current), None)
        if row_of is not None:
            middle = row_of.box.center().toPoint()
            self._area.ensureVisible(middle.x(), middle.y(), 110, 60)

    def add_usual(self) -> None:
        """Begin with the usual order of work."""
        self.session.edit(_("The usual steps"), add_usual_steps)

    def open_step(self, step_id: str) -> None:
        """A sheet on which a step is changed."""
        if step_id:
            self.sheet_wanted.emit(StepSheet(self.session, step_id))

    def open_hours(self) -> None:
        """A sheet on when and where the work is done."""
        start = self.answer.question.start if self.answer else ""
        self.sheet_wanted.emit(HoursSheet(self.session, start))

    def move_current(self, places: int) -> None:
        """Move the chosen step in the order."""
        step = self.current
        if step:
            title = title_of(self.session.project, self.session.project.step(step))
            self.session.edit(_("Move {0}").format(title), lambda p: move_step(p, step, places))

    def drop(self, step_id: str, before: str) -> None:
        """Put a step before another, or last."""
        title = title_of(self.session.project, self.session.project.step(step_id))
        self.session.edit(_("Move {0}").format(title), partial(_dropped, step_id=step_id, before=before))

    def _judge(self, step_id: str, before: str) -> str:
        """What a step dropped before another would break, in the words of the first finding that is new."""
        project = self.session.project
        try:
            trial = _dropped(project, step_id, before)
        except SepiaError as error:
            return str(error)
        was = {finding.key for finding in found_in(project)}
        new = [finding for finding in found_in(trial) if finding.key not in was]
        return new[0].message if new else ""

    def remove(self, step_id: str) -> None:
        """Take a step away, with the coats that are laid in it."""
        title = title_of(self.session.project, self.session.project.step(step_id))
        self.session.edit(_("Remove: {0}").format(title), partial(remove_step, step_id=step_id))

    def put_in_order(self) -> None:
        """Put steps that were not placed by hand where nothing speaks against them."""
        self._edit_beside(_("Put in order"), arrange, lambda: None)

    def add_step(self) -> None:
        """Add a step of the chosen kind on the chosen part, where it comes by its phase and how you work."""
        kind = str(self.kind.value)
        zones = [self.session.zone] if self.session.zone else []
        made: list[str] = []

        def change(before: Project) -> Project:
            if KINDS[kind].is_varnish and zones:  # with the step of a clear coat comes its coat
                mix = varnish_of(kind, self.session.shelf.paints(), before.owns.usual_tool(kind))
                project, step_id = lay_varnish_in_place(before, zones, kind, mix)
            else:
                project, step_id = add_step(before, kind, zones)
            made.append(step_id)
            return arrange_around(project, before)

        def shown() -> None:
            self.current = made[-1]
            self.refresh()
            self.session.jobs.later("plan, in view", self._bring_into_view)

        self._edit_beside(_("Add step {0}").format(_(KINDS[kind].title)), change, shown)

    def _edit_beside(
        self, name: str, change: Callable[[Project], Project], then: Callable[[], object]
    ) -> None:
        """An edit that looks through many orders: worked out beside, and anew where the document changed meanwhile."""
        asked: list[Project] = []

        def work() -> Work:
            asked[:] = [self.session.project]
            return lambda _progress: change(asked[0])

        def done(found: Project) -> bool:
            if self.session.project is not asked[0]:
                return True
            if self.session.edit(name, lambda _project: found):
                then()
            return False

        self.session.jobs.act("plan", work, done)


def _drawn(band: Band) -> Lab | None:
    """The colour of a coat on a core; None of what has none of its own."""
    nature = band.coat.nature
    return None if nature.is_varnish or nature.lays_nothing else band.lab


def _dropped(project: Project, step_id: str, before: str) -> Project:
    rest = [step.id for step in project.steps if step.id != step_id]
    return move_step_to(project, step_id, rest.index(before) if before in rest else len(rest))
