"""Background work: one wrapper, with progress, cancel and the answer delivered on the interface thread."""

from __future__ import annotations

import threading
import traceback
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal

from lean_sepia.errors import JobCancelled, SepiaError
from lean_sepia.language import _

Progress = Callable[[float], None]
Work = Callable[[Progress], Any]
"""A pure function of a progress callable, which raises JobCancelled when the user has stopped it."""


class Job(QObject):
    """One piece of work under way. Exactly one of `done`, `failed` and `cancelled` is emitted."""

    progress = Signal(float)
    done = Signal(object)
    failed = Signal(str)
    cancelled = Signal()

    def __init__(self, work: Work, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._work = work
        self._stop = threading.Event()

    def cancel(self) -> None:
        """Ask the work to stop at its next report of progress."""
        self._stop.set()

    def _report(self, share: float) -> None:
        if self._stop.is_set():
            raise JobCancelled
        self.progress.emit(share)

    def run(self) -> None:
        """Do the work here and now, in whichever thread calls."""
        try:
            answer = self._work(self._report)
        except JobCancelled:
            self.cancelled.emit()
        except SepiaError as error:
            self.failed.emit(str(error))
        except Exception as error:  # every fault must end the job where the user sees it
            traceback.print_exc()
            self.failed.emit(
                _("The program made a mistake ({0}: {1}). Your project is unchanged.").format(
                    type(error).__name__, error
                )
            )
        else:
            if self._stop.is_set():
                self.cancelled.emit()
            else:
                self.done.emit(answer)


class _Runner(QRunnable):
    def __init__(self, job: Job) -> None:
        super().__init__()
        self._job = job

    def run(self) -> None:
        self._job.run()


class Jobs(QObject):
    """Runs jobs in a pool and keeps only the newest answer of each kind. Tests may run them at once."""

    busy_changed = Signal(bool)
    failed = Signal(str)

    def __init__(self, parent: QObject | None = None, *, synchronous: bool = False) -> None:
        super().__init__(parent)
        self._synchronous = synchronous
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(2)
        self._newest: dict[str, Job] = {}
        self._running: set[Job] = set()

    def start(
        self,
        kind: str,
        work: Work,
        done: Callable[[Any], object],
        progress: Progress | None = None,
        *,
        keep: bool = False,
    ) -> Job:
        """Start work of a kind; an older job of that kind is cancelled and its answer dropped, unless all are to be kept."""
        older = self._newest.get(kind)
        if older and not keep:
            older.cancel()
        job = Job(work, self)
        self._newest[kind] = job
        self._running.add(job)
        self.busy_changed.emit(True)

        def finish() -> None:
            self._running.discard(job)
            if self._newest.get(kind) is job:
                del self._newest[kind]
            job.deleteLater()
            if not self._running:
                self.busy_changed.emit(False)

        def deliver(answer: object) -> None:
            current = keep or self._newest.get(kind) is job
            finish()
            if current:
                done(answer)

        def fail(message: str) -> None:
            finish()
            self.failed.emit(message)

        job.done.connect(deliver)
        job.failed.connect(fail)
        job.cancelled.connect(finish)
        if progress:
            job.progress.connect(progress)
        if self._synchronous:
            job.run()
        else:
            self._pool.start(_Runner(job))
        return job

    @property
    def idle(self) -> bool:
        """Whether nothing is under way."""
        return not self._running

    def cancel_all(self) -> None:
        """Ask everything to stop."""
        for job in tuple(self._running):
            job.cancel()

    def close(self) -> None:
        """Stop everything and wait for the threads."""
        self.cancel_all()
        self._pool.waitForDone(10_000)
