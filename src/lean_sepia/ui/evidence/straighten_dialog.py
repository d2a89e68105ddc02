"""What is known of the rectangle that is to be straightened."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from lean_sepia.language import _
from lean_sepia.ui.kit.dialogs.form_dialog import FormDialog
from lean_sepia.ui.kit.panel import label, measure_box


class StraightenDialog(FormDialog):
    """Asks for the true size; without one the copy has no scale and keeps the proportion that the photo shows."""

    def __init__(self, parent: QWidget | None = None) -> None:
        self.across = measure_box(0, 1e6, 0, "mm", _("True width"), decimals=0, width=130)
        self.down = measure_box(0, 1e6, 0, "mm", _("True height"), decimals=0, width=130)
        for box in (self.across, self.down):
            box.setSpecialValueText(_("not known"))
        words = _(
            "On the prototype, between the corners you clicked. A copy is added; the photo stays as it is."
        )
        said = label(words, "second", wrap=True)
        said.setFixedWidth(300)
        fields = [(_("True width"), self.across), (_("True height"), self.down), ("", said)]
        super().__init__(_("Straighten"), fields, parent)

    @property
    def width_mm(self) -> float | None:
        """The true width, or None."""
        return self.across.value() or None

    @property
    def height_mm(self) -> float | None:
        """The true height, or None; without a width it would say nothing."""
        return self.down.value() or None if self.width_mm else None
