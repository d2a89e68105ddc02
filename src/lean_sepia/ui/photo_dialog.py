"""Title, date and origin of a photo."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox, QDialog, QDialogButtonBox, QFormLayout, QLineEdit, QWidget

from lean_sepia.project.model import Photo
from lean_sepia.ui.panel import label


class PhotoDialog(QDialog):
    """Edits a copy; the caller makes the edit."""

    REMOVE = 7

    def __init__(self, photo: Photo, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(self.tr("About this photo"))
        self._photo = photo
        self.title = QLineEdit(photo.title)
        self.date = QLineEdit(photo.date)
        self.date.setPlaceholderText(self.tr("1957, 1957-09 or 1957-09-14"))
        self.process = QLineEdit(photo.process)
        self.process.setPlaceholderText(self.tr("colour slide, print, phone, black and white"))
        self.light = QLineEdit(photo.light)
        self.light.setPlaceholderText(self.tr("evening sun, overcast, lamp"))
        self.of_model = QCheckBox(self.tr("It shows the model, not the prototype"))
        self.of_model.setChecked(photo.of_model)
        form = QFormLayout(self)
        form.setContentsMargins(18, 18, 18, 18)
        form.setSpacing(8)
        for words, field in (
            (self.tr("Title"), self.title), (self.tr("Date"), self.date), (self.tr("Process"), self.process),
            (self.tr("Light"), self.light), ("", self.of_model),
        ):  # fmt: skip
            form.addRow(words, field)
        form.addRow(self.tr("File"), label(f"{photo.name}, {photo.width} × {photo.height}", "second"))
        if photo.notes:
            form.addRow(self.tr("Read"), label("; ".join(photo.notes), "second", wrap=True))
        box = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        remove = box.addButton(
            self.tr("Remove from the project"), QDialogButtonBox.ButtonRole.DestructiveRole
        )
        remove.clicked.connect(lambda: self.done(self.REMOVE))
        box.accepted.connect(self.accept)
        box.rejected.connect(self.reject)
        form.addRow(box)

    def photo(self) -> Photo:
        """The photo as edited."""
        return self._photo.model_copy(
            update={
                "title": self.title.text().strip() or self._photo.title,
                "date": self.date.text().strip(),
                "process": self.process.text().strip(),
                "light": self.light.text().strip(),
                "of_model": self.of_model.isChecked(),
            }
        )
