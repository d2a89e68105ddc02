"""What people know the subject by: done first and best. Named here, and located on the photo."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Signal

from lean_sepia.document.edits.zones import name_feature
from lean_sepia.language import _
from lean_sepia.ui.kit.panel import NoteBox, Panel, button, label, row
from lean_sepia.ui.kit.rows import Rows
from lean_sepia.ui.shell.session import Session


class FeaturesPanel(Panel):
    """One feature is edited at a time; the others are links to it."""

    locate_wanted = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.set_caption(_("Signature"), _("goes first"))
        self._session = session
        self._chosen: str | None = None
        self.text = NoteBox(_("Signature of the subject"), _("The one mark people know it by"))
        self.text.editing_finished.connect(self._keep)
        self.add(self.text)
        self.place = button(_("Locate"), "tool", _("Then click where the photo shows it"))
        self.place.clicked.connect(lambda: self.locate_wanted.emit(self._chosen or ""))
        self._more = button(_("Another"), "tool", _("Name a second feature"))
        self._more.clicked.connect(self._start_another)
        self._where = label("", "second")
        self.add(row(self.place, self._more, None, self._where))
        self._others = Rows(spacing=1)
        self.add(self._others)

    def show_features(self) -> None:
        """Show what is named."""
        features = self._session.project.features
        chosen = next((f for f in features if f.id == self._chosen), None)
        if chosen is None and self._chosen is not None:
            chosen = features[0] if features else None
            self._chosen = chosen.id if chosen else None
        elif chosen is None and features and not self.text.hasFocus():
            chosen, self._chosen = features[0], features[0].id
        words = chosen.words if chosen else ""
        if self.text.toPlainText() != words:
            self.text.setPlainText(words)
        self.place.setEnabled(chosen is not None)
        located = chosen is not None and chosen.photo is not None
        zone = self._session.project.zone(chosen.zone).short if chosen and chosen.zone else ""
        self._where.setText(zone if located else _("no place yet") if chosen else "")
        others = [feature for feature in features if feature is not chosen]
        links = [button(feature.words, "link", _("Edit this one")) for feature in others]
        for link, feature in zip(links, others, strict=True):
            link.clicked.connect(partial(self._choose, feature.id))
        self._others.fill(row(link, None) for link in links)

    def _choose(self, feature_id: str, _checked: bool = False) -> None:
        self._chosen = feature_id
        self.show_features()

    def _start_another(self) -> None:
        self._chosen = None
        self.text.setPlainText("")
        self.text.setFocus()
        self.place.setEnabled(False)

    def _keep(self) -> None:
        words, chosen = self.text.toPlainText(), self._chosen
        before = {feature.id for feature in self._session.project.features}
        self._session.edit(_("Signature"), lambda p: name_feature(p, words, feature_id=chosen))
        added = [f.id for f in self._session.project.features if f.id not in before]
        if added:
            self._chosen = added[0]
            self.show_features()
