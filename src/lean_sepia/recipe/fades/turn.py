"""Where a lightener takes a hue: how far, towards which neighbour on the hue circle, and whether red turns pink."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from lean_sepia.colour.lab import chroma, hue_deg
from lean_sepia.language import N_

HUELESS_CHROMA = 5.0
KEPT_DEG = 6.0
"""A turn smaller than that is not noticed on a faded surface (practice)."""

HUES: tuple[tuple[float, str], ...] = (
    (0.0, N_("magenta")), (40.0, N_("red")), (65.0, N_("orange")), (95.0, N_("yellow")), (160.0, N_("green")),
    (210.0, N_("blue-green")), (275.0, N_("blue")), (320.0, N_("violet")),
)  # fmt: skip
"""Hue angles h_ab by which people speak of hues (practice)."""

_RED_FROM, _RED_TO = 5.0, 60.0


@dataclass(frozen=True)
class Turn:
    """A turn of hue in degrees, signed; the hue it goes towards; whether a red becomes pink by it. None in both without a hue."""

    degrees: float | None
    towards: str | None
    pink: bool = False

    @property
    def kept(self) -> bool:
        """Whether it is too small to be noticed."""
        return self.degrees is None or abs(self.degrees) <= KEPT_DEG


def hue_shift_deg(lab: npt.ArrayLike, target: npt.ArrayLike) -> float | None:
    """Signed hue angle of a colour against a target's, −180 to 180, or None where either C* is below 5."""
    if min(float(chroma(lab)), float(chroma(target))) < HUELESS_CHROMA:
        return None
    return float((hue_deg(lab) - hue_deg(target) + 180) % 360 - 180)


def is_red(lab: npt.ArrayLike) -> bool:
    """Whether a colour L*a*b* (3,) is a red that could turn pink."""
    return float(chroma(lab)) > 2 * HUELESS_CHROMA and _RED_FROM <= float(hue_deg(lab)) <= _RED_TO


def turn_of(lab: npt.ArrayLike, target: npt.ArrayLike) -> Turn:
    """How a colour L*a*b* (3,) has turned against another."""
    shift = hue_shift_deg(lab, target)
    if shift is None:
        return Turn(None, None)
    start = float(hue_deg(target))
    own = min(HUES, key=lambda hue: abs((hue[0] - start + 180) % 360 - 180))
    ways = [((angle - start) * np.sign(shift) % 360, name) for angle, name in HUES if name != own[1]]
    towards = min(ways)[1]
    return Turn(shift, towards, shift < -KEPT_DEG and is_red(target))
