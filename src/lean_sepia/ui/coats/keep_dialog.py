"""Asks for the colours of a swatch before and after its varnish, and says what the varnish left."""

from __future__ import annotations

from PySide6.QtWidgets import QLineEdit, QWidget

from lean_sepia.colour.written import read_colour
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.paint.handling.keep import learnt_keep
from lean_sepia.ui.kit.dialogs.form_dialog import FormDialog
from lean_sepia.ui.kit.panel import label


class KeepDialog(FormDialog):
    """Four colours as they are written; `keep` is None until three of them can be read."""

    def __init__(self, parent: QWidget | None = None) -> None:
        self.keep: float | None = None
        self.ground, self.before, self.after, self.ground_after = (QLineEdit() for _unused in range(4))
        self._said = label("", "second", wrap=True)
        fields: list[tuple[str, QWidget]] = [
            (_("The ground, bare"), self.ground), (_("With powder on it"), self.before), (_("The same under varnish"), self.after),
            (_("The ground under varnish"), self.ground_after), ("", self._said),
        ]  # fmt: skip
        super().__init__(_("What a varnish leaves"), fields, parent)
        for field in (self.ground, self.before, self.after, self.ground_after):
            field.setPlaceholderText(_("L*, a*, b* or #4f7a6c"))
            field.setMinimumWidth(300)
            field.textChanged.connect(lambda _t: self._read())
        self.ground_after.setPlaceholderText(_("where you measured it"))
        self._read()

    def _read(self) -> None:
        self.keep = None
        written = [field.text().strip() for field in (self.ground, self.before, self.after)]
        if not all(written):
            self._said.setText(
                _("Dust a spare part over a known ground, measure it, varnish it, measure it again.")
            )
            return
        try:
            ground, before, after = (read_colour(text) for text in written)
            last = self.ground_after.text().strip()
            self.keep = learnt_keep(ground, before, after, read_colour(last) if last else None)
        except SepiaError as error:
            self._said.setText(str(error))
            return
        self._said.setText(_("The varnish left {0} % of the powder.").format(f"{100 * self.keep:.0f}"))
