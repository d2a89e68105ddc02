"""Numbers as people type them: plain digits, a point or a comma, nothing that only a machine would write."""

from __future__ import annotations

import re

LARGEST = 1e9
_NUMBER = re.compile(r"[+\-−]?(?:[0-9]{1,40}(?:[.,][0-9]{0,40})?|[.,][0-9]{1,40})(?:[eE][+-]?[0-9]{1,3})?")
_COUNT = re.compile(r"[0-9]{1,9}")


def to_number(text: str) -> float:
    """The number a text says, a decimal comma allowed; at most a thousand million either way.

    Raises
    ------
    ValueError
        It says none.
    """
    clean = text.strip()
    if not _NUMBER.fullmatch(clean):
        raise ValueError(text)
    value = float(clean.replace("−", "-").replace(",", "."))
    if not abs(value) <= LARGEST:
        raise ValueError(text)
    return value


def to_count(text: str) -> int:
    """The whole number a text says, in the digits 0 to 9 and below a thousand million.

    Raises
    ------
    ValueError
        It says none.
    """
    clean = text.strip()
    if not _COUNT.fullmatch(clean):
        raise ValueError(text)
    return int(clean)
