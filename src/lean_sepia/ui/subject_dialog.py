"""Name, scale and livery of the model on the bench."""

from __future__ import annotations

from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QDialogButtonBox,
    QDoubleSpinBox,
    QFormLayout,
    QLineEdit,
    QWidget,
)

from lean_sepia.project.model import Subject


class SubjectDialog(QDialog):
    """Edits a copy; the caller makes the edit."""

    def __init__(self, subject: Subject, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(self.tr("Model and livery"))
        self._subject = subject
        self.name = QLineEdit(subject.name)
        self.scale = QDoubleSpinBox()
        self.scale.setRange(1, 1000)
        self.scale.setDecimals(1)
        self.scale.setPrefix("1:")
        self.scale.setValue(subject.scale)
        self.livery = QLineEdit(subject.livery)
        self.begins, self.ends = QLineEdit(subject.livery_from), QLineEdit(subject.livery_to)
        for field in (self.begins, self.ends):
            field.setPlaceholderText(self.tr("year"))
        self.what_if = QCheckBox(self.tr("What if: no prototype looked like this"))
        self.what_if.setChecked(subject.what_if)
        form = QFormLayout(self)
        form.setContentsMargins(18, 18, 18, 18)
        form.setSpacing(8)
        for words, field in (
            (self.tr("Model"), self.name), (self.tr("Scale"), self.scale), (self.tr("Livery"), self.livery),
            (self.tr("Worn from"), self.begins), (self.tr("Worn until"), self.ends), ("", self.what_if),
        ):  # fmt: skip
            form.addRow(words, field)
        box = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        box.accepted.connect(self.accept)
        box.rejected.connect(self.reject)
        form.addRow(box)

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
