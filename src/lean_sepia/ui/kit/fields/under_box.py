"""A tick for whether something is solved under what is already planned above it, or as if nothing were."""

from __future__ import annotations

from PySide6.QtCore import QSignalBlocker
from PySide6.QtWidgets import QCheckBox

from lean_sepia.language import _
from lean_sepia.ui.kit.plain import hint


class UnderBox(QCheckBox):
    """Ticked unless the user says otherwise; hidden where nothing is planned above."""

    def __init__(self) -> None:
        super().__init__()
        self.setChecked(True)
        self.hide()

    @property
    def alone(self) -> bool:
        """Whether what is planned above is left out of account."""
        return not self.isChecked()

    def show_under(self, words: str) -> None:
        """Name what is planned above, such as "under Fade and Filter"."""
        self.setVisible(bool(words))
        self.setText(words)
        hint(
            self,
            _(
                "Solved so that it is right once these lie on it; without the tick, as if they were not planned"
            ),
        )
        if not words:
            with QSignalBlocker(self):
                self.setChecked(True)
