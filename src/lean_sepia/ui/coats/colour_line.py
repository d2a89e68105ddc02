"""A line in which a colour is stated by words, with a field that shows what they mean."""

from __future__ import annotations

from PySide6.QtCore import QStringListModel, Qt, Signal
from PySide6.QtWidgets import QCompleter, QLineEdit, QWidget

from lean_sepia.answers.coats.stating import read_stated, suggestions
from lean_sepia.document.bounds import Lab
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.ui.kit.panel import row
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.swatch import Chip
from lean_sepia.ui.shell.session import Session


class ColourLine(QWidget):
    """What is typed, and its colour beside it; `changed` follows each letter."""

    changed = Signal()

    def __init__(self, session: Session, name: str) -> None:
        super().__init__()
        self._session = session
        self.text = QLineEdit()
        self.text.setPlaceholderText(_("a bottle, L*, a*, b*, #4f7a6c"))
        self.text.setAccessibleName(name)
        self.chip = Chip(None, 30, 22)
        self.fault = ""
        layout = row(self.text, self.chip, spacing=6)
        self.setLayout(layout)
        self._names = QStringListModel(self)
        completer = QCompleter(self._names, self)
        completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        completer.setFilterMode(Qt.MatchFlag.MatchContains)
        self.text.setCompleter(completer)
        self.text.textChanged.connect(lambda _t: self._read())
        self.renew()

    def renew(self) -> None:
        """Offer what can be named now."""
        session = self._session
        self._names.setStringList(
            list(suggestions(session.project, session.shelf.paints(), self._session.colour_lists))
        )

    def stated(self) -> tuple[Lab, str] | None:
        """The colour and where it is from; None where nothing is typed.

        Raises
        ------
        SepiaError
            What is typed means no colour.
        """
        text = self.text.text().strip()
        if not text:
            return None
        return read_stated(
            text, self._session.project, self._session.shelf.paints(), self._session.colour_lists
        )

    def _read(self) -> None:
        try:
            found, self.fault = self.stated(), ""
        except SepiaError as error:
            found, self.fault = None, str(error)
        self.chip.show_lab(found[0] if found else None)
        hint(self.text, self.fault)
        self.changed.emit()
