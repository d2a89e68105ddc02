"""Questions and notices in the program's own dress: a title, a sentence, and buttons that say what happens."""

from __future__ import annotations

from PySide6.QtWidgets import QDialog, QVBoxLayout, QWidget

from lean_sepia.language import _
from lean_sepia.ui.kit.panel import button, label, row


class Notice(QDialog):
    """A sentence with the buttons that answer it; `answer` is the place of the one that was clicked, or None."""

    def __init__(self, parent: QWidget | None, title: str, words: str, *choices: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setMinimumWidth(420)
        self.answer: int | None = None
        layout = QVBoxLayout(self)
        layout.setContentsMargins(22, 18, 22, 16)
        layout.setSpacing(12)
        layout.addWidget(label(title, "title", wrap=True))
        layout.addWidget(label(words, "", wrap=True))
        layout.addSpacing(4)
        buttons = [button(text, "main" if place == 0 else "") for place, text in enumerate(choices)]
        for place, made in enumerate(buttons):
            made.clicked.connect(lambda _checked=False, index=place: self._take(index))
        buttons[0].setDefault(True)
        layout.addLayout(row(None, *reversed(buttons)))

    def _take(self, index: int) -> None:
        self.answer = index
        self.accept()


def tell(parent: QWidget | None, title: str, words: str) -> None:
    """Say something that waits to be read."""
    Notice(parent, title, words, _("Close")).exec()


def choose(parent: QWidget | None, title: str, words: str, *choices: str) -> int | None:
    """Ask which of several things to do; the place of the choice, None where the question was closed."""
    asked = Notice(parent, title, words, *choices)
    asked.exec()
    return asked.answer


def confirm(parent: QWidget | None, title: str, words: str, yes: str) -> bool:
    """Ask before something is done; `yes` says what will be."""
    return choose(parent, title, words, yes, _("Leave it")) == 0
