"""Bench: the step at hand, large enough to read from the airbrush, with its drops and its wait."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import datetime, timedelta

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLabel, QVBoxLayout, QWidget

from lean_sepia.answers import plan
from lean_sepia.answers.amounts import Cup, amount_words, cup_notes
from lean_sepia.answers.bench import BenchStep, bench_steps, span
from lean_sepia.document.edits.planning import set_step_done
from lean_sepia.language import _, ngettext
from lean_sepia.plan.care.cautions import DEFER
from lean_sepia.ui.bench.print_card import ask_card
from lean_sepia.ui.kit.diamond import Diamond
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.named_pair import NamedPair
from lean_sepia.ui.kit.panel import Panel, button, label, row
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Chip, Lab
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session

_TILES_IN_LINE = 3


@guarded
class BenchRoom(RoomPage):
    """One step at a time: the first that is not done, or any other the user turns to."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.index = -1
        self.steps: tuple[BenchStep, ...] = ()
        self._waits_until: datetime | None = None
        self._clock = QTimer(self)
        self._clock.setInterval(1000)
        self._clock.timeout.connect(self._tick)
        self._title, self._place = label("", "huge", wrap=True), label("", "title")
        self.centre.addLayout(row(self._title, self._place))
        self._field = NamedPair(height=180)
        self.centre.addWidget(self._field, 3)
        self._tiles = Rows(spacing=10)
        self.centre.addWidget(self._tiles)
        self._cup_words = label("", "second", wrap=True)
        self.centre.addWidget(self._cup_words)
        self._how = Panel()
        self._how_words = label("", "statement", wrap=True)
        self._notes = Rows(spacing=6)
        self._how.add(self._how_words)
        self._how.add(self._notes)
        self._how.body.addStretch(1)
        self.centre.addWidget(self._how, 2)
        self.back, self.next = (
            button(_("Step before")),
            button(_("Done, next step"), "main", _("Space or Page Down")),
        )
        self.back.clicked.connect(lambda: self.turn(-1))
        self.next.clicked.connect(self.finish_step)
        self.ahead = button(_("Look ahead"))
        self.ahead.clicked.connect(lambda: self.turn(1))
        self.centre.addLayout(row(self.back, self.ahead, None, self.next))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._build_side()

    def _build_side(self) -> None:
        wait = Panel(_("Wait"))
        self._wait, self._wait_words = label("", "huge"), label("", "second", wrap=True)
        wait.add(self._wait)
        wait.add(self._wait_words)
        self.side.addWidget(wait)
        after = Panel(_("After this"))
        self._after = Rows(spacing=6)
        after.add(self._after)
        after.body.addStretch(1)
        self.side.addWidget(after, 1)
        card = Panel(_("On paper"))
        card.add(
            label(
                _(
                    "Zones, parts, drops, order, waits and cautions on A4, with a line to check the print size."
                ),
                "second",
                wrap=True,
            )
        )
        self.card = button(_("Print the bench card…"))
        self.card.clicked.connect(lambda: ask_card(self, self.session.project, self.session.jobs))
        card.add(self.card)
        self.side.addWidget(card)

    # What the document says

    def refresh(self) -> None:
        session = self.session
        self.steps = bench_steps(session.project, session.cuts(), plan.answer(plan.ask(session.project)))
        if not self.steps:
            self._show_nothing()
            return
        if not 0 <= self.index < len(self.steps):
            left = [place for place, step in enumerate(self.steps) if not step.done]
            self.index = left[0] if left else len(self.steps) - 1
        step = self.steps[self.index]
        self._title.setText(step.title)
        place = _("step {0} of {1}, done") if step.done else _("step {0} of {1}")
        self._place.setText(place.format(self.index + 1, len(self.steps)))
        self._show_colour(step)
        self._show_mix(step)
        self.session.jobs.later("bench, below", self._show_below)
        self.back.setEnabled(self.index > 0)
        self.ahead.setEnabled(self.index + 1 < len(self.steps))
        self.next.setText(_("Done, next step") if not step.done else _("Next step"))
        self.next.setEnabled(True)

    def _show_below(self) -> None:
        if self.steps:
            step = self.steps[self.index]
            self._show_how(step)
            self._show_wait(step)

    def _show_nothing(self) -> None:
        self._title.setText(_("Nothing to do yet"))
        self._place.setText("")
        self._field.show_pair([None], "")
        self._cup_words.hide()
        for rows in (self._tiles, self._notes, self._after):
            rows.fill(())
        self._how_words.setText(
            _("Steps come with the coats you lay: pin a recipe in Match, or add steps in Plan.")
        )
        self._wait.setText("–")
        self._wait_words.setText("")
        for choice in (self.back, self.next, self.ahead):
            choice.setEnabled(False)

    def _show_colour(self, step: BenchStep) -> None:
        colours = step.colours
        self._field.setVisible(bool(colours))
        if not colours:
            return
        labs = [one.lab for one in colours]
        target = colours[0].target if len(colours) == 1 else None
        if target is not None:
            self._field.show_pair([target.lab, labs[0]], _("Target"), _("What this step should give"))
        elif len(set(labs)) == 1:
            self._field.show_pair(labs[:1], _("What this step should give"))
        else:
            zones = ", ".join(one.zone.short for one in colours)
            self._field.show_pair(labs, _("What this step should give: {0}").format(zones))

    def _show_mix(self, step: BenchStep) -> None:
        self._cup_words.setVisible(bool(step.cups))
        if not step.cups:
            self._tiles.fill(())
            return
        cup = step.cups[0]
        tiles = [self._tile(amount_words(line.amount), line.name, line.lab) for line in cup.lines]
        if cup.thinner_ml > 0:
            tiles.append(self._tile(_("{0} ml").format(f"{cup.thinner_ml:.1f}"), _("thinner")))
        self._tiles.fill(_in_lines(tiles))
        said = [self._parts(cup), *cup_notes(cup)]
        more = len(step.cups) - 1
        if more:
            said.append(
                ngettext("{0} more cup for other zones: see the card", "{0} more cups for other zones: see the card",
                         more).format(more)
            )  # fmt: skip
        self._cup_words.setText(" · ".join(word for word in said if word))

    @staticmethod
    def _parts(cup: Cup) -> str:
        if len(cup.lines) < 2:
            return ""
        return _("parts {0}").format(" : ".join(str(line.count) for line in cup.lines))

    @staticmethod
    def _tile(figure: str, name: str, lab: Lab | None = None) -> Panel:
        """One thing that goes into the cup: how much, of what, and its colour."""
        tile = Panel(kind="raised", margin=10)
        text = QVBoxLayout()
        text.setSpacing(0)
        text.addWidget(label(figure, "figure"))
        text.addWidget(label(name, "second", wrap=True))
        inner = row(*([Chip(lab, 24, 50)] if lab else []), spacing=8)
        inner.addLayout(text, 1)
        tile.add(inner)
        return tile

    def _show_how(self, step: BenchStep) -> None:
        zones = _("the whole model") if step.whole_model else ", ".join(zone.name for zone in step.zones)
        sentences = [_("On {0}.").format(zones)]
        if step.coats:
            sentences.append(f"{step.how[:1].upper()}{step.how[1:]}.")
            if step.coats[0].area_share < 0.5:
                sentences.append(_("Then stop."))
        self._how_words.setText(" ".join(sentences))
        self._notes.fill(self._note_rows(step))

    @staticmethod
    def _note_rows(step: BenchStep) -> Iterator[Item]:
        warnings = [(finding.message, True) for finding in step.findings]
        for words, filled in [*warnings, *((caution, False) for caution in step.cautions)]:
            sign = Diamond(filled=filled, size=13, mark="")
            line = row(sign, label(words, "" if filled else "second", wrap=True), spacing=8)
            line.setAlignment(sign, Qt.AlignmentFlag.AlignTop)
            yield line
        if step.cautions:
            yield label(_(DEFER), "second", wrap=True)

    def _show_wait(self, step: BenchStep) -> None:
        self._tick()
        if self._waits_until is None:
            planned = step.step
            self._wait.setText(span(planned.touch_dry_min) if planned.touch_dry_min else "–")
            words = [_("until touch-dry.")] if planned.touch_dry_min else []
            if planned.full_cure_min:
                words.append(_("Fully cured after {0}.").format(span(planned.full_cure_min)))
            if planned.removable_until_min is not None:
                words.append(_("Can be wiped off for {0}.").format(span(planned.removable_until_min)))
            self._wait_words.setText(" ".join(words))
        self._after.fill(self._later_rows())

    def _later_rows(self) -> Iterator[Item]:
        for later in self.steps[self.index + 1 : self.index + 6]:
            yield row(_number(later.number), label(later.title, "", wrap=True), spacing=10)
        if self.index + 1 >= len(self.steps):
            yield label(_("This is the last step."), "second")

    def _tick(self) -> None:
        if self._waits_until is None:
            return
        left = self._waits_until - datetime.now()
        if left <= timedelta(0):
            self._waits_until = None
            self._clock.stop()
            self._wait.setText(_("dry"))
            self._wait_words.setText(_("The step before has dried to the touch."))
            return
        seconds = int(left.total_seconds())
        clock = (
            f"{seconds // 3600}:{seconds // 60 % 60:02d}:{seconds % 60:02d}"
            if seconds >= 3600
            else f"{seconds // 60}:{seconds % 60:02d}"
        )
        self._wait.setText(clock)
        self._wait_words.setText(
            _("until the step before is touch-dry, at {0}.").format(f"{self._waits_until:%H:%M}")
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
        self.index = max(0, min(len(self.steps) - 1, self.index + places))
        self.refresh()

    def finish_step(self) -> None:
        """Mark the step as done, start its wait, and show the next."""
        if not 0 <= self.index < len(self.steps):
            return
        step = self.steps[self.index]
        self.index = min(len(self.steps) - 1, self.index + 1)
        if step.done:
            self.refresh()
            return
        if step.step.touch_dry_min:
            self._waits_until = datetime.now() + timedelta(minutes=step.step.touch_dry_min)
            self._clock.start()
        self.session.edit(_("Done: {0}").format(step.title), lambda p: set_step_done(p, step.step.id, True))


def _in_lines(tiles: Sequence[QWidget]) -> Iterator[Item]:
    """Tiles in lines of at most three, as even as can be: four are two and two."""
    lines = -(-len(tiles) // _TILES_IN_LINE)
    each = -(-len(tiles) // lines)
    for start in range(0, len(tiles), each):
        line = row(*tiles[start : start + each], spacing=12)
        for place in range(line.count()):
            line.setStretch(place, 1)
        yield line


def _number(number: int) -> QLabel:
    """A step's number in a column of its own."""
    answer = label(str(number), "second")
    answer.setFixedWidth(20)
    answer.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignTop)
    return answer
