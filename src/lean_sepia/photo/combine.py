"""One colour from several photos: weighted by how sure each is, with what their errors share and their disagreement carried."""

from __future__ import annotations

from collections.abc import Hashable, Sequence
from dataclasses import dataclass

import numpy as np

from lean_sepia.arrays import FloatArray, triple

_Z90 = 1.6448536
_LEAST_HALF = 0.2
_TOGETHER, _TOGETHER_IN_BATCH = 0.3, 0.85  # correlation of the errors of two photos (practice)
_SUN_SHADE = 0.6  # of the lightness scale: shade of the same paint is rarely darker than this in L* ratio


@dataclass(frozen=True)
class Reading:
    """A corrected colour, the half width of its 90 % intervals (L*, a*, b*), and its radius."""

    lab: tuple[float, float, float]
    half90: tuple[float, float, float]
    de00_90: float


@dataclass(frozen=True)
class Combined:
    """The combined colour, its half intervals and radius, and how far the readings disagree.

    disagreement : how many times further apart the readings lie than their ranges allow; 1 or less is agreement
    """

    lab: tuple[float, float, float]
    half90: tuple[float, float, float]
    de00_90: float
    disagreement: float


def combine(readings: Sequence[Reading], batches: Sequence[Hashable] = ()) -> Combined:
    """Weighted mean by inverse variance; where the readings disagree the range is widened by Birge's ratio.

    Each reading rests on a photo of its own; `batches` names by equal values those of one camera or scan, whose errors go together.
    Widening: Birge, "The calculation of errors by the method of least squares", Phys. Rev. 40 (1932).
    """
    labs = np.array([reading.lab for reading in readings])
    sigma = np.maximum([reading.half90 for reading in readings], _LEAST_HALF) / _Z90
    weight = 1 / sigma**2
    mean = (weight * labs).sum(axis=0) / weight.sum(axis=0)
    ratio = 1.0
    if len(readings) > 1:
        chi = float((weight * (labs - mean) ** 2).sum())
        ratio = float(np.sqrt(chi / (3 * (len(readings) - 1))))
    half = [_Z90 * error_of_mean(one, batches) * max(1.0, ratio) for one in sigma.T]
    radius = error_of_mean([max(reading.de00_90, _LEAST_HALF) for reading in readings], batches)
    return Combined(triple(mean), triple(half), radius * max(1.0, ratio), ratio)


def error_of_mean(errors: FloatArray | Sequence[float], batches: Sequence[Hashable] = ()) -> float:
    """Error of a mean weighted by inverse variance of readings of several photos, from the error of each (n,).

    What is not known of development in general, all photos share a little; those of one batch nearly all of it (practice).
    """
    errors = np.asarray(errors, dtype=float)
    names = list(batches) or list(range(len(errors)))
    together = np.where([[one == other for other in names] for one in names], _TOGETHER_IN_BATCH, _TOGETHER)
    np.fill_diagonal(together, 1.0)
    share = errors**-2 / (errors**-2).sum() * errors
    return min(float(np.sqrt(share @ together @ share)), float(errors.min()))


def same_paint_in_shade(sun: Sequence[float], shade: Sequence[float]) -> bool:
    """Whether two corrected colours of one photo are one paint, the second in the shade of the first.

    Shade scales the light: L* falls, a* and b* fall with it, and what is left turns a little blue, as the sky does that lights
    it. Anything else is another paint (practice).
    """
    L1, a1, b1 = sun
    L2, a2, b2 = shade
    if not _SUN_SHADE * L1 - 8 <= L2 < L1 - 1.5:
        return False
    ratio = (L2 + 16) / (L1 + 16)
    left_a, left_b = a2 - a1 * ratio, b2 - b1 * ratio
    darker = 1 - ratio
    return abs(left_a) < 2.5 + 8 * darker and -4 - 30 * darker < left_b < 2.5
