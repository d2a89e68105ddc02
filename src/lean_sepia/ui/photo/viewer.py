"""A photo to look at and point into: zoom, pan, marks that do not hide the colour, and as it was found while a key is held."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from lean_sepia.arrays import IntArray
from lean_sepia.language import _
from lean_sepia.photo.preview import CorrectionTable
from lean_sepia.photo.pyramid import Pyramid
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing
from lean_sepia.ui.kit.theme import ACCENT, WELL, WELL_TEXT, font
from lean_sepia.ui.photo.marks import (
    Mark,
    Sight,
    draw_dots,
    draw_double,
    draw_mark,
    draw_outlines,
    draw_scale_bar,
    draw_shape,
    draw_words,
)
from lean_sepia.ui.photo.tools import BY_CORNERS, BY_DRAGGING, CURSORS, FOUR_CORNERS, TOOL_KEYS, Tool
from lean_sepia.ui.photo.view import Place, View, make_view

_REST_MS, _DRAFT_DETAIL, _CLOSING_PX, _CORNER_PX = 60, 0.5, 9, 4.0
_ENTER = (Qt.Key.Key_Return, Qt.Key.Key_Enter)
_ZOOMS = {Qt.Key.Key_Plus: 1.25, Qt.Key.Key_Equal: 1.25, Qt.Key.Key_Minus: 0.8}
_MOVES = {
    Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1),
}  # fmt: skip


@guarded
class PhotoViewer(KeyboardRing, QWidget):
    """Shows one picture; says where was clicked, in pixels of the full picture."""

    placed = Signal(str, float, float, float)
    outlined = Signal(str, list)
    region_drawn = Signal(float, float, float, float)
    length_drawn = Signal(float, float, float, float)
    hovered = Signal(float, float)
    left = Signal()
    tool_changed = Signal(str)
    as_found_changed = Signal(bool)

    def __init__(self) -> None:
        super().__init__()
        self._pyramid: Pyramid | None = None
        self._correction: CorrectionTable | None = None
        self._view: View | None = None
        self.show_clipped = False
        self._draft = False
        self._refine = QTimer(self)
        self._refine.setSingleShot(True)
        self._refine.setInterval(_REST_MS)
        self._refine.timeout.connect(self._show_detail)
        self._size = QSize(1, 1)
        self._marks: tuple[Mark, ...] = ()
        self._outlines: tuple[QPolygonF, ...] = ()
        self._as_found = False
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
        self.corner_words: dict[Tool, tuple[str, ...]] = {}
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setMinimumSize(320, 200)
        self.setAccessibleName(_("Photo"))

    def show_picture(self, pyramid: Pyramid | None, correction: CorrectionTable | None = None) -> None:
        """Show a picture, as found and through a correction."""
        size = QSize(pyramid.width, pyramid.height) if pyramid else QSize(1, 1)
        fresh = self._size != size or self._pyramid is None
        if pyramid is self._pyramid and correction is not None:
            # A changed correction shows with less detail at once; the rest follows when the hand rests.
            self._draft = True
            self._refine.start()
        if pyramid is not self._pyramid:
            self._left_out = None
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

    def show_marks(self, marks: Sequence[Mark]) -> None:
        """Draw these marks."""
        self._marks = tuple(marks)
        self.update()

    def show_left_out(self, places: IntArray | None) -> None:
        """Dot the pixels (n, 2) that a sample leaves out; none with None, and with the next picture or tool."""
        self._left_out = (
            None if places is None else QPolygonF([QPointF(x + 0.5, y + 0.5) for x, y in places.tolist()])
        )
        self.update()

    def set_as_found(self, shown: bool) -> None:
        """Show the picture as it was found, or corrected."""
        if shown != self._as_found:
            self._as_found = shown
            self.as_found_changed.emit(shown)
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
        elif self.tool in BY_CORNERS:
            self._add_corner(start)
        elif self.tool != "look" and self._inside(start):
            self.placed.emit(self.tool, round(start.x(), 1), round(start.y(), 1), self.radius)
        self.update()

    def _add_corner(self, corner: QPointF) -> None:
        """Another corner: a click on the first one closes a polygon; a chart or rectangle has four."""
        if len(self._path) >= 3 and self.tool not in FOUR_CORNERS:
            away = (corner - self._path[0]) * self._scale
            if abs(away.x()) + abs(away.y()) < _CLOSING_PX:
                self._finish_outline()
                return
        self._path.append(corner)
        if len(self._path) == 4 and self.tool in FOUR_CORNERS:
            self._finish_outline()

    def _finish_outline(self) -> None:
        least = 1 if self.tool == "brush" else 4 if self.tool in FOUR_CORNERS else 3
        if len(self._path) >= least:
            path, self._path = [(round(p.x(), 1), round(p.y(), 1)) for p in self._path], []
            self.outlined.emit(self.tool, path)

    def _finish_region(self, start: QPointF, end: QPointF) -> None:
        box = QRectF(start, end).normalized() & QRectF(QPointF(), self._size.toSizeF())
        if box.width() >= 4 and box.height() >= 4:
            edges = (box.left(), box.top(), box.right(), box.bottom())
            self.region_drawn.emit(*map(round, edges))

    def leaveEvent(self, event: QEvent) -> None:
        super().leaveEvent(event)
        self.left.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if not (self._tool_key(event) or self._look_key(event)):
            super().keyPressEvent(event)

    def _tool_key(self, event: QKeyEvent) -> bool:
        """Keys that take up a tool, use it where the pointer is, or put it down."""
        key = event.key()
        if key in TOOL_KEYS and TOOL_KEYS[key] in self.tools and not event.modifiers():
            self.set_tool(TOOL_KEYS[key])
        elif key == Qt.Key.Key_Escape and (self._path or self.tool != "look"):
            self._put_down()
        elif key in (*_ENTER, Qt.Key.Key_Space) and self.tool in BY_CORNERS:
            if self._pointing and key in _ENTER:
                self._add_corner(QPointF(self._cursor))
            else:
                self._finish_outline()
        elif key in _ENTER and self.tool == "brush" and self._pointing:
            self._path = [QPointF(self._cursor)]
            self._finish_outline()
        elif key in _ENTER and self.tool not in ("look", *BY_DRAGGING) and self._pointing:
            self.placed.emit(self.tool, round(self._cursor.x(), 1), round(self._cursor.y(), 1), self.radius)
        else:
            return False
        return True

    def _put_down(self) -> None:
        """Drop what is drawn so far, else the tool."""
        if self._path:
            self._path = []
        else:
            self.set_tool("look")

    def _look_key(self, event: QKeyEvent) -> bool:
        """Keys that zoom, move and compare."""
        key = event.key()
        if key in _ZOOMS:
            self.zoom(_ZOOMS[Qt.Key(key)])
        elif key == Qt.Key.Key_0:
            self.fit()
        elif key == Qt.Key.Key_F and not event.isAutoRepeat():
            self.set_as_found(True)
        elif key in _MOVES:
            self._step(*_MOVES[Qt.Key(key)], fine=bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        else:
            return False
        return True

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_F and not event.isAutoRepeat():
            self.set_as_found(False)
        else:
            super().keyReleaseEvent(event)

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
        shown = view.found if self._as_found or view.corrected is None else view.corrected
        if shown is not None:
            painter.drawImage(self.rect(), shown)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._draw_marks(painter)
        if self.ring:
            painter.setPen(QPen(self.palette().color(ACCENT), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))

    def _current_view(self) -> View:
        """The picture as it lies on the screen, made anew only when place, zoom or correction have changed."""
        assert self._pyramid is not None
        ratio = self.devicePixelRatioF() * (_DRAFT_DETAIL if self._draft else 1.0)
        place = Place(
            (-self._offset.x() / self._scale, -self._offset.y() / self._scale), self._scale * ratio, round(self.width() * ratio),
            round(self.height() * ratio), self.palette().color(WELL).red(),
            self._correction is None or self._as_found, self.show_clipped,
        )  # fmt: skip
        if self._view is None or self._view.place != place:
            self._view = make_view(self._pyramid, self._correction, place)
        return self._view

    def _draw_marks(self, painter: QPainter) -> None:
        sight = Sight(self._scale, self._offset)
        if self._outlines:
            draw_outlines(painter, self._outlines, sight)
        for mark in self._marks:
            draw_mark(painter, mark, sight)
        if self._left_out is not None:
            draw_dots(painter, self._left_out, sight)
        if self.mm_per_px is not None:
            draw_scale_bar(painter, QRectF(self.rect()), sight, self.mm_per_px)
        self._draw_tool(painter, sight)

    def _draw_tool(self, painter: QPainter, sight: Sight) -> None:
        """What the tool in hand has drawn so far, and the tool itself."""
        here = sight.to_screen(self._cursor)
        words = self.corner_words.get(self.tool, ())
        if len(self._path) < len(words):
            draw_words(painter, QPointF(14, 24), words[len(self._path)])
        if self._path:
            line = QPolygonF([sight.to_screen(point) for point in self._path])
            if self.tool in BY_CORNERS:
                line.append(here)
            draw_double(painter, lambda: painter.drawPolyline(line))
        if self.tool in BY_DRAGGING:
            pressed = self._press
            if pressed is not None and self.tool == "length":
                draw_double(painter, lambda: painter.drawLine(pressed, here))
            elif pressed is not None:
                draw_double(painter, lambda: painter.drawRect(QRectF(pressed, here)), dashed=True)
        elif self.tool != "look" and (self._pointing or self.underMouse()):
            if self.tool in BY_CORNERS:
                draw_shape(painter, "diamond", here, _CORNER_PX)
            else:
                reach = max(_CORNER_PX, self.radius * self._scale)
                draw_shape(painter, CURSORS.get(self.tool, "square"), here, reach)
