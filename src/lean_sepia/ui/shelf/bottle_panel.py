"""The chosen bottle: its colour, what is known and written of it, and what can be done with it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np
from PySide6.QtCore import Signal

from lean_sepia.language import _, ngettext
from lean_sepia.paint.film import thickness_to_hide
from lean_sepia.paint.handling.bodies import BODIES, USES
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import FINISH_WORDS, Paint
from lean_sepia.shelf.content import stock_ml
from lean_sepia.shelf.shelf import LOW_ML
from lean_sepia.ui.kit.panel import Panel, button, holder, label, row
from lean_sepia.ui.kit.swatch import Fields, bottle_lab, lab_words
from lean_sepia.ui.shelf.shelf_list import KNOWN


class BottlePanel(Panel):
    """One bottle, or why there is none."""

    change_wanted = Signal()
    duplicate_wanted = Signal()
    retire_wanted = Signal()

    def __init__(self) -> None:
        super().__init__(_("This bottle"))
        self.field = Fields(margin=10, height=110)
        self.name, self.figures = label("", "title", wrap=True), label("", "second", wrap=True)
        self.facts = label("", "", wrap=True)
        change, duplicate = button(_("Change…"), "tool"), button(_("Duplicate"), "tool")
        self.retire = button("", "tool")
        change.clicked.connect(self.change_wanted)
        duplicate.clicked.connect(self.duplicate_wanted)
        self.retire.clicked.connect(self.retire_wanted)
        self._acts = holder(row(change, duplicate, self.retire, None, spacing=6))
        for item in (self.field, self.name, self.figures, self.facts):
            self.add(item)
        self.body.addStretch(1)
        self.add(self._acts)

    def show_none(self, *, searching: bool) -> None:
        """No bottle: the shelf is empty, or nothing was found."""
        self.field.show_labs([None])
        self.name.setText(_("Nothing found") if searching else _("The shelf is empty"))
        self.figures.setText("")
        self.facts.setText(
            _("No bottle holds these words.")
            if searching
            else _("Write a bottle down, measure a painted card, or import a shelf file.")
        )
        self._acts.hide()

    def show_paint(self, paint: Paint, record: Mapping[str, Any]) -> None:
        """A bottle and its record."""
        self._acts.show()
        self.retire.setText(_("Take back") if paint.retired else _("Retire"))
        lab = bottle_lab(paint)
        self.field.show_labs([lab])
        self.name.setText(paint.name)
        self.figures.setText(lab_words(lab) if lab else _("Clear: it changes the sheen of a mixture."))
        kind = f"{_(MEDIA[paint.medium].words)} · {_(FINISH_WORDS[paint.finish])}"
        facts = [f"{paint.line} · {kind}" if paint.line else kind]
        if paint.use != "paint" or paint.body != "usual":
            facts.append(f"{_(USES[paint.use].words)}, {_(BODIES[paint.body].words)}.".capitalize())
        facts += [
            _hiding(paint),
            _("Known: {0}.").format(_(KNOWN[paint.knowledge])),
            *_written(paint, record),
        ]
        facts += [f"{note[0].upper()}{note[1:]}." for note in paint.notes]
        if record.get("note"):
            facts.append(str(record["note"]))
        self.facts.setText("\n".join(fact for fact in facts if fact))


def _hiding(paint: Paint) -> str:
    if not paint.lies_as_film:
        return _("Laid alone; not part of mixtures.")
    thickness = None if paint.clear else thickness_to_hide(paint)
    if thickness is None:
        return ""
    coats = max(1, int(np.ceil(thickness)))
    return ngettext("Hides in {0} unthinned coat.", "Hides in {0} unthinned coats.", coats).format(coats)


def _written(paint: Paint, record: Mapping[str, Any]) -> list[str]:
    """What the user wrote of a bottle besides its colour."""
    said = []
    if paint.retired:
        said.append(_("Retired: it is kept here and not used."))
    if paint.can:
        said.append(_("A spray can: laid as it is, never mixed."))
    if share := record.get("thinner_share"):
        said.append(_("Sold with {0} % thinner in it.").format(f"{100 * share:.0f}"))
    if record.get("opened"):
        said.append(_("Opened: {0}.").format(record["opened"]))
    stock = stock_ml([record]).get(paint.id)  # type: ignore[list-item]
    if stock is not None:
        low = _(" That is low.") if stock < LOW_ML else ""
        said.append(_("{0} ml left.").format(f"{stock:g}") + low)
    return said
