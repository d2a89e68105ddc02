"""What a stated kind of picture says before any anchor: the worlds it may come from, and how sure ranges are with them."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.language import N_
from lean_sepia.photo.correction.worlds import RENDERINGS, Worlds, all_worlds
from lean_sepia.photo.stated.picture_kind import PictureKind

LIGHT_WORDS = {
    "daylight": N_("daylight"), "incandescent light": N_("incandescent light"), "fluorescent light": N_("fluorescent light"),
    "three-band fluorescent light": N_("three-band fluorescent light"), "LED light": N_("LED light"),
}  # fmt: skip

_RENDERINGS: Mapping[PictureKind, tuple[str, ...]] = {"print": ("print", "page"), "unknown": RENDERINGS}
_MET = {"page": 2.8, "undeveloped": 4.0, "developed": 1.2}
"""How much oftener than the others a rendering is met where nothing is stated, per world (practice)."""

_COUNTS = (0, 1, 2, 6, 24)
_SCALES: Mapping[PictureKind, tuple[float, ...]] = {
    "camera": (0.70, 1.10, 0.98, 0.98, 1.08), "phone": (0.65, 0.86, 0.80, 0.86, 1.05), "print": (0.65, 0.95, 0.76, 0.80, 1.00),
    "slide": (0.65, 1.04, 0.87, 0.94, 1.12), "developed": (1.30, 0.84, 0.86, 0.92, 1.20),
    "undeveloped": (0.85, 1.19, 1.17, 0.92, 1.15), "unknown": (0.60, 1.06, 1.06, 1.07, 1.30),
}  # fmt: skip


@cache
def worlds_of(kind: PictureKind) -> tuple[Worlds, FloatArray]:
    """The worlds (n) that a picture of this kind may come from, and the log (n,) of how often each is met."""
    every = all_worlds()
    numbers = [RENDERINGS.index(name) for name in _RENDERINGS.get(kind, (kind,))]
    chosen = every.chosen(np.flatnonzero(np.isin(every.rendering, numbers)))
    met = (
        np.array([_MET.get(name, 1.0) for name in RENDERINGS])
        if kind == "unknown"
        else np.ones(len(RENDERINGS))
    )
    return chosen, np.log(met[chosen.rendering])


def range_scale(kind: PictureKind, known: int) -> float:
    """What the uncertainty with so many anchors is multiplied by, so that ranges hold 9 times in 10.

    Measured by `scripts/calibrate_ranges.py` on renderings by formulas that neither the worlds nor any check share, with some to
    spare (93 % of those), since what people bring is stranger than what is made up; more with a whole chart, as real charts ask.
    """
    return float(np.interp(np.log1p(known), np.log1p(_COUNTS), _SCALES[kind]))
