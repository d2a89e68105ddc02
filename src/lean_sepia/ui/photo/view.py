"""What a viewer shows of a picture at one place and zoom: as found, and corrected where there is a correction."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from PySide6.QtGui import QImage

from lean_sepia.arrays import BoolArray, Image8
from lean_sepia.photo.patch import CLIPPED_HIGH, CLIPPED_LOW
from lean_sepia.photo.preview import CorrectionTable
from lean_sepia.photo.pyramid import Pyramid
from lean_sepia.ui.photo.screen_image import lent_image, to_bgra


@dataclass(frozen=True)
class Place:
    """Which part of the picture is seen, and how.

    corner : x, y of the picture in the upper left corner; scale : pixels of the screen for one of the picture
    width, height : of the screen; grey : round the picture
    both : as found is wanted too; clipped : stripes where a channel is at its end
    """

    corner: tuple[float, float]
    scale: float
    width: int
    height: int
    grey: int
    both: bool
    clipped: bool


@dataclass(frozen=True, eq=False)
class View:
    """The images at one place, and the pixels they look at."""

    place: Place
    found: QImage | None
    corrected: QImage | None
    pixels: tuple[Image8 | None, Image8 | None]


def make_view(pyramid: Pyramid, correction: CorrectionTable | None, place: Place) -> View:
    """What is seen of a picture at a place."""
    area = (*place.corner, place.scale, place.width, place.height)
    found = pyramid.view(*area, place.grey)
    inside = pyramid.covered(*area)
    corrected = None
    if correction is not None and found[inside].size:
        corrected = np.full((place.height, place.width, 4), place.grey, dtype=np.uint8)
        corrected[inside] = correction.apply_bgra(np.ascontiguousarray(found[inside]))
    shown = to_bgra(found) if place.both else None
    if place.clipped:
        ends = np.any((found[inside] >= CLIPPED_HIGH) | (found[inside] <= CLIPPED_LOW), axis=2)
        for picture in (shown, corrected):
            if picture is not None:
                picture[inside] = _striped(picture[inside], ends)
    lent, lent_corrected = (None if pixels is None else lent_image(pixels) for pixels in (shown, corrected))
    return View(place, lent, lent_corrected, (shown, corrected))


def _striped(pixels: Image8, where: BoolArray) -> Image8:
    """Black and white stripes over a mask (h, w)."""
    rows, columns = np.ogrid[: where.shape[0], : where.shape[1]]
    light = ((rows + columns) // 4 % 2 * 255).astype(np.uint8)
    return np.where(where[..., None], light[..., None], pixels)
