"""What to heed at a step: what was found, the list before it, cautions, what to have at hand, and how it is undone."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox

from lean_sepia.answers.bench import BenchStep
from lean_sepia.language import _
from lean_sepia.plan.care.cautions import DEFER
from lean_sepia.ui.kit.diamond import Diamond
from lean_sepia.ui.kit.panel import holder, label, row
from lean_sepia.ui.kit.rows import Item, Rows


class StepNotes(Rows):
    """Where there is little else to say, it is said larger; `tick` hears of a line that is ticked or not any more."""

    def __init__(self, tick: Callable[[str, str, bool], object]) -> None:
        self._tick = tick
        super().__init__(spacing=9)

    def show_step(self, step: BenchStep, note: str) -> None:
        """Show what is to be heeded, with the user's own note on the step."""
        self.fill(self._items(step, note))

    def _items(self, step: BenchStep, note: str) -> Iterator[Item]:
        kind = "" if step.cups or step.checks else "large"
        for finding in step.findings:
            yield _signed(finding.message, filled=finding.severity == "stop", kind="title")
        yield from self._checks(step)
        if note:
            yield label(note, kind, wrap=True)
        for caution in step.cautions:
            yield _signed(caution, filled=False, kind=kind)
        if step.cautions:
            yield label(_(DEFER), "second", wrap=True)
        if step.to_put_out:
            yield label(_("At hand: {0}.").format(", ".join(step.to_put_out)), kind, wrap=True)
        for words in step.prompts:
            yield label(words, kind, wrap=True)
        yield from _under(_("To undo it"), step.undoing, kind)
        yield from _under(_("Afterwards"), step.clearing, kind)
        yield None

    def _checks(self, step: BenchStep) -> Iterator[Item]:
        if step.checks:
            yield label(_("Before you begin"), "title")
        for check in step.checks:
            box = QCheckBox(check.words)
            box.setChecked(check.ticked)
            box.toggled.connect(partial(self._tick, step.step.id, check.code))
            yield box


def _under(title: str, said: Iterable[str], kind: str) -> Iterator[Item]:
    """Lines below a title; nothing where there are none."""
    lines = [label(words, kind, wrap=True) for words in said]
    if lines:
        yield label(title, "title")
    yield from lines


def _signed(words: str, filled: bool, kind: str) -> Item:
    sign = Diamond(filled=filled, size=13, mark="")
    line = row(sign, label(words, kind, wrap=True), spacing=8)
    line.setAlignment(sign, Qt.AlignmentFlag.AlignTop)
    return holder(line)
