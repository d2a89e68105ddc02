"""A photo to look at and point into: zoom, pan, marks that do not hide the colour, before/after wipe."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from lean_sepia.arrays import BoolArray, Image8, IntArray
from lean_sepia.photo.patch import CLIPPED_HIGH, CLIPPED_LOW
from lean_sepia.photo.preview import CorrectionTable
from lean_sepia.photo.pyramid import Pyramid
from lean_sepia.photo.rectify import scale_bar_mm
from lean_sepia.ui.panel import KeyboardRing
from lean_sepia.ui.theme import ACCENT, WELL, WELL_TEXT, font

Tool = Literal["look", "sample", "polygon", "brush", "grey", "known", "region", "feature", "length", "area"]
SAMPLE_TOOLS: dict[str, Tool] = {"disc": "sample", "polygon": "polygon", "brush": "brush"}
"""The tool for each shape of a sample."""

TOOL_KEYS: dict[int, Tool] = {
    Qt.Key.Key_L: "look", Qt.Key.Key_S: "sample", Qt.Key.Key_N: "grey", Qt.Key.Key_K: "known", Qt.Key.Key_R: "region",
    Qt.Key.Key_A: "area",
}  # fmt: skip
_REST_MS, _DRAFT_DETAIL, _CLOSING_PX = 60, 0.5, 9
_DARK, _LIGHT = QColor(20, 20, 20), QColor(250, 250, 250)


@dataclass(frozen=True)
class Mark:
    """Something drawn on the photo, in its pixels: circles are samples, squares anchors, diamonds the signature.

    A `path` is drawn instead of the shape: closed for a polygon, open for a brush stroke.
    """

    shape: Literal["circle", "square", "diamond"]
    x: float
    y: float
    radius: float
    strong: bool = False
    path: tuple[tuple[float, float], ...] = ()
    closed: bool = True
    dashed: bool = False


def to_bgra(pixels: Image8) -> Image8:
    """8-bit pixels (h, w, 3) in the form (h, w, 4) that is drawn fastest."""
    return np.asarray(cv2.cvtColor(np.ascontiguousarray(pixels), cv2.COLOR_RGB2BGRA))


def to_image(pixels: Image8) -> QImage:
    """A QImage that owns a copy of 8-bit pixels (h, w, 3)."""
    height, width, _ = pixels.shape
    return QImage(to_bgra(pixels).data, width, height, 4 * width, QImage.Format.Format_RGB32).copy()


def _image(bgra: Image8 | None) -> QImage | None:
    """A QImage that owns a copy of pixels (h, w, 4), or None."""
    if bgra is None:
        return None
    height, width, _ = bgra.shape
    return QImage(bgra.data, width, height, 4 * width, QImage.Format.Format_RGB32).copy()


@dataclass(frozen=True, eq=False)
class _View:
    """What the widget shows at one zoom and place: as found, and corrected where there is a correction."""

    key: tuple[object, ...]
    found: QImage | None
    corrected: QImage | None


def _striped(pixels: Image8, where: BoolArray) -> Image8:
    """Black and white stripes over a mask (h, w)."""
    rows, columns = np.indices(where.shape, sparse=True)
    light = ((rows + columns) // 4 % 2 * 255).astype(np.uint8)
    return np.where(where[..., None], light[..., None], pixels)


class PhotoViewer(KeyboardRing, QWidget):
    """Shows one picture; says where was clicked, in pixels of the full picture."""

    placed = Signal(str, float, float, float)
    outlined = Signal(str, list)
    region_drawn = Signal(float, float, float, float)
    length_drawn = Signal(float, float, float, float)
    hovered = Signal(float, float)
    left = Signal()
    tool_changed = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._pyramid: Pyramid | None = None
        self._correction: CorrectionTable | None = None
        self._view: _View | None = None
        self.show_clipped = False
        self._draft = False
        self._refine = QTimer(self)
        self._refine.setSingleShot(True)
        self._refine.setInterval(_REST_MS)
        self._refine.timeout.connect(self._show_detail)
        self._size = QSize(1, 1)
        self._marks: tuple[Mark, ...] = ()
        self._regions: tuple[QRectF, ...] = ()
        self._outlines: tuple[QPolygonF, ...] = ()
        self._wipe = 0.0
        self._scale, self._offset, self._fitted = 1.0, QPointF(0, 0), True
        self._press: QPointF | None = None
        self._path: list[QPointF] = []
        self._left_out: QPolygonF | None = None
        self._cursor = QPointF(0, 0)
        self._pointing = False
        self.tool: Tool = "look"
        self.tools: frozenset[str] = frozenset(TOOL_KEYS.values())
        self.radius = 8.0
        self.mm_per_px: float | None = None
        self.empty_words = ""
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setMinimumSize(320, 200)
        self.setAccessibleName(self.tr("Photo"))

    def show_picture(self, pyramid: Pyramid | None, correction: CorrectionTable | None = None) -> None:
        """Show a picture, as found and through a correction."""
        size = QSize(pyramid.width, pyramid.height) if pyramid else QSize(1, 1)
        fresh = self._size != size or self._pyramid is None
        if pyramid is self._pyramid and correction is not None:
            # A changed correction shows with less detail at once; the rest follows when the hand rests.
            self._draft = True
            self._refine.start()
        self._pyramid, self._correction, self._size = pyramid, correction, size
        self._view = None
        if fresh:
            self.fit()
        self.update()

    def _show_detail(self) -> None:
        self._draft = False
        self.update()

    def set_show_clipped(self, shown: bool) -> None:
        """Stripe what is clipped in any channel: nothing can be measured there."""
        self.show_clipped = shown
        self._view = None
        self.update()

    def show_marks(
        self, marks: Sequence[Mark], regions: Sequence[tuple[float, float, float, float]] = ()
    ) -> None:
        """Draw these marks and regions."""
        self._marks = tuple(marks)
        self._regions = tuple(QRectF(QPointF(x0, y0), QPointF(x1, y1)) for x0, y0, x1, y1 in regions)
        self.update()

    def show_left_out(self, places: IntArray) -> None:
        """Dot the pixels (n, 2) that a sample leaves out; they vanish with the next picture or tool."""
        self._left_out = QPolygonF([QPointF(x + 0.5, y + 0.5) for x, y in places.tolist()])
        self.update()

    def set_wipe(self, share: float) -> None:
        """Show the left part of the picture, this share of it, as found and the rest corrected."""
        self._wipe = share
        self.update()

    def set_tool(self, tool: Tool) -> None:
        """Take up a tool."""
        self.tool = tool
        self.setCursor(Qt.CursorShape.OpenHandCursor if tool == "look" else Qt.CursorShape.CrossCursor)
        self._pointing = False
        self._path, self._left_out = [], None
        self.tool_changed.emit(tool)
        self.update()

    def fit(self) -> None:
        """Show the whole picture."""
        margin = 10
        width, height = max(1, self.width() - 2 * margin), max(1, self.height() - 2 * margin)
        self._scale = min(width / self._size.width(), height / self._size.height())
        self._offset = QPointF(
            (self.width() - self._size.width() * self._scale) / 2,
            (self.height() - self._size.height() * self._scale) / 2,
        )
        self._fitted = True
        self.update()

    def fit_to(self, x0: float, y0: float, x1: float, y1: float, share: float = 0.8) -> None:
        """Show a part of the picture, filling this share of the view."""
        width, height = max(1.0, x1 - x0), max(1.0, y1 - y0)
        self._scale = share * min(self.width() / width, self.height() / height)
        centre = QPointF((x0 + x1) / 2, (y0 + y1) / 2)
        self._offset = QPointF(self.width() / 2, self.height() / 2) - centre * self._scale
        self._fitted = False
        self.update()

    def show_outlines(self, outlines: Sequence[Sequence[tuple[float, float]]]) -> None:
        """Draw thin closed lines, in pixels of the picture, such as round found marks."""
        self._outlines = tuple(QPolygonF([QPointF(x, y) for x, y in line]) for line in outlines)
        self.update()

    def zoom(self, factor: float, about: QPointF | None = None) -> None:
        """Zoom about a point of the widget."""
        point = about or QPointF(self.width() / 2, self.height() / 2)
        scale = min(24.0, max(0.02, self._scale * factor))
        self._offset = point - (point - self._offset) * (scale / self._scale)
        self._scale, self._fitted = scale, False
        self.update()

    def to_picture(self, point: QPointF) -> QPointF:
        """Widget point to picture pixel."""
        return (point - self._offset) / self._scale

    def _inside(self, point: QPointF) -> bool:
        return 0 <= point.x() < self._size.width() and 0 <= point.y() < self._size.height()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if self._fitted:
            self.fit()

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.zoom(1.0015 ** event.angleDelta().y(), event.position())

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._pyramid is not None:
            self._press = event.position()
            self._drag_from = self._offset
            if self.tool == "brush":
                self._path = [self.to_picture(event.position())]

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        here = self.to_picture(event.position())
        self._cursor = here
        self._pointing = False
        if self._press is not None and (self.tool == "look" or event.buttons() & Qt.MouseButton.MiddleButton):
            self._offset = self._drag_from + event.position() - self._press
            self._fitted = False
        if self.tool == "brush" and self._press is not None and self._path:
            away = here - self._path[-1]
            if abs(away.x()) + abs(away.y()) > max(1.0, self.radius / 2):
                self._path.append(here)
        if self._pyramid is not None and self._inside(here):
            self.hovered.emit(here.x(), here.y())
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._press is None:
            return
        start, end = self.to_picture(self._press), self.to_picture(event.position())
        self._press = None
        if self.tool == "region":
            self._finish_region(start, end)
        elif self.tool == "length":
            self.length_drawn.emit(start.x(), start.y(), end.x(), end.y())
        elif self.tool == "brush":
            self._finish_outline()
        elif self.tool in ("polygon", "area"):
            self._add_corner(start)
        elif self.tool != "look" and self._inside(start):
            self.placed.emit(self.tool, round(start.x(), 1), round(start.y(), 1), self.radius)
        self.update()

    def _add_corner(self, corner: QPointF) -> None:
        """Another corner of a polygon; a click on the first one closes it."""
        if len(self._path) >= 3:
            away = (corner - self._path[0]) * self._scale
            if abs(away.x()) + abs(away.y()) < _CLOSING_PX:
                self._finish_outline()
                return
        self._path.append(corner)

    def _finish_outline(self) -> None:
        path, self._path = [(round(p.x(), 1), round(p.y(), 1)) for p in self._path], []
        if len(path) >= (1 if self.tool == "brush" else 3):
            self.outlined.emit(self.tool, path)

    def _finish_region(self, start: QPointF, end: QPointF) -> None:
        box = (
            QRectF(start, end).normalized().intersected(QRectF(0, 0, self._size.width(), self._size.height()))
        )
        if box.width() >= 4 and box.height() >= 4:
            self.region_drawn.emit(
                round(box.left()), round(box.top()), round(box.right()), round(box.bottom())
            )

    def leaveEvent(self, event) -> None:
        super().leaveEvent(event)
        self.left.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        moves = {
            Qt.Key.Key_Left: (-1, 0),
            Qt.Key.Key_Right: (1, 0),
            Qt.Key.Key_Up: (0, -1),
            Qt.Key.Key_Down: (0, 1),
        }
        if key in TOOL_KEYS and TOOL_KEYS[key] in self.tools and not event.modifiers():
            self.set_tool(TOOL_KEYS[key])
        elif key == Qt.Key.Key_Escape and self._path:
            self._path = []
        elif key == Qt.Key.Key_Escape and self.tool != "look":
            self.set_tool("look")
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.tool in ("polygon", "area"):
            if self._pointing:
                self._add_corner(QPointF(self._cursor))
            else:
                self._finish_outline()
        elif key == Qt.Key.Key_Space and self.tool in ("polygon", "area"):
            self._finish_outline()
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.zoom(1.25)
        elif key == Qt.Key.Key_Minus:
            self.zoom(0.8)
        elif key == Qt.Key.Key_0:
            self.fit()
        elif key in moves:
            self._step(*moves[Qt.Key(key)], fine=bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        elif (
            key in (Qt.Key.Key_Return, Qt.Key.Key_Enter)
            and self.tool not in ("look", "region", "length")
            and self._pointing
        ):
            self.placed.emit(self.tool, round(self._cursor.x(), 1), round(self._cursor.y(), 1), self.radius)
        else:
            super().keyPressEvent(event)

    def _step(self, dx: int, dy: int, fine: bool) -> None:
        if self.tool == "look":
            self._offset -= QPointF(dx, dy) * (8 if fine else 40)
            self._fitted = False
        else:
            if not self._pointing:
                self._cursor = self.to_picture(QPointF(self.width() / 2, self.height() / 2))
                self._pointing = True
            self._cursor += QPointF(dx, dy) * (1 if fine else 10) / max(self._scale, 0.2)
            if self._inside(self._cursor):
                self.hovered.emit(self._cursor.x(), self._cursor.y())
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.palette().color(WELL))
        if self._pyramid is None:
            painter.setPen(self.palette().color(WELL_TEXT))
            painter.setFont(font(15))
            painter.drawText(
                self.rect().adjusted(40, 40, -40, -40),
                Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap,
                self.empty_words,
            )
            return
        view = self._current_view()
        target = QRectF(
            self._offset, QPointF(self._size.width(), self._size.height()) * self._scale + self._offset
        )
        split = target.left() + target.width() * (self._wipe if view.corrected is not None else 1.0)
        painter.setClipRect(QRectF(self.rect()).intersected(QRectF(0, 0, split, self.height())))
        if view.found is not None:
            painter.drawImage(self.rect(), view.found)
        if view.corrected is not None:
            painter.setClipRect(QRectF(split, 0, self.width() - split, self.height()))
            painter.drawImage(self.rect(), view.corrected)
        painter.setClipping(False)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if 0 < self._wipe < 1 and view.corrected is not None:
            self._double(
                painter,
                lambda: painter.drawLine(QPointF(split, target.top()), QPointF(split, target.bottom())),
                1.4,
            )
        self._draw_marks(painter)
        if self.ring:
            painter.setPen(QPen(self.palette().color(ACCENT), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))

    def _current_view(self) -> _View:
        """The picture as it lies on the screen, made anew only when place, zoom or correction have changed."""
        assert self._pyramid is not None
        ratio = self.devicePixelRatioF() * (_DRAFT_DETAIL if self._draft else 1.0)
        width, height = round(self.width() * ratio), round(self.height() * ratio)
        grey = self.palette().color(WELL).red()
        # All of it is corrected while the wipe rests at the left: then what was found need not be drawn.
        both = self._correction is None or self._wipe > 0
        key = (self._offset.x(), self._offset.y(), self._scale, width, height, grey, both)
        if self._view is None or self._view.key != key:
            corner = -self._offset / self._scale
            found = self._pyramid.view(corner.x(), corner.y(), self._scale * ratio, width, height, grey)
            inside = self._pyramid.covered(corner.x(), corner.y(), self._scale * ratio, width, height)
            corrected = None
            if self._correction is not None and found[inside].size:
                corrected = np.full((height, width, 4), grey, dtype=np.uint8)
                corrected[inside] = self._correction.apply_bgra(np.ascontiguousarray(found[inside]))
            shown = to_bgra(found) if both else None
            if self.show_clipped:
                for picture in (shown, corrected):
                    if picture is not None:
                        picture[inside] = _striped(picture[inside], self._stripes(found[inside]))
            if self._draft:
                whole = (round(width / _DRAFT_DETAIL), round(height / _DRAFT_DETAIL))
                shown, corrected = (
                    None if p is None else np.asarray(cv2.resize(p, whole, interpolation=cv2.INTER_NEAREST))
                    for p in (shown, corrected)
                )
            self._view = _View(key, _image(shown), _image(corrected))
        return self._view

    @staticmethod
    def _stripes(found: Image8) -> BoolArray:
        return np.any((found >= CLIPPED_HIGH) | (found <= CLIPPED_LOW), axis=2)

    def _double(self, painter: QPainter, draw, width: float = 1.6, dashed: bool = False) -> None:
        """White inside dark, so that a line shows on anything."""
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for colour, extra in ((_DARK, 2.2), (_LIGHT, 0.0)):
            pen = QPen(colour, width + extra)
            if dashed and not extra:
                pen.setStyle(Qt.PenStyle.DashLine)
            painter.setPen(pen)
            draw()

    def _draw_marks(self, painter: QPainter) -> None:
        for region in self._regions:
            box = QRectF(
                region.topLeft() * self._scale + self._offset,
                region.bottomRight() * self._scale + self._offset,
            )
            self._double(painter, lambda b=box: painter.drawRect(b), 1.4, dashed=True)
        if self._outlines:
            painter.save()
            painter.translate(self._offset)
            painter.scale(self._scale, self._scale)
            for colour, width in ((_DARK, 2.6), (_LIGHT, 1.1)):
                pen = QPen(colour, width)
                pen.setCosmetic(True)
                painter.setPen(pen)
                for line in self._outlines:
                    painter.drawPolygon(line)
            painter.restore()
        for mark in self._marks:
            if mark.path:
                line = QPolygonF([QPointF(x, y) * self._scale + self._offset for x, y in mark.path])
                draw = painter.drawPolygon if mark.closed else painter.drawPolyline
                self._double(painter, lambda d=draw, p=line: d(p), 2.4 if mark.strong else 1.4, mark.dashed)
                continue
            reach = max(6.0, mark.radius * self._scale)
            centre = QPointF(mark.x, mark.y) * self._scale + self._offset
            self._double(
                painter,
                lambda m=mark.shape, c=centre, r=reach: self._shape(painter, m, c, r),
                2.4 if mark.strong else 1.4,
            )
        if self._left_out is not None:
            painter.save()
            painter.translate(self._offset)
            painter.scale(self._scale, self._scale)
            for colour, width in ((_DARK, 4.0), (_LIGHT, 2.0)):
                pen = QPen(colour, width)
                pen.setCosmetic(True)
                painter.setPen(pen)
                painter.drawPoints(self._left_out)
            painter.restore()
        if self._path:
            line = QPolygonF([p * self._scale + self._offset for p in self._path])
            if self.tool in ("polygon", "area"):
                line.append(self._cursor * self._scale + self._offset)
            self._double(painter, lambda: painter.drawPolyline(line), 1.4)
        if self.mm_per_px is not None:
            self._draw_scale_bar(painter, self.mm_per_px)
        if self.tool == "length" and self._press is not None:
            far = self._cursor * self._scale + self._offset
            self._double(painter, lambda: painter.drawLine(self._press, far), 1.4)
        elif self.tool == "region" and self._press is not None:
            end = self._cursor * self._scale + self._offset
            self._double(painter, lambda: painter.drawRect(QRectF(self._press, end)), 1.4, dashed=True)
        elif self.tool not in ("look", "region", "length") and (self._pointing or self.underMouse()):
            centre = self._cursor * self._scale + self._offset
            shape = {
                "sample": "circle",
                "brush": "circle",
                "feature": "diamond",
                "polygon": "diamond",
                "area": "diamond",
            }.get(self.tool, "square")
            if self.tool in ("polygon", "area"):
                self._double(painter, lambda: self._shape(painter, shape, centre, 4.0), 1.0)
                return
            self._double(
                painter, lambda: self._shape(painter, shape, centre, max(4.0, self.radius * self._scale)), 1.0
            )

    def _draw_scale_bar(self, painter: QPainter, mm_per_px: float) -> None:
        """A round length on the prototype, at the lower left of the view."""
        length_mm = scale_bar_mm(self.width() / self._scale * mm_per_px)
        width = length_mm / mm_per_px * self._scale
        left, bottom = 14.0, self.height() - 16.0
        words = f"{length_mm / 1000:g} m" if length_mm >= 1000 else f"{length_mm:g} mm"
        ends = ((left, bottom - 4, left, bottom + 4), (left + width, bottom - 4, left + width, bottom + 4))
        self._double(
            painter, lambda: painter.drawLine(QPointF(left, bottom), QPointF(left + width, bottom)), 1.6
        )
        for x0, y0, x1, y1 in ends:
            self._double(
                painter, lambda a=x0, b=y0, c=x1, d=y1: painter.drawLine(QPointF(a, b), QPointF(c, d)), 1.6
            )
        outline = QPainterPath()
        outline.addText(QPointF(left + 4, bottom - 8), font(12, True), words)
        painter.setPen(QPen(_DARK, 3))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(outline)
        painter.fillPath(outline, _LIGHT)

    @staticmethod
    def _shape(painter: QPainter, shape: str, centre: QPointF, reach: float) -> None:
        if shape == "circle":
            painter.drawEllipse(centre, reach, reach)
        elif shape == "diamond":
            corners = ((0, -reach), (reach, 0), (0, reach), (-reach, 0))
            painter.drawPolygon(QPolygonF([centre + QPointF(dx, dy) for dx, dy in corners]))
        else:
            painter.drawRect(QRectF(centre.x() - reach, centre.y() - reach, 2 * reach, 2 * reach))
