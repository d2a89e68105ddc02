"""The sheet on which a bottle is written down, changed or retired."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from PySide6.QtWidgets import QCheckBox, QComboBox, QLineEdit

from lean_sepia.colour.written import is_colour, read_colour
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import FINISH_WORDS
from lean_sepia.shelf.bottles import Bottle, bottle_of, record_of
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import button, label, measure_box
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.kit.swatch import Chip, Lab
from lean_sepia.ui.shell.session import Session


@guarded
class BottleSheet(Sheet):
    """A bottle in plain words. Without a colour written, a known one keeps what was measured of it."""

    def __init__(self, session: Session, record: Mapping[str, Any] | None, lab: Lab | None = None) -> None:
        self._session, self._record = session, record
        known = bottle_of(record) if record else Bottle("")
        super().__init__(_("a bottle of your shelf"), known.name or _("New bottle"))
        self._build(known, lab)
        self._fault = label("", "second", wrap=True)
        self.add(self._fault)
        self.body.addStretch(1)
        keep, leave = (
            button(_("Keep it") if record else _("Put it on the shelf"), "main"),
            button(_("Leave it")),
        )
        keep.clicked.connect(self.keep)
        leave.clicked.connect(self.left)
        self.buttons([keep, leave])

    def _build(self, known: Bottle, lab: Lab | None) -> None:
        self.name, self.of_line, self.colour = QLineEdit(known.name), QLineEdit(known.line), QLineEdit()
        self.colour.setPlaceholderText(_("as measured") if self._record else _("L*, a*, b* or #4f7a6c"))
        self._chip, self._lab = Chip(lab, 30, 22), lab
        self.colour.textChanged.connect(lambda _t: self._show_colour())
        self.medium, self.finish = QComboBox(), QComboBox()
        for name, medium in MEDIA.items():
            self.medium.addItem(_(medium.words), name)
        for name, words in FINISH_WORDS.items():
            self.finish.addItem(_(words), name)
        self.medium.setCurrentIndex(self.medium.findData(known.medium))
        self.finish.setCurrentIndex(self.finish.findData(known.finish))
        self.thinned = measure_box(0, 99, 100 * known.thinner_share, "%", _("Thinner it is sold with"), 0, 76)
        self.thinned.setSpecialValueText(_("none"))
        self.left_ml = measure_box(
            -1, 10_000, -1 if known.stock_ml is None else known.stock_ml, "ml", _("What is left of it"), 1, 96
        )
        self.left_ml.setSpecialValueText(_("not known"))
        self.drops = measure_box(0, 200, known.drops_per_ml or 0, "/ml", _("Drops in a millilitre"), 0, 86)
        self.drops.setSpecialValueText(_("usual"))
        self.opened, self.note = QLineEdit(known.opened), QLineEdit(known.note)
        self.opened.setPlaceholderText(_("2026-11, last spring…"))
        self.note.setPlaceholderText(_("curdles with tap water, stains…"))
        self.can, self.retired = (
            QCheckBox(_("a spray can: laid alone")),
            QCheckBox(_("retired: kept, not used")),
        )
        self.can.setChecked(known.can)
        self.retired.setChecked(known.retired)
        self.line(_("name"), self.name)
        self.line(_("line"), self.of_line)
        self.line(_("colour"), self.colour, self._chip)
        self.line(_("medium"), self.medium)
        self.line(_("dries"), self.finish, None)
        self.line(_("sold with"), self.thinned, label(_("thinner in it"), "second"), None)
        self.line(_("left"), self.left_ml, None, label(_("drops"), "second"), self.drops)
        self.line(_("opened"), self.opened)
        self.line(_("note"), self.note)
        self.line("", self.can)
        self.line("", self.retired)

    def _show_colour(self) -> None:
        text = self.colour.text().strip()
        try:
            lab = read_colour(text) if is_colour(text) else self._lab if not text else None
        except SepiaError:
            lab = None
        self._chip.show_lab(lab)

    def bottle(self) -> Bottle:
        """The bottle as it stands on the sheet."""
        left = self.left_ml.value()
        return Bottle(
            self.name.text(), self.of_line.text(), self.medium.currentData(), self.finish.currentData(), self.colour.text(),
            self.thinned.value() / 100, self.drops.value() or None, left if left >= 0 else None, self.opened.text(), self.note.text(),
            self.can.isChecked(), self.retired.isChecked(),
        )  # fmt: skip

    def keep(self) -> None:
        """Put the bottle on the shelf as the sheet says."""
        shelf = self._session.shelf
        try:
            record = record_of(self.bottle(), self._record, shelf.by_id())
            if self._record is None:
                shelf.add(ShelfContent((record,)))
            else:
                shelf.change((dict(self._record), record))
        except SepiaError as error:
            self._fault.setText(str(error))
            return
        self._session.shelf_changed.emit()
        self.left.emit()
