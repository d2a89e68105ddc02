"""The wear that is laid on a zone already."""

from __future__ import annotations

from collections.abc import Iterator

from lean_sepia.answers.strata import Strata
from lean_sepia.language import _
from lean_sepia.ui.kit.panel import Panel, label, row
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Chip


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
        worn = [band for band in cut.bands if band.coat.nature.room == "wear"]
        for band in reversed(worn):
            yield row(Chip(band.lab, 24, 16), label(band.name), None, spacing=8)
            yield label(band.detail, "second", wrap=True)
        if not worn:
            yield label(_("Nothing yet on this zone."), "second")
