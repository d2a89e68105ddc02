"""Whole ways from a surface to a picture file, each kept as its smooth inverse: what the picture shows to L*a*b*.

Each of some thousand simulated worlds has a sensor, a light, a white balance, a matrix or none, and a rendering: curve, saturation,
dyes and their fading, scan (`scripts/simulated_worlds.py`). Its inverse has two parts. A curve for each channel takes what the
file holds to the cube root of the reflectance of the grey that shows so; greys come out exactly. Then a mixture of the three
roots, of second and third order in their differences and nothing on greys, is added to what a standard development would make of them: it makes up
for what the sensor and the dyes mixed.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

import numpy as np

from lean_sepia.arrays import FloatArray, IntArray
from lean_sepia.colour.lights import white
from lean_sepia.colour.srgb import rgb_to_xyz_matrix

KNOTS, FEATURES = 24, 12
"""Knots of a curve, spread evenly over encoded 0–1; terms of the mixture."""

RENDERINGS = ("camera", "phone", "print", "page", "slide", "developed", "undeveloped")
"""How a world's picture was made, in the order of their numbers: `page` is ink on paper."""

LIGHTS = (
    "daylight", "incandescent light", "fluorescent light", "three-band fluorescent light", "LED light",
)  # fmt: skip
"""What a world is lit by, in the order of their numbers."""

_DARKEST, _KAPPA = 216 / 24389, 24389 / 27
_SOFT = 1e-2
_AT_ONCE = 20_000  # colours that stay close to the processor
_STEPS, _LONGEST, _STEP, _RIDGE, _SETTLED = 8, 0.15, 1e-3, 0.3, 5e-4
_ROOTS_WITHIN = (0.05, 1.6)


def standard_lab(roots: FloatArray) -> FloatArray:
    """L*, a*, b* (3, ...) of what a standard development would make of roots (3, ...): linear sRGB is their cubes."""
    red, green, blue = roots**3
    found = []
    for weights in _standard_matrix().tolist():
        light = weights[0] * red + weights[1] * green + weights[2] * blue
        found.append(
            np.where(
                light > _DARKEST,
                np.cbrt(np.maximum(light, _DARKEST)),
                (np.float32(_KAPPA) * light + 16) / 116,
            )
        )
    x, y, z = found
    return np.stack([116 * y - 16, 500 * (x - y), 200 * (y - z)])


@cache
def _standard_matrix() -> FloatArray:
    """Linear sRGB to XYZ over the white's (3, 3)."""
    return rgb_to_xyz_matrix() / white()[:, None]


def root_of_lightness(lightness: float) -> float:
    """Cube root of the reflectance of a grey of this L*."""
    return (lightness + 16) / 116 if lightness > 8 else float(np.cbrt(max(lightness, 0.05) / _KAPPA))


def features_of(roots: FloatArray) -> tuple[FloatArray, ...]:
    """What the mixture is made of, twelve terms (...), nothing on greys, from the roots (3, ...) of red, green and blue."""
    red, blue, level = roots[0] - roots[1], roots[2] - roots[1], roots[1]
    red2, both, blue2 = red * red, red * blue, blue * blue
    strength = np.sqrt(red2 + blue2 - both + _SOFT**2) - _SOFT
    return (
        red, blue, red2, both, blue2, level * red, level * blue, red2 * red, red2 * blue, blue2 * red, blue2 * blue,
        strength * level,
    )  # fmt: skip


@dataclass(frozen=True, eq=False)
class Worlds:
    """Inverses of n worlds.

    curves : (3, 24, n) cube roots of reflectance by channel and knot; mixing : (12, 3, n) what each term adds to L*, a*, b*
    left : (3, n) what the inverse misses, in the even coordinates; rendering, light : (n,) numbers
    """

    curves: FloatArray
    mixing: FloatArray
    left: FloatArray
    rendering: IntArray
    light: IntArray

    def __len__(self) -> int:
        return len(self.rendering)

    def chosen(self, which: Any) -> Worlds:
        """Some of the worlds, by mask or by number."""
        return Worlds(
            self.curves[..., which], self.mixing[..., which], self.left[..., which], self.rendering[which], self.light[which]
        )  # fmt: skip

    def roots(self, encoded: FloatArray) -> FloatArray:
        """Cube roots (3, m, n) of the reflectance of the grey that each channel of encoded colours (m, 3) would be."""
        place = np.clip(encoded, 0, 1) * (KNOTS - 1)
        below = np.minimum(place.astype(int), KNOTS - 2)
        share = (place - below).astype(np.float32)
        found = np.empty((3, len(encoded), len(self)), np.float32)
        for channel in range(3):
            low = self.curves[channel, below[:, channel]]
            found[channel] = (
                low + (self.curves[channel, below[:, channel] + 1] - low) * share[:, channel, None]
            )
        return found

    def lab(self, roots: FloatArray) -> FloatArray:
        """L*a*b* (m, n, 3) of roots (3, m, n)."""
        made = np.empty((*roots.shape[1:], 3), roots.dtype)
        step = max(1, _AT_ONCE // max(1, roots.shape[1]))
        for start in range(0, len(self), step):
            some = slice(start, start + step)
            found = standard_lab(roots[..., some])
            for term, mixing in zip(features_of(roots[..., some]), self.mixing[..., some], strict=True):
                for coordinate in range(3):
                    found[coordinate] += term * mixing[coordinate]
            made[:, some] = np.moveaxis(found, 0, -1)
        return made

    def roots_that_give(self, lab: FloatArray) -> FloatArray:
        """Roots (3, n) from which each world makes one L*a*b* (3,), by Newton's method with its first slopes."""
        roots = np.full((3, 1, len(self)), root_of_lightness(float(lab[0])), np.float32)
        if np.hypot(lab[1], lab[2]) < 0.3:
            return roots[:, 0]
        now = self.lab(roots)[0]
        columns = [
            (self.lab(roots + _STEP * one)[0] - now) / _STEP
            for one in np.eye(3, dtype=np.float32)[:, :, None, None]
        ]
        towards = np.linalg.inv(np.stack(columns, axis=-1) + _RIDGE * np.eye(3, dtype=np.float32))
        for _step in range(_STEPS):
            step = np.clip(np.einsum("kcl,kl->ck", towards, lab - now), -_LONGEST, _LONGEST)
            roots = np.clip(roots + step[:, None].astype(np.float32), *_ROOTS_WITHIN)
            if np.quantile(np.abs(step), 0.99) < _SETTLED:
                break
            now = self.lab(roots)[0]
        return np.asarray(roots[:, 0], dtype=np.float32)


@cache
def all_worlds() -> Worlds:
    """Every world that ships with the program."""
    with (files("lean_sepia.photo") / "data" / "worlds.npz").open("rb") as file, np.load(file) as table:
        return Worlds(
            np.ascontiguousarray(table["curves"].transpose(1, 2, 0), np.float32),
            np.ascontiguousarray(table["mixing"].transpose(1, 2, 0), np.float32),
            np.ascontiguousarray(table["left"].T, np.float32),
            table["rendering"].astype(int), table["light"].astype(int),
        )  # fmt: skip
