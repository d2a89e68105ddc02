"""A sample: the corrected colour of a disc with the range in which the truth lies 9 times in 10."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.language import _
from lean_sepia.photo.correction.cast import Cast, Possible
from lean_sepia.photo.patch import Patch, disc_patch
from lean_sepia.photo.read import Pixels
from lean_sepia.photo.surface import Evenness

_BOUND_SHARE, _TOLD_SHARE = 1 / 3, 0.02
_BEYOND = np.array([0.012, 0.45])
"""How far beyond the lower and the upper end of a channel the truth may lie, in linear light: crushed blacks hide little,
a blown light may have been half as bright again (practice)."""

_CHANNELS: tuple[Literal["red", "green", "blue"], ...] = ("red", "green", "blue")
_ENDS: tuple[Literal["low", "high"], ...] = ("low", "high")


@dataclass(frozen=True)
class Clipped:
    """A channel that lies at an end of its scale over a share of a sample: what lies beyond was not recorded."""

    channel: Literal["red", "green", "blue"]
    end: Literal["low", "high"]
    share: float


@dataclass(frozen=True)
class SampledColour:
    """The colour of a disc, D65/2°, and how sure it is.

    `de00_90` is the CIEDE2000 radius that holds the true colour 9 times in 10; `lab_range90` gives each
    coordinate its own 90 % interval. `clipped` names channels that lie at an end of the scale over part of it, which
    widens the range; where all three do over more than a third the colour is only a `bound`. `uneven` says what it is besides
    one even colour, "" where it is one.
    """

    lab: tuple[float, float, float]
    lab_range90: tuple[tuple[float, float], tuple[float, float], tuple[float, float]]
    de00_90: float
    pixels: int
    clipped_share: float
    clipped: tuple[Clipped, ...] = ()
    bound: bool = False
    uneven: Evenness | Literal[""] = ""


def _quantile(values: FloatArray, weights: FloatArray, shares: Sequence[float]) -> FloatArray:
    """Weighted quantiles of values (n,)."""
    order = np.argsort(values)
    reached = np.cumsum(weights[order]) - 0.5 * weights[order]
    return np.interp(shares, reached / weights.sum(), values[order])


def radius90(lab: FloatArray, possible: Possible) -> float:
    """CIEDE2000 radius round L*a*b* (3,) that holds 90 % of where the colour may lie."""
    labs, weights = possible
    return float(_quantile(delta_e00(lab, labs), weights, (0.9,))[0])


def sample_patch(patch: Patch, cast: Cast) -> SampledColour:
    """The corrected colour of what a disc, polygon or brush stroke holds, and its range."""
    lab = cast.lab(patch.mean)
    labs, weights = cast.possible_labs(_widened(patch))
    ranges = [_quantile(labs[:, c], weights, (0.05, 0.95)) for c in range(3)]
    low_high = [(float(low), float(high)) for low, high in ranges]
    return SampledColour(
        lab=(float(lab[0]), float(lab[1]), float(lab[2])),
        lab_range90=(low_high[0], low_high[1], low_high[2]),
        de00_90=float(_quantile(delta_e00(lab, labs), weights, (0.9,))[0]),
        pixels=patch.pixels,
        clipped_share=patch.clipped_share,
        clipped=_clipped(patch),
        bound=patch.all_clipped > _BOUND_SHARE,
        uneven=patch.uneven,
    )


def _widened(patch: Patch) -> Patch:
    """A patch whose mean is less sure by what its clipped channels did not record."""
    beyond = patch.clipping.T @ _BEYOND
    return replace(patch, cov_of_mean=patch.cov_of_mean + np.diag(beyond**2))


def _clipped(patch: Patch) -> tuple[Clipped, ...]:
    found = [
        Clipped(channel, end, float(patch.clipping_read[row, column]))
        for row, end in enumerate(_ENDS)
        for column, channel in enumerate(_CHANNELS)
        if patch.clipping[row, column] > _TOLD_SHARE
    ]
    return tuple(sorted(found, key=lambda one: -one.share))


def clipping_words(clipped: Sequence[Clipped], bound: bool) -> str:
    """What clipped channels mean for a colour, in words; empty where none is."""
    if not clipped:
        return ""
    names = {"red": _("red"), "green": _("green"), "blue": _("blue")}
    said = []
    for end, beyond in (
        ("high", _("the true colour has more of it")),
        ("low", _("how much of it there is was not recorded")),
    ):
        those = [f"{names[one.channel]} {one.share:.0%}" for one in clipped if one.end == end]
        if those:
            said.append(_("clipped {0}: {1}").format(", ".join(those), beyond))
    if bound:
        said.append(_("only a bound: all three channels are clipped"))
    return "; ".join(said)


def uneven_words(uneven: str) -> str:
    """What a sample is besides one even colour, and what follows from it; empty where it is one."""
    words = {
        "screen": _("a printed screen: read as the mean of its light over whole cells"),
        "two": _("two colours, or light and shade, meet in it: the range holds both"),
        "rough": _("rough, or coarse in grain: a larger sample is surer"),
    }
    return words.get(uneven, "")


def sample_disc(pixels: Pixels, cast: Cast, x: float, y: float, radius: float) -> SampledColour:
    """Sample a disc on a picture through a correction.

    Raises
    ------
    SampleError
        The disc lies outside the picture or its radius is not positive.
    """
    return sample_patch(disc_patch(pixels, x, y, radius), cast)
