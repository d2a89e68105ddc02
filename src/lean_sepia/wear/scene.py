"""A region as paints under uneven light and dust, so that each paint of it has one colour wherever it lies.

A pixel is light × ((1 − veil) × paint + veil × dust), in linear light; light and veil are smooth and the same for all paints of
the region. Everything is told in the mean light and dust of the region.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import BoolArray, FloatArray, IntArray
from lean_sepia.colour.lab import xyz_from_lab
from lean_sepia.colour.lights import white
from lean_sepia.photo.correction.pictures import smoothed

Spot = tuple[float, float, float]
"""x, y and radius of a disc in a region, in pixels."""

DUST_LAB = (60.0, 4.0, 13.0)
"""The colour of dust; common practice."""

LIGHT_WAVES, VEIL_WAVES = (5, 4), (3, 3)
_DARKEST, _BRIGHTEST = 0.3, 3.0


def encoded(p: FloatArray) -> FloatArray:
    """Linear values (...) as the eye and files weigh them: by their cube root."""
    return np.cbrt(np.maximum(p, 1e-4))


def whitening(spread: FloatArray) -> FloatArray:
    """What (3, 3) encoded values are multiplied by from the right, so that a step of 1 is one deviation of a covariance (3, 3)."""
    return np.asarray(np.linalg.inv(np.linalg.cholesky(spread)).T)


def dust() -> FloatArray:
    """Dust as XYZ (3,) over the white's."""
    return np.asarray(xyz_from_lab(np.array(DUST_LAB)) / white())


@dataclass(frozen=True, eq=False)
class Fields:
    """Light and veil over a region: weights of cosine waves, less their means.

    light : (19,); veil : (8,); mean : the means of the waves of both over the region
    """

    light: FloatArray
    veil: FloatArray
    mean: tuple[FloatArray, FloatArray]

    def over(self, shape: tuple[int, int]) -> tuple[FloatArray, FloatArray]:
        """Light and veil (h, w) over a region of a shape, in single precision; 1 and 0 in the mean."""
        u, v = axis(np.arange(shape[1]), shape[1]), axis(np.arange(shape[0]), shape[0])
        light = _over(u, v, LIGHT_WAVES, self.light) + np.float32(1 - float(self.mean[0] @ self.light))
        veil = _over(u, v, VEIL_WAVES, self.veil) - np.float32(self.mean[1] @ self.veil)
        return np.clip(light, np.float32(_DARKEST), np.float32(_BRIGHTEST)), veil

    def at(self, u: FloatArray, v: FloatArray) -> tuple[FloatArray, FloatArray]:
        """Light and veil (n,) at places from −1 to 1 across and down."""
        light = lit((basis(u, v, LIGHT_WAVES) - self.mean[0]) @ self.light)
        return light, np.asarray((basis(u, v, VEIL_WAVES) - self.mean[1]) @ self.veil)


class Look(Protocol):
    """A region to be read; places are numbers of pixels, row by row."""

    shape: tuple[int, int]

    def single(self, places: IntArray) -> FloatArray:
        """XYZ (n, 3) of pixels."""
        ...

    def smooth(self, places: IntArray) -> FloatArray:
        """XYZ (n, 3) of pixels that were smoothed a little against grain."""
        ...

    def surely(self, expected: FloatArray, spread: FloatArray) -> BoolArray:
        """Pixels (h, w) that surely have a colour, XYZ at nodes (rows, columns, 3); others may have it too."""
        ...


class XyzLook:
    """A region known as XYZ (h, w, 3)."""

    def __init__(self, xyz: FloatArray) -> None:
        self._xyz = np.asarray(xyz, dtype=np.float32)
        self._smooth = smoothed(self._xyz)
        self.shape = (xyz.shape[0], xyz.shape[1])

    def single(self, places: IntArray) -> FloatArray:
        """XYZ (n, 3) of pixels."""
        return np.asarray(self._xyz.reshape(-1, 3)[places])

    def smooth(self, places: IntArray) -> FloatArray:
        """XYZ (n, 3) of pixels that were smoothed a little against grain."""
        return np.asarray(self._smooth.reshape(-1, 3)[places])

    def surely(self, expected: FloatArray, spread: FloatArray) -> BoolArray:  # noqa: ARG002 - a look of another kind needs them
        """None: every pixel is looked at."""
        return np.zeros(self.shape, dtype=bool)


@dataclass(frozen=True, eq=False)
class Scene:
    """Paints of a region and the fields of light and veil over it.

    paints : (k, 3) XYZ over the white's: the ground, the kinds, then what else there is much of
    spread : (3, 3) covariance of a pixel, encoded; likelihood : mean log density, to compare fits; named : how many kinds there are
    """

    paints: FloatArray
    spread: FloatArray
    likelihood: float
    fields: Fields
    named: int

    def flattened(self, look: Look, places: IntArray) -> FloatArray:
        """Pixels XYZ (n, 3) of the region in its mean light and dust, over the white's, in single precision; for some, not for all."""
        rows, columns = np.divmod(places, look.shape[1])
        light, veil = self.fields.at(axis(columns, look.shape[1]), axis(rows, look.shape[0]))
        return _even(look.single(places), light, veil)

    def whole(self, look: Look) -> FloatArray:
        """All pixels XYZ (n, 3) of the region in its mean light and dust, over the white's, in single precision."""
        places = np.arange(look.shape[0] * look.shape[1])
        return evened(look.single(places), places, self.fields.over(look.shape))

    def expected(self, number: int, shape: tuple[int, int], nodes: int = 24) -> FloatArray:
        """XYZ (rows, columns, 3) that a paint has at nodes over a region of a shape, in the light and dust there."""
        small = (max(2, min(nodes, shape[0])), max(2, min(nodes, shape[1])))
        light, veil = self.fields.over(small)
        return np.asarray((light[..., None] * self.paints[number] + veil[..., None] * dust()) * white())


def evened(xyz: FloatArray, places: IntArray, over: tuple[FloatArray, FloatArray]) -> FloatArray:
    """Pixels XYZ (n, 3) at places as they would be in mean light and dust, over the white's; over : light and veil (h, w)."""
    return _even(xyz, over[0].ravel()[places], over[1].ravel()[places])


def _even(xyz: FloatArray, light: FloatArray, veil: FloatArray) -> FloatArray:
    plain = xyz.astype(np.float32) * (1 / white()).astype(np.float32)
    plain -= veil.astype(np.float32)[:, None] * dust().astype(np.float32)
    plain /= light.astype(np.float32)[:, None]
    return np.maximum(plain, np.float32(1e-4))


def axis(places: npt.ArrayLike, length: int) -> FloatArray:
    """Places along a side of some length in pixels, from −1 to 1."""
    return 2 * np.asarray(places, dtype=float) / max(1, length - 1) - 1


def waves(places: FloatArray, count: int) -> FloatArray:
    """Cosines (..., count) of half waves, the first constant."""
    return np.cos(np.pi * np.arange(count) * (places[..., None] + 1) / 2)


def basis(u: FloatArray, v: FloatArray, count: tuple[int, int]) -> FloatArray:
    """Products of waves (n, count) without the constant one."""
    both = waves(u, count[0])[:, :, None] * waves(v, count[1])[:, None, :]
    return np.asarray(both.reshape(len(u), -1)[:, 1:])


def lit(a: FloatArray) -> FloatArray:
    """The light itself from how far it is off its mean, within what can be."""
    return np.clip(1 + a, _DARKEST, _BRIGHTEST)


def _over(u: FloatArray, v: FloatArray, count: tuple[int, int], weights: FloatArray) -> FloatArray:
    """A field (v, u) from its weights."""
    table = np.concatenate([[0.0], weights]).reshape(count)
    down = (waves(v, count[1]) @ table.T).astype(np.float32)
    return np.asarray(down @ waves(u, count[0]).T.astype(np.float32))
