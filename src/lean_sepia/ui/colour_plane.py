"""A small a*b* plane with a lightness bar: where colours lie, their range, and the ways between them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import (
    QColor,
    QLinearGradient,
    QPainter,
    QPainterPath,
    QPainterPathStroker,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import QWidget

from lean_sepia.colour.srgb import screen_rgb
from lean_sepia.ui.swatch import Lab, qcolor
from lean_sepia.ui.theme import WELL, WELL_TEXT, font


@dataclass(frozen=True)
class Point:
    """A colour on the plane: the target is round, a recipe square, a stray drop small."""

    lab: Lab
    shape: Literal["round", "square", "small"] = "round"
    name: str = ""


@dataclass(frozen=True)
class Way:
    """A path of colours, such as a base being lightened."""

    labs: tuple[Lab, ...]
    name: str
    strong: bool = False


class ColourPlane(QWidget):
    """Draws points, ways and one dashed range; the scale follows what is shown."""

    def __init__(self, lightness: bool = True) -> None:
        super().__init__()
        self._points: tuple[Point, ...] = ()
        self._ways: tuple[Way, ...] = ()
        self._range: tuple[Lab, float, float] | None = None
        self._halo: tuple[Lab, ...] = ()
        self._bar = lightness
        self.setMinimumSize(180, 190)
        self.setAccessibleName(self.tr("Colours in the plane of a* and b*"))

    def sizeHint(self) -> QSize:
        return QSize(240, 168)

    def show_colours(
        self,
        points: Sequence[Point],
        ways: Sequence[Way] = (),
        within: tuple[Lab, float, float] | None = None,
        halo: Sequence[Lab] = (),
    ) -> None:
        """Show colours; `within` is a centre and the half axes of its range in a* and b*, `halo` what a stray drop does."""
        self._halo = tuple(halo)
        self._points, self._ways, self._range = tuple(points), tuple(ways), within
        self.setAccessibleDescription(
            "; ".join(f"{p.name} {p.lab[1]:.0f}, {p.lab[2]:.0f}" for p in points if p.name)
        )
        self.update()

    def _frame(self) -> tuple[float, float, float]:
        """Centre a*, b* and half the span."""
        labs = (
            [p.lab for p in self._points] + list(self._halo) + [lab for way in self._ways for lab in way.labs]
        )
        if self._range:
            (L, a, b), da, db = self._range
            labs += [(L, a - da, b - db), (L, a + da, b + db)]
        if not labs:
            return 0.0, 0.0, 20.0
        a_low, a_high = min(lab[1] for lab in labs), max(lab[1] for lab in labs)
        b_low, b_high = min(lab[2] for lab in labs), max(lab[2] for lab in labs)
        return (a_low + a_high) / 2, (b_low + b_high) / 2, max(a_high - a_low, b_high - b_low, 6.0) * 0.62

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        plane = QRectF(0, 0, self.width() - (34 if self._bar else 0), self.height())
        side = min(plane.width(), plane.height())
        painter.fillRect(plane, self.palette().color(WELL))
        a0, b0, half = self._frame()
        scale = side / 2 / half

        def place(lab: Lab) -> QPointF:
            return QPointF(
                plane.center().x() + (lab[1] - a0) * scale, plane.center().y() - (lab[2] - b0) * scale
            )

        painter.setClipRect(plane)
        ink = self.palette().color(WELL_TEXT)
        self._grid(painter, plane, a0, b0, half, scale, ink)
        for way in self._ways:
            path = QPainterPath(place(way.labs[0]))
            for lab in way.labs[1:]:
                path.lineTo(place(lab))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(ink, 2.4 if way.strong else 1.1))
            painter.drawPath(path)
        self._draw_halo(painter, [place(lab) for lab in self._halo], ink)
        if self._range:
            (L, a, b), da, db = self._range
            painter.setPen(QPen(ink, 1.2, Qt.PenStyle.DashLine))
            painter.drawEllipse(place((L, a, b)), da * scale, db * scale)
        self._draw_points(painter, place, ink)
        painter.setFont(font(11))
        painter.setPen(ink)
        for way in self._ways:
            if way.name:
                # Above the line where it turns up, below where it turns down: clear of its own way and of the goal.
                start, end = place(way.labs[0]), place(way.labs[-1])
                top = end.y() - 20 if end.y() < start.y() and way.strong else end.y() + 5
                left = min(max(plane.left() + 4, end.x() - 50), plane.right() - 104)
                painter.drawText(QRectF(left, top, 100, 14), Qt.AlignmentFlag.AlignHCenter, way.name)
        painter.setClipping(False)
        if self._bar:
            self._lightness(painter, QRectF(self.width() - 18, 0, 14, self.height()), ink)

    @staticmethod
    def _grid(
        painter: QPainter, plane: QRectF, a0: float, b0: float, half: float, scale: float, ink: QColor
    ) -> None:
        step = 5.0 if half < 16 else 10.0 if half < 40 else 20.0
        soft = QColor(ink)
        soft.setAlpha(40)
        painter.setFont(font(11))
        value = step * int((a0 - 2 * half) / step)
        while value <= a0 + 2 * half:
            x = plane.center().x() + (value - a0) * scale
            painter.setPen(QPen(soft, 1.6 if abs(value) < 1e-6 else 0.8))
            painter.drawLine(QPointF(x, plane.top()), QPointF(x, plane.bottom()))
            value += step
        value = step * int((b0 - 2 * half) / step)
        while value <= b0 + 2 * half:
            y = plane.center().y() - (value - b0) * scale
            painter.setPen(QPen(soft, 1.6 if abs(value) < 1e-6 else 0.8))
            painter.drawLine(QPointF(plane.left(), y), QPointF(plane.right(), y))
            value += step
        painter.setPen(ink)
        painter.drawText(
            plane.adjusted(6, 4, -6, -4),
            Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignRight,
            f"a* · {step:g} a line",
        )
        painter.drawText(
            plane.adjusted(6, 4, -6, -4), Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, "b*"
        )

    @staticmethod
    def _draw_halo(painter: QPainter, places: list[QPointF], ink: QColor) -> None:
        """A soft area round all that one drop too many or too few can do."""
        if not places:
            return
        points = np.array([(p.x(), p.y()) for p in places], dtype=np.float32)
        hull = QPolygonF([QPointF(float(x), float(y)) for x, y in cv2.convexHull(points)[:, 0]])
        path = QPainterPath()
        path.addPolygon(hull)
        path.closeSubpath()
        soft = QColor(ink)
        soft.setAlpha(46)
        round_pen = QPen(soft, 16)
        round_pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        round_pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        painter.setPen(Qt.PenStyle.NoPen)
        outline = QPainterPathStroker(round_pen).createStroke(path).united(path)
        painter.fillPath(outline, soft)

    def _draw_points(self, painter: QPainter, place, ink: QColor) -> None:
        for point in self._points:
            colour, _ = qcolor(point.lab)
            centre = place(point.lab)
            painter.setBrush(colour)
            painter.setPen(QPen(ink, 1.6 if point.shape != "small" else 0.8))
            if point.shape == "square":
                painter.setPen(QPen(QColor(250, 250, 250), 2))
                painter.drawRect(QRectF(centre.x() - 5, centre.y() - 5, 10, 10))
            else:
                reach = 6.0 if point.shape == "round" else 3.0
                painter.drawEllipse(centre, reach, reach)

    def _lightness(self, painter: QPainter, bar: QRectF, ink: QColor) -> None:
        gradient = QLinearGradient(bar.topLeft(), bar.bottomLeft())
        for index in range(9):
            share = index / 8
            gradient.setColorAt(share, QColor(*screen_rgb((100 * (1 - share), 0, 0))[0]))
        painter.fillRect(bar, gradient)
        painter.setPen(QPen(ink, 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(bar)
        for point in self._points:
            if point.shape == "small":
                continue
            y = bar.top() + bar.height() * (1 - point.lab[0] / 100)
            painter.setPen(QPen(QColor("white") if point.shape == "square" else QColor("black"), 2))
            painter.drawLine(QPointF(bar.left() - 4, y), QPointF(bar.right() + 4, y))
