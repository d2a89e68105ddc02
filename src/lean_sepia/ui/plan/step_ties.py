"""Other steps that a step names: those it waits for, or those it works on; one more is chosen, each can be let go."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from functools import partial

from PySide6.QtWidgets import QVBoxLayout, QWidget

from lean_sepia.language import _
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import button, label, row
from lean_sepia.ui.kit.rows import Rows


class StepTies(QWidget):
    """The steps that are named, and a choice of others."""

    def __init__(self, titles: Mapping[str, str], named: Iterable[str], words: str, spoken: str) -> None:
        super().__init__()
        self._titles = dict(titles)
        self._named = [name for name in named if name in self._titles]
        self._lines = Rows(spacing=4)
        self.other = ChoiceBox(spoken, [(title, name) for name, title in self._titles.items()])
        self.tie = button(words, "tool")
        self.tie.clicked.connect(self._tie)
        self.tie.setEnabled(bool(self._titles))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self._lines)
        line = row(self.other, self.tie)
        line.setStretch(0, 1)
        column.addLayout(line)
        self._show()

    @property
    def chosen(self) -> tuple[str, ...]:
        """The ids of the steps that are named."""
        return tuple(self._named)

    def _show(self) -> None:
        lines = []
        for name in self._named:
            away = button(_("Not any more"), "link")
            away.clicked.connect(partial(self._untie, name))
            lines.append(row(label(self._titles[name], "", wrap=True), away))
        self._lines.fill(lines)

    def _tie(self) -> None:
        name = self.other.value
        if isinstance(name, str) and name not in self._named:
            self._named.append(name)
            self._show()

    def _untie(self, name: str) -> None:
        self._named.remove(name)
        self._show()
