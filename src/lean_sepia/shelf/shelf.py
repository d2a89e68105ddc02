"""The user's paint shelf: a SQLite file of paint records beside the projects."""

from __future__ import annotations

import json
import sqlite3
import threading
from collections.abc import Iterable
from pathlib import Path

from platformdirs import user_data_path

from lean_sepia.errors import ShelfError
from lean_sepia.language import _
from lean_sepia.paint.paint import Paint
from lean_sepia.shelf.paint_record import Grounds
from lean_sepia.shelf.shelf_file import Record, ShelfContent, build_paints, grounds_of

APPLICATION_ID = 0x4C535002
SHELF_NAME = "shelf.sqlite"
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

    def __init__(self, path: Path) -> None:
        """Open the shelf, or make an empty one.

        Raises
        ------
        ShelfError
            The file cannot be opened or is no shelf.
        """
        self.path = path
        self._records: list[Record] | None = None
        self._paints: list[Paint] | None = None
        self._building = threading.Lock()
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            self._db = sqlite3.connect(path, check_same_thread=False)
            application = self._db.execute("PRAGMA application_id").fetchone()[0]
            tables = self._db.execute("SELECT count(*) FROM sqlite_master").fetchone()[0]
            if tables and application != APPLICATION_ID:
                raise ShelfError(_("{0} is a database of another program, not a paint shelf.").format(path))
            with self._db:
                self._db.execute(f"PRAGMA application_id = {APPLICATION_ID}")
                self._db.execute("PRAGMA user_version = 1")
                self._db.execute(
                    "CREATE TABLE IF NOT EXISTS paint (id TEXT PRIMARY KEY, position INTEGER NOT NULL, record TEXT NOT NULL)"
                )
                self._db.execute(
                    "CREATE TABLE IF NOT EXISTS setting (name TEXT PRIMARY KEY, value TEXT NOT NULL)"
                )
        except (OSError, sqlite3.Error) as error:
            raise ShelfError(
                _("The paint shelf {0} cannot be opened: {1}. It was not changed.").format(path, error)
            ) from None

    def records(self) -> list[Record]:
        """All paint records in shelf order: read once, and again after a change."""
        if self._records is None:
            rows = self._db.execute("SELECT record FROM paint ORDER BY position, id")
            self._records = [json.loads(text) for (text,) in rows]
        return list(self._records)

    def by_id(self) -> dict[str, Record]:
        """All paint records by their ids."""
        return {record["id"]: record for record in self.records()}

    def content(self) -> ShelfContent:
        """Everything on the shelf, as a shelf file holds it."""
        rows = dict(self._db.execute("SELECT name, value FROM setting"))
        return ShelfContent(tuple(self.records()), {name: float(value) for name, value in rows.items()})

    def grounds(self) -> Grounds:
        """The grounds of the films measured for this shelf."""
        return grounds_of(self.content().extra)

    @property
    def ready(self) -> bool:
        """Whether the paints are built, so that `paints` answers at once."""
        return self._paints is not None

    def paints(self) -> list[Paint]:
        """All paints, built: some 20 ms for a paint known by films, so a job does it first; who asks meanwhile waits."""
        with self._building:
            if self._paints is None:
                self._paints = build_paints(self.records(), self.grounds())
            return self._paints

    def add(self, content: ShelfContent, *, replace: bool = False) -> int:
        """Put the paints of a shelf file on the shelf; returns how many.

        Everything is checked first: either all paints come in or none.

        Raises
        ------
        ShelfError
            A record breaks a rule, or an id is on the shelf already and `replace` is not set.
        """
        content.paints()
        present = dict(self._db.execute("SELECT id, position FROM paint"))
        clash = sorted(present.keys() & {str(record["id"]) for record in content.records})
        if clash and not replace:
            raise ShelfError(
                _("{0} of these paints are on the shelf already, such as {1!r}. Nothing was added.").format(
                    len(clash), clash[0]
                )
            )
        start = 1 + max(present.values(), default=-1)
        with self._db:
            self._db.executemany(
                "INSERT OR REPLACE INTO paint VALUES (?, ?, ?)",
                [
                    (
                        record["id"],
                        present.get(record["id"], start + index),
                        json.dumps(record, ensure_ascii=False),
                    )
                    for index, record in enumerate(content.records)
                ],
            )
            for key in ("ground_white", "ground_black"):
                if key in content.extra and not present:
                    self._db.execute(
                        "INSERT OR REPLACE INTO setting VALUES (?, ?)", (key, str(content.extra[key]))
                    )
        self._records = self._paints = None
        return len(content.records)

    def remove(self, ids: Iterable[str]) -> None:
        """Take paints off the shelf; projects keep their own copies."""
        with self._db:
            self._db.executemany("DELETE FROM paint WHERE id = ?", [(identity,) for identity in ids])
        self._records = self._paints = None

    def close(self) -> None:
        """Close the file."""
        self._db.close()
