"""A recipe as drops that can be counted, dragged in and out, and added one by one."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QColor, QDragEnterEvent, QDropEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QFrame, QMenu, QPushButton, QVBoxLayout, QWidget

from lean_sepia.paint.paint import Paint
from lean_sepia.recipe.choice import Choice
from lean_sepia.recipe.parts import DROPS_PER_ML, drops_for
from lean_sepia.shelf.shelf import LOW_ML
from lean_sepia.shelf.shelf_file import stock_ml
from lean_sepia.ui.kit.panel import ElidedLabel, KeyboardRing, button, holder, label, row
from lean_sepia.ui.kit.swatch import Chip, Drops, Lab, bottle_lab, paint_field
from lean_sepia.ui.kit.theme import ACCENT, SECOND
from lean_sepia.ui.match.paint_rack import DropSource, drag_drop, dragged_paint


class _PaintDrops(DropSource, Drops):
    """Drops of one paint that can be dragged out of the card."""

    dragged_out = Signal()

    def __init__(self, paint_id: str, lab: Lab | None, count: int) -> None:
        super().__init__(lab, count)
        self._paint_id, self._colour = paint_id, lab
        self.setCursor(Qt.CursorShape.OpenHandCursor)
        self.setToolTip(self.tr("Drag a drop out to take it away"))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.pulled(event) and not drag_drop(self, self._paint_id, self._colour):
            self.dragged_out.emit()


class _MenuChip(KeyboardRing, QAbstractButton):
    """A paint's colour; a click opens what can be done with its bottle."""

    def __init__(self, lab: Lab | None, words: str) -> None:
        super().__init__()
        self._lab = lab
        self.setFixedSize(13, 30)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setToolTip(words)
        self.setAccessibleName(words)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        paint_field(painter, QRectF(self.rect()), self._lab, self.palette().color(SECOND))
        # Three dots, dark on light and light on dark, say that there is more.
        painter.setPen(
            QPen(QColor(250, 250, 250) if self._lab and self._lab[0] < 60 else QColor(20, 20, 20), 2)
        )
        for place in (9, 15, 21):
            painter.drawPoint(6, place)
        if self.ring:
            painter.setPen(QPen(self.palette().color(ACCENT), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))


class RecipeCard(QFrame):
    """A recipe as drops; the chosen card also has buttons to change it."""

    chosen = Signal()
    changed = Signal(str, int)
    left_out = Signal(str)
    always_wanted = Signal(str)
    stand_in_wanted = Signal(str)
    stock_wanted = Signal(str, float)

    def __init__(
        self,
        choice: Choice,
        paints: dict[str, Paint],
        records: dict[str, dict],
        volume_ml: float,
        editable: bool,
    ) -> None:
        super().__init__()
        self.setProperty("kind", "raised")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAcceptDrops(True)
        recipe = choice.recipe
        words = ", ".join(f"{count} {paints[name].name}" for name, count in recipe.parts)
        self.setAccessibleName(f"{choice.title}: {words}, {recipe.de00:.1f} ΔE00")
        body = QVBoxLayout(self)
        body.setContentsMargins(11, 11, 11, 11)
        body.setSpacing(5)
        title, figure = label(choice.title.upper(), "caption"), label(f"{recipe.de00:.1f}", "caption")
        body.addLayout(row(title, None, figure, spacing=4))
        rates = [float(records.get(name, {}).get("drops_per_ml") or DROPS_PER_ML) for name, _ in recipe.parts]
        drops = drops_for([count for _, count in recipe.parts], volume_ml, sum(rates) / len(rates))
        self._stock = stock_ml(records.values())
        low: list[str] = []
        for name, count in recipe.parts:
            body.addLayout(self._paint_row(paints[name], count, editable))
            low += self._low(paints[name].name, self._stock.get(name), volume_ml * count / recipe.total_parts)
        body.addSpacing(4)
        figures = ", ".join(str(count) for count in drops)
        mixed = self.tr("Mix {0} ml: {1} drops.").format(f"{volume_ml:g}", figures)
        body.addWidget(label(mixed, "second", wrap=True))
        for sentence in low:
            body.addWidget(label(sentence, "second", wrap=True))
        body.addStretch(1)
        body.addWidget(label(self.tr("A stray drop: {0}").format(f"{recipe.one_drop_de00:.1f}"), "second"))

    def _low(self, name: str, left_ml: float | None, needed_ml: float) -> list[str]:
        """What is to be said of a bottle that is nearly empty, or holds less than the cup takes."""
        if left_ml is None or left_ml >= max(LOW_ML, needed_ml):
            return []
        if left_ml < needed_ml:
            words = self.tr("{0} does not last: {1} ml left, {2} needed.")
            return [words.format(name, f"{left_ml:g}", f"{needed_ml:.1f}")]
        return [self.tr("{0} is low: {1} ml left.").format(name, f"{left_ml:g}")]

    def _paint_row(self, paint: Paint, count: int, editable: bool):
        lab = bottle_lab(paint)
        name = ElidedLabel()
        name.show_text(paint.name)
        drops = _PaintDrops(paint.id, lab, count)
        drops.dragged_out.connect(partial(self.changed.emit, paint.id, -1))
        head = row(name, label(str(count)), spacing=2)
        head.setStretch(0, 1)
        if editable:
            head.addSpacing(4)
            for sign, step, tip in (
                ("−", -1, self.tr("A drop of {0} less")),
                ("+", 1, self.tr("A drop of {0} more")),
            ):
                key = self._small(sign, tip.format(paint.name))
                key.clicked.connect(partial(self._change, paint.id, step))
                head.addWidget(key)
        text = QVBoxLayout()
        text.setSpacing(1)
        text.addLayout(head)
        text.addWidget(drops)
        chip: QWidget = Chip(lab, 13, 30)
        if editable:
            chip = _MenuChip(
                lab, self.tr("Do without {0}, always use it, or find stand-ins").format(paint.name)
            )
            chip.clicked.connect(partial(self._show_menu, paint, chip))
        line = row(chip, 2, holder(text))
        line.setStretch(2, 1)
        return line

    def _small(self, sign: str, words: str) -> QPushButton:
        answer = button(sign, "tiny", words)
        answer.setAccessibleName(words)
        answer.setFixedSize(18, 17)
        return answer

    def _change(self, paint_id: str, step: int, _checked: bool = False) -> None:
        self.changed.emit(paint_id, step)

    def _show_menu(self, paint: Paint, beside: QWidget, _checked: bool = False) -> None:
        menu = QMenu(self)
        menu.addAction(self.tr("Do without {0}").format(paint.name), partial(self.left_out.emit, paint.id))
        menu.addAction(
            self.tr("Always use {0}").format(paint.name), partial(self.always_wanted.emit, paint.id)
        )
        left = self._stock.get(paint.id)
        if left is not None:
            words = self.tr("Keep to the {0} ml of {1} that are left").format(f"{left:g}", paint.name)
            menu.addAction(words, partial(self.stock_wanted.emit, paint.id, left))
        menu.addAction(
            self.tr("Stand-ins for {0}…").format(paint.name), partial(self.stand_in_wanted.emit, paint.id)
        )
        menu.popup(beside.mapToGlobal(beside.rect().bottomLeft()))

    def mousePressEvent(self, _event: QMouseEvent) -> None:
        self.chosen.emit()

    def keyPressEvent(self, event) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.chosen.emit()
        else:
            super().keyPressEvent(event)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if dragged_paint(event.mimeData()) is not None:
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        name = dragged_paint(event.mimeData())
        if name is None:
            return
        event.acceptProposedAction()
        source = event.source()
        if source is None or not self.isAncestorOf(source):
            self.changed.emit(name, 1)
