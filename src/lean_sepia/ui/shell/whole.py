"""The page of the window: as large as the window, and scrolled where that is smaller than a page can be."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QFrame, QScrollArea, QWidget

from lean_sepia.ui.kit.faults import guarded

LEAST = QSize(1100, 700)


@guarded
class Whole(QScrollArea):
    """Its page is never squeezed below its least size: a screen of 800×500 shows a part of it."""

    def __init__(self, page: QWidget) -> None:
        super().__init__()
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._page = page
        self.setWidget(page)

    def minimumSizeHint(self) -> QSize:
        return QSize(0, 0)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._page.resize(self.maximumViewportSize().expandedTo(LEAST))
        super().resizeEvent(event)
