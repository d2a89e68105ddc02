"""What is known of an anchor: that it is grey, how light a grey, or its colour."""

from __future__ import annotations

from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QDoubleSpinBox,
    QFormLayout,
    QLineEdit,
    QWidget,
)

from lean_sepia.project.model import AnchorMark


class AnchorDialog(QDialog):
    """Edits a copy; the caller makes the edit."""

    def __init__(self, anchor: AnchorMark, coloured: bool = False, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(self.tr("What is known here"))
        self._anchor = anchor
        self.name = QLineEdit(anchor.name)
        self.known = QComboBox()
        self.known.addItem(self.tr("only that it is grey or white"), "grey")
        self.known.addItem(self.tr("grey of a known lightness"), "lightness")
        self.known.addItem(self.tr("its colour"), "colour")
        self.known.setCurrentIndex(2 if coloured else 0 if anchor.lightness is None else 1)
        self.lightness = self._field(0, 100, anchor.lightness if anchor.lightness is not None else 50)
        self.a, self.b = self._field(-128, 128, anchor.a), self._field(-128, 128, anchor.b)
        form = QFormLayout(self)
        form.setContentsMargins(18, 18, 18, 18)
        form.setSpacing(8)
        for words, field in (
            (self.tr("Name"), self.name), (self.tr("Known"), self.known), ("L*", self.lightness), ("a*", self.a), ("b*", self.b),
        ):  # fmt: skip
            form.addRow(words, field)
        box = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        box.accepted.connect(self.accept)
        box.rejected.connect(self.reject)
        form.addRow(box)
        self.known.currentIndexChanged.connect(self._enable)
        self._enable()

    @staticmethod
    def _field(low: float, high: float, value: float) -> QDoubleSpinBox:
        field = QDoubleSpinBox()
        field.setRange(low, high)
        field.setDecimals(1)
        field.setValue(value)
        return field

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
