"""Test swatches on a swatch card: mixtures whose colour is read as a new paint's would be, to learn from."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from lean_sepia.errors import ShelfError
from lean_sepia.files.gate import csv_rows, read_text
from lean_sepia.language import _
from lean_sepia.paint.fit import Swatch
from lean_sepia.photo.swatch_card import CardReading
from lean_sepia.recipe.phrases.mixture_text import read_mixture
from lean_sepia.shelf.card_shelf import field_number, fields_of

Parts = Sequence[tuple[str, int]]

_COLUMNS = ("field", "parts")


@dataclass(frozen=True, eq=False)
class ReadSwatch:
    """One mixture of a card: its parts by paint id, and its three colours."""

    field: int
    parts: tuple[tuple[str, int], ...]
    masstone: tuple[float, float, float]
    over_white: tuple[float, float, float]
    over_black: tuple[float, float, float]
    de00_90: float

    def record(self) -> dict[str, Any]:
        """The swatch as a swatch file holds it: the masstone counts; the films are kept beside it."""
        return {
            "parts": [{"paint": name, "parts": count} for name, count in self.parts],
            "lab": list(self.masstone), "over_white": list(self.over_white), "over_black": list(self.over_black),
            "de00_90": self.de00_90, "field": self.field,
        }  # fmt: skip

    def swatch(self) -> Swatch:
        """What the fit learns from: the opaque patch. How thick the films came out is not known well enough."""
        return Swatch.read(self.parts, np.array(self.masstone), self.de00_90)


@dataclass(frozen=True, eq=False)
class ReadSwatches:
    """The swatches of a card, and the fields that should be looked at, with the reason."""

    swatches: tuple[ReadSwatch, ...]
    doubtful: tuple[tuple[int, str], ...]


def read_mixtures(path: str | Path, names: Mapping[str, str]) -> dict[int, list[tuple[str, int]]]:
    """What is painted in a card's fields, by field number, from CSV with field, parts.

    names : the name of every paint on the shelf, by id

    Raises
    ------
    ShelfError
        The file is missing, lacks a column, or a row breaks a rule.
    """
    answer: dict[int, list[tuple[str, int]]] = {}
    what = _("The list of mixtures")
    for line, cells in csv_rows(read_text(path, what, ShelfError), path, what, _COLUMNS, ShelfError):
        where = _("{0}, line {1}").format(path, line)
        field = field_number(cells["field"], answer, where)
        try:
            answer[field] = read_mixture(cells["parts"], names)
        except ShelfError as error:
            raise ShelfError(f"{where}: {error}") from None
    if not answer:
        raise ShelfError(_("{0} names no field.").format(path))
    return answer


def swatches_from_card(reading: CardReading, mixtures: Mapping[int, Parts]) -> ReadSwatches:
    """The named fields of a card as test swatches; a field in which nothing was painted is left out and named.

    Raises
    ------
    ShelfError
        A field is named that the card does not have.
    """
    fields = fields_of(reading, mixtures)
    named = [fields[number] for number in sorted(mixtures)]
    swatches = tuple(
        ReadSwatch(
            field.field, tuple(mixtures[field.field]), field.masstone.lab, field.over_white.lab, field.over_black.lab,
            field.masstone.de00_90,
        )
        for field in named if not field.bare
    )  # fmt: skip
    return ReadSwatches(swatches, tuple((field.field, field.doubt) for field in named if field.doubt))
