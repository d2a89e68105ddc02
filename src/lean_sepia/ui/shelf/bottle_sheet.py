"""The sheet on which a bottle is written down, changed or retired."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from PySide6.QtWidgets import QCheckBox, QLineEdit

from lean_sepia.colour.written import is_colour, read_colour
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.paint.handling.bodies import BODIES, SPRAYED_TO_NEAT, USES, coats_to_hide
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import FINISH_WORDS
from lean_sepia.shelf.bottles import Bottle, bottle_of, record_of
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
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
        self.use = ChoiceBox(_("What it is"), [(_(use.words), name) for name, use in USES.items()])
        self.body_of = ChoiceBox(_("How it covers"), [(_(body.words), name) for name, body in BODIES.items()])
        self.use.choose(known.use)
        self.body_of.choose(known.body)
        self.use.currentIndexChanged.connect(lambda _i: self._use_chosen())
        self.body_of.currentIndexChanged.connect(lambda _i: self._show_hiding())
        self.hides = measure_box(
            0, 60, known.opaque_coats or 0, _("coats"), _("Coats in which it hides"), 1, 110
        )
        self.hides.setSpecialValueText(_("I do not know"))
        self.counted = ChoiceBox(
            _("Coats are counted"), [(_("brushed neat"), 1.0), (_("sprayed thinned"), SPRAYED_TO_NEAT)]
        )
        self._taken = label("", "second", wrap=True)
        self.hides.valueChanged.connect(lambda _v: self._show_hiding())
        self._build_what(known, lab)
        self._build_lines()
        self._show_hiding()

    def _build_what(self, known: Bottle, lab: Lab | None) -> None:
        self.name, self.of_line, self.colour = QLineEdit(known.name), QLineEdit(known.line), QLineEdit()
        self.colour.setPlaceholderText(_("as measured") if self._record else _("L*, a*, b* or #4f7a6c"))
        self._chip, self._lab = Chip(lab, 30, 22), lab
        self.colour.textChanged.connect(lambda _t: self._show_colour())
        self.medium, self.finish = ChoiceBox(), ChoiceBox()
        for name, medium in MEDIA.items():
            self.medium.addItem(_(medium.words), name)
        for name, words in FINISH_WORDS.items():
            self.finish.addItem(_(words), name)
        self.medium.setCurrentIndex(self.medium.findData(known.medium))
        self.medium.currentIndexChanged.connect(lambda _i: self._show_hiding())
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

    def _build_lines(self) -> None:
        self.line(_("it is"), self.use)
        self.line(_("name"), self.name)
        self.line(_("line"), self.of_line)
        self._colour_line = self.line(_("colour"), self.colour, self._chip)
        self.line(_("covers"), self.body_of)
        self._hiding_line = self.line(_("hides in"), self.hides, self.counted, None)
        self.add(self._taken)
        self.line(_("medium"), self.medium)
        self.line(_("dries"), self.finish, None)
        self.line(_("sold with"), self.thinned, label(_("thinner in it"), "second"), None)
        self.line(_("left"), self.left_ml, None, label(_("drops"), "second"), self.drops)
        self.line(_("opened"), self.opened)
        self.line(_("note"), self.note)
        self.line("", self.can)
        self.line("", self.retired)

    def _use_chosen(self) -> None:
        """A varnish or a medium has no colour, as a rule; a ready wash is sold thinned."""
        if self._record is None and not self.colour.text().strip():
            use = USES[str(self.use.value)]
            self.body_of.choose("clear" if use.colourless else use.body)
            self.thinned.setValue(100 * use.sold_thinned)

    def _show_hiding(self) -> None:
        """In how many coats it is taken to hide, where its owner does not know."""
        clear = self.body_of.value == "clear"
        self._hiding_line.setVisible(not clear)
        self._colour_line.setVisible(not clear)
        lab = self._colour
        if clear:
            self._taken.setText(_("It changes the sheen of a mixture, and thins its colour."))
        elif self.hides.value() or lab is None:
            self._taken.setText("")
        else:
            coats = coats_to_hide(lab, str(self.medium.currentData()), str(self.body_of.value))
            self._taken.setText(
                _("Taken to hide in {0:g} coats brushed neat, as such paints do.").format(coats)
            )

    @property
    def _colour(self) -> Lab | None:
        """The colour that is written, else what is known; None where what is written is none yet."""
        text = self.colour.text().strip()
        if not text:
            return self._lab
        try:
            return read_colour(text) if is_colour(text) else None
        except SepiaError:
            return None

    def _show_colour(self) -> None:
        self._chip.show_lab(self._colour)
        self._show_hiding()

    def bottle(self) -> Bottle:
        """The bottle as it stands on the sheet."""
        left = self.left_ml.value()
        return Bottle(
            self.name.text(), self.of_line.text(), self.medium.currentData(), self.finish.currentData(), self.colour.text(),
            self.thinned.value() / 100, self.drops.value() or None, left if left >= 0 else None, self.opened.text(), self.note.text(),
            self.can.isChecked(), self.retired.isChecked(), str(self.use.value), str(self.body_of.value),
            self.hides.value() / self.counted.currentData() or None,
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
