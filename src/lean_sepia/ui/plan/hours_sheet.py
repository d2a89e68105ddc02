"""A sheet on when and where the work is done: start, evenings, deadline, place, weather, and how things dry."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime
from functools import partial

from PySide6.QtWidgets import QLineEdit

from lean_sepia.answers.bench import span
from lean_sepia.document.edits.planning import (
    forget_wait,
    set_deadline,
    set_drying,
    set_hours,
    set_workplace,
)
from lean_sepia.document.entities.planned import Workplace
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.language import _, day_and_time
from lean_sepia.plan.hours.spoken_dates import parse_spoken
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.names import PLACE_WORDS
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import button, label, measure_box, row, rule
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.plan.hours_lines import HoursLines
from lean_sepia.ui.shell.session import Session


@guarded
class HoursSheet(Sheet):
    """`Keep` makes one edit of it; what cannot be read is said on the sheet."""

    def __init__(self, session: Session, start: str) -> None:
        super().__init__(_("plan"), _("When and where you work"))
        self._session = session
        project = session.project
        self._was_start, self._was_deadline = _said(start), _said(project.deadline)
        self.start, self.deadline = QLineEdit(self._was_start), QLineEdit(self._was_deadline)
        self.start.setPlaceholderText(_("tomorrow 19:00"))
        self.deadline.setPlaceholderText(_("none"))
        self.line(_("begins"), self.start)
        self.line(_("deadline"), self.deadline)
        self.add(rule())
        self.add(label(_("Hours at the bench"), "strong"))
        self.evenings = HoursLines(project.evenings)
        self.add(self.evenings)
        self.add(rule())
        self._build_place(project.workplace)
        self._build_drying(project)
        self.fault = label("", "strong", wrap=True)
        self.add(self.fault)
        self.body.addStretch(1)
        keep, leave = button(_("Keep"), "main"), button(_("Close"))
        keep.clicked.connect(self.keep)
        leave.clicked.connect(self.leave)
        self.buttons([keep, leave])

    def _build_place(self, workplace: Workplace) -> None:
        usual = _("your booth, else outdoors")
        self.place = ChoiceBox(
            _("Place of work"), [(usual, None), *((_(words), name) for name, words in PLACE_WORDS.items())]
        )
        self.place.choose(workplace.place)
        self.line(_("place"), self.place)
        self.add(
            label(
                _(
                    "Outdoors only within these limits, dry and out of the sun, a respirator on and the wind behind you:"
                ),
                "second",
                wrap=True,
            )
        )
        self.coldest = measure_box(-50, 80, workplace.coldest_c, "°C", _("Coldest"), 0)
        self.warmest = measure_box(-50, 80, workplace.warmest_c, "°C", _("Warmest"), 0)
        self.dampest = measure_box(0, 100, workplace.dampest_percent, "%", _("Dampest"), 0)
        self.windiest = measure_box(0, 60, workplace.windiest_m_s, "m/s", _("Windiest"), 0)
        self.line(_("warmth"), self.coldest, self.warmest, None)
        self.line(_("air, wind"), self.dampest, self.windiest, None)
        self.daylight = HoursLines(workplace.daylight)
        self.add(label(_("Hours for work outdoors"), "second"))
        self.add(self.daylight)

    def _build_drying(self, project: Project) -> None:
        self.add(rule())
        self.factor = measure_box(
            0.1, 10, project.drying, "×", _("Thick coats, cold or damp: waits times"), 1
        )
        self.line(
            _("drying"),
            self.factor,
            label(_("longer where coats are thick, cold or damp"), "second", wrap=True),
        )
        self._logged = Rows(spacing=4)
        self.add(self._logged)
        self._show_logged()

    def _show_logged(self) -> None:
        self._logged.fill(self._logged_rows())

    def _logged_rows(self) -> Iterator[Item]:
        waits = self._session.project.waits
        if waits:
            yield label(_("Waits you logged; they count before the tables"), "second")
        for one in waits:
            words = _("{0} before {1}: {2}").format(
                _(KINDS[one.below].title), _(KINDS[one.then].title), span(one.minutes)
            )
            away = button(_("Forget"), "link")
            away.clicked.connect(partial(self._forget, one.id))
            yield row(label(words, "", wrap=True), away)

    def _forget(self, wait_id: str) -> None:
        if self._session.edit(_("Forget a wait"), partial(forget_wait, wait_id=wait_id)):
            self._show_logged()

    def keep(self) -> None:
        """Make one edit of what is filled in."""
        now = datetime.now()
        try:
            start = self._moment(self.start.text(), self._was_start, self._session.project.plan_start, now)
            deadline = self._moment(
                self.deadline.text(), self._was_deadline, self._session.project.deadline, now
            )
            evenings, daylight = self.evenings.text, self.daylight.text
        except SepiaError as error:
            self.fault.setText(str(error))
            return
        place = Workplace.model_validate(
            {
                "place": self.place.value, "daylight": daylight, "coldest_c": self.coldest.value(), "warmest_c": self.warmest.value(),
                "dampest_percent": self.dampest.value(), "windiest_m_s": self.windiest.value(),
            }
        )  # fmt: skip
        factor = self.factor.value()

        def change(project: Project) -> Project:
            project = (
                set_hours(project, start or project.plan_start, evenings)
                if start
                else project.model_copy(update={"evenings": evenings})
            )
            return set_drying(set_workplace(set_deadline(project, deadline), place), factor)

        if self._session.edit(_("When and where you work"), change):
            self.leave()

    @staticmethod
    def _moment(text: str, was: str, kept: str, now: datetime) -> str:
        """What is written as a moment; what was not touched stays as it was."""
        if text.strip() == was:
            return kept
        return parse_spoken(text, now).isoformat(timespec="minutes") if text.strip() else ""


def _said(moment: str) -> str:
    """A moment as people write it, with its year."""
    if not moment:
        return ""
    try:
        when = datetime.fromisoformat(moment)
    except ValueError:
        return moment
    return f"{day_and_time(when)}" if when.year == datetime.now().year else f"{when:%Y-%m-%d %H:%M}"
