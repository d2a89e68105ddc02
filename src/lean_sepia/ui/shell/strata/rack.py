"""The rack: every zone as a thin core."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import (
    QFontMetrics,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from lean_sepia.answers.strata import Strata
from lean_sepia.document.model import Zone
from lean_sepia.language import _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing
from lean_sepia.ui.kit.swatch import paint_field
from lean_sepia.ui.kit.theme import ACCENT, SECOND, TEXT, WINDOW, font
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.shell.strata.bands import COLUMN, band_heights, paint_band


@guarded
class Rack(KeyboardRing, QWidget):
    """Every zone as a thin core. Arrow keys and clicks choose; the wheel scrolls when there are many."""

    _LEAST_STEP, _MOST_STEP, _CORE, _NAME = 38, 64, 20, 18
    _MORE, _MORE_WIDE = 18, 40

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._offset = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFixedHeight(124)
        self.setAccessibleName(_("Zones"))
        session.changed.connect(self.update)
        session.zone_changed.connect(self._follow)

    def sizeHint(self) -> QSize:
        return QSize(COLUMN - 32, 124)

    @property
    def _step(self) -> int:
        """From one core to the next: few zones have room for their names."""
        count = max(1, len(self._zones()))
        return min(self._MOST_STEP, max(self._LEAST_STEP, (self.width() - 8) // count))

    def _zones(self) -> tuple[Zone, ...]:
        return self._session.project.zones

    def _follow(self) -> None:
        ids = [zone.id for zone in self._zones()]
        if self._session.zone in ids:
            left = ids.index(self._session.zone) * self._step
            self._offset = min(max(self._offset, left + self._step - self.width() + 8), left)
            zone = self._session.project.zone(self._session.zone)
            self.setAccessibleDescription(zone.name)
        self.update()

    def hidden(self) -> tuple[int, int]:
        """How many zones lie out of sight to the left and to the right."""
        count = len(self._zones())
        left = -(-max(0, self._offset - 4) // self._step)
        seen = (self.width() - 4 + self._offset) // self._step
        return min(left, count), max(0, count - seen)

    def _scroll(self, by: int) -> None:
        most = max(0, len(self._zones()) * self._step - self.width() + 8)
        self._offset = min(most, max(0, self._offset + by))
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        self._scroll(-event.angleDelta().y() // 4)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        left, right = self.hidden()
        x, low = event.position().x(), event.position().y() < self._MORE
        if low and left and x < self._MORE_WIDE:
            self._scroll(-self.width() + self._step)
            return
        if low and right and x > self.width() - self._MORE_WIDE:
            self._scroll(self.width() - self._step)
            return
        index = int((event.position().x() - 4 + self._offset) // self._step)
        if 0 <= index < len(self._zones()):
            self._session.choose_zone(self._zones()[index].id)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        moves = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
        if event.key() in moves:
            self._session.step_zone(moves[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        colours = self.palette()
        painter.fillRect(self.rect(), colours.color(WINDOW).darker(106))
        floor = self.height() - self._NAME - 8
        painter.setFont(font(11))
        metrics = QFontMetrics(font(11))
        for index, zone in enumerate(self._zones()):
            left = 4 + index * self._step - self._offset + (self._step - self._CORE) // 2
            if left < -self._step or left > self.width():
                continue
            top = self._core(painter, self._session.cut(zone.id), left, floor)
            chosen = zone.id == self._session.zone
            if chosen:
                painter.setPen(QPen(colours.color(TEXT), 2))
                painter.drawRect(QRectF(left - 4, top - 4, self._CORE + 8, floor - top + 8))
            painter.setPen(colours.color(TEXT if chosen else SECOND))
            name = zone.short
            if metrics.horizontalAdvance(name) > self._step - 2:
                name = name.split(" ")[0]  # a whole word says more than an ellipsis
            name = metrics.elidedText(name, Qt.TextElideMode.ElideRight, self._step - 2)
            box = QRectF(left + self._CORE / 2 - self._step / 2, floor + 6, self._step, self._NAME)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, name)
        if not self._zones():
            painter.setPen(colours.color(SECOND))
            painter.drawText(self.rect().adjusted(12, 0, -12, 0), Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap,
                             _("No zone yet: name the first area you will paint as one."))  # fmt: skip
        self._say_more(painter)
        if self.ring:
            painter.setPen(QPen(colours.color(ACCENT), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))

    def _say_more(self, painter: QPainter) -> None:
        """How many zones lie out of sight, at the side where they do; a click there goes to them."""
        left, right = self.hidden()
        painter.setFont(font(11, True))
        for count, words, box, way in (
            (left, f"‹ {left}", QRectF(0, 0, self._MORE_WIDE, self._MORE), Qt.AlignmentFlag.AlignLeft),
            (right, f"{right} ›", QRectF(self.width() - self._MORE_WIDE, 0, self._MORE_WIDE, self._MORE),
             Qt.AlignmentFlag.AlignRight),
        ):  # fmt: skip
            if count:
                painter.fillRect(box, self.palette().color(WINDOW))
                painter.setPen(self.palette().color(TEXT))
                painter.drawText(box.adjusted(6, 0, -6, 0), way | Qt.AlignmentFlag.AlignVCenter, words)

    def _core(self, painter: QPainter, cut: Strata, left: float, floor: float) -> float:
        """Draw one thin core up from the floor; returns its top."""
        bands = cut.bands
        known = cut.fresh is not None
        heights = band_heights(bands, floor - 12, 5, 34) if bands else []
        y = floor
        for band, height in zip(bands, heights, strict=True):
            y -= height
            paint_band(
                painter, QRectF(left, y, self._CORE, height), bands, band, self.palette().color(SECOND)
            )
        if not known:
            # An unmatched zone ends in a hatched top, as high as the coats still to come.
            rect = QRectF(left, y - 26, self._CORE, 26)
            paint_field(painter, rect, None, self.palette().color(SECOND))
            painter.setPen(QPen(self.palette().color(SECOND), 1))
            painter.drawRect(rect)
            y -= 26
        return y
