"""A batch in the cup that came out wrong: what to add to bring it to its target."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from PySide6.QtWidgets import QCheckBox, QWidget

from lean_sepia.answers.amounts import counted_out
from lean_sepia.colour.words import difference
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import Paint
from lean_sepia.recipe.batch import Correction, correct_batch
from lean_sepia.recipe.parts import drops_measured, volume_words
from lean_sepia.ui.kit.dialogs.form_dialog import FormDialog
from lean_sepia.ui.kit.job import Jobs, Progress
from lean_sepia.ui.kit.panel import button, holder, label, measure_box, row
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Fields, Lab

_SHOWN = 5


class BatchDialog(FormDialog):
    """Millilitres in the cup and the colour they gave; below it additions, the smallest first."""

    def __init__(
        self, jobs: Jobs, paints: Sequence[Paint], batch_ml: Mapping[str, float], target: Lab, predicted: Lab,
        laying: Laying, parent: QWidget | None = None,
    ) -> None:  # fmt: skip
        self._jobs = jobs
        self._paints, self._target, self._laying = paints, target, laying
        self._names = {paint.id: paint.name for paint in paints}
        self.cup = {
            name: measure_box(0, 500, amount, "ml", self._names[name], decimals=2, width=96)
            for name, amount in batch_ml.items()
        }
        self.measured = QCheckBox(_("It was measured as"))
        self.lab = [
            measure_box(low, high, value, "", name, width=72)
            for low, high, value, name in zip(
                (0, -128, -128), (100, 128, 128), predicted, ("L*", "a*", "b*"), strict=True
            )
        ]
        self._answers = Rows(spacing=6)
        ask = button(_("What to add"), "main")
        ask.clicked.connect(self.answer)
        fields: list[tuple[str, QWidget]] = [(self._names[name], box) for name, box in self.cup.items()]
        fields += [("", self.measured), ("L*, a*, b*", holder(row(*self.lab))), ("", holder(row(ask, None)))]
        fields.append((_("Smallest first"), self._answers))
        super().__init__(_("Correct a batch by adding"), fields, parent)
        self.setMinimumWidth(520)
        self.measured.toggled.connect(lambda _on: self._enable())
        self._enable()

    def _enable(self) -> None:
        for box in self.lab:
            box.setEnabled(self.measured.isChecked())

    def answer(self) -> None:
        """Ask in the background what can be added, and list it."""
        self._answers.fill(())
        batch = {name: box.value() for name, box in self.cup.items() if box.value() > 0}
        L, a, b = (box.value() for box in self.lab)
        measured = (L, a, b) if self.measured.isChecked() else None

        def correct(_progress: Progress) -> list[Correction] | str:
            try:
                return correct_batch(
                    self._paints, batch, self._target, measured=measured, laying=self._laying
                )
            except SepiaError as error:  # said in the dialog, which lies over the advice line
                return str(error)

        self._jobs.start("batch", correct, self._show)

    def _show(self, found: list[Correction] | str) -> None:
        self._answers.fill(self._answer_rows(found))

    def _answer_rows(self, found: list[Correction] | str) -> Iterator[Item]:
        if isinstance(found, str):
            yield label(found, "second", wrap=True)
            return
        if not found:
            yield label(_("Nothing that is added brings it nearer."), "second", wrap=True)
        for one in found[-_SHOWN:]:
            field = Fields(margin=0, height=26)
            field.setFixedWidth(84)
            field.show_labs([self._target, one.lab], _("Target and corrected batch"))
            drops = counted_out((drops_measured(count), self._names[name]) for name, count in one.drops)
            words = _("{0}; {1} in all: {2}, {3}").format(
                drops,
                volume_words(one.total_ml),
                difference(self._target, one.lab).words,
                f"{one.de00:.1f}",
            )
            yield row(field, label(words, "", wrap=True), spacing=10)
