"""The kinds of wear of a zone: how much of each and how sure, how large on the model, what it is made with, whether it will show."""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QPushButton

from lean_sepia.answers.wearing.kinds import WEAR_KINDS, wear_words
from lean_sepia.answers.wearing.planning import WearRow
from lean_sepia.answers.wearing.surveying import Pointed
from lean_sepia.answers.wearing.told import heeded, where_words
from lean_sepia.document.entities.worn import WearClass, WearRecord
from lean_sepia.language import _
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import Panel, button, label, line, row, rule
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Chip
from lean_sepia.ui.wear.planning.planned_rows import OWN
from lean_sepia.wear.tools import MARK_TOOLS


class KindsPanel(Panel):
    """`toggled` with a kind and whether its outlines are to be seen; `dropped` with a kind to be forgotten, "" for the ground.

    `renamed` with a kind and what it is to be called.
    """

    toggled = Signal(str, bool)
    dropped = Signal(str)
    renamed = Signal(str, str)

    def __init__(self) -> None:
        super().__init__(_("Kinds"))
        self._rows = Rows(spacing=3)
        self.add(self._rows)
        self.propose = button(
            _("Find kinds"),
            "tool",
            _("Have kinds of wear proposed from the picture; rename them or take them back"),
        )
        self.add(row(self.propose, None))

    def show_pointed(self, pointed: dict[str, Pointed], ground: bool, *, traced: bool) -> None:
        """Before anything is measured: what was pointed at; kinds can be proposed where a part was traced."""
        self.propose.setVisible(True)
        self.propose.setEnabled(traced)
        self._rows.fill(self._pointed(pointed, ground))

    def _pointed(self, pointed: dict[str, Pointed], ground: bool) -> Iterator[Item]:
        for name, one in pointed.items():
            yield row(Chip(one.lab, 22, 16), self._name_box(name), None, self._drop(name), spacing=8)
        if ground:
            yield row(label(_("The ground was pointed at"), "second"), None, self._drop(""))
        if not pointed:
            yield label(
                _(
                    "Point at each kind of wear on the photo. Without a kind, all that is unlike the ground counts."
                ),
                "second",
                wrap=True,
            )

    def _name_box(self, name: str) -> ChoiceBox:
        names = [*WEAR_KINDS, *([] if name in WEAR_KINDS else [name])]
        box = ChoiceBox(
            _("What {0} is").format(wear_words(name)),
            [*((wear_words(one), one) for one in names), (_("another name…"), OWN)], 150,
        )  # fmt: skip
        box.choose(name)
        box.activated.connect(lambda _index: self.renamed.emit(name, str(box.value)))
        return box

    def _drop(self, name: str) -> QPushButton:
        drop = button("×", "step", _("Forget what was pointed at"))
        drop.setAccessibleName(_("Forget {0}").format(wear_words(name) if name else _("the ground")))
        drop.clicked.connect(lambda: self.dropped.emit(name))
        return drop

    def show_rows(self, record: WearRecord | None, rows: tuple[WearRow, ...], hidden: set[str]) -> None:
        """What was measured and is planned."""
        self.propose.hide()
        self._rows.fill(self._told(record, rows, hidden))

    def _told(self, record: WearRecord | None, rows: tuple[WearRow, ...], hidden: set[str]) -> Iterator[Item]:
        measured = {one.name: one for one in record.classes} if record else {}
        for number, planned in enumerate(rows):
            if number:
                yield rule()
            found = measured.get(planned.kind)
            yield self._line(planned, found, shown=planned.kind not in hidden)
            for words in _lines(planned, found):
                yield line(words, "second")

    def _line(self, planned: WearRow, found: WearClass | None, *, shown: bool) -> Item:
        share = found.coverage_percent if found else 100 * planned.share
        figure = label(f"{share:.2g} %" if share < 1 else f"{share:.1f} %")
        see = QCheckBox(planned.words)
        see.setChecked(shown)
        see.setEnabled(found is not None)
        hint(see, _("Show its outlines on the photo"))
        see.toggled.connect(lambda on: self.toggled.emit(planned.kind, on))
        return row(Chip(planned.lab, 22, 16), see, None, figure, spacing=8)


def _lines(planned: WearRow, found: WearClass | None) -> Iterator[str]:
    if found is not None and found.coverage_range90 is not None:
        low, high = found.coverage_range90
        yield _("9 in 10 within {0}–{1} %").format(f"{low:.1f}", f"{high:.1f}")
    if found is not None:
        yield where_words(found)
    if not planned.veil:
        yield _("{0} mm: {1}, {2} to a cm²").format(
            f"{planned.seen_mm:.2g}", _(MARK_TOOLS[planned.made.tool].words), f"{planned.made.per_cm2:.1f}"
        )
    yield from heeded(planned)
