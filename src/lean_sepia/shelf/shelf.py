"""The user's paint shelf: a SQLite file of paint records beside the projects."""

from __future__ import annotations

import json
import sqlite3
import threading
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path

from platformdirs import user_data_path

from lean_sepia.errors import ShelfError
from lean_sepia.files.gate import shown, strict_json
from lean_sepia.files.sqlite import FAULTS, bounded, connect, reason, strange_part
from lean_sepia.files.typed import to_number
from lean_sepia.language import _
from lean_sepia.paint.paint import Paint
from lean_sepia.shelf.paint_record import Grounds
from lean_sepia.shelf.record_model import read_record
from lean_sepia.shelf.shelf_file import Record, ShelfContent, build_paints, grounds_of, tidied

APPLICATION_ID = 0x4C535002
SHELF_NAME = "shelf.sqlite"
_TABLES = {
    "paint": "CREATE TABLE paint (id TEXT PRIMARY KEY, position INTEGER NOT NULL, record TEXT NOT NULL)",
    "setting": "CREATE TABLE setting (name TEXT PRIMARY KEY, value TEXT NOT NULL)",
}
_MOST_SECONDS = 10.0
LOW_ML = 5.0
"""A bottle with less left is said to be low (practice)."""


def user_folder() -> Path:
    """The program's folder for the user's own data."""
    return user_data_path("lean-sepia", appauthor=False)


def shelf_path_for(project: Path | None) -> Path:
    """The shelf a project is worked with: the one in the project's own folder, else the user's."""
    if project is not None and (beside := project.parent / SHELF_NAME).exists():
        return beside
    return user_folder() / SHELF_NAME


class Shelf:
    """An open shelf. Paints are built when first asked for and again after a change."""

    def __init__(self, path: Path | None) -> None:
        """Open the shelf, or make an empty one; without a path one that is kept nowhere.

        Raises
        ------
        ShelfError
            The file cannot be opened, is no shelf, or holds what no shelf has.
        """
        self.path = path
        self._records: list[Record] | None = None
        self._paints: list[Paint] | None = None
        self._all: list[Paint] = []
        self._building = threading.Lock()
        try:
            if path is not None:
                path.parent.mkdir(parents=True, exist_ok=True)
            self._db = (
                connect(path) if path is not None else sqlite3.connect(":memory:", check_same_thread=False)
            )
        except (OSError, ValueError, *FAULTS) as error:
            raise self._not_opened(error) from None
        try:
            with bounded(self._db, _MOST_SECONDS):
                self._begin()
        except FAULTS as error:
            self._db.close()
            raise self._not_opened(error) from None
        except ShelfError:
            self._db.close()
            raise

    def _begin(self) -> None:
        """Make the tables of a new shelf; look whether an old one is as it should be."""
        application = self._db.execute("PRAGMA application_id").fetchone()[0]
        if self._db.execute("SELECT count(*) FROM sqlite_master").fetchone()[0]:
            if application != APPLICATION_ID:
                words = _("{0} is a database of another program, not a paint shelf.")
                raise ShelfError(words.format(self._shown))
            if strange := strange_part(self._db, _TABLES):
                words = _("The paint shelf {0} holds what no shelf has ({1}). It was not opened.")
                raise ShelfError(words.format(self._shown, strange))
        else:
            with self._db:
                self._db.execute(f"PRAGMA application_id = {APPLICATION_ID}")
                self._db.execute("PRAGMA user_version = 1")
                for statement in _TABLES.values():
                    self._db.execute(statement)
        self.content()

    @property
    def _shown(self) -> str:
        return shown(self.path) if self.path is not None else _("in memory")

    def _not_opened(self, error: Exception) -> ShelfError:
        words = _("The paint shelf {0} cannot be opened: {1}. It was not changed.")
        return ShelfError(words.format(self._shown, reason(error)))

    def records(self) -> list[Record]:
        """All paint records in shelf order: read once, and again after a change."""
        if self._records is None:
            rows = self._db.execute("SELECT id, record FROM paint ORDER BY position, id").fetchall()
            self._records = [self._record(identity, text) for identity, text in rows]
        return list(self._records)

    def _record(self, identity: object, text: object) -> Record:
        try:
            record = strict_json(text) if isinstance(text, str) else None
        except ValueError:
            record = None
        if not isinstance(record, dict) or record.get("id") != identity:
            words = _(
                "The paint shelf {0} is damaged at {1}. Move it away and read your list of paints anew."
            )
            raise ShelfError(words.format(self._shown, ascii(identity)[:60]))
        read_record(record)
        return tidied(record)

    def by_id(self) -> dict[str, Record]:
        """All paint records by their ids."""
        return {record["id"]: record for record in self.records()}

    def content(self) -> ShelfContent:
        """Everything on the shelf, as a shelf file holds it."""
        rows = self._db.execute("SELECT name, value FROM setting").fetchall()
        try:
            settings = {str(name): to_number(value) for name, value in rows}
        except (TypeError, AttributeError, ValueError):
            words = _(
                "The paint shelf {0} is damaged in its settings. Move it away and read your list of paints anew."
            )
            raise ShelfError(words.format(self._shown)) from None
        return ShelfContent(tuple(self.records()), settings)

    def grounds(self) -> Grounds:
        """The grounds of the films measured for this shelf."""
        return grounds_of(self.content().extra)

    @property
    def ready(self) -> bool:
        """Whether the paints are built, so that `paints` answers at once."""
        return self._paints is not None

    def paints(self) -> list[Paint]:
        """The paints that are in use, built: some 20 ms for a paint known by films, so a job does it first; who asks meanwhile waits."""
        with self._building:
            if self._paints is None:
                self._all = build_paints(self.records(), self.grounds())
                self._paints = [paint for paint in self._all if not paint.retired]
            return self._paints

    def all_paints(self) -> list[Paint]:
        """All paints, the retired ones too."""
        self.paints()
        return self._all

    def add(self, content: ShelfContent, *, replace: bool = False) -> int:
        """Put the paints of a shelf file on the shelf; returns how many.

        Everything is checked first: either all paints come in or none.

        Raises
        ------
        ShelfError
            A record breaks a rule, or an id is on the shelf already and `replace` is not set.
        """
        content.paints()
        present = dict(self._db.execute("SELECT id, CAST(position AS INTEGER) FROM paint"))
        clash = sorted(present.keys() & {str(record["id"]) for record in content.records})
        if clash and not replace:
            raise ShelfError(
                _("{0} of these paints are on the shelf already, such as {1!r}. Nothing was added.").format(
                    len(clash), clash[0]
                )
            )
        start = 1 + max(present.values(), default=-1)
        rows = [
            (record["id"], present.get(record["id"], start + index), json.dumps(record, ensure_ascii=False))
            for index, record in enumerate(content.records)
        ]
        grounds = [
            (key, str(content.extra[key]))
            for key in ("ground_white", "ground_black") if key in content.extra and not present
        ]  # fmt: skip
        with self._change() as db:
            db.executemany("INSERT OR REPLACE INTO paint VALUES (?, ?, ?)", rows)
            db.executemany("INSERT OR REPLACE INTO setting VALUES (?, ?)", grounds)
        return len(content.records)

    def remove(self, ids: Iterable[str]) -> None:
        """Take paints off the shelf; projects keep their own copies.

        Raises
        ------
        ShelfError
            The file cannot be written to.
        """
        with self._change() as db:
            db.executemany("DELETE FROM paint WHERE id = ?", [(identity,) for identity in ids])

    @contextmanager
    def _change(self) -> Iterator[sqlite3.Connection]:
        try:
            with self._db:
                yield self._db
        except (*FAULTS, ValueError) as error:
            words = _("The paint shelf {0} cannot be changed: {1}. It is as it was.")
            raise ShelfError(words.format(self._shown, reason(error))) from None
        finally:
            self._records = self._paints = None

    def close(self) -> None:
        """Close the file."""
        self._db.close()


def own_paints() -> list[Paint]:
    """The paints of the user's own shelf; none where there is no shelf yet, or it cannot be read."""
    path = shelf_path_for(None)
    if not path.exists():
        return []
    try:
        shelf = Shelf(path)
    except ShelfError:
        return []
    try:
        return shelf.paints()
    finally:
        shelf.close()
