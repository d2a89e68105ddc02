"""The sheet of a project's cups: every mix there is, who uses it, how much it takes, and mixes made without a target."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QLineEdit

from lean_sepia.answers.amounts import counted_out
from lean_sepia.answers.coats.cups import Cup, cups_in, used_by
from lean_sepia.answers.coats.mixing import read_free_mix
from lean_sepia.document.edits.cups import change_cup, drop_cup, keep_mix
from lean_sepia.document.model import Project
from lean_sepia.document.versions import from_cup
from lean_sepia.errors import SepiaError
from lean_sepia.language import _, ngettext
from lean_sepia.recipe.parts import volume_words
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import button, label, measure_box, row, rule
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.kit.swatch import Chip
from lean_sepia.ui.shell.session import Session


@guarded
class CupsSheet(Sheet):
    """A list of cups; one is opened to change its name, size and what is left of it."""

    lay_wanted = Signal(str)  # the words for a mix, to be laid

    def __init__(self, session: Session) -> None:
        super().__init__(_("mixes of this project"), _("Cups"))
        self._session = session
        self._opened = ""
        self.name, self.of = QLineEdit(), QLineEdit()
        self.name.setPlaceholderText(_("a name for it"))
        self.of.setPlaceholderText(_("3 sand + 1 ochre"))
        make = button(_("Mix it"), "tool")
        make.clicked.connect(self.make)
        self.of.returnPressed.connect(self.make)
        self.line(_("new mix"), self.name)
        self.line(_("of"), self.of, make)
        self._fault = label("", "second", wrap=True)
        self.add(self._fault)
        self._rows = Rows(spacing=6)
        self.add(self._rows)
        self.body.addStretch(1)
        leave = button(_("Close"))
        leave.clicked.connect(self.left)
        self.buttons([leave])
        session.changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show the cups as they are."""
        self._rows.fill(self._items())

    def _items(self) -> Iterator[Item]:
        cups = cups_in(self._session.project)
        if not cups:
            yield label(
                _("No mix yet. Pin a recipe in Match, lay a coat, or mix one here."), "second", wrap=True
            )
        for cup in cups:
            yield from self._cup(cup)

    def _cup(self, cup: Cup) -> Iterator[Item]:
        recipe = cup.recipe
        yield rule()
        opened = recipe.id == self._opened
        name = button(recipe.name, "link", _("Change its name, its cup and what is left of it"))
        name.clicked.connect(partial(self.open_cup, "" if opened else recipe.id))
        yield row(Chip(cup.lab, 34, 22), name, None, spacing=8)
        yield label(", ".join(f"{line.count} {line.name}" for line in cup.lines), "second", wrap=True)
        yield label(counted_out((line.amount, line.name) for line in cup.lines), "second", wrap=True)
        yield label(_("For: {0}.").format(used_by(self._session.project, cup)), "second", wrap=True)
        yield label(self._amounts(cup), "second", wrap=True)
        if recipe.note:
            yield label(recipe.note, "second", wrap=True)
        if opened:
            yield from self._editor(cup)

    def _amounts(self, cup: Cup) -> str:
        said = [
            _("{0} unthinned, {1} of it for touch-ups").format(
                volume_words(cup.paint_ml), volume_words(cup.reserve_ml)
            )
            if cup.reserve_ml
            else _("{0} as it comes").format(volume_words(cup.paint_ml))
        ]
        if cup.thinned:
            said.append(_("{0} % thinner").format(" / ".join(f"{100 * share:.0f}" for share in cup.thinned)))
        said.append(
            ngettext("{0} cup of {1} ml", "{0} cups of {1} ml", cup.cups).format(cup.cups, f"{cup.cup_ml:g}")
        )
        if cup.left_ml is not None:
            said.append(_("{0} left").format(volume_words(cup.left_ml)) if cup.left_ml else _("nothing left"))
        return "; ".join(said) + "."

    def _editor(self, cup: Cup) -> Iterator[Item]:
        recipe = cup.recipe
        name, note = QLineEdit(recipe.name), QLineEdit(recipe.note)
        note.setPlaceholderText(_("what you noticed of it"))
        size = measure_box(0.5, 500, cup.cup_ml, "ml", _("Size of the cup"), 1, 86)
        left = measure_box(
            -1, 500, -1 if recipe.left_ml is None else recipe.left_ml, "ml", _("Left of it"), 1, 96
        )
        left.setSpecialValueText(_("as laid"))
        keep, lay, pour = (
            button(_("Keep"), "tool"),
            button(_("Lay a coat of it…"), "tool"),
            button(_("Pour away"), "tool"),
        )

        def kept() -> None:
            ml = left.value() if left.value() >= 0 else None
            change = partial(
                change_cup,
                recipe_id=recipe.id,
                name=name.text(),
                cup_ml=size.value(),
                left_ml=ml,
                note=note.text(),
            )
            self._session.edit(_("About the mix {0}").format(recipe.name), change)

        keep.clicked.connect(kept)
        lay.clicked.connect(lambda: self.lay_wanted.emit(from_cup(recipe)))
        pour.clicked.connect(
            lambda: self._session.edit(
                _("Pour {0} away").format(recipe.name), lambda p: drop_cup(p, recipe.id)
            )
        )
        yield name
        yield row(label(_("cup"), "second"), size, label(_("left"), "second"), left, None, spacing=6)
        yield note
        yield row(keep, lay, pour, None, spacing=6)

    def open_cup(self, recipe_id: str) -> None:
        """Open a cup to change it; close it with no id."""
        self._opened = recipe_id
        self._session.jobs.later("cups", self.refresh)

    def make(self) -> None:
        """Keep a mix that no coat asks for."""
        session = self._session
        name, of = self.name.text().strip() or self.of.text().strip(), self.of.text()
        try:
            mix = read_free_mix(of, session.project, session.shelf.paints())
        except SepiaError as error:
            self._fault.setText(str(error))
            return
        self._fault.setText("")

        def change(project: Project) -> Project:
            return keep_mix(project, name, mix)[0]

        if session.edit(_("Mix {0}").format(name), change):
            self.name.clear()
            self.of.clear()
