"""What the pages of Glaze have in common: what they say at the head of the room, their column, and the finish they come to."""

from __future__ import annotations

from collections.abc import Iterable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from lean_sepia.document.model import Project
from lean_sepia.language import _
from lean_sepia.ui.kit.diamond import Diamond
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import Panel, label, row
from lean_sepia.ui.kit.rows import Rows
from lean_sepia.ui.shell.session import Session


def no_tints() -> str:
    """What to say where the shelf has nothing to make a tint of."""
    return _(
        "The shelf has no paint that can be thinned to a tint. Put an oil, an enamel or any wet paint on it."
    )


@guarded
class TintPage(QWidget):
    """A page for one kind of tint. `said` carries a statement and a remark for the head; `shown` the document with what is chosen, None without."""

    said = Signal(str, str)
    shown = Signal(object)

    def __init__(self, session: Session, kind: str) -> None:
        super().__init__()
        self._session, self.kind = session, kind
        self._words = ("", "")
        self.body = QVBoxLayout(self)
        self.body.setContentsMargins(0, 0, 0, 0)
        self.body.setSpacing(10)
        self.side = QVBoxLayout()
        self.side.setSpacing(12)
        self._needs = Rows(spacing=6)

    def _add_needs(self, caption: str) -> None:
        """A panel at the side for what to heed, there only while there is something."""
        needs = Panel(caption)
        needs.add(self._needs)
        needs.seen_with(self._needs.filled)
        self.side.addWidget(needs)

    def _show_needs(self, lines: Iterable[str]) -> None:
        """What to heed, each line behind a diamond."""
        self._needs.fill(
            [row(Diamond(size=12, mark=""), label(words, "second", wrap=True), spacing=7) for words in lines]
        )

    def ask(self) -> None:
        """Ask as things stand."""
        raise NotImplementedError

    def as_laid(self) -> Project | None:
        """The document with what is chosen laid."""
        raise NotImplementedError

    def _say(self, statement: str, remark: str) -> None:
        self._words = (statement, remark)
        self.said.emit(statement, remark)
