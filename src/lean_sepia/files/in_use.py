"""Who has a project open: locks that the system lets go of when their holder ends, however it ends.

Two are taken. A small file beside the project says who has it, and holds its name; a lock on the project itself holds the file,
by whichever link it is reached.
"""

from __future__ import annotations

import contextlib
import fcntl
import getpass
import json
import os
import socket
import struct
from datetime import datetime
from pathlib import Path

from lean_sepia.errors import InUseError
from lean_sepia.files.gate import shown
from lean_sepia.language import _, day_and_time

_MOST_BYTES = 2000
_FAR = 1 << 62
"""The byte of the project that is locked: far beyond its end, and beyond those that SQLite locks (1 << 30)."""


class Hold:
    """A project held for working on it, until `release`."""

    def __init__(self, handle: int, place: Path) -> None:
        self._handle, self._place = handle, place
        self._file = -1

    def take(self, project: Path) -> None:
        """Hold the file itself too, once it is there.

        Raises
        ------
        InUseError
            It is held by another of its names.
        """
        handle = os.open(project, os.O_RDWR | os.O_CLOEXEC | os.O_NONBLOCK)
        if not _locked(handle):
            os.close(handle)
            raise _elsewhere(project, _("by another of its names"))
        self._file = handle

    def release(self) -> None:
        """Let others have it."""
        for handle in (self._file, self._handle):
            if handle >= 0:
                if handle == self._handle:
                    with contextlib.suppress(OSError):
                        self._place.unlink()
                os.close(handle)
        self._file = self._handle = -1


def _locked(handle: int) -> bool:
    """Take the lock of an open file; True too where the file system knows none."""
    wanted = struct.pack("hhqqi4x", fcntl.F_WRLCK, os.SEEK_SET, _FAR, 1, 0)
    try:
        fcntl.fcntl(handle, fcntl.F_OFD_SETLK, wanted)
    except (BlockingIOError, PermissionError):
        return False
    except OSError:
        return True
    return True


def lock_place(project: Path) -> Path:
    """The lock file of a project: beside the file itself, where its name is a link."""
    real = Path(os.path.realpath(project))
    return real.with_name(f".{real.name}.lock")


def hold(project: Path) -> Hold:
    """Take a project for working on it, whether it is there yet or not.

    Raises
    ------
    InUseError
        Another window or program has it, by this or another name; the message says who and since when.
    OSError
        Nothing can be written beside it.
    """
    place = lock_place(project)
    while True:
        handle = os.open(place, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC | os.O_NOFOLLOW | os.O_NONBLOCK, 0o644)
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            who = _holder(handle)
            os.close(handle)
            raise _elsewhere(project, who) from None
        except OSError:
            os.close(handle)
            raise
        with contextlib.suppress(OSError):
            if os.path.samestat(os.fstat(handle), os.stat(place)):
                break
        os.close(handle)  # its last holder took it away in between
    held = Hold(handle, place)
    try:
        if os.path.exists(project):
            held.take(project)
    except (OSError, InUseError):
        held.release()
        raise
    me = {
        "user": _user(),
        "machine": socket.gethostname(),
        "since": datetime.now().isoformat(timespec="minutes"),
    }
    with contextlib.suppress(OSError):  # a full disk: held all the same, only without a name
        os.ftruncate(handle, 0)
        os.pwrite(handle, json.dumps(me).encode(), 0)
    return held


def _elsewhere(project: Path, who: str) -> InUseError:
    words = _("{0} is open elsewhere already: {1}. It can be read, or a copy of it worked on.")
    return InUseError(words.format(shown(project), who))


def _holder(handle: int) -> str:
    try:
        told = json.loads(os.pread(handle, _MOST_BYTES, 0))
        since = day_and_time(datetime.fromisoformat(told["since"]))
        return _("by {0} on {1} since {2}").format(shown(told["user"]), shown(told["machine"]), since)
    except (OSError, LookupError, TypeError, ValueError):
        return _("by another window of this program")


def _user() -> str:
    try:
        return getpass.getuser()
    except (OSError, KeyError):
        return _("someone")
