"""Washes and pin washes: which suits the chosen zone, how it flows there, and laying it."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtWidgets import QPushButton

from lean_sepia.answers.glazing.equal_parts import cup_words, ratio_words
from lean_sepia.answers.glazing.grounds import tint_cautions
from lean_sepia.answers.glazing.washes import WashAnswer, lay_wash, washes_for
from lean_sepia.document.model import Project
from lean_sepia.language import _
from lean_sepia.plan.kinds import KINDS
from lean_sepia.recipe.tints.wash import Wash
from lean_sepia.ui.glaze.tint_page import TintPage, no_tints
from lean_sepia.ui.kit.panel import button, label, row
from lean_sepia.ui.kit.plots.path_strip import PathStrip, Stop
from lean_sepia.ui.kit.plots.way_rows import WayRow, WayRows
from lean_sepia.ui.shell.session import Session


class WashPage(TintPage):
    """The chosen wash large on its ground, the others as rows; one button for each kind that runs, that along seams first."""

    def __init__(self, session: Session, kinds: Sequence[str]) -> None:
        super().__init__(session, kinds[0])
        self.answer: WashAnswer | None = None
        body = self.body
        self.strip = PathStrip()
        body.addWidget(self.strip, 2)
        self.rows = WayRows()
        self.rows.chosen.connect(lambda _index: self._show_choice())
        body.addWidget(self.rows)
        self.lays = {kind: self._button(kind, "" if kinds.index(kind) else "main") for kind in kinds}
        self.lay = self.lays[kinds[0]]
        self._cup = label("", "", wrap=True)
        body.addLayout(row(self._cup, *reversed(self.lays.values()), spacing=6))
        self._add_needs(_("How it behaves there"))

    def _button(self, kind: str, look: str) -> QPushButton:
        nature = KINDS[kind]
        where = (
            _("Into seams and round bolts, on a share of the area")
            if nature.along_seams
            else _("Over the whole zone")
        )
        lay = button(_("Lay as {0}").format(_(nature.title).lower()), look, where)
        lay.clicked.connect(lambda: self.lay_chosen(kind))
        return lay

    def ask(self) -> None:
        """Ask for the chosen zone."""
        session = self._session
        project, zone, paints, kind = session.project, session.zone, session.shelf.paints(), self.kind
        session.jobs.start(
            kind, lambda _progress: washes_for(project, zone, paints, kind) if zone else None, self._show
        )

    def _show(self, answer: WashAnswer | None) -> None:
        if answer is not None and answer.zone.zone != self._session.zone:
            return
        self.answer = answer
        for widget in self.lays.values():
            widget.setEnabled(answer is not None)
        if answer is None:
            self._say(_("Nothing to wash yet."), "")
            bare = not self._session.zone or self._session.cut(self._session.zone).seen is None
            self.strip.empty_words = (
                _(
                    "A wash lies on paint. Say what is there already, or pin a recipe in Match. Or lay one by hand."
                )
                if bare
                else no_tints()
            )
            self.strip.show_stops([])
            self.rows.show_rows([])
            self._cup.setText("")
            self._show_needs(())
            self.shown.emit(None)
            return
        before = answer.zone.before
        self.rows.show_rows([
            WayRow(answer.name_of(wash), ratio_words(round(wash.thinner_share / (1 - wash.thinner_share), 1)), (before, wash.veil, wash.seam), f"{wash.contrast:.0f}", _verdict(wash))
            for wash in answer.washes
        ])  # fmt: skip
        self._show_choice()

    @property
    def chosen(self) -> Wash | None:
        """The wash that is chosen."""
        return self.answer.washes[self.rows.current] if self.answer else None

    def _show_choice(self) -> None:
        answer, wash = self.answer, self.chosen
        if answer is None or wash is None:
            return
        name = answer.name_of(wash)
        zone = self._session.project.zone(answer.zone.zone).name
        self._say(
            _("{0} for the seams of {1}.").format(name, zone),
            _("In a seam it stands out from its ground by {0:.0f} ΔE00.").format(wash.contrast),
        )
        stops = [
            Stop(answer.zone.before, _("before")), Stop(wash.veil, _("wiped off")), Stop(wash.seam, _("in the seams")),
        ]  # fmt: skip
        if answer.chips is not None:
            stops += [
                Stop(answer.chips[0], _("a chip"), gap=True),
                Stop(answer.chips[1], _("washed over")),
            ]
        self.strip.show_stops(stops, 2)
        self._cup.setText(cup_words(name, wash.thinner_share))
        known = {paint.id: paint for paint in answer.paints}
        lines = [*answer.remarks, *tint_cautions(known[wash.paint], self.kind)]
        self._show_needs(lines)
        self.shown.emit(self.as_laid())

    def as_laid(self) -> Project | None:
        """The document with a wash of the chosen paint, of the kind that this page lays first."""
        answer, wash = self.answer, self.chosen
        return lay_wash(self._session.project, answer, wash, self.kind) if answer and wash else None

    def lay_chosen(self, kind: str) -> None:
        """Lay the chosen wash on its zone."""
        answer, wash = self.answer, self.chosen
        if answer is None or wash is None or answer.zone.zone != self._session.zone:
            return
        zone = self._session.project.zone(answer.zone.zone).name
        self._session.edit(_("Wash {0}").format(zone), lambda p: lay_wash(p, answer, wash, kind))


def _verdict(wash: Wash) -> str:
    if wash.black:
        return _("a dead black: it deadens")
    if wash.contrast < 6:
        return _("nearly lost on this ground")
    return _("suits this ground") if wash.de00 < 12 else _("usable")
