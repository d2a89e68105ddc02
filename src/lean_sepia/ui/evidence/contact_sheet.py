"""The contact sheet: all photos of the project as small pictures to choose from, and a way to add more."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QVBoxLayout, QWidget

from lean_sepia.answers.advice import contradiction
from lean_sepia.document.model import Photo
from lean_sepia.language import _
from lean_sepia.photo.read import shrunk
from lean_sepia.ui.evidence.photo_card import PhotoCard
from lean_sepia.ui.kit.dialogs.file_filters import pictures
from lean_sepia.ui.kit.dialogs.files import ask_files
from lean_sepia.ui.kit.panel import button, scrolled
from lean_sepia.ui.kit.rows import Rows
from lean_sepia.ui.photo.pictures import Pictures
from lean_sepia.ui.photo.screen_image import to_image
from lean_sepia.ui.shell.session import Session

_THUMB_SIDE = 280


class ContactSheet(QWidget):
    """One row; the small pictures are made in the background, once."""

    chosen = Signal(str)
    photos_wanted = Signal(list)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._thumbs: dict[str, QImage] = {}
        self._strip = Rows(spacing=7, across=True)
        self._cards: list[PhotoCard] = []
        self._shown: object = None
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(scrolled(self._strip, sideways=True))
        self.setFixedHeight(118)

    def show_photos(self, current: str) -> None:
        """Show the document's photos, the current one marked."""
        project = self._session.project
        used = {sample.photo for sample in project.samples}
        states = []
        for photo in project.photos:
            status = _("in use") if photo.id in used else _("the model") if photo.of_model else ""
            if any(contradiction(photo, subject) for subject in project.subjects):
                status = _("contradicted")
            states.append((photo, status, photo.id == current))
        if states == self._shown:
            return
        self._shown = states
        self._cards = [PhotoCard(*state) for state in states]
        for card in self._cards:
            card.image = self._thumbs.get(card.photo.sha256)
            card.chosen.connect(self.chosen)
        missing = [card.photo for card in self._cards if card.image is None]
        add = button(_("Add photos…"), "", _("Or drop them anywhere in the window"))
        add.setFixedSize(108, 104)
        add.clicked.connect(lambda _checked=False: self._ask_photos())
        self._strip.fill([*self._cards, add, None])
        if missing:
            pictures = self._session.pictures
            self._session.jobs.start(
                "thumbs", lambda _progress: _thumbs(pictures, tuple(missing)), self._thumbs_made
            )

    def _thumbs_made(self, thumbs: dict[str, QImage]) -> None:
        self._thumbs |= thumbs
        for card in self._cards:
            card.image = self._thumbs.get(card.photo.sha256)
            card.update()

    def _ask_photos(self) -> None:
        names = ask_files(self, _("Photos"), pictures())
        if names:
            self.photos_wanted.emit(names)


def _thumbs(pictures: Pictures, photos: tuple[Photo, ...]) -> dict[str, QImage]:
    """Small pictures by content; runs in a job."""
    return {photo.sha256: to_image(shrunk(pictures.picture(photo).pixels, _THUMB_SIDE)) for photo in photos}
