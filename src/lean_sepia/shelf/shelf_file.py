"""Shelf files: JSON with everything, CSV with colours only, and tables of other programs. Unknown fields are kept."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from lean_sepia.errors import ShelfError
from lean_sepia.files.gate import parse_json, read_text, shown, write_export
from lean_sepia.language import _
from lean_sepia.paint.fit import Fit
from lean_sepia.paint.paint import Knowledge, Paint
from lean_sepia.paint.saunderson import SHEEN
from lean_sepia.shelf import cgats, csv_shelf, gpl
from lean_sepia.shelf.paint_record import USUAL_GROUNDS, Grounds, paint_from_record

_MOST_PAINTS = 10_000
_TEXTS = ("name", "line", "note", "tint_white")

Record = dict[str, Any]


@dataclass(frozen=True)
class ShelfContent:
    """Paint records in file order, and what the file says about all of them."""

    records: tuple[Record, ...]
    extra: Mapping[str, Any] = field(default_factory=dict)

    def paints(self) -> list[Paint]:
        """Build every paint.

        Raises
        ------
        ShelfError
            The first record that breaks a rule.
        """
        return build_paints(self.records, grounds_of(self.extra))


def grounds_of(extra: Mapping[str, Any]) -> Grounds:
    """Reflectance of the file's two grounds, the usual ones unless stated.

    Raises
    ------
    ShelfError
        A ground is no share from 0 to 1, or the white one is not lighter than the black one.
    """
    usual = USUAL_GROUNDS
    values = [extra.get("ground_white", usual.white), extra.get("ground_black", usual.black)]
    for name, value in zip(("ground_white", "ground_black"), values, strict=True):
        if isinstance(value, bool) or not isinstance(value, int | float) or not 0 <= value <= 1:
            raise ShelfError(_("{0} is a reflectance from 0 to 1; found {1!r}.").format(name, value))
    if values[0] <= values[1]:
        raise ShelfError(
            _("ground_white ({0:g}) must reflect more than ground_black ({1:g}).").format(
                values[0], values[1]
            )
        )
    return Grounds(float(values[0]), float(values[1]))


def build_paints(records: Sequence[Mapping[str, Any]], grounds: Grounds = USUAL_GROUNDS) -> list[Paint]:
    """Build paints in order; those known by a tint after their whites.

    Raises
    ------
    ShelfError
        Two paints share an id, or a record breaks a rule.
    """
    seen: set[str] = set()
    for record in records:
        identity = str(record.get("id") or "")
        if identity in seen:
            raise ShelfError(
                _("Two paints have the id {0!r}. Give each bottle an id of its own.").format(identity)
            )
        seen.add(identity)
    built: dict[int, Paint] = {}
    tints = [i for i, record in enumerate(records) if "R_tint" in record or "lab_tint" in record]
    for index, record in enumerate(records):
        if index not in tints:
            built[index] = paint_from_record(record, grounds)
    whites = {paint.id: paint for paint in built.values()}
    for index in tints:
        built[index] = paint_from_record(records[index], grounds, whites)
    return [built[index] for index in range(len(records))]


def read_shelf(path: str | Path) -> ShelfContent:
    """Read a shelf file by its content: JSON, CSV, CGATS.17 text, or a GPL palette.

    Raises
    ------
    ShelfError
        The file is missing, not UTF-8, in none of these forms, or has no paints.
    """
    file = Path(path)
    text = read_text(file, _("The shelf"), ShelfError)
    if not text.strip():
        raise ShelfError(_("The shelf {0} is empty.").format(file))
    form = next((form for form in (cgats, gpl) if form.readable(text)), None)
    if form is not None:
        content = ShelfContent(tuple(form.read(text, shown(file.name))))
    elif text.lstrip()[0] in "{[":
        content = _from_json(text, file)
    else:
        content = ShelfContent(tuple(csv_shelf.read(text, file)))
    if not content.records:
        raise ShelfError(_("The shelf {0} lists no paints.").format(file))
    if len(content.records) > _MOST_PAINTS:
        words = _("The shelf {0} lists {1} paints; at most {2} are read. Divide it.")
        raise ShelfError(words.format(shown(file), len(content.records), _MOST_PAINTS))
    return content


def _from_json(text: str, file: Path) -> ShelfContent:
    data = parse_json(text, file, _("The shelf"), ShelfError)
    if not isinstance(data, dict) or not isinstance(data.get("paints"), list):
        raise ShelfError(
            _('The shelf {0} has no list "paints". A shelf file is {{"paints": [...]}}.').format(file)
        )
    for position, record in enumerate(data["paints"]):
        if not isinstance(record, dict):
            raise ShelfError(
                _("Entry {0} of the shelf {1} is not a paint: {2!r}.").format(position + 1, file, record)
            )
    extra = {key: value for key, value in data.items() if key != "paints"}
    return ShelfContent(tuple(tidied(record) for record in data["paints"]), extra)


def tidied(record: Record) -> Record:
    """A record whose names and notes are texts, whatever they were written as."""
    return {
        key: str(value) if key in _TEXTS and not isinstance(value, str) else value
        for key, value in record.items()
        if not (key in _TEXTS and value is None)
    }


def stock_ml(records: Iterable[Record]) -> dict[str, float]:
    """What is left of each bottle in millilitres, by id, where its record says."""
    return {
        str(record["id"]): float(record["stock_ml"])
        for record in records
        if isinstance(record.get("stock_ml"), int | float)
    }


def with_refined(content: ShelfContent, fit: Fit) -> ShelfContent:
    """The shelf with K and S of the refined paints in place of what they were known by; other fields are kept."""
    refined = {paint.id: paint for paint in fit.paints if paint.id in fit.doubt}
    records = []
    for record in content.records:
        paint = refined.get(str(record.get("id")))
        if paint is None:
            records.append(record)
            continue
        level = max(paint.knowledge, Knowledge.TWO_CONSTANT)
        kept = {key: value for key, value in record.items() if key != "wavelengths"}
        kept |= {"K": paint.K.round(6).tolist(), "S": paint.S.round(6).tolist(), "knowledge": str(level)}
        if paint.g != SHEEN[paint.finish]:
            kept["g"] = round(paint.g, 4)
        records.append(kept)
    return ShelfContent(tuple(records), content.extra)


def write_shelf(path: str | Path, content: ShelfContent) -> None:
    """Write a shelf in the form its suffix names: .csv, .txt (CGATS.17), .gpl, else JSON. Only JSON keeps everything.

    Raises
    ------
    ShelfError
        The place cannot be written to, or a paint breaks a rule.
    """
    suffix = Path(path).suffix.lower()
    if suffix in cgats.SUFFIXES:
        text = cgats.write(content.paints())
    elif suffix in gpl.SUFFIXES:
        text = gpl.write(content.paints())
    elif suffix == ".csv":
        text = csv_shelf.write(content.records, content.paints())
    else:
        text = (
            json.dumps({**content.extra, "paints": list(content.records)}, ensure_ascii=False, indent=1)
            + "\n"
        )
    write_export(path, text.encode(), ShelfError)
