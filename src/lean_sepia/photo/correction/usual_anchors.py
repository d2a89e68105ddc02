"""Things that are almost always in a picture: a deep shadow as its floor, a glint of light as its ceiling. They are guesses.

The darkest and the brightest small place that is not clipped are looked for; that a deep shadow is about black and a glint about
white is practice, not knowledge, and such an anchor says little.
"""

from __future__ import annotations

from typing import Literal

import cv2
import numpy as np

from lean_sepia.arrays import BoolArray, Image8
from lean_sepia.errors import SampleError
from lean_sepia.language import _
from lean_sepia.photo.correction.cast import Anchor
from lean_sepia.photo.correction.kind_guess import small
from lean_sepia.photo.patch import CLIPPED_HIGH, CLIPPED_LOW
from lean_sepia.photo.read import Pixels

Usual = Literal["shadow", "glint"]

SHADOW_LIGHTNESS, GLINT_LIGHTNESS = 13.0, 98.0
"""L* of a deep shadow and of a glint (practice)."""

_LONGEST = 1200
_RADIUS_SHARE, _LEAST_RADIUS = 0.004, 1.5
_MOST_SHADOW, _LEAST_GLINT = 0.45, 0.6


def usual_anchor(pixels: Pixels, which: Usual) -> Anchor:
    """The deepest shadow or the brightest glint of a picture, as a guess.

    Raises
    ------
    SampleError
        There is none that is not clipped, or the picture has nothing dark or bright enough.
    """
    height, width = pixels.shape[:2]
    times = min(1.0, _LONGEST / max(height, width))
    radius = max(_LEAST_RADIUS, _RADIUS_SHARE * min(height, width))
    encoded = small(pixels, _LONGEST).astype(np.float32)
    sigma = max(0.6, radius * times)
    blurred = cv2.GaussianBlur(encoded, (0, 0), sigma)
    clipped = _spread((encoded <= CLIPPED_LOW / 255) | (encoded >= CLIPPED_HIGH / 255), sigma)
    level = blurred.max(axis=2) if which == "shadow" else blurred.min(axis=2)
    level = np.where(clipped, np.inf if which == "shadow" else -np.inf, level)
    place = int(level.argmin() if which == "shadow" else level.argmax())
    found = float(level.flat[place])
    if which == "shadow" and not found < _MOST_SHADOW:
        raise SampleError(
            _("No deep shadow that is not clipped: nothing in the picture is dark enough to stand for black.")
        )
    if which == "glint" and not found > _LEAST_GLINT:
        raise SampleError(
            _("No glint that is not clipped: nothing in the picture is bright enough to stand for white.")
        )
    y, x = divmod(place, level.shape[1])
    lightness = SHADOW_LIGHTNESS if which == "shadow" else GLINT_LIGHTNESS
    return Anchor(
        round((x + 0.5) / times - 0.5, 1),
        round((y + 0.5) / times - 0.5, 1),
        round(radius, 1),
        lightness,
        guess=True,
    )


def _spread(clipped: BoolArray, sigma: float) -> BoolArray:
    """Pixels (h, w) near which any channel (h, w, 3) is clipped."""
    reach = 2 * int(np.ceil(sigma)) + 1
    held: Image8 = np.asarray(clipped.any(axis=2), dtype=np.uint8)
    return np.asarray(cv2.dilate(held, np.ones((reach, reach), np.uint8)) > 0)
