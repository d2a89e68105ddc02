"""Swatch files: painted mixtures with their measured colour, as JSON."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Annotated, Any

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, FiniteFloat, ValidationError, field_validator

from lean_sepia.colour.lab import checked_lab
from lean_sepia.colour.spectrum import BANDS
from lean_sepia.errors import ColourError, ShelfError
from lean_sepia.files.gate import read_json, write_export
from lean_sepia.language import _
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.fit import Swatch
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.shelf.record_model import Numbers


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
    write_export(path, text.encode(), ShelfError)


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, strict=True)

    paint: str
    parts: Annotated[FiniteFloat, Field(gt=0)]


class _Record(BaseModel):
    """One painted mixture; what the program does not know is not looked at."""

    model_config = ConfigDict(frozen=True, strict=True, extra="ignore")

    parts: Annotated[tuple[_Part, ...], Field(min_length=1, strict=False)]
    lab: Numbers = None
    R: Annotated[tuple[Annotated[float, Field(ge=0, le=1.2)], ...], Field(strict=False)] | None = None
    over: Numbers = None
    coats: Annotated[FiniteFloat, Field(gt=0)] = 1.0
    de00_90: Annotated[float, Field(ge=0)] | None = None

    @field_validator("R")
    @classmethod
    def _whole(cls, values: tuple[float, ...] | None) -> tuple[float, ...] | None:
        if values is not None and len(values) != BANDS:
            raise ValueError("R")
        return values


def _told(fault: Any, record: Mapping[str, Any], who: str) -> str:
    """The sentence for a field that breaks a rule."""
    field = str(fault["loc"][0])
    value = record.get(field)
    if field == "parts" and isinstance(value, list) and value:
        place = fault["loc"][1] if len(fault["loc"]) > 1 else 0
        said = _('{0}: a part is {{"paint": id, "parts": number above 0}}; found {1!r}.')
        return said.format(who, value[place] if isinstance(place, int) else value)
    return {
        "parts": _("{0} has no parts: say which paints are in it."),
        "R": _("{0}: R is a list of {2} shares from 0 to 1, from 400 to 700 nm in steps of 10."),
        "coats": _("{0}: coats is a number above 0; found {1!r}."),
        "de00_90": _("{0}: de00_90 is a colour difference of 0 or more; found {1!r}."),
    }.get(field, _("{0}: {3} is three numbers, L*, a* and b*; found {1!r}.")).format(who, value, BANDS, field)


def _swatch(record: Any, who: str) -> Swatch:
    if not isinstance(record, Mapping):
        raise ShelfError(_("{0} is no swatch: {1!r}.").format(who, record))
    try:
        given = _Record.model_validate(dict(record))
    except ValidationError as error:
        raise ShelfError(_told(error.errors()[0], record, who)) from None
    shares: dict[str, float] = {}
    for part in given.parts:
        shares[part.paint] = shares.get(part.paint, 0.0) + part.parts
    if given.R is not None:
        return Swatch(tuple(shares.items()), None, np.array(given.R), _laying(given, who))
    if given.lab is None:
        raise ShelfError(
            _("{0} has no colour: give lab, or R with {1} values from 400 to 700 nm.").format(who, BANDS)
        )
    return Swatch.read(shares.items(), _lab(given.lab, who), given.de00_90, _laying(given, who))


def _lab(values: Sequence[float], who: str) -> np.ndarray:
    try:
        return checked_lab(np.array(values))
    except ColourError as error:
        raise ShelfError(_("{0}: lab: {1}").format(who, error)) from None


def _laying(given: _Record, who: str) -> Laying:
    if given.over is None:
        return OPAQUE
    return Laying(internal_from_lab(_lab(given.over, who)).R_i, film_thickness(given.coats))
