"""Recipes that give the old colour without one bottle, those that keep the other bottles first."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from PySide6.QtWidgets import QHBoxLayout, QWidget

from lean_sepia.colour.words import difference
from lean_sepia.language import _
from lean_sepia.recipe.reasons import Substitute
from lean_sepia.ui.kit.dialogs.titled_dialog import TitledDialog
from lean_sepia.ui.kit.panel import button, label, row
from lean_sepia.ui.kit.swatch import Fields


class SubstituteDialog(TitledDialog):
    """A click on Take chooses one; `taken` is None until then."""

    def __init__(
        self, missing: str, found: Sequence[Substitute], names: Mapping[str, str], parent: QWidget | None = None
    ) -> None:  # fmt: skip
        super().__init__(
            _("Without {0}").format(missing),
            _("The same colour without {0}").format(missing),
            _(
                "Left: as it was mixed so far. Right: the stand-in. Those that keep the other bottles come first."
            ),
            parent,
        )
        self.taken: Substitute | None = None
        for substitute in found:
            self.body.addLayout(self._line(substitute, names))
        self.body.addStretch(1)
        self.end()
        self.setMinimumWidth(660)

    def _line(self, substitute: Substitute, names: Mapping[str, str]) -> QHBoxLayout:
        recipe, wanted = substitute.recipe, substitute.instead_of
        field = Fields(margin=0, height=34)
        field.setFixedWidth(112)
        field.show_labs([wanted, recipe.lab], _("As mixed so far, and the stand-in"))
        parts = " : ".join(f"{count} {names[name]}" for name, count in recipe.parts)
        words = f"{parts}\n{difference(wanted, recipe.lab).words}, {recipe.de00:.1f} ΔE00"
        take = button(_("Take"), "tool")
        take.setAccessibleName(_("Take {0}").format(parts))
        take.clicked.connect(lambda _c=False: self._take(substitute))
        return row(field, label(words, "", wrap=True), take, spacing=12)

    def _take(self, substitute: Substitute) -> None:
        self.taken = substitute
        self.accept()
