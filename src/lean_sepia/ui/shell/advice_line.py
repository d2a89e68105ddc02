"""The bottom line: the most important thing the program has noticed, and a button that goes there."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QSize, QTimer, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QFrame, QHBoxLayout, QProgressBar, QVBoxLayout, QWidget

from lean_sepia.answers.advice import Advice
from lean_sepia.ui.kit.job import Job
from lean_sepia.ui.kit.panel import button, label
from lean_sepia.ui.kit.theme import TEXT, font
from lean_sepia.ui.shell.session import Session

_REFUSAL_MS = 9000


class Diamond(QWidget):
    """The sign of a warning: a shape, not a hue. Filled for a stop."""

    def __init__(self, filled: bool = False, size: int = 20, mark: str = "!") -> None:
        super().__init__()
        self._filled, self._mark = filled, mark
        self.setFixedSize(size, size)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        ink = self.palette().color(TEXT)
        middle, reach = self.width() / 2, self.width() / 2 - 1.5
        shape = QPolygonF([QPointF(middle, middle - reach), QPointF(middle + reach, middle),
                           QPointF(middle, middle + reach), QPointF(middle - reach, middle)])  # fmt: skip
        painter.setPen(QPen(ink, 1.2))
        if self._filled:
            painter.setBrush(ink)
        painter.drawPolygon(shape)
        if self._mark and not self._filled and self.width() >= 16:
            painter.setFont(font(11, True))
            painter.drawText(self.rect(), 0x84, self._mark)


class AdviceLine(QFrame):
    """Shows one piece of advice, or for a while why something was refused."""

    wanted = Signal(str, str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setObjectName("advice")
        self.setFixedHeight(42)
        self._session = session
        self._advice: Advice | None = None
        self._work: Job | None = None
        self._text = label("")
        self._text.setAccessibleName(self.tr("Advice"))
        self._button = button("")
        self._button.clicked.connect(self._go)
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
        line.addWidget(self._button)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._progress)
        layout.addLayout(line, 1)
        session.changed.connect(self._refresh)
        session.refused.connect(self.refuse)
        session.jobs.failed.connect(self.refuse)
        session.jobs.busy_changed.connect(self._progress.setVisible)
        self._refresh()

    def sizeHint(self) -> QSize:
        return QSize(400, 42)

    def _refresh(self) -> None:
        if self._refusal.isActive() or self._work is not None:
            return
        self._advice = self._session.advice()[0]
        self._show(self._advice.text)
        self._button.setText(self.tr("Go to {0}").format(self._advice.room.capitalize()))
        self._button.show()

    def _show(self, text: str) -> None:
        self._text.setText(text)
        self._text.setToolTip(text)

    def refuse(self, message: str) -> None:
        """Say why something was not done; the advice comes back after a while."""
        self._show(message)
        self._button.setText(self.tr("Understood"))
        self._advice = None
        self._refusal.start()

    def follow(self, job: Job, words: str) -> None:
        """Say what long work is under way, how far it is, and let it be cancelled."""
        self._work = job
        self._show(words)
        self._button.setText(self.tr("Cancel"))
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
        if self._advice is None:
            self._refusal.stop()
            self._refresh()
        else:
            self.wanted.emit(self._advice.room, self._advice.zone or "")
