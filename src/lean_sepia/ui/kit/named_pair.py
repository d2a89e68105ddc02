"""Colours that touch on the well, with a word over the left one and a word over the right one."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtWidgets import QFrame, QVBoxLayout

from lean_sepia.ui.kit.panel import label, row
from lean_sepia.ui.kit.swatch import Fields, Lab


class NamedPair(QFrame):
    """Target and prediction, or any colours in a row, named above."""

    def __init__(self, height: int) -> None:
        super().__init__()
        self.setProperty("kind", "well")
        self.left, self.right = label("", "well"), label("", "well")
        self.fields = Fields(margin=0, height=height)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 8, 12, 12)
        layout.setSpacing(4)
        layout.addLayout(row(self.left, None, self.right))
        layout.addWidget(self.fields, 1)

    def show_marks(self, marks: Sequence[tuple[Lab | None, Lab | None, float]], words: str) -> None:
        """Show marks on what they lie on, each on its share of a field, and what they are."""
        self.left.setText(words)
        self.right.setText("")
        self.fields.show_marks(marks, words)

    def show_pair(self, labs: Sequence[Lab | None], left: str, right: str = "", spoken: str = "") -> None:
        """Show colours left to right and what the outer ones are."""
        self.left.setText(left)
        self.right.setText(right)
        names = [left, *[""] * (len(labs) - 2), right] if len(labs) > 1 else [left]
        self.fields.show_labs(labs, spoken, names)
