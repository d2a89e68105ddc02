"""What to start from without a photo: a search of the shelf first, or any colour that can be written down."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from PySide6.QtWidgets import QDialogButtonBox, QLineEdit, QWidget

from lean_sepia.answers.coats.stating import read_colour_or_bottle
from lean_sepia.document.bounds import Lab
from lean_sepia.errors import SepiaError
from lean_sepia.language import _, ngettext
from lean_sepia.paint.paint import Paint
from lean_sepia.recipe.phrases.mixture_text import matching
from lean_sepia.ui.kit.dialogs.form_dialog import FormDialog
from lean_sepia.ui.kit.panel import button, label, row
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Chip, bottle_lab

_SHOWN = 8


class ColourDialog(FormDialog):
    """Shows the bottles that a word is found in; a click takes one, and a written colour is taken by the button."""

    def __init__(self, paints: Sequence[Paint], parent: QWidget | None = None) -> None:
        self._paints = tuple(paints)
        self.text = QLineEdit()
        self.text.setPlaceholderText(_("a bottle of your shelf, a mix, L*, a*, b* or #4f7a6c"))
        self.text.setMinimumWidth(380)
        self._found, self._said = Rows(spacing=4), label("", "second", wrap=True)
        fields: list[tuple[str, QWidget]] = [
            (_("Colour"), self.text),
            (_("On your shelf"), self._found),
            ("", self._said),
        ]
        super().__init__(_("Start from a colour"), fields, parent)
        self.buttons.button(QDialogButtonBox.StandardButton.Ok).setText(_("Start"))
        self.text.textChanged.connect(lambda _t: self._search())
        self._search()

    def stated(self) -> tuple[Lab, str]:
        """The colour and where it is from.

        Raises
        ------
        SepiaError
            What is written means none.
        """
        return read_colour_or_bottle(self.text.text(), self._paints)

    def _search(self) -> None:
        self._found.fill(self._bottles())
        try:
            (L, a, b), origin = self.stated()
        except SepiaError as error:
            self._said.setText(str(error) if self.text.text().strip() else "")
        else:
            self._said.setText(_("L* {0:.1f}, a* {1:.1f}, b* {2:.1f}: {3}").format(L, a, b, origin))

    def _bottles(self) -> Iterator[Item]:
        if not self._paints:
            yield label(
                _("Your shelf is empty: write a colour, and fill the shelf later."), "second", wrap=True
            )
            return
        word = self.text.text().strip()
        names = {paint.id: paint.name for paint in self._paints}
        ids = set(matching(word, names)) if word else set(names)
        found = [paint for paint in self._paints if paint.id in ids]
        for paint in found[:_SHOWN]:
            take = button(paint.name, "link")
            take.clicked.connect(lambda _c=False, name=paint.name: self.take(name))
            yield row(Chip(bottle_lab(paint), 30, 18), take, None, spacing=8)
        more = len(found) - _SHOWN
        if more > 0:
            yield label(ngettext("and {0} more", "and {0} more", more).format(more), "second")

    def take(self, name: str) -> None:
        """Start from a bottle."""
        self.text.setText(name)
        self.accept()
