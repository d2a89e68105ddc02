"""Reading text that a person wrote, and writing files whole or not at all."""

from __future__ import annotations

import csv
import io
import json
import os
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Any

from lean_sepia.errors import BadInputError
from lean_sepia.language import _


def read_text(path: str | Path, what: str, error: type[BadInputError]) -> str:
    """The text of a UTF-8 file, a byte-order mark left out; `what` names it in messages, such as "The shelf".

    Raises
    ------
    error
        The file is missing or is not UTF-8 text.
    """
    try:
        return Path(path).read_text(encoding="utf-8-sig")
    except OSError as fault:
        raise error(_("{0} {1} cannot be read: {2}.").format(what, path, fault.strerror)) from None
    except UnicodeDecodeError as fault:
        byte = fault.object[fault.start]
        raise error(
            _("{0} {1} is not UTF-8 text (byte {2} is {3:#04x}). Save it as UTF-8.").format(
                what, path, fault.start, byte
            )
        ) from None


def read_json(path: str | Path, what: str, error: type[BadInputError]) -> Any:
    """What a JSON file holds; `what` names it in messages.

    Raises
    ------
    error
        The file is missing, is not UTF-8 text or not JSON.
    """
    return parse_json(read_text(path, what, error), path, what, error)


def parse_json(text: str, path: str | Path, what: str, error: type[BadInputError]) -> Any:
    """What a JSON text read from a file holds."""
    try:
        return json.loads(text)
    except json.JSONDecodeError as fault:
        raise error(
            _("{0} {1} is not JSON: {2} in line {3}.").format(what, path, fault.msg, fault.lineno)
        ) from None


def csv_rows(
    text: str, path: str | Path, what: str, needed: Sequence[str], error: type[BadInputError]
) -> Iterator[tuple[int, dict[str, str]]]:
    """Line number and cells of every row of a CSV text that is not blank; commas or semicolons between the cells.

    Raises
    ------
    error
        A needed column is missing, or a row has more cells than there are columns.
    """
    head = text.split("\n", 1)[0]
    delimiter = ";" if head.count(";") > head.count(",") else ","
    reader = csv.DictReader(io.StringIO(text), delimiter=delimiter, skipinitialspace=True)
    columns = [(name or "").strip() for name in reader.fieldnames or ()]
    missing = [name for name in needed if name not in columns]
    if missing:
        raise error(
            _("{0} {1} lacks the column {2!r}. It needs {3}; found {4}.").format(
                what, path, missing[0], ", ".join(needed), ", ".join(columns) or "nothing"
            )
        )
    reader.fieldnames = columns
    for line, row in enumerate(reader, start=2):
        cells = {key: (value or "").strip() for key, value in row.items() if key is not None}
        if None in row:
            raise error(
                _("{0} {1}, line {2}: more values than columns. Put text with commas in quotes.").format(
                    what, path, line
                )
            )
        if any(cells.values()):
            yield line, cells


def write_whole(path: str | Path, data: bytes) -> None:
    """Write a file beside its place, sync it, and rename: at any moment the old or the new one is there.

    Raises
    ------
    OSError
        The place cannot be written to; nothing is left beside it.
    """
    target = Path(path)
    beside = target.with_name(target.name + ".part")
    try:
        with beside.open("wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        beside.replace(target)
    except OSError:
        beside.unlink(missing_ok=True)
        raise
