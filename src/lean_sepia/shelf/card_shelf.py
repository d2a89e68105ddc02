"""From a photo of a painted swatch card to paints on a shelf, each known by two constants."""

from __future__ import annotations

from collections.abc import Container, Iterable, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.errors import ShelfError
from lean_sepia.files.gate import csv_rows, read_text
from lean_sepia.files.typed import to_count
from lean_sepia.language import _
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.handling.bodies import coats_to_hide
from lean_sepia.paint.identify import from_lab_films, internal_from_lab, one_constant
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import FINISHES, Knowledge, Mixture
from lean_sepia.paint.saunderson import SHEEN, Surface
from lean_sepia.photo.swatch_card import CardReading, FieldReading

_COLUMNS = ("field", "id", "name", "medium", "finish")
_NO_FIT_DE00 = 6.0


@dataclass(frozen=True, eq=False)
class ReadPaint:
    """One paint of a card: its shelf record, and what was measured."""

    record: dict[str, Any]
    field: int
    masstone: tuple[float, float, float]
    over_white: tuple[float, float, float]
    over_black: tuple[float, float, float]
    de00_90: float


@dataclass(frozen=True, eq=False)
class ReadShelf:
    """The paints of a card, and the fields that should be looked at, with the reason."""

    paints: tuple[ReadPaint, ...]
    doubtful: tuple[tuple[int, str], ...]


def read_names(path: str | Path) -> dict[int, dict[str, str]]:
    """The names of a card's fields, by field number, from CSV with field, id, name, line, medium, finish.

    Raises
    ------
    ShelfError
        The file is missing, lacks a column, or a row breaks a rule.
    """
    answer: dict[int, dict[str, str]] = {}
    text = read_text(path, _("The list of names"), ShelfError)
    for line, cells in csv_rows(text, path, _("The list of names"), _COLUMNS, ShelfError):
        field = field_number(cells["field"], answer, _("{0}, line {1}").format(path, line))
        if any(cells["id"] == other["id"] for other in answer.values()):
            raise ShelfError(
                _("{0}, line {1}: two fields have the id {2!r}.").format(path, line, cells["id"])
            )
        for key, choices in (("medium", MEDIA), ("finish", FINISHES)):
            if cells[key] not in choices:
                raise ShelfError(
                    _("{0}, line {1}: {2} is one of {3}; found {4!r}.").format(
                        path, line, key, ", ".join(choices), cells[key]
                    )
                )
        answer[field] = cells
    if not answer:
        raise ShelfError(_("{0} names no field.").format(path))
    return answer


def field_number(text: str, taken: Container[int], where: str) -> int:
    """The number of a card's field, which is named once.

    Raises
    ------
    ShelfError
        It is no number from 1, or is taken.
    """
    try:
        field = to_count(text)
    except ValueError:
        field = 0
    if field < 1:
        raise ShelfError(_("{0}: field is a number from 1; found {1!r}.").format(where, text))
    if field in taken:
        raise ShelfError(_("{0}: field {1} is named twice.").format(where, text))
    return field


def shelf_from_card(
    reading: CardReading,
    names: Mapping[int, Mapping[str, str]],
    film_coats: float = 1.0,
    thinner_share: float = 0.0,
) -> ReadShelf:
    """Fit K and S of every named field jointly to its three colours, over the grounds measured on the card.

    Raises
    ------
    ShelfError
        A name stands for a field that the card does not have, or the film cannot be.
    """
    if not (film_coats > 0 and 0 <= thinner_share < 1):
        raise ShelfError(
            _(
                "A film has a number of coats above 0 and a share of thinner from 0 to below 1; found {0:g} and {1:g}."
            ).format(film_coats, thinner_share)
        )
    fields = fields_of(reading, names)
    grounds = _grounds(reading.fields)
    X = film_thickness(film_coats, thinner_share)
    paints, doubtful = [], []
    for number in sorted(names):
        field = fields[number]
        paint, miss = _paint(field, names[number], grounds, X)
        reason = field.doubt or (
            _("no film gives these three colours ({0:.1f} ΔE00 off)").format(miss)
            if miss > _NO_FIT_DE00
            else ""
        )
        if reason:
            doubtful.append((number, reason))
        paints.append(paint)
    return ReadShelf(tuple(paints), tuple(doubtful))


def fields_of(reading: CardReading, named: Iterable[int]) -> dict[int, FieldReading]:
    """The fields of a card by number.

    Raises
    ------
    ShelfError
        A named field is not on the card.
    """
    fields = {field.field: field for field in reading.fields}
    for number in sorted(named):
        if number not in fields:
            raise ShelfError(
                _("Field {0} is named, but this card has {1} fields.").format(number, len(fields))
            )
    return fields


def _grounds(fields: Sequence[FieldReading]) -> tuple[np.ndarray, np.ndarray]:
    """Internal reflectance (31,) of the bare paper and of the printed black, as the whole card shows them."""
    labs = (
        np.median([field.bare_white.lab for field in fields], axis=0),
        np.median([field.bare_black.lab for field in fields], axis=0),
    )
    white, black = (internal_from_lab(lab).R_i for lab in labs)
    return white, black


def _paint(
    field: FieldReading, names: Mapping[str, str], grounds: tuple[np.ndarray, np.ndarray], X: float
) -> tuple[ReadPaint, float]:
    found = internal_from_lab(field.masstone.lab, SHEEN[names["finish"]])
    surface = Surface(found.g)
    start = one_constant(found.R_i, coats_to_hide(field.masstone.lab, names["medium"]))
    films = [(field.over_white.lab, grounds[0]), (field.over_black.lab, grounds[1])]
    K, S = from_lab_films(start, surface, field.masstone.lab, films, X)
    record = {
        "id": names["id"], "name": names["name"] or names["id"], "line": names.get("line", ""), "medium": names["medium"],
        "finish": names["finish"], "K": K.round(6).tolist(), "S": S.round(6).tolist(), "g": round(found.g, 4),
        "knowledge": str(Knowledge.TWO_CONSTANT), "note": _("read from field {0} of a swatch card").format(field.field),
    }  # fmt: skip
    miss = _miss(field, Mixture(K, S, surface), grounds, X)
    radius = float(np.median([field.masstone.de00_90, field.over_white.de00_90, field.over_black.de00_90]))
    read = ReadPaint(
        record, field.field, field.masstone.lab, field.over_white.lab, field.over_black.lab, radius
    )
    return read, miss


def _miss(
    field: FieldReading,
    made: Mixture,
    grounds: tuple[np.ndarray, np.ndarray],
    X: float,
) -> float:
    """The worst ΔE00 between a field's three colours and those of the paint fitted to them."""
    pairs = [
        (OPAQUE, field.masstone.lab),
        (Laying(grounds[0], X), field.over_white.lab),
        (Laying(grounds[1], X), field.over_black.lab),
    ]
    return max(float(delta_e00(laying.lab(made), lab)) for laying, lab in pairs)
