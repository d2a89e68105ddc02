"""Bottles written by hand: from what a person knows of one to its record, and back."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from lean_sepia.colour.written import read_colour
from lean_sepia.errors import ShelfError
from lean_sepia.language import _
from lean_sepia.shelf.ids import Ids

_COLOURS = ("K", "S", "R", "R_over_black", "R_tint", "lab", "lab_over_white", "lab_over_black", "lab_tint", "wavelengths",
            "tint_white", "tint_parts_white", "film_coats", "g", "knowledge")  # fmt: skip
"""The fields that say what colour a bottle has and how that is known."""


@dataclass(frozen=True)
class Bottle:
    """A bottle as it is written on a sheet.

    colour : as people write one; empty where the record's own measurement stays
    thinner_share : of what it is sold with, such as 0.9 of a ready-made wash; stock_ml : what is left of it
    use, body : names of their tables; opaque_coats : neat coats in which it hides, where that is known
    """

    name: str
    line: str = ""
    medium: str = "acrylic-water"
    finish: str = "flat"
    colour: str = ""
    thinner_share: float = 0.0
    drops_per_ml: float | None = None
    stock_ml: float | None = None
    opened: str = ""
    note: str = ""
    can: bool = False
    retired: bool = False
    use: str = "paint"
    body: str = "usual"
    opaque_coats: float | None = None


def record_of(bottle: Bottle, old: Mapping[str, Any] | None, taken: Iterable[str]) -> dict[str, Any]:
    """The record of a bottle: that of an old one with what is written changed, else a new one.

    Raises
    ------
    ShelfError
        It has no name, or no colour that can be read.
    """
    if not bottle.name.strip():
        raise ShelfError(_("A bottle needs a name, such as Sea green."))
    record = dict(old or {"id": Ids(taken).fresh(bottle.name)})
    if bottle.colour.strip():
        for field in (*_COLOURS, "hex"):
            record.pop(field, None)
        record["lab"] = [round(value, 3) for value in read_colour(bottle.colour)]
    elif bottle.body != "clear" and not any(field in record for field in (*_COLOURS, "hex")):
        raise ShelfError(
            _(
                "A bottle needs a colour: L*, a*, b* with commas, or #4f7a6c. What has none, such as a varnish, is clear."
            )
        )
    record |= {
        "name": bottle.name.strip(),
        "line": bottle.line.strip(),
        "medium": bottle.medium,
        "finish": bottle.finish,
    }
    written: dict[str, object] = {
        "use": "" if bottle.use == "paint" else bottle.use, "body": "" if bottle.body == "usual" else bottle.body,
        "opaque_coats": bottle.opaque_coats,
        "thinner_share": bottle.thinner_share, "drops_per_ml": bottle.drops_per_ml, "stock_ml": bottle.stock_ml,
        "opened": bottle.opened.strip(), "note": bottle.note.strip(), "can": bottle.can, "retired": bottle.retired,
    }  # fmt: skip
    for field, value in written.items():
        if value or (field == "stock_ml" and value is not None):
            record[field] = value
        else:
            record.pop(field, None)
    return record


def bottle_of(record: Mapping[str, Any]) -> Bottle:
    """What is written of a bottle; its colour stays as it is known."""

    def number(field: str) -> float | None:
        value = record.get(field)
        return float(value) if isinstance(value, int | float) and not isinstance(value, bool) else None

    return Bottle(
        str(record.get("name") or record["id"]), str(record.get("line") or ""), str(record["medium"]), str(record["finish"]), "",
        number("thinner_share") or 0.0, number("drops_per_ml"), number("stock_ml"), str(record.get("opened") or ""),
        str(record.get("note") or ""), record.get("can") is True, record.get("retired") is True, str(record.get("use") or "paint"),
        str(record.get("body") or "usual"), number("opaque_coats"),
    )  # fmt: skip
