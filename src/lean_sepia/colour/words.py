"""Colour names and differences in plain words, from L*, C* and h in CIEDE2000 terms."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from lean_sepia.colour.ciede2000 import delta_e00, delta_parts00
from lean_sepia.colour.lab import chroma, hue_deg

_HUES = (
    (20, "pink-red"), (45, "red"), (62, "orange"), (80, "ochre"), (100, "yellow"), (125, "yellow-green"),
    (165, "green"), (212, "blue-green"), (238, "greenish blue"), (275, "blue"), (310, "violet"), (345, "purple"),
    (360, "pink-red"),
)  # fmt: skip

# Below 0.25 nobody sees it; the steps above follow common practice, no source.
_STEPS = (
    (0.25, ""),
    (0.6, "very slightly"),
    (1.2, "a touch"),
    (2.5, "a little"),
    (5.0, "clearly"),
    (np.inf, "much"),
)

_TOWARDS = {  # hue region -> (word when h grows, word when h falls)
    "red": ("yellower", "bluer"),
    "yellow": ("greener", "redder"),
    "green": ("bluer", "yellower"),
    "blue": ("redder", "greener"),
}


def colour_name(lab: npt.ArrayLike) -> str:
    """A plain name such as "dark greyed blue-green" for one L*a*b* (3,)."""
    table = np.asarray(lab, dtype=float)
    lightness, c, h = float(table[0]), float(chroma(table)), float(hue_deg(table))
    depth = (
        "very dark " if lightness < 20 else "dark " if lightness < 38 else "pale " if lightness > 78 else ""
    )
    if c < 3:
        return "black" if lightness < 15 else "white" if lightness > 93 else f"{depth}grey"
    hue = next(name for limit, name in _HUES if h <= limit)
    if c < 9:
        return f"{depth}grey, {hue} side" if lightness < 85 else f"off-white, {hue} side"
    if 35 <= h < 100 and lightness < 48:
        hue = "brown" if h > 50 else "red-brown"
    strength = "greyed " if c < 24 else "strong " if c > 60 else ""
    return f"{depth}{strength}{hue}"


@dataclass(frozen=True)
class Difference:
    """How a second colour differs from a first: the figure, and a sentence part about the second."""

    de00: float
    words: str


def difference(first: npt.ArrayLike, second: npt.ArrayLike) -> Difference:
    """CIEDE2000 and words for how the *second* L*a*b* (3,) differs from the first.

    >>> difference([50, 10, 10], [54, 10, 10]).words
    'clearly lighter'
    """
    one, two = np.asarray(first, dtype=float), np.asarray(second, dtype=float)
    dL, dC, dH, _ = delta_parts00(one, two)
    terms: list[tuple[float, str]] = []
    terms.append((abs(dL), "lighter" if dL > 0 else "darker"))
    grey = min(float(chroma(one)), float(chroma(two))) < 5
    if grey:
        # Hue means nothing beside grey: say which way the colour leans instead.
        lean = two[1:] - one[1:]
        axis = int(np.argmax(np.abs(lean)))
        word = (("redder", "greener"), ("yellower", "bluer"))[axis][0 if lean[axis] > 0 else 1]
        terms.append((float(np.hypot(dC, dH)), word))
    else:
        terms.append((abs(dC), "stronger" if dC > 0 else "greyer"))
        region = ("red", "yellow", "green", "blue")[int(((float(hue_deg(one)) + 15) % 360) // 90)]
        terms.append((abs(dH), _TOWARDS[region][0 if dH > 0 else 1]))
    spoken = [
        f"{word} {name}"
        for size, name in sorted(terms, reverse=True)
        if (word := next(text for limit, text in _STEPS if size < limit))
    ]
    return Difference(float(delta_e00(one, two)), ", ".join(spoken) or "the same to the eye")
