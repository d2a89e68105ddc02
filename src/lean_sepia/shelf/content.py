"""What a shelf holds: records of paints in their order, and what is said about all of them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from lean_sepia.errors import ShelfError
from lean_sepia.language import _
from lean_sepia.paint.fit import Fit
from lean_sepia.paint.paint import Knowledge, Paint
from lean_sepia.paint.saunderson import SHEEN
from lean_sepia.shelf.paint_record import USUAL_GROUNDS, Grounds, paint_from_record

_TEXTS = ("name", "line", "note", "tint_white")

Record = dict[str, Any]


@dataclass(frozen=True)
class ShelfContent:
    """Paint records in file order, what the file says about all of them, and what of it was not understood, in words."""

    records: tuple[Record, ...]
    extra: Mapping[str, Any] = field(default_factory=dict)
    unread: tuple[str, ...] = ()

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
