"""A dialog with a title, a remark, something to look through, and below it what happens next."""

from __future__ import annotations

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QLayout, QVBoxLayout, QWidget

from lean_sepia.ui.kit.panel import label, scrolled


class TitledDialog(QDialog):
    """A subclass adds to `body`, from the top, and closes it with `end`."""

    def __init__(
        self, window_title: str, title: str, remark: str = "", parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(window_title)
        self.body = QVBoxLayout(self)
        self.body.setContentsMargins(18, 18, 18, 18)
        self.body.setSpacing(12)
        self.body.addWidget(label(title, "title", wrap=True))
        if remark:
            self.body.addWidget(label(remark, "second", wrap=True))

    def look_through(self, content: QLayout, width: int, height: int) -> None:
        """Put a scrolled area of at least this size into the body."""
        area = scrolled(content, by_keys=True)
        area.setMinimumSize(width, height)
        self.body.addWidget(area, 1)

    def end(self, accepting: str = "") -> None:
        """Close the body with Cancel and, where it is named, the button that accepts."""
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        if accepting:
            buttons.addButton(accepting, QDialogButtonBox.ButtonRole.AcceptRole)
        buttons.accepted.connect(self.check)
        buttons.rejected.connect(self.reject)
        self.body.addWidget(buttons)

    def check(self) -> None:
        """Accept; a subclass looks first whether it can."""
        self.accept()
