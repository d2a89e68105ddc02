"""What the person has to work with; every proposal keeps to it."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox

from lean_sepia.document.edits.planning import set_owned
from lean_sepia.language import N_, _
from lean_sepia.plan.owned import Owned
from lean_sepia.ui.kit.panel import Panel, label
from lean_sepia.ui.shell.session import Session

_WORDS = {
    "airbrush": N_("an airbrush"),
    "booth": N_("a place to spray with extraction"),
    "cans_only": N_("nothing but spray cans"),
}


class OwnedPanel(Panel):
    """A tick for each thing; a change is an edit of the project, and the next project begins with it."""

    def __init__(self, session: Session) -> None:
        super().__init__(_("What you work with"))
        self._session = session
        self.boxes: dict[str, QCheckBox] = {}
        for name, words in _WORDS.items():
            box = QCheckBox(_(words))
            box.clicked.connect(self._changed)
            self.boxes[name] = box
            self.add(box)
        self.add(
            label(
                _("Tools and recipes that are proposed keep to it, and say what more would gain."),
                "second",
                wrap=True,
            )
        )
        session.changed.connect(self._show)
        self._show()

    def _show(self) -> None:
        owns = self._session.project.owns
        for name, box in self.boxes.items():
            box.setChecked(getattr(owns, name))

    def _changed(self) -> None:
        owns = Owned(**{name: box.isChecked() for name, box in self.boxes.items()})
        if not self._session.edit(_("What you work with"), lambda p: set_owned(p, owns)):
            self._show()
