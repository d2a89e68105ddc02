"""Light and shade: a ladder of tones, each laid as a coat of its own."""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtWidgets import QVBoxLayout

from lean_sepia.answers.toning import light
from lean_sepia.answers.toning.light import LightAnswer, LightQuestion
from lean_sepia.language import _
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import Panel, button, label, row, rule
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Fields
from lean_sepia.ui.shell.session import Session


class LadderPanel(Panel):
    """Shows the tones from shade to light with their shares, and lays them."""

    def __init__(self, session: Session) -> None:
        super().__init__(_("Light and shade"))
        self._session = session
        self._zone, self._lightener = "", ""
        self.answer: LightAnswer | None = None
        self._asked: LightQuestion | None = None
        self.count = ChoiceBox(_("How many tones"), [(_("{0} tones").format(n), n) for n in range(3, 8)], 92)
        self.count.choose(5)
        self.shade = ChoiceBox(
            _("What the shade is mixed with"),
            [(_("no dead black"), "tinged"), (_("pure black"), "pure"), (_("pre-shaded"), "below"), (_("no shade"), "none")], 132,
        )  # fmt: skip
        for box in (self.count, self.shade):
            box.currentIndexChanged.connect(self._ask)
        self.add(row(self.count, self.shade, None, spacing=6))
        self._fields = Fields(margin=6, height=64)
        self._fields.setFixedHeight(64)
        self.add(self._fields)
        self._words = label("", "second", wrap=True)
        self.add(self._words)
        self._lines = Rows(spacing=3)
        self.add(self._lines)
        self.lay = button(_("Lay tones"), "", _("Each tone becomes a coat on its share of the zone"))
        self.lay.clicked.connect(self.lay_tones)
        self.add(row(self.lay, None))

    def show_ladder(self, zone: str, lightener: str) -> None:
        """Show the ladder of a zone with a lightener; nothing without."""
        self._zone, self._lightener = zone, lightener
        self._ask()

    def _ask(self, *_why: object) -> None:
        shade, tones = str(self.shade.value), self.count.value
        session = self._session
        question = None
        if self._zone and self._lightener:
            question = light.ask(
                session.project, self._zone, self._lightener, session.shelf.paints(),
                tones=tones if isinstance(tones, int) else 5, shade=shade,
            )  # fmt: skip
        self.setVisible(question is not None)
        if question is None or (question.same_as(self._asked) and self.answer):
            return
        self._asked = question
        session.jobs.start("light", lambda _p: light.answer(question), self._show)

    def _show(self, answer: LightAnswer) -> None:
        self.answer = answer
        self.lay.setEnabled(answer.ladder is not None)
        if answer.ladder is None:
            self._fields.show_labs([answer.question.before])
            self._words.setText(answer.odd)
            self._lines.fill(())
            return
        self._fields.show_labs([tone.lab for tone in answer.ladder.tones])
        words = _("Steps of {0:.1f} ΔE00. The lighter, the smaller its area.").format(answer.ladder.mean)
        self._words.setText(words if answer.ladder.even else answer.odd or words)
        self._lines.fill(self._rows(answer))

    def _rows(self, answer: LightAnswer) -> Iterator[Item]:
        assert answer.ladder is not None
        for tone in answer.ladder.tones:
            yield rule()
            cell = QVBoxLayout()
            cell.setSpacing(0)
            share = _("{0} %").format(f"{100 * tone.area_share:.0f}")
            cell.addLayout(row(label(answer.mix_words(tone), "", wrap=True), label(share, "second")))
            if tone.added:
                cell.addWidget(label(answer.manner_words(tone), "second", wrap=True))
            yield cell

    def lay_tones(self) -> None:
        """Lay every tone as a coat."""
        answer = self.answer
        if answer is None or answer.ladder is None or answer.question.zone != self._session.zone:
            return
        name = self._session.project.zone(answer.question.zone).name
        self._session.edit(_("Light and shade on {0}").format(name), lambda p: light.lay_tones(p, answer))
