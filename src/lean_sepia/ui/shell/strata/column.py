"""The zone column: the rack of all cores, the chosen core large, and what will be seen beside the target."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QFontMetrics,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QWheelEvent,
)
from PySide6.QtWidgets import QFrame, QInputDialog, QMenu, QMessageBox, QVBoxLayout, QWidget

from lean_sepia.answers.strata import Band, Strata, seen_miss
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.words import difference
from lean_sepia.document.coats import move_coat, remove_coat, switch_coat
from lean_sepia.document.model import Project, Zone
from lean_sepia.document.steps import coat_name
from lean_sepia.document.zones import add_zone, change_zone, remove_zone
from lean_sepia.language import _
from lean_sepia.plan.kinds import KINDS
from lean_sepia.ui.kit.panel import KeyboardRing, button, label, row
from lean_sepia.ui.kit.swatch import Fields, paint_field, qcolor
from lean_sepia.ui.kit.theme import ACCENT, HAIRLINE, SECOND, TEXT, WINDOW, font
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.shell.strata.zone_dialog import ZoneDialog

COLUMN = 264


def band_heights(bands: tuple[Band, ...], height: float, least: float, most: float) -> list[float]:
    """Heights by film and share of area, thin coats no lower than `least`, the sum no more than `height`."""
    raw = [min(most, max(least, 64 * band.film * max(band.coat.area_share, 0.05))) for band in bands]
    spare = sum(raw) - height
    if spare > 0:
        room = sum(value - least for value in raw)
        share = min(1.0, spare / room) if room > 0 else 0.0
        raw = [value - (value - least) * share for value in raw]
        if sum(raw) > height:
            raw = [value * height / sum(raw) for value in raw]
    return raw


def paint_band(painter: QPainter, rect: QRectF, bands: tuple[Band, ...], band: Band, ink: QColor) -> None:
    """One band: a full coat as a field; marks on a share of the area as flecks over the coat they lie on."""
    if not band.coat.on or band.lab is None or band.coat.area_share > 0.5:
        paint_field(painter, rect, band.lab if band.coat.on else None, ink)
        return
    below = [
        other.lab for other in bands[: bands.index(band)] if other.coat.on and other.coat.area_share > 0.5
    ]
    paint_field(painter, rect, below[-1] if below else None, ink)
    colour, _unused = qcolor(band.lab)
    tall = min(rect.height() - 4, 12.0)
    width = 3.0 + 7.0 * min(1.0, band.coat.area_share * 12)
    count = max(2, int(rect.width() / (width + 9)))
    step = rect.width() / count
    for index in range(count):
        drop = (index % 3 - 1) * min(3.0, rect.height() / 8)
        x = rect.left() + step * (index + 0.5) - width / 2
        painter.fillRect(QRectF(x, rect.center().y() - tall / 2 + drop, width, tall - abs(drop)), colour)


class Rack(KeyboardRing, QWidget):
    """Every zone as a thin core. Arrow keys and clicks choose; the wheel scrolls when there are many."""

    _STEP, _CORE, _NAME = 38, 20, 18

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

    def _zones(self) -> tuple[Zone, ...]:
        return self._session.project.zones

    def _follow(self) -> None:
        ids = [zone.id for zone in self._zones()]
        if self._session.zone in ids:
            left = ids.index(self._session.zone) * self._STEP
            self._offset = min(max(self._offset, left + self._STEP - self.width() + 8), left)
            zone = self._session.project.zone(self._session.zone)
            self.setAccessibleDescription(zone.name)
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        most = max(0, len(self._zones()) * self._STEP - self.width() + 8)
        self._offset = min(most, max(0, self._offset - event.angleDelta().y() // 4))
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        index = int((event.position().x() - 4 + self._offset) // self._STEP)
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
            left = 4 + index * self._STEP - self._offset + (self._STEP - self._CORE) // 2
            if left < -self._STEP or left > self.width():
                continue
            top = self._core(painter, self._session.cut(zone.id), left, floor)
            chosen = zone.id == self._session.zone
            if chosen:
                painter.setPen(QPen(colours.color(TEXT), 2))
                painter.drawRect(QRectF(left - 4, top - 4, self._CORE + 8, floor - top + 8))
            painter.setPen(colours.color(TEXT if chosen else SECOND))
            name = metrics.elidedText(zone.short, Qt.TextElideMode.ElideRight, self._STEP - 2)
            box = QRectF(left + self._CORE / 2 - self._STEP / 2, floor + 6, self._STEP, self._NAME)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, name)
        if not self._zones():
            painter.setPen(colours.color(SECOND))
            painter.drawText(self.rect().adjusted(12, 0, -12, 0), Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap,
                             _("No zone yet: name the first area you will paint as one."))  # fmt: skip
        if self.ring:
            painter.setPen(QPen(colours.color(ACCENT), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))

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


class Core(KeyboardRing, QWidget):
    """The chosen zone's coats, large. Click opens a band's room, dragging moves it, Space switches it off."""

    room_wanted = Signal(str)

    _WIDTH, _LEAST, _MOST = 74, 26.0, 104.0

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._chosen = 0
        self._dragged: tuple[int, float] | None = None
        self._shift = 0.0
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

    def mousePressEvent(self, event: QMouseEvent) -> None:
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

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._dragged is None:
            return
        index, _unused = self._dragged
        moved, self._dragged = self._shift, None
        self._shift = 0.0
        self.update()
        if abs(moved) < 5:
            self.room_wanted.emit(KINDS[self._bands()[index].coat.kind].room)
            return
        target = self._at(event.position().y())
        if target is None:
            target = len(self._bands()) - 1 if event.position().y() < 1 else 0
        self._move(index, target - index)

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
        menu.addAction(_("Open its room"), lambda: self.room_wanted.emit(KINDS[coat.kind].room))
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
            self.room_wanted.emit(KINDS[bands[self._chosen].coat.kind].room)
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
        if rects:
            painter.setPen(QPen(colours.color(HAIRLINE), 1))
            bottom = rects[0].bottom()
            painter.drawLine(QPointF(self._WIDTH + 12, bottom), QPointF(self.width(), bottom))
        elif self._session.zone:
            painter.setFont(font(12))
            painter.setPen(colours.color(SECOND))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap,
                             self._first_words())  # fmt: skip

    def _first_words(self) -> str:
        """What to do in a zone without a coat."""
        if self._session.cut(self._session.zone).targets.fresh is not None:
            return _("No coat yet. Pin a recipe to this zone in Match.")
        return _("No coat yet. Sample its colour in Evidence, then pin a recipe in Match.")

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
        strong = band.coat.kind == "base"
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


class StrataColumn(QFrame):
    """The left column of the window."""

    room_wanted = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setObjectName("column")
        self.setFixedWidth(COLUMN)
        self._session = session
        self._name = label("", "title", wrap=True)
        self._about = label("", "second")
        self._foot = Fields(margin=12, height=64)
        self._foot_words = label("", "second", wrap=True)
        self._foot_words.setMinimumHeight(34)
        self._core = Core(session)
        self._core.room_wanted.connect(self.room_wanted)
        add = button("+", "step", _("Add a zone"))
        add.setAccessibleName(_("Add a zone"))
        add.clicked.connect(self.add_zone)
        more = button("…", "step", _("Rename or remove this zone"))
        more.setAccessibleName(_("Rename or remove this zone"))
        more.clicked.connect(self._zone_menu)
        self._more = more
        layout = QVBoxLayout(self)
        layout.setContentsMargins(16, 12, 16, 10)
        layout.setSpacing(4)
        layout.addLayout(row(label(_("ZONES"), "caption"), None, add, more, spacing=4))
        layout.addSpacing(4)
        layout.addWidget(Rack(session))
        layout.addSpacing(8)
        layout.addWidget(self._name)
        layout.addWidget(self._about)
        layout.addSpacing(8)
        layout.addWidget(self._core, 1)
        layout.addSpacing(8)
        layout.addWidget(self._foot)
        layout.addWidget(self._foot_words)
        session.changed.connect(self._refresh)
        session.zone_changed.connect(self._refresh)
        self._refresh()

    def _refresh(self) -> None:
        session = self._session
        self._more.setEnabled(bool(session.zone))
        if not session.zone:
            self._name.setText(_("No zone chosen"))
            self._about.setText("")
            self._foot.show_labs([None, None])
            self._foot_words.setText("")
            return
        zone = session.project.zone(session.zone)
        self._name.setText(zone.name)
        subject = session.project.subject_of(zone)
        about = [f"{subject.name} 1:{subject.scale:g}"]
        if zone.area_cm2:
            about.append(f"{zone.area_cm2:g} cm²")
        self._about.setText(" · ".join(about))
        self._show_foot(session.cut(session.zone))

    def _show_foot(self, cut: Strata) -> None:
        pair = seen_miss(cut)
        if pair is None:
            target = cut.targets.seen or cut.targets.exposed or cut.targets.fresh
            self._foot.show_labs([target.lab if target else None, None], _("Target and what will be seen"))
            self._foot_words.setText(
                _("Target | not matched yet.") if target else _("No target yet: take a sample in Evidence.")
            )
            return
        target_lab, predicted, stage = pair
        miss = float(delta_e00(target_lab, predicted))
        words = difference(target_lab, predicted).words
        self._foot.show_labs([target_lab, predicted], _("Target and what will be seen"))
        said = {
            "seen": _("Target | what will be seen"),
            "exposed": _("Target | after the fade"),
            "fresh": _("Target | the fresh base"),
        }[stage]
        self._foot_words.setText(f"{said}: {words}. ΔE00 {miss:.1f}.")

    def add_zone(self) -> None:
        """Ask for a name and add a zone."""
        name, accepted = QInputDialog.getText(
            self, _("New zone"), _("Name of the area, such as Hull or Roof")
        )
        if accepted:
            self.add_named_zone(name)

    def add_named_zone(self, name: str) -> None:
        """Add a zone with this name and choose it."""
        made: list[str] = []

        def change(project: Project) -> Project:
            project, zone_id = add_zone(project, name)
            made.append(zone_id)
            return project

        if self._session.edit(_("Add zone {0}").format(name.strip()), change):
            self._session.choose_zone(made[0])

    def _zone_menu(self) -> None:
        menu = QMenu(self)
        menu.addAction(_("About this zone…"), self._describe)
        menu.addAction(_("Remove with its samples and coats…"), self._remove)
        menu.popup(self._more.mapToGlobal(self._more.rect().bottomLeft()))

    def _describe(self) -> None:
        project = self._session.project
        dialog = ZoneDialog(project.zone(self._session.zone), project, self)
        if dialog.exec():
            changed = dialog.zone()
            self._session.edit(_("About {0}").format(changed.name), lambda p: change_zone(p, changed))

    def _remove(self) -> None:
        zone = self._session.project.zone(self._session.zone)
        question = _("Remove “{0}” with its samples, regions and coats? Undo brings it back.").format(
            zone.name
        )
        if QMessageBox.question(self, _("Remove zone"), question) == QMessageBox.StandardButton.Yes:
            self._session.edit(_("Remove zone {0}").format(zone.name), lambda p: remove_zone(p, zone.id))
