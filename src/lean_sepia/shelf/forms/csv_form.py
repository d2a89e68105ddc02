"""A shelf as a table: one paint a row, known by its colours only; media and finishes may be written in everyday words."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from lean_sepia.colour.written import read_screen_colour
from lean_sepia.errors import ColourError, ShelfError
from lean_sepia.files.gate import csv_rows, safe_cell
from lean_sepia.language import N_, _
from lean_sepia.paint.handling.bodies import body_said, use_said
from lean_sepia.paint.media import medium_said
from lean_sepia.paint.paint import finish_said
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.shelf.forms.cgats import DEFAULT_FINISH, DEFAULT_MEDIUM, unused_id
from lean_sepia.shelf.forms.form import Form
from lean_sepia.shelf.forms.headers import LABS, NUMBERS, YES_OR_NO, field_of, number_in

Record = dict[str, Any]

_GUESSED = {"medium": DEFAULT_MEDIUM, "finish": DEFAULT_FINISH}


def read(text: str, file: Path) -> ShelfContent:
    """The records of a CSV text; its cells may be parted by semicolons, its numbers have decimal commas, its columns any usual name.

    A paint needs a name or an id, and a colour unless it is clear; without a column for them it is a flat water-based acrylic, which its
    note says. Columns that mean nothing to the program are kept.

    Raises
    ------
    ShelfError
        A column that is needed is missing, or a cell cannot be read; the message names its line and column.
    """
    rows = list(csv_rows(text, file, _("The shelf"), (), ShelfError))
    if not rows:
        return ShelfContent(())
    columns = {header: field_of(header) for header in rows[0][1]}
    _check_columns(columns, file)
    taken = {cells[header]: 1 for header, field in columns.items() if field == "id" for _line, cells in rows}
    records = []
    for line, cells in rows:
        where = _("The shelf {0}, line {1}").format(file, line)
        named = {columns[header]: value for header, value in cells.items() if value}
        records.append(_record(named, columns, taken, where))
    return ShelfContent(tuple(records))


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
    if not fields & {"id", "name"} or not fields & {"hex", "lab_L", "body"}:
        words = _(
            "{0} needs a column id or name, and one for the colour: hex, or lab_L, lab_a and lab_b. Found {1}."
        )
        raise ShelfError(words.format(file, ", ".join(columns) or _("nothing")))


def _record(
    cells: Mapping[str, str], columns: Mapping[str, str], taken: dict[str, int], where: str
) -> Record:
    record: Record = {"id": cells.get("id") or unused_id(cells.get("name", ""), taken)}
    record |= _labs(cells, where)
    used = {f"{lab}_{axis}" for lab in LABS for axis in "Lab"} | {"hex", "id"}
    for key, value in cells.items():
        if key not in used:
            record[key] = _number(cells, key, where) if key in NUMBERS else value
    for key, known in (
        ("medium", medium_said),
        ("finish", finish_said),
        ("body", body_said),
        ("use", use_said),
    ):
        if record.get(key):
            record[key] = known(str(record[key]))
    for key in YES_OR_NO:
        if key in record:
            record[key] = str(record[key]).casefold() in ("true", "yes", "y", "1", "x")
    guessed = [field for field in _GUESSED if field not in columns.values()]
    for field in guessed:
        record[field] = _GUESSED[field]
    if guessed:
        said = _("{0} not said: taken as {1}").format(
            _(" and ").join(guessed), ", ".join(_GUESSED[field] for field in guessed)
        )
        record["note"] = f"{record['note']}; {said}" if record.get("note") else said
    return record


def _labs(cells: Mapping[str, str], where: str) -> Record:
    """The colours of a row, by L*, a*, b* or as a screen colour."""
    record: Record = {}
    for lab in LABS:
        keys = [f"{lab}_{axis}" for axis in "Lab"]
        if all(cells.get(key) for key in keys):
            record[lab] = [_number(cells, key, where) for key in keys]
        elif any(cells.get(key) for key in keys):
            raise ShelfError(_("{0}: {1} needs all three of {2}.").format(where, lab, ", ".join(keys)))
    if (written := cells.get("hex")) and "lab" not in record:
        try:
            record["lab"] = list(read_screen_colour(written))
        except ColourError as error:
            raise ShelfError(f"{where}: hex: {error}") from None
    return record


def _number(cells: Mapping[str, str], key: str, where: str) -> float:
    try:
        return number_in(key, cells[key])
    except ValueError:
        raise ShelfError(
            _("{0}: {1} is a number with a decimal point; found {2!r}.").format(where, key, cells[key])
        ) from None


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
