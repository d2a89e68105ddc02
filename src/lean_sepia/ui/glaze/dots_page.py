"""Oil dots: a palette for the chosen zone with its dots, what it makes of the ground, and how to draw it out."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from PySide6.QtWidgets import QCheckBox

from lean_sepia.answers.glazing import oil_dots
from lean_sepia.answers.glazing.grounds import tint_cautions
from lean_sepia.answers.glazing.oil_dots import ROLE_WORDS, DotAnswer
from lean_sepia.colour.words import difference
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.language import _, ngettext
from lean_sepia.recipe.tints.dots import FEWEST_OILS, MOST_DOTS, MOST_OILS
from lean_sepia.ui.glaze.tint_page import TintPage
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import button, count_box, label, row, rule
from lean_sepia.ui.kit.plots.path_strip import PathStrip, Stop
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Chip
from lean_sepia.ui.shell.session import Session


class DotsPage(TintPage):
    """Ground, mean and goal large; below them the oils, each with its dots to 10 cm²."""

    def __init__(self, session: Session, kind: str) -> None:
        super().__init__(session, kind)
        self.answer: DotAnswer | None = None
        self._own: tuple[tuple[str, int], ...] = ()
        self._zone = ""
        body = self.body
        self.strip = PathStrip()
        body.addWidget(self.strip, 2)
        self.count = ChoiceBox(
            _("How many oils"), [(ngettext("{0} oil", "{0} oils", n).format(n), n) for n in range(FEWEST_OILS, MOST_OILS + 1)], 84
        )  # fmt: skip
        self.count.choose(4)
        self.count.currentIndexChanged.connect(self._anew)
        self.level = QCheckBox(_("a level surface, such as a deck"))
        self.level.toggled.connect(lambda _on: self.ask())
        self._reset = button(_("Choose for me"), "tool", _("Oils and dots as the program would choose them"))
        self._reset.clicked.connect(self._anew)
        body.addLayout(row(self.count, self.level, None, self._reset, spacing=10))
        self._oils = Rows(spacing=5)
        body.addWidget(self._oils)
        self.lay = button(
            _("Lay these dots"), "main", _("Each oil becomes a coat; drawing them out follows as a step")
        )
        self.lay.clicked.connect(self.lay_dots)
        self._cup = label("", "", wrap=True)
        body.addLayout(row(self._cup, self.lay, spacing=6))
        self._add_needs(_("How to lay them"))

    def _anew(self, *_why: object) -> None:
        self._own = ()
        self.ask()

    def ask(self) -> None:
        """Ask for the chosen zone."""
        session = self._session
        if session.zone != self._zone:
            self._zone, self._own = session.zone, ()
        oils = self.count.value
        question = None
        if session.zone:
            question = oil_dots.ask(
                session.project, session.zone, session.shelf.paints(), oils=oils if isinstance(oils, int) else 4,
                chosen=self._own, level=self.level.isChecked(), kind=self.kind,
            )  # fmt: skip
        try:
            self.answer = oil_dots.answer(question) if question else None
        except SepiaError as error:
            self.answer = None
            session.refused.emit(str(error))
        self.lay.setEnabled(self.answer is not None)
        if self.answer is None:
            self._say(_("No dots yet."), "")
            self.strip.empty_words = _(
                "Dots need paint below them and at least three oils or enamels on the shelf."
            )
            self.strip.show_stops([])
            self._oils.fill(())
            self._show_needs(())
            self._cup.setText("")
            self.shown.emit(None)
            return
        self._show(self.answer)

    def _show(self, answer: DotAnswer) -> None:
        zone, palette = answer.question.zone, answer.palette
        names = {paint.id: paint.name for paint in answer.question.paints}
        change = difference(zone.before, palette.mean)
        self._say(
            _("The mean turns {0}.").format(change.words)
            if change.de00 > 0.3
            else _("The mean stays as it is."),
            self._remark(answer),
        )
        stops = [
            Stop(zone.before, _("before")),
            Stop(palette.mean, _("the mean")),
            *(Stop(oil.lab, names[oil.paint], gap=index == 0) for index, oil in enumerate(palette.oils)),
        ]
        if zone.target is not None:
            stops.insert(2, Stop(zone.target.lab, _("target"), apart=True))
        self.strip.show_stops(stops, 1)
        self._oils.fill(self._rows(answer))
        known = {paint.id: paint for paint in answer.question.paints}
        lines = [*answer.remarks, *tint_cautions(known[palette.oils[0].paint], self.kind)]
        self._show_needs(lines)
        dots = sum(oil.count for oil in palette.oils)
        self._cup.setText(
            ngettext(
                "{0} dot of a millimetre on 10 cm².", "{0} dots of a millimetre on 10 cm².", dots
            ).format(dots)
        )
        self.shown.emit(self.as_laid())

    def _remark(self, answer: DotAnswer) -> str:
        palette = answer.palette
        said = [_("Places of a square centimetre stray from it by {0:.1f} ΔE00.").format(palette.spread_de00)]
        if palette.de00 is not None:
            said.insert(0, _("{0:.1f} ΔE00 from the target.").format(palette.de00))
        return " ".join(said)

    def _rows(self, answer: DotAnswer) -> Iterator[Item]:
        known = {paint.id: paint for paint in answer.question.paints}
        names = [(paint.name, paint.id) for paint in answer.question.paints]
        for index, oil in enumerate(answer.palette.oils):
            which = ChoiceBox(_("Oil"), names, 190)
            which.choose(oil.paint)
            which.currentIndexChanged.connect(partial(self._swap, index, which))
            box = count_box(0, MOST_DOTS, oil.count, _("Dots on 10 cm²"))
            box.valueChanged.connect(partial(self._recount, index))
            lab = known[oil.paint].masstone_lab()
            chip = Chip((float(lab[0]), float(lab[1]), float(lab[2])))
            share = _("{0} % of the area").format(f"{100 * oil.area_share:.0f}")
            yield row(
                chip,
                which,
                box,
                label(_("dots"), "second"),
                label(share, "second"),
                None,
                label(_(ROLE_WORDS[oil.role]), "second"),
            )
            yield rule()

    def _counts(self) -> list[tuple[str, int]]:
        return [(oil.paint, oil.count) for oil in self.answer.palette.oils] if self.answer else []

    def _recount(self, index: int, value: int) -> None:
        counts = self._counts()
        counts[index] = (counts[index][0], value)
        self._own = tuple(counts)
        self.ask()

    def _swap(self, index: int, box: ChoiceBox, _row: int) -> None:
        counts = self._counts()
        counts[index] = (str(box.value), counts[index][1])
        self._own = tuple(counts)
        self.ask()

    def as_laid(self) -> Project | None:
        """The document with the dots."""
        return oil_dots.lay_dots(self._session.project, self.answer) if self.answer else None

    def lay_dots(self) -> None:
        """Lay every oil on the zone, and the step in which they are drawn out."""
        answer = self.answer
        if answer is None or answer.question.zone.zone != self._session.zone:
            return
        zone = self._session.project.zone(answer.question.zone.zone).name
        self._session.edit(_("Oil dots on {0}").format(zone), lambda p: oil_dots.lay_dots(p, answer))
