"""The face of a zone with its planned wear, and where it is trodden, gripped and wet: places that can be put, moved and taken away."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from lean_sepia.answers.wearing.places import SOURCE_WORDS
from lean_sepia.document.entities.worn import MOST_SOURCES, Source
from lean_sepia.language import _, ngettext
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing
from lean_sepia.ui.kit.theme import ACCENT, WELL, WELL_TEXT, font
from lean_sepia.ui.photo.marks import draw_double

_NEAR, _HALF = 14.0, 6.0
_NUDGE = 0.02
_KEYS = {
    Qt.Key.Key_Left: (-_NUDGE, 0.0), Qt.Key.Key_Right: (_NUDGE, 0.0), Qt.Key.Key_Up: (0.0, -_NUDGE),
    Qt.Key.Key_Down: (0.0, _NUDGE),
}  # fmt: skip


@guarded
class TrafficMap(KeyboardRing, QWidget):
    """Click to put a source, drag it to move it; Tab goes to the map, + puts one, arrow keys move it, Page keys go on, Delete removes.

    `changed` carries all sources after the hand let go.
    """

    changed = Signal(object)
    refused = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._image: QImage | None = None
        self._sources: tuple[Source, ...] = ()
        self._at: int | None = None
        self._dragged = False
        self.putting = "step"
        self.words = ""
        self.setMinimumHeight(150)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.CrossCursor)

    def sizeHint(self) -> QSize:
        return QSize(600, 220)

    def show_face(self, image: QImage | None, words: str) -> None:
        """Show the zone as it will look; without a picture what there is to say."""
        self._image, self.words = image, words
        self.update()

    def show_sources(self, sources: tuple[Source, ...]) -> None:
        """Show the places; the chosen one stays chosen."""
        self._sources = sources
        if self._at is not None and self._at >= len(sources):
            self._at = None
        many = ngettext("{0} place where it wears", "{0} places where it wears", len(sources))
        self.setAccessibleName(many.format(len(sources)))
        self.update()

    @property
    def chosen(self) -> Source | None:
        """The place that is chosen."""
        return None if self._at is None else self._sources[self._at]

    def _share(self, place: QPointF) -> tuple[float, float]:
        x, y = place.x() / max(1, self.width()), place.y() / max(1, self.height())
        return min(1.0, max(0.0, x)), min(1.0, max(0.0, y))

    def _place(self, source: Source) -> QPointF:
        return QPointF(source.x * self.width(), source.y * self.height())

    def _hit(self, place: QPointF) -> int | None:
        away = [(self._place(one) - place).manhattanLength() for one in self._sources]
        nearest = min(range(len(away)), key=lambda index: away[index], default=None)
        return nearest if nearest is not None and away[nearest] <= _NEAR else None

    def _moved(self, x: float, y: float) -> None:
        assert self._at is not None
        there = self._sources[self._at].model_copy(
            update={"x": min(1.0, max(0.0, x)), "y": min(1.0, max(0.0, y))}
        )
        self._sources = (*self._sources[: self._at], there, *self._sources[self._at + 1 :])
        self.update()

    def put(self, x: float, y: float) -> None:
        """Put a source of the chosen sort."""
        if len(self._sources) >= MOST_SOURCES:
            words = _("A zone has at most {0} places where it wears. Take one away first.")
            self.refused.emit(words.format(MOST_SOURCES))
            return
        source = Source.model_validate({"what": self.putting, "x": x, "y": y})
        self._sources, self._at = (*self._sources, source), len(self._sources)
        self.changed.emit(self._sources)
        self.update()

    def remove(self) -> None:
        """Take the chosen place away."""
        if self._at is None:
            return
        self._sources = (*self._sources[: self._at], *self._sources[self._at + 1 :])
        self._at = None
        self.changed.emit(self._sources)
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        self._dragged = False
        hit = self._hit(event.position())
        if hit is None:
            self.put(*self._share(event.position()))
        else:
            self._at = hit
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if event.buttons() & Qt.MouseButton.LeftButton and self._at is not None:
            self._dragged = True
            self._moved(*self._share(event.position()))

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        if self._dragged:
            self._dragged = False
            self.changed.emit(self._sources)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key, count = Qt.Key(event.key()), len(self._sources)
        if key == Qt.Key.Key_Plus:
            if not event.isAutoRepeat():
                self.put(0.5, 0.5)
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.remove()
        elif key in (Qt.Key.Key_PageDown, Qt.Key.Key_PageUp) and count:
            step = 1 if key == Qt.Key.Key_PageDown else -1
            self._at = 0 if self._at is None else (self._at + step) % count
        elif key in _KEYS and self.chosen is not None:
            self._moved(self.chosen.x + _KEYS[key][0], self.chosen.y + _KEYS[key][1])
            self.changed.emit(self._sources)
        else:
            super().keyPressEvent(event)
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.palette().color(WELL))
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        if self._image is not None:
            painter.drawImage(QRectF(self.rect()), self._image, QRectF(self._image.rect()))
        else:
            painter.setPen(self.palette().color(WELL_TEXT))
            painter.setFont(font(13))
            flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            painter.drawText(self.rect().adjusted(24, 8, -24, -8), flags, self.words)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for index, source in enumerate(self._sources):
            self._draw_source(painter, source, strong=index == self._at)
        if self.ring:
            painter.setPen(QPen(self.palette().color(ACCENT), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))

    def _draw_source(self, painter: QPainter, source: Source, *, strong: bool) -> None:
        there, half = self._place(source), _HALF + (2 if strong else 0)
        draw_double(painter, lambda: painter.drawEllipse(there, half, half), 2.2 if strong else 1.4)
        words = _(SOURCE_WORDS[source.what])
        painter.setFont(font(11, strong))
        wide = painter.fontMetrics().horizontalAdvance(words) + 8
        x = there.x() + half + 4
        if x + wide > self.width():
            x = there.x() - half - 4 - wide
        box = QRectF(x, min(max(0.0, there.y() - 8), self.height() - 16.0), wide, 16)
        painter.fillRect(box, self.palette().color(WELL))
        painter.setPen(self.palette().color(WELL_TEXT))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)
