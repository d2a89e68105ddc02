"""A sheet that lies over the left edge of a room, beside the zone column: a caption, a title, lines to fill in, and buttons."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QEvent, QObject, QRect, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.keys import reading_order, step_in_order
from lean_sepia.ui.kit.panel import label, row, scrolled
from lean_sepia.ui.kit.theme import PANEL

SHEET_WIDTH = 384
_ABOVE, _BELOW = 10, 8
_LABEL, _MARGIN, _BAR = 78, 18, 13


@guarded
class Sheet(QFrame):
    """One thing to fill in; `left` says that the user is done with it. Esc leaves it."""

    left = Signal()

    def __init__(self, caption: str, title: str) -> None:
        super().__init__()
        self.setProperty("kind", "sheet")
        self.setFixedWidth(SHEET_WIDTH)
        self.setAutoFillBackground(True)
        self.setBackgroundRole(PANEL)
        self.setAccessibleName(title)
        self.caption, self.title = label("", "caption"), label(title, "title", wrap=True)
        self.set_caption(caption)
        self.body = QVBoxLayout()
        self.body.setSpacing(8)
        self._foot = QHBoxLayout()
        self._foot.setSpacing(8)
        area = scrolled(self.body)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        inner = area.widget()
        assert inner is not None
        inner.setFixedWidth(
            SHEET_WIDTH - 2 * _MARGIN - 4
        )  # the bar lies in the margin, so lines are as long with it
        outer = QVBoxLayout(self)
        outer.setContentsMargins(_MARGIN, 14, _MARGIN - _BAR, 14)
        outer.setSpacing(6)
        for words in (self.caption, self.title):
            words.setContentsMargins(0, 0, _BAR, 0)
            outer.addWidget(words)
        outer.addWidget(area, 1)
        self._foot.setContentsMargins(0, 0, _BAR, 0)
        outer.addLayout(self._foot)

    def set_caption(self, text: str) -> None:
        """Say where the sheet stands."""
        self.caption.setText(text.upper())
        self.caption.setVisible(bool(text))

    def line(self, name: str, *widgets: QWidget | int | None) -> QWidget:
        """A line with its name before what is filled in; returns it, so that it can be hidden."""
        words = label(name, "second")
        words.setFixedWidth(_LABEL)
        for widget in widgets:
            if isinstance(widget, QWidget) and not widget.accessibleName():
                widget.setAccessibleName(name)
        holder = QWidget()
        holder.setLayout(row(words, *widgets, spacing=8))
        self.body.addWidget(holder)
        return holder

    def add(self, item: QWidget | QLayout) -> None:
        """Put something below the lines so far."""
        if isinstance(item, QWidget):
            self.body.addWidget(item)
        else:
            self.body.addLayout(item)

    def buttons(self, buttons: Sequence[QPushButton]) -> None:
        """The buttons at the foot."""
        for button in buttons:
            self._foot.addWidget(button)

    def leave(self, *_why: object) -> None:
        """Be put away; a slot of its own, so that nothing calls a sheet that is gone."""
        self.left.emit()

    def focusNextPrevChild(self, forward: bool) -> bool:
        return step_in_order(self, forward) or super().focusNextPrevChild(forward)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.left.emit()
        else:
            super().keyPressEvent(event)


@guarded
class SheetPlace(QObject):
    """Where sheets lie over a page: at its left edge, one at a time."""

    closed = Signal()

    def __init__(self, page: QWidget) -> None:
        super().__init__(page)
        self._page = page
        self.open: Sheet | None = None
        page.installEventFilter(self)

    def show(self, sheet: Sheet) -> None:
        """Show a sheet in place of the one that is open."""
        self.close()
        self.open = sheet
        sheet.setParent(self._page)
        sheet.left.connect(self.close)
        self._place()
        sheet.show()
        sheet.raise_()
        first = next(iter(reading_order(sheet)), None)
        (first or sheet).setFocus()
        if isinstance(first, QLineEdit):
            first.selectAll()

    def close(self) -> None:
        """Put the open sheet away; nothing of it is kept."""
        if self.open is not None:
            sheet, self.open = self.open, None
            sheet.hide()
            sheet.deleteLater()
            self.closed.emit()

    def _place(self) -> None:
        if self.open is not None:
            height = self._page.height() - _ABOVE - _BELOW
            self.open.setGeometry(QRect(0, _ABOVE, SHEET_WIDTH, height))

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if watched is self._page and event.type() == QEvent.Type.Resize:
            self._place()
        return False
