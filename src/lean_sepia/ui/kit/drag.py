"""Drops of paint that are dragged with the mouse."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QMimeData, QObject, QPoint, Qt
from PySide6.QtGui import QDrag, QMouseEvent, QPixmap
from PySide6.QtWidgets import QApplication, QWidget

from lean_sepia.ui.kit.swatch import Drops, Lab

DROP_MIME = "application/x-lean-sepia-drop"


@dataclass(frozen=True)
class Dragged:
    """How a drag ended: whether it was let go at all, and on what; Esc lets nothing go."""

    let_go: bool
    on: QObject | None


def drag_drop(source: QWidget, paint_id: str, lab: Lab | None) -> Dragged:
    """Let a drop of a paint be dragged, and say how that ended."""
    mime = QMimeData()
    mime.setData(DROP_MIME, paint_id.encode())
    drag = QDrag(source)
    drag.setMimeData(mime)
    picture = QPixmap(16, 14)
    picture.fill(Qt.GlobalColor.transparent)
    drop = Drops(lab, 1)
    drop.setAttribute(Qt.WidgetAttribute.WA_TranslucentBackground)
    drop.resize(16, 13)
    drop.render(picture, QPoint(), renderFlags=QWidget.RenderFlag.DrawChildren)
    drag.setPixmap(picture)
    ended = drag.exec(Qt.DropAction.CopyAction)
    return Dragged(ended != Qt.DropAction.IgnoreAction, drag.target())


def dragged_paint(mime: QMimeData) -> str | None:
    """The id of the paint a drop of which is dragged, or None."""
    return bytes(mime.data(DROP_MIME).data()).decode() if mime.hasFormat(DROP_MIME) else None


class DropSource:
    """For widgets a drop of a paint is dragged from: `pulled` says when the hand has moved far enough."""

    _press: QPoint | None = None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._press = event.position().toPoint()
        super().mousePressEvent(event)  # type: ignore[misc]

    def pulled(self, event: QMouseEvent) -> bool:
        """Whether this move begins a drag."""
        if self._press is None:
            return False
        away = event.position().toPoint() - self._press
        if away.manhattanLength() < QApplication.startDragDistance():
            return False
        self._press = None
        return True
