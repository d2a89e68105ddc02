"""What a form of shelf file is: a row of the one table of forms."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from lean_sepia.shelf.content import ShelfContent


@dataclass(frozen=True, kw_only=True)
class Form:
    """One form of shelf file.

    endings : of its files, the one it is written with first
    readable : whether a text is of this form; the first form of the table that says so reads it
    read : what a text holds, with its file for the messages; write : the text of a shelf
    """

    label: str
    endings: tuple[str, ...]
    readable: Callable[[str], bool]
    read: Callable[[str, Path], ShelfContent]
    write: Callable[[ShelfContent], str]
