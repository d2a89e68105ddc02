"""A box to choose one of several from, each with a value behind its words."""

from __future__ import annotations

from collections.abc import Iterable

from PySide6.QtCore import QSignalBlocker, Qt
from PySide6.QtWidgets import QComboBox

from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.fields.wheel import WheelNeedsFocus
from lean_sepia.ui.kit.plain import hint

_WIDEST = 264


@guarded
class ChoiceBox(WheelNeedsFocus, QComboBox):
    """Words to choose from; `value` is what stands behind the chosen ones."""

    def __init__(
        self, name: str = "", choices: Iterable[tuple[str, object]] = (), width: int | None = None
    ) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        if name:
            self.setAccessibleName(name)
            hint(self, name)
        if width:  # where something longer stands in it, it is as wide as that
            self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
            self.setMinimumWidth(width)
            self.setMaximumWidth(max(width, _WIDEST))
        self.offer(choices)

    def offer(self, choices: Iterable[tuple[str, object]], keep: object = None) -> None:
        """Offer these; what was chosen, or `keep`, stays chosen where it is among them. Nobody is told."""
        wanted = keep if keep is not None else self.value
        with QSignalBlocker(self):
            self.clear()
            for words, value in choices:
                self.addItem(words, value)
            self.choose(wanted)

    def choose(self, value: object) -> None:
        """Choose a value; the first where it is not offered."""
        found = next((i for i in range(self.count()) if self.itemData(i) == value), 0)
        self.setCurrentIndex(found if self.count() else -1)

    @property
    def value(self) -> object:
        """The value of what is chosen."""
        return self.currentData()
