"""How coats are drawn: bands by film and share, full fields and flecks."""

from __future__ import annotations

from PySide6.QtCore import QRectF
from PySide6.QtGui import (
    QColor,
    QPainter,
)

from lean_sepia.answers.strata import Band
from lean_sepia.ui.kit.swatch import paint_field, qcolor

COLUMN = 264


def band_heights(bands: tuple[Band, ...], height: float, least: float, most: float) -> list[float]:
    """Heights by film and share of area, thin coats no lower than `least`, the sum no more than `height`."""
    raw = [min(most, max(least, 64 * band.film * max(band.coat.area_share, 0.05))) for band in bands]
    spare = sum(raw) - height
    if spare > 0:
        room = sum(value - least for value in raw)
        share = min(1.0, spare / room) if room > 0 else 0.0
        raw = [value - (value - least) * share for value in raw]
        if sum(raw) > height:
            raw = [value * height / sum(raw) for value in raw]
    return raw


def paint_band(painter: QPainter, rect: QRectF, bands: tuple[Band, ...], band: Band, ink: QColor) -> None:
    """One band: a full coat as a field; marks on a share of the area as flecks over the coat they lie on."""
    if not band.coat.on or band.lab is None or band.coat.area_share > 0.5:
        paint_field(painter, rect, band.lab if band.coat.on else None, ink)
        return
    below = [
        other.lab for other in bands[: bands.index(band)] if other.coat.on and other.coat.area_share > 0.5
    ]
    paint_field(painter, rect, below[-1] if below else None, ink)
    colour, _unused = qcolor(band.lab)
    tall = min(rect.height() - 4, 12.0)
    width = 3.0 + 7.0 * min(1.0, band.coat.area_share * 12)
    count = max(2, int(rect.width() / (width + 9)))
    step = rect.width() / count
    for index in range(count):
        drop = (index % 3 - 1) * min(3.0, rect.height() / 8)
        x = rect.left() + step * (index + 0.5) - width / 2
        painter.fillRect(QRectF(x, rect.center().y() - tall / 2 + drop, width, tall - abs(drop)), colour)
