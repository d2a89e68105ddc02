"""What was mixed for each painted field of a card: chosen among the project's recipes, or written down."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QGridLayout, QLabel, QWidget

from lean_sepia.errors import ShelfError
from lean_sepia.language import _
from lean_sepia.photo.swatch_card import CardReading, FieldReading
from lean_sepia.recipe.phrases.mixture_text import read_mixture
from lean_sepia.ui.kit.dialogs.titled_dialog import TitledDialog
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import label
from lean_sepia.ui.kit.swatch import Fields


class MixturesDialog(TitledDialog):
    """Fields that stay empty are left out; what cannot be read is said beside it and keeps the dialog open."""

    def __init__(
        self, reading: CardReading, names: Mapping[str, str], recipes: Sequence[str], parent: QWidget | None = None
    ) -> None:  # fmt: skip
        super().__init__(
            _("Mixtures on the card"),
            _("What was mixed for each field?"),
            _(
                'Choose a recipe of this project, or write it down: "8 Deep sea, 1 Chalk". Leave the others empty.'
            ),
            parent,
        )
        self._names = names
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(6)
        for column, words in enumerate((_("Field"), _("Masstone"), _("What was mixed"), _("Sure"))):
            grid.addWidget(label(words, "second"), 0, column)
        grid.setColumnStretch(2, 1)
        self.boxes: dict[int, ChoiceBox] = {}
        self.said: dict[int, QLabel] = {}
        for line, field in enumerate(reading.fields, start=1):
            self._add(field, recipes, grid, line)
        grid.setRowStretch(len(reading.fields) + 1, 1)
        self.look_through(grid, 760, min(420, 48 + 40 * len(reading.fields)))
        self.end(_("Learn from them"))

    def _add(self, field: FieldReading, recipes: Sequence[str], grid: QGridLayout, line: int) -> None:
        seen = Fields(margin=0, height=26)
        seen.setFixedWidth(60)
        seen.show_labs([field.masstone.lab])
        box = ChoiceBox()
        box.setEditable(True)
        box.setAccessibleName(_("What was mixed for field {0}").format(field.field))
        box.addItems(["", *recipes])
        box.setEnabled(not field.bare)
        sure = label(
            field.doubt or f"±{field.masstone.de00_90:.1f}", "strong" if field.doubt else "second", wrap=True
        )
        sure.setMinimumWidth(170)
        self.boxes[field.field], self.said[field.field] = box, sure
        for column, widget in enumerate((label(str(field.field)), seen, box, sure)):
            grid.addWidget(widget, line, column, Qt.AlignmentFlag.AlignVCenter)

    def mixtures(self) -> dict[int, list[tuple[str, int]]]:
        """Whole parts by paint id of every field that was filled in.

        Raises
        ------
        ShelfError
            One of them cannot be read.
        """
        written = {field: box.currentText().strip() for field, box in self.boxes.items()}
        return {field: read_mixture(text, self._names) for field, text in written.items() if text}

    def check(self) -> None:
        """Accept where something is filled in and all of it can be read."""
        wrong, filled = False, False
        for field, box in self.boxes.items():
            text = box.currentText().strip()
            filled = filled or bool(text)
            try:
                if text:
                    read_mixture(text, self._names)
            except ShelfError as error:
                self.said[field].setText(str(error))
                wrong = True
        if filled and not wrong:
            self.accept()
