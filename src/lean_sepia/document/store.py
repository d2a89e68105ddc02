"""A project on disk: one SQLite file with photos and revisions of the document."""

from __future__ import annotations

import contextlib
import os
import sqlite3
import threading
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

from lean_sepia.document.migrate import parse_document
from lean_sepia.document.model import Project
from lean_sepia.document.place import JOURNAL, check_head, identity_of, too_long_name, why_not_written
from lean_sepia.errors import NewerVersionError, ProjectFileError, SaveError
from lean_sepia.files.gate import check_place, one_line, shown
from lean_sepia.files.in_use import Hold, hold
from lean_sepia.files.sqlite import FAULTS, bounded, connect, reason, strange_part
from lean_sepia.language import _, ngettext

APPLICATION_ID = 0x4C535001
_FILE_VERSION = 1
_KEPT_REVISIONS, _KEPT_DAYS = 200, 30
_MOST_SECONDS = 10.0
_MOST_TEXT, _MOST_PHOTO = 64 << 20, 1 << 30
_MEDIA_TYPE_LENGTH = 100

_TABLES = {
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


class ProjectStore:
    """An open project file. Every method is one transaction; the file is whole at any moment.

    reading_because : why nothing can be saved into it, in words; empty where it can
    """

    def __init__(
        self, path: Path, connection: sqlite3.Connection, held: Hold | None, reading_because: str = ""
    ) -> None:
        self.path = path
        self.reading_because = reading_because
        self._db = connection
        self._held = held
        self._turn = threading.RLock()  # jobs read photos while the window saves
        self._identity = identity_of(path)

    @classmethod
    def create(cls, path: str | Path, project: Project) -> ProjectStore:
        """Make a new project file with a first revision.

        Raises
        ------
        ProjectFileError
            A file is already there, or the folder cannot be written to.
        """
        file = Path(path)
        held = None
        try:
            if file.exists():
                words = _("{0} exists already. Choose another name; nothing was written.")
                raise ProjectFileError(words.format(shown(file)))
            check_place(file)
            if too_long := too_long_name(file):
                raise OSError(too_long)
            file.parent.mkdir(parents=True, exist_ok=True)
            held = hold(file)
            db = connect(file)
            for statement in _TABLES.values():
                db.execute(statement)
            db.execute(f"PRAGMA application_id = {APPLICATION_ID}")
            db.execute(f"PRAGMA user_version = {_FILE_VERSION}")
            store = cls(file, db, held)
            store.save(project, _("New project"))
        except (OSError, ValueError, *FAULTS, SaveError) as error:
            if held is not None:
                with contextlib.suppress(OSError):
                    file.unlink(missing_ok=True)
                held.release()
            raise ProjectFileError(
                _("{0} cannot be written: {1}. Choose another folder.").format(shown(file), reason(error))
            ) from None
        return store

    @classmethod
    def open(cls, path: str | Path, *, reading: bool = False) -> ProjectStore:
        """Open an existing project file, or only read it. Where its folder cannot be written to it is only read.

        Raises
        ------
        ProjectFileError
            The file is missing, no project, from a newer version, or damaged.
        InUseError
            It is open elsewhere, and not only to be read.
        """
        file = Path(path)
        check_head(file)
        held, because = None, _("it was opened to be read") if reading else why_not_written(file)
        interrupted = os.path.exists(f"{os.fspath(file)}{JOURNAL}")  # a name may be too long to be asked for
        if not because or (reading and interrupted):  # what a crash left half done is put right first
            try:
                held = hold(file)
            except OSError as error:
                because = because or reason(error)
        db = None
        try:
            db = connect(file, reading=bool(because) and held is None)
            with bounded(db, _MOST_SECONDS):
                _check_content(db, file)
            return cls(file, db, held, because)
        except FAULTS as error:
            words = _("{0} is damaged ({1}). The file was not changed; open a copy or a backup of it.")
            fault: ProjectFileError = ProjectFileError(words.format(shown(file), reason(error)))
        except ProjectFileError as error:
            fault = error
        if db is not None:
            db.close()
        if held is not None:
            held.release()
        raise fault from None

    def load(self) -> tuple[Project, str | None]:
        """The newest document that is whole, and a note where newer revisions were damaged.

        Raises
        ------
        ProjectFileError
            No revision can be read, or the newest was written by a newer version of the program.
        """
        skipped = 0
        try:
            with self._turn, bounded(self._db, _MOST_SECONDS):
                for (identity,) in self._db.execute("SELECT id FROM revision ORDER BY id DESC").fetchall():
                    try:
                        project = parse_document(self._text(identity))
                    except NewerVersionError:
                        raise
                    except (ProjectFileError, sqlite3.DataError):
                        skipped += 1
                        continue
                    return project, _passed_over(skipped, identity) if skipped else None
        except FAULTS as error:
            words = _("{0} is damaged ({1}). The file was not changed.")
            raise ProjectFileError(words.format(shown(self.path), reason(error))) from None
        words = _("{0} holds no readable revision. The file was not changed; open a backup of it.")
        raise ProjectFileError(words.format(shown(self.path)))

    def _text(self, identity: int) -> str:
        """The document of a revision; refused before it is read where it is no text or too long."""
        found = self._db.execute(
            """SELECT CAST(document AS BLOB) FROM revision
               WHERE id = ? AND typeof(document) = 'text' AND length(document) <= ?""",
            (identity, _MOST_TEXT),
        ).fetchone()
        if found is None:
            raise ProjectFileError(_("{0} has no revision {1}.").format(shown(self.path), identity))
        try:
            return bytes(found[0]).decode()
        except UnicodeDecodeError:
            raise ProjectFileError(_("This revision of the project is damaged.")) from None

    def save(self, project: Project, label: str, *, now: datetime | None = None) -> None:
        """Append a revision and drop old ones, in one transaction.

        Raises
        ------
        ProjectFileError
            It cannot be written, such as on a full disk; what was saved before is whole.
        """
        moment = (now or datetime.now(UTC)).astimezone(UTC)
        self._check_writable()
        try:
            row = (moment.isoformat(timespec="milliseconds"), one_line(label), project.model_dump_json())
            with self._turn, self._db:
                self._db.execute("INSERT INTO revision (saved_at, label, document) VALUES (?, ?, ?)", row)
                self._prune(moment)
        except (*FAULTS, ValueError) as error:
            raise self._not_saved(error) from None

    def _check_writable(self) -> None:
        """Notice before anything is written that it would be written into the void, or into another's file."""
        if self.reading_because:
            words = _("{0} can only be read: {1}. Save a copy to work on.")
            raise SaveError(words.format(shown(self.path), self.reading_because))
        now = identity_of(self.path)
        if now != self._identity:
            gone = _("{0} is no longer there: it was moved, renamed or deleted.")
            other = _("{0} was replaced by another file while it was open here.")
            raise SaveError((other if now else gone).format(shown(self.path)), lost=True)

    def _not_saved(self, error: Exception) -> SaveError:
        lost = (getattr(error, "sqlite_errorname", None) or "") == "SQLITE_READONLY_DBMOVED"
        words = _("{0} cannot be saved: {1}.")
        return SaveError(words.format(shown(self.path), reason(error)), lost=lost)

    def _prune(self, now: datetime) -> None:
        """Keep the last 200 revisions, and the last of each hour for 30 days."""
        since = (now - timedelta(days=_KEPT_DAYS)).isoformat(timespec="milliseconds")
        self._db.execute(
            """DELETE FROM revision WHERE id NOT IN (SELECT id FROM revision ORDER BY id DESC LIMIT ?)
               AND id NOT IN (SELECT max(id) FROM revision WHERE saved_at >= ? GROUP BY substr(saved_at, 1, 13))""",
            (_KEPT_REVISIONS, since),
        )

    def revisions(self) -> list[Revision]:
        """All kept revisions that have a date, the newest first.

        Raises
        ------
        ProjectFileError
            The file cannot be read.
        """
        try:
            with self._turn, bounded(self._db, _MOST_SECONDS):
                rows = self._db.execute(
                    "SELECT id, saved_at, substr(label, 1, 200) FROM revision ORDER BY id DESC"
                ).fetchall()
        except FAULTS as error:
            raise self._unread(error) from None
        found = []
        for identity, moment, label in rows:
            with contextlib.suppress(TypeError, ValueError):
                found.append(Revision(identity, datetime.fromisoformat(moment), one_line(str(label))))
        return found

    def revision(self, identity: int) -> Project:
        """The document as it was in one revision.

        Raises
        ------
        ProjectFileError
            There is no such revision, or it is damaged.
        """
        try:
            with self._turn, bounded(self._db, _MOST_SECONDS):
                return parse_document(self._text(identity))
        except FAULTS as error:
            raise self._unread(error) from None

    def add_photo(self, sha256: str, media_type: str, name: str, data: bytes) -> None:
        """Store a photo's bytes once, under their hash.

        Raises
        ------
        SaveError
            It cannot be written, such as on a full disk; what was saved before is whole.
        """
        self._check_writable()
        try:
            with self._turn, self._db:
                self._db.execute(
                    "INSERT OR IGNORE INTO photo VALUES (?, ?, ?, ?)",
                    (sha256, media_type[:_MEDIA_TYPE_LENGTH], shown(name), data),
                )
        except (*FAULTS, OverflowError) as error:
            raise self._not_saved(error) from None

    def photo(self, sha256: str) -> bytes:
        """The bytes of a stored photo.

        Raises
        ------
        ProjectFileError
            The file does not hold it, or what it holds under that name is no picture's bytes.
        """
        try:
            with self._turn:
                row = self._db.execute(
                    "SELECT bytes FROM photo WHERE sha256 = ? AND typeof(bytes) = 'blob' AND length(bytes) <= ?",
                    (sha256, _MOST_PHOTO),
                ).fetchone()
        except FAULTS as error:
            raise self._unread(error) from None
        if row is None:
            words = _("{0} does not hold the photo {1}…; it was lost from the file.")
            raise ProjectFileError(words.format(shown(self.path), sha256[:12]))
        return bytes(row[0])

    def _unread(self, error: Exception) -> ProjectFileError:
        words = _("{0} cannot be read: {1}.")
        return ProjectFileError(words.format(shown(self.path), reason(error)))

    def save_copy(self, path: str | Path) -> None:
        """Write the whole file, photos and revisions, to another place.

        Raises
        ------
        ProjectFileError
            The place cannot be written to, or it is the open project itself.
        """
        target = Path(path)
        try:
            check_place(target)
            if target.exists() and target.samefile(self.path):
                raise OSError(_("it is the open project itself"))
            if too_long := too_long_name(target):
                raise OSError(too_long)
            beside = target.with_name(f".{os.getpid()}.part")
            try:
                copy = sqlite3.connect(beside)
                try:
                    with self._turn:
                        self._db.backup(copy)
                finally:
                    copy.close()
                beside.replace(target)
            finally:
                for left in (beside, beside.with_name(beside.name + JOURNAL)):
                    with contextlib.suppress(OSError):
                        left.unlink(missing_ok=True)
        except (OSError, ValueError, *FAULTS) as error:
            words = _("{0} cannot be written: {1}. The open project is unchanged.")
            raise ProjectFileError(words.format(shown(target), reason(error))) from None

    def move_to(self, path: str | Path, project: Project, label: str) -> None:
        """Go on in a file of another name: all that this one holds, and the document as it is now.

        Raises
        ------
        ProjectFileError
            The place cannot be written to; this file stays the open one.
        """
        target = Path(path)
        if target.exists():
            words = _("{0} exists already. Choose another name; nothing was written.")
            raise ProjectFileError(words.format(shown(target)))
        if target == self.path and self._held is not None:
            self._held.release()  # its file is gone: the same name is free for the next
        try:
            self.save_copy(target)
            other = ProjectStore.open(target)
        except ProjectFileError:
            if target.exists():
                raise
            other = ProjectStore.create(
                target, project
            )  # the old file cannot even be read: its photos are lost
        other.save(project, label)
        self.close()
        with self._turn:
            self.path, self._db, self._held = other.path, other._db, other._held  # noqa: SLF001 - the same class
            self.reading_because, self._identity = other.reading_because, other._identity  # noqa: SLF001

    def close(self) -> None:
        """Close the file; it can be copied as a single file."""
        with self._turn:
            self._db.close()
        if self._held is not None:
            self._held.release()


def _check_content(db: sqlite3.Connection, file: Path) -> None:
    application = db.execute("PRAGMA application_id").fetchone()[0]
    version = db.execute("PRAGMA user_version").fetchone()[0]
    if application != APPLICATION_ID:
        words = _("{0} is a database of another program, not a Lean Sepia project.")
        raise ProjectFileError(words.format(shown(file)))
    if version > _FILE_VERSION:
        words = _(
            "{0} was saved by a newer version of the program (file version {1}, this one reads {2}). Update the program; the file was not changed."
        )
        raise NewerVersionError(words.format(shown(file), version, _FILE_VERSION))
    if strange := strange_part(db, _TABLES):
        words = _(
            "{0} holds what no project of this program has ({1}). It was not opened; ask who gave it to you."
        )
        raise ProjectFileError(words.format(shown(file), strange))


def _passed_over(count: int, identity: int) -> str:
    return ngettext(
        "{0} damaged revision was passed over; this is revision {1}.",
        "{0} damaged revisions were passed over; this is revision {1}.",
        count,
    ).format(count, identity)
