"""A veil over a photo that shows where it is lit by other light: the hue by which the light is off, stronger where it is more."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QEvent, QObject, QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from lean_sepia.arrays import Image8
from lean_sepia.colour.srgb import srgb_from_lab
from lean_sepia.photo.correction.light_map import LightMap
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.photo.viewer import PhotoViewer

_COLUMNS, _ROWS = 48, 32
_LIGHTNESS, _STRONGER, _FULL_OFF, _MOST = 62.0, 3.0, 14.0, 0.5


@guarded
class LightVeil(QWidget):
    """Lies over a viewer and lets the pointer through."""

    def __init__(self, viewer: PhotoViewer) -> None:
        super().__init__(viewer)
        self._viewer = viewer
        self._image: QImage | None = None
        self._size = (1, 1)
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        viewer.installEventFilter(self)
        self.hide()

    def show_map(self, lights: LightMap | None) -> None:
        """Show a map, or nothing."""
        self.setVisible(lights is not None)
        if lights is not None:
            self._image, self._size = _veil(lights), lights.size
            self.setGeometry(self._viewer.rect())
            self.update()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.Resize:
            self.setGeometry(self._viewer.rect())
        return super().eventFilter(watched, event)

    def paintEvent(self, _event: QPaintEvent) -> None:
        if self._image is None:
            return
        origin, beside = (self._viewer.to_picture(QPointF(at, at)) for at in (0.0, 100.0))
        scale = 100 / max(1e-6, beside.x() - origin.x())
        corner = QPointF(-origin.x() * scale, -origin.y() * scale)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(
            QRectF(corner.x(), corner.y(), self._size[0] * scale, self._size[1] * scale), self._image
        )


def _veil(lights: LightMap) -> QImage:
    """The map as a small picture with transparency."""
    off = lights.over(_COLUMNS, _ROWS)
    labs = np.concatenate([np.full((*off.shape[:2], 1), _LIGHTNESS), _STRONGER * off], axis=-1)
    share = np.clip(np.hypot(off[..., 0], off[..., 1]) / _FULL_OFF, 0, 1) * _MOST
    rgb = np.clip(srgb_from_lab(labs), 0, 1)
    pixels: Image8 = (255 * np.concatenate([rgb, share[..., None]], axis=-1)).round().astype(np.uint8)
    return QImage(pixels.tobytes(), _COLUMNS, _ROWS, 4 * _COLUMNS, QImage.Format.Format_RGBA8888).copy()
