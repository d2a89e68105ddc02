"""The place under the pointer: its pixels on a grid, what of them counts, and the corrected colour in figures and words."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from lean_sepia.arrays import Image8, IntArray
from lean_sepia.colour.words import colour_name
from lean_sepia.language import _, plain
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import Panel, label
from lean_sepia.ui.kit.swatch import Fields
from lean_sepia.ui.kit.theme import HAIRLINE, SECOND, TEXT, THIRD, WELL
from lean_sepia.ui.photo.marks import draw_shape
from lean_sepia.ui.photo.screen_image import to_image

_SIDE, _GRID_FROM = 132, 6.0  # pixels of the screen for one of the picture, from which a grid helps
_LINE = QColor(128, 128, 128, 90)
_RULER, _AWAY = 10, 12


@dataclass(frozen=True, eq=False)
class Place:
    """What the pointer is on.

    lab, within : the corrected colour and its radius; pixels : 8-bit (n, n, 3) round it, corrected
    centre, radius : of the disc, in those pixels; left_out : (m, 2) x and y of those that do not count
    held : shares kept, left out as highlights, as specks, and clipped
    """

    lab: tuple[float, float, float]
    within: float
    pixels: Image8
    centre: tuple[float, float]
    radius: float
    left_out: IntArray
    held: tuple[float, float, float, float]


@guarded
class _Glass(QWidget):
    """A few pixels, large and each for itself, with the disc that is measured and what is left out of it."""

    def __init__(self) -> None:
        super().__init__()
        self._place: Place | None = None
        self._image: QImage | None = None
        self.setFixedSize(_SIDE, _SIDE)

    def show_place(self, place: Place) -> None:
        """Show a place."""
        self._place, self._image = place, to_image(place.pixels)
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter, place = QPainter(self), self._place
        painter.fillRect(self.rect(), self.palette().color(WELL))
        if self._image is None or place is None:
            return
        painter.drawImage(self.rect(), self._image)
        large = _SIDE / place.pixels.shape[0]
        if large >= _GRID_FROM:
            painter.setPen(QPen(_LINE, 1))
            for number in range(1, place.pixels.shape[0]):
                at = round(number * large)
                painter.drawLine(at, 0, at, _SIDE)
                painter.drawLine(0, at, _SIDE, at)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if large >= 3:
            for x, y in place.left_out.tolist():
                middle = QPointF((x + 0.5) * large, (y + 0.5) * large)
                draw_shape(painter, "diamond", middle, large / 4, 0.6)
        centre = QPointF((place.centre[0] + 0.5) * large, (place.centre[1] + 0.5) * large)
        draw_shape(painter, "circle", centre, place.radius * large)


@guarded
class _Ruler(QWidget):
    """How much of the disc counts: kept is dark, highlights are light, specks hatched; a line above for what is clipped."""

    def __init__(self) -> None:
        super().__init__()
        self._held = (1.0, 0.0, 0.0, 0.0)
        self.setFixedHeight(_RULER + 4)

    def show_held(self, held: tuple[float, float, float, float]) -> None:
        """Show the shares."""
        self._held = held
        self.setAccessibleName(held_words(held))
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter, colours, x = QPainter(self), self.palette(), 0.0
        kept, bright, specks, clipped = self._held
        for share, role in ((kept, THIRD), (bright, HAIRLINE), (specks, WELL)):
            box = QRectF(x, 4, share * self.width(), _RULER)
            painter.fillRect(box, colours.color(role))
            x += box.width()
        if specks > 0:
            speckled = QRectF((kept + bright) * self.width(), 4, specks * self.width(), _RULER)
            painter.fillRect(speckled, Qt.BrushStyle.BDiagPattern)
        if clipped > 0:
            painter.setPen(QPen(colours.color(TEXT), 2))
            painter.drawLine(QPointF(0, 1), QPointF(clipped * self.width(), 1))
        painter.setPen(QPen(colours.color(SECOND), 1))
        painter.drawRect(QRectF(0.5, 4.5, self.width() - 1, _RULER - 1))


def held_words(held: tuple[float, float, float, float]) -> str:
    """What a disc holds, in words: only what there is."""
    names = (_("kept {0} %"), _("highlights {0} %"), _("specks {0} %"), _("clipped {0} %"))
    told = [
        name.format(round(100 * share)) for name, share in zip(names, held, strict=True) if share >= 0.005
    ]
    return ", ".join(told)


@guarded
class Loupe(Panel):
    """Follows the pointer over a photo."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(kind="raised", margin=10)
        self.setParent(parent)
        self.setFixedSize(352, _SIDE + 20)
        self._glass, self._ruler = _Glass(), _Ruler()
        self._field = Fields(margin=0, height=26)
        self._field.setFixedHeight(26)
        self._figures, self._within, self._name = (
            label("", ""),
            label("", "second"),
            label("", "second", wrap=True),
        )
        self._held = label("", "second", wrap=True)
        words = QVBoxLayout()
        words.setSpacing(2)
        for item in (self._field, self._figures, self._within, self._name):
            words.addWidget(item)
        words.addStretch(1)
        words.addWidget(self._ruler)
        words.addWidget(self._held)
        line = QHBoxLayout()
        line.setSpacing(10)
        line.addWidget(self._glass)
        line.addLayout(words, 1)
        self.add(line)
        self.hide()

    def sizeHint(self) -> QSize:
        return QSize(352, _SIDE + 20)

    def keep_clear_of(self, pointer: QPointF) -> None:
        """Lie at the lower right of what it is shown over; at the left where the pointer is there."""
        room = self.parentWidget()
        assert room is not None
        top, right = room.height() - self.height() - _AWAY, room.width() - self.width() - _AWAY
        covers = pointer.y() > top - 2 * _AWAY and pointer.x() > right - 2 * _AWAY
        self.move(_AWAY if covers else right, top)

    def show_place(self, place: Place) -> None:
        """Show the pixels of a place, its colour, and what of it counts."""
        self._glass.show_place(place)
        self._ruler.show_held(place.held)
        self._field.show_labs([place.lab])
        figures = (
            f"{sign} {plain(value)}" for sign, value in zip(("L*", "a*", "b*"), place.lab, strict=True)
        )
        self._figures.setText("  ".join(figures))
        self._within.setText(_("±{0}, 9 times in 10").format(f"{place.within:.1f}"))
        self._name.setText(colour_name(place.lab))
        self._held.setText(held_words(place.held))
        self.show()
