"""The recipes to choose from, side by side."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QApplication

from lean_sepia.answers.match import MatchAnswer
from lean_sepia.shelf.content import Record
from lean_sepia.ui.kit.rows import Rows
from lean_sepia.ui.match.recipe_card import RecipeCard


class Cards(Rows):
    """One card a choice; only the chosen one can be changed drop by drop."""

    chosen = Signal(int)
    changed = Signal(int, str, int)
    left_out = Signal(str)
    always_wanted = Signal(str)
    stock_wanted = Signal(str, float)
    stand_in_wanted = Signal(int, str)

    def __init__(self) -> None:
        super().__init__(spacing=12, across=True, even=True)

    def show_cards(self, answer: MatchAnswer, stock: Mapping[str, Record], chosen: int) -> None:
        """Show all choices of an answer; `stock` holds the shelf's records by paint id."""
        self.fill(self._card(answer, stock, index, chosen) for index in range(len(answer.choices)))

    def renew(
        self, answer: MatchAnswer, stock: Mapping[str, Record], chosen: int, indices: Iterable[int]
    ) -> None:
        """Make some cards anew; the keyboard stays where the hand was."""
        for index in indices:
            if index >= len(self.widgets) or index >= len(answer.choices):
                continue
            old = self.widgets[index]
            focused = QApplication.focusWidget()
            name = focused.accessibleName() if focused and old.isAncestorOf(focused) else None
            fresh = self._card(answer, stock, index, chosen)
            had_focus = old.hasFocus() or name is not None
            self.replace(old, fresh)
            if had_focus:
                fresh.take_focus(name)

    def _card(self, answer: MatchAnswer, stock: Mapping[str, Record], index: int, chosen: int) -> RecipeCard:
        question, this = answer.question, index == chosen
        paints = {paint.id: paint for paint in question.paints}
        card = RecipeCard(answer.choices[index], paints, stock, question.cup_ml, editable=this)
        card.setProperty("chosen", "true" if this else "false")
        card.chosen.connect(lambda: self.chosen.emit(index))
        card.changed.connect(lambda name, step: self.changed.emit(index, name, step))
        card.left_out.connect(self.left_out)
        card.always_wanted.connect(self.always_wanted)
        card.stock_wanted.connect(self.stock_wanted)
        card.stand_in_wanted.connect(lambda name: self.stand_in_wanted.emit(index, name))
        return card
