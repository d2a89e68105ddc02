"""A ratio as it is spoken, with every way to understand it."""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtWidgets import QLineEdit, QWidget

from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.recipe.phrases.ratio import Reading, read_ratio, spoken
from lean_sepia.ui.kit.dialogs.form_dialog import FormDialog
from lean_sepia.ui.kit.panel import button, label, row
from lean_sepia.ui.kit.rows import Item, Rows


class RatioDialog(FormDialog):
    """Shows the readings of a phrase; a click on one takes it. `thinner_share` is None until then."""

    def __init__(self, thinner_share: float, volume_ml: float, parent: QWidget | None = None) -> None:
        self._volume = volume_ml
        self.thinner_share: float | None = None
        self.phrase = QLineEdit()
        self.phrase.setPlaceholderText(_("1:20, 95 % thinner, a third of the cup, 3 drops in 5 ml"))
        self.phrase.setMinimumWidth(360)
        self._readings = Rows(spacing=6)
        self._now = label("", "second", wrap=True)
        fields = [
            (_("As it is said"), self.phrase),
            (_("Means"), self._readings),
            (_("Now"), self._now),
        ]
        super().__init__(_("Thinning ratio"), fields, parent)
        self.phrase.textChanged.connect(lambda _text: self._read())
        self._now.setText(self._forms(1 - thinner_share))
        self._read()

    def _forms(self, colour: float) -> str:
        if colour <= 0:
            return ""
        said = spoken(colour, self._volume)
        return f"{said.colour_to_thinner} · {said.percent_thinner} · {said.of_the_cup} · {said.drops}"

    def _read(self) -> None:
        self._readings.fill(self._reading_rows(self.phrase.text().strip()))

    def _reading_rows(self, text: str) -> Iterator[Item]:
        if not text:
            yield label(_("Type a ratio: both readings are shown where there are two."), "second")
            return
        try:
            found = read_ratio(text)
        except SepiaError as error:
            yield label(str(error), "second", wrap=True)
            return
        for reading in found:
            if reading.colour is None:
                yield label(reading.words, "second", wrap=True)
                continue
            take = button(_("Use"), "tool", reading.words)
            take.setAccessibleName(_("Use: {0}").format(reading.words))
            take.clicked.connect(lambda _c=False, r=reading: self.take(r))
            words = label(f"{reading.words}\n{self._forms(reading.colour)}", "", wrap=True)
            yield row(take, words, spacing=10)

    def take(self, reading: Reading) -> None:
        """Use a reading."""
        if reading.colour is not None:
            self.thinner_share = 1 - reading.colour
            self.accept()
