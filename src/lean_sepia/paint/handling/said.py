"""Rows of tables by the words that people have for them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Protocol


class Called(Protocol):
    """A row that has words, and perhaps others by which it is said too."""

    @property
    def words(self) -> str:
        """What the program calls it."""

    @property
    def said(self) -> tuple[str, ...]:
        """What else it is called, in small letters."""


def said_in(text: str, table: Mapping[str, Called]) -> str:
    """The name of the row that a text means, in the table's word or in everyday ones; the text itself where it means none."""
    wanted = " ".join(text.casefold().split())
    for name, row in table.items():
        if wanted in (name, row.words.casefold(), *row.said):
            return name
    return text
