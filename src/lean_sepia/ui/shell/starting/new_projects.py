"""New projects: from photos, or from a colour. Nothing is made before there is something to begin with."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QWidget

from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.ui.kit.dialogs.file_filters import pictures
from lean_sepia.ui.kit.dialogs.files import ask_files
from lean_sepia.ui.kit.job import Jobs, Progress

if TYPE_CHECKING:
    from lean_sepia.paint.paint import Paint
    from lean_sepia.ui.shell.adding_photos import ReadPhoto
    from lean_sepia.ui.shell.workspace import Workspace

_PROJECT = ".sepia"


class NewProjects(QObject):
    """Begins projects in a window. The core is imported with the first.

    opened : opens a project and gives its workspace, None where what is open stays; refuse : says why something was not done
    habits : what the person has to work with, when and where
    """

    def __init__(
        self, window: QWidget, jobs: Jobs, opened: Callable[[Path], Workspace | None], refuse: Callable[[str], object],
        habits: Callable[[], Mapping[str, object]],
    ) -> None:  # fmt: skip
        super().__init__(window)
        self._window, self._jobs, self._opened, self._refuse, self._habits = (
            window,
            jobs,
            opened,
            refuse,
            habits,
        )

    def from_photo(self) -> None:
        """Ask for photos and start a project with them."""
        names = ask_files(self._window, _("Photos of the prototype"), pictures())
        if names:
            self.with_photos(names)

    def with_photos(self, names: list[str]) -> None:
        """Start a project with these photos; a project file among them is opened instead, and gets the photos."""
        photos = [name for name in names if not name.endswith(_PROJECT)]
        project = next((name for name in names if name.endswith(_PROJECT)), None)
        if project is not None:
            if (space := self._opened(Path(project))) is not None:
                space.photos.add_files(photos)
            return

        def read(_progress: Progress) -> tuple[ReadPhoto | None, list[str], list[str]]:
            from lean_sepia.ui.shell.adding_photos import read_photo

            refused: list[str] = []
            for place, name in enumerate(photos):
                try:
                    return read_photo(name), refused, photos[place + 1 :]
                except SepiaError as error:
                    refused.append(str(error))
            return None, refused, []

        self._jobs.act("new project", lambda: read, self._with_read)

    def _with_read(self, answer: tuple[ReadPhoto | None, list[str], list[str]]) -> None:
        """Make a project for the first picture that was one, and add the others; without any there is none."""
        first, refused, rest = answer
        if first is not None and (space := self.new_project(Path(first.name).stem)) is not None:
            space.photos.add_read(first)
            space.photos.add_files(rest)
        if refused:
            self._refuse(" ".join(dict.fromkeys(refused)))

    def from_colour(self) -> None:
        """Search the shelf for a colour, or ask for a written one, and start a project with one zone that has it as its target."""
        from lean_sepia.shelf.shelf import own_paints

        self._jobs.start("own paints", lambda _p: own_paints(), self._ask_colour)

    def _ask_colour(self, paints: list[Paint]) -> None:
        from lean_sepia.ui.shell.starting.colour_dialog import ColourDialog

        dialog = ColourDialog(paints, self._window)
        if dialog.exec():
            self.with_colour(dialog.text.text(), paints)

    def with_colour(self, text: str, paints: Sequence[Paint] = ()) -> None:
        """Start a project from a colour as it is written, or from a bottle among some paints."""
        from lean_sepia.answers.coats.stating import read_colour_or_bottle

        try:
            lab, origin = read_colour_or_bottle(text, paints)
        except SepiaError as error:
            self._refuse(str(error))
            return
        if (space := self.new_project(_("From a colour"))) is not None:
            space.add_stated_colour(lab, origin)

    def new_project(self, title: str) -> Workspace | None:
        """Make an empty project and open it; where what is open stays open, none is left behind."""
        from lean_sepia.ui.shell.keeping import new_project

        try:
            path = new_project(title, self._habits())
        except SepiaError as error:
            self._refuse(str(error))
            return None
        space = self._opened(path)
        if space is None:
            with contextlib.suppress(OSError):
                path.unlink()
        return space
