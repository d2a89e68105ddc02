"""Target and recipe side by side under each light."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QLabel, QVBoxLayout

from lean_sepia.colour.lights import LIGHT_NAMES
from lean_sepia.language import _
from lean_sepia.ui.kit.panel import Panel, holder, label
from lean_sepia.ui.kit.swatch import Fields, Lab


class LightsPanel(Panel):
    """A pair of fields and a figure for every light."""

    def __init__(self) -> None:
        super().__init__()
        self.set_caption(_("Under other lights"), _("estimated"))
        lights = QHBoxLayout()
        lights.setSpacing(4)
        self.cells: dict[str, tuple[Fields, QLabel]] = {}
        for light in LIGHT_NAMES:
            cell = QVBoxLayout()
            cell.setSpacing(2)
            field, words = Fields(margin=0, height=24), label("", "second")
            field.setMinimumHeight(24)
            words.setAlignment(Qt.AlignmentFlag.AlignCenter)
            self.cells[light] = (field, words)
            cell.addWidget(field)
            cell.addWidget(words)
            lights.addWidget(holder(cell), 1)
        self.add(lights)
        self.hide()

    def show_pairs(self, pairs: Sequence[tuple[Lab, Lab]], de00: Mapping[str, float]) -> None:
        """Show target and recipe under each light with their ΔE00; nothing where there are none yet."""
        self.setVisible(bool(pairs))
        if not pairs:
            return
        for light, pair in zip(LIGHT_NAMES, pairs, strict=True):
            field, words = self.cells[light]
            field.show_labs(pair, _("Target and recipe under {0}").format(light))
            words.setText(f"{light.split('-')[0]} {de00[light]:.1f}")
