"""One way in which what was laid can still be taken back."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Undo:
    """Until so many minutes after the end of a step it is undone like this; None for as long as it lies there.

    how : as a template of words; wholly : whether nothing of it is left then
    """

    until_min: float | None
    how: str
    wholly: bool = True
