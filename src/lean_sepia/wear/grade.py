"""Grades of rusting. Both standards speak of rust only; the limits are from memory.

The grade is the first whose limit of rusted area is not exceeded.
"""

from __future__ import annotations

from dataclasses import dataclass

_ISO_4628_3 = ((0.0, 0), (0.05, 1), (0.5, 2), (1.0, 3), (8.0, 4), (100.0, 5))
_ASTM_D610 = (
    (0.01, 10), (0.03, 9), (0.1, 8), (0.3, 7), (1.0, 6), (3.0, 5), (10.0, 4), (16.0, 3), (33.0, 2), (50.0, 1), (100.0, 0),
)  # fmt: skip


@dataclass(frozen=True)
class Grade:
    """Degree of rusting Ri 0–5 (ISO 4628-3) and rust grade 10–0 (ASTM D610)."""

    iso_4628_3: str
    astm_d610: int


def grade(rust_percent: float) -> Grade:
    """Grades for a rusted share of the area in per cent, 0–100.

    >>> grade(2.1)
    Grade(iso_4628_3='Ri 4', astm_d610=5)
    """
    share = min(max(rust_percent, 0.0), 100.0)
    ri = next(degree for limit, degree in _ISO_4628_3 if share <= limit)
    return Grade(f"Ri {ri}", next(degree for limit, degree in _ASTM_D610 if share <= limit))


def is_rust(name: str) -> bool:
    """Whether a class counts as rust: its name begins with "rust"."""
    return name.lower().startswith("rust")
