"""The chosen step beside the evenings: both of its clocks, what it waits for, and what to heed."""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtCore import Signal

from lean_sepia.answers.bench import span
from lean_sepia.answers.plan import Clocks, PlanAnswer
from lean_sepia.answers.working.stretches import numbers_of
from lean_sepia.language import _, clock, day, ngettext, weekday_and_time
from lean_sepia.plan.care.cautions import cautions
from lean_sepia.plan.step import PlanStep
from lean_sepia.ui.kit.diamond import Diamond
from lean_sepia.ui.kit.panel import Panel, button, label, row, rule
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.shell.session import Session


class StepPanel(Panel):
    """What is known of a step; it is moved and opened from here."""

    move_wanted = Signal(int)
    opened = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__(_("Step"), kind="raised")
        self._session = session
        self._title = label("", "title", wrap=True)
        self._body = Rows(spacing=5)
        self.up, self.down = button(_("Earlier"), "tool"), button(_("Later"), "tool")
        self.change = button(_("Change…"), "tool", _("Everything about this step; split, join, copy, remove"))
        self.up.clicked.connect(lambda: self.move_wanted.emit(-1))
        self.down.clicked.connect(lambda: self.move_wanted.emit(1))
        self.change.clicked.connect(self.opened)
        self.add(self._title)
        self.add(self._body)
        self.add(row(self.up, self.down, None, self.change))

    def show_step(self, answer: PlanAnswer | None, step_id: str, clocks: Clocks | None) -> None:
        """Show a step of a plan; none where it has none of that id."""
        steps = answer.question.work if answer else ()
        number = numbers_of(answer).get(step_id, 0) if answer else 0
        for control in (self.up, self.down, self.change):
            control.setEnabled(bool(number))
        if not number or answer is None:
            self._body.fill(())
            self._title.setText(_("None chosen"))
            self.set_caption(_("Step"))
            return
        step = next(one for one in steps if one.id == step_id)
        zones = (
            _("all")
            if step.zones == "all"
            else ", ".join(self._session.project.zone(z).short for z in step.zones)
        )
        self.set_caption(
            _("Step {0}").format(number),
            zones
            if len(zones) < 20
            else ngettext("{0} zone", "{0} zones", len(step.zones)).format(len(step.zones)),
        )
        self._title.setText(step.name)
        self._body.fill(self._rows(step, answer, clocks))

    @staticmethod
    def _rows(step: PlanStep, answer: PlanAnswer, clocks: Clocks | None) -> Iterator[Item]:
        for name, value in _facts(step, answer, clocks):
            yield rule()
            yield row(label(name, "second"), None, label(value))
        because = next(
            (other.name for other in answer.question.work if clocks and other.id == clocks.because), ""
        )
        if because and not step.done:
            yield label(_("It waits for {0}.").format(because), "second", wrap=True)
        if step.pace != 1 and not step.done:
            yield label(
                _("{0:g} times as long as usual, as you took before.").format(step.pace), "second", wrap=True
            )
        for words in cautions(step):
            yield row(Diamond(size=12, mark=""), label(words, "second", wrap=True), spacing=7)


def _facts(step: PlanStep, answer: PlanAnswer, clocks: Clocks | None) -> Iterator[tuple[str, str]]:
    placed = answer.placed.get(step.id)
    if placed and clocks and not step.done:
        yield _("not before"), weekday_and_time(clocks.not_before)
        if clocks.safe is not None and placed.start < clocks.safe:
            yield _("safer from"), weekday_and_time(clocks.safe)
        until = clocks.late or clocks.closed
        if until is not None:
            yield _("not after"), weekday_and_time(until)
        yield _("begins"), weekday_and_time(placed.start)
    yield _("at the bench"), span(step.hands_min)
    if placed and (not step.done or step.end is not None):
        yield _("ready"), f"{day(placed.ready)}, {clock(placed.ready)}"
