"""A shelf as a table: one paint a row, known by its colours only; media and finishes may be written in everyday words."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from lean_sepia.colour.written import read_colour
from lean_sepia.errors import ColourError, ShelfError
from lean_sepia.files.gate import csv_rows, safe_cell
from lean_sepia.files.typed import to_number
from lean_sepia.language import N_, _
from lean_sepia.paint.media import medium_said
from lean_sepia.paint.paint import finish_said
from lean_sepia.shelf.content import ShelfContent
from lean_sepia.shelf.forms.form import Form

_LABS = ("lab", "lab_over_white", "lab_over_black", "lab_tint")
_NEEDED = ("id", "medium", "finish")
_NUMBERS = (
    "film_coats", "tint_parts_white", "k1", "k2", "stock_ml", "drops_per_ml", "opaque_coats", "thinner_share",
)  # fmt: skip
_YES_OR_NO = ("can", "retired")

Record = dict[str, Any]


def read(text: str, file: Path) -> ShelfContent:
    """The records of a CSV text; its cells may be parted by semicolons and its numbers have decimal commas.

    Raises
    ------
    ShelfError
        A column that is needed is missing, or a cell cannot be read.
    """
    colour = ("hex",) if "hex" in text.split("\n", 1)[0] else ("lab_L", "lab_a", "lab_b")
    rows = csv_rows(text, file, _("The shelf"), (*_NEEDED, *colour), ShelfError)
    records = (_record(cells, _("The shelf {0}, line {1}").format(file, line)) for line, cells in rows)
    return ShelfContent(tuple(records))


def _record(cells: Mapping[str, str], where: str) -> Record:
    record: Record = _labs(cells, where)
    used = {f"{lab}_{axis}" for lab in _LABS for axis in "Lab"} | {"hex"}
    for key, value in cells.items():
        if key not in used and value:
            record[key] = _number(cells, key, where) if key in _NUMBERS else value
    for key, known in (("medium", medium_said), ("finish", finish_said)):
        if record.get(key):
            record[key] = known(str(record[key]))
    for key in _YES_OR_NO:
        if key in record:
            record[key] = str(record[key]).casefold() in ("true", "yes", "1", "x")
    return record


def _labs(cells: Mapping[str, str], where: str) -> Record:
    """The colours of a row, by L*, a*, b* or as a screen colour."""
    record: Record = {}
    for lab in _LABS:
        keys = [f"{lab}_{axis}" for axis in "Lab"]
        if all(cells.get(key) for key in keys):
            record[lab] = [_number(cells, key, where) for key in keys]
        elif any(cells.get(key) for key in keys):
            raise ShelfError(_("{0}: {1} needs all three of {2}.").format(where, lab, ", ".join(keys)))
    if (written := cells.get("hex")) and "lab" not in record:
        try:
            record["lab"] = list(read_colour(written if written.startswith("#") else "#" + written))
        except ColourError as error:
            raise ShelfError(f"{where}: hex: {error}") from None
    return record


def _number(cells: Mapping[str, str], key: str, where: str) -> float:
    try:
        return to_number(cells[key])
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
        labs = {key: record[key] for key in _LABS if key in record} or {
            "lab": paint.masstone_lab().round(3).tolist()
        }
        if "lab" not in labs:
            labs = {"lab": paint.masstone_lab().round(3).tolist()}
        for key, lab in labs.items():
            row |= {f"{key}_{axis}": f"{value:g}" for axis, value in zip("Lab", lab, strict=True)}
        row |= {key: record[key] for key in (*_NUMBERS, *_YES_OR_NO, "tint_white", "note") if key in record}
        rows.append(row)
    columns = list(dict.fromkeys(key for row in rows for key in row))
    file = io.StringIO()
    writer = csv.DictWriter(file, columns, restval="", lineterminator="\n")
    writer.writeheader()
    writer.writerows({key: safe_cell(value) for key, value in row.items()} for row in rows)
    return file.getvalue()


FORM = Form(label=N_("Colours"), endings=(".csv",), readable=readable, read=read, write=write)
