"""Pixels of the core as the screen wants them."""

from __future__ import annotations

import cv2
import numpy as np
from PySide6.QtGui import QImage

from lean_sepia.arrays import Image8


def to_bgra(pixels: Image8) -> Image8:
    """8-bit pixels (h, w, 3) in the form (h, w, 4) that is drawn fastest."""
    return np.asarray(cv2.cvtColor(np.ascontiguousarray(pixels), cv2.COLOR_RGB2BGRA))


def lent_image(bgra: Image8) -> QImage:
    """A QImage that looks at pixels (h, w, 4), which must outlive it unchanged."""
    height, width, _ = bgra.shape
    return QImage(bgra.data, width, height, 4 * width, QImage.Format.Format_RGB32)


def to_image(pixels: Image8) -> QImage:
    """A QImage that owns a copy of 8-bit pixels (h, w, 3)."""
    return lent_image(to_bgra(pixels)).copy()
