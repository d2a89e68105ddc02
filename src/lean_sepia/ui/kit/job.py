"""Background work: one wrapper, with progress, cancel and the answer delivered on the interface thread."""

from __future__ import annotations

import contextlib
import os
import threading
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, QTimer, Signal
from shiboken6 import isValid

from lean_sepia.errors import JobCancelled, SepiaError
from lean_sepia.language import _
from lean_sepia.ui.kit.faults import faults, guarded

_REST_MS = 200
Progress = Callable[[float], None]
Work = Callable[[Progress], Any]
"""A pure function of a progress callable, which raises JobCancelled when the user has stopped it."""

_LAST_WAIT_MS = 3_000
"""How long closing waits for work that nothing stops."""


class Job(QObject):
    """One piece of work under way. Exactly one of `done`, `failed` and `cancelled` is emitted."""

    progress = Signal(float)
    done = Signal(object)
    failed = Signal(str)
    cancelled = Signal()

    def __init__(self, work: Work, parent: QObject | None = None, *, keep: bool = False) -> None:
        super().__init__(parent)
        self._work, self._keep = work, keep
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
        except Exception as error:  # noqa: BLE001 - every fault must end the job where the user sees it
            faults.note(error)
            self.failed.emit(
                _("The program made a mistake ({0}: {1}). Your project is unchanged.").format(
                    type(error).__name__, error
                )
            )
        else:
            if self._stop.is_set() and not self._keep:
                self.cancelled.emit()
            else:
                self.done.emit(answer)


_NICENESS = 10  # of the threads of jobs; the interface has 0


@guarded
class _Runner(QRunnable):
    def __init__(self, job: Job) -> None:
        super().__init__()
        self._job = job

    def run(self) -> None:
        _give_way()
        self._job.run()


def _give_way() -> None:
    """Let the interface have the processor first, which a job and the threads it starts would share with it evenly."""
    with contextlib.suppress(OSError):
        os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), _NICENESS)


@dataclass(frozen=True)
class _Act:
    prepare: Callable[[], Work | None]
    done: Callable[[Any], object]
    begun: Callable[[Job], object] | None


@dataclass(frozen=True)
class _Ended:
    """An act that came to no answer: why, or nothing where it was cancelled."""

    why: str


class Jobs(QObject):
    """Runs jobs in a pool. Of questions only the newest of each kind is answered; what a hand did is done, in its turn.

    `acts_done` says that nothing of what was done is left to be worked out. Tests may run jobs at once.
    """

    busy_changed = Signal(bool)
    failed = Signal(str)
    acts_done = Signal()
    written = Signal(object)  # the place of a file that is there now

    def __init__(self, parent: QObject | None = None, *, synchronous: bool = False) -> None:
        super().__init__(parent)
        self._synchronous = synchronous
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(2)
        self._newest: dict[str, Job] = {}
        self._running: set[Job] = set()
        self._acts: dict[str, deque[_Act]] = {}
        self._closed = False
        self._later: dict[str, Callable[[], object]] = {}
        self._resting: dict[str, QTimer] = {}
        self._turn = QTimer(self)
        self._turn.setInterval(0)
        self._turn.timeout.connect(self._take_turn)

    @property
    def at_once(self) -> bool:
        """Whether jobs are done at once, as tests may wish."""
        return self._synchronous

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
        job = Job(work, self, keep=keep)
        if self._closed:  # what ends on the way out must not begin anything
            job.cancel()
            return job
        if not keep:
            self._cancel(kind)
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
            if current and not _is_gone(done):
                done(answer)

        def fail(message: str) -> None:
            finish()
            self.failed.emit(message)

        job.done.connect(deliver)
        job.failed.connect(fail)
        job.cancelled.connect(finish)
        if progress:
            job.progress.connect(progress)
        self._run(job)
        return job

    def act(
        self,
        about: str,
        prepare: Callable[[], Work | None],
        done: Callable[[Any], object],
        begun: Callable[[Job], object] | None = None,
    ) -> None:
        """Do what a hand did once it is worked out, after all that was done before about the same thing; none is dropped.

        prepare : called here when its turn has come, so that it asks about the document as it is then; None where there is
            nothing to do any more
        done : takes the answer; where it returns True all is asked anew, since the document changed meanwhile
        begun : gets the job, to follow it; where the user cancels that, what waits about the same thing is given up too
        """
        if self._closed:
            return
        queue = self._acts.setdefault(about, deque())
        queue.append(_Act(prepare, done, begun))
        if len(queue) == 1:
            self._take_act(about)

    @property
    def acting(self) -> bool:
        """Whether anything that was done is not worked out yet."""
        return bool(self._acts)

    def acting_on(self, about: str) -> bool:
        """Whether anything that was done about one thing is not worked out yet."""
        return about in self._acts

    def _take_act(self, about: str) -> None:
        queue = self._acts.get(about)
        while queue:
            act, work = queue[0], None
            try:
                work = act.prepare()
            except SepiaError as error:
                self.failed.emit(str(error))
            except Exception as error:  # noqa: BLE001 - what waits behind it is done all the same
                faults.note(error)
            if work is not None:
                job = self.start(
                    f"act {about}", partial(_answer_of, work), partial(self._act_answered, about), keep=True
                )
                if act.begun is not None and job in self._running:
                    act.begun(job)
                return
            queue.popleft()
        if self._acts.pop(about, None) is not None and not self._acts:
            self.acts_done.emit()

    def _act_answered(self, about: str, answer: object) -> None:
        queue = self._acts.get(about)
        if queue is None:  # closed meanwhile
            return
        again: object = False
        if isinstance(answer, _Ended):
            if answer.why:
                self.failed.emit(answer.why)
            else:
                queue.clear()
        elif not self._closed:
            try:
                again = queue[0].done(answer)
            except SepiaError as error:
                self.failed.emit(str(error))
            except Exception as error:  # noqa: BLE001 - what waits behind it is done all the same
                faults.note(error)
        if queue and again is not True:
            queue.popleft()
        if not self._closed:
            self._take_act(about)

    def _run(self, job: Job) -> None:
        if self._synchronous:
            job.run()
        else:
            self._pool.start(_Runner(job))

    def _cancel(self, kind: str) -> None:
        older = self._newest.get(kind)
        if older is not None:
            older.cancel()

    def later(self, kind: str, piece: Callable[[], object]) -> None:
        """Do a piece of drawing in a turn of its own, so that the window answers in between; only the newest of a kind."""
        if self._closed:
            return
        if self._synchronous:
            piece()
            return
        self._later[kind] = piece
        self._turn.start()

    def at_rest(self, kind: str, work: Work, done: Callable[[Any], object]) -> None:
        """Start work that nobody waits for a moment later, so that it takes nothing from what the hand just did."""
        if self._synchronous or self._closed:
            self.start(kind, work, done)
            return
        if (older := self._resting.pop(kind, None)) is not None:
            older.stop()
            older.deleteLater()
        timer = self._resting[kind] = QTimer(self)
        timer.setSingleShot(True)
        timer.setInterval(_REST_MS)
        timer.timeout.connect(partial(self._start_rested, kind, work, done))
        timer.start()

    def in_idle_time(self, kind: str, work: Work, done: Callable[[Any], object]) -> None:
        """Start, once the hand rests, work that the window can do without; where jobs run at once it is left out."""
        if not self._synchronous:
            self.at_rest(kind, work, done)

    def _start_rested(self, kind: str, work: Work, done: Callable[[Any], object]) -> None:
        self._resting.pop(kind).deleteLater()
        self.start(kind, work, done)

    def _take_turn(self) -> None:
        piece = self._later.pop(next(iter(self._later)))
        if not self._later:
            self._turn.stop()
        if not _is_gone(piece):
            piece()

    @property
    def synchronous(self) -> bool:
        """Whether jobs run at once, in the thread that starts them."""
        return self._synchronous

    @property
    def idle(self) -> bool:
        """Whether nothing is under way."""
        return not self._running and not self._later and not self._resting

    def cancel_all(self) -> None:
        """Ask everything to stop."""
        for job in tuple(self._running):
            job.cancel()

    def close(self) -> None:
        """Stop everything and wait for the threads."""
        self._closed = True
        self._turn.stop()
        self._later.clear()
        for timer in self._resting.values():
            timer.stop()
        self._resting.clear()
        self._acts.clear()
        self.cancel_all()
        self._pool.waitForDone(_LAST_WAIT_MS)


def _is_gone(call: Callable[..., object]) -> bool:
    """Whether what is to be called belongs to a sheet or view that was closed meanwhile."""
    while isinstance(call, partial):
        call = call.func
    owner = getattr(call, "__self__", None)
    return isinstance(owner, QObject) and not isValid(owner)


def _answer_of(work: Work, progress: Progress) -> object:
    """What an act's work answers, or how it ended without one."""
    try:
        return work(progress)
    except JobCancelled:
        return _Ended("")
    except SepiaError as error:
        return _Ended(str(error))
    except Exception as error:  # noqa: BLE001 - told where the user sees it, and the next act goes on
        faults.note(error)
        words = _("The program made a mistake ({0}: {1}). Your project is unchanged.")
        return _Ended(words.format(type(error).__name__, error))
