"""Glaze: filters over several zones, washes and oil dots on one, each with the finish it comes to."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QButtonGroup, QPushButton, QStackedWidget, QVBoxLayout

from lean_sepia.answers.glazing.tints import tints
from lean_sepia.document.model import Project
from lean_sepia.language import _
from lean_sepia.plan.kinds import KINDS
from lean_sepia.ui.glaze.dots_page import DotsPage
from lean_sepia.ui.glaze.filters_page import FiltersPage
from lean_sepia.ui.glaze.tint_page import TintPage
from lean_sepia.ui.glaze.wash_page import WashPage
from lean_sepia.ui.kit.panel import button, holder, label, row
from lean_sepia.ui.preview.finish_panel import FinishPanel
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session


class GlazeRoom(RoomPage):
    """One kind of thin tint at a time, of those there are; what is chosen is seen as the finish at the right."""

    needs_paints = True

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self._statement, self._remark = label("", "statement", wrap=True), label("", "second", wrap=True)
        found = tints()
        filters = [FiltersPage(session, kind) for kind in found.filters]
        dots = [DotsPage(session, kind) for kind in found.dots]
        self.filters, self.washes, self.dots = filters[0], WashPage(session, found.washes), dots[0]
        self.pages: dict[str, TintPage] = {page.kind: page for page in (*filters, self.washes, *dots)}
        self._choice = QButtonGroup(self)
        self.kinds: dict[str, QPushButton] = {}
        self._stack, self._sides = QStackedWidget(), QStackedWidget()
        for name, page in self.pages.items():
            called = _("Wash") if page is self.washes else _(KINDS[name].title)
            choose = button(called, "tool")
            choose.setCheckable(True)
            self._choice.addButton(choose)
            self.kinds[name] = choose
            self._stack.addWidget(page)
            self._sides.addWidget(holder(page.side))
            page.side.addStretch(1)
            page.said.connect(partial(self._say, name))
            page.shown.connect(partial(self._show_finish, name))
        self.kinds[self.filters.kind].setChecked(True)
        self._choice.buttonClicked.connect(self._turn)
        head = QVBoxLayout()
        head.setSpacing(2)
        by_hand = button(_("By hand…"), "tool", _("Lay a coat of your own making, seen before it is laid"))
        by_hand.clicked.connect(lambda: self.coat_wanted.emit(self.kind))
        head.addLayout(row(self._statement, *self.kinds.values(), by_hand, spacing=4))
        head.addWidget(self._remark)
        self.centre.addLayout(head)
        self.centre.addWidget(self._stack, 1)
        self.finish = FinishPanel(session)
        self.finish.closer.connect(self._look_closer)
        self._project: Project | None = None
        self.side.addWidget(self.finish)
        self.side.addWidget(self._sides)
        self.side.addStretch(1)
        session.shelf_changed.connect(self._mark)

    @property
    def kind(self) -> str:
        """Which kind of tint is shown."""
        return next(name for name, choose in self.kinds.items() if choose.isChecked())

    def open_page(self, kind: str) -> None:
        """Show a kind of tint."""
        self.kinds[kind].setChecked(True)
        self._turn()

    def _turn(self, *_why: object) -> None:
        index = list(self.pages).index(self.kind)
        self._stack.setCurrentIndex(index)
        self._sides.setCurrentIndex(index)
        self.refresh()

    def refresh(self) -> None:
        page = self.pages[self.kind]
        page.ask()

    def _say(self, kind: str, statement: str, remark: str) -> None:
        if kind == self.kind:
            self._statement.setText(statement)
            self._remark.setText(remark)

    def _show_finish(self, kind: str, project: Project | None) -> None:
        if kind == self.kind:
            self._project = project
            self.finish.show_finish(project, self.session.zone)

    def _look_closer(self) -> None:
        self.finish_wanted.emit(self._project or self.session.project)
