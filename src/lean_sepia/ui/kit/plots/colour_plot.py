"""The drawing of a colour plane with pyqtgraph. Imported in a job: see `colour_plane.load_plot`."""

from __future__ import annotations

import cv2
import numpy as np
import pyqtgraph as pg
from PySide6.QtCore import QEvent, QPointF, Qt, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPen, QPolygonF, QWheelEvent
from PySide6.QtWidgets import QGraphicsPolygonItem, QVBoxLayout, QWidget

from lean_sepia.colour.srgb import srgb_from_lab
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.plots.plane_content import PlaneContent, Way
from lean_sepia.ui.kit.swatch import Lab, lab_words, qcolor
from lean_sepia.ui.kit.theme import WELL, WELL_TEXT, font

_ROUND, _SQUARE = 13, 11
_LIGHT = QColor(250, 250, 250)
_LEAST_SPAN, _MARGIN = 6.0, 0.62
_HALO_REACH = 0.08  # of the span: a halo of nearly equal colours is still seen
_NAMES_APART = 0.12  # of the span: names of ways that end closer would lie on each other
_EMPTY = (-20.0, 20.0)
_BAR_WIDTH = 16


@guarded
class _Canvas(pg.GraphicsLayoutWidget):  # type: ignore[misc]
    """The wheel scrolls the column the plot stands in; with Ctrl it zooms. It takes no keys, so it is no stop of the keyboard."""

    double_clicked = Signal()

    def __init__(self) -> None:
        super().__init__()
        for surface in (self, self.viewport()):
            surface.setFocusPolicy(Qt.FocusPolicy.NoFocus)

    def wheelEvent(self, event: QWheelEvent) -> None:
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            super().wheelEvent(event)
        else:
            event.ignore()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        super().mouseDoubleClickEvent(event)
        self.double_clicked.emit()


class _Axis(pg.AxisItem):  # type: ignore[misc]
    """Figures with a true minus sign, as everywhere in the program."""

    def tickStrings(self, values: list[float], scale: float, spacing: float) -> list[str]:
        return [text.replace("-", "−") for text in super().tickStrings(values, scale, spacing)]


@guarded
class ColourPlot(QWidget):
    """A plane of a* and b* at one scale, and beside it a bar of lightness."""

    def __init__(self, lightness: bool) -> None:
        super().__init__()
        self.canvas = _Canvas()
        self.canvas.ci.layout.setContentsMargins(2, 4, 4, 2)
        self.canvas.ci.layout.setSpacing(4)
        self.canvas.double_clicked.connect(self._see_all)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(self.canvas)
        self._content = PlaneContent()
        self._plane, self._axes = self._view(1, {"left": (0, 0), "bottom": (1, 1)})
        self._plane.setAspectLocked(True)
        self._corners = [self._corner("a*", (1, 1), (-3, 0)), self._corner("b*", (0, 0), (3, -2))]
        self._bar = self._lightness_bar() if lightness else None
        self._lines: list[pg.InfiniteLine] = []
        self._dress()

    def _corner(self, text: str, place: tuple[float, float], offset: tuple[float, float]) -> pg.LabelItem:
        item = pg.LabelItem(text)
        item.setParentItem(self._plane)
        item.anchor(itemPos=place, parentPos=place, offset=offset)
        return item

    def _view(self, column: int, sides: dict[str, tuple[int, int]]) -> tuple[pg.ViewBox, list[pg.AxisItem]]:
        """A view with axes at these sides and cells. A whole plot item would bring menus and forms that are never used."""
        view = self.canvas.addViewBox(0, column, enableMenu=False)
        axes = []
        for side, cell in sides.items():
            axis = _Axis(side)
            axis.linkToView(view)
            axis.setZValue(0.5)  # its grid lies over the view
            self.canvas.addItem(axis, *cell)
            axes.append(axis)
        return view, axes

    def _lightness_bar(self) -> pg.ViewBox:
        bar, (axis,) = self._view(2, {"right": (0, 3)})
        bar.setMouseEnabled(False, False)
        bar.setFixedWidth(_BAR_WIDTH)
        axis.setTicks([[(0, "0"), (50, "L* 50"), (100, "100")]])
        self._axes.append(axis)
        ramp = np.column_stack([np.arange(101.0), np.zeros((101, 2))])
        greys = np.round(255 * np.clip(srgb_from_lab(ramp), 0, 1)).astype(np.uint8)
        image = pg.ImageItem(greys[None], axisOrder="col-major")
        image.setRect(0, 0, 1, 100)
        bar.addItem(image)
        bar.setRange(xRange=(0, 1), yRange=(0, 100), padding=0.03)
        return bar

    def _dress(self) -> None:
        """Greys and type from the palette: done again when the lighting changes."""
        ink = self.palette().color(WELL_TEXT)
        self.canvas.setBackground(self.palette().color(WELL))
        soft = QColor(ink)
        soft.setAlpha(90)
        for axis in self._axes:
            axis.setPen(soft)
            axis.setTextPen(ink)
            axis.setTickFont(font(11))
            axis.setStyle(tickLength=0, tickTextOffset=3, maxTickLevel=0)
        for axis in self._axes[:2]:
            axis.setGrid(60)
        for item in self._corners:
            item.setText(item.text, color=ink, size="11px")
        self._draw()

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.PaletteChange:
            self._dress()

    def show_content(self, content: PlaneContent) -> None:
        """Draw this and nothing else; the view follows what is shown."""
        self._content = content
        self._draw()
        self._see_all()

    def _draw(self) -> None:
        content, ink = self._content, self.palette().color(WELL_TEXT)
        self._plane.clear()
        if content.halo:
            self._plane.addItem(self._halo(content.halo, ink))
        if content.within:
            (_, a, b), half_a, half_b = content.within
            turn = np.linspace(0, 2 * np.pi, 97)
            pen = pg.mkPen(ink, width=1.2, style=Qt.PenStyle.DashLine)
            outline = (a + half_a * np.cos(turn), b + half_b * np.sin(turn))
            self._plane.addItem(pg.PlotCurveItem(*outline, pen=pen, antialias=True))
        named: list[np.ndarray] = []
        for way in sorted(content.ways, key=lambda one: not one.strong):
            self._draw_way(way, ink)
            end = np.array(way.labs[-1][1:])
            if way.name and all(np.abs(end - other).max() > _NAMES_APART * self._span() for other in named):
                self._name_way(way, ink)
                named.append(end)
        spots = [
            {
                "pos": point.lab[1:],
                "symbol": "s" if point.shape == "square" else "o",
                "size": _SQUARE if point.shape == "square" else _ROUND,
                "brush": qcolor(point.lab)[0],
                "pen": pg.mkPen(_LIGHT if point.shape == "square" else ink, width=2),
                "data": f"{point.name}\n{lab_words(point.lab)}",
            }
            for point in content.points
        ]
        self._plane.addItem(
            pg.ScatterPlotItem(
                spots, antialias=True, hoverable=True, hoverSize=None, tip=lambda **point: point["data"]
            )
        )
        self._draw_lightness()

    def _draw_way(self, way: Way, ink: QColor) -> None:
        labs = np.array(way.labs)
        pen = pg.mkPen(ink, width=2.4 if way.strong else 1.1)
        self._plane.addItem(pg.PlotCurveItem(labs[:, 1], labs[:, 2], pen=pen, antialias=True))

    def _name_way(self, way: Way, ink: QColor) -> None:
        """Its name above its end where the way turns up, below where it turns down: clear of its own line."""
        first, last = way.labs[0], way.labs[-1]
        words = pg.TextItem(way.name, color=ink, anchor=(0.5, 1.6 if last[2] >= first[2] else -0.6))
        words.setFont(font(11))
        words.setPos(last[1], last[2])
        self._plane.addItem(words)

    def _halo(self, labs: tuple[Lab, ...], ink: QColor) -> QGraphicsPolygonItem:
        """An area round all that one drop too many or too few can do."""
        turn = np.linspace(0, 2 * np.pi, 24, endpoint=False)
        reach = _HALO_REACH * self._span() * np.column_stack([np.cos(turn), np.sin(turn)])
        places = (np.array(labs)[:, None, 1:] + reach).reshape(-1, 2)
        hull = cv2.convexHull(places.astype(np.float32))[:, 0]
        area = QGraphicsPolygonItem(QPolygonF([QPointF(float(x), float(y)) for x, y in hull]))
        soft = QColor(ink)
        soft.setAlpha(56)
        area.setBrush(soft)
        area.setPen(QPen(Qt.PenStyle.NoPen))
        return area

    def _draw_lightness(self) -> None:
        if self._bar is None:
            return
        for line in self._lines:
            self._bar.removeItem(line)
        self._lines = [
            pg.InfiniteLine(point.lab[0], angle=0, pen=pg.mkPen("w" if point.shape == "square" else "k", width=2))
            for point in self._content.points
        ]  # fmt: skip
        for line in self._lines:
            self._bar.addItem(line, ignoreBounds=True)

    def _places(self) -> np.ndarray:
        """All that must be in view, as a*, b* (n, 2)."""
        content = self._content
        labs = (
            [p.lab for p in content.points]
            + list(content.halo)
            + [lab for way in content.ways for lab in way.labs]
        )
        if content.within:
            (L, a, b), half_a, half_b = content.within
            labs += [(L, a - half_a, b - half_b), (L, a + half_a, b + half_b)]
        return np.array(labs)[:, 1:] if labs else np.array([_EMPTY, _EMPTY]).T

    def _span(self) -> float:
        places = self._places()
        return max(float(np.ptp(places, axis=0).max()), _LEAST_SPAN)

    def _see_all(self) -> None:
        """Bring everything that is shown into view, at one scale for a* and b*."""
        places = self._places()
        centre, half = (places.min(axis=0) + places.max(axis=0)) / 2, _MARGIN * self._span()
        a, b = ((float(middle) - half, float(middle) + half) for middle in centre)
        self._plane.setRange(xRange=a, yRange=b, padding=0)
