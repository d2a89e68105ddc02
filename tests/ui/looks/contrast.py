"""How well words stand out from what they are written on, read off the pixels of a window."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from PySide6.QtCore import QPoint, QRect
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QWidget
from tests.ui.looks.cut import _CONTROLS

READABLE = 4.5  # WCAG 2.1, success criterion 1.4.3
_EDGE = 3


def pixels(window: QWidget, box: QRect) -> np.ndarray:
    """Part of a window, each pixel as 0xRRGGBB, (h, w)."""
    image = window.grab(box).toImage().convertToFormat(QImage.Format.Format_RGB32)
    rows = np.frombuffer(image.constBits(), np.uint32).reshape(image.height(), image.bytesPerLine() // 4)
    return rows[:, : image.width()] & 0xFFFFFF


def luminance(rgb: np.ndarray) -> np.ndarray:
    """Relative luminance of (n,) colours as 0xRRGGBB, as WCAG 2.1 defines it."""
    value = np.stack([rgb >> shift & 255 for shift in (16, 8, 0)], axis=-1) / 255
    linear = np.where(value <= 0.04045, value / 12.92, ((value + 0.055) / 1.055) ** 2.4)
    return linear @ [0.2126, 0.7152, 0.0722]


def contrast(widget: QWidget) -> float:
    """Between the ground of a control, its commonest colour, and what differs most from it."""
    area = pixels(widget.window(), QRect(widget.mapTo(widget.window(), QPoint()), widget.size()))
    inside = area[_EDGE:-_EDGE, _EDGE:-_EDGE] if min(area.shape[:2]) > 4 * _EDGE else area
    colours, counts = np.unique(inside, return_counts=True)
    ground, all_of = luminance(colours[counts.argmax()]), luminance(colours)
    return float(((np.maximum(all_of, ground) + 0.05) / (np.minimum(all_of, ground) + 0.05)).max())


def words_of(widget: QWidget) -> str:
    """What is written in a control, or stands in its place until something is."""
    for words in ("text", "currentText", "placeholderText"):
        said = getattr(widget, words, str)()
        if str(said).strip():
            return str(said)
    return ""


def too_faint(top: QWidget) -> Iterator[str]:
    """Every control whose words cannot be read well enough, where it is wholly in sight."""
    for widget in top.findChildren(QWidget):
        if not isinstance(widget, _CONTROLS) or not widget.isVisible() or not words_of(widget):
            continue
        if widget.visibleRegion().boundingRect() != widget.rect():
            continue
        if (found := contrast(widget)) < READABLE:
            yield f"{type(widget).__name__} “{words_of(widget)[:40]}” {found:.1f} : 1"
