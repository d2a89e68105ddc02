"""Opening SQLite files that may come from anyone: only the tables we make, nothing that runs, bounded in time."""

from __future__ import annotations

import os
import sqlite3
import threading
import time
from collections.abc import Iterator, Mapping
from contextlib import contextmanager, suppress
from pathlib import Path
from urllib.parse import quote

from lean_sepia.files.beside import ForeignJournalError, clear_beside, refuse_foreign
from lean_sepia.files.gate import open_beside
from lean_sepia.language import _

FAULTS = (sqlite3.Error, UnicodeError)
"""What SQLite raises of a file that is not as it should be: its own words may hold bytes of the file that are no text."""
LOCK_WAIT_S = 0.05
"""How long a call waits for another program's lock: no longer than a blink, since the window waits with it; saving is tried again."""
_MOST_BYTES = 1 << 30
_STEPS_BETWEEN_LOOKS = 20_000
_MOST_SECONDS = 10.0
_OWN_TABLES = {
    "sqlite_sequence": "CREATE TABLE sqlite_sequence(name,seq)",
    "sqlite_stat1": "CREATE TABLE sqlite_stat1(tbl,idx,stat)",
}
Seal = tuple[int, int, int, int, int]


class Database:
    """An open SQLite file of ours, or one in memory. What lies beside it is looked at before each use, one thread at a time.

    SQLite rolls a journal back whenever it takes the file's lock, not only on opening.
    """

    def __init__(self, file: Path | None, *, reading: bool = False) -> None:
        """Open a file.

        Raises
        ------
        sqlite3.Error
            It cannot be opened, or something foreign lies beside it.
        """
        self.file, self._reading = file, reading
        self._turn = threading.RLock()  # jobs read while the window saves
        self._db = self._connected()

    def _connected(self) -> sqlite3.Connection:
        if self.file is None:
            return sqlite3.connect(":memory:", check_same_thread=False)
        return connect(self.file, reading=self._reading)

    @contextmanager
    def alone(self) -> Iterator[None]:
        """Several looks and changes that no other thread comes between."""
        with self._turn:
            yield

    @property
    def busy(self) -> bool:
        """Whether another thread is at it just now."""
        if self._turn.acquire(blocking=False):
            self._turn.release()
            return False
        return True

    @contextmanager
    def looking(self) -> Iterator[sqlite3.Connection]:
        """Read; ends with sqlite3.Error once that takes too long."""
        with self._turn:
            self._look_beside()
            with bounded(self._db, _MOST_SECONDS):
                yield self._db

    @contextmanager
    def changing(self) -> Iterator[sqlite3.Connection]:
        """Read and write in one transaction, which is taken back where an error leaves it."""
        with self._turn:
            self._look_beside()
            with self._db:
                self._db.execute("BEGIN IMMEDIATE")  # what is read inside is not changed by others meanwhile
                yield self._db

    def _look_beside(self) -> None:
        if self.file is not None:
            refuse_foreign(self.file)

    def reopen(self) -> None:
        """Forget what was read before; the file was written by something else."""
        with self._turn:
            self._db.close()
            self._db = self._connected()

    def copy_to(self, target: Path) -> None:
        """Copy everything beside a place, and put it there.

        Raises
        ------
        OSError
            The place cannot be written to.
        sqlite3.Error
            The file cannot be read.
        """
        beside, handle = open_beside(target)
        os.close(handle)
        try:
            copy = sqlite3.connect(beside)
            try:
                with self.looking() as db:
                    db.backup(copy)
            finally:
                copy.close()
            clear_beside(target)  # a journal there would be rolled back into the copy
            beside.replace(target)
        finally:
            with suppress(OSError):
                clear_beside(beside)
                beside.unlink(missing_ok=True)

    def close(self) -> None:
        """Close the file; it can be copied as a single file."""
        with self._turn:
            self._db.close()


def seal_of(file: Path) -> Seal | None:
    """What changes when anything else writes into a file, or takes its place; None where there is none, or it cannot be reached."""
    try:
        state = os.stat(file)
    except (OSError, ValueError):
        return None
    return state.st_dev, state.st_ino, state.st_size, state.st_mtime_ns, state.st_ctime_ns


def connect(file: Path, *, reading: bool = False) -> sqlite3.Connection:
    """A connection that trusts nothing in the file, nor beside it.

    Raises
    ------
    sqlite3.Error
        The file cannot be opened, or something foreign lies beside it.
    """
    refuse_foreign(file)
    mode = "ro" if reading else "rwc"
    db = sqlite3.connect(
        f"file:{quote(bytes(file.absolute()))}?mode={mode}", uri=True, check_same_thread=False, timeout=LOCK_WAIT_S
    )  # fmt: skip
    try:
        db.execute("PRAGMA trusted_schema = OFF")
        db.execute("PRAGMA cell_size_check = ON")
        db.execute("PRAGMA mmap_size = 0")
        db.setlimit(sqlite3.SQLITE_LIMIT_LENGTH, _MOST_BYTES)
        db.setlimit(sqlite3.SQLITE_LIMIT_ATTACHED, 0)
        if not reading:
            # One file at any moment: a rollback journal, gone after each transaction, instead of a write-ahead log.
            db.execute("PRAGMA journal_mode = DELETE")
            db.execute("PRAGMA synchronous = FULL")
    except FAULTS:
        db.close()
        raise
    return db


def strange_part(db: sqlite3.Connection, tables: Mapping[str, str]) -> str | None:
    """What a file holds beside `tables`, whose names go to the statements that make them; None where it is as it should be.

    Triggers, views and virtual tables run statements of their own when a table is read or written.

    Raises
    ------
    sqlite3.Error
        The schema cannot be read.
    """
    found = set()
    for kind, name, statement in db.execute("SELECT type, name, sql FROM sqlite_master"):
        if isinstance(name, str) and _is_own(str(kind), name, statement):
            continue
        if kind != "table" or name not in tables or _squeezed(statement) != _squeezed(tables[name]):
            return f"{kind} {ascii(name)[:60]}"
        found.add(name)
    missing = sorted(tables.keys() - found)
    return _("no table {0}").format(missing[0]) if missing else None


def _is_own(kind: str, name: str, statement: object) -> bool:
    """Whether SQLite itself made this part."""
    if kind == "index":
        return name.startswith("sqlite_autoindex_") and statement is None
    return kind == "table" and statement == _OWN_TABLES.get(name, "")


def _squeezed(statement: object) -> str:
    return " ".join(str(statement).split())


@contextmanager
def bounded(db: sqlite3.Connection, seconds: float) -> Iterator[None]:
    """Statements inside end with sqlite3.OperationalError once the time is over."""
    end = time.monotonic() + seconds
    db.set_progress_handler(lambda: int(time.monotonic() > end), _STEPS_BETWEEN_LOOKS)
    try:
        yield
    finally:
        db.set_progress_handler(None, 0)


def is_hindered(error: Exception) -> bool:
    """Whether the file itself may be whole, and something else keeps it from being opened."""
    name = getattr(error, "sqlite_errorname", None) or ""
    return isinstance(error, ForeignJournalError) or name.startswith(
        ("SQLITE_READONLY", "SQLITE_CANTOPEN", "SQLITE_BUSY")
    )


def reason(error: Exception) -> str:
    """Why SQLite or the system could not do it, in plain words, with what to do."""
    name = getattr(error, "sqlite_errorname", None) or ""
    if isinstance(error, ForeignJournalError):
        return str(error).rstrip(".")
    for start, words in (
        ("SQLITE_FULL", _("the disk is full: free some space on it")),
        ("SQLITE_BUSY", _("another program holds it locked: close that one")),
        ("SQLITE_LOCKED", _("another program holds it locked: close that one")),
        ("SQLITE_READONLY_DBMOVED", _("the file was moved or replaced by another program")),
        (
            "SQLITE_READONLY_ROLLBACK",
            _(
                "its writer ended while saving, and to put that right its folder must be writable: copy it, together with the journal beside it, to a folder of your own and open it there"
            ),
        ),
        ("SQLITE_READONLY", _("it may not be written to: check its folder and its permissions")),
        ("SQLITE_CANTOPEN", _("its folder may not be written to, or its name is too long")),
        ("SQLITE_IOERR", _("the disk does not answer: see that it is still there")),
        ("SQLITE_CORRUPT", _("the file is damaged")),
        ("SQLITE_NOTADB", _("the file is damaged")),
        ("SQLITE_INTERRUPT", _("reading it takes too long: it is damaged or made to last")),
        ("SQLITE_TOOBIG", _("something in it is larger than is read")),
    ):
        if name.startswith(start):
            return words
    strerror = getattr(error, "strerror", None)
    return str(strerror or error)
