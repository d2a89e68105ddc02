"""What the shelf does with swatch cards: print one, read new paints from its photo, learn from test swatches on it."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QMenu, QWidget

from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.paint.fit import Fit, Swatch, fit_paints
from lean_sepia.photo.read import read_picture
from lean_sepia.photo.swatch_card import CardReading, read_card
from lean_sepia.shelf.card_shelf import ReadShelf, shelf_from_card
from lean_sepia.shelf.card_swatches import ReadSwatches, swatches_from_card
from lean_sepia.shelf.content import ShelfContent, with_refined
from lean_sepia.shelf.swatch_file import read_swatches
from lean_sepia.ui.kit.dialogs.ask import ask_number
from lean_sepia.ui.kit.dialogs.exporting import write_beside
from lean_sepia.ui.kit.dialogs.file_filters import pictures
from lean_sepia.ui.kit.dialogs.files import ask_file, ask_place
from lean_sepia.ui.kit.job import Progress
from lean_sepia.ui.shelf.card_dialog import CardDialog
from lean_sepia.ui.shelf.learnt_dialog import LearntDialog
from lean_sepia.ui.shelf.mixtures_dialog import MixturesDialog
from lean_sepia.ui.shell.session import Session


class SwatchCards(QObject):
    """Asks for files, works in the background, and puts what comes of it on the shelf."""

    shelf_changed = Signal()

    def __init__(self, session: Session, page: QWidget) -> None:
        super().__init__(page)
        self._session, self._page = session, page

    def menu(self) -> QMenu:
        """Everything that can be done with a card."""
        menu = QMenu(self._page)
        menu.addAction(_("Print a card to paint…"), self._ask_print)
        menu.addAction(_("New paints from the photo of a card…"), lambda: self._ask_photo(self.read_paints))
        menu.addSeparator()
        menu.addAction(
            _("Learn from mixtures painted on a card…"), lambda: self._ask_photo(self.read_mixtures)
        )
        menu.addAction(_("Learn from a swatch file…"), self._ask_swatch_file)
        return menu

    def _ask_print(self) -> None:
        place = ask_place(self._page, _("Print a card"), "swatch-card.pdf", "PDF (*.pdf)")
        if place:
            self.print_card(place)

    def print_card(self, path: Path, fields: int = 12) -> None:
        """Write a card as a PDF."""
        from lean_sepia.report.swatch_card import write_swatch_card

        write_beside(self._session.jobs, path, lambda: write_swatch_card(path, fields=fields))

    def _ask_photo(self, read: Callable[[Path, float | None], None]) -> None:
        photo = ask_file(self._page, _("Photo of a painted card"), pictures())
        if photo is None:
            return
        words = _("L* of the grey card in the frame; 0 where none lies there")
        lightness = ask_number(
            self._page, _("Grey card"), words, _("Read the card"), value=50, low=0, high=100, decimals=1
        )
        if lightness is not None:
            read(photo, lightness or None)

    def _read(self, path: Path, grey_lightness: float | None, then: Callable[[CardReading], None]) -> None:
        def work(_progress: Progress) -> CardReading:
            return read_card(read_picture(path).pixels, grey_lightness)

        self._session.jobs.act("shelf", lambda: work, then)

    # New paints

    def read_paints(self, path: Path, grey_lightness: float | None) -> None:
        """Read a photo of a painted card in the background, then ask what its fields are."""
        self._read(path, grey_lightness, self._name_paints)

    def _name_paints(self, reading: CardReading) -> None:
        present = {str(record["id"]) for record in self._session.shelf.records()}
        dialog = CardDialog(reading, present, self._page)
        if dialog.exec():
            names, coats, thinner = dialog.names(), dialog.coats.value(), dialog.thinner.value() / 100
            self._session.jobs.act(
                "shelf", lambda: lambda _p: shelf_from_card(reading, names, coats, thinner), self._add_paints
            )

    def _add_paints(self, found: ReadShelf) -> None:
        if not self._put(ShelfContent(tuple(paint.record for paint in found.paints))):
            return
        if found.doubtful:
            words = _("All are on the shelf. Look again at {0}.")
            self._session.refused.emit(words.format(self._fields(found.doubtful)))

    def _put(self, content: ShelfContent) -> bool:
        return self._written(lambda: self._session.shelf.add(content))

    def _written(self, write: Callable[[], object]) -> bool:
        try:
            write()
        except SepiaError as error:
            self._session.refused.emit(str(error))
            return False
        self.shelf_changed.emit()
        return True

    def _fields(self, doubtful: Sequence[tuple[int, str]]) -> str:
        return "; ".join(_("field {0}: {1}").format(field, reason) for field, reason in doubtful)

    # Test swatches

    def read_mixtures(self, path: Path, grey_lightness: float | None) -> None:
        """Read a photo of mixtures painted on a card, then ask what was mixed, and learn from it."""
        self._read(path, grey_lightness, self._name_mixtures)

    def _name_mixtures(self, reading: CardReading) -> None:
        names = {paint.id: paint.name for paint in self._session.shelf.paints() if paint.mixes}
        dialog = MixturesDialog(reading, names, self._recipes(names), self._page)
        if dialog.exec():
            found = swatches_from_card(reading, dialog.mixtures())
            self.learn([swatch.swatch() for swatch in found.swatches], found)

    def _recipes(self, names: Mapping[str, str]) -> list[str]:
        """The project's recipes from this shelf, as a mixture is written."""
        project = self._session.project
        answer = []
        for recipe in project.recipes:
            parts = [(project.paint(version).shelf_id, count) for version, count in recipe.parts]
            if not recipe.cups and all(paint in names for paint, _unused in parts):
                answer.append(", ".join(f"{count} {names[paint]}" for paint, count in parts))
        return list(dict.fromkeys(answer))

    def _ask_swatch_file(self) -> None:
        file = ask_file(self._page, _("A swatch file"), _("Swatches (*.json);;All files (*)"))
        if file:
            self.learn_from_file(file)

    def learn_from_file(self, path: Path) -> None:
        """Refine the paints that occur in a swatch file."""
        try:
            swatches = read_swatches(path)
        except SepiaError as error:
            self._session.refused.emit(str(error))
            return
        self.learn(swatches)

    def learn(self, swatches: Sequence[Swatch], read: ReadSwatches | None = None) -> None:
        """Fit the paints in the background, say what was learnt, and put them on the shelf where that is wanted."""
        paints = self._session.shelf.paints()
        numbers = [one.field for one in read.swatches] if read else list(range(1, len(swatches) + 1))
        doubtful = self._fields(read.doubtful) if read else ""

        def tell(fit: Fit) -> None:
            if LearntDialog(paints, fit, numbers, doubtful, self._page).exec():
                shelf = self._session.shelf
                changed = zip(shelf.records(), with_refined(shelf.content(), fit).records, strict=True)
                self._written(lambda: shelf.change(*(pair for pair in changed if pair[1]["id"] in fit.doubt)))

        self._session.jobs.act("shelf", lambda: lambda _p: fit_paints(paints, swatches), tell)
