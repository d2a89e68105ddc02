"""What all rooms share: a centre, a right column, and a refresh that waits until the room is seen."""

from __future__ import annotations

from typing import ClassVar

from PySide6.QtCore import Signal
from PySide6.QtGui import QKeyEvent, QResizeEvent, QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from lean_sepia.language import _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import COLUMN_WIDTH, GUTTER, button, label, scrolled
from lean_sepia.ui.shell.session import Session

_BAR = 12


@guarded
class _Centre(QScrollArea):
    """The middle of a room, which scrolls where a low window has no room for it; the bar lies in the gutter, keys are the room's."""

    def resizeEvent(self, event: QResizeEvent) -> None:
        inner = self.widget()
        if inner is not None:
            inner.setFixedWidth(max(0, self.width() - _BAR))
        super().resizeEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        event.ignore()


@guarded
class RoomPage(QWidget):
    """A room listens to the session and redraws from the document; it never edits while it redraws."""

    photos_wanted = Signal(list)
    coat_wanted = Signal(str)  # to be laid by hand, of this kind
    draft_wanted = Signal(object)  # a coat to be laid by hand, as far as it is known
    job_followed = Signal(object, str)  # long work that is to be seen, and what it does
    room_wanted = Signal(str)
    sheet_wanted = Signal(object)  # to be shown beside the zone column
    finish_wanted = Signal(object)  # the document whose finish of the chosen zone is to be looked at closely
    needs_paints: ClassVar[bool] = False

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._stale = True
        self.centre = QVBoxLayout()
        self.centre.setSpacing(12)
        self.side = QVBoxLayout()
        self.side.setSpacing(12)
        column = scrolled(self.side)  # a low window scrolls the column instead of squeezing its words
        column.setFixedWidth(COLUMN_WIDTH + _BAR)
        inner = column.widget()
        assert inner is not None
        inner.setFixedWidth(COLUMN_WIDTH)  # the bar lies in the margin, so words wrap alike with it
        layout = QHBoxLayout(self)
        layout.setContentsMargins(20, 16, 20 - _BAR, 12)
        layout.setSpacing(GUTTER - _BAR)
        layout.addWidget(scrolled(self.centre, area=_Centre()), 1)
        layout.addWidget(column)
        session.changed.connect(self._mark)
        session.zone_changed.connect(self._mark)

    def headline(self) -> tuple[QLabel, QLabel]:
        """A statement and a remark at the head of the centre: sentences come before numbers."""
        statement, remark = label("", "statement", wrap=True), label("", "second", wrap=True)
        head = QVBoxLayout()
        head.setSpacing(2)
        head.addWidget(statement)
        head.addWidget(remark)
        self.centre.addLayout(head)
        return statement, remark

    def by_hand(self, kind: str) -> QPushButton:
        """A button that opens the sheet on which a coat of a kind is laid by hand."""
        open_sheet = button(_("By hand…"), "tool", _("Lay a coat of your own making, seen before it is laid"))
        open_sheet.clicked.connect(lambda: self.coat_wanted.emit(kind))
        return open_sheet

    def _mark(self) -> None:
        self._stale = True
        if self.isVisible():
            self._renew()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if self._stale:
            self.session.jobs.later(f"room {id(self)}", self._renew)

    def _renew(self) -> None:
        shelf, jobs = self.session.shelf, self.session.jobs
        if self.needs_paints and not shelf.ready:  # building a large shelf takes seconds
            jobs.start(f"paints for {id(self)}", lambda _p: shelf.paints(), lambda _paints: self._renew())
        elif self._stale:
            self._stale = False
            self.refresh()

    def refresh(self) -> None:
        """Draw the room from the document."""
        raise NotImplementedError
