"""Bench: the step at hand, large enough to read at arm's length, with its cup, its lists and its clocks."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime
from functools import partial

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QKeyEvent, QShowEvent
from PySide6.QtWidgets import QLineEdit

from lean_sepia.answers import plan
from lean_sepia.answers.bench import BenchStep, bench_steps, span, timers
from lean_sepia.answers.working.small_parts import small_parts
from lean_sepia.document.edits.planning import log_wait, set_step_done, start_step, tick
from lean_sepia.document.edits.step_changes import change_step
from lean_sepia.document.entities.planned import Step
from lean_sepia.document.model import Project
from lean_sepia.language import _, weekday, weekday_and_time
from lean_sepia.plan.hours.wall_clock import read_written
from lean_sepia.report.export import Leaving
from lean_sepia.ui.bench.clock_rows import ClockRows
from lean_sepia.ui.bench.cup_tiles import CupTiles
from lean_sepia.ui.bench.notify import notify
from lean_sepia.ui.bench.step_notes import StepNotes
from lean_sepia.ui.kit.dialogs.ask import ask_number
from lean_sepia.ui.kit.dialogs.exporting import export_button
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.named_pair import NamedPair
from lean_sepia.ui.kit.panel import Panel, button, label, row, scrolled
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session


@guarded
class BenchRoom(RoomPage):
    """One step at a time: the first that is not done, or any other the user turns to."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.index = -1
        self._remark_of = ""  # the step that the line of the remark is about
        self.steps: tuple[BenchStep, ...] = ()
        self._answer: plan.PlanAnswer | None = None
        self._title, self._place = label("", "huge", wrap=True), label("", "title")
        self._how = label("", "figure", wrap=True)
        self.centre.addLayout(row(self._title, self._place))
        self.centre.addWidget(self._how)
        self._cup = CupTiles()
        self.centre.addWidget(self._cup)
        self._field = NamedPair(height=56)
        self._field.setMaximumHeight(116)
        self.centre.addWidget(self._field, 1)
        self._notes = StepNotes(self._ticked)
        notes = scrolled(self._notes, by_keys=True)
        notes.setAccessibleName(_("What to heed in this step"))
        self.centre.addWidget(notes, 5)
        self._build_foot()
        self._build_side()
        self._clock = QTimer(self)
        self._clock.setInterval(1000)
        self._clock.timeout.connect(self._tick)
        self._clock.start()

    def _build_foot(self) -> None:
        self.remark = QLineEdit()
        self.remark.setPlaceholderText(_("One line about this step, as it went"))
        self.remark.setAccessibleName(_("Remark on this step"))
        self.remark.editingFinished.connect(self._keep_remark)
        self.centre.addWidget(self.remark)
        self.back, self.ahead = button(_("Step before"), "", _("Page Up")), button(_("Look ahead"))
        self.begin = button(_("Begin"), "", _("Its time at the bench is counted from now"))
        self.undo_done = button(_("Not done after all"))
        self.next = button(_("Done, next step"), "main", _("Space or Page Down"))
        self.back.clicked.connect(lambda: self.turn(-1))
        self.ahead.clicked.connect(lambda: self.turn(1))
        self.begin.clicked.connect(self.begin_step)
        self.undo_done.clicked.connect(self.take_back)
        self.next.clicked.connect(self.finish_step)
        self.centre.addLayout(row(self.back, self.ahead, None, self.undo_done, self.begin, self.next))

    def _build_side(self) -> None:
        clocks = Panel(_("Clocks"))
        self.clocks = ClockRows(self._tell)
        clocks.add(self.clocks)
        self.log = button(
            _("It dried sooner or later…"),
            "link",
            _("Keep how long it really took; it counts before the tables"),
        )
        self.log.clicked.connect(self.log_wait)
        clocks.add(self.log)
        self.side.addWidget(clocks)
        this = Panel(_("This step"))
        self._facts = Rows(spacing=5)
        this.add(self._facts)
        this.seen_with(self._facts.filled)
        self.side.addWidget(this)
        after = Panel(_("After this"))
        self._after = Rows(spacing=6)
        after.add(self._after)
        after.seen_with(self._after.filled)
        after.body.addStretch(1)
        self.side.addWidget(after, 1)
        self.side.addStretch()
        self.card = export_button("card", self.session.jobs, lambda: Leaving(self.session.project), look="")
        self.side.addWidget(self.card)

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.next.setFocus(Qt.FocusReason.OtherFocusReason)

    # What the document says

    @property
    def step(self) -> BenchStep | None:
        """The step that is shown."""
        return self.steps[self.index] if 0 <= self.index < len(self.steps) else None

    def refresh(self) -> None:
        project = self.session.project
        question = plan.ask(project)
        self.session.jobs.start(
            "bench", lambda _progress: plan.answer(question), partial(self._answered, project)
        )

    def _answered(self, project: Project, answer: plan.PlanAnswer) -> None:
        """Show the steps of a plan that was worked out beside; what is there stays until then, and a late answer is not shown."""
        session = self.session
        if project is not session.project:
            self._mark()
            return
        self._answer = answer
        shown = self.step.step.id if self.step else ""
        self.steps = bench_steps(session.project, session.cuts(), answer)
        places = {step.step.id: place for place, step in enumerate(self.steps)}
        self.index = places.get(
            shown, self.index
        )  # the order follows the clock: the step that is shown stays
        if not 0 <= self.index < len(self.steps):
            left = [place for place, step in enumerate(self.steps) if not step.done]
            self.index = left[0] if left else len(self.steps) - 1
        self.clocks.show_timers(timers(self._answer, self.steps), datetime.now())
        step = self.step
        for part in (self._cup, self._field, self.remark):
            part.setVisible(step is not None)
        if step is None:
            self._show_nothing()
            return
        self._title.setText(step.title)
        self._place.setText(self._place_words(step))
        self._how.setText(" ".join(_how(step)))
        self._show_colour(step)
        self._cup.show_cups(step.cups)
        kept = session.project.step(step.step.id)
        if not self.remark.hasFocus() or self._remark_of != kept.id:
            self._remark_of = kept.id
            self.remark.setText(kept.remark)
        session.jobs.later("bench, below", self._show_below)
        self.back.setEnabled(self.index > 0)
        self.ahead.setEnabled(self.index + 1 < len(self.steps))
        self.next.setEnabled(True)
        self.begin.setEnabled(True)
        self.next.setText(_("Done, next step") if not step.done else _("Next step"))
        self.begin.setVisible(not step.done and not kept.started)
        self.undo_done.setVisible(step.done)
        self._follow_zone(step)

    def _place_words(self, step: BenchStep) -> str:
        """Which step it is by the clock, and which part of its sitting."""
        place = _("step {0} of {1}, done") if step.done else _("step {0} of {1}")
        words = place.format(step.number, max(one.number for one in self.steps))
        sitting = [one.step.id for one in self.steps if one.number == step.number]
        if len(sitting) > 1:
            words += _(", part {0} of {1}").format(sitting.index(step.step.id) + 1, len(sitting))
        return words

    def _follow_zone(self, step: BenchStep) -> None:
        """The zone column shows what is worked on."""
        if step.zones and not any(zone.id == self.session.zone for zone in step.zones):
            self.session.choose_zone(step.zones[0].id)

    def _show_below(self) -> None:
        step = self.step
        if step is not None:
            self._notes.show_step(step, self.session.project.step(step.step.id).note)
            self._facts.fill(self._fact_rows(step))
            self._after.fill(self._later_rows())

    def _show_nothing(self) -> None:
        self._title.setText(_("Nothing to do yet"))
        self._place.setText("")
        self._how.setText(
            _("Steps come with the coats you lay: pin a recipe in Match, or add steps in Plan.")
        )
        for rows in (self._notes, self._after, self._facts):
            rows.fill(())
        for choice in (self.back, self.next, self.ahead, self.begin):
            choice.setEnabled(False)
        self.undo_done.hide()

    def _show_colour(self, step: BenchStep) -> None:
        colours = step.colours
        self._field.setVisible(bool(colours))
        if not colours:
            return
        labs = [one.lab for one in colours]
        target = colours[0].target if len(colours) == 1 else None
        if all(one.marks_on is not None for one in colours):
            words = _("What this step should give: marks on {0} % of {1}")
            zones = ", ".join(one.zone.short for one in colours)
            share = ", ".join(dict.fromkeys(f"{100 * one.share:.1f}" for one in colours))
            self._field.show_marks(
                [(one.marks_on, one.lab, one.share) for one in colours], words.format(share, zones)
            )
        elif target is not None:
            self._field.show_pair([target.lab, labs[0]], _("Target"), _("What this step should give"))
        elif len(set(labs)) == 1:
            self._field.show_pair(labs[:1], _("What this step should give"))
        else:
            zones = ", ".join(one.zone.short for one in colours)
            self._field.show_pair(labs, _("What this step should give: {0}").format(zones))

    def _fact_rows(self, step: BenchStep) -> Iterator[Item]:
        facts = [(_("at the bench"), span(step.step.hands_min))]
        kept = self.session.project.step(step.step.id)
        if step.placed is not None and not step.done:
            facts.insert(0, (_("begins"), weekday_and_time(step.placed.start)))
            facts.append((_("ready"), weekday_and_time(step.placed.ready)))
        if step.clocks is not None and not step.done:
            if step.clocks.safe is not None and step.placed and step.placed.start < step.clocks.safe:
                facts.append((_("safer from"), weekday_and_time(step.clocks.safe)))
            if step.clocks.late is not None:
                facts.append((_("better not after"), weekday_and_time(step.clocks.late)))
            if step.clocks.closed is not None:
                facts.append((_("not after"), weekday_and_time(step.clocks.closed)))
        for name, value in [*facts, *_kept_facts(kept)]:
            yield row(label(name, "second"), None, label(value))
        colours = small_parts(self.session.project)
        recipes = {coat.recipe for coat in step.coats}
        for group in colours:
            if group.recipe in recipes and len(group.zones) > 1:
                names = ", ".join(zone.short for zone in group.zones)
                yield label(_("From this cup, small parts too: {0}.").format(names), "second", wrap=True)

    def _later_rows(self) -> Iterator[Item]:
        for later in self.steps[self.index + 1 : self.index + 6]:
            number = label(str(later.number), "second")
            number.setFixedWidth(20)
            number.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignTop)
            when = (
                _("{0} {1}").format(weekday(later.placed.start), later.placed.start.day)
                if later.placed
                else ""
            )
            yield row(number, label(later.title, "", wrap=True), label(when, "second"), spacing=10)
        if self.index + 1 >= len(self.steps):
            yield label(_("This is the last step."), "second")

    def _tick(self) -> None:
        self.clocks.tick(datetime.now())

    def _tell(self, title: str, words: str) -> None:
        """A clock has run out: the desktop is told, and the room shows it."""
        self.session.jobs.start("notice", lambda _p: notify(title, words), lambda _shown: None, keep=True)
        self._place.setText(title)

    # What the user does

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Space, Qt.Key.Key_PageDown):
            if not event.isAutoRepeat():
                self.finish_step()
        elif event.key() == Qt.Key.Key_PageUp:
            self.turn(-1)
        else:
            super().keyPressEvent(event)

    def turn(self, places: int) -> None:
        """Look at another step without marking anything."""
        self._keep_remark()
        self.index = max(0, min(len(self.steps) - 1, self.index + places))
        self.refresh()

    def begin_step(self) -> None:
        """Count the time at the bench from now."""
        step = self.step
        if step is not None:
            now = datetime.now()
            self.session.edit(_("Begin: {0}").format(step.title), lambda p: start_step(p, step.step.id, now))

    def finish_step(self) -> None:
        """Mark the step as done: its clocks start, and the next is shown."""
        step = self.step
        if step is None:
            return
        self._keep_remark()
        self.index = min(len(self.steps) - 1, self.index + 1)
        if step.done:
            self.refresh()
            return
        now = datetime.now()
        self.session.edit(
            _("Done: {0}").format(step.title), lambda p: set_step_done(p, step.step.id, True, now)
        )

    def take_back(self) -> None:
        """The step is not done after all: its clocks stop."""
        step = self.step
        if step is not None and step.done:
            self.session.edit(
                _("Not done: {0}").format(step.title), lambda p: set_step_done(p, step.step.id, False)
            )

    def _ticked(self, step_id: str, code: str, on: bool) -> None:
        self.session.edit(_("Tick"), lambda p: tick(p, step_id, code, on))

    def _keep_remark(self) -> None:
        about, words = self._remark_of, self.remark.text().strip()
        step = next((step for step in self.session.project.steps if step.id == about), None)
        if step is not None and words != step.remark:
            self.session.edit(_("Remark"), lambda p: change_step(p, about, {"remark": words}))

    def log_wait(self) -> None:
        """Keep how long something really took to dry before what comes next."""
        pair = self._pair_to_log()
        if pair is None:
            return
        below, then, usual = pair
        words = _("Minutes after {0} until {1} could begin.").format(below.title, then.title)
        minutes = ask_number(
            self,
            _("How long did it take?"),
            words,
            _("Keep it"),
            value=usual,
            low=0,
            high=20_160,
            unit=_("min"),
        )
        if minutes is not None:
            self.session.edit(
                _("Log a wait"),
                lambda p: log_wait(p, below.step.kind, below.step.medium, then.step.kind, minutes),
            )

    def _pair_to_log(self) -> tuple[BenchStep, BenchStep, float] | None:
        """The step that is shown and what it waits longest for, and the wait as it is now."""
        step = self.step
        if step is None or self._answer is None:
            return None
        work = [one.id for one in self._answer.question.work]
        found = self._answer.links[work.index(step.step.id)]
        if not found:
            return None
        below = max(found, key=lambda i: (found[i], i))
        return next(one for one in self.steps if one.step.id == work[below]), step, found[below]


def _kept_facts(kept: Step) -> Iterator[tuple[str, str]]:
    """When a step was begun and done, and how long it took."""
    if kept.started and not kept.done:
        yield _("begun"), weekday_and_time(read_written(kept.started))
    if kept.done and kept.ended:
        yield _("done"), weekday_and_time(read_written(kept.ended))
    if kept.spent_min is not None:
        yield _("took"), span(round(kept.spent_min))


def _how(step: BenchStep) -> Iterator[str]:
    """What to do, in type to be read at arm's length."""
    zones = _("the whole model") if step.whole_model else ", ".join(zone.name for zone in step.zones)
    yield _("On {0}.").format(zones)
    if step.coats:
        yield f"{step.how[:1].upper()}{step.how[1:]}."
        if step.coats[0].area_share < 0.5:
            yield _("Then stop.")
