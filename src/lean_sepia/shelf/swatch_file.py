"""Swatch files: painted mixtures with their measured colour, as JSON."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

import numpy as np

from lean_sepia.colour.lab import checked_lab
from lean_sepia.colour.spectrum import BANDS
from lean_sepia.errors import ColourError, ShelfError
from lean_sepia.language import _
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.fit import Swatch
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.text_files import read_json, write_whole


def read_swatches(path: str | Path) -> list[Swatch]:
    """Read a swatch file.

    Raises
    ------
    ShelfError
        The file is missing, no JSON, or a swatch breaks a rule; the message names the swatch.
    """
    data = read_json(path, _("The swatch file"), ShelfError)
    if not isinstance(data, dict) or not isinstance(data.get("swatches"), list):
        raise ShelfError(
            _('{0} has no list "swatches". A swatch file is {{"swatches": [...]}}.').format(path)
        )
    return [
        _swatch(record, _("Swatch {0}").format(number))
        for number, record in enumerate(data["swatches"], start=1)
    ]


def write_swatches(path: str | Path, records: Sequence[Mapping[str, Any]]) -> None:
    """Write a swatch file.

    Raises
    ------
    ShelfError
        The place cannot be written to.
    """
    text = json.dumps({"swatches": list(records)}, ensure_ascii=False, indent=1) + "\n"
    try:
        write_whole(path, text.encode())
    except OSError as error:
        raise ShelfError(
            _("The swatch file {0} cannot be written: {1}.").format(path, error.strerror)
        ) from None


def _swatch(record: Any, who: str) -> Swatch:
    if not isinstance(record, Mapping):
        raise ShelfError(_("{0} is no swatch: {1!r}.").format(who, record))
    shares: dict[str, float] = {}
    parts = record.get("parts")
    for part in parts if isinstance(parts, list) else ():
        name, count = (part.get("paint"), part.get("parts")) if isinstance(part, Mapping) else (None, None)
        if (
            not isinstance(name, str)
            or isinstance(count, bool)
            or not isinstance(count, int | float)
            or not count > 0
        ):
            raise ShelfError(
                _('{0}: a part is {{"paint": id, "parts": number above 0}}; found {1!r}.').format(who, part)
            )
        shares[name] = shares.get(name, 0.0) + float(count)
    if not shares:
        raise ShelfError(_("{0} has no parts: say which paints are in it.").format(who))
    R = None if "R" not in record else _reflectance(record["R"], who)
    if R is None and "lab" not in record:
        raise ShelfError(
            _("{0} has no colour: give lab, or R with {1} values from 400 to 700 nm.").format(who, BANDS)
        )
    if R is not None:
        return Swatch(tuple(shares.items()), None, R, _laying(record, who))
    return Swatch.read(shares.items(), _lab(record["lab"], who), _radius(record, who), _laying(record, who))


def _radius(record: Mapping[str, Any], who: str) -> float | None:
    radius = record.get("de00_90")
    if radius is not None and (
        isinstance(radius, bool) or not isinstance(radius, int | float) or not radius >= 0
    ):
        raise ShelfError(
            _("{0}: de00_90 is a colour difference of 0 or more; found {1!r}.").format(who, radius)
        )
    return radius


def _lab(values: Any, who: str) -> np.ndarray:
    try:
        return checked_lab(np.array(values, dtype=float))
    except (ColourError, TypeError, ValueError) as error:
        raise ShelfError(_("{0}: lab: {1}").format(who, error)) from None


def _reflectance(values: Any, who: str) -> np.ndarray:
    try:
        R = np.array(values, dtype=float)
    except (TypeError, ValueError):
        raise ShelfError(_("{0}: R is a list of {1} numbers.").format(who, BANDS)) from None
    if R.shape != (BANDS,) or not np.all((R >= 0) & (R <= 1.2)):
        raise ShelfError(
            _("{0}: R is a list of {1} shares from 0 to 1, from 400 to 700 nm in steps of 10.").format(
                who, BANDS
            )
        )
    return R


def _laying(record: Mapping[str, Any], who: str) -> Laying:
    if "over" not in record:
        return OPAQUE
    coats = record.get("coats", 1)
    if isinstance(coats, bool) or not isinstance(coats, int | float) or not coats > 0:
        raise ShelfError(_("{0}: coats is a number above 0; found {1!r}.").format(who, coats))
    return Laying(internal_from_lab(_lab(record["over"], who)).R_i, film_thickness(float(coats)))
