"""A project on disk: one SQLite file with photos and revisions of the document."""

from __future__ import annotations

import contextlib
import hashlib
import os
import sqlite3
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

from lean_sepia.document.keeping.place import check_head, too_long_name, why_not_written
from lean_sepia.document.keeping.revisions import (
    APPLICATION_ID,
    FILE_VERSION,
    TABLES,
    Revision,
    check_content,
    newest,
    next_id,
    passed_over,
    prune,
    text_of,
)
from lean_sepia.document.migrate import parse_document
from lean_sepia.document.model import Project
from lean_sepia.errors import InUseError, NewerVersionError, ProjectFileError, SaveError
from lean_sepia.files.beside import clear_beside, interrupted
from lean_sepia.files.gate import check_place, one_line, shown
from lean_sepia.files.in_use import Hold, hold
from lean_sepia.files.sqlite import FAULTS, Database, is_hindered, reason, seal_of
from lean_sepia.language import _

MOST_PHOTO = 1 << 30
_MEDIA_TYPE_LENGTH, ANY_PICTURE = 100, "image/*"


class ProjectStore:
    """An open project file. Every method is one transaction; the file is whole at any moment.

    reading_because : why nothing can be saved into it, in words; empty where it can
    """

    def __init__(self, path: Path, db: Database, held: Hold | None, reading_because: str = "") -> None:
        self.path = path
        self.reading_because = reading_because
        self._db = db
        self._held = held
        self._overwritten = False  # what is in the file now is not ours
        self._note_written()

    @classmethod
    def create(cls, path: str | Path, project: Project) -> ProjectStore:
        """Make a new project file with a first revision.

        Raises
        ------
        ProjectFileError
            A file is already there, or the folder cannot be written to.
        """
        file = Path(path)
        held = db = None
        made = False
        try:
            if os.path.lexists(file):
                words = _("{0} exists already. Choose another name; nothing was written.")
                raise ProjectFileError(words.format(shown(file)))
            check_place(file)
            if too_long := too_long_name(file):
                raise OSError(too_long)
            file.parent.mkdir(parents=True, exist_ok=True)
            held = hold(file)
            os.close(os.open(file, os.O_RDWR | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, 0o666))
            made = True
            held.take(file)
            clear_beside(file)
            db = Database(file)
            with db.changing() as tables:
                for statement in TABLES.values():
                    tables.execute(statement)
                tables.execute(f"PRAGMA application_id = {APPLICATION_ID}")
                tables.execute(f"PRAGMA user_version = {FILE_VERSION}")
            store = cls(file, db, held)
            store.save(project, _("New project"))
        except (OSError, ValueError, *FAULTS, SaveError) as error:
            if db is not None:
                db.close()
            if made:
                with contextlib.suppress(OSError):
                    file.unlink(missing_ok=True)
            if held is not None:
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
        if not because or (reading and interrupted(file)):  # what a crash left half done is put right first
            try:
                held = hold(file)
            except OSError as error:
                because = because or reason(error)
            except InUseError:
                if not reading:
                    raise
        db = None
        try:
            db = Database(file, reading=bool(because) and held is None)
            check_content(db, file)
            return cls(file, db, held, because)
        except FAULTS as error:
            damaged = _("{0} is damaged ({1}). The file was not changed; open a copy or a backup of it.")
            words = _("{0} was not opened: {1}. The file was not changed.") if is_hindered(error) else damaged
            fault = ProjectFileError(words.format(shown(file), reason(error)))
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
            with self._db.looking() as db:
                for (identity,) in db.execute("SELECT id FROM revision ORDER BY id DESC").fetchall():
                    try:
                        project = parse_document(text_of(db, identity, self.path))
                    except NewerVersionError:
                        raise
                    except (ProjectFileError, sqlite3.DataError):
                        skipped += 1
                        continue
                    return project, passed_over(skipped, identity) if skipped else None
        except FAULTS as error:
            words = _("{0} is damaged ({1}). The file was not changed.")
            raise ProjectFileError(words.format(shown(self.path), reason(error))) from None
        words = _("{0} holds no readable revision. The file was not changed; open a backup of it.")
        raise ProjectFileError(words.format(shown(self.path)))

    def save(self, project: Project, label: str, *, now: datetime | None = None) -> None:
        """Append a revision and drop old ones, in one transaction.

        Raises
        ------
        ProjectFileError
            It cannot be written, such as on a full disk; what was saved before is whole.
        """
        moment = (now or datetime.now(UTC)).astimezone(UTC)
        row = (moment.isoformat(timespec="milliseconds"), one_line(label), project.model_dump_json())
        with self._writing() as db:
            db.execute("INSERT INTO revision VALUES (?, ?, ?, ?)", (next_id(db), *row))
            prune(db)

    @contextlib.contextmanager
    def _writing(self) -> Iterator[sqlite3.Connection]:
        """One transaction into the file that was opened; no other thread comes between looking at it, writing, and remembering it."""
        with self._db.alone():
            self._check_writable()
            try:
                with self._db.changing() as db:
                    yield db
            except (*FAULTS, ValueError, OverflowError) as error:
                raise self._not_saved(error) from None
            self._note_written()

    def _note_written(self) -> None:
        """Remember what the file looks like now, and what is newest in it."""
        self._seal = seal_of(self.path)
        self._newest: object = None
        with contextlib.suppress(*FAULTS), self._db.looking() as db:
            self._newest = newest(db)

    def _check_writable(self) -> None:
        """Notice before anything is written that it would be written into the void, or into another's file."""
        if self.reading_because:
            words = _("{0} can only be read: {1}. Save a copy to work on.")
            raise SaveError(words.format(shown(self.path), self.reading_because))
        now = seal_of(self.path)
        if now == self._seal and now is not None:
            return
        if now is None or self._seal is None:
            words = _(
                "{0} is no longer there: it was moved, renamed or deleted, or its folder cannot be read."
            )
            raise SaveError(words.format(shown(self.path)), lost=True)
        replaced = now[:2] != self._seal[:2]
        if not replaced:
            with contextlib.suppress(*FAULTS):
                self._db.reopen()
                check_content(self._db, self.path)
                with self._db.looking() as db:
                    if newest(db) == self._newest:  # it was only touched
                        self._seal = now
                        return
        self._overwritten = not replaced
        words = _("{0} was replaced by another file while it was open here.")
        raise SaveError(words.format(shown(self.path)), lost=True)

    def _not_saved(self, error: Exception) -> SaveError:
        lost = (getattr(error, "sqlite_errorname", None) or "") == "SQLITE_READONLY_DBMOVED"
        words = _("{0} cannot be saved: {1}.")
        return SaveError(words.format(shown(self.path), reason(error)), lost=lost)

    def revisions(self) -> list[Revision]:
        """All kept revisions that have a date, the newest first.

        Raises
        ------
        ProjectFileError
            The file cannot be read.
        """
        try:
            with self._db.looking() as db:
                rows = db.execute(
                    "SELECT id, saved_at, substr(label, 1, 200) FROM revision ORDER BY id DESC"
                ).fetchall()
        except FAULTS as error:
            raise self._unread(error) from None
        found = []
        for identity, moment, label in rows:
            with contextlib.suppress(TypeError, ValueError, OverflowError):
                when = datetime.fromisoformat(moment)
                when.astimezone()  # in the last hours of the year 9999 there is no time on this wall
                found.append(Revision(identity, when, one_line(str(label))))
        return found

    def revision(self, identity: int) -> Project:
        """The document as it was in one revision.

        Raises
        ------
        ProjectFileError
            There is no such revision, or it is damaged.
        """
        try:
            with self._db.looking() as db:
                return parse_document(text_of(db, identity, self.path))
        except FAULTS as error:
            raise self._unread(error) from None

    def add_photo(self, sha256: str, media_type: str, name: str, data: bytes) -> bool:
        """Store a photo's bytes once, under their hash; True where what lay there was damaged and is put right.

        Raises
        ------
        SaveError
            It cannot be written, such as on a full disk; what was saved before is whole.
        """
        with self._writing() as db:
            there = db.execute("SELECT bytes = ? FROM photo WHERE sha256 = ?", (data, sha256)).fetchone()
            if there is None or not there[0]:
                row = (sha256, media_type[:_MEDIA_TYPE_LENGTH], shown(name), data)
                db.execute("INSERT OR REPLACE INTO photo VALUES (?, ?, ?, ?)", row)
        return there is not None and not there[0]

    def photo(self, sha256: str) -> bytes:
        """The bytes of a stored photo.

        Raises
        ------
        ProjectFileError
            The file does not hold it, or what it holds under that name is no picture's bytes.
        """
        try:
            with self._db.looking() as db:
                row = db.execute(
                    "SELECT bytes FROM photo WHERE sha256 = ? AND typeof(bytes) = 'blob' AND length(bytes) <= ?",
                    (sha256, MOST_PHOTO),
                ).fetchone()
        except FAULTS as error:
            raise self._unread(error) from None
        if row is None:
            words = _("{0} does not hold the photo {1}…; it was lost from the file.")
            raise ProjectFileError(words.format(shown(self.path), sha256[:12]))
        return bytes(row[0])

    def lacks(self, project: Project) -> int:
        """How many photos of a document the file does not hold."""
        try:
            with self._db.looking() as db:
                held = {name for (name,) in db.execute("SELECT sha256 FROM photo")}
        except FAULTS:
            return len(project.photos)
        return sum(photo.sha256 not in held for photo in project.photos)

    @property
    def busy(self) -> bool:
        """Whether a job is reading or writing just now: who cannot wait comes again."""
        return self._db.busy

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
        held = None
        try:
            check_place(target)
            if target.exists():
                if target.samefile(self.path):
                    raise OSError(_("it is the open project itself"))
                held = hold(target)
            if too_long := too_long_name(target):
                raise OSError(too_long)
            self._db.copy_to(target)
        except (OSError, ValueError, InUseError, *FAULTS) as error:
            words = _("{0} cannot be written: {1}. The open project is unchanged.")
            why = reason(error).rstrip(".")
            raise ProjectFileError(words.format(shown(target), why)) from None
        finally:
            if held is not None:
                held.release()

    def move_to(self, path: str | Path, project: Project, label: str) -> None:
        """Go on in a file of another name: all that this one holds, and the document as it is now.

        Raises
        ------
        ProjectFileError
            The place cannot be written to; this file stays the open one.
        """
        target = Path(path)
        if os.path.lexists(target):
            words = _("{0} exists already. Choose another name; nothing was written.")
            raise ProjectFileError(words.format(shown(target)))
        if target == self.path and self._held is not None:
            self._held.release()  # its file is gone: the same name is free for the next
        other = None
        if not self._overwritten:
            with contextlib.suppress(ProjectFileError):
                self.save_copy(target)
                other = ProjectStore.open(target)
        if (
            other is None
        ):  # the old file is another's now, or cannot even be read: what it has of our photos is taken
            if os.path.lexists(target):
                words = _("{0} cannot be written: what was written there cannot be read back.")
                raise ProjectFileError(words.format(shown(target)))
            other = ProjectStore.create(target, project)
            self.hand_photos(project, other)
        other.save(project, label)
        self.close()
        self.path, self._db, self._held = other.path, other._db, other._held  # noqa: SLF001 - the same class
        self.reading_because, self._overwritten = other.reading_because, False
        self._note_written()

    def hand_photos(self, project: Project, other: ProjectStore) -> None:
        """Give another file the photos of a document, as far as they are still here and whole."""
        for photo in project.photos:
            with contextlib.suppress(ProjectFileError):
                data = self.photo(photo.sha256)
                if hashlib.sha256(data).hexdigest() == photo.sha256:
                    other.add_photo(photo.sha256, ANY_PICTURE, photo.name, data)

    def close(self) -> None:
        """Close the file; it can be copied as a single file."""
        self._db.close()
        if self._held is not None:
            self._held.release()
