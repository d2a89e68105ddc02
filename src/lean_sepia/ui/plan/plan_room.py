"""Plan: the order of work against solvents, gloss, drying and the evenings there are."""

from __future__ import annotations

from datetime import datetime, timedelta

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QFrame, QLineEdit, QVBoxLayout

from lean_sepia.document import edits
from lean_sepia.document.edits import plan_steps
from lean_sepia.errors import SepiaError
from lean_sepia.plan.cautions import cautions
from lean_sepia.plan.evenings import Evenings, parse_evenings
from lean_sepia.plan.rules import Finding, check_plan
from lean_sepia.plan.schedule import Schedule, build_schedule
from lean_sepia.plan.step import KINDS, PlanStep
from lean_sepia.ui.kit.panel import Panel, button, clear, label, row, rule, scrolled
from lean_sepia.ui.plan.timeline import Bar, Timeline
from lean_sepia.ui.shell.advice_line import Diamond
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session

SCHOOLS: dict[str, tuple[str, ...]] = {
    "gloss before lettering": (
        "gloss first",
        "satin first",
        "none, thin smooth paint",
        "on matte, strong solutions",
    ),
    "primer": ("as the prototype", "black", "white or grey"),
    "camouflage": ("base first", "reverse"),
    "light": ("post-shade", "pre-shade", "none, the wash does it"),
    "chips": ("before the wash", "after the wash", "built in"),
    "varnish between layers": ("often", "rarely", "never over matte for pigment"),
    "fade of red": ("decide from samples", "white", "off-white leaning green"),
    "filter hue": ("related hues", "opposite hues"),
    "amount": ("as heavy as the photo", "subtle", "taste"),
    "fidelity": ("one prototype", "amalgam of sisters", "what if"),
    "scale effect": ("none", "haze law", "customary lightening"),
}
"""Questions on which schools differ, and their answers; the first is taken where nothing was chosen."""


class PlanRoom(RoomPage):
    """The calendar in the middle; the chosen step, the schools and what was found at the right."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.current = ""
        self.schedule: Schedule | None = None
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
        self.start.setAccessibleName(self.tr("Start, date and time"))
        self.evenings.setAccessibleName(self.tr("Evenings at the bench"))
        self.evenings.setToolTip(self.tr("Such as mon-fri 19:00-21:30,sat 10:00-16:00"))
        for field in (self.start, self.evenings):
            field.editingFinished.connect(self._set_times)
        self.kind = QComboBox()
        self.kind.addItems([kind.replace("-", " ") for kind in KINDS])
        self.kind.setAccessibleName(self.tr("Kind of the step to add"))
        self.centre.addLayout(
            row(
                label(self.tr("from"), "second"), self.start, 6, label(self.tr("evenings"), "second"), self.evenings,
                spacing=6,
            )
        )  # fmt: skip
        self._build_side()

    def _build_side(self) -> None:
        self._step_panel = Panel(self.tr("Step"), kind="raised")
        self._step_title = label("", "title", wrap=True)
        self._step_body = QVBoxLayout()
        self._step_body.setSpacing(5)
        self.up, self.down = button(self.tr("Earlier"), "tool"), button(self.tr("Later"), "tool")
        self.up.clicked.connect(lambda: self.move_current(-1))
        self.down.clicked.connect(lambda: self.move_current(1))
        self._step_panel.add(self._step_title)
        self._step_panel.add(self._step_body)
        self._step_panel.add(row(self.up, self.down, None))
        self.side.addWidget(self._step_panel)
        add = button(self.tr("Add step"), "tool", self.tr("A step of this kind on the chosen zone"))
        add.clicked.connect(self.add_step)
        line = row(self.kind, add)
        line.setStretch(0, 1)
        self.side.addLayout(line)
        self._found_panel = Panel(self.tr("Found in this plan"))
        self._found = QVBoxLayout()
        self._found.setSpacing(7)
        self._found_panel.add(scrolled(self._found), 1)
        self._found.setContentsMargins(0, 0, 4, 0)
        self.side.addWidget(self._found_panel, 1)
        schools = Panel(self.tr("Your schools"))
        self.question, self.school = QComboBox(), QComboBox()
        self.question.addItems(list(SCHOOLS))
        self.question.setAccessibleName(self.tr("Question on which schools differ"))
        self.school.setAccessibleName(self.tr("Your school"))
        self.question.currentTextChanged.connect(lambda _text: self._fill_school())
        self.school.activated.connect(self._set_school)
        schools.add(self.question)
        schools.add(self.school)
        self.side.addWidget(schools)

    # What the document says

    def refresh(self) -> None:
        project = self.session.project
        steps = plan_steps(project)
        ids = [step.id for step in steps]
        if self.current not in ids:
            self.current = ids[0] if ids else ""
        self.start.setText(project.plan_start or _next_evening())
        self.evenings.setText(project.evenings)
        self.evenings.setCursorPosition(0)
        self.start.setCursorPosition(0)
        self._fill_school()
        findings = check_plan(steps)
        self._show_findings(findings)
        try:
            evenings = parse_evenings(project.evenings)
            begin = datetime.fromisoformat(self.start.text())
            self.schedule = build_schedule(steps, begin, evenings)
        except (SepiaError, ValueError) as error:
            self.schedule = None
            self._statement.setText(self.tr("The steps cannot be placed."))
            self._remark.setText(str(error))
            self.timeline.show_plan(_undated(project, steps), [], self.current)
            self._show_step(steps)
            return
        self._show_schedule(steps, evenings)
        self._show_step(steps)

    def _show_schedule(self, steps: tuple[PlanStep, ...], evenings: Evenings) -> None:
        schedule = self.schedule
        if schedule is None or not steps:
            self._statement.setText(self.tr("No step yet."))
            self._remark.setText(
                self.tr("Coats laid in the other rooms bring their steps with them; others are added below.")
            )
            self.timeline.show_plan([], [], "")
            return
        used = []
        for window in evenings.windows(schedule.steps[0].start if schedule.steps else datetime.now()):
            if window.start > max(placed.end for placed in schedule.steps):
                break
            if any(window.start <= placed.start < window.end for placed in schedule.steps):
                used.append((window.start, window.end))
        done = {step.id for step in self.session.project.steps if step.done}
        critical = set(schedule.critical_path)
        bars = [
            Bar(s.id, index + 1, step.name, s.start, s.end, s.ready, s.id in critical, s.id in done)
            for index, (s, step) in enumerate(zip(schedule.steps, steps, strict=True))
        ]
        hands = sum(step.hands_on_min for step in steps)
        whole = schedule.finish - min(placed.start for placed in schedule.steps)
        waiting = whole - timedelta(minutes=hands)
        self._statement.setText(self.tr("Ready on {0}.").format(_day_and_time(schedule.finish)))
        self._remark.setText(
            self.tr(
                "{0} h {1} at the bench over {2} evenings, {3} h waiting. Dark bars hold the finish back."
            ).format(
                int(hands // 60), f"{int(hands % 60):02d}", len(used), round(waiting.total_seconds() / 3600)
            )
        )
        if self.session.project.features:
            first = self.session.project.features[0].words
            self._remark.setText(
                f"{self._remark.text()} {self.tr('Signature, done first and best: {0}.').format(first)}"
            )
        self.timeline.show_plan(bars, used, self.current)

    def _show_findings(self, findings: list[Finding]) -> None:
        clear(self._found)
        self._found_panel.set_remark(str(len(findings)) if findings else "")
        numbers = {step.id: index + 1 for index, step in enumerate(self.session.project.steps)}
        if not findings:
            self._found.addWidget(
                label(self.tr("Nothing spoils anything in this order."), "second", wrap=True)
            )
        for finding in findings:
            sign = Diamond(filled=finding.severity == "stop", size=13, mark="")
            words = label(
                f"{numbers[finding.step]}  {finding.message}",
                "" if finding.severity != "note" else "second",
                wrap=True,
            )
            line = row(sign, words, spacing=7)
            line.setAlignment(sign, Qt.AlignmentFlag.AlignTop)
            self._found.addLayout(line)
        self._found.addStretch(1)

    def _show_step(self, steps: tuple[PlanStep, ...]) -> None:
        clear(self._step_body)
        step = next((step for step in steps if step.id == self.current), None)
        self.up.setEnabled(step is not None)
        self.down.setEnabled(step is not None)
        if step is None:
            self._step_title.setText(self.tr("None chosen"))
            self._step_panel.set_remark("")
            return
        number = [s.id for s in steps].index(step.id) + 1
        self._step_panel.set_caption(self.tr("Step {0}").format(number))
        zones = (
            self.tr("all")
            if step.zones == "all"
            else ", ".join(self.session.project.zone(z).short for z in step.zones)
        )
        self._step_panel.set_remark(
            zones if len(zones) < 20 else self.tr("{0} zones").format(len(step.zones))
        )
        self._step_title.setText(step.name)
        placed = next((p for p in self.schedule.steps if p.id == step.id), None) if self.schedule else None
        facts = [(self.tr("at the bench"), _span(step.hands_on_min))]
        if placed:
            facts.insert(0, (self.tr("not before"), f"{placed.start:%a %H:%M}"))
            facts.append((self.tr("ready"), f"{placed.ready:%a %d, %H:%M}"))
            if step.removable_until_min is not None:
                until = placed.end + timedelta(minutes=step.removable_until_min)
                facts.append((self.tr("can be wiped off until"), f"{until:%a %H:%M}"))
        for name, value in facts:
            self._step_body.addWidget(rule())
            strong = label(value)
            self._step_body.addLayout(row(label(name, "second"), None, strong))
        for words in cautions(step):
            line = row(Diamond(size=12, mark=""), label(words, "second", wrap=True), spacing=7)
            self._step_body.addLayout(line)

    def _fill_school(self) -> None:
        question = self.question.currentText()
        self.school.clear()
        self.school.addItems(list(SCHOOLS[question]))
        self.school.setCurrentText(self.session.project.schools.get(question, SCHOOLS[question][0]))

    # What the user does

    def _choose(self, step_id: str) -> None:
        self.current = step_id
        self._show_step(plan_steps(self.session.project))

    def move_current(self, places: int) -> None:
        """Move the chosen step in the order."""
        step = self.current
        if step:
            title = self.session.project.step(step).title
            self.session.edit(self.tr("Move {0}").format(title), lambda p: edits.move_step(p, step, places))

    def add_step(self) -> None:
        """Add a step of the chosen kind on the chosen zone."""
        kind = KINDS[self.kind.currentIndex()]
        zones = [self.session.zone] if self.session.zone else []
        title = kind.replace("-", " ").capitalize()
        if zones:
            title = f"{title}, {self.session.project.zone(zones[0]).name}"
        made: list[str] = []

        def change(project):
            project, step_id = edits.add_step(project, kind, title, zones)
            made.append(step_id)
            return project

        if self.session.edit(self.tr("Add step {0}").format(title), change):
            self.current = made[0]
            self.refresh()

    def _set_times(self) -> None:
        begin, evenings = self.start.text().strip(), self.evenings.text().strip()
        try:
            parse_evenings(evenings)
            datetime.fromisoformat(begin)
        except (SepiaError, ValueError) as error:
            message = (
                str(error)
                if isinstance(error, SepiaError)
                else self.tr("A start is written 2026-11-30T19:00; found “{0}”.").format(begin)
            )
            self.session.refused.emit(message)
            return
        self.session.edit(
            self.tr("Evenings"), lambda p: p.model_copy(update={"plan_start": begin, "evenings": evenings})
        )

    def _set_school(self) -> None:
        question, choice = self.question.currentText(), self.school.currentText()
        self.session.edit(
            self.tr("School: {0}").format(choice), lambda p: edits.set_school(p, question, choice)
        )


def _undated(project, steps: tuple[PlanStep, ...]) -> list[Bar]:
    now = datetime.now()
    return [
        Bar(s.id, i + 1, s.name, now, now, now, False, project.step(s.id).done) for i, s in enumerate(steps)
    ]


def _next_evening() -> str:
    tomorrow = datetime.now() + timedelta(days=1)
    return f"{tomorrow:%Y-%m-%d}T19:00"


def _span(minutes: float) -> str:
    hours, rest = divmod(round(minutes), 60)
    return f"{hours} h {rest:02d}" if hours else f"{rest} min"


def _day_and_time(moment: datetime) -> str:
    """Such as Sunday 6 December, 13:35."""
    return f"{moment:%A} {moment.day} {moment:%B, %H:%M}"
