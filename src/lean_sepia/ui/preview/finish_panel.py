"""The finish of a zone as it will be: on the model's photo, as a patch at true size, and enlarged."""

from __future__ import annotations

from collections.abc import Callable, Collection
from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QButtonGroup
from shiboken6 import isValid

from lean_sepia.answers.evidence import alike
from lean_sepia.answers.preview.on_photo import Repainted, finish_on_photo, photo_to_paint
from lean_sepia.answers.preview.patch import PatchPicture, patch_picture
from lean_sepia.answers.preview.texture import Frame
from lean_sepia.document.model import Photo, Project
from lean_sepia.language import _
from lean_sepia.ui.kit.panel import ElidedLabel, Panel, button, row
from lean_sepia.ui.kit.true_size import px_per_mm
from lean_sepia.ui.photo.pictures import Pictures
from lean_sepia.ui.photo.seen_photo import correction_with
from lean_sepia.ui.preview.finish_view import FinishView
from lean_sepia.ui.shell.session import Session

PATCH, LARGE, PHOTO = "patch", "large", "photo"
ENLARGED = 4.0


class FinishPanel(Panel):
    """Shows a document's finish of one zone, also of one that is not laid yet; a closer look is a sheet of its own."""

    closer = Signal()

    def __init__(
        self, session: Session, height: int = 150, *, alone: bool = False, photo_first: bool = False
    ) -> None:
        super().__init__(_("The finish"))
        self._session = session
        self._project: Project | None = None
        self._zone = ""
        self.seed = 1
        self._photo_first = photo_first
        self.hidden: frozenset[str] = frozenset()
        self.view = FinishView(height)
        self.view.resized.connect(self._drawn_anew)
        self._words = ElidedLabel("second")
        self._modes = QButtonGroup(self)
        self.modes = {
            PATCH: button(_("True size"), "tool"),
            LARGE: button(_("Enlarged"), "tool"),
            PHOTO: button(_("On photo"), "tool"),
        }
        for mode in self.modes.values():
            mode.setCheckable(True)
            self._modes.addButton(mode)
        self.modes[LARGE].setChecked(True)
        self._modes.buttonClicked.connect(self._ask)
        self.add(row(*self.modes.values(), None, spacing=4))
        self.add(self.view)
        self.add(self._words)
        self._close = button(
            _("Look closer…"),
            "tool",
            _("Larger, with coats switched off, and true size measured with a ruler"),
        )
        self._close.clicked.connect(self.closer.emit)
        self._again = button(_("Other chance"), "tool", _("The same amounts in other places"))
        self._again.clicked.connect(self._other_seed)
        self._close.setVisible(not alone)
        self.add(row(self._close, self._again, None, spacing=4))

    def _drawn_anew(self) -> None:
        """The view is of another size: a patch that fits it."""
        if self._project is not None and self.mode != PHOTO:
            self._session.jobs.later(f"finish size {id(self)}", self._ask)

    @property
    def mode(self) -> str:
        """Which of the three is shown."""
        return next(name for name, mode in self.modes.items() if mode.isChecked())

    def _other_seed(self) -> None:
        self.seed += 1
        self._ask()

    def show_finish(self, project: Project | None, zone: str, hidden: Collection[str] = ()) -> None:
        """Show a zone as a document finishes it; nothing without one."""
        self._project, self._zone, self.hidden = project, zone, frozenset(hidden)
        there = bool(project and photo_to_paint(project, zone))
        self.modes[PHOTO].setEnabled(there)
        if there and self._photo_first:
            self.modes[PHOTO].setChecked(True)
        self._photo_first = self._photo_first and not there
        if not there and self.mode == PHOTO:
            self.modes[LARGE].setChecked(True)
        self._ask()

    def _ask(self, *_why: object) -> None:
        if not isValid(self):  # the sheet it stood on was put away meanwhile
            return
        project, zone = self._project, self._zone
        if project is None or not zone:
            self.view.show_pixels(None, _("Nothing lies there yet."))
            self._words.show_text("")
            return
        kind = f"finish {id(self)}"
        if self.mode == PHOTO:
            photo = photo_to_paint(project, zone)
            if photo is not None:
                work = partial(_repainted, self._session.pictures, project, photo)
                self._session.jobs.start(kind, work, self._show_photo)
            return
        self._session.jobs.start(kind, self._work(project, zone), self._show_patch)

    def _work(self, project: Project, zone: str) -> Callable[[object], PatchPicture | None]:
        scale = px_per_mm(self) * (ENLARGED if self.mode == LARGE else 1.0)
        frame = Frame(self.view.room.width(), self.view.room.height(), scale, self.seed)
        return partial(_drawn, project, zone, frame, self.hidden)

    def _show_patch(self, picture: PatchPicture | None) -> None:
        if not isValid(self):
            return
        if picture is None:
            self.view.show_pixels(None, _("Nothing lies there yet."))
            self._words.show_text("")
            return
        said = (
            _("Four times as large as on the model.")
            if self.mode == LARGE
            else _("As large as on the model.")
        )
        if not picture.all_shown:
            said += " " + _("The screen cannot show all of it truly.")
        self.view.show_pixels(picture.pixels, said)
        self._words.show_text(said)

    def _show_photo(self, found: Repainted) -> None:
        if not isValid(self):
            return
        said = _("Your photo, painted by this plan.")
        if found.unknown:
            names = {zone.id: zone.short for zone in self._session.project.zones}
            said += " " + _("Not yet known: {0}.").format(
                ", ".join(names.get(zone, zone) for zone in found.unknown)
            )
        self.view.show_pixels(found.pixels, said, fitted=True)
        self._words.show_text(said)


def _repainted(pictures: Pictures, project: Project, photo: Photo, _progress: object) -> Repainted:
    correction = correction_with(pictures, photo, alike(project, photo.id))
    return finish_on_photo(project, photo, pictures.picture(photo).pixels, correction)


def _drawn(
    project: Project, zone: str, frame: Frame, hidden: Collection[str], _progress: object
) -> PatchPicture | None:
    return patch_picture(project, zone, frame, hidden)
