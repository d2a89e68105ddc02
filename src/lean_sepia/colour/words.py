"""Colour names and differences in plain words, from L*, C* and h in CIEDE2000 terms."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from lean_sepia.colour.ciede2000 import delta_parts00, of_parts00
from lean_sepia.colour.lab import chroma, hue_deg
from lean_sepia.language import N_, _

_HUES = (
    (20, N_("pink-red")), (45, N_("red")), (62, N_("orange")), (80, N_("ochre")), (100, N_("yellow")), (125, N_("yellow-green")),
    (165, N_("green")), (212, N_("blue-green")), (238, N_("greenish blue")), (275, N_("blue")), (310, N_("violet")), (345, N_("purple")),
    (360, N_("pink-red")),
)  # fmt: skip

# Below 0.25 nobody sees it; the steps above follow common practice, no source.
_STEPS = (
    (0.25, ""),
    (0.6, N_("very slightly")),
    (1.2, N_("a touch")),
    (2.5, N_("a little")),
    (5.0, N_("clearly")),
    (np.inf, N_("much")),
)

_TOWARDS = {  # a quarter of the circle about each axis: word when h grows, when h falls, the nearest direction of the a*b* plane
    "red": (N_("yellower"), N_("bluer")),
    "yellow": (N_("greener"), N_("redder")),
    "green": (N_("bluer"), N_("yellower")),
    "blue": (N_("redder"), N_("greener")),
}


def colour_name(lab: npt.ArrayLike) -> str:
    """A plain name such as "dark greyed blue-green" for one L*a*b* (3,)."""
    table = np.asarray(lab, dtype=float)
    lightness, c, h = float(table[0]), float(chroma(table)), float(hue_deg(table))
    depth = (
        N_("very dark {0}") if lightness < 20 else N_("dark {0}") if lightness < 38
        else N_("pale {0}") if lightness > 78 else "{0}"
    )  # fmt: skip
    if c < 3:
        if lightness < 15 or lightness > 93:
            return _("black") if lightness < 15 else _("white")
        return _(depth).format(_("grey"))
    hue = next(name for limit, name in _HUES if h <= limit)
    if c < 9:
        said = _(depth).format(_("grey, {0} side")) if lightness < 85 else _("off-white, {0} side")
        return said.format(_(hue))
    if 35 <= h < 100 and lightness < 48:
        hue = N_("brown") if h > 50 else N_("red-brown")
    strength = N_("greyed {0}") if c < 24 else N_("strong {0}") if c > 60 else "{0}"
    return _(depth).format(_(strength).format(_(hue)))


@dataclass(frozen=True)
class Difference:
    """How a second colour differs from a first: the figure, and by how much in which directions, the greatest first.

    terms : pairs of a step, such as "clearly", and a direction, such as "lighter"; none where no eye tells them apart
    """

    de00: float
    terms: tuple[tuple[str, str], ...]

    @property
    def same(self) -> bool:
        """Whether no eye tells them apart."""
        return not self.terms

    @property
    def words(self) -> str:
        """The sentence part about the second colour."""
        said = [_("{0} {1}").format(_(step), _(direction)) for step, direction in self.terms]
        return ", ".join(said) or _("the same to the eye")


def difference(first: npt.ArrayLike, second: npt.ArrayLike) -> Difference:
    """CIEDE2000 and words for how the *second* L*a*b* (3,) differs from the first.

    >>> difference([50, 10, 10], [54, 10, 10]).words
    'clearly lighter'
    """
    one, two = np.asarray(first, dtype=float), np.asarray(second, dtype=float)
    parts = delta_parts00(one, two)
    dL, dC, dH, _rest = parts
    terms: list[tuple[float, str]] = []
    terms.append((abs(dL), N_("lighter") if dL > 0 else N_("darker")))
    grey = min(float(chroma(one)), float(chroma(two))) < 5
    if grey:
        # Hue means nothing beside grey: say which way the colour leans instead.
        lean = two[1:] - one[1:]
        axis = int(np.argmax(np.abs(lean)))
        word = (("redder", "greener"), ("yellower", "bluer"))[axis][0 if lean[axis] > 0 else 1]
        terms.append((float(np.hypot(dC, dH)), word))
    else:
        terms.append((abs(dC), N_("stronger") if dC > 0 else N_("greyer")))
        region = ("red", "yellow", "green", "blue")[int(((float(hue_deg(one)) + 45) % 360) // 90)]
        terms.append((abs(dH), _TOWARDS[region][0 if dH > 0 else 1]))
    told = tuple(
        (step, direction)
        for size, direction in sorted(terms, reverse=True)
        if (step := next(text for limit, text in _STEPS if size < limit))
    )
    return Difference(float(of_parts00(parts)), told)
