"""What the pages of Glaze have in common: what they say at the head of the room, their column, and the finish they come to."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from lean_sepia.document.model import Project
from lean_sepia.language import _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.shell.session import Session


def no_tints() -> str:
    """What to say where the shelf has nothing to make a tint of."""
    return _(
        "The shelf has no paint that can be thinned to a tint. Put an oil, an enamel or any wet paint on it."
    )


@guarded
class TintPage(QWidget):
    """`said` carries a statement and a remark for the head; `shown` the document with what is chosen, None without."""

    said = Signal(str, str)
    shown = Signal(object)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._words = ("", "")
        self.body = QVBoxLayout(self)
        self.body.setContentsMargins(0, 0, 0, 0)
        self.body.setSpacing(10)
        self.side = QVBoxLayout()
        self.side.setSpacing(12)

    def ask(self) -> None:
        """Ask as things stand."""
        raise NotImplementedError

    def as_laid(self) -> Project | None:
        """The document with what is chosen laid."""
        raise NotImplementedError

    def _say(self, statement: str, remark: str) -> None:
        self._words = (statement, remark)
        self.said.emit(statement, remark)
