"""Wear without a photo: every kind with its colour and three amounts, each of which opens the sheet that lays it."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout

from lean_sepia.answers.coats.draft import Draft
from lean_sepia.answers.coats.worn import AMOUNTS, worn_draft, worn_lab
from lean_sepia.answers.strata import Strata
from lean_sepia.answers.wearing.kinds import WEAR_KINDS
from lean_sepia.language import _
from lean_sepia.plan.kinds import KINDS
from lean_sepia.ui.kit.panel import Panel, button, label, row
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Chip
from lean_sepia.ui.shell.session import Session


class ByHandPanel(Panel):
    """A line for each kind; what is chosen is a draft, which can still be changed on the sheet."""

    draft_wanted = Signal(object)

    def __init__(self, session: Session) -> None:
        super().__init__(_("What is worn here, and how much"), _("share of the area"))
        self._session = session
        self._chips: dict[str, Chip] = {}
        words = _(
            "No photo is needed. Choose a kind and an amount; paint, tool and share can be changed before it is laid."
        )
        self.add(label(words, "second", wrap=True))
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(14)
        grid.setColumnStretch(1, 1)
        for line, (name, kind) in enumerate(WEAR_KINDS.items()):
            self._chips[name] = Chip(kind.lab, 64, 36)
            grid.addWidget(self._chips[name], line, 0)
            grid.addWidget(label(_(kind.coat)), line, 1)
            for amount, called in enumerate(AMOUNTS):
                share = f"{100 * kind.shares[amount]:.2g}"
                choice = button(_("{0}, {1} %").format(_(called), share), "tool")
                choice.setAccessibleName(
                    _("{0}: {1}, {2} % of the area").format(_(kind.coat), _(called), share)
                )
                choice.clicked.connect(partial(self.choose, name, amount))
                grid.addWidget(choice, line, 2 + amount)
        self.add(grid)
        own = button(_("A kind of your own…"), "tool")
        own.clicked.connect(lambda: self.draft_wanted.emit(Draft("chips", area_share=0.02, tool="sponge")))
        self.add(row(own, None))
        self.body.addStretch(1)

    def choose(self, name: str, amount: int) -> None:
        """Write a kind of wear on the sheet: subtle 0, usual 1, heavy 2."""
        session = self._session
        targets = session.cut(session.zone).targets
        self.draft_wanted.emit(
            worn_draft(targets, name, amount, session.shelf.paints(), session.project.owns)
        )

    def refresh(self) -> None:
        """Show each kind in the colour it has on the chosen zone."""
        if self._session.zone:
            cut = self._session.cut(self._session.zone)
            for name, chip in self._chips.items():
                chip.show_lab(worn_lab(cut.targets, name))


class WornSoFar(Panel):
    """The wear that is laid on a zone, topmost first."""

    def __init__(self) -> None:
        super().__init__(_("Worn so far"))
        self._rows = Rows(spacing=6)
        self.add(self._rows)

    def show_cut(self, cut: Strata) -> None:
        """Show the wear of a zone."""
        self._rows.fill(self._worn(cut))

    @staticmethod
    def _worn(cut: Strata) -> Iterator[Item]:
        worn = [band for band in cut.bands if KINDS[band.coat.kind].room == "wear"]
        for band in reversed(worn):
            yield row(Chip(band.lab, 24, 16), label(band.name), None, spacing=8)
            yield label(band.detail, "second", wrap=True)
        if not worn:
            yield label(_("Nothing yet on this zone."), "second")
