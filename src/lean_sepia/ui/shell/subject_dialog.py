"""Name, scale and livery of the model on the bench."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox, QLineEdit, QWidget

from lean_sepia.document.model import Subject
from lean_sepia.language import _
from lean_sepia.ui.kit.dialogs.form_dialog import FormDialog
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.fields.number_box import NumberBox


@guarded
class ScaleBox(NumberBox):
    """A scale, shown as 1:96; typed with the 1: or without it."""

    def __init__(self, value: float) -> None:
        super().__init__()
        self.setRange(1, 1000)
        self.setDecimals(1)
        self.setValue(value)
        self.setAccessibleName(_("Scale, one to so many"))

    def textFromValue(self, value: float) -> str:
        return f"1:{value:g}"

    def bare(self, text: str) -> str:
        return text.rpartition(":")[2].strip()


class SubjectDialog(FormDialog):
    """Asks for what the model is."""

    def __init__(self, subject: Subject, parent: QWidget | None = None) -> None:
        self._subject = subject
        self.name, self.livery = QLineEdit(subject.name), QLineEdit(subject.livery)
        self.scale = ScaleBox(subject.scale)
        self.begins, self.ends = QLineEdit(subject.livery_from), QLineEdit(subject.livery_to)
        for field in (self.begins, self.ends):
            field.setPlaceholderText(_("year"))
        self.what_if = QCheckBox(_("What if: no prototype looked like this"))
        self.what_if.setChecked(subject.what_if)
        fields = (
            (_("Model"), self.name), (_("Scale"), self.scale), (_("Livery"), self.livery),
            (_("Worn from"), self.begins), (_("Worn until"), self.ends), ("", self.what_if),
        )  # fmt: skip
        super().__init__(_("Model and livery"), fields, parent)

    def subject(self) -> Subject:
        """The subject as edited."""
        return self._subject.model_copy(
            update={
                "name": self.name.text().strip() or self._subject.name,
                "scale": self.scale.value(),
                "livery": self.livery.text().strip(),
                "livery_from": self.begins.text().strip(),
                "livery_to": self.ends.text().strip(),
                "what_if": self.what_if.isChecked(),
            }
        )
