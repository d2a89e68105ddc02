"""The wear that is planned for the chosen zone, as all pages of Wear see it, and what is done with it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QObject, Signal

from lean_sepia.answers.wearing.bottles import Bottles
from lean_sepia.answers.wearing.planning import WearRow, lay_rows, plan_of, wear_rows, with_heaviness
from lean_sepia.document.edits.wear import plan_wear
from lean_sepia.document.entities.worn import WearPlan
from lean_sepia.language import _
from lean_sepia.report.export import Leaving
from lean_sepia.ui.shell.session import Session


class Planned(QObject):
    """`previewed` says that the plan was moved but is not kept yet."""

    previewed = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._bottles: Bottles | None = None
        self.plan = WearPlan()

    def take_up(self) -> None:
        """Take the plan from the document."""
        project, zone = self._session.project, self._session.zone
        self.plan = plan_of(project, project.zone(zone)) if zone else WearPlan()

    @property
    def bottles(self) -> Bottles:
        """The bottles of the shelf as it is."""
        paints = self._session.shelf.paints()
        if self._bottles is None or self._bottles.paints != tuple(paints):
            self._bottles = Bottles(paints)
        return self._bottles

    @property
    def scale(self) -> float:
        """N of 1:N of the chosen zone's model."""
        project = self._session.project
        return project.subject_of(project.zone(self._session.zone)).scale

    def rows(self) -> tuple[WearRow, ...]:
        """Each planned kind with its figures."""
        return self._rows_of()()

    def when_known(self, show: Callable[[tuple[WearRow, ...]], object]) -> None:
        """Show each planned kind with its figures once they are found; what marks are made of is looked for in the background."""
        find = self._rows_of()
        self._session.jobs.start("wear rows", lambda _progress: find(), show)

    def _rows_of(self) -> Callable[[], tuple[WearRow, ...]]:
        """What finds the rows of the plan as it is now, in any thread."""
        zone = self._session.zone
        if not zone or not self.plan.kinds:
            return tuple
        return partial(wear_rows, self._session.project, zone, self.plan, self.bottles)

    def preview(self, heaviness: float) -> None:
        """Show a plan that is lighter or heavier, without keeping it."""
        self.plan = with_heaviness(self.plan, heaviness)
        self.previewed.emit()

    def keep_heaviness(self, heaviness: float) -> None:
        """Keep how heavy the wear is to be."""
        self.keep(with_heaviness(self.plan, heaviness), _("How heavy the wear is"))

    def keep(self, plan: WearPlan, words: str) -> None:
        """Keep a plan as an edit."""
        project, zone = self._session.project, self._session.zone
        if zone and plan != plan_of(project, project.zone(zone)):
            self._session.edit(words, lambda p: plan_wear(p, zone, plan))

    def lay(self) -> None:
        """Each planned kind becomes a coat on its share of the zone's area."""
        session, rows = self._session, self.rows()
        if rows:
            words = _("Lay the wear of {0}").format(session.project.zone(session.zone).name)
            session.edit(words, lambda p: lay_rows(p, session.zone, rows, self.bottles)[0])

    def leaving(self) -> Leaving | None:
        """What the stop marks are made from: the zone with its plan as it is shown; None without a zone."""
        project, zone = self._session.project, self._session.zone
        if not zone:
            return None
        return Leaving(plan_wear(project, zone, self.plan), zone, self.bottles.paints)
