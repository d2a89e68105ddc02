"""What is known of an anchor: that it is grey, how light a grey, or its colour."""

from __future__ import annotations

from PySide6.QtWidgets import QLineEdit, QWidget

from lean_sepia.document.model import AnchorMark
from lean_sepia.language import _
from lean_sepia.ui.kit.dialogs.form_dialog import FormDialog
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.fields.number_box import NumberBox


def _number(low: float, high: float, value: float) -> NumberBox:
    field = NumberBox()
    field.setRange(low, high)
    field.setDecimals(1)
    field.setValue(value)
    return field


class AnchorDialog(FormDialog):
    """Asks for a name and what is known."""

    def __init__(self, anchor: AnchorMark, coloured: bool = False, parent: QWidget | None = None) -> None:
        self._anchor = anchor
        self.name = QLineEdit(anchor.name)
        self.known = ChoiceBox()
        self.known.addItem(_("only that it is grey or white"), "grey")
        self.known.addItem(_("grey of a known lightness"), "lightness")
        self.known.addItem(_("its colour"), "colour")
        self.known.setCurrentIndex(2 if coloured else 0 if anchor.lightness is None else 1)
        self.lightness = _number(0, 100, anchor.lightness if anchor.lightness is not None else 50)
        self.a, self.b = _number(-128, 128, anchor.a), _number(-128, 128, anchor.b)
        fields = (
            (_("Name"), self.name), (_("Known"), self.known), ("L*", self.lightness), ("a*", self.a), ("b*", self.b),
        )  # fmt: skip
        super().__init__(_("What is known here"), fields, parent)
        self.known.currentIndexChanged.connect(self._enable)
        self._enable()

    def _enable(self) -> None:
        kind = self.known.currentData()
        self.lightness.setEnabled(kind != "grey")
        self.a.setEnabled(kind == "colour")
        self.b.setEnabled(kind == "colour")

    def anchor(self) -> AnchorMark:
        """The anchor as edited."""
        kind = self.known.currentData()
        return self._anchor.model_copy(
            update={
                "name": self.name.text().strip() or self._anchor.name,
                "lightness": None if kind == "grey" else self.lightness.value(),
                "a": self.a.value() if kind == "colour" else 0.0,
                "b": self.b.value() if kind == "colour" else 0.0,
            }
        )
