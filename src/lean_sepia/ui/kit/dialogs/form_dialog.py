"""A dialog of named fields with the usual two buttons below."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QFormLayout, QLineEdit, QWidget


class FormDialog(QDialog):
    """Fields in rows; a subclass reads them out after `exec`. It edits a copy; the caller makes the edit."""

    def __init__(
        self, title: str, fields: Sequence[tuple[str, QWidget]], parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        form = QFormLayout(self)
        form.setContentsMargins(18, 18, 18, 18)
        form.setSpacing(8)
        for words, field in fields:
            if words and not field.accessibleName():
                field.setAccessibleName(words)
            form.addRow(words, field)
        self.buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        form.addRow(self.buttons)
        first = fields[0][1] if fields else None
        if isinstance(first, QLineEdit):
            first.selectAll()  # a name is usually to be another
