"""Plan: the order of work against solvents, gloss, drying and the evenings there are."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import datetime, timedelta

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QFrame, QLineEdit, QVBoxLayout

from lean_sepia.answers import plan
from lean_sepia.answers.bench import span, span_of
from lean_sepia.answers.plan import PlanAnswer
from lean_sepia.document.called import title_of
from lean_sepia.document.edits.coats import lay_varnish
from lean_sepia.document.edits.planning import set_hours, set_school
from lean_sepia.document.edits.steps import add_step, move_step
from lean_sepia.document.model import Project
from lean_sepia.language import _, clock, day, day_and_time, ngettext, weekday_and_time
from lean_sepia.plan.care.cautions import cautions
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.schedule.build import Schedule
from lean_sepia.plan.schools import SCHOOLS
from lean_sepia.plan.step import PlanStep
from lean_sepia.ui.kit.diamond import Diamond
from lean_sepia.ui.kit.panel import Panel, button, label, row, rule, scrolled
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.plan.timeline import Bar, Timeline
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session


class PlanRoom(RoomPage):
    """The calendar in the middle; the chosen step, the schools and what was found at the right."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.current = ""
        self.answer: PlanAnswer | None = None
        self._statement, self._remark = self.headline()
        self.timeline = Timeline()
        self.timeline.chosen.connect(self._choose)
        self.timeline.move_wanted.connect(self.move_current)
        frame = QFrame()
        frame.setProperty("kind", "panel")
        inner = QVBoxLayout(frame)
        inner.setContentsMargins(1, 1, 1, 1)
        inner.addWidget(scrolled(self.timeline))
        self.centre.addWidget(frame, 1)
        self.start, self.evenings = QLineEdit(), QLineEdit()
        self.start.setFixedWidth(152)
        self.start.setAccessibleName(_("Start, date and time"))
        self.evenings.setAccessibleName(_("Evenings at the bench"))
        hint(self.evenings, _("Such as mon-fri 19:00-21:30,sat 10:00-16:00"))
        for field in (self.start, self.evenings):
            field.editingFinished.connect(self._set_times)
        self.kind = QComboBox()
        for name, kind in KINDS.items():
            if name != "found":
                self.kind.addItem(_(kind.title), name)
        self.kind.setAccessibleName(_("Kind of the step to add"))
        self.centre.addLayout(
            row(
                label(_("from"), "second"), self.start, 6, label(_("evenings"), "second"), self.evenings,
                spacing=6,
            )
        )  # fmt: skip
        self._build_side()

    def _build_side(self) -> None:
        self._step_panel = Panel(_("Step"), kind="raised")
        self._step_title = label("", "title", wrap=True)
        self._step_body = Rows(spacing=5)
        self.up, self.down = button(_("Earlier"), "tool"), button(_("Later"), "tool")
        self.up.clicked.connect(lambda: self.move_current(-1))
        self.down.clicked.connect(lambda: self.move_current(1))
        self._step_panel.add(self._step_title)
        self._step_panel.add(self._step_body)
        self._step_panel.add(row(self.up, self.down, None))
        self.side.addWidget(self._step_panel)
        add = button(_("Add step"), "tool", _("A step of this kind on the chosen zone"))
        add.clicked.connect(self.add_step)
        line = row(self.kind, add)
        line.setStretch(0, 1)
        self.side.addLayout(line)
        self._found_panel = Panel(_("Found in this plan"))
        self._found = Rows(spacing=7, right_margin=4)
        self._found_panel.add(scrolled(self._found), 1)
        self.side.addWidget(self._found_panel, 1)
        schools = Panel(_("How you work"))
        self.question, self.school = QComboBox(), QComboBox()
        for code, asked in SCHOOLS.items():
            self.question.addItem(_(asked.words), code)
        self.question.setAccessibleName(_("Question on which schools differ"))
        self.school.setAccessibleName(_("How you do it"))
        self.question.currentIndexChanged.connect(lambda _index: self._fill_school())
        self.school.activated.connect(self._set_school)
        schools.add(self.question)
        schools.add(self.school)
        self.side.addWidget(schools)

    # What the document says

    @property
    def schedule(self) -> Schedule | None:
        """When each step is done, where all can be placed."""
        return self.answer.schedule if self.answer else None

    def refresh(self) -> None:
        project = self.session.project
        answer = self.answer = plan.answer(plan.ask(project))
        steps = answer.question.work
        ids = [step.id for step in steps]
        if self.current not in ids:
            self.current = ids[0] if ids else ""
        self._show_times()
        self._fill_school()
        self._show_findings(answer)
        if answer.schedule is None:
            self._statement.setText(_("The steps cannot be placed."))
            self._remark.setText(answer.fault)
            self.timeline.show_plan(_undated(project, steps), [], self.current)
        else:
            self._show_schedule(answer, answer.schedule)
        self._show_step(steps)

    def _show_times(self) -> None:
        """The start and the evenings that rule; what was typed and refused is taken back."""
        question = self.answer.question if self.answer else None
        if question is not None:
            for field, text in ((self.start, question.start), (self.evenings, question.evenings)):
                if field.text() != text:
                    field.setText(text)
                    field.setCursorPosition(0)

    def _show_schedule(self, answer: PlanAnswer, schedule: Schedule) -> None:
        steps = answer.question.work
        if not steps:
            self._statement.setText(_("No step yet."))
            self._remark.setText(
                _("Coats laid in the other rooms bring their steps with them; others are added below.")
            )
            self.timeline.show_plan([], [], "")
            return
        done = {step.id for step in self.session.project.steps if step.done}
        critical = set(schedule.critical_path)
        bars = [
            Bar(s.id, index + 1, step.name, s.start, s.end, s.ready, s.id in critical, s.id in done)
            for index, (s, step) in enumerate(zip(schedule.steps, steps, strict=True))
        ]
        self._statement.setText(_("Ready on {0}.").format(day_and_time(schedule.finish)))
        said = ngettext(
            "{1} at the bench over {0} evening, {2} waiting. Full bars hold the finish back.",
            "{1} at the bench over {0} evenings, {2} waiting. Full bars hold the finish back.",
            len(answer.used),
        ).format(len(answer.used), span_of(answer.hands), span_of(round_hours(answer.waiting)))
        if self.session.project.features:
            first = self.session.project.features[0].words
            said += " " + _("Signature, done first and best: {0}.").format(first)
        self._remark.setText(said)
        self.timeline.show_plan(bars, [(window.start, window.end) for window in answer.used], self.current)

    def _show_findings(self, answer: PlanAnswer) -> None:
        self._found_panel.set_remark(str(len(answer.findings)) if answer.findings else "")
        self._found.fill(self._finding_rows(answer))

    @staticmethod
    def _finding_rows(answer: PlanAnswer) -> Iterator[Item]:
        findings = answer.findings
        numbers = {step.id: index + 1 for index, step in enumerate(answer.question.work)}
        if not findings:
            yield label(_("Nothing spoils anything in this order."), "second", wrap=True)
        for finding in findings:
            sign = Diamond(filled=finding.severity == "stop", size=13, mark="")
            words = label(
                f"{numbers[finding.step]}  {finding.message}",
                "" if finding.severity != "note" else "second",
                wrap=True,
            )
            line = row(sign, words, spacing=7)
            line.setAlignment(sign, Qt.AlignmentFlag.AlignTop)
            yield line
        yield None

    def _show_step(self, steps: Sequence[PlanStep]) -> None:
        step = next((step for step in steps if step.id == self.current), None)
        self.up.setEnabled(step is not None)
        self.down.setEnabled(step is not None)
        if step is None:
            self._step_body.fill(())
            self._step_title.setText(_("None chosen"))
            self._step_panel.set_remark("")
            return
        number = [s.id for s in steps].index(step.id) + 1
        self._step_panel.set_caption(_("Step {0}").format(number))
        zones = (
            _("all")
            if step.zones == "all"
            else ", ".join(self.session.project.zone(z).short for z in step.zones)
        )
        self._step_panel.set_remark(zones if len(zones) < 20 else _("{0} zones").format(len(step.zones)))
        self._step_title.setText(step.name)
        self._step_body.fill(self._step_rows(step))

    def _step_rows(self, step: PlanStep) -> Iterator[Item]:
        placed = next((p for p in self.schedule.steps if p.id == step.id), None) if self.schedule else None
        facts = [(_("at the bench"), span(step.hands_min))]
        if placed:
            facts.insert(0, (_("not before"), weekday_and_time(placed.start)))
            facts.append((_("ready"), f"{day(placed.ready)}, {clock(placed.ready)}"))
            if step.removable_until_min is not None:
                until = placed.end + timedelta(minutes=step.removable_until_min)
                facts.append((_("can be wiped off until"), weekday_and_time(until)))
        for name, value in facts:
            yield rule()
            yield row(label(name, "second"), None, label(value))
        for words in cautions(step):
            yield row(Diamond(size=12, mark=""), label(words, "second", wrap=True), spacing=7)

    def _fill_school(self) -> None:
        code = self.question.currentData()
        asked = SCHOOLS[code]
        self.school.clear()
        for choice, words in asked.choices.items():
            self.school.addItem(_(words), choice)
        chosen = self.session.project.schools.get(code, asked.usual)
        self.school.setCurrentIndex(self.school.findData(chosen))

    # What the user does

    def _choose(self, step_id: str) -> None:
        self.current = step_id
        if self.answer is not None:
            self._show_step(self.answer.question.work)

    def move_current(self, places: int) -> None:
        """Move the chosen step in the order."""
        step = self.current
        if step:
            project = self.session.project
            title = title_of(project, project.step(step))
            self.session.edit(_("Move {0}").format(title), lambda p: move_step(p, step, places))

    def add_step(self) -> None:
        """Add a step of the chosen kind on the chosen zone."""
        kind = self.kind.currentData()
        zones = [self.session.zone] if self.session.zone else []
        made: list[str] = []

        def change(project: Project) -> Project:
            if KINDS[kind].is_varnish and zones:  # a clear coat needs no recipe: with its step comes its coat
                project = lay_varnish(project, zones, kind)
                made.append(next(coat.step for coat in project.coats_of(zones[0]) if coat.kind == kind))
                return project
            project, step_id = add_step(project, kind, zones)
            made.append(step_id)
            return project

        if self.session.edit(_("Add step {0}").format(_(KINDS[kind].title)), change):
            self.current = made[0]
            self.refresh()

    def _set_times(self) -> None:
        begin, evenings = self.start.text().strip(), self.evenings.text().strip()
        question = self.answer.question if self.answer else None
        if question is None or (begin, evenings) == (question.start, question.evenings):
            return
        if not self.session.edit(_("Evenings"), lambda p: set_hours(p, begin, evenings)):
            self._show_times()

    def _set_school(self) -> None:
        question, choice = self.question.currentData(), self.school.currentData()
        words = _(SCHOOLS[question].choices[choice])
        self.session.edit(_("How you work: {0}").format(words), lambda p: set_school(p, question, choice))


def round_hours(delta: timedelta) -> timedelta:
    """A wait to whole hours: minutes of days of waiting say nothing."""
    return timedelta(hours=round(delta.total_seconds() / 3600))


def _undated(project: Project, steps: Sequence[PlanStep]) -> list[Bar]:
    now = datetime.now()
    return [
        Bar(s.id, i + 1, s.name, now, now, now, False, project.step(s.id).done) for i, s in enumerate(steps)
    ]
