"""The shelf: every bottle over white and black and as masstone, and how well it is known."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QVBoxLayout,
    QWidget,
)

from lean_sepia.colour.lab import hue_deg
from lean_sepia.errors import SepiaError
from lean_sepia.language import _, ngettext
from lean_sepia.paint.film import thickness_to_hide
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import FINISH_WORDS, Paint
from lean_sepia.shelf.shelf import LOW_ML
from lean_sepia.shelf.shelf_file import ShelfContent, read_shelf, stock_ml, write_shelf
from lean_sepia.ui.kit.dialogs.ask import confirm
from lean_sepia.ui.kit.dialogs.files import ask_file, ask_place
from lean_sepia.ui.kit.job import Progress
from lean_sepia.ui.kit.panel import COLUMN_WIDTH, GUTTER, Panel, button, label, row, scrolled
from lean_sepia.ui.kit.swatch import Fields, bottle_lab, lab_words
from lean_sepia.ui.shelf.shelf_list import KNOWN, ShelfList
from lean_sepia.ui.shelf.swatch_cards import SwatchCards
from lean_sepia.ui.shell.session import Session


class ShelfPage(QWidget):
    """Opens beside the rooms, in place of the zone column."""

    back = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._order = "hue"
        self._shown: list[Paint] = []
        head = self._head()
        self.list = ShelfList()
        self.list.chosen.connect(lambda _index: self._show_one())
        panel = QFrame()
        panel.setProperty("kind", "panel")
        inner = QVBoxLayout(panel)
        inner.setContentsMargins(1, 8, 1, 1)
        inner.addLayout(self._orders())
        inner.addWidget(scrolled(self.list), 1)
        body = QHBoxLayout()
        body.setSpacing(GUTTER)
        body.addWidget(panel, 1)
        body.addWidget(self._side())
        layout = QVBoxLayout(self)
        layout.setContentsMargins(20, 14, 20, 12)
        layout.setSpacing(12)
        layout.addLayout(head)
        layout.addLayout(body, 1)
        self.refresh()

    def _head(self) -> QHBoxLayout:
        """How many paints there are, and what can be done with them."""
        self._count = label("", "title")
        self.import_button = button(
            _("Import…"), "main", _("A shelf file: JSON, CSV, CGATS text, or a GPL palette")
        )
        self.import_button.clicked.connect(self._ask_import)
        self.export_button = button(
            _("Export…"),
            "",
            _("All paints: JSON keeps everything; CSV, CGATS text and GPL keep colours"),
        )
        self.export_button.clicked.connect(self._ask_export)
        self.remove_button = button(_("Take off…"), "", _("Take the chosen paint off the shelf"))
        self.remove_button.clicked.connect(self._ask_remove)
        leave = button(_("Back to the rooms"))
        leave.clicked.connect(self.back)
        self.card_button = button(
            _("From one photo…"),
            "",
            _("Measure a whole shelf from the picture of a painted card"),
        )
        self.cards = SwatchCards(self.session, self)
        self.cards.shelf_changed.connect(self._show_changed)
        self.card_button.setMenu(self.cards.menu())
        return row(
            self._count,
            None,
            self.card_button,
            self.import_button,
            self.export_button,
            self.remove_button,
            leave,
        )

    def _orders(self) -> QHBoxLayout:
        group = QButtonGroup(self)
        buttons = []
        for key, words in (
            ("hue", _("By hue")),
            ("name", _("By name")),
            ("line", _("By line")),
            ("low", _("Low")),
        ):
            choice = button(words, "tool")
            choice.setCheckable(True)
            choice.setChecked(key == self._order)
            choice.clicked.connect(lambda _c=False, k=key: self.order_by(k))
            group.addButton(choice)
            buttons.append(choice)
        return row(10, *buttons, None, label(_("one coat over white | over black · opaque"), "second"), 12)

    def _side(self) -> QWidget:
        side = QWidget()
        side.setFixedWidth(COLUMN_WIDTH)
        column = QVBoxLayout(side)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(12)
        self._one = Panel(_("This bottle"))
        self._field = Fields(margin=10, height=110)
        self._name, self._figures = label("", "title", wrap=True), label("", "second", wrap=True)
        self._facts = label("", "", wrap=True)
        for item in (self._field, self._name, self._figures, self._facts):
            self._one.add(item)
        self._one.body.addStretch(1)
        column.addWidget(self._one, 1)
        about = Panel(_("A shelf file"))
        about.add(
            label(
                _(
                    "JSON with spectra or Lab, or CSV with the columns id, name, medium, finish, lab_L, lab_a, lab_b. "
                    "One measured colour is enough to start; a thin coat over black and white makes mixes much surer."
                ),
                "second",
                wrap=True,
            )
        )
        column.addWidget(about)
        return side

    def refresh(self) -> None:
        """Show the shelf as it is."""
        paints = self.session.shelf.paints()
        measured = sum(paint.knowledge > 1 for paint in paints)
        self._count.setText(
            _("{0} paints, {1} of them known by more than one colour").format(len(paints), measured)
        )
        left = stock_ml(self.session.shelf.records())
        keys = {
            "hue": _hue_key,
            "name": lambda paint: (paint.name.casefold(),),
            "line": lambda paint: (paint.line, paint.name.casefold()),
            "low": lambda paint: (left.get(paint.id) or np.inf,),
        }
        self._shown = sorted(paints, key=keys[self._order])
        self.list.show_paints(self._shown)
        self.remove_button.setEnabled(bool(paints))
        self._show_one()

    def order_by(self, key: str) -> None:
        """Sort by hue, name, line, or how little is left."""
        self._order = key
        self.refresh()

    def _show_one(self) -> None:
        if not self._shown:
            self._field.show_labs([None])
            self._name.setText(_("The shelf is empty"))
            self._figures.setText("")
            self._facts.setText(_("Import a shelf file to begin. The demo brings a shelf of its own."))
            return
        paint = self._shown[self.list.current]
        record = next(r for r in self.session.shelf.records() if r["id"] == paint.id)
        lab = bottle_lab(paint)
        self._field.show_labs([lab])
        self._name.setText(paint.name)
        self._figures.setText(lab_words(lab) if lab else _("Clear: it changes the sheen of a mixture."))
        facts = (
            [f"{paint.line} · {_(MEDIA[paint.medium].words)} · {_(FINISH_WORDS[paint.finish])}"]
            if paint.line
            else [f"{_(MEDIA[paint.medium].words)} · {_(FINISH_WORDS[paint.finish])}"]
        )
        if paint.mixes:
            thickness = thickness_to_hide(paint)
            if thickness is not None and not paint.clear:
                facts.append(
                    ngettext(
                        "Hides in {0} unthinned coat.",
                        "Hides in {0} unthinned coats.",
                        max(1, int(np.ceil(thickness))),
                    ).format(max(1, int(np.ceil(thickness))))
                )
        else:
            facts.append(_("Laid alone; not part of mixtures."))
        facts.append(_("Known: {0}.").format(_(KNOWN[paint.knowledge])))
        stock = stock_ml([record]).get(paint.id)
        if stock is not None:
            low = _(" That is low.") if stock < LOW_ML else ""
            facts.append(_("{0} ml left.").format(f"{stock:g}") + low)
        facts += [f"{note[0].upper()}{note[1:]}." for note in paint.notes]
        if record.get("note"):
            facts.append(str(record["note"]))
        self._facts.setText("\n".join(facts))

    def _ask_import(self) -> None:
        kinds = _("Shelf (*.json *.csv *.txt *.cgats *.gpl);;All files (*)")
        file = ask_file(self, _("Import a shelf file"), kinds)
        if file:
            self.import_file(file)

    def _ask_export(self) -> None:
        kinds = _("Shelf (*.json);;Colours (*.csv);;CGATS text (*.txt);;Palette (*.gpl)")
        place = ask_place(self, _("Export the shelf"), "shelf.json", kinds)
        if place:
            self.export_file(place)

    def export_file(self, path: Path) -> None:
        """Write all paints in the form that the suffix names."""
        try:
            write_shelf(path, self.session.shelf.content())
        except SepiaError as error:
            self.session.refused.emit(str(error))

    def import_file(self, path: Path) -> None:
        """Add the paints of a file, read in the background: all of them or, if one breaks a rule, none."""
        self.session.jobs.start("import", lambda _p: read_shelf(path), self._imported)

    def _imported(self, content: ShelfContent) -> None:
        shelf = self.session.shelf
        present = {record["id"] for record in shelf.records()}
        clash = present & {str(record.get("id")) for record in content.records}
        replace = bool(clash) and self._may_replace(len(clash))
        if not clash or replace:

            def add(_progress: Progress) -> None:
                shelf.add(content, replace=replace)
                shelf.paints()

            self.session.jobs.start("import", add, lambda _none: self._show_changed())

    def _show_changed(self) -> None:
        self.list.forget()
        self.refresh()
        self.session.shelf_changed.emit()

    def _may_replace(self, count: int) -> bool:
        words = _(
            "{0} of these paints are on the shelf already. Replace them? Projects keep the versions they use."
        ).format(count)
        return confirm(self, _("Import"), words, _("Replace them"))

    def _ask_remove(self) -> None:
        paint = self._shown[self.list.current]
        words = _("Take “{0}” off the shelf? Recipes that use it keep their own copy.").format(paint.name)
        if confirm(self, _("Take off the shelf"), words, _("Take it off")):
            self.session.shelf.remove([paint.id])
            self.refresh()
            self.session.shelf_changed.emit()


def _hue_key(paint: Paint) -> tuple[float, ...]:
    """Greys first, then round the hue circle from red, clear media last."""
    lab = paint.masstone_lab()
    chroma = float(np.hypot(lab[1], lab[2]))
    if paint.clear:
        return (2.0,)
    if chroma < 6:
        return (0.0, -float(lab[0]))
    return (1.0, (float(hue_deg(lab)) + 20) % 360)
