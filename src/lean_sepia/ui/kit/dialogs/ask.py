"""Questions and notices in the program's own dress: a title, a sentence, and buttons that say what happens."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtWidgets import QDialog, QLineEdit, QVBoxLayout, QWidget

from lean_sepia.language import _
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import button, label, measure_box, row

_LONGEST_LINE = 500


class _Said(QDialog):
    """A title and a sentence; what answers them follows in `body`."""

    def __init__(self, parent: QWidget | None, title: str, words: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setMinimumWidth(420)
        self.body = QVBoxLayout(self)
        self.body.setContentsMargins(22, 18, 22, 16)
        self.body.setSpacing(12)
        self.body.addWidget(label(title, "title", wrap=True))
        self.body.addWidget(label(words, "", wrap=True))


class Notice(_Said):
    """A sentence with the buttons that answer it; `answer` is the place of the one that was clicked, or None."""

    def __init__(self, parent: QWidget | None, title: str, words: str, *choices: str) -> None:
        super().__init__(parent, title, words)
        self.answer: int | None = None
        self.body.addSpacing(4)
        buttons = [button(text, "main" if place == 0 else "") for place, text in enumerate(choices)]
        for place, made in enumerate(buttons):
            made.clicked.connect(lambda _checked=False, index=place: self._take(index))
        buttons[0].setDefault(True)
        self.body.addLayout(row(None, *reversed(buttons)))

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


class _Question(_Said):
    """A sentence, one field to answer in, and two buttons."""

    def __init__(self, parent: QWidget | None, title: str, words: str, field: QWidget, yes: str) -> None:
        super().__init__(parent, title, words)
        field.setAccessibleName(words)
        self.body.addWidget(field)
        self.body.addSpacing(4)
        take, leave = button(yes, "main"), button(_("Leave it"))
        take.setDefault(True)
        take.clicked.connect(self.accept)
        leave.clicked.connect(self.reject)
        self.body.addLayout(row(None, leave, take))
        field.setFocus()


def ask_text(parent: QWidget | None, title: str, words: str, yes: str, start: str = "") -> str | None:
    """A line of text; None where the question was closed."""
    field = QLineEdit(start)
    field.setMaxLength(_LONGEST_LINE)
    field.selectAll()
    question = _Question(parent, title, words, field, yes)  # it owns the field
    return field.text() if question.exec() else None


def ask_number(
    parent: QWidget | None, title: str, words: str, yes: str, *, value: float, low: float, high: float,
    decimals: int = 0, unit: str = "",
) -> float | None:  # fmt: skip
    """A number between two others; None where the question was closed."""
    field = measure_box(low, high, value, unit, words, decimals, 130)
    question = _Question(parent, title, words, field, yes)
    return field.value() if question.exec() else None


def ask_choice(
    parent: QWidget | None, title: str, words: str, yes: str, choices: Sequence[str]
) -> int | None:
    """The place of one of many; None where the question was closed."""
    field = ChoiceBox()
    field.addItems(list(choices))
    question = _Question(parent, title, words, field, yes)
    return field.currentIndex() if question.exec() else None
