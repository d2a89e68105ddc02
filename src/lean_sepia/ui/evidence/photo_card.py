"""One photo on the contact sheet: thumbnail, date, whether it is in use or contradicted."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QFont,
    QFontMetrics,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import QWidget

from lean_sepia.document.model import Photo
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.theme import HAIRLINE, PANEL, RAISED, SECOND, TEXT, font


@guarded
class PhotoCard(KeyboardRing, QWidget):
    """One photo on the contact sheet."""

    chosen = Signal(str)
    _TRUST_FROM = 66  # a longer date leaves no room for it

    def __init__(self, photo: Photo, status: str, strong: bool) -> None:
        super().__init__()
        self.photo, self._status, self._strong = photo, status, strong
        self.image: QImage | None = None
        self.setFixedSize(136, 104)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(f"{photo.title}, {photo.date}, {status}")
        hint(
            self,
            "\n".join(
                [photo.title, photo.process, photo.light, photo.source, photo.trust, *photo.notes]
            ).strip(),
        )
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def mousePressEvent(self, _event: QMouseEvent) -> None:
        self.chosen.emit(self.photo.id)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.chosen.emit(self.photo.id)
        else:
            super().keyPressEvent(event)

    def _line(self, painter: QPainter, top: int, text: str, face: QFont, ink: QColor) -> None:
        painter.setFont(face)
        painter.setPen(ink)
        room = self.width() - 16
        words = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, room)
        painter.drawText(QRectF(8, top, room, 16), Qt.AlignmentFlag.AlignVCenter, words)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        colours = self.palette()
        painter.fillRect(self.rect(), colours.color(RAISED if self._strong else PANEL))
        if self.image is not None:
            box = QRectF(7, 7, self.width() - 14, 52)
            wanted = box.width() / box.height()
            tall = self.image.width() / wanted
            source = QRectF(
                0,
                max(0.0, (self.image.height() - tall) * 0.55),
                self.image.width(),
                min(tall, self.image.height()),
            )
            painter.drawImage(box, self.image, source)
        head = self.photo.date or self.photo.title
        self._line(painter, 63, head, font(11, True), colours.color(TEXT))
        if self.photo.trust and QFontMetrics(font(11, True)).horizontalAdvance(head) < self._TRUST_FROM:
            painter.setFont(font(11))
            painter.setPen(colours.color(SECOND))
            right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
            painter.drawText(QRectF(8, 63, self.width() - 16, 16), right, self.photo.trust)
        below = " · ".join(word for word in (self._status, self.photo.process or self.photo.title) if word)
        self._line(painter, 80, below, font(11), colours.color(SECOND))
        strong = self._strong or self.ring
        painter.setPen(QPen(colours.color(TEXT if strong else HAIRLINE), 2 if strong else 1))
        painter.drawRect(self.rect().adjusted(1, 1, -1, -1) if strong else self.rect().adjusted(0, 0, -1, -1))
