"""What lies beside an SQLite file and is read with it: a journal that could have another file deleted never reaches SQLite."""

from __future__ import annotations

import contextlib
import os
import sqlite3
import stat
from pathlib import Path

from lean_sepia.files.gate import shown
from lean_sepia.language import _

JOURNAL = "-journal"
_BESIDE = (JOURNAL, "-wal", "-shm")
_MAGIC = bytes.fromhex("d9d505f920a163d7")
_HEAD, _TAIL, _LENGTH = 28, 16, 4
_MOST_LOST = 64 << 20  # by which a file may have become shorter than the journal says it was


class ForeignJournalError(sqlite3.DatabaseError):
    """Something beside a file that this program did not put there; nothing was read or changed."""


def beside(file: Path) -> list[Path]:
    """The places SQLite looks at with a file: beside what a link leads to, as SQLite follows links."""
    real = os.path.realpath(file)
    return [Path(f"{real}{ending}") for ending in _BESIDE]


def interrupted(file: Path) -> bool:
    """Whether a journal lies beside a file: what was being written when its writer ended is put right on opening."""
    return os.path.lexists(beside(file)[0])


def refuse_foreign(file: Path) -> None:
    """Refuse what no journal of this program is.

    A rollback journal may end in the name of a super-journal, which is written where one transaction spans several
    databases; rolling back deletes the file of that name (SQLite, "Database File Format", 3.1). This program attaches none.
    Rolling back also makes the file as long as the journal says it was.

    Raises
    ------
    ForeignJournalError
        Beside the file lies a journal that names another file, or something that is no file at all.
    """
    for place in beside(file):
        try:
            state = os.lstat(place)
        except FileNotFoundError:
            continue
        except OSError:  # the folder cannot be looked into: SQLite will not get further either
            return
        if not stat.S_ISREG(state.st_mode):
            raise ForeignJournalError(
                _("{0} lies beside it and is no file but a link, a folder or a pipe. Move that away.").format(
                    shown(place)
                )
            )
        if place.name.endswith(JOURNAL) and (fault := _fault_of_journal(place, file)):
            raise ForeignJournalError(
                _("{0}. Move {1} away and ask who gave it to you.").format(fault, shown(place))
            )


def _fault_of_journal(journal: Path, file: Path) -> str:
    """What rolling a journal back would do that no journal of this program does; empty where there is nothing."""
    try:
        handle = os.open(journal, os.O_RDONLY | os.O_CLOEXEC | os.O_NOFOLLOW | os.O_NONBLOCK)
    except FileNotFoundError:
        return ""
    except OSError as error:
        return _("the journal beside it cannot be read: {0}").format(error.strerror)
    try:
        size = os.fstat(handle).st_size
        head, tail = os.pread(handle, _HEAD, 0), os.pread(handle, _TAIL, max(0, size - _TAIL))
        length = int.from_bytes(tail[:_LENGTH], "big")
        if len(tail) == _TAIL and tail.endswith(_MAGIC) and length:
            name = os.pread(handle, min(length, 300), max(0, size - _TAIL - length))
            words = _("the journal beside it would have another file deleted ({0})")
            return words.format(shown(os.fsdecode(name.rstrip(b"\0"))))
        if len(head) == _HEAD and head.startswith(_MAGIC):
            pages, page = int.from_bytes(head[16:20], "big"), int.from_bytes(head[24:28], "big")
            with contextlib.suppress(OSError):
                if pages * page > os.stat(file).st_size + _MOST_LOST:
                    return _("the journal beside it would make it {0} GB large").format(pages * page >> 30)
    finally:
        os.close(handle)
    return ""


def clear_beside(file: Path) -> None:
    """Take away what lies beside a place that is about to be written over: it belongs to what was there.

    Raises
    ------
    OSError
        It cannot be taken away.
    """
    for place in beside(file):
        if not place.is_symlink() and place.is_dir():
            raise IsADirectoryError(_("the folder {0} is in the way").format(shown(place)))
        place.unlink(missing_ok=True)
