"""A project on disk: one SQLite file with photos and revisions of the document."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

from lean_sepia.document.migrate import parse_document
from lean_sepia.document.model import Project
from lean_sepia.errors import NewerVersionError, ProjectFileError
from lean_sepia.language import _, ngettext

APPLICATION_ID = 0x4C535001
SUFFIX = ".sepia"
_FILE_VERSION = 1
_KEPT_REVISIONS, _KEPT_DAYS = 200, 30
_SQLITE_MAGIC = b"SQLite format 3\x00"

_SCHEMA = """
CREATE TABLE photo (sha256 TEXT PRIMARY KEY, media_type TEXT NOT NULL, name TEXT NOT NULL, bytes BLOB NOT NULL);
CREATE TABLE revision (
    id INTEGER PRIMARY KEY AUTOINCREMENT, saved_at TEXT NOT NULL, label TEXT NOT NULL, document TEXT NOT NULL
);
"""


@dataclass(frozen=True)
class Revision:
    """One saved state of the document."""

    id: int
    saved_at: datetime
    label: str


class ProjectStore:
    """An open project file. Every method is one transaction; the file is whole at any moment."""

    def __init__(self, path: Path, connection: sqlite3.Connection) -> None:
        self.path = path
        self._db = connection

    @classmethod
    def create(cls, path: str | Path, project: Project) -> ProjectStore:
        """Make a new project file with a first revision.

        Raises
        ------
        ProjectFileError
            A file is already there, or the folder cannot be written to.
        """
        file = Path(path)
        if file.exists():
            raise ProjectFileError(
                _("{0} exists already. Choose another name; nothing was written.").format(file)
            )
        try:
            file.parent.mkdir(parents=True, exist_ok=True)
            db = _connect(file)
            db.executescript(_SCHEMA)
            db.execute(f"PRAGMA application_id = {APPLICATION_ID}")
            db.execute(f"PRAGMA user_version = {_FILE_VERSION}")
        except (OSError, sqlite3.Error) as error:
            raise ProjectFileError(
                _("{0} cannot be written: {1}. Choose another folder.").format(file, error)
            ) from None
        store = cls(file, db)
        store.save(project, _("New project"))
        return store

    @classmethod
    def open(cls, path: str | Path) -> ProjectStore:
        """Open an existing project file.

        Raises
        ------
        ProjectFileError
            The file is missing, no project, from a newer version, or damaged.
        """
        file = Path(path)
        try:
            with file.open("rb") as head:
                magic = head.read(len(_SQLITE_MAGIC))
        except OSError as error:
            raise ProjectFileError(
                _("The project {0} cannot be opened: {1}.").format(file, error.strerror)
            ) from None
        if magic != _SQLITE_MAGIC:
            words = _("{0} is not a Lean Sepia project. Projects end in {1}; choose another file.")
            raise ProjectFileError(words.format(file, SUFFIX))
        db = None
        try:
            db = _connect(file)
            application = db.execute("PRAGMA application_id").fetchone()[0]
            version = db.execute("PRAGMA user_version").fetchone()[0]
            if application == APPLICATION_ID and version <= _FILE_VERSION:
                db.execute("SELECT count(*) FROM revision").fetchone()
                db.execute("SELECT count(*) FROM photo").fetchone()
        except sqlite3.Error as error:
            if db:
                db.close()
            raise ProjectFileError(
                _("{0} is damaged ({1}). The file was not changed; open a copy or a backup of it.").format(
                    file, error
                )
            ) from None
        if application != APPLICATION_ID:
            db.close()
            raise ProjectFileError(
                _("{0} is a database of another program, not a Lean Sepia project.").format(file)
            )
        if version > _FILE_VERSION:
            db.close()
            raise NewerVersionError(
                _(
                    "{0} was saved by a newer version of the program (file version {1}, this one reads {2}). Update the program; the file was not changed."
                ).format(file, version, _FILE_VERSION)
            )
        return cls(file, db)

    def load(self) -> tuple[Project, str | None]:
        """The newest document that is whole, and a note where newer revisions were damaged.

        Raises
        ------
        ProjectFileError
            No revision can be read, or the newest was written by a newer version of the program.
        """
        skipped = 0
        try:
            for identity, text in self._db.execute("SELECT id, document FROM revision ORDER BY id DESC"):
                try:
                    project = parse_document(text)
                except NewerVersionError:
                    raise
                except ProjectFileError:
                    skipped += 1
                    continue
                note = (
                    ngettext(
                        "{0} damaged revision was passed over; this is revision {1}.",
                        "{0} damaged revisions were passed over; this is revision {1}.",
                        skipped,
                    ).format(skipped, identity)
                    if skipped
                    else None
                )
                return project, note
        except sqlite3.Error as error:
            raise ProjectFileError(
                _("{0} is damaged ({1}). The file was not changed.").format(self.path, error)
            ) from None
        raise ProjectFileError(
            _("{0} holds no readable revision. The file was not changed; open a backup of it.").format(
                self.path
            )
        )

    def save(self, project: Project, label: str, *, now: datetime | None = None) -> None:
        """Append a revision and drop old ones, in one transaction.

        Raises
        ------
        ProjectFileError
            It cannot be written, such as on a full disk; what was saved before is whole.
        """
        moment = (now or datetime.now(UTC)).astimezone(UTC)
        try:
            with self._db:
                self._db.execute(
                    "INSERT INTO revision (saved_at, label, document) VALUES (?, ?, ?)",
                    (moment.isoformat(timespec="milliseconds"), label, project.model_dump_json()),
                )
                self._prune(moment)
        except sqlite3.Error as error:
            raise ProjectFileError(_("{0} cannot be saved: {1}.").format(self.path, error)) from None

    def _prune(self, now: datetime) -> None:
        """Keep the last 200 revisions, and the last of each hour for 30 days."""
        since = (now - timedelta(days=_KEPT_DAYS)).isoformat(timespec="milliseconds")
        self._db.execute(
            """DELETE FROM revision WHERE id NOT IN (SELECT id FROM revision ORDER BY id DESC LIMIT ?)
               AND id NOT IN (SELECT max(id) FROM revision WHERE saved_at >= ? GROUP BY substr(saved_at, 1, 13))""",
            (_KEPT_REVISIONS, since),
        )

    def revisions(self) -> list[Revision]:
        """All kept revisions, the newest first."""
        rows = self._db.execute("SELECT id, saved_at, label FROM revision ORDER BY id DESC")
        return [Revision(identity, datetime.fromisoformat(moment), label) for identity, moment, label in rows]

    def revision(self, identity: int) -> Project:
        """The document as it was in one revision.

        Raises
        ------
        ProjectFileError
            There is no such revision, or it is damaged.
        """
        row = self._db.execute("SELECT document FROM revision WHERE id = ?", (identity,)).fetchone()
        if row is None:
            raise ProjectFileError(_("{0} has no revision {1}.").format(self.path, identity))
        return parse_document(row[0])

    def add_photo(self, sha256: str, media_type: str, name: str, data: bytes) -> None:
        """Store a photo's bytes once, under their hash."""
        with self._db:
            self._db.execute(
                "INSERT OR IGNORE INTO photo VALUES (?, ?, ?, ?)", (sha256, media_type, name, data)
            )

    def photo(self, sha256: str) -> bytes:
        """The bytes of a stored photo.

        Raises
        ------
        ProjectFileError
            The file does not hold it.
        """
        row = self._db.execute("SELECT bytes FROM photo WHERE sha256 = ?", (sha256,)).fetchone()
        if row is None:
            raise ProjectFileError(
                _("{0} does not hold the photo {1}…; it was lost from the file.").format(
                    self.path, sha256[:12]
                )
            )
        return bytes(row[0])

    def save_copy(self, path: str | Path) -> None:
        """Write the whole file, photos and revisions, to another place.

        Raises
        ------
        ProjectFileError
            The place cannot be written to.
        """
        target = Path(path)
        beside = target.with_name(target.name + ".part")
        try:
            beside.unlink(missing_ok=True)
            copy = sqlite3.connect(beside)
            try:
                self._db.backup(copy)
            finally:
                copy.close()
            beside.replace(target)
        except (OSError, sqlite3.Error) as error:
            raise ProjectFileError(
                _("{0} cannot be written: {1}. The open project is unchanged.").format(target, error)
            ) from None

    def close(self) -> None:
        """Close the file; it can be copied as a single file."""
        self._db.close()


def _connect(file: Path) -> sqlite3.Connection:
    # One file at any moment: a rollback journal, gone after each transaction, instead of a write-ahead log.
    db = sqlite3.connect(file, check_same_thread=False)
    db.execute("PRAGMA journal_mode = DELETE")
    db.execute("PRAGMA synchronous = FULL")
    return db
