"""The user's paint shelf: a SQLite file of paint records beside the projects."""

from __future__ import annotations

import json
import os
import sqlite3
import threading
from collections.abc import Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from lean_sepia.errors import ShelfError
from lean_sepia.files.gate import shown, strict_json
from lean_sepia.files.own_folders import own_folder
from lean_sepia.files.sqlite import FAULTS, Database, reason, strange_part
from lean_sepia.files.typed import to_number
from lean_sepia.language import _
from lean_sepia.paint.paint import Paint
from lean_sepia.shelf.content import Record, ShelfContent, build_paints, grounds_of, tidied
from lean_sepia.shelf.paint_record import Grounds
from lean_sepia.shelf.record_model import read_record

APPLICATION_ID = 0x4C535002
SHELF_NAME = "shelf.sqlite"
_TABLES = {
    "paint": "CREATE TABLE paint (id TEXT PRIMARY KEY, position INTEGER NOT NULL, record TEXT NOT NULL)",
    "setting": "CREATE TABLE setting (name TEXT PRIMARY KEY, value TEXT NOT NULL)",
}
LOW_ML = 5.0
"""A bottle with less left is said to be low (practice)."""
OWN_WORDS = ("stock_ml", "opened", "note", "retired")
"""What a person writes of a bottle that stands before them; a list from elsewhere knows none of it."""
_MOST_UNDONE = 50


def user_folder() -> Path:
    """The program's folder for the user's own data."""
    return own_folder("data")


def shelf_path_for(project: Path | None) -> Path:
    """The shelf a project is worked with: the one in the project's own folder, else the user's."""
    if project is not None and os.path.exists(beside := project.parent / SHELF_NAME):
        return beside
    return user_folder() / SHELF_NAME


@dataclass(frozen=True)
class BottleChange:
    """One bottle as someone saw it and as they want it; None where there was none, or shall be none.

    What is written is the difference, so that what another window wrote of the same bottle meanwhile stays.
    """

    before: Record | None
    after: Record | None
    position: int | None = None

    @property
    def id(self) -> str:
        """Which bottle it is about."""
        return str((self.after or self.before or {})["id"])

    def applied(self, present: Record | None) -> Record | None:
        """The bottle as it is now with the difference in it."""
        if self.after is None or self.before is None or present is None:
            return self.after
        gone = self.before.keys() - self.after.keys()
        new = {key: value for key, value in self.after.items() if self.before.get(key) != value}
        return {key: value for key, value in present.items() if key not in gone} | new


class Shelf:
    """An open shelf. Paints are built when first asked for and again after a change, in this window or another."""

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
        self._version: int | None = None
        self._past: list[tuple[BottleChange, ...]] = []
        try:
            if path is not None:
                path.parent.mkdir(parents=True, exist_ok=True)
            self._db = Database(path)
        except (OSError, ValueError, *FAULTS) as error:
            raise self._not_opened(error) from None
        try:
            self._begin()
        except FAULTS as error:
            self._db.close()
            raise self._not_opened(error) from None
        except ShelfError:
            self._db.close()
            raise

    def _begin(self) -> None:
        """Make the tables of a new shelf; look whether an old one is as it should be."""
        with self._db.looking() as db:
            application = db.execute("PRAGMA application_id").fetchone()[0]
            empty = not db.execute("SELECT count(*) FROM sqlite_master").fetchone()[0]
            strange = strange_part(db, _TABLES)
        if empty:
            with self._db.changing() as db:
                db.execute(f"PRAGMA application_id = {APPLICATION_ID}")
                db.execute("PRAGMA user_version = 1")
                for statement in _TABLES.values():
                    db.execute(statement)
        elif application != APPLICATION_ID:
            words = _("{0} is a database of another program, not a paint shelf.")
            raise ShelfError(words.format(self._shown))
        elif strange:
            words = _("The paint shelf {0} holds what no shelf has ({1}). It was not opened.")
            raise ShelfError(words.format(self._shown, strange))
        self.content()

    @property
    def _shown(self) -> str:
        return shown(self.path) if self.path is not None else _("in memory")

    def _not_opened(self, error: Exception) -> ShelfError:
        words = _("The paint shelf {0} cannot be opened: {1}. It was not changed.")
        return ShelfError(words.format(self._shown, reason(error)))

    def records(self) -> list[Record]:
        """All paint records in shelf order: read once, and again after a change.

        Raises
        ------
        ShelfError
            The file cannot be read any more, or is damaged.
        """
        known = self._records
        if known is None:
            known = self._records = self._read()
        return list(known)

    def _read(self) -> list[Record]:
        with self._reading() as db:
            rows = db.execute("SELECT id, record FROM paint ORDER BY position, id").fetchall()
        return [self._record(identity, text) for identity, text in rows]

    def changed_elsewhere(self) -> bool:
        """Whether another window wrote to the shelf since it was last asked; what was read before is read again then."""
        try:
            with self._db.looking() as db:
                version = int(db.execute("PRAGMA data_version").fetchone()[0])
            changed = self._version not in (None, version)
            if changed:
                self._records, self._paints = self._read(), None
        except (*FAULTS, ShelfError):  # it is being written to: asked again the next time
            return False
        self._version = version
        return changed

    def _forget(self) -> None:
        self._records = self._paints = None

    @contextmanager
    def _reading(self) -> Iterator[sqlite3.Connection]:
        try:
            with self._db.looking() as db:
                yield db
        except FAULTS as error:
            words = _("The paint shelf {0} cannot be read: {1}.")
            raise ShelfError(words.format(self._shown, reason(error))) from None

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
        with self._reading() as db:
            rows = db.execute("SELECT name, value FROM setting").fetchall()
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
        present = self.by_id()
        clash = sorted(present.keys() & {str(record["id"]) for record in content.records})
        if clash and not replace:
            raise ShelfError(
                _("{0} of these paints are on the shelf already, such as {1!r}. Nothing was added.").format(
                    len(clash), clash[0]
                )
            )
        grounds = [
            (key, str(content.extra[key]))
            for key in ("ground_white", "ground_black") if key in content.extra and not present
        ]  # fmt: skip
        self._apply([BottleChange(present.get(str(r["id"])), r) for r in content.records], grounds)
        return len(content.records)

    def change(self, *pairs: tuple[Record, Record]) -> None:
        """Write what differs between a bottle as it was seen and as it shall be; all of the pairs, or none.

        Raises
        ------
        ShelfError
            A record would break a rule, or the file cannot be written to.
        """
        self._apply([BottleChange(before, after) for before, after in pairs], checked=True)

    def remove(self, ids: Iterable[str]) -> None:
        """Take paints off the shelf; projects keep their own copies.

        Raises
        ------
        ShelfError
            The file cannot be written to.
        """
        present = self.by_id()
        self._apply([BottleChange(present[identity], None) for identity in ids if identity in present])

    @property
    def can_undo(self) -> bool:
        """Whether there is a change to take back."""
        return bool(self._past)

    def undo(self) -> None:
        """Take the last change back; what was written of the same bottles since stays.

        Raises
        ------
        ShelfError
            The file cannot be written to.
        """
        if self._past:
            last = self._past.pop()
            try:
                self._apply([BottleChange(done.after, done.before, done.position) for done in last])
            except ShelfError:
                self._past.append(last)
                raise
            self._past.pop()

    def _check(self, record: Record, texts: Mapping[object, object]) -> None:
        """Raise ShelfError where a record breaks a rule; what is known by a tint is built with its white."""
        read_record(record)
        white = record.get("tint_white")
        beside = [self._record(white, texts[white])] if white in texts and white != record["id"] else []
        build_paints([record, *beside])

    def _apply(
        self,
        changes: Sequence[BottleChange],
        grounds: Sequence[tuple[str, str]] = (),
        *,
        checked: bool = False,
    ) -> None:
        """Write changes in one transaction; where they are `checked`, each record is built before it is written."""
        done = []
        with self._change() as db:
            places = dict(db.execute("SELECT id, CAST(position AS INTEGER) FROM paint"))
            texts = dict(db.execute("SELECT id, record FROM paint"))
            following = 1 + max(places.values(), default=-1)
            for change in changes:
                present = self._record(change.id, texts[change.id]) if change.id in texts else None
                wanted = change.applied(present)
                place = places.get(change.id)
                done.append(BottleChange(present, wanted, place))
                if wanted is None:
                    db.execute("DELETE FROM paint WHERE id = ?", (change.id,))
                    continue
                if checked or wanted != change.after:
                    self._check(wanted, texts)
                if place is None:
                    place = following if change.position is None else change.position
                    following = max(following, place + 1)
                row = (change.id, place, json.dumps(wanted, ensure_ascii=False))
                db.execute("INSERT OR REPLACE INTO paint VALUES (?, ?, ?)", row)
            db.executemany("INSERT OR REPLACE INTO setting VALUES (?, ?)", grounds)
        self._past = [*self._past, tuple(done)][-_MOST_UNDONE:]

    @contextmanager
    def _change(self) -> Iterator[sqlite3.Connection]:
        try:
            with self._db.changing() as db:
                yield db
        except (*FAULTS, ValueError) as error:
            words = _("The paint shelf {0} cannot be changed: {1}. It is as it was.")
            raise ShelfError(words.format(self._shown, reason(error))) from None
        finally:
            self._forget()

    def close(self) -> None:
        """Close the file."""
        self._db.close()


def with_own_words(record: Mapping[str, Any], present: Mapping[str, Any] | None) -> Record:
    """A bottle of a list as it comes, with what the user wrote of it on the shelf."""
    if present is None:
        return dict(record)
    kept = {key: present[key] for key in OWN_WORDS if key in present}
    return {key: value for key, value in record.items() if key not in OWN_WORDS} | kept


def own_paints() -> list[Paint]:
    """The paints of the user's own shelf; none where there is no shelf yet, or it cannot be read."""
    path = shelf_path_for(None)
    if not os.path.exists(path):
        return []
    try:
        shelf = Shelf(path)
    except ShelfError:
        return []
    try:
        return shelf.paints()
    finally:
        shelf.close()
