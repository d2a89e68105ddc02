"""The first page: three ways in, and the projects worked on last. Imports nothing heavy."""

from __future__ import annotations

import os
from collections.abc import Iterator, Sequence
from pathlib import Path

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QDragEnterEvent, QDropEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QLayout, QPushButton, QVBoxLayout, QWidget

from lean_sepia.files.gate import shown
from lean_sepia.language import _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import ElidedLabel, Panel, button, label, row
from lean_sepia.ui.kit.theme import WELL, WELL_TEXT, font

# A cut through a painted hull, bottom to top, as the emblem.
_EMBLEM = (("#7c4038", 30), ("#3f7670", 74), ("#5d8d86", 26), ("#4d7a72", 14), ("#86968a", 9), ("#a9a08a", 7))
_CORE, _LONGEST_NAME = 118, 48


@guarded
class Emblem(QWidget):
    """The strata drawn once, large and named: what the program is about in one picture."""

    def __init__(self) -> None:
        super().__init__()
        self._names = (
            _("primer"), _("base colour"), _("fade"), _("filter"),
            _("varnish"), _("dust"),
        )  # fmt: skip
        self.setMinimumSize(250, 360)
        self.setAccessibleName(_("A cut through the coats of paint on a hull"))

    def sizeHint(self) -> QSize:
        return QSize(280, 420)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.palette().color(WELL))
        total = sum(height for _unused, height in _EMBLEM)
        inner = QRectF(self.rect()).adjusted(26, 26, -26, -26)
        y = inner.bottom()
        painter.setFont(font(13))
        ink = self.palette().color(WELL_TEXT)
        for (colour, height), name in zip(_EMBLEM, self._names, strict=True):
            tall = round(inner.height() * height / total)
            y -= tall
            painter.fillRect(QRectF(inner.left(), y, _CORE, tall), QColor(colour))
            painter.setPen(QColor(colour).darker(118))
            painter.drawLine(QPointF(inner.left(), y), QPointF(inner.left() + _CORE, y))
            painter.setPen(ink)
            left = inner.left() + _CORE + 12
            painter.drawLine(QPointF(left, y), QPointF(inner.right(), y))
            painter.drawText(QRectF(left, y, inner.right() - left, tall), Qt.AlignmentFlag.AlignVCenter, name)


def _shortened(name: str) -> str:
    return shown(name if len(name) <= _LONGEST_NAME else f"{name[:_LONGEST_NAME]}…")


def _from_home(folder: Path) -> str:
    """A folder as people write it, from their own on."""
    home = os.path.expanduser("~")
    text = shown(folder)
    return f"~{text.removeprefix(home)}" if home != "/" and text.startswith(f"{home}/") else text


@guarded
class StartPage(QWidget):
    """Open the demo, start from a photo, start from a colour, or go on with a recent project."""

    demo_wanted = Signal()
    photo_wanted = Signal()
    colour_wanted = Signal()
    open_wanted = Signal()
    project_wanted = Signal(str)
    photos_dropped = Signal(list)

    def __init__(self, recent: Sequence[Path]) -> None:
        super().__init__()
        self.setObjectName("page")
        self.setAcceptDrops(True)
        self.message = label("", "second", wrap=True)
        self.message.setAccessibleName(_("Message"))
        choices = QVBoxLayout()
        choices.setSpacing(12)
        choices.addWidget(label("lean sepia", "wordmark"))
        choices.addWidget(
            label(
                _("What did the real thing look like, which paints get me there, in what order?"),
                "statement",
                wrap=True,
            )
        )
        choices.addSpacing(12)
        self.buttons: list[QPushButton] = []
        for choice in self._choices():
            choices.addLayout(choice)
        choices.addSpacing(12)
        if recent:
            choices.addWidget(self._recent(recent))
        choices.addWidget(self._way())
        choices.addStretch(1)
        choices.addWidget(self.message)
        choices.addWidget(
            label(
                _("Everything stays on this machine. Photos can be dropped anywhere in the window."),
                "second",
            )
        )
        layout = QHBoxLayout(self)
        layout.setContentsMargins(64, 64, 64, 48)
        layout.setSpacing(48)
        layout.addWidget(Emblem())
        layout.addLayout(choices, 1)

    def _way(self) -> Panel:
        """The rooms in working order, a line each, for someone who is here for the first time."""
        panel = Panel(_("How a finish comes about"))
        for name, about in (
            (
                _("Evidence"),
                _("photos with the cast taken out; samples that say how sure they are"),
            ),
            (_("Match"), _("whole drops of paints from your own shelf")),
            (_("Tone"), _("the faded colour, with a lightener that does not turn the hue")),
            (_("Glaze"), _("one filter that brings several colours together")),
            (_("Wear"), _("how much, how large, and what can be seen at your scale")),
            (_("Plan"), _("an order in which no step spoils another")),
            (_("Bench"), _("one step at a time, and a card on paper")),
        ):
            head = label(name)
            head.setFixedWidth(92)
            panel.add(row(head, label(about, "second"), None))
        return panel

    def _choices(self) -> Iterator[QLayout]:
        """What can be done first, each a button with a sentence."""
        for words, about, signal, kind in (
            (
                _("Open the demo"), _("A buoy tender of 1957, half worked: every room has something to show."),
                self.demo_wanted, "main",
            ),
            (
                _("Start from a photo"), _("Take the cast out, sample a colour, get a recipe."), self.photo_wanted, "",
            ),
            (
                _("Start from a colour"), _("You know the colour already: type it and mix it."), self.colour_wanted, "",
            ),
            (_("Open a project"), _("A file that ends in .sepia."), self.open_wanted, ""),
        ):  # fmt: skip
            choice = button(words, kind)
            choice.setFixedWidth(190)
            choice.clicked.connect(signal)
            choice.setAccessibleDescription(about)
            self.buttons.append(choice)
            yield row(choice, 6, label(about, "second"), None)

    def _recent(self, recent: Sequence[Path]) -> Panel:
        panel = Panel(_("Worked on last"))
        for path in recent[:5]:
            link = button(_shortened(path.stem), "link", shown(path))
            link.clicked.connect(lambda _checked=False, name=str(path): self.project_wanted.emit(name))
            folder = ElidedLabel("second")
            folder.show_text(_from_home(path.parent))
            panel.add(row(link, 8, folder))
        return panel

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        paths = [url.toLocalFile() for url in event.mimeData().urls() if url.isLocalFile()]
        if paths:
            event.setDropAction(Qt.DropAction.CopyAction)
            event.accept()
            self.photos_dropped.emit(paths)
