"""Wear: how worn a part of a photo is, how it is to be on the model, with a photo or without, and how the model has come out."""

from __future__ import annotations

from functools import cached_property, partial

from PySide6.QtWidgets import QButtonGroup, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from lean_sepia.language import _
from lean_sepia.ui.kit.panel import button, holder, label, row
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.wear.model_page import ModelPage
from lean_sepia.ui.wear.planned import Planned
from lean_sepia.ui.wear.planning.plan_page import PlanPage
from lean_sepia.ui.wear.prototype_page import PrototypePage
from lean_sepia.ui.wear.worn_so_far import WornSoFar

PHOTO, PLAN, MODEL = "photo", "plan", "model"


class WearRoom(RoomPage):
    """Three views of one zone's wear: the photo, the plan, the model; what is planned is laid as coats."""

    needs_paints = True

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.planned = Planned(session)
        self._shown_for: str | None = None
        self._statement, self._remark = label("", "statement", wrap=True), label("", "second", wrap=True)
        self.views: dict[str, QPushButton] = {}
        self._choice = QButtonGroup(self)
        self._stack = QStackedWidget()
        self._columns: dict[str, QWidget] = {}
        self._build()
        session.shelf_changed.connect(self._mark)

    def _build(self) -> None:
        words = {PHOTO: _("On the photo"), PLAN: _("As planned"), MODEL: _("On the model")}
        for name, said in words.items():
            view = self.views[name] = button(said, "tool")
            view.setCheckable(True)
            view.clicked.connect(partial(self.open_page, name))
            self._choice.addButton(view)
        self.views[PHOTO].setChecked(True)
        head = QVBoxLayout()
        head.setSpacing(2)
        head.addLayout(row(self._statement, *self.views.values(), spacing=4))
        head.addWidget(self._remark)
        self.centre.addLayout(head)
        self.centre.addWidget(self._stack, 1)
        self.worn_so_far = WornSoFar()
        self.lay = button(_("Lay this wear"), "main", _("Each kind becomes a coat on its share of the area"))
        self.lay.clicked.connect(self.planned.lay)
        self.side.addWidget(self.worn_so_far)
        self.side.addStretch(1)
        self.side.addLayout(row(self.by_hand("chips"), None, self.lay, spacing=6))

    # A view is built when it is first asked for: three at once would hold the room up.

    @cached_property
    def photo(self) -> PrototypePage:
        """The view of the photo."""
        page = PrototypePage(self.session, self.planned)
        page.draft_wanted.connect(self.draft_wanted)
        page.followed.connect(self.job_followed)
        self._take_in(PHOTO, page)
        return page

    @cached_property
    def plan(self) -> PlanPage:
        """The view of the plan."""
        page = PlanPage(self.session, self.planned)
        page.panels_wanted.connect(lambda: self.room_wanted.emit("tone"))
        self._take_in(PLAN, page)
        return page

    @cached_property
    def model(self) -> ModelPage:
        """The view of the model."""
        page = ModelPage(self.session, self.planned)
        page.followed.connect(self.job_followed)
        self._take_in(MODEL, page)
        return page

    def _take_in(self, name: str, page: PrototypePage | PlanPage | ModelPage) -> None:
        self._stack.addWidget(page)
        column = self._columns[name] = holder(page.side)
        self.side.insertWidget(0, column)
        column.setVisible(name == self.page)
        page.said.connect(partial(self._say, name))

    def _page(self, name: str) -> PrototypePage | PlanPage | ModelPage:
        if name == PHOTO:
            return self.photo
        return self.plan if name == PLAN else self.model

    @property
    def page(self) -> str:
        """Which view is shown."""
        return next(name for name, view in self.views.items() if view.isChecked())

    def open_page(self, name: str, *_why: object) -> None:
        """Show a view."""
        self.views[name].setChecked(True)
        self._stack.setCurrentWidget(self._page(name))
        for other, side in self._columns.items():  # the column is as long as what is seen
            side.setVisible(other == name)
        self.refresh()

    def refresh(self) -> None:
        zone = self.session.zone
        self.planned.take_up()
        if self._shown_for is None or (zone != self._shown_for and not self.photo.photos()):
            self._shown_for = zone
            wanted = PHOTO if self.photo.photos() else PLAN
            if wanted != self.page:
                self.open_page(wanted)
                return
        self._shown_for = zone
        self._page(self.page).refresh()
        self.worn_so_far.setVisible(bool(zone) and self.page == PLAN)
        if zone:
            self.worn_so_far.show_cut(self.session.cut(zone))
        self.lay.setEnabled(bool(self.planned.plan.kinds))

    def _say(self, name: str, statement: str, remark: str) -> None:
        if name == self.page:
            self._statement.setText(statement)
            self._remark.setText(remark)
