"""Observer and lights from the CIE's tables, and the 10 nm weights built from them."""

from __future__ import annotations

from functools import cache
from importlib.resources import files

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray
from lean_sepia.colour.spectrum import BANDS, WAVELENGTHS_NM, lagrange_10_to_1_nm

LIGHT_NAMES = ("D65", "A", "FL11", "LED-B3")
"""Lights every recipe is judged under, the working light first."""


@cache
def _table(name: str) -> tuple[list[str], FloatArray]:
    with (files("lean_sepia.colour") / "data" / name).open(encoding="ascii") as file:
        header = file.readline().strip().split(",")
        rows = np.array([[float(cell) for cell in line.split(",")] for line in file])
    return header, rows


def observer_2deg() -> tuple[FloatArray, FloatArray]:
    """CIE 1931 2° observer: wavelengths (471,) nm at 1 nm, and x̄ȳz̄ (471, 3)."""
    _, rows = _table("observer_2deg.csv")
    return rows[:, 0], rows[:, 1:]


def light_power(name: str, wavelengths_nm: npt.ArrayLike) -> FloatArray:
    """Relative power of a CIE light at the given wavelengths, linear between the 5 nm of its table.

    Raises
    ------
    KeyError
        The light is not one of the shipped ones.
    """
    header, rows = _table("lights.csv")
    if name not in header[1:]:
        raise KeyError(f"unknown light {name!r}; known: {', '.join(header[1:])}")
    column = rows[:, header.index(name)]
    return np.interp(np.asarray(wavelengths_nm, dtype=float), rows[:, 0], column, left=0.0, right=0.0)


@cache
def weights(light: str = "D65") -> FloatArray:
    """Weights (31, 3) that turn a 10 nm reflectance into XYZ, Y = 1 for the perfect diffuser.

    Built from the 1 nm observer and light by the method of ASTM E308 and E2022: the reflectance is
    interpolated between its 10 nm values; what lies outside 400–700 nm is folded into the end values.
    """
    wavelengths, observer = observer_2deg()
    power = light_power(light, wavelengths)[:, None] * observer
    power /= power[:, 1].sum()
    inside = (wavelengths >= WAVELENGTHS_NM[0]) & (wavelengths <= WAVELENGTHS_NM[-1])
    table = lagrange_10_to_1_nm().T @ power[inside]
    table[0] += power[wavelengths < WAVELENGTHS_NM[0]].sum(axis=0)
    table[BANDS - 1] += power[wavelengths > WAVELENGTHS_NM[-1]].sum(axis=0)
    table.setflags(write=False)
    return table


@cache
def white(light: str = "D65") -> FloatArray:
    """XYZ (3,) of the perfect diffuser under a light, Y = 1."""
    total = weights(light).sum(axis=0)
    total.setflags(write=False)
    return total


def xyz_from_reflectance(reflectance: npt.ArrayLike, light: str = "D65") -> FloatArray:
    """XYZ (..., 3), Y = 1 for the perfect diffuser, of reflectances (..., 31) in 0–1."""
    return np.asarray(reflectance, dtype=float) @ weights(light)
