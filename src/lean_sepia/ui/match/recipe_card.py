"""A recipe as drops that can be counted, dragged in and out, and added one by one."""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QDragEnterEvent,
    QDropEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import QAbstractButton, QFrame, QHBoxLayout, QMenu, QPushButton, QVBoxLayout, QWidget

from lean_sepia.answers.amounts import counted_out, drop_rate
from lean_sepia.language import _
from lean_sepia.paint.paint import Paint
from lean_sepia.recipe.choice import Choice
from lean_sepia.recipe.parts import measure_out, volume_words
from lean_sepia.shelf.content import Record, stock_ml
from lean_sepia.shelf.shelf import LOW_ML
from lean_sepia.ui.kit.drag import DropSource, drag_drop, dragged_paint
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing, button, holder, label, row
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.swatch import Chip, Drops, Lab, bottle_lab, paint_field
from lean_sepia.ui.kit.theme import ACCENT, SECOND


@guarded
class _PaintDrops(DropSource, Drops):
    """Drops of one paint that can be dragged out of the card."""

    dragged_out = Signal()

    def __init__(self, paint_id: str, lab: Lab | None, count: int) -> None:
        super().__init__(lab, count)
        self._paint_id, self._colour = paint_id, lab
        self.setCursor(Qt.CursorShape.OpenHandCursor)
        hint(self, _("Drag a drop out to take it away"))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.pulled(event):
            ended = drag_drop(self, self._paint_id, self._colour)
            if ended.let_go and not isinstance(ended.on, RecipeCard):
                self.dragged_out.emit()


@guarded
class _MenuChip(KeyboardRing, QAbstractButton):
    """A paint's colour; a click opens what can be done with its bottle."""

    def __init__(self, lab: Lab | None, words: str) -> None:
        super().__init__()
        self._lab = lab
        self.setFixedSize(13, 30)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        hint(self, words)
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


_HEIGHT = 250
"""Room for four bottles: a card does not jump when a drop of another is put in."""


@guarded
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
        records: Mapping[str, Record],
        paint_ml: float,
        editable: bool,
    ) -> None:
        super().__init__()
        self.setProperty("kind", "raised")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAcceptDrops(True)
        self.setMinimumHeight(_HEIGHT)
        recipe = choice.recipe
        words = ", ".join(f"{count} {paints[name].name}" for name, count in recipe.parts)
        self.setAccessibleName(f"{_(choice.title)}: {words}, {recipe.de00:.1f} ΔE00")
        body = QVBoxLayout(self)
        body.setContentsMargins(11, 11, 11, 11)
        body.setSpacing(5)
        title, figure = label(_(choice.title).upper(), "caption"), label(f"{recipe.de00:.1f}", "caption")
        body.addLayout(row(title, None, figure, spacing=4))
        counts = [count for _name, count in recipe.parts]
        amounts = measure_out(counts, paint_ml, [drop_rate(paints[name]) for name, _count in recipe.parts])
        self._stock = stock_ml(records.values())
        low: list[str] = []
        for name, count in recipe.parts:
            body.addLayout(self._paint_row(paints[name], count, editable))
            low += self._low(paints[name].name, self._stock.get(name), paint_ml * count / recipe.total_parts)
        body.addSpacing(4)
        names = [paints[name].name for name, _count in recipe.parts]
        counted = counted_out(zip(amounts, names, strict=True))
        mixed = _("{0} of paint: {1}").format(volume_words(sum(amount.ml for amount in amounts)), counted)
        body.addWidget(label(mixed, "second", wrap=True))
        for sentence in low:
            body.addWidget(label(sentence, "second", wrap=True))
        body.addStretch(1)
        body.addWidget(label(_("A stray drop: {0}").format(f"{recipe.one_drop_de00:.1f}"), "second"))

    def take_focus(self, name: str | None) -> None:
        """Take the keyboard on the control of this name, else on the card itself."""
        named = [child for child in self.findChildren(QWidget) if name and child.accessibleName() == name]
        (named[0] if named else self).setFocus(Qt.FocusReason.OtherFocusReason)

    def _low(self, name: str, left_ml: float | None, needed_ml: float) -> list[str]:
        """What is to be said of a bottle that is nearly empty, or holds less than the cup takes."""
        if left_ml is None or left_ml >= max(LOW_ML, needed_ml):
            return []
        if left_ml < needed_ml:
            words = _("{0} does not last: {1} ml left, {2} needed.")
            return [words.format(name, f"{left_ml:g}", f"{needed_ml:.1f}")]
        return [_("{0} is low: {1} ml left.").format(name, f"{left_ml:g}")]

    def _paint_row(self, paint: Paint, count: int, editable: bool) -> QHBoxLayout:
        lab = bottle_lab(paint)
        name = label(paint.name, wrap=True)
        drops = _PaintDrops(paint.id, lab, count)
        drops.dragged_out.connect(partial(self.changed.emit, paint.id, -1))
        head = row(name, label(str(count)), spacing=2)
        head.setStretch(0, 1)
        if editable:
            head.addSpacing(4)
            for sign, step, tip in (
                ("−", -1, _("A drop of {0} less")),
                ("+", 1, _("A drop of {0} more")),
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
            chip = _MenuChip(lab, _("Do without {0}, always use it, or find stand-ins").format(paint.name))
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
        menu.addAction(_("Do without {0}").format(paint.name), partial(self.left_out.emit, paint.id))
        menu.addAction(_("Always use {0}").format(paint.name), partial(self.always_wanted.emit, paint.id))
        left = self._stock.get(paint.id)
        if left is not None:
            words = _("Keep to the {0} ml of {1} that are left").format(f"{left:g}", paint.name)
            menu.addAction(words, partial(self.stock_wanted.emit, paint.id, left))
        menu.addAction(
            _("Stand-ins for {0}…").format(paint.name), partial(self.stand_in_wanted.emit, paint.id)
        )
        menu.popup(beside.mapToGlobal(beside.rect().bottomLeft()))

    def mousePressEvent(self, _event: QMouseEvent) -> None:
        self.chosen.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
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
        if not isinstance(source, QWidget) or not self.isAncestorOf(source):
            self.changed.emit(name, 1)
