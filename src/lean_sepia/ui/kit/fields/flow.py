"""A row that goes on in a further line where its controls have no room: nothing in it is clipped."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QRect, QSize, Qt
from PySide6.QtWidgets import QLayout, QLayoutItem, QWidget

from lean_sepia.ui.kit.faults import guarded


@guarded
class Flow(QLayout):
    """Widgets from left to right, wrapped like words; each line is as high as its highest, the others stand in its middle."""

    def __init__(self, *widgets: QWidget, spacing: int = 6) -> None:
        super().__init__()
        self._items: list[QLayoutItem] = []
        self.setSpacing(spacing)
        self.setContentsMargins(0, 0, 0, 0)
        for widget in widgets:
            self.addWidget(widget)

    def addItem(self, item: QLayoutItem) -> None:
        self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._laid(QRect(0, 0, width, 0), place=False)

    def sizeHint(self) -> QSize:
        """All in one line."""
        shown = self._shown()
        wide = sum(item.sizeHint().width() for item in shown) + self.spacing() * max(0, len(shown) - 1)
        return QSize(wide, max((item.sizeHint().height() for item in shown), default=0))

    def minimumSize(self) -> QSize:
        shown = self._shown()
        return QSize(
            max((item.minimumSize().width() for item in shown), default=0),
            max((item.minimumSize().height() for item in shown), default=0),
        )

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        self._laid(rect, place=True)

    def _shown(self) -> list[QLayoutItem]:
        return [item for item in self._items if not item.isEmpty()]

    def _laid(self, rect: QRect, *, place: bool) -> int:
        """Put everything at its place, line by line; returns the height of all lines."""
        y, line = rect.y(), list[tuple[QLayoutItem, QRect]]()

        def end_line() -> int:
            high = max((box.height() for _item, box in line), default=0)
            for item, box in line if place else ():
                item.setGeometry(box.translated(0, (high - box.height()) // 2))
            line.clear()
            return high

        x = rect.x()
        for item in self._shown():
            size = item.sizeHint()
            if line and x + size.width() > rect.x() + rect.width():
                y += end_line() + self.spacing()
                x = rect.x()
            line.append((item, QRect(QPoint(x, y), QSize(min(size.width(), rect.width()), size.height()))))
            x += size.width() + self.spacing()
        return y + end_line() - rect.y()
