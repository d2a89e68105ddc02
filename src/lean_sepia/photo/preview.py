"""A corrected copy of a picture for the screen; the stored photo is never touched."""

from __future__ import annotations

import cv2
import numpy as np

from lean_sepia.arrays import FloatArray, Image8
from lean_sepia.colour.srgb import linear_from_srgb, linear_from_xyz, srgb_from_linear
from lean_sepia.photo.cast import Cast

_NODES = 33


def corrected_pixels(pixels: Image8, cast: Cast) -> Image8:
    """8-bit sRGB (h, w, 3) of a picture seen through a correction.

    The correction is tabled on a 33³ lattice and interpolated linearly: within 1/255 of the exact value, and
    a hundred times faster on a large picture.
    """
    axis = np.linspace(0, 1, _NODES)
    lattice = np.stack(np.meshgrid(axis, axis, axis, indexing="ij"), axis=-1)
    table = srgb_from_linear(linear_from_xyz(cast.xyz(linear_from_srgb(lattice))))
    table = np.clip(table, 0, 1).astype(np.float32)
    return _trilinear(pixels, table)


def _trilinear(pixels: Image8, table: FloatArray) -> Image8:
    # Per channel value: lattice cell below and the fraction above it.
    position = np.arange(256) * (_NODES - 1) / 255
    cell = np.minimum(position.astype(np.int32), _NODES - 2)
    fraction = (position - cell).astype(np.float32)
    out = np.empty(pixels.shape, dtype=np.uint8)
    flat_table = table.reshape(-1, 3)
    for top in range(0, pixels.shape[0], 256):
        band = pixels[top : top + 256]
        r, g, b = (cell[band[..., c]] for c in range(3))
        fr, fg, fb = (fraction[band[..., c]][..., None] for c in range(3))
        base = (r * _NODES + g) * _NODES + b
        result = np.zeros((*band.shape[:2], 3), dtype=np.float32)
        for dr in (0, 1):
            for dg in (0, 1):
                for db in (0, 1):
                    weight = (fr if dr else 1 - fr) * (fg if dg else 1 - fg) * (fb if db else 1 - fb)
                    result += weight * flat_table[base + (dr * _NODES + dg) * _NODES + db]
        out[top : top + 256] = cv2.convertScaleAbs(result, alpha=255.0)
    return out
