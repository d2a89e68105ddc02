"""A corrected view of a picture for the screen; the stored photo is never touched."""

from __future__ import annotations

from functools import cache

import cv2
import numpy as np

from lean_sepia.arrays import FloatArray, Image8, IntArray
from lean_sepia.colour.srgb import linear_from_srgb, linear_from_xyz, srgb_from_linear
from lean_sepia.photo.correction.cast import Cast, lattice

_NODES = 25
_BITS = (5, 6, 5)  # of red, green and blue in a packed pixel
_TILE = 64


class CorrectionTable:
    """A correction as two tables of 65 536 packed colours: what to add to a pixel and what to take off it.

    The pixel is dithered before it is packed, so that the tables' coarseness becomes faint grain and never a band: within
    1/255 of the exact value in the mean, and fast enough to follow an anchor that is moved.
    """

    def __init__(self, cast: Cast) -> None:
        nodes = lattice(_NODES)
        # Not clipped to what a screen shows: a cell on the edge of that would pull its neighbours with it.
        linear = linear_from_xyz(cast.xyz(linear_from_srgb(nodes)))
        shift = np.clip(255 * (srgb_from_linear(linear) - nodes), -255, 254).astype(np.float32)
        red, green, blue = (_between(bits) for bits in _BITS)
        rows: FloatArray = (red @ shift.reshape(_NODES, -1)).reshape(-1, _NODES, _NODES * 3)
        planes: FloatArray = (green @ rows).reshape(-1, _NODES, 3)
        cells: FloatArray = (blue @ planes).reshape(-1, 3)
        # Cells run red, green, blue, as the numbers of packed pixels do.
        self._more = _packed(cells, 1)
        self._less = _packed(cells, -1)

    def apply(self, pixels: Image8) -> Image8:
        """Corrected 8-bit sRGB (h, w, 3)."""
        return np.asarray(cv2.cvtColor(self.apply_bgra(pixels), cv2.COLOR_BGRA2RGB))

    def apply_bgra(self, pixels: Image8) -> Image8:
        """Corrected pixels as blue, green, red and a spare byte (h, w, 4): the form a screen wants."""
        height, width, _ = pixels.shape
        across, down = -(-width // _TILE), -(-height // _TILE)
        grain = np.tile(_dither(), (down, across, 1))[:height, :width]
        index = cv2.cvtColor(cv2.add(pixels, grain), cv2.COLOR_RGB2BGR565).view(np.uint16)[..., 0]
        wide = cv2.cvtColor(pixels, cv2.COLOR_RGB2BGRA)
        more = self._more[index].view(np.uint8).reshape(height, width, 4)
        less = self._less[index].view(np.uint8).reshape(height, width, 4)
        return np.asarray(cv2.subtract(cv2.add(wide, more), less))


def _between(bits: int) -> FloatArray:
    """Linear interpolation (2^bits, nodes) from the lattice to the lower corners of a channel's cells."""
    place = np.arange(2**bits) * 2 ** (8 - bits) / 255 * (_NODES - 1)
    return np.maximum(0, 1 - np.abs(place[:, None] - np.arange(_NODES))).astype(np.float32)


def _packed(shift: FloatArray, sign: int) -> IntArray:
    """What is positive of sign × red, green, blue (n, 3), rounded, as four bytes in one number."""
    positive = cv2.addWeighted(shift[None], sign, shift[None], 0, 0, dtype=cv2.CV_8U)
    bytes_ = cv2.cvtColor(positive, cv2.COLOR_RGB2BGRA)
    bytes_[..., 3] = 0
    return bytes_.view(np.uint32).ravel()


@cache
def _dither() -> Image8:
    """Even noise (64, 64, 3) of the size of a cell, the same at every repaint."""
    rng = np.random.default_rng(565)
    return np.stack(
        [
            rng.permutation(_TILE * _TILE).reshape(_TILE, _TILE) * 2 ** (8 - bits) // _TILE**2
            for bits in _BITS
        ],
        axis=-1,
    ).astype(np.uint8)
