"""A shelf as a table: one paint a row, known by its colours only; media and finishes may be written in everyday words."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Collection, Mapping
from pathlib import Path
from typing import Any

from lean_sepia.colour.written import read_screen_colour
from lean_sepia.errors import ColourError, ShelfError
from lean_sepia.files.gate import csv_rows, safe_cell
from lean_sepia.language import N_, _, ngettext
from lean_sepia.paint.handling.bodies import BODIES, USES, body_said, use_said
from lean_sepia.paint.media import MEDIA, medium_said
from lean_sepia.paint.paint import FINISHES, finish_said
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.shelf.forms.cgats import DEFAULT_FINISH, DEFAULT_MEDIUM
from lean_sepia.shelf.forms.form import Form
from lean_sepia.shelf.forms.headers import KNOWN, LABS, NUMBERS, YES_OR_NO, field_of, number_in
from lean_sepia.shelf.ids import Ids, is_id

Record = dict[str, Any]

_GUESSED = {"medium": DEFAULT_MEDIUM, "finish": DEFAULT_FINISH}


def read(text: str, file: Path) -> ShelfContent:
    """The records of a CSV text; its cells may be parted by semicolons, its numbers have decimal commas, its columns any usual name.

    A paint needs a name or an id, and a colour unless it is clear; without a column for them it is a flat water-based acrylic, which its
    note says. Columns that mean nothing to the program are kept, and named.

    Raises
    ------
    ShelfError
        A column that is needed is missing, or cells cannot be read; the message names line and column of each.
    """
    rows = list(csv_rows(text, file, _("The shelf"), (), ShelfError))
    if not rows:
        return ShelfContent(())
    columns = {header: field_of(header) for header in rows[0][1]}
    _check_columns(columns, file)
    named = {field: header for header, field in columns.items()}
    written = [cells[named["id"]] for _line, cells in rows] if "id" in named else []
    ids, faults = Ids(filter(is_id, written)), _Faults(named)
    records = []
    for line, cells in rows:
        faults.line = line
        row = {columns[header]: value for header, value in cells.items() if value}
        records.append(_record(row, ids, faults))
    if faults.found:
        raise ShelfError(faults.told(file))
    unknown = [header for header, field in columns.items() if field not in KNOWN and header]
    unread = [_("column “{0}”").format(header) for header in unknown]
    return ShelfContent(tuple(records), unread=tuple(unread))


_MOST_TOLD = 8


class _Faults:
    """Cells that could not be read, with their line and column."""

    def __init__(self, headers: Mapping[str, str]) -> None:
        self._headers, self.line = headers, 0
        self.found: list[str] = []

    def add(self, field: str, rule: str) -> None:
        """One more, on the present line."""
        self.found.append(
            _("line {0}, {1}: {2}").format(self.line, self._headers.get(field, field) or field, rule)
        )

    def told(self, file: Path) -> str:
        """All of them, or the first of many, in one message."""
        told = "; ".join(self.found[:_MOST_TOLD])
        if (more := len(self.found) - _MOST_TOLD) > 0:
            told += "; " + ngettext("and {0} more", "and {0} more", more).format(more)
        return _("{0} was not read. {1}. Put that right and read it again.").format(file, told)


def _check_columns(columns: Mapping[str, str], file: Path) -> None:
    fields = set(columns.values())
    twice = [header for header, field in columns.items() if list(columns.values()).count(field) > 1]
    if twice:
        raise ShelfError(
            _("{0}: the columns {1} mean the same. Leave one of them out.").format(file, ", ".join(twice))
        )
    axes = {f"lab_{axis}" for axis in "Lab"}
    if fields & axes and (missing := sorted(axes - fields)):
        raise ShelfError(
            _("{0} lacks the column {1!r}: L*, a* and b* stand in three.").format(file, missing[0])
        )
    if not fields & {"id", "name"} or not fields & {"hex", "lab_L", "body", "use"}:
        words = _(
            "{0} needs a column id or name, and one for the colour: hex, or lab_L, lab_a and lab_b. Found {1}."
        )
        raise ShelfError(words.format(file, ", ".join(columns) or _("nothing")))


_WORDS: dict[str, tuple[Callable[[str], str], Collection[str]]] = {
    "medium": (medium_said, MEDIA), "finish": (finish_said, FINISHES), "body": (body_said, BODIES), "use": (use_said, USES),
}  # fmt: skip
"""Cells that name a row of a table, in its word or in everyday ones."""
_YES, _NO = ("true", "yes", "y", "1", "x"), ("false", "no", "n", "0", "-", "")


def _record(cells: Mapping[str, str], ids: Ids, faults: _Faults) -> Record:
    identity = cells.get("id", "")
    record: Record = {"id": identity if is_id(identity) else ids.fresh(identity or cells.get("name", ""))}
    if identity and record["id"] != identity and not cells.get("name"):
        record["name"] = identity
    record |= _labs(cells, faults)
    used = {f"{lab}_{axis}" for lab in LABS for axis in "Lab"} | {"hex", "id"}
    for key, value in cells.items():
        if key in used:
            continue
        if (read := _cell(key, value, cells, faults)) is not None:
            record[key] = read
    if (
        not any(lab in record for lab in LABS)
        and "body" not in record
        and USES[record.get("use", "paint")].colourless
    ):
        record["body"] = "clear"  # a varnish without a colour
    _guess(record)
    return record


def _cell(key: str, value: str, cells: Mapping[str, str], faults: _Faults) -> object:
    if key in NUMBERS:
        return _number(cells, key, faults)
    if key in YES_OR_NO:
        return _yes(value, key, faults)
    return _named(value, key, faults) if key in _WORDS else value


def _guess(record: Record) -> None:
    """Say of what has no medium or no finish what it is taken for."""
    guessed = [field for field in _GUESSED if not record.get(field)]
    for field in guessed:
        record[field] = _GUESSED[field]
    if guessed:
        said = _("{0} not said: taken as {1}").format(
            _(" and ").join(guessed), ", ".join(_GUESSED[field] for field in guessed)
        )
        record["note"] = f"{record['note']}; {said}" if record.get("note") else said


def _named(value: str, key: str, faults: _Faults) -> str:
    said, table = _WORDS[key]
    found = said(value)
    if found in table:
        return found
    faults.add(key, _("{0!r} is none of {1}").format(value, ", ".join(table)))
    return next(iter(table))


def _yes(value: str, key: str, faults: _Faults) -> bool:
    said = value.casefold()
    if said not in _YES and said not in _NO:
        faults.add(key, _("{0!r} is neither yes nor no").format(value))
    return said in _YES


def _labs(cells: Mapping[str, str], faults: _Faults) -> Record:
    """The colours of a row, by L*, a*, b* or as a screen colour."""
    record: Record = {}
    for lab in LABS:
        keys = [f"{lab}_{axis}" for axis in "Lab"]
        if all(cells.get(key) for key in keys):
            values = [_number(cells, key, faults) for key in keys]
            if None not in values:
                record[lab] = values
        elif lacking := [key for key in keys if any(cells.get(k) for k in keys) and not cells.get(key)]:
            faults.add(lacking[0], _("{0} needs all three of {1}").format(lab, ", ".join(keys)))
    if (written := cells.get("hex")) and "lab" not in record:
        try:
            record["lab"] = list(read_screen_colour(written))
        except ColourError as error:
            faults.add("hex", str(error).rstrip("."))
    return record


def _number(cells: Mapping[str, str], key: str, faults: _Faults) -> float | None:
    try:
        return number_in(key, cells[key])
    except ValueError:
        faults.add(key, _("{0!r} is no number").format(cells[key]))
        return None


def readable(text: str) -> bool:
    """Whether a text is a table with a head."""
    return bool(text.strip())


def write(content: ShelfContent) -> str:
    """Colours only: a paint known by spectra becomes one known by its masstone."""
    rows = []
    for record, paint in zip(content.records, content.paints(), strict=True):
        row: Record = {key: record.get(key, "") for key in ("id", "name", "line", "medium", "finish")}
        labs = {key: record[key] for key in LABS if key in record}
        if "lab" not in labs:
            labs = {} if paint.body == "clear" else {"lab": paint.masstone_lab().round(3).tolist()}
        for key, lab in labs.items():
            row |= {f"{key}_{axis}": f"{value:g}" for axis, value in zip("Lab", lab, strict=True)}
        row |= {
            key: value
            for key, value in record.items()
            if key not in row and isinstance(value, str | int | float)
        }
        rows.append(row)
    columns = list(dict.fromkeys(key for row in rows for key in row))
    file = io.StringIO()
    writer = csv.DictWriter(file, columns, restval="", lineterminator="\n")
    writer.writeheader()
    writer.writerows({key: safe_cell(value) for key, value in row.items()} for row in rows)
    return file.getvalue()


FORM = Form(label=N_("Colours"), endings=(".csv",), readable=readable, read=read, write=write)
