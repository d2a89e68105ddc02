"""Whether one colour shows on another: limits in ΔE00 by what it is that should show (practice, no source)."""

from __future__ import annotations

from typing import Literal

import numpy.typing as npt

from lean_sepia.colour.lab import lab_from_xyz, xyz_from_lab
from lean_sepia.language import N_

Shown = Literal["field", "soft", "mark", "lettering"]
LIMITS: dict[Shown, tuple[float, float, float]] = {
    "field": (1.0, 2.5, 12.0), "soft": (2.0, 4.0, 12.0), "mark": (3.0, 6.0, 12.0), "lettering": (1.0, 2.5, 12.0),
}  # fmt: skip
"""Adjoining fields, soft tones, marks below a millimetre, lettering: where it begins to show, to be clear, to be stark."""

VERDICTS = (N_("vanishes"), N_("just shows"), N_("clear"), N_("stark"))
READABLE_L = 20.0
"""Difference of lightness from which lettering reads (practice)."""


def verdict(de00: float, shown: Shown = "field") -> str:
    """How a difference of that size is seen.

    >>> verdict(0.9), verdict(2.4), verdict(11), verdict(12)
    ('vanishes', 'just shows', 'clear', 'stark')
    """
    return VERDICTS[sum(de00 >= limit for limit in LIMITS[shown])]


def seen_from_afar(ground: npt.ArrayLike, effect: npt.ArrayLike, share: float) -> tuple[float, float, float]:
    """Mean L*a*b* of a ground of which a share, 0–1, has another colour: the mean in linear XYZ."""
    L, a, b = lab_from_xyz((1 - share) * xyz_from_lab(ground) + share * xyz_from_lab(effect))
    return float(L), float(a), float(b)
