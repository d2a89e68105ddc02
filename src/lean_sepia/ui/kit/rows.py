"""Widgets in a column or a line that are made anew all at once."""

from __future__ import annotations

from collections.abc import Iterable

from PySide6.QtCore import QSize, Signal
from PySide6.QtWidgets import QBoxLayout, QLayout, QVBoxLayout, QWidget

from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.fields.flow import Flow

Item = QWidget | QLayout | None
"""A widget, a layout, or None for what takes up the room that is left."""


@guarded
class Rows(QWidget):
    """Items below each other, or beside each other: in equal widths, else wrapped into further lines where there is no room.

    They are put together out of sight and shown as one: shown one by one in an open window, each would lay the whole window
    out again.
    """

    filled = Signal(bool)  # whether there is anything now

    def __init__(
        self, spacing: int, *, across: bool = False, even: bool = False, right_margin: int = 0
    ) -> None:
        super().__init__()
        self._across, self._stretch, self._spacing, self._right = across, int(even), spacing, right_margin
        self._outer = QVBoxLayout(self)
        self._outer.setContentsMargins(0, 0, 0, 0)
        self._page: QWidget | None = None
        self._widgets: list[QWidget] = []
        self.fill(())

    @property
    def widgets(self) -> tuple[QWidget, ...]:
        """What is shown, in order; layouts among the items are not in it.

        The layout is not asked for its items: the toolkit's binding keeps what it once handed out by address, and a widget made
        where an item had been would be taken for that item.
        """
        return tuple(self._widgets)

    def replace(self, old: QWidget, fresh: QWidget) -> None:
        """Show one widget in the place of another, which goes."""
        assert self._page is not None
        layout = self._page.layout()
        assert layout is not None
        layout.replaceWidget(old, fresh)
        self._widgets[self._widgets.index(old)] = fresh
        old.hide()
        old.deleteLater()

    def minimumSizeHint(self) -> QSize:
        """No more than its words take at the width they have: the toolkit reckons with narrower lines, and scrolls on into nothing."""
        least = super().minimumSizeHint()
        if self.width() > 0 and self.hasHeightForWidth():
            least.setHeight(min(least.height(), self.heightForWidth(self.width())))
        return least

    def fill(self, items: Iterable[Item]) -> None:
        """Show these and nothing else."""
        page, before = QWidget(), self._page
        box: QBoxLayout | Flow
        if self._across and not self._stretch:
            box = Flow(spacing=self._spacing)
            page.setLayout(box)
        else:
            across = QBoxLayout.Direction.LeftToRight
            box = QBoxLayout(across if self._across else QBoxLayout.Direction.TopToBottom, page)
        box.setContentsMargins(0, 0, self._right, 0)
        box.setSpacing(self._spacing)
        count, widgets = 0, list[QWidget]()
        for item in items:
            count += item is not None
            if isinstance(item, QWidget):
                widgets.append(item)
            if isinstance(box, Flow):
                assert item is None or isinstance(item, QWidget)
                if item is not None:  # what is left of its lines stays free
                    box.addWidget(item)
            elif item is None:
                box.addStretch(1)
            elif isinstance(item, QWidget):
                box.addWidget(item, self._stretch)
            else:
                box.addLayout(item, self._stretch)
        self._page, self._widgets = page, widgets
        if before is None:
            self._outer.addWidget(page)
        else:
            self._outer.replaceWidget(before, page)
            before.hide()
            before.deleteLater()
        self.filled.emit(count > 0)
