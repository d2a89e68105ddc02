"""A picture in halves, so that any part of it is drawn from about as many pixels as the screen has."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from lean_sepia.arrays import Image8
from lean_sepia.photo.read import Pixels

_SMALLEST_SIDE = 256


@dataclass(frozen=True, eq=False)
class Pyramid:
    """8-bit levels (h, w, 3), each half the one before; the first may already be smaller than the picture.

    width, height : of the whole picture, whose pixels are the coordinates of `view`
    """

    width: int
    height: int
    levels: tuple[Image8, ...]

    def level_for(self, scale: float) -> Image8:
        """The smallest level that has at least a pixel for every pixel of the screen; `scale` is screen by picture."""
        wanted = scale * self.width
        return next((level for level in reversed(self.levels) if level.shape[1] >= wanted), self.levels[0])

    def view(self, left: float, top: float, scale: float, width: int, height: int, grey: int) -> Image8:
        """What a screen of width × height shows (height, width, 3), with grey round the picture.

        left, top : the picture's pixel in the screen's upper left corner
        scale : pixels of the screen for one of the picture
        """
        level = self.level_for(scale)
        step = level.shape[1] / self.width  # level pixels by picture pixel
        reduction = scale / step
        matrix = np.array([
            [reduction, 0, 0.5 * reduction - 0.5 - left * scale],
            [0, reduction, 0.5 * reduction - 0.5 - top * scale],
        ])  # fmt: skip
        shown = cv2.warpAffine(
            level, matrix, (width, height), flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
        )
        rows, columns = self.covered(left, top, scale, width, height)
        shown[: rows.start], shown[rows.stop :] = grey, grey
        shown[:, : columns.start], shown[:, columns.stop :] = grey, grey
        return np.asarray(shown, dtype=np.uint8)

    def covered(self, left: float, top: float, scale: float, width: int, height: int) -> tuple[slice, slice]:
        """Rows and columns of such a screen that the picture covers."""
        spans = []
        for start, length, most in ((top, self.height, height), (left, self.width, width)):
            first = min(most, max(0, round(-start * scale)))
            spans.append(slice(first, min(most, max(first, round((length - start) * scale)))))
        return spans[0], spans[1]


def build_pyramid(pixels: Pixels, width: int | None = None, height: int | None = None) -> Pyramid:
    """The pyramid of a picture (h, w, 3), 8 or 16 bit; 8-bit pixels are not copied.

    `width` and `height` are those of the whole picture where `pixels` is a reduced copy.
    """
    base = pixels if pixels.dtype == np.uint8 else (pixels // 257).astype(np.uint8)
    levels = [np.asarray(base)]
    while min(levels[-1].shape[:2]) > 2 * _SMALLEST_SIDE:
        h, w = levels[-1].shape[:2]
        half = cv2.resize(levels[-1], ((w + 1) // 2, (h + 1) // 2), interpolation=cv2.INTER_AREA)
        levels.append(np.asarray(half, dtype=np.uint8))
    return Pyramid(width or pixels.shape[1], height or pixels.shape[0], tuple(levels))
