"""A recipe over several undercoats in one to four coats, as a strip of fields each."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QGridLayout

from lean_sepia.arrays import FloatArray, triple
from lean_sepia.language import _
from lean_sepia.recipe.behaviour import FILM_COATS, GROUNDS
from lean_sepia.ui.kit.panel import Panel, label
from lean_sepia.ui.kit.swatch import Fields


class FilmsPanel(Panel):
    """Fields for every ground and number of coats; they are filled, not made anew, when a recipe changes."""

    def __init__(self) -> None:
        super().__init__()
        self.set_caption(_("Over what, how many coats"))
        grid = QGridLayout()
        grid.setSpacing(3)
        grid.setColumnMinimumWidth(0, 66)
        for column, coats in enumerate(FILM_COATS):
            head = label(str(coats), "second")
            head.setAlignment(Qt.AlignmentFlag.AlignCenter)
            grid.addWidget(head, 0, column + 1)
        self.fields: dict[tuple[int, int], Fields] = {}
        for line, (name, _unused) in enumerate(GROUNDS):
            grid.addWidget(label(_(name), "second"), line + 1, 0)
            for column in range(len(FILM_COATS)):
                field = Fields(margin=0, height=18)
                field.setMinimumHeight(18)
                self.fields[line, column] = field
                grid.addWidget(field, line + 1, column + 1)
        self.add(grid)
        self.hide()

    def show_films(self, films: FloatArray | None) -> None:
        """Show L*a*b* (grounds, coats, 3), or nothing yet."""
        self.setVisible(films is not None)
        if films is None:
            return
        for (line, column), field in self.fields.items():
            field.show_labs([triple(films[line, column])])
