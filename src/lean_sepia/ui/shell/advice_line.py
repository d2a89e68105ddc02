"""The bottom line: what the program has noticed, the most important first, and a button that goes there."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QSize, QTimer, QUrl, Signal
from PySide6.QtGui import QDesktopServices
from PySide6.QtWidgets import QFrame, QHBoxLayout, QProgressBar, QSizePolicy, QVBoxLayout

from lean_sepia.answers.advice import as_told
from lean_sepia.answers.rooms.room import Advice, Urgency
from lean_sepia.answers.rooms.table import ROOMS
from lean_sepia.files.gate import shown
from lean_sepia.language import _, ngettext
from lean_sepia.plan.traits.kind import Room
from lean_sepia.ui.kit.diamond import Diamond
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.job import Job
from lean_sepia.ui.kit.panel import button, label
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.shell.session import Session

_REFUSAL_MS, _WRITTEN_MS = 9_000, 30_000
_HEIGHT = 42


@guarded
class AdviceLine(QFrame):
    """Shows one remark of those there are, or for a while why something was refused.

    What concerns the open room comes first. Remarks are walked through and put off for this project; those that were are the last
    to be walked to, and taken up again there.
    """

    wanted = Signal(str, str)
    nearer_wanted = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setObjectName("advice")
        self.setMinimumHeight(_HEIGHT)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        self._session = session
        self._remarks: list[Advice] = []
        self._put_off = 0
        self._at = 0  # the remark shown; one past the last is what was put off
        self._written: Path | None = None
        self._told = False  # whether a remark is shown, not what was refused
        self._room: Room | None = None
        self._work: Job | None = None
        self._doing = ""
        self._text = label("", wrap=True)
        self._text.setAccessibleName(_("Advice"))
        self._next = button("", "tool", _("The next remark (F3; back with Shift+F3)"))
        self._next.clicked.connect(self.walk)
        self._later = button(_("Not now"), "tool", _("Put this remark off for this project (F4)"))
        self._later.clicked.connect(self.put_off)
        self._button = button("")
        self._button.clicked.connect(self._go)
        # A place of its own: what is under the pointer must not turn into something else.
        self._close = button(_("Understood"))
        self._close.clicked.connect(self._understood)
        for choice in (self._button, self._close):
            policy = choice.sizePolicy()
            policy.setRetainSizeWhenHidden(choice is self._button)
            choice.setSizePolicy(policy)
        self._hide_choices()
        self._progress = QProgressBar()
        self._progress.setTextVisible(False)
        self._progress.setRange(0, 0)
        self._progress.hide()
        self._refusal = QTimer(self)
        self._refusal.setSingleShot(True)
        self._refusal.timeout.connect(self._refresh)
        self._lay_out()
        session.settled.connect(self._refresh)
        session.advised.connect(self._refresh)
        session.zone_changed.connect(self._offer)
        session.refused.connect(self.refuse)
        session.jobs.failed.connect(self.refuse)
        session.jobs.written.connect(self.tell_written)
        session.jobs.busy_changed.connect(self._progress.setVisible)
        # Nothing is told yet: the first remark comes with the first room.

    def _lay_out(self) -> None:
        line = QHBoxLayout()
        line.setContentsMargins(20, 0, 18, 0)
        line.setSpacing(10)
        line.addWidget(Diamond())
        line.addWidget(self._text, 1)
        for choice in (self._next, self._later, self._close):
            line.addWidget(choice)
        line.addWidget(self._button)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._progress)
        layout.addLayout(line, 1)

    def sizeHint(self) -> QSize:
        return QSize(400, max(_HEIGHT, super().sizeHint().height()))

    def _refresh(self) -> None:
        if self._refusal.isActive():
            return
        if self._work is not None:
            self._hide_choices()
            self._show(self._doing)
            return
        remark = self._remark if self._at > 0 else None  # the first is told because it is the first
        noticed, put_off = self._session.advice(), self._session.project.put_off
        self._remarks = as_told(noticed, put_off, self._room)
        self._put_off = len(noticed) - len(self._remarks)
        keys = [remark.key for remark in self._remarks]
        self._at = keys.index(remark.key) if remark is not None and remark.key in keys else 0
        self._tell()

    @property
    def _remark(self) -> Advice | None:
        """The remark that is shown; None where it is what was put off."""
        return self._remarks[self._at] if self._at < len(self._remarks) else None

    def _tell(self) -> None:
        """Show the remark one stands at, and what can be done with it."""
        remark, count = self._remark, len(self._remarks) + bool(self._put_off)
        self._told, self._written = True, None
        self._close.hide()
        self._next.setVisible(count > 1)
        self._next.setText(_("{0} of {1} ›").format(self._at + 1, count))
        self._next.setAccessibleName(_("Next remark; this is {0} of {1}").format(self._at + 1, count))
        self._later.setVisible(remark is not None and remark.urgency != Urgency.ALL_IS_WELL)
        if remark is None:
            words = ngettext("{0} remark was put off.", "{0} remarks were put off.", self._put_off)
            self._show(words.format(self._put_off))
            self._button.setText(_("Take up again"))
        else:
            self._show(remark.text)
            there = _("Go to {0}").format(_(ROOMS[remark.room].title))
            self._button.setText(_("Show it beside the target") if remark.nearer else there)
        self._offer()

    def walk(self, *_clicked: object, places: int = 1) -> None:
        """Show the remark so many places further on, round the end."""
        if self._told and self._work is None:
            self._at = (self._at + places) % (len(self._remarks) + bool(self._put_off))
            self._tell()

    def put_off(self, *_clicked: object) -> None:
        """Say no more of the remark shown, in this project."""
        remark = self._remark
        if self._told and remark is not None and self._later.isVisibleTo(self):
            self._session.put_off(remark)
            self._refresh()

    def _offer(self, *_why: object) -> None:
        """Show the way to where the remark belongs, unless one is there."""
        if not self._told:
            return
        remark = self._remark
        there = (
            remark is not None
            and not remark.nearer
            and self._room == remark.room
            and (remark.zone or "") in ("", self._session.zone)
        )
        self._button.setVisible(not there)

    def stand_in(self, room: Room | None) -> None:
        """Know which room is open, if one is: its remarks come first, and where one is already there is no way to go."""
        if room != self._room:
            self._room, self._at = room, 0
            self._refresh()
        self._offer()

    def _show(self, text: str) -> None:
        self._text.setText(text)
        hint(self._text, text)

    def refuse(self, message: str) -> None:
        """Say why something was not done; the advice comes back after a while."""
        self._hide_choices()
        self._show(message)
        self._button.setVisible(self._work is not None)
        self._close.show()
        self._refusal.start(_REFUSAL_MS)

    def tell_written(self, place: Path) -> None:
        """Say that a file is there, and where; the way to it stands beside until it is understood or time is up."""
        self._hide_choices()
        self._show(_("Written: {0}, in {1}.").format(shown(place.name), shown(place.absolute().parent)))
        if self._work is None:  # else it cancels that
            self._written = place
            self._button.setText(_("Show"))
            self._button.show()
        self._close.show()
        self._refusal.start(_WRITTEN_MS)

    def _open_written(self, place: Path) -> None:
        """Open the file in whatever the desktop has for it, else its folder."""
        for url in (place, place.absolute().parent):
            if QDesktopServices.openUrl(QUrl.fromLocalFile(str(url))):
                return
        self.refuse(
            _("Nothing on this desktop opens {0}. It lies in {1}.").format(
                shown(place.name), shown(place.absolute().parent)
            )
        )

    def _hide_choices(self) -> None:
        """What is shown is no remark."""
        self._told, self._written = False, None
        for choice in (self._next, self._later, self._close):
            choice.hide()

    def _understood(self) -> None:
        self._refusal.stop()
        self._refresh()

    def follow(self, job: Job, words: str) -> None:
        """Say what long work is under way, how far it is, and let it be cancelled."""
        self._work, self._doing = job, words
        if not self._refusal.isActive():  # what was refused stays to be read
            self._hide_choices()
            self._show(words)
        self._button.setText(_("Cancel"))
        self._button.show()
        self._progress.setRange(0, 100)
        job.progress.connect(lambda share: self._progress.setValue(round(100 * share)))
        for ending in (job.done, job.failed, job.cancelled):
            ending.connect(self._stop_following)

    def _stop_following(self, *_answer: object) -> None:
        self._work = None
        self._progress.setRange(0, 0)
        self._button.hide()
        self._refresh()

    def _go(self) -> None:
        if self._work is not None:
            self._work.cancel()
            return
        if self._written is not None:
            self._open_written(self._written)
            return
        remark = self._remark
        if remark is not None and remark.nearer:
            self.nearer_wanted.emit(remark.zone or "")
        elif remark is not None:
            self.wanted.emit(remark.room, remark.zone or "")
        else:
            self._session.take_up()
            self._refresh()
