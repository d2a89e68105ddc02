"""What light and camera, or film, a picture may have been taken with: families of corrections, before any anchor.

Each family is a normal distribution over the parameters of `cast_model`: under which casts it turns up, and which
mixing goes with each. The digital families were fitted by `scripts/make_cast_families.py` to cameras simulated under
CIE lights, planckian radiators and phases of daylight; the widths of the film family are practice, from dyes that see
a little of each other's light and curves that are not straight.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache, cached_property
from importlib.resources import files

import numpy as np

from lean_sepia.arrays import FloatArray
from lean_sepia.language import N_
from lean_sepia.photo.correction.cast_model import CURVE, MIXING, PARAMETERS

FAMILY_PARAMETERS = np.r_[1, 2, MIXING]
"""The parameters that the shipped table speaks of: the cast and the mixing."""

_KNOWN_EXPOSURE_WIDTH, _FOUND_EXPOSURE_WIDTH = 1.5, 0.22
_FOUND_CAST_WIDTH, _FILM_CAST_WIDTH = 0.30, 0.5
_DIGITAL_CURVE, _FILM_CURVE = (0.02, 0.01), (0.09, 0.04)
_FILM_MIXING_WIDTH, _FILM_ROOT_WIDTH = 0.048, 0.01
_DIGITAL_MISFIT, _FILM_MISFIT = (0.6, 1.7, 1.4), (1.0, 1.2, 1.2)
_DIGITAL_GRAIN, _FILM_GRAIN = (0.012, 0.8), (0.06, 0.4)
_DIGITAL_SCALES = ((1.0, 1.0, 1.0), (0.59, 0.89, 0.84), (0.62, 0.93, 0.87), (0.61, 1.52, 1.25))
_FILM_SCALES = ((1.0, 1.0, 1.0), (1.0, 1.1, 1.2), (1.0, 0.64, 0.58), (0.9, 0.8, 0.95))
LIGHT_WORDS = {
    "daylight": N_("daylight"), "incandescent light": N_("incandescent light"), "fluorescent light": N_("fluorescent light"),
    "three-band fluorescent light": N_("three-band fluorescent light"), "LED light": N_("LED light"), "film": N_("film"),
}  # fmt: skip
SHARES = {
    "daylight": 0.40, "incandescent light": 0.13, "fluorescent light": 0.09, "three-band fluorescent light": 0.09,
    "LED light": 0.14, "film": 0.15,
}  # fmt: skip
"""How often each is met before anything is known of the picture (practice)."""


@dataclass(frozen=True, eq=False)
class Family:
    """A kind of picture: its name, how often it is met, and mean (21,) and covariance (21, 21) of its parameters.

    misfit : (3,) what the model does not follow, in L*, a*, b*
    grain : relative scatter of its pixels in an even area, and the width of its logarithm
    """

    name: str
    share: float
    mean: FloatArray
    covariance: FloatArray
    misfit: tuple[float, float, float]
    grain: tuple[float, float]

    @cached_property
    def precision(self) -> FloatArray:
        """Inverse (21, 21) of the covariance."""
        return np.asarray(np.linalg.inv(self.covariance))

    def grain_evidence(self, scatter: float) -> float:
        """Log of how well a relative scatter of pixels goes with this family."""
        usual, width = self.grain
        return float(-0.5 * (np.log(max(scatter, 1e-3) / usual) / width) ** 2 - np.log(width))


def _curve_covariance(widths: tuple[float, float]) -> FloatArray:
    """Three exponents that mostly stray together."""
    together, apart = widths
    return together**2 * np.ones((3, 3)) + apart**2 * np.eye(3)


def _film(exposure_width: float, cast_width: float) -> tuple[FloatArray, FloatArray]:
    covariance = np.zeros((PARAMETERS, PARAMETERS))
    covariance[0, 0] = exposure_width**2
    covariance[1, 1] = covariance[2, 2] = cast_width**2
    covariance[CURVE, CURVE] = _curve_covariance(_FILM_CURVE)
    widths = np.tile([_FILM_MIXING_WIDTH] * 2 + [_FILM_ROOT_WIDTH] * 3, 3)
    covariance[MIXING, MIXING] = np.diag(widths**2)
    return np.zeros(PARAMETERS), covariance


@cache
def _table() -> dict[str, tuple[FloatArray, FloatArray]]:
    """Mean (17,) and covariance (17, 17) by family, as the script wrote them."""
    size = len(FAMILY_PARAMETERS)
    lower = np.tril_indices(size)
    answer: dict[str, tuple[FloatArray, FloatArray]] = {}
    with (files("lean_sepia.photo") / "data" / "cast_families.csv").open(encoding="ascii") as file:
        file.readline()
        for line in file:
            name, *cells = line.strip().split(",")
            values = np.array([float(cell) for cell in cells])
            half = np.zeros((size, size))
            half[lower] = values[size:]
            answer[name] = (values[:size], half + np.tril(half, -1).T)
    return answer


@cache
def families(known_lightness: bool) -> tuple[Family, ...]:
    """Every family; with no known lightness the exposure is believed to be about as found."""
    exposure = _KNOWN_EXPOSURE_WIDTH if known_lightness else _FOUND_EXPOSURE_WIDTH
    answer = []
    for name, share in SHARES.items():
        misfit, grain = _DIGITAL_MISFIT, _DIGITAL_GRAIN
        if name == "film":
            mean, covariance = _film(exposure, _FILM_CAST_WIDTH)
            misfit, grain = _FILM_MISFIT, _FILM_GRAIN
        else:
            mean, covariance = np.zeros(PARAMETERS), np.zeros((PARAMETERS, PARAMETERS))
            mean[FAMILY_PARAMETERS], covariance[np.ix_(FAMILY_PARAMETERS, FAMILY_PARAMETERS)] = _table()[name]
            covariance[0, 0] = exposure**2
            covariance[CURVE, CURVE] = _curve_covariance(_DIGITAL_CURVE)
        answer.append(Family(name, share, mean, covariance, misfit, grain))
    return tuple(answer)


@cache
def as_found() -> Family:
    """A picture nothing is known of: taken as it is, with a wide doubt about exposure and cast."""
    mean, covariance = _film(_FOUND_EXPOSURE_WIDTH, _FOUND_CAST_WIDTH)
    return Family("as found", 1.0, mean, covariance, _FILM_MISFIT, _FILM_GRAIN)


def range_scale(family: str, known: int) -> tuple[float, float, float]:
    """What a family's own uncertainty in L*, a*, b* is multiplied by, so that ranges hold 9 times in 10.

    Measured by `scripts/calibrate_ranges.py` on simulated photos with one, two, and three or more anchors of known colour.
    """
    table = _FILM_SCALES if family in ("film", "as found") else _DIGITAL_SCALES
    return table[min(known, 3)]
