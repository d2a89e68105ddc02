"""The model measured like the prototype: what is too much, too little, too large, too even, and what one more step would do."""

from __future__ import annotations

from collections.abc import Iterator
from typing import ClassVar

from lean_sepia.answers.wearing.comparing import asked_of, compare, verdict_words
from lean_sepia.answers.wearing.surveying import Pointed, WearAnswer
from lean_sepia.document.edits.photos import place_region
from lean_sepia.document.entities.worn import WearRecord
from lean_sepia.language import _
from lean_sepia.ui.kit.diamond import Diamond
from lean_sepia.ui.kit.panel import Panel, label, row
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.wear.photo_page import PhotoPage
from lean_sepia.ui.wear.planned import Planned


class ModelPage(PhotoPage):
    """The kinds are those of the plan, in the colours they have there; pointing at them on the picture is better still."""

    of_model: ClassVar[bool] = True

    def __init__(self, session: Session, planned: Planned) -> None:
        super().__init__(session, planned)
        self.viewer.empty_words = _(
            "Add a picture of the model in Evidence, and say there that it shows the model."
        )
        self.pointing.name_length(_("on the model"), _("Its length on the model, in millimetres"), 20)
        self.verdicts_panel = Panel(_("Against the plan"))
        self._verdicts = Rows(spacing=8)
        self.verdicts_panel.add(self._verdicts)
        self.side.addWidget(self.verdicts_panel)

    def point_by_itself(self) -> None:
        if not self.pointing.kinds:
            self.pointing.kinds = {
                row.kind: Pointed(row.kind, row.lab) for row in self.planned.rows() if row.share
            }

    def what_is_missing(self) -> str:
        if not self.photos():
            return _(
                "Hold the model beside the plan: a picture from a phone is enough, with something grey in it."
            )
        if not self.planned.plan.kinds:
            return _("Plan this zone's wear first: then the model can be held against it.")
        return _("Trace the same part on the model, point at its sound finish, and measure.")

    def show_record(self, record: WearRecord | None) -> None:
        self.pointing.show_marks()
        rows = self.planned.rows()
        known = record is not None and bool(rows)
        self.verdicts_panel.setVisible(known)
        self.show_pointed()
        if record is None or not rows:
            self.said.emit(_("The model is not measured yet."), self.what_is_missing())
            return
        asked = asked_of(self.session.project, self.session.zone, self.planned.plan, rows)
        verdicts = compare(asked, record)
        sizes = {one.kind: one.model_mm for one in asked}
        off = [one for one in verdicts if one.amount != "right"]
        statement = (
            _("The model has what was planned.")
            if not off
            else _("{0} of {1} kinds are off.").format(len(off), len(verdicts))
        )
        self.said.emit(statement, self.session.project.zone(self.session.zone).name)
        self._verdicts.fill(
            _lines((one.amount != "right", verdict_words(one, sizes[one.kind])) for one in verdicts)
        )

    def keep(self, answer: WearAnswer) -> bool:
        name = _("Measure the model's wear")
        return self.session.edit(name, lambda p: place_region(p, answer.region))


def _lines(found: Iterator[tuple[bool, str]]) -> Iterator[Item]:
    for off, words in found:
        text = label(words, "second", wrap=True)
        yield row(Diamond(size=12, mark=""), text, spacing=7) if off else row(text)
