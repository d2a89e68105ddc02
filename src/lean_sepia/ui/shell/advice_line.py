"""The bottom line: the most important thing the program has noticed, and a button that goes there."""

from __future__ import annotations

from PySide6.QtCore import QSize, QTimer, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QProgressBar, QVBoxLayout

from lean_sepia.answers.rooms.room import Advice
from lean_sepia.answers.rooms.table import ROOMS
from lean_sepia.language import _
from lean_sepia.ui.kit.diamond import Diamond
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.job import Job
from lean_sepia.ui.kit.panel import button, label
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.shell.session import Session

_REFUSAL_MS = 9000


@guarded
class AdviceLine(QFrame):
    """Shows one piece of advice, or for a while why something was refused."""

    wanted = Signal(str, str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setObjectName("advice")
        self.setFixedHeight(42)
        self._session = session
        self._advice: Advice | None = None
        self._room = ""
        self._work: Job | None = None
        self._doing = ""
        self._text = label("")
        self._text.setAccessibleName(_("Advice"))
        self._button = button("")
        self._button.clicked.connect(self._go)
        # A place of its own: what is under the pointer must not turn into something else.
        self._close = button(_("Understood"))
        self._close.clicked.connect(self._understood)
        for choice in (self._button, self._close):
            policy = choice.sizePolicy()
            policy.setRetainSizeWhenHidden(choice is self._button)
            choice.setSizePolicy(policy)
        self._close.hide()
        self._progress = QProgressBar()
        self._progress.setTextVisible(False)
        self._progress.setRange(0, 0)
        self._progress.hide()
        self._refusal = QTimer(self)
        self._refusal.setSingleShot(True)
        self._refusal.setInterval(_REFUSAL_MS)
        self._refusal.timeout.connect(self._refresh)
        line = QHBoxLayout()
        line.setContentsMargins(20, 0, 18, 0)
        line.setSpacing(10)
        line.addWidget(Diamond())
        line.addWidget(self._text, 1)
        line.addWidget(self._close)
        line.addWidget(self._button)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._progress)
        layout.addLayout(line, 1)
        session.settled.connect(self._refresh)
        session.advised.connect(self._refresh)
        session.zone_changed.connect(self._offer)
        session.refused.connect(self.refuse)
        session.jobs.failed.connect(self.refuse)
        session.jobs.busy_changed.connect(self._progress.setVisible)
        self._refresh()

    def sizeHint(self) -> QSize:
        return QSize(400, 42)

    def _refresh(self) -> None:
        if self._refusal.isActive():
            return
        if self._work is not None:
            self._show(self._doing)
            return
        self._close.hide()
        self._advice = self._session.advice()[0]
        self._show(self._advice.text)
        self._button.setText(_("Go to {0}").format(_(ROOMS[self._advice.room].title)))
        self._offer()

    def _offer(self, *_why: object) -> None:
        """Show the way to where the advice belongs, unless one is there."""
        if self._advice is None or self._work is not None:
            return
        there = self._room == self._advice.room and (self._advice.zone or "") in ("", self._session.zone)
        self._button.setVisible(not there)

    def stand_in(self, room: str) -> None:
        """Know which room is open, none by an empty name: where one is already there is no way to go."""
        self._room = room
        self._offer()

    def _show(self, text: str) -> None:
        self._text.setText(text)
        hint(self._text, text)

    def refuse(self, message: str) -> None:
        """Say why something was not done; the advice comes back after a while."""
        self._show(message)
        self._button.setVisible(self._work is not None)
        self._close.show()
        self._advice = None
        self._refusal.start()

    def _understood(self) -> None:
        self._refusal.stop()
        self._refresh()

    def follow(self, job: Job, words: str) -> None:
        """Say what long work is under way, how far it is, and let it be cancelled."""
        self._work, self._doing = job, words
        if not self._refusal.isActive():  # what was refused stays to be read
            self._show(words)
            self._close.hide()
        self._button.setText(_("Cancel"))
        self._button.show()
        self._progress.setRange(0, 100)
        job.progress.connect(lambda share: self._progress.setValue(round(100 * share)))
        for ending in (job.done, job.failed, job.cancelled):
            ending.connect(self._stop_following)

    def _stop_following(self, *_answer: object) -> None:
        self._work = None
        self._progress.setRange(0, 0)
        self._refresh()

    def _go(self) -> None:
        if self._work is not None:
            self._work.cancel()
            return
        if self._advice is not None:
            self.wanted.emit(self._advice.room, self._advice.zone or "")
