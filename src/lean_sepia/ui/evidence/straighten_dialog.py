"""What is known of the rectangle that is to be straightened."""

from __future__ import annotations

from PySide6.QtCore import QCoreApplication
from PySide6.QtWidgets import QWidget

from lean_sepia.ui.kit.form_dialog import FormDialog
from lean_sepia.ui.kit.panel import label, measure_box


def _tr(text: str) -> str:
    return QCoreApplication.translate("StraightenDialog", text)


class StraightenDialog(FormDialog):
    """Asks for the true size; without one the copy has no scale and keeps the proportion that the photo shows."""

    def __init__(self, parent: QWidget | None = None) -> None:
        self.across = measure_box(0, 1e6, 0, "mm", _tr("True width"), decimals=0, width=130)
        self.down = measure_box(0, 1e6, 0, "mm", _tr("True height"), decimals=0, width=130)
        for box in (self.across, self.down):
            box.setSpecialValueText(_tr("not known"))
        words = _tr(
            "On the prototype, between the corners you clicked. A copy is added; the photo stays as it is."
        )
        said = label(words, "second", wrap=True)
        said.setFixedWidth(300)
        fields = [(_tr("True width"), self.across), (_tr("True height"), self.down), ("", said)]
        super().__init__(_tr("Straighten"), fields, parent)

    @property
    def width_mm(self) -> float | None:
        """The true width, or None."""
        return self.across.value() or None

    @property
    def height_mm(self) -> float | None:
        """The true height, or None; without a width it would say nothing."""
        return self.down.value() or None if self.width_mm else None
