"""What is in a project file: its tables, and which of the saved states stay."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from lean_sepia.errors import NewerVersionError, ProjectFileError
from lean_sepia.files.gate import MOST_TEXT, shown
from lean_sepia.files.sqlite import Database, strange_part
from lean_sepia.language import _, ngettext

APPLICATION_ID = 0x4C535001
FILE_VERSION = 1
_KEPT_REVISIONS, _KEPT_DAYS = 200, 30
_LAST_ID = 1 << 62  # the numbers of revisions are begun anew before they come to SQLite's end

TABLES = {
    "photo": "CREATE TABLE photo (sha256 TEXT PRIMARY KEY, media_type TEXT NOT NULL, name TEXT NOT NULL, bytes BLOB NOT NULL)",
    "revision": """CREATE TABLE revision (
    id INTEGER PRIMARY KEY AUTOINCREMENT, saved_at TEXT NOT NULL, label TEXT NOT NULL, document TEXT NOT NULL
)""",
}


@dataclass(frozen=True)
class Revision:
    """One saved state of the document."""

    id: int
    saved_at: datetime
    label: str


def check_content(database: Database, file: Path) -> None:
    """Refuse a file that is no project of this program, or holds more than one.

    Raises
    ------
    ProjectFileError
        It is another program's, a newer version's, or has parts that no project has.
    sqlite3.Error
        It cannot be read.
    """
    with database.looking() as db:
        application = db.execute("PRAGMA application_id").fetchone()[0]
        version = db.execute("PRAGMA user_version").fetchone()[0]
        strange = strange_part(db, TABLES)
    if application != APPLICATION_ID:
        words = _("{0} is a database of another program, not a Lean Sepia project.")
        raise ProjectFileError(words.format(shown(file)))
    if version > FILE_VERSION:
        words = _(
            "{0} was saved by a newer version of the program (file version {1}, this one reads {2}). Update the program; the file was not changed."
        )
        raise NewerVersionError(words.format(shown(file), version, FILE_VERSION))
    if strange:
        words = _(
            "{0} holds what no project of this program has ({1}). It was not opened; ask who gave it to you."
        )
        raise ProjectFileError(words.format(shown(file), strange))


def text_of(db: sqlite3.Connection, identity: int, file: Path) -> str:
    """The document of a revision; refused before it is read where it is no text or too long.

    Raises
    ------
    ProjectFileError
        There is no such revision, or it is no text.
    """
    found = db.execute(
        """SELECT CAST(document AS BLOB) FROM revision
           WHERE id = ? AND typeof(document) = 'text' AND length(document) <= ?""",
        (identity, MOST_TEXT),
    ).fetchone()
    if found is None:
        raise ProjectFileError(_("{0} has no revision {1}.").format(shown(file), identity))
    try:
        return bytes(found[0]).decode()
    except UnicodeDecodeError:
        raise ProjectFileError(_("This revision of the project is damaged.")) from None


def next_id(db: sqlite3.Connection) -> int:
    """The number of the next revision; where they come to an end all are numbered anew."""
    last = db.execute("SELECT max(id) FROM revision").fetchone()[0] or 0
    if not -_LAST_ID < last < _LAST_ID:
        kept = db.execute("SELECT id FROM revision ORDER BY id").fetchall()
        for number, (identity,) in enumerate(
            kept, start=1 - _LAST_ID
        ):  # out of the way of those that are there
            db.execute("UPDATE revision SET id = ? WHERE id = ?", (number, identity))
        db.execute("UPDATE revision SET id = id + ?", (_LAST_ID,))
        last = len(kept)
    return int(last) + 1


def newest(db: sqlite3.Connection) -> object:
    """What tells the newest revision from that of another file."""
    return db.execute(
        "SELECT id, saved_at, label, length(document) FROM revision ORDER BY id DESC LIMIT 1"
    ).fetchone()


def prune(db: sqlite3.Connection) -> None:
    """Keep the last 200 revisions, and the last of each hour of the last 30 days on which there are any.

    Days are counted back from the newest stamp, and only those with a revision count: a clock that was wrong prunes nothing.
    """
    rows = db.execute("SELECT id, saved_at FROM revision ORDER BY id DESC").fetchall()
    stamps = [(identity, _hour_of(stamp)) for identity, stamp in rows]
    last = next((hour for _identity, hour in stamps if hour is not None), 0)
    hours: set[int] = set()
    days: set[int] = set()
    gone = []
    for place, (identity, hour) in enumerate(stamps):
        day = None if hour is None else (last - hour) // 24
        kept_day = day is not None and (day in days or len(days) < _KEPT_DAYS)
        last_of_hour = kept_day and hour not in hours
        if kept_day and day is not None and hour is not None:
            days.add(day)
            hours.add(hour)
        if place >= _KEPT_REVISIONS and not last_of_hour:
            gone.append((identity,))
    db.executemany("DELETE FROM revision WHERE id = ?", gone)


def _hour_of(stamp: object) -> int | None:
    """The hour of a stamp, counted from the year 1; None where it is none."""
    try:
        moment = datetime.fromisoformat(str(stamp)).astimezone(UTC)
    except (ValueError, OverflowError):
        return None
    return moment.toordinal() * 24 + moment.hour


def passed_over(count: int, identity: int) -> str:
    """How many newer revisions were damaged, and which one is shown."""
    return ngettext(
        "{0} damaged revision was passed over; this is revision {1}.",
        "{0} damaged revisions were passed over; this is revision {1}.",
        count,
    ).format(count, identity)
