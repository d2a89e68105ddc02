"""What is drawn on a photo: marks that do not hide the colour, outlines, dots and a scale bar."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Literal

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF

from lean_sepia.photo.rectify import scale_bar_mm
from lean_sepia.ui.kit.theme import font

_DARK, _LIGHT = QColor(20, 20, 20), QColor(250, 250, 250)
Shape = Literal["circle", "square", "diamond"]


@dataclass(frozen=True)
class Mark:
    """Something drawn on the photo, in its pixels: circles are samples, squares anchors, diamonds the signature.

    A `path` is drawn instead of the shape: closed for a polygon, open for a brush stroke.
    """

    shape: Shape
    x: float
    y: float
    radius: float
    strong: bool = False
    path: tuple[tuple[float, float], ...] = ()
    closed: bool = True
    dashed: bool = False

    @classmethod
    def outline(cls, path: Sequence[tuple[float, float]]) -> Mark:
        """A dashed polygon: an area of the picture."""
        return cls("square", 0, 0, 1, path=tuple(path), dashed=True)


@dataclass(frozen=True)
class Sight:
    """Where a picture lies on the screen: screen = picture · scale + offset."""

    scale: float
    offset: QPointF

    def to_screen(self, point: QPointF) -> QPointF:
        """Picture pixel to widget point."""
        return point * self.scale + self.offset

    def to_picture(self, point: QPointF) -> QPointF:
        """Widget point to picture pixel."""
        return (point - self.offset) / self.scale


def draw_double(
    painter: QPainter, draw: Callable[[], object], width: float = 1.4, dashed: bool = False
) -> None:
    """Draw white inside dark, so that a line shows on anything."""
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for colour, extra in ((_DARK, 2.2), (_LIGHT, 0.0)):
        pen = QPen(colour, width + extra)
        if dashed and not extra:
            pen.setStyle(Qt.PenStyle.DashLine)
        painter.setPen(pen)
        draw()


def draw_shape(painter: QPainter, shape: Shape, centre: QPointF, reach: float, width: float = 1.0) -> None:
    """Draw a circle, diamond or square about a point of the widget."""
    if shape == "circle":
        draw_double(painter, lambda: painter.drawEllipse(centre, reach, reach), width)
    elif shape == "diamond":
        corners = ((0, -reach), (reach, 0), (0, reach), (-reach, 0))
        diamond = QPolygonF([centre + QPointF(dx, dy) for dx, dy in corners])
        draw_double(painter, lambda: painter.drawPolygon(diamond), width)
    else:
        square = QRectF(centre.x() - reach, centre.y() - reach, 2 * reach, 2 * reach)
        draw_double(painter, lambda: painter.drawRect(square), width)


def draw_mark(painter: QPainter, mark: Mark, sight: Sight) -> None:
    """Draw one mark."""
    width = 2.4 if mark.strong else 1.4
    if mark.path:
        line = QPolygonF([sight.to_screen(QPointF(x, y)) for x, y in mark.path])
        draw = painter.drawPolygon if mark.closed else painter.drawPolyline
        draw_double(painter, lambda: draw(line), width, mark.dashed)
        return
    reach = max(6.0, mark.radius * sight.scale)
    draw_shape(painter, mark.shape, sight.to_screen(QPointF(mark.x, mark.y)), reach, width)


def draw_outlines(painter: QPainter, outlines: Sequence[QPolygonF], sight: Sight) -> None:
    """Draw thin closed lines, given in pixels of the picture; they may be thousands."""
    for _pen in _thin_pens(painter, sight, 2.6, 1.1):
        for line in outlines:
            painter.drawPolygon(line)


def draw_dots(painter: QPainter, dots: QPolygonF, sight: Sight) -> None:
    """Draw dots, given in pixels of the picture."""
    for _pen in _thin_pens(painter, sight, 4.0, 2.0):
        painter.drawPoints(dots)


def _thin_pens(painter: QPainter, sight: Sight, dark: float, light: float) -> Iterator[QPen]:
    """A dark, then a light pen whose width is the screen's while the coordinates are the picture's."""
    with _in_picture(painter, sight):
        for colour, width in ((_DARK, dark), (_LIGHT, light)):
            pen = QPen(colour, width)
            pen.setCosmetic(True)
            painter.setPen(pen)
            yield pen


@contextmanager
def _in_picture(painter: QPainter, sight: Sight) -> Iterator[None]:
    painter.save()
    painter.translate(sight.offset)
    painter.scale(sight.scale, sight.scale)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    yield
    painter.restore()


def draw_words(painter: QPainter, at: QPointF, words: str) -> None:
    """Draw light words with a dark edge, which show on anything; `at` is the left end of their base line."""
    outline = QPainterPath()
    outline.addText(at, font(12, True), words)
    painter.setPen(QPen(_DARK, 3))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPath(outline)
    painter.fillPath(outline, _LIGHT)


def draw_scale_bar(painter: QPainter, view: QRectF, sight: Sight, mm_per_px: float) -> None:
    """Draw a round length on the prototype, at the lower left of the view."""
    length_mm = scale_bar_mm(view.width() / sight.scale * mm_per_px)
    width = length_mm / mm_per_px * sight.scale
    left, bottom = view.left() + 14.0, view.bottom() - 16.0
    bar = QPainterPath(QPointF(left, bottom - 4))
    for x, y in ((left, bottom + 4), (left, bottom), (left + width, bottom), (left + width, bottom - 4), (left + width, bottom + 4)):  # fmt: skip
        bar.lineTo(x, y)
    draw_double(painter, lambda: painter.drawPath(bar), 1.6)
    words = f"{length_mm / 1000:g} m" if length_mm >= 1000 else f"{length_mm:g} mm"
    draw_words(painter, QPointF(left + 4, bottom - 8), words)
