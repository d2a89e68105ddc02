"""A colour as people write it down: L*, a*, b* with commas, a screen colour as #rrggbb, or as three numbers from 0 to 255."""

from __future__ import annotations

import re
from collections.abc import Sequence

import numpy as np

from lean_sepia.colour.lab import checked_lab, lab_from_xyz
from lean_sepia.colour.srgb import linear_from_srgb, rgb_to_xyz_matrix
from lean_sepia.errors import ColourError
from lean_sepia.files.typed import to_number
from lean_sepia.language import _

Lab = tuple[float, float, float]
_HEX = re.compile(r"#?([0-9a-f]{6}|[0-9a-f]{3})", re.IGNORECASE)
_NAMED = re.compile(r"(lab|srgb|rgb)\s*\(?([^()]*)\)?", re.IGNORECASE)
_NUMBER = r"[-−+]?\d+(?:[.,]\d+)?"
_THREE_NUMBERS = re.compile(rf"{_NUMBER}(?:\s*[,;]\s*|\s+){_NUMBER}(?:\s*[,;]\s*|\s+){_NUMBER}")
_LONGEST = 80


def read_colour(text: str) -> Lab:
    """L*a*b* (D65, 2°) of a written colour: "45.8, -13.9, -6.1", "lab 46 -14 -6", "#4f7a6c", "rgb 79 122 108".

    Raises
    ------
    ColourError
        It is none of these, or no surface can have it.

    >>> [round(value) for value in read_colour("#ffffff")]
    [100, 0, 0]
    """
    clean = text.strip()
    if len(clean) <= _LONGEST:
        if (found := _HEX.fullmatch(clean)) and (clean.startswith("#") or not clean.isdigit()):
            digits = found[1] if len(found[1]) == 6 else "".join(2 * digit for digit in found[1])
            return _of_screen([int(digits[place : place + 2], 16) for place in (0, 2, 4)])
        named = _NAMED.fullmatch(clean)
        kind, body = (named[1].casefold(), named[2]) if named else ("lab", clean)
        numbers = _divided(body.strip())
        if len(numbers) == 3:
            try:
                values = [to_number(part) for part in numbers]
            except ValueError:
                values = []
            if values and kind == "lab":
                L, a, b = checked_lab(values)
                return float(L), float(a), float(b)
            if values and all(0 <= value <= 255 for value in values):
                return _of_screen(values)
    words = _(
        "A colour is written L*, a*, b* with commas, or #rrggbb, or rgb and three numbers to 255; found “{0}”."
    )
    raise ColourError(words.format(clean[:_LONGEST]))


def read_screen_colour(text: str) -> Lab:
    """L*a*b* (D65, 2°) of a screen colour as tables write it, with a hash or without, or a colour as it is written elsewhere.

    Raises
    ------
    ColourError
        It is none.
    """
    clean = text.strip()
    bare = _HEX.fullmatch(clean) and not clean.startswith("#")
    return read_colour(f"#{clean}" if bare else clean)


def write_colour(lab: Sequence[float], decimals: int = 1) -> str:
    """L*, a*, b* (3,) as they are typed, with commas."""
    return ", ".join(f"{value:.{decimals}f}" for value in lab)


def is_colour(text: str) -> bool:
    """Whether a text is meant as a colour rather than as a mix: a screen colour, or three numbers and nothing else."""
    clean = text.strip().casefold()
    if clean.startswith("#") or _NAMED.fullmatch(clean):
        return True
    return len(clean) <= _LONGEST and bool(_THREE_NUMBERS.fullmatch(clean))


def _divided(text: str) -> list[str]:
    """The numbers of a text: between semicolons, else between spaces, else between commas."""
    if ";" in text:
        return text.split(";")
    spaced = [part.strip(",") for part in text.split()]
    return spaced if len(spaced) > 1 else text.split(",")


def _of_screen(values: list[float] | list[int]) -> Lab:
    """L*a*b* of sRGB values from 0 to 255."""
    L, a, b = lab_from_xyz(rgb_to_xyz_matrix() @ linear_from_srgb(np.array(values) / 255))
    return float(L), float(a), float(b)
