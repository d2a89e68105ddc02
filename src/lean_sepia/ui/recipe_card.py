"""A recipe as drops that can be counted."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QFrame, QVBoxLayout

from lean_sepia.paint.paint import Paint
from lean_sepia.recipe.choice import Choice
from lean_sepia.recipe.parts import DROPS_PER_ML, drops_for
from lean_sepia.ui.panel import holder, label, row
from lean_sepia.ui.swatch import Chip, Drops


class RecipeCard(QFrame):
    """A recipe as drops that can be counted."""

    chosen = Signal()

    def __init__(
        self, choice: Choice, paints: dict[str, Paint], records: dict[str, dict], volume_ml: float
    ) -> None:
        super().__init__()
        self.setProperty("kind", "raised")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        recipe = choice.recipe
        words = ", ".join(f"{count} {paints[name].name}" for name, count in recipe.parts)
        self.setAccessibleName(f"{choice.title}: {words}, {recipe.de00:.1f} ΔE00")
        body = QVBoxLayout(self)
        body.setContentsMargins(11, 11, 11, 11)
        body.setSpacing(5)
        body.addLayout(
            row(
                label(choice.title.upper(), "caption"),
                None,
                label(f"{recipe.de00:.1f}", "caption"),
                spacing=4,
            )
        )
        rates = [float(records.get(name, {}).get("drops_per_ml") or DROPS_PER_ML) for name, _ in recipe.parts]
        drops = drops_for([count for _, count in recipe.parts], volume_ml, sum(rates) / len(rates))
        low = []
        for (name, count), _dropped in zip(recipe.parts, drops, strict=True):
            paint = paints[name]
            L, a, b = paint.masstone_lab()
            lab = (float(L), float(a), float(b))
            text = QVBoxLayout()
            text.setSpacing(1)
            text.addWidget(label(f"{paint.name} {count}"))
            text.addWidget(Drops(lab, count))
            body.addLayout(row(Chip(lab, 13, 30), 2, holder(text), None))
            stock = records.get(name, {}).get("stock_ml")
            if isinstance(stock, int | float) and stock < 5:
                low.append(self.tr("{0} is low: {1} ml left.").format(paint.name, f"{stock:g}"))
        body.addSpacing(4)
        figures = ", ".join(str(count) for count in drops)
        body.addWidget(
            label(self.tr("Mix {0} ml: {1} drops.").format(f"{volume_ml:g}", figures), "second", wrap=True)
        )
        for sentence in low:
            body.addWidget(label(sentence, "second", wrap=True))
        body.addStretch(1)
        body.addWidget(label(self.tr("A stray drop: {0}").format(f"{recipe.one_drop_de00:.1f}"), "second"))

    def set_chosen(self, chosen: bool) -> None:
        """Outline the card that is compared above."""
        self.setProperty("chosen", "true" if chosen else "false")
        self.style().unpolish(self)
        self.style().polish(self)

    def mousePressEvent(self, _event: QMouseEvent) -> None:
        self.chosen.emit()

    def keyPressEvent(self, event) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.chosen.emit()
        else:
            super().keyPressEvent(event)
