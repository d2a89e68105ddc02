"""What grey a surface gives on black-and-white film.

Exposures are sums over 380–700 nm under the light of ISO 7589 (sensitometric daylight or studio tungsten, lens
included), relative to a perfect white in the same light. The emulsions' and lens filters' curves are from memory: blue-sensitive
to about 500 nm, orthochromatic to 590, panchromatic to 660; yellow, orange and red filters cut on at 480, 550 and
600 nm. Reflectances are known from 400 nm on and continue flat below.
"""

from __future__ import annotations

from functools import cache
from importlib.resources import files
from typing import Literal, get_args

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.spectrum import BANDS, WAVELENGTHS_NM

Emulsion = Literal["blue", "ortho", "pan"]
LensFilter = Literal["none", "yellow", "orange", "red"]
FilmLight = Literal["daylight", "tungsten"]
EMULSIONS: tuple[Emulsion, ...] = get_args(Emulsion)
LENS_FILTERS: tuple[LensFilter, ...] = get_args(LensFilter)
FILM_LIGHTS: tuple[FilmLight, ...] = get_args(FilmLight)


@cache
def _table(name: str) -> dict[str, FloatArray]:
    with (files("lean_sepia.colour") / "data" / name).open(encoding="ascii") as file:
        header = file.readline().strip().split(",")
        rows = np.array([[float(cell) for cell in line.split(",")] for line in file])
    return {title: rows[:, index] for index, title in enumerate(header)}


@cache
def film_weights(
    emulsion: Emulsion, lens_filter: LensFilter = "none", light: FilmLight = "daylight"
) -> FloatArray:
    """Weights (31,) that turn a 10 nm reflectance into a linear exposure, 1 for the perfect white.

    Raises
    ------
    KeyError
        An emulsion, filter or light that is not shipped.
    """
    sensitivity = _table("emulsions.csv")[emulsion] * _table("film_lights.csv")[light]
    if lens_filter != "none":
        sensitivity = sensitivity * _table("lens_filters.csv")[lens_filter]
    nm = _table("emulsions.csv")["nm"]
    below = nm < WAVELENGTHS_NM[0]
    weights = sensitivity[~below][:BANDS].copy()
    weights[0] += sensitivity[below].sum()
    weights /= weights.sum()
    weights.setflags(write=False)
    return weights


def film_grey(
    reflectance: npt.ArrayLike,
    emulsion: Emulsion,
    lens_filter: LensFilter = "none",
    light: FilmLight = "daylight",
) -> FloatArray:
    """Linear exposure (...), 0 black to 1 a perfect white in the same light, of reflectances (..., 31) in 0–1.

    >>> bool(np.isclose(film_grey(np.full(31, 0.4), "ortho"), 0.4))
    True
    """
    return np.asarray(reflectance, dtype=float) @ film_weights(emulsion, lens_filter, light)
