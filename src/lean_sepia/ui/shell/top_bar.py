"""The top bar: the wordmark, the rooms in working order, the menu and the shelf."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QHBoxLayout, QMenu, QVBoxLayout, QWidget

from lean_sepia.answers.rooms.room import STATE_WORDS, RoomState
from lean_sepia.answers.rooms.table import ROOMS, first_room
from lean_sepia.language import _
from lean_sepia.plan.traits.kind import Room
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing, button, label
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.theme import ACCENT, HAIRLINE, SECOND, TEXT, WINDOW, font

HEIGHT = 52


@guarded
class RoomTabs(KeyboardRing, QWidget):
    """The rooms, each with how far it has come; a full disc is done, a half one started, a ring nothing yet."""

    room_wanted = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._names = {name: _(room.title) for name, room in ROOMS.items()}
        self._states: dict[Room, RoomState] = {}
        self._current: Room | None = first_room()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFixedHeight(HEIGHT)
        self.setAccessibleName(_("Rooms"))

    def show_states(self, states: dict[Room, RoomState]) -> None:
        """Show how far each room has come."""
        self._states = states
        self.updateGeometry()
        self.update()

    def show_room(self, room: Room | None) -> None:
        """Mark a room as the active one; none while another page is open."""
        self._current = room
        state = self._states.get(room) if room else None
        self.setAccessibleDescription(
            f"{self._names[room]}, {_(STATE_WORDS[state.state])}" if room and state else ""
        )
        self.update()

    def _widths(self) -> list[int]:
        big, small = QFontMetrics(font(13, True)), QFontMetrics(font(11))
        widths = []
        for room in self._names:
            detail = self._states[room].detail if room in self._states else ""
            widths.append(
                max(big.horizontalAdvance(self._names[room]), small.horizontalAdvance(detail) + 13) + 28
            )
        return widths

    def sizeHint(self) -> QSize:
        return QSize(sum(self._widths()), HEIGHT)

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        x = 0
        for room, width in zip(self._names, self._widths(), strict=True):
            if x <= event.position().x() < x + width:
                self.room_wanted.emit(room)
            x += width

    def keyPressEvent(self, event: QKeyEvent) -> None:
        moves = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        if event.key() in moves:
            rooms = list(self._names)
            here = rooms.index(self._current) if self._current in rooms else 0
            self.room_wanted.emit(rooms[(here + moves[Qt.Key(event.key())]) % len(rooms)])
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        colours = self.palette()
        if self.ring and self._current is None:  # the shelf is open: the next key leads to the first room
            painter.setPen(QPen(colours.color(ACCENT), 2))
            painter.drawRect(QRectF(self.rect()).adjusted(2, 2, -2, -5))
        x = 0
        for room, width in zip(self._names, self._widths(), strict=True):
            active = room == self._current
            box = QRectF(x, 0, width, HEIGHT)
            if active:
                painter.fillRect(box, colours.color(WINDOW))
                painter.fillRect(QRectF(x, HEIGHT - 3, width, 3), colours.color(ACCENT))
                if self.ring:
                    painter.setPen(QPen(colours.color(ACCENT), 2))
                    painter.setBrush(Qt.BrushStyle.NoBrush)
                    painter.drawRect(box.adjusted(2, 2, -2, -5))
            painter.setPen(colours.color(TEXT))
            painter.setFont(font(13, active))
            painter.drawText(QRectF(x + 14, 9, width, 18), Qt.AlignmentFlag.AlignVCenter, self._names[room])
            state = self._states.get(room)
            if state:
                self._mark(painter, state.state, x + 18, 36)
                painter.setPen(colours.color(SECOND))
                painter.setFont(font(11))
                painter.drawText(QRectF(x + 27, 28, width, 16), Qt.AlignmentFlag.AlignVCenter, state.detail)
            x += width
        painter.setPen(QPen(colours.color(HAIRLINE), 1))
        painter.drawLine(0, HEIGHT - 1, 0, HEIGHT - 1)

    def _mark(self, painter: QPainter, state: str, x: float, y: float) -> None:
        ink = self.palette().color(SECOND)
        circle = QRectF(x - 3.5, y - 3.5, 7, 7)
        painter.setPen(QPen(ink, 1))
        painter.setBrush(ink if state == "done" else Qt.BrushStyle.NoBrush)
        painter.drawEllipse(circle)
        if state == "started":
            painter.setBrush(ink)
            painter.drawPie(circle, 90 * 16, 180 * 16)


class TopBar(QFrame):
    """Wordmark and title at the left, rooms in the middle, menu and shelf at the right."""

    shelf_wanted = Signal()

    def __init__(self, menu: QMenu) -> None:
        super().__init__()
        self.setObjectName("topbar")
        self.setFixedHeight(HEIGHT)
        self._title = label("", "second")
        mark = label("lean sepia", "wordmark")
        mark.setContentsMargins(3, 0, 0, 0)
        left = QWidget()
        left.setFixedWidth(263)
        stack = QVBoxLayout(left)
        stack.setContentsMargins(13, 5, 8, 6)
        stack.setSpacing(1)
        stack.addWidget(mark)
        self._title.setContentsMargins(3, 0, 0, 0)
        stack.addWidget(self._title)
        self.tabs = RoomTabs()
        self.shelf = button(_("Shelf"), "", _("The paints on your shelf"))
        self.shelf.clicked.connect(self.shelf_wanted)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 14, 0)
        layout.setSpacing(0)
        layout.addWidget(left)
        layout.addWidget(self.tabs)
        layout.addStretch(1)
        self.menu_button = button(_("Menu"), "", _("Open, undo, print, lighting, help (F10)"))
        self.menu_button.clicked.connect(lambda: self.open_menu(menu))
        layout.addWidget(self.menu_button)
        layout.addSpacing(8)
        layout.addWidget(self.shelf)

    def open_menu(self, menu: QMenu) -> None:
        """Drop the menu from its button, right edges in line."""
        corner = self.menu_button.mapToGlobal(self.menu_button.rect().bottomRight())
        menu.popup(corner - QPoint(menu.sizeHint().width() - 1, -4))

    def show_title(self, text: str) -> None:
        """The line below the wordmark."""
        self._title.setText(QFontMetrics(font(12)).elidedText(text, Qt.TextElideMode.ElideRight, 236))
        hint(self._title, text)
