"""One photo on the dated line, drawn as the thing it is: slide, print, plate, page or phone picture."""

from __future__ import annotations

from typing import Literal

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QFont,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import QWidget

from lean_sepia.document.model import Photo
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.theme import ACCENT, HAIRLINE, PANEL, RAISED, SECOND, TEXT, font

Thing = Literal["slide", "print", "plate", "page", "phone", "file"]
WIDTH, HEIGHT = 116, 94
_CAPTION, _ROOM = 32, QRectF(18, 35, 80, 54)
_PALE, _PALER, _DARK = QColor(240, 240, 240), QColor(250, 250, 250), QColor(40, 40, 40)


def thing_of(photo: Photo) -> Thing:
    """What a photo is as a thing, from its kind where that is stated, else from its process."""
    process = photo.process.lower()
    for thing, words in (("plate", ("plate", "glass")), ("page", ("magazine", "book", "page"))):
        if any(word in process for word in words):
            return thing  # type: ignore[return-value]
    if photo.kind in ("slide", "print", "phone"):
        return photo.kind
    for word, thing in (("slide", "slide"), ("print", "print"), ("phone", "phone")):
        if word in process:
            return thing  # type: ignore[return-value]
    return "print" if photo.tones != "colour" else "file"


@guarded
class HungPhoto(KeyboardRing, QWidget):
    """A small picture with its date, to choose it by."""

    chosen = Signal(str)

    def __init__(self, photo: Photo, date: str, status: str, strong: bool, parent: QWidget) -> None:
        super().__init__(parent)
        self.photo, self._date, self._status, self._strong = photo, date, status, strong
        self.image: QImage | None = None
        self.setFixedSize(WIDTH, HEIGHT)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(f"{photo.title}, {photo.date}, {status}")
        about = [photo.title, photo.process, photo.light, photo.source, photo.trust, *photo.notes]
        hint(self, "\n".join(about).strip())
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def mousePressEvent(self, _event: QMouseEvent) -> None:
        self.chosen.emit(self.photo.id)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.chosen.emit(self.photo.id)
        else:
            super().keyPressEvent(event)

    def _words(self, painter: QPainter, top: int, text: str, face: QFont, ink: QColor) -> None:
        painter.setFont(face)
        painter.setPen(ink)
        words = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, self.width() - 6)
        painter.drawText(QRectF(3, top, self.width() - 6, 15), Qt.AlignmentFlag.AlignCenter, words)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        colours = self.palette()
        self._words(painter, 0, self._date, font(11, True), colours.color(TEXT))
        self._words(painter, 15, self._status, font(11), colours.color(SECOND))
        body = self._body()
        inside = self._thing(painter, body)
        if self.image is not None:
            wanted = inside.width() / inside.height()
            tall = self.image.width() / wanted
            top = max(0.0, (self.image.height() - tall) * 0.55)
            painter.drawImage(
                inside, self.image, QRectF(0, top, self.image.width(), min(tall, self.image.height()))
            )
        if self._strong or self.ring:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(colours.color(ACCENT if self.ring else TEXT), 2))
            painter.drawRect(body.adjusted(-3, -3, 3, 3))

    def _body(self) -> QRectF:
        if thing_of(self.photo) == "slide":
            return QRectF(_ROOM.center().x() - 40, _ROOM.top(), 80, _ROOM.height())
        return _ROOM

    def _thing(self, painter: QPainter, body: QRectF) -> QRectF:
        """Draw the thing about the picture; returns where the picture goes."""
        thing, colours = thing_of(self.photo), self.palette()
        edge = QPen(colours.color(HAIRLINE), 1)
        painter.setPen(edge)
        if thing == "slide":  # a mount with its window
            painter.setBrush(_PALE)
            painter.drawRoundedRect(body, 3, 3)
            return body.adjusted(13, 10, -13, -10)
        if thing == "print":  # a white border
            painter.setBrush(_PALER)
            painter.drawRect(body)
            return body.adjusted(4, 4, -4, -4)
        if thing == "plate":  # dark, cut at a corner
            path = QPainterPath(body.topLeft())
            for corner in (body.topRight(), body.bottomRight(), body.bottomLeft()):
                path.lineTo(corner)
            path.closeSubpath()
            painter.fillPath(path, _DARK)
            return body.adjusted(5, 5, -5, -5)
        if thing == "page":  # a page with the picture high on it and lines of text below
            painter.setBrush(_PALER)
            painter.drawRect(body)
            painter.setPen(QPen(colours.color(HAIRLINE), 2))
            for step in (12, 7):
                painter.drawLine(
                    round(body.left() + 8),
                    round(body.bottom() - step),
                    round(body.right() - 8),
                    round(body.bottom() - step),
                )
            return body.adjusted(8, 5, -8, -17)
        if thing == "phone":  # dark and round
            painter.setBrush(_DARK)
            painter.drawRoundedRect(body, 7, 7)
            return body.adjusted(6, 4, -6, -4)
        painter.setBrush(colours.color(RAISED if self._strong else PANEL))
        painter.drawRect(body)
        return body.adjusted(2, 2, -2, -2)
