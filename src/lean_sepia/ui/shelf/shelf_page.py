"""The shelf: every bottle over white and black and as masstone, and how well it is known."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from lean_sepia.colour.lab import hue_deg
from lean_sepia.errors import SepiaError
from lean_sepia.language import _, ngettext
from lean_sepia.paint.handling.bodies import USES
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import FINISH_WORDS, Paint
from lean_sepia.shelf.content import ShelfContent, stock_ml
from lean_sepia.shelf.ids import Ids
from lean_sepia.shelf.shelf import with_own_words
from lean_sepia.shelf.shelf_file import read_shelf, write_shelf
from lean_sepia.ui.kit.dialogs.ask import choose, confirm
from lean_sepia.ui.kit.dialogs.exporting import write_beside
from lean_sepia.ui.kit.dialogs.file_filters import shelf_forms, shelves
from lean_sepia.ui.kit.dialogs.files import ask_file, ask_place
from lean_sepia.ui.kit.job import Progress
from lean_sepia.ui.kit.panel import COLUMN_WIDTH, GUTTER, button, label, row, scrolled
from lean_sepia.ui.kit.sheet import SheetPlace
from lean_sepia.ui.kit.swatch import bottle_lab
from lean_sepia.ui.shelf.bottle_panel import BottlePanel
from lean_sepia.ui.shelf.bottle_sheet import BottleSheet
from lean_sepia.ui.shelf.owned_panel import OwnedPanel
from lean_sepia.ui.shelf.shelf_list import ShelfList
from lean_sepia.ui.shelf.swatch_cards import SwatchCards
from lean_sepia.ui.shell.session import Session

_KEEP_MINE, _AS_THE_LIST = 0, 1


class ShelfPage(QWidget):
    """Opens beside the rooms, in place of the zone column."""

    back = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._order, self._word = "hue", ""
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
        self.sheets = SheetPlace(self)
        session.shelf_changed.connect(self._renew)
        self.refresh()

    def _renew(self) -> None:
        self.list.forget()
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
        self.undo_button = button(_("Undo"), "", _("Take the last change of the shelf back"))
        self.undo_button.clicked.connect(self.undo)
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
        new = button(_("New bottle…"), "", _("Write a bottle down by hand"))
        new.clicked.connect(self.add_bottle)
        return row(
            self._count,
            None,
            new,
            self.card_button,
            self.import_button,
            self.export_button,
            self.remove_button,
            self.undo_button,
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
        self.search = QLineEdit()
        self.search.setPlaceholderText(_("search"))
        self.search.setAccessibleName(_("Search the shelf by name, line, medium or note"))
        self.search.setClearButtonEnabled(True)
        self.search.setFixedWidth(150)
        self.search.textChanged.connect(self.search_for)
        return row(
            10,
            *buttons,
            8,
            self.search,
            None,
            label(_("one coat over white | over black · opaque"), "second"),
            12,
        )

    def _side(self) -> QWidget:
        side = QWidget()
        side.setFixedWidth(COLUMN_WIDTH)
        column = QVBoxLayout(side)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(12)
        self.bottle = BottlePanel()
        self.bottle.change_wanted.connect(self.change_bottle)
        self.bottle.duplicate_wanted.connect(self.duplicate_bottle)
        self.bottle.retire_wanted.connect(self.retire_bottle)
        column.addWidget(self.bottle, 1)
        column.addWidget(OwnedPanel(self.session))
        return side

    def refresh(self) -> None:
        """Show the shelf as it is."""
        paints = self._found(self.session.shelf.all_paints())
        measured = sum(paint.knowledge > 1 for paint in paints)
        self._count.setText(
            ngettext(
                "{0} paint, {1} by more than one colour",
                "{0} paints, {1} by more than one colour",
                len(paints),
            ).format(len(paints), measured)
        )
        left = stock_ml(self.session.shelf.records())
        keys = {
            "hue": _hue_key,
            "name": lambda paint: (paint.name.casefold(),),
            "line": lambda paint: (paint.line, paint.name.casefold()),
            "low": lambda paint: (left.get(paint.id, np.inf),),
        }
        self._shown = sorted(paints, key=keys[self._order])
        self.list.show_paints(self._shown)
        self.remove_button.setEnabled(bool(paints))
        self.undo_button.setEnabled(self.session.shelf.can_undo)
        self._show_one()

    def _found(self, paints: Sequence[Paint]) -> list[Paint]:
        """The paints that hold every word that is searched for."""
        words = self._word.casefold().split()
        records = self.session.shelf.by_id() if words else {}
        return [paint for paint in paints if all(word in _searched(paint, records) for word in words)]

    def search_for(self, text: str) -> None:
        """Show only what holds these words."""
        self._word = text
        self.list.current = 0
        self.refresh()

    def order_by(self, key: str) -> None:
        """Sort by hue, name, line, or how little is left."""
        self._order = key
        self.refresh()

    def _show_one(self) -> None:
        if not self._shown:
            self.bottle.show_none(searching=bool(self._word))
            return
        paint = self._shown[self.list.current]
        self.bottle.show_paint(paint, self.session.shelf.by_id()[paint.id])

    def add_bottle(self) -> None:
        """A sheet for a new bottle."""
        self.sheets.show(BottleSheet(self.session, None))

    def change_bottle(self) -> None:
        """A sheet for the chosen bottle."""
        if self._shown:
            paint = self._shown[self.list.current]
            self.sheets.show(
                BottleSheet(self.session, self.session.shelf.by_id()[paint.id], bottle_lab(paint))
            )

    def duplicate_bottle(self) -> None:
        """Put a second bottle like the chosen one on the shelf, and open its sheet."""
        if not self._shown:
            return
        shelf, paint = self.session.shelf, self._shown[self.list.current]
        name = _("{0}, another").format(paint.name)
        record = {**shelf.by_id()[paint.id], "id": Ids(shelf.by_id()).fresh(paint.id), "name": name}
        if self._write(lambda: shelf.add(ShelfContent((record,)))):
            self.list.current = next(i for i, p in enumerate(self._shown) if p.id == record["id"])
            self.change_bottle()

    def retire_bottle(self) -> None:
        """Keep the chosen bottle without using it, or take it into use again."""
        if self._shown:
            paint = self._shown[self.list.current]
            known = self.session.shelf.by_id()[paint.id]
            record = {key: value for key, value in known.items() if key != "retired"}
            if not paint.retired:
                record["retired"] = True
            self._write(lambda: self.session.shelf.change((known, record)))

    def undo(self) -> None:
        """Take the last change of the shelf back."""
        self._write(self.session.shelf.undo)

    def _write(self, change: Callable[[], object]) -> bool:
        try:
            change()
        except SepiaError as error:
            self.session.refused.emit(str(error))
            return False
        self.session.shelf_changed.emit()
        return True

    def _ask_import(self) -> None:
        file = ask_file(self, _("Import a shelf file"), shelves())
        if file:
            self.import_file(file)

    def _ask_export(self) -> None:
        place = ask_place(self, _("Export the shelf"), "shelf.json", shelf_forms())
        if place:
            self.export_file(place)

    def export_file(self, path: Path) -> None:
        """Write all paints in the form that the suffix names."""
        content = self.session.shelf.content()
        write_beside(self.session.jobs, path, lambda: write_shelf(path, content))

    def import_file(self, path: Path) -> None:
        """Add the paints of a file, read in the background: all of them or, if one breaks a rule, none."""
        self.session.jobs.act("shelf", lambda: lambda _p: read_shelf(path), self._imported)

    def _imported(self, content: ShelfContent) -> None:
        shelf = self.session.shelf
        present = shelf.by_id()
        clash = present.keys() & {str(record.get("id")) for record in content.records}
        answer = self._ask_replace(len(clash)) if clash else _AS_THE_LIST
        if answer not in (_KEEP_MINE, _AS_THE_LIST):
            return
        if answer == _KEEP_MINE:
            records = tuple(with_own_words(r, present.get(str(r.get("id")))) for r in content.records)
            content = replace(content, records=records)

        def add(_progress: Progress) -> None:
            shelf.add(content, replace=bool(clash))
            shelf.paints()

        def shown(_none: None) -> None:
            self._show_changed()
            if content.unread:
                words = _("Not understood, and kept as it is: {0}.")
                self.session.refused.emit(words.format(", ".join(content.unread)))

        self.session.jobs.act("shelf", lambda: add, shown)

    def _show_changed(self) -> None:
        self.list.forget()
        self.refresh()
        self.session.shelf_changed.emit()

    def _ask_replace(self, count: int) -> int | None:
        words = ngettext(
            "{0} of these paints is on the shelf already. Its colour is taken from the list; what is left of it, when it was opened and your notes can stay. Projects keep the versions they use.",
            "{0} of these paints are on the shelf already. Their colours are taken from the list; what is left of them, when they were opened and your notes can stay. Projects keep the versions they use.",
            count,
        ).format(count)
        return choose(self, _("Import"), words, _("Keep my notes"), _("All as in the list"), _("Leave it"))

    def _ask_remove(self) -> None:
        paint = self._shown[self.list.current]
        words = _("Take “{0}” off the shelf? Recipes that use it keep their own copy.").format(paint.name)
        if confirm(self, _("Take off the shelf"), words, _("Take it off")):
            self._write(lambda: self.session.shelf.remove([paint.id]))


def _searched(paint: Paint, records: Mapping[str, Mapping[str, Any]]) -> str:
    """All that a search of the shelf looks through, of one paint."""
    note = str(records.get(paint.id, {}).get("note") or "")
    retired = _("retired") if paint.retired else ""
    said = (
        paint.name,
        paint.line,
        paint.id,
        _(MEDIA[paint.medium].words),
        _(FINISH_WORDS[paint.finish]),
        _(USES[paint.use].words),
        note,
        retired,
    )
    return " ".join(said).casefold()


def _hue_key(paint: Paint) -> tuple[float, ...]:
    """Greys first, then round the hue circle from red, clear media last."""
    lab = paint.masstone_lab()
    chroma = float(np.hypot(lab[1], lab[2]))
    if paint.clear:
        return (2.0,)
    if chroma < 6:
        return (0.0, -float(lab[0]))
    return (1.0, (float(hue_deg(lab)) + 20) % 360)
