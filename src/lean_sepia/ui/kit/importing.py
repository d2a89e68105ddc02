"""Imports beside the interface thread, which begin only once that thread has made every type of Qt.

PySide makes its types when they are first asked for, without a lock that both threads would heed. A job that imported a room or the
plotting library, which asks for all of them, could meet half a type beside the interface thread, and the program was gone without a
word: two in ten windows that were worked in while their plots were loaded.
"""

from __future__ import annotations

import importlib
import time
from collections.abc import Callable
from functools import lru_cache
from types import ModuleType
from typing import Any

from PySide6.QtCore import QObject, QTimer
from shiboken6 import isValid

from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.job import Jobs, Work

_MODULES = ("QtCore", "QtGui", "QtWidgets", "QtSvg", "QtOpenGL", "QtOpenGLWidgets", "QtTest")
"""What the window and the plotting library import of Qt; what is not installed is passed over."""
_SLICE_S = 0.004


@guarded
class _Types(QObject):
    """Makes the types a few at a time, so that the window answers in between."""

    def __init__(self) -> None:
        super().__init__()
        self._modules = list(_MODULES)
        self._left: list[tuple[ModuleType, str]] = []
        self._waiting: list[Callable[[], object]] = []
        self._turn = QTimer(self)
        self._turn.setInterval(0)
        self._turn.timeout.connect(self._take_slice)

    def when_made(self, call: Callable[[], object]) -> None:
        """Call once every type is there; at once where they are."""
        if self._modules or self._left:
            self._waiting.append(call)
            self._turn.start()
        else:
            call()

    def _take_slice(self) -> None:
        end = time.perf_counter() + _SLICE_S
        while time.perf_counter() < end:
            if self._left:
                module, name = self._left.pop()
                getattr(module, name, None)
            elif self._modules:
                self._left = _names_of(self._modules.pop(0))
            else:
                self._turn.stop()
                waiting, self._waiting = self._waiting, []
                for call in waiting:
                    call()
                return


def _names_of(module: str) -> list[tuple[ModuleType, str]]:
    try:
        found = importlib.import_module(f"PySide6.{module}")
    except ImportError:
        return []
    return [(found, name) for name in dir(found)]


_types = lru_cache(maxsize=1)(_Types)


def import_beside(jobs: Jobs, kind: str, load: Work, done: Callable[[Any], object]) -> None:
    """Start a job that imports parts of the window, once that is safe; jobs that run at once need not wait."""
    if jobs.synchronous:
        jobs.start(kind, load, done)
        return

    def start() -> None:
        if isValid(jobs):
            jobs.start(kind, load, done)

    _types().when_made(start)
