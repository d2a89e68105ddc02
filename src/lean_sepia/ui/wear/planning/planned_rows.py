"""The kinds of wear that are planned for a zone, each with how much, how large, with what, and whether it will show."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from PySide6.QtCore import Signal

from lean_sepia.answers.wearing.kinds import WEAR_KINDS, wear_words
from lean_sepia.answers.wearing.planning import WearRow
from lean_sepia.answers.wearing.told import heeded
from lean_sepia.colour.words import colour_name
from lean_sepia.colour.written import is_colour
from lean_sepia.document.entities.worn import MOST_PLANNED, PlannedWear, WearPlan
from lean_sepia.language import _, ngettext
from lean_sepia.ui.kit.dialogs.ask import ask_text
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import Panel, button, label, measure_box, row, rule
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Chip
from lean_sepia.wear.tools import MARK_TOOLS

OWN = "\n"
"""What stands behind the choice of a name of one's own; no name holds it."""


class PlannedRows(Panel):
    """`changed` carries the kinds as they were changed, and what the change is called."""

    changed = Signal(object, str)

    def __init__(self) -> None:
        super().__init__(_("What is worn here, and how much"))
        self._plan = WearPlan()
        self.add_kind = ChoiceBox(_("Plan one more kind of wear"), (), 190)
        self.add_kind.activated.connect(self._add_chosen)
        self._rows = Rows(spacing=4)
        self.add(self._rows)
        self.add(row(self.add_kind, None))

    def show_plan(self, plan: WearPlan, rows: tuple[WearRow, ...]) -> None:
        """Show planned kinds, in the order in which they are laid."""
        self._plan = plan
        planned = {one.kind for one in plan.kinds}
        left = [(wear_words(name).capitalize(), name) for name in WEAR_KINDS if name not in planned]
        self.add_kind.offer([(_("Add a kind…"), ""), *left, (_("A name of your own…"), OWN)], keep="")
        self.add_kind.setEnabled(len(planned) < MOST_PLANNED)
        self._rows.fill(self._told(rows))

    def _told(self, rows: tuple[WearRow, ...]) -> Iterator[Item]:
        kinds = {one.kind: one for one in self._plan.kinds}
        if not rows:
            words = _(
                "No photo is needed: add a kind of wear, say how much of it, and see it on the zone above."
            )
            yield label(words, "second", wrap=True)
        for number, shown in enumerate(rows):
            if number:
                yield rule()
            yield self._controls(kinds[shown.kind], shown)
            yield label(" ".join(_remarks(shown)), "second", wrap=True)

    def _controls(self, planned: PlannedWear, shown: WearRow) -> Item:
        name = shown.words
        share = measure_box(0, 98, 100 * planned.share, "%", _("{0}: share of the area").format(name), 1, 84)
        share.valueChanged.connect(lambda value: self._change(planned.kind, share=value / 100))
        size = measure_box(
            1, 100_000, shown.prototype_mm, "mm",
            _("{0}: size of its marks on the prototype").format(name), 0, 96,
        )  # fmt: skip
        size.valueChanged.connect(lambda value: self._change(planned.kind, median_mm=value))
        tools = [(_("best tool"), ""), *((_(tool.words), key) for key, tool in MARK_TOOLS.items())]
        tool = ChoiceBox(_("{0}: made with").format(name), tools, 168)
        tool.choose(planned.tool)
        tool.activated.connect(lambda _index: self._change(planned.kind, tool=str(tool.value)))
        drop = button("×", "step", _("Leave it out"))
        drop.setAccessibleName(_("Leave out {0}").format(name))
        drop.clicked.connect(partial(self._drop, planned.kind))
        title = label(name, "strong")
        title.setMinimumWidth(118)
        of_marks = () if shown.veil else (size, tool)
        return row(Chip(shown.lab, 30, 20), title, None, share, *of_marks, drop, spacing=8)

    def _change(self, kind: str, **changes: object) -> None:
        kinds = tuple(
            PlannedWear.model_validate({**one.model_dump(), **changes}) if one.kind == kind else one
            for one in self._plan.kinds
        )
        self.changed.emit(kinds, _("Plan the wear: {0}").format(wear_words(kind)))

    def _drop(self, kind: str) -> None:
        kinds = tuple(one for one in self._plan.kinds if one.kind != kind)
        self.changed.emit(kinds, _("Leave out {0}").format(wear_words(kind)))

    def _add_chosen(self, _index: int) -> None:
        name = str(self.add_kind.value)
        self.add_kind.choose("")
        if name == OWN:
            asked = ask_text(self, _("A kind of your own"), _("What is it called?"), _("Add it"), "")
            name = (asked or "").strip()[:60]
        if name:
            self.add_planned(name)

    def add_planned(self, name: str) -> None:
        """Plan one more kind, with its usual share."""
        if not any(one.kind == name for one in self._plan.kinds):
            usual = WEAR_KINDS[name].shares[1] if name in WEAR_KINDS else 0.01
            kinds = (*self._plan.kinds, PlannedWear(kind=name, share=usual))
            self.changed.emit(kinds, _("Plan the wear: {0}").format(wear_words(name)))


def _remarks(shown: WearRow) -> Iterator[str]:
    """What one planned kind is made of and with, and what to heed."""
    draft, made = shown.draft, shown.made
    made_of = draft.of or _("what lies below")
    if is_colour(draft.of):
        made_of = _("{0}, no bottle is on the shelf").format(colour_name(shown.wanted).capitalize())
    laid = ", ".join(part for part in (made_of, draft.thinned) if part)
    passes = ngettext("{0} pass", "{0} passes", draft.passes).format(draft.passes)
    size = _("{0} mm on the model, {1} a square centimetre").format(
        f"{shown.model_mm:.2g}", f"{made.per_cm2:.2g}"
    )
    if shown.veil:
        yield _("{0}: a soft veil.").format(laid)
    else:
        yield f"{laid}, {passes}; {size}."
    yield from heeded(shown)
