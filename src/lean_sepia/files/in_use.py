"""Who has a project open: a small lock beside it, which the system lets go of when its holder ends, however it ends."""

from __future__ import annotations

import contextlib
import fcntl
import getpass
import json
import os
import socket
from datetime import datetime
from pathlib import Path

from lean_sepia.errors import InUseError
from lean_sepia.files.gate import shown
from lean_sepia.language import _, day_and_time

_MOST_BYTES = 2000


class Hold:
    """A project held for working on it, until `release`."""

    def __init__(self, handle: int, place: Path) -> None:
        self._handle, self._place = handle, place

    def release(self) -> None:
        """Let others have it."""
        if self._handle >= 0:
            with contextlib.suppress(OSError):
                self._place.unlink()
            os.close(self._handle)
            self._handle = -1


def lock_place(project: Path) -> Path:
    """The lock file of a project."""
    return project.with_name(f".{project.name}.lock")


def hold(project: Path) -> Hold:
    """Take a project for working on it.

    Raises
    ------
    InUseError
        Another window or program has it; the message says who and since when.
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
            words = _("{0} is open elsewhere already: {1}. It can be read, or a copy of it worked on.")
            raise InUseError(words.format(shown(project), who)) from None
        except OSError:
            os.close(handle)
            raise
        with contextlib.suppress(OSError):
            if os.path.samestat(os.fstat(handle), os.stat(place)):
                break
        os.close(handle)  # its last holder took it away in between
    me = {
        "user": _user(),
        "machine": socket.gethostname(),
        "since": datetime.now().isoformat(timespec="minutes"),
    }
    with contextlib.suppress(OSError):  # a full disk: held all the same, only without a name
        os.ftruncate(handle, 0)
        os.pwrite(handle, json.dumps(me).encode(), 0)
    return Hold(handle, place)


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
