"""Bench: the step at hand, large enough to read from the airbrush, with its drops and its wait."""

from __future__ import annotations

from datetime import datetime, timedelta
from pathlib import Path

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QLabel, QVBoxLayout

from lean_sepia.document import edits
from lean_sepia.document.edits import plan_steps
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import portions
from lean_sepia.plan.cautions import DEFER, cautions
from lean_sepia.plan.rules import check_plan
from lean_sepia.plan.step import PlanStep
from lean_sepia.recipe.parts import DROPS_PER_ML, drops_for
from lean_sepia.report.bench_card import card_name, laying_words, span, write_bench_card
from lean_sepia.ui.kit.named_pair import NamedPair
from lean_sepia.ui.kit.panel import Panel, button, clear, counted, label, row
from lean_sepia.ui.kit.swatch import Chip, Lab
from lean_sepia.ui.shell.advice_line import Diamond
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session

_MIX_ML = 6.0


class BenchRoom(RoomPage):
    """One step at a time: the first that is not done, or any other the user turns to."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.index = -1
        self._waits_until: datetime | None = None
        self._clock = QTimer(self)
        self._clock.setInterval(1000)
        self._clock.timeout.connect(self._tick)
        self._title, self._place = label("", "huge", wrap=True), label("", "title")
        self.centre.addLayout(row(self._title, self._place))
        self._field = NamedPair(height=180)
        self.centre.addWidget(self._field, 3)
        self._tiles = QHBoxLayout()
        self._tiles.setSpacing(12)
        self.centre.addLayout(self._tiles)
        self._how = Panel()
        self._how_words = label("", "statement", wrap=True)
        self._notes = QVBoxLayout()
        self._notes.setSpacing(6)
        self._how.add(self._how_words)
        self._how.add(self._notes)
        self._how.body.addStretch(1)
        self.centre.addWidget(self._how, 2)
        self.back, self.next = (
            button(self.tr("Step before")),
            button(self.tr("Done, next step"), "main", self.tr("Space or Page Down")),
        )
        self.back.clicked.connect(lambda: self.turn(-1))
        self.next.clicked.connect(self.finish_step)
        self.ahead = button(self.tr("Look ahead"))
        self.ahead.clicked.connect(lambda: self.turn(1))
        self.centre.addLayout(row(self.back, self.ahead, None, self.next))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._build_side()

    def _build_side(self) -> None:
        wait = Panel(self.tr("Wait"))
        self._wait, self._wait_words = label("", "huge"), label("", "second", wrap=True)
        wait.add(self._wait)
        wait.add(self._wait_words)
        self.side.addWidget(wait)
        after = Panel(self.tr("After this"))
        self._after = QVBoxLayout()
        self._after.setSpacing(6)
        after.add(self._after)
        after.body.addStretch(1)
        self.side.addWidget(after, 1)
        card = Panel(self.tr("On paper"))
        card.add(
            label(
                self.tr(
                    "Zones, parts, drops, order, waits and cautions on A4, with a line to check the print size."
                ),
                "second",
                wrap=True,
            )
        )
        self.card = button(self.tr("Print the bench card…"))
        self.card.clicked.connect(self._ask_card)
        card.add(self.card)
        self.side.addWidget(card)

    # What the document says

    def refresh(self) -> None:
        project = self.session.project
        steps = plan_steps(project)
        if not steps:
            self._show_nothing()
            return
        open_steps = [i for i, step in enumerate(project.steps) if not step.done]
        if not 0 <= self.index < len(steps):
            self.index = open_steps[0] if open_steps else len(steps) - 1
        step = steps[self.index]
        self._title.setText(step.name)
        done = project.steps[self.index].done
        self._place.setText(
            self.tr("step {0} of {1}{2}").format(
                self.index + 1, len(steps), self.tr(", done") if done else ""
            )
        )
        coats = [coat for coat in project.coats if coat.step == step.id and coat.on]
        self._show_colour(project, coats)
        self._show_mix(project, coats)
        self._show_how(project, step, coats, steps)
        self._show_wait(step, steps)
        self.back.setEnabled(self.index > 0)
        self.ahead.setEnabled(self.index + 1 < len(steps))
        self.next.setText(self.tr("Done, next step") if not done else self.tr("Next step"))
        self.next.setEnabled(True)

    def _show_nothing(self) -> None:
        self._title.setText(self.tr("Nothing to do yet"))
        self._place.setText("")
        self._field.show_pair([None], "")
        clear(self._tiles)
        clear(self._notes)
        clear(self._after)
        self._how_words.setText(
            self.tr("Steps come with the coats you lay: pin a recipe in Match, or add steps in Plan.")
        )
        self._wait.setText("–")
        self._wait_words.setText("")
        for choice in (self.back, self.next, self.ahead):
            choice.setEnabled(False)

    def _show_colour(self, project: Project, coats: list[Coat]) -> None:
        labs = []
        for coat in coats[:4]:
            cut = self.session.cut(coat.zone)
            band = next(band for band in cut.bands if band.coat.id == coat.id)
            target = {"base": cut.targets.fresh, "fade": cut.targets.exposed}.get(coat.kind)
            if target and len(coats) == 1:
                labs.append(target.lab)
            labs.append(band.lab)
        self._field.setVisible(bool(labs))
        if len(set(labs)) == 1:
            self._field.show_pair(labs[:1], self.tr("What this step should give"))
        elif len(coats) == 1:
            self._field.show_pair(labs, self.tr("Target"), self.tr("What this step should give"))
        else:
            zones = ", ".join(project.zone(coat.zone).short for coat in coats[:4])
            self._field.show_pair(labs, self.tr("What this step should give: {0}").format(zones))

    def _show_mix(self, project: Project, coats: list[Coat]) -> None:
        clear(self._tiles)
        coat = next((coat for coat in coats if coat.recipe), None)
        if coat is None or coat.recipe is None:
            return
        lines = portions(project, project.recipe(coat.recipe))
        rates = [project.paint(line.version).drops_per_ml or DROPS_PER_ML for line in lines if line.version]
        drops = drops_for([line.count for line in lines], _MIX_ML, sum(rates) / len(rates))
        glazed = coat.application == "glaze"
        for line, count in zip(lines, drops, strict=True):
            if len(lines) > 1:
                self._tile(str(count), self.tr("drops"), line.name, line.lab)
            elif glazed:
                self._tile(
                    str(line.count),
                    counted(line.count, self.tr("drop"), self.tr("drops")),
                    line.name,
                    line.lab,
                )
            else:
                self._tile(f"{_MIX_ML:g}", "ml", self.tr("{0}, as it is").format(line.name), line.lab)
        if coat.thinner_share:
            per_part = coat.thinner_share / (1 - coat.thinner_share)
            if glazed:
                self._tile(f"{per_part:.0f}", self.tr("drops"), self.tr("thinner"))
            else:
                self._tile(f"{_MIX_ML * per_part:.1f}", "ml", self.tr("thinner"))

    def _tile(self, figure: str, unit: str, name: str, lab: Lab | None = None) -> None:
        """One thing that goes into the cup: how much, of what, and its colour."""
        tile = Panel(kind="raised", margin=12)
        text = QVBoxLayout()
        text.setSpacing(0)
        text.addWidget(label(figure, "huge"))
        text.addWidget(label(f"{unit} {name}", "second", wrap=True))
        inner = row(*([Chip(lab, 32, 56)] if lab else []), spacing=10)
        inner.addLayout(text, 1)
        tile.add(inner)
        self._tiles.addWidget(tile, 1)

    def _show_how(
        self, project: Project, step: PlanStep, coats: list[Coat], steps: tuple[PlanStep, ...]
    ) -> None:
        clear(self._notes)
        here = [zone.name for zone in project.zones if step.zones == "all" or zone.id in step.zones]
        zones = self.tr("the whole model") if len(here) == len(project.zones) else ", ".join(here)
        sentences = [self.tr("On {0}.").format(zones)]
        if coats:
            sentences.append(laying_words(coats[0]).capitalize() + ".")
            if coats[0].area_share < 0.5:
                sentences.append(
                    self.tr("Cover {0} % of the area, then stop.").format(f"{100 * coats[0].area_share:.1f}")
                )
        self._how_words.setText(" ".join(sentences))
        warnings = [finding.message for finding in check_plan(steps) if finding.step == step.id]
        spoken = cautions(step)
        for words, filled in [*((w, True) for w in warnings), *((c, False) for c in spoken)]:
            sign = Diamond(filled=filled, size=13, mark="")
            line = row(sign, label(words, "" if filled else "second", wrap=True), spacing=8)
            line.setAlignment(sign, Qt.AlignmentFlag.AlignTop)
            self._notes.addLayout(line)
        if spoken:
            self._notes.addWidget(label(DEFER, "second", wrap=True))

    def _show_wait(self, step: PlanStep, steps: tuple[PlanStep, ...]) -> None:
        clear(self._after)
        self._tick()
        if self._waits_until is None:
            self._wait.setText(span(step.touch_dry_min) if step.touch_dry_min else "–")
            words = [self.tr("until touch-dry.")] if step.touch_dry_min else []
            if step.full_cure_min:
                words.append(self.tr("Fully cured after {0}.").format(span(step.full_cure_min)))
            if step.removable_until_min is not None:
                words.append(self.tr("Can be wiped off for {0}.").format(span(step.removable_until_min)))
            self._wait_words.setText(" ".join(words))
        for number, later in list(enumerate(steps, start=1))[self.index + 1 : self.index + 6]:
            self._after.addLayout(row(_number(number), label(later.name, "", wrap=True), spacing=10))
        if self.index + 1 >= len(steps):
            self._after.addWidget(label(self.tr("This is the last step."), "second"))

    def _tick(self) -> None:
        if self._waits_until is None:
            return
        left = self._waits_until - datetime.now()
        if left <= timedelta(0):
            self._waits_until = None
            self._clock.stop()
            self._wait.setText(self.tr("dry"))
            self._wait_words.setText(self.tr("The step before has dried to the touch."))
            return
        seconds = int(left.total_seconds())
        clock = (
            f"{seconds // 3600}:{seconds // 60 % 60:02d}:{seconds % 60:02d}"
            if seconds >= 3600
            else f"{seconds // 60}:{seconds % 60:02d}"
        )
        self._wait.setText(clock)
        self._wait_words.setText(
            self.tr("until the step before is touch-dry, at {0}.").format(f"{self._waits_until:%H:%M}")
        )

    # What the user does

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Space, Qt.Key.Key_PageDown):
            self.finish_step()
        elif event.key() == Qt.Key.Key_PageUp:
            self.turn(-1)
        else:
            super().keyPressEvent(event)

    def turn(self, places: int) -> None:
        """Look at another step without marking anything."""
        self.index = max(0, min(len(self.session.project.steps) - 1, self.index + places))
        self.refresh()

    def finish_step(self) -> None:
        """Mark the step as done, start its wait, and show the next."""
        steps = self.session.project.steps
        if not 0 <= self.index < len(steps):
            return
        step = steps[self.index]
        self.index = min(len(steps) - 1, self.index + 1)
        if step.done:
            self.refresh()
            return
        if step.touch_dry_min:
            self._waits_until = datetime.now() + timedelta(minutes=step.touch_dry_min)
            self._clock.start()
        self.session.edit(
            self.tr("Done: {0}").format(step.title), lambda p: edits.set_step_done(p, step.id, True)
        )

    def _ask_card(self) -> None:
        project = self.session.project
        start = str(Path.home() / card_name(project))
        name, _ = QFileDialog.getSaveFileName(self, self.tr("Print the bench card"), start, "PDF (*.pdf)")
        if name:
            self.session.jobs.start("card", lambda _p: write_bench_card(project, name), lambda _a: None)


def _number(number: int) -> QLabel:
    """A step's number in a column of its own."""
    answer = label(str(number), "second")
    answer.setFixedWidth(20)
    answer.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignTop)
    return answer
