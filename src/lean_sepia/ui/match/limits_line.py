"""The limits recipes keep to, each with a way to take it back."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QPushButton

from lean_sepia.answers.match import MatchQuestion
from lean_sepia.language import _
from lean_sepia.recipe.limits import Limits
from lean_sepia.ui.kit.panel import button
from lean_sepia.ui.kit.rows import Rows


class LimitsLine(Rows):
    """Hidden while there is no limit and every pinned bottle is on the shelf."""

    limits_wanted = Signal(object)
    stand_ins_wanted = Signal()

    def __init__(self) -> None:
        super().__init__(spacing=6, across=True)

    def show_limits(self, limits: Limits, names: Mapping[str, str], question: MatchQuestion | None) -> None:
        """Name what limits the answers to a question; `names` are the paints' by their ids."""
        offered = [
            self._looser(_("without {0}"), names, name, limits, forbid=limits.forbid - {name})
            for name in sorted(limits.forbid)
        ]
        offered += [
            self._looser(_("with {0}"), names, name, limits, must=limits.must - {name})
            for name in sorted(limits.must)
        ]
        for name, left in sorted(limits.stock_ml.items()):
            others = {other: ml for other, ml in limits.stock_ml.items() if other != name}
            within = _("within {1} ml of {0}")
            offered.append(self._looser(within, names, name, limits, f"{left:g}", stock_ml=others))
        if question is not None and question.lost:
            words = _("{0} of the pinned recipe not on the shelf: stand-ins…")
            offer = button(words.format(", ".join(paint.name for paint in question.lost)), "tool")
            offer.clicked.connect(self.stand_ins_wanted)
            offered.append(offer)
        self.fill([*offered, None])
        self.setVisible(bool(offered))

    def _looser(
        self, words: str, names: Mapping[str, str], name: str, limits: Limits, *figures: str, **changed: Any
    ) -> QPushButton:
        """A button that names a limit and takes it back."""
        made = button(words.format(names.get(name, name), *figures) + " ×", "tool")
        made.clicked.connect(partial(self._want, replace(limits, **changed)))
        return made

    def _want(self, limits: Limits, _checked: bool = False) -> None:
        self.limits_wanted.emit(limits)
