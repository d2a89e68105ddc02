"""A sample: the corrected colour of a disc with the range in which the truth lies 9 times in 10."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.photo.cast import Cast
from lean_sepia.photo.patch import disc_patch
from lean_sepia.photo.read import Pixels

_Z90 = 1.6448536
_DRAWS = 600


@dataclass(frozen=True)
class SampledColour:
    """The colour of a disc, D65/2°, and how sure it is.

    `de00_90` is the CIEDE2000 radius that holds the true colour 9 times in 10; `lab_range90` gives each
    coordinate its own 90 % interval.
    """

    lab: tuple[float, float, float]
    lab_range90: tuple[tuple[float, float], tuple[float, float], tuple[float, float]]
    de00_90: float
    pixels: int
    clipped_share: float


@cache
def _draws() -> FloatArray:
    """Standard normal draws (n, 3), the same for every sample so that answers repeat exactly."""
    half = np.random.default_rng(90).standard_normal((_DRAWS // 2, 3))
    return np.concatenate([half, -half])


def radius90(lab: FloatArray, covariance: FloatArray) -> float:
    """CIEDE2000 radius round L*a*b* (3,) that holds 90 % of a normal with this covariance (3, 3)."""
    root = np.linalg.cholesky(covariance + 1e-9 * np.eye(3))
    return float(np.quantile(delta_e00(lab, lab + _draws() @ root.T), 0.9))


def sample_disc(pixels: Pixels, cast: Cast, x: float, y: float, radius: float) -> SampledColour:
    """Sample a disc on a picture through a correction.

    Raises
    ------
    SampleError
        The disc lies outside the picture or its radius is not positive.
    """
    patch = disc_patch(pixels, x, y, radius)
    lab = cast.lab(patch.mean)
    covariance = cast.lab_covariance(patch)
    half = _Z90 * np.sqrt(np.diag(covariance))
    low, high = (lab - half).tolist(), (lab + half).tolist()
    return SampledColour(
        lab=(float(lab[0]), float(lab[1]), float(lab[2])),
        lab_range90=((low[0], high[0]), (low[1], high[1]), (low[2], high[2])),
        de00_90=radius90(lab, covariance),
        pixels=patch.pixels,
        clipped_share=patch.clipped_share,
    )
