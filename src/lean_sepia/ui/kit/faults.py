"""Mistakes of the program itself: kept away from Qt, written down on this machine, told once, the work saved.

On Python 3.11 every PySide6 tried (6.8.3, 6.10.3, 6.11.3, 6.12.0) ends the process when an error leaves an overridden handler;
on 3.12 it does not. So no error leaves one: each class that overrides any is `@guarded`.
"""

from __future__ import annotations

import contextlib
import functools
import sys
import threading
import traceback
from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from types import FunctionType, TracebackType
from typing import Any, TypeVar

from PySide6.QtCore import QObject, Signal

from lean_sepia.files.own_folders import own_folder
from lean_sepia.ui.kit.keys import TYPED_INTO, held_down

Widget = TypeVar("Widget", bound=type)
_MOST_BYTES, _MOST_KINDS = 1_000_000, 200


def report_file() -> Path:
    """Where reports of mistakes are kept: on this machine only, nothing is sent."""
    return own_folder("state") / "mistakes.txt"


class Faults(QObject):
    """Hears of every mistake. `happened` comes once for each place in the program that made one."""

    happened = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._told: set[str] = set()
        self._turn = threading.Lock()

    def note(self, error: BaseException) -> None:
        """Write a mistake down and tell of it; never raises, from any thread."""
        with contextlib.suppress(Exception):
            last = traceback.extract_tb(error.__traceback__)[-1:]
            place = (
                f"{type(error).__name__} {last[0].filename}:{last[0].lineno}"
                if last
                else type(error).__name__
            )
            with self._turn:
                if place in self._told or len(self._told) >= _MOST_KINDS:
                    return
                self._told.add(place)
            with contextlib.suppress(Exception):  # a full disk: it is told all the same
                _write_down("".join(traceback.format_exception(error, limit=-30)))
            self.happened.emit(f"{type(error).__name__}: {str(error)[:200]}")

    def forget(self) -> None:
        """Tell of every mistake again."""
        self._told.clear()


faults = Faults()


def _write_down(report: str) -> None:
    file = report_file()
    file.parent.mkdir(parents=True, exist_ok=True)
    if file.exists() and file.stat().st_size > _MOST_BYTES:
        file.replace(file.with_suffix(".old.txt"))
    with file.open("a", encoding="utf-8", errors="replace") as out:
        out.write(
            f"{datetime.now().isoformat(timespec='seconds')}  Python {sys.version.split()[0]}\n{report}\n"
        )


def guarded(cls: Widget) -> Widget:
    """Class decorator: an error in a handler that Qt calls is noted, and Qt gets what its own class would have answered.

    A window is not closed by an error, and a key that is held down does what it does once.
    """
    qt = [base for base in cls.__mro__ if base.__module__.startswith("PySide6")]
    for ours in (base for base in cls.__mro__ if base not in qt and base is not object):
        for name, function in list(vars(ours).items()):
            handler = isinstance(function, FunctionType) and any(hasattr(base, name) for base in qt)
            fresh = (
                name[0] != "_" and not hasattr(function, "guarded") and (ours is cls or name not in vars(cls))
            )
            if handler and fresh:
                setattr(cls, name, _guarded(ours, function))
    return cls


def _guarded(cls: type, function: FunctionType) -> Callable[..., Any]:
    presses = function.__name__ == "keyPressEvent" and not issubclass(cls, TYPED_INTO)

    @functools.wraps(function)
    def handler(self: Any, *arguments: Any) -> Any:
        if presses and held_down(arguments[0]):
            arguments[0].accept()
            return None
        try:
            return function(self, *arguments)
        except Exception as error:  # noqa: BLE001 - whatever it is, Qt must not see it
            faults.note(error)
        if function.__name__ == "closeEvent":  # what Qt's own would do is to close
            arguments[0].ignore()
            return None
        try:
            return getattr(super(cls, self), function.__name__)(*arguments)
        except Exception as error:  # noqa: BLE001
            faults.note(error)
            return None

    handler.guarded = True  # type: ignore[attr-defined]
    return handler


def _hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
    if isinstance(error, Exception):
        faults.note(error)
    else:
        sys.__excepthook__(kind, error, trace)


def catch_uncaught() -> None:
    """Errors that leave a slot or a thread are noted instead of printed where nobody looks."""
    sys.excepthook = _hook
    threading.excepthook = _thread_hook


def _thread_hook(fault: threading.ExceptHookArgs) -> None:
    if fault.exc_value is not None:
        faults.note(fault.exc_value)
