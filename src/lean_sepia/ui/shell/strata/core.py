"""The chosen zone's coats, large."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QFontMetrics,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import QMenu, QWidget

from lean_sepia.answers.strata import Band
from lean_sepia.document.called import coat_name
from lean_sepia.document.edits.coats import LOWEST, move_coat, remove_coat, switch_coat
from lean_sepia.language import _
from lean_sepia.plan.usual import first_kind, next_kind
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.swatch import qcolor
from lean_sepia.ui.kit.theme import ACCENT, HAIRLINE, SECOND, TEXT, font
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.shell.strata.bands import COLUMN, band_heights, paint_band

_NEAR, _NEAR_ON_COLOUR = 5.0, 2.5


@guarded
class Core(KeyboardRing, QWidget):
    """The chosen zone's coats, large. Click opens a band's room, dragging moves it, Space switches it off."""

    room_wanted = Signal(str)
    coat_wanted = Signal(str, object)  # a kind, and the id of the coat it is to lie on, or LOWEST
    coat_opened = Signal(str)
    copy_wanted = Signal(str)

    _WIDTH, _LEAST, _MOST = 74, 26.0, 104.0

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._chosen = 0
        self._dragged: tuple[int, float] | None = None
        self._shift = 0.0
        self._gap: int | None = None  # the gap under the pointer: above so many bands
        self._open_above: str | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName(_("Coats of this zone, top coat first"))
        session.changed.connect(self._refresh)
        session.zone_changed.connect(self._refresh)

    def sizeHint(self) -> QSize:
        return QSize(COLUMN - 32, 280)

    def _bands(self) -> tuple[Band, ...]:
        return self._session.cut(self._session.zone).bands if self._session.zone else ()

    def _refresh(self) -> None:
        self._chosen = min(self._chosen, max(0, len(self._bands()) - 1))
        self._describe()
        self.update()

    def _describe(self) -> None:
        bands = self._bands()
        if bands:
            band = bands[self._chosen]
            self.setAccessibleDescription(f"{band.name}, {band.detail}")

    def _rects(self) -> list[QRectF]:
        """Rectangles of the bands, bottom first."""
        bands = self._bands()
        heights = band_heights(bands, self.height() - 2, self._LEAST, self._MOST)
        y = 1.0 + sum(heights)
        rects = []
        for height in heights:
            y -= height
            rects.append(QRectF(0, y, self._WIDTH, height))
        return rects

    def _at(self, y: float) -> int | None:
        return next(
            (index for index, rect in enumerate(self._rects()) if rect.top() <= y < rect.bottom()), None
        )

    def _gap_at(self, x: float, y: float) -> int | None:
        """Between which bands a point lies, as the number of bands below; on the colours nearer to it, for they are dragged."""
        if self._dragged:
            return None
        near = _NEAR if x >= self._WIDTH else _NEAR_ON_COLOUR
        edges = [(rect.top(), index + 1) for index, rect in enumerate(self._rects())]
        if edges:
            edges.append((self._rects()[0].bottom(), 0))
        return next((gap for edge, gap in edges if abs(edge - y) <= near), None)

    def show_open(self, above: str | None) -> None:
        """Mark the gap above a coat, or above none, for which a sheet is open; None where none is."""
        self._open_above = above
        self.update()

    def open_gap(self, gap: int) -> None:
        """Ask for a coat between two bands, above so many of them."""
        bands = self._bands()
        below = bands[gap - 1].coat if gap else None
        schools = self._session.project.schools
        kind = next_kind(below.kind, schools) if below else first_kind(bands[0].coat.kind if bands else None)
        self.coat_wanted.emit(kind, below.id if below else LOWEST)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        gap = self._gap_at(event.position().x(), event.position().y())
        if gap is not None and event.button() == Qt.MouseButton.LeftButton:
            self.open_gap(gap)
            return
        index = self._at(event.position().y())
        if index is None:
            return
        self._chosen = index
        self._dragged = (index, event.position().y())
        self._shift = 0.0
        self._describe()
        if event.button() == Qt.MouseButton.RightButton:
            self._dragged = None
            self._menu(event)
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._dragged:
            self._shift = event.position().y() - self._dragged[1]
            self.update()
            return
        gap = self._gap_at(event.position().x(), event.position().y())
        if gap != self._gap:
            self._gap = gap
            hint(self, "" if gap is None else _("Lay a coat here"))
            self.setCursor(Qt.CursorShape.ArrowCursor if gap is None else Qt.CursorShape.PointingHandCursor)
            self.update()

    def leaveEvent(self, event: QEvent) -> None:
        self._gap = None
        self.update()
        super().leaveEvent(event)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        index = self._at(event.position().y())
        if index is not None and self._gap_at(event.position().x(), event.position().y()) is None:
            self.coat_opened.emit(self._bands()[index].coat.id)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._dragged is None:
            return
        index, _unused = self._dragged
        moved, self._dragged = self._shift, None
        self._shift = 0.0
        self.update()
        if abs(moved) < 5:
            self._open(index)
            return
        target = self._at(event.position().y())
        if target is None:
            target = len(self._bands()) - 1 if event.position().y() < 1 else 0
        self._move(index, target - index)

    def _open(self, index: int) -> None:
        """Open the room that a band belongs to; the sheet where no room lays it."""
        coat = self._bands()[index].coat
        room = coat.nature.room
        if room == "plan" or coat.nature.is_found:
            self.coat_opened.emit(coat.id)
        else:
            self.room_wanted.emit(room)

    def _move(self, index: int, places: int) -> None:
        coat = self._bands()[index].coat
        name = _("Move {0} up") if places > 0 else _("Move {0} down")
        if places and self._session.edit(
            name.format(coat_name(coat)), lambda p: move_coat(p, coat.id, places)
        ):
            ids = [band.coat.id for band in self._bands()]
            self._chosen = ids.index(coat.id)

    def _switch(self, index: int) -> None:
        coat = self._bands()[index].coat
        name = _("Switch {0} off") if coat.on else _("Switch {0} on")
        self._session.edit(name.format(coat_name(coat)), lambda p: switch_coat(p, coat.id, not coat.on))

    def _remove(self, index: int) -> None:
        coat = self._bands()[index].coat
        self._session.edit(_("Remove {0}").format(coat_name(coat)), lambda p: remove_coat(p, coat.id))

    def _menu(self, event: QMouseEvent) -> None:
        index = self._chosen
        coat = self._bands()[index].coat
        menu = QMenu(self)
        menu.addAction(_("Change this coat…"), lambda: self.coat_opened.emit(coat.id))
        menu.addAction(_("Lay a coat on it…"), lambda: self.open_gap(index + 1))
        menu.addAction(_("Lay it on other zones too…"), lambda: self.copy_wanted.emit(coat.id))
        menu.addAction(_("Open its room"), lambda: self.room_wanted.emit(coat.nature.room))
        menu.addSeparator()
        menu.addAction(_("Switch off") if coat.on else _("Switch on"), lambda: self._switch(index))
        menu.addAction(_("Move up"), lambda: self._move(index, 1))
        menu.addAction(_("Move down"), lambda: self._move(index, -1))
        menu.addSeparator()
        menu.addAction(_("Remove this coat"), lambda: self._remove(index))
        menu.popup(event.globalPosition().toPoint())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        bands = self._bands()
        if not bands:
            super().keyPressEvent(event)
            return
        if event.key() == Qt.Key.Key_Escape and self._dragged is not None:
            self._dragged, self._shift = None, 0.0
            self.update()
            return
        key, moving = event.key(), event.modifiers() & Qt.KeyboardModifier.ControlModifier
        if key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            step = 1 if key == Qt.Key.Key_Up else -1
            if moving:
                self._move(self._chosen, step)
            else:
                self._chosen = min(len(bands) - 1, max(0, self._chosen + step))
            self._describe()
            self.update()
        elif key == Qt.Key.Key_Space:
            self._switch(self._chosen)
        elif key == Qt.Key.Key_Delete:
            self._remove(self._chosen)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._open(self._chosen)
        elif key == Qt.Key.Key_F2:
            self.coat_opened.emit(bands[self._chosen].coat.id)
        elif key == Qt.Key.Key_Insert:
            self.open_gap(self._chosen + 1)
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        colours = self.palette()
        bands, rects = self._bands(), self._rects()
        for index, (band, rect) in enumerate(zip(bands, rects, strict=True)):
            lifted = self._dragged is not None and self._dragged[0] == index
            if lifted:
                rect = rect.translated(6, self._shift)
            self._band(painter, band, rect)
            if self.ring and index == self._chosen:
                painter.setPen(QPen(colours.color(ACCENT), 2))
                painter.drawRect(QRectF(1, rect.top() + 1, self.width() - 2, rect.height() - 2))
        gap = self._marked_gap()
        if gap is not None and rects and gap <= len(rects):
            edge = rects[gap - 1].top() if gap else rects[0].bottom()
            painter.setPen(QPen(colours.color(TEXT), 3 if self._open_above is not None else 2))
            painter.drawLine(QPointF(0, edge), QPointF(self.width() - 1, edge))
        if rects:
            painter.setPen(QPen(colours.color(HAIRLINE), 1))
            bottom = rects[0].bottom()
            painter.drawLine(QPointF(self._WIDTH + 12, bottom), QPointF(self.width(), bottom))
        elif self._session.zone:
            painter.setFont(font(12))
            painter.setPen(colours.color(SECOND))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap,
                             self._first_words())  # fmt: skip

    def _marked_gap(self) -> int | None:
        if self._open_above is None:
            return self._gap
        ids = [band.coat.id for band in self._bands()]
        return ids.index(self._open_above) + 1 if self._open_above in ids else 0

    def _first_words(self) -> str:
        """What to do in a zone without a coat."""
        if self._session.cut(self._session.zone).targets.fresh is not None:
            return _("No coat yet. Pin a recipe to this zone in Match, or lay a coat by hand.")
        return _(
            "No coat yet. Say what is there already, lay a coat by hand, or sample its colour in Evidence and pin a recipe in Match."
        )

    def _band(self, painter: QPainter, band: Band, rect: QRectF) -> None:
        colours = self.palette()
        spot = band.coat.area_share < 0.5
        paint_band(painter, rect, self._bands(), band, colours.color(SECOND))
        if band.lab and band.coat.on:
            painter.setPen(QPen(qcolor(band.lab)[0].darker(118), 1))
            painter.drawLine(rect.topLeft(), rect.topRight())
        left = self._WIDTH + 12
        painter.setPen(QPen(colours.color(HAIRLINE), 1))
        painter.drawLine(QPointF(left, rect.top()), QPointF(self.width(), rect.top()))
        strong = band.coat.nature.is_base
        painter.setFont(font(12, strong))
        painter.setPen(colours.color(TEXT if band.coat.on else SECOND))
        two = band.detail and rect.height() >= 31
        name = QFontMetrics(painter.font()).elidedText(
            band.name, Qt.TextElideMode.ElideRight, self.width() - left
        )
        centre = rect.center().y()
        painter.drawText(QPointF(left, centre - 2 if two else centre + 4), name)
        painter.setFont(font(11))
        painter.setPen(colours.color(SECOND))
        metrics = QFontMetrics(painter.font())
        if two:
            text = metrics.elidedText(band.detail, Qt.TextElideMode.ElideRight, self.width() - left)
            painter.drawText(QPointF(left, centre + 12), text)
        elif band.detail:
            used = QFontMetrics(font(12, strong)).horizontalAdvance(name) + 8
            short = f"{100 * band.coat.area_share:.1f} %" if spot else band.detail
            space = max(0, int(self.width() - left - used))
            if metrics.horizontalAdvance(short) > space:
                short = short.split(", ")[0]
            text = metrics.elidedText(short, Qt.TextElideMode.ElideRight, space)
            painter.drawText(QPointF(self.width() - metrics.horizontalAdvance(text), centre + 4), text)
