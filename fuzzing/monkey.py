"""Hands that know nothing: seeded clicks, keys, texts, drops and menus over the real window on the demo."""

from __future__ import annotations

import random
import shutil
import sys
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path

from fuzzing.part import Part
from fuzzing.texts import NASTY

_ROOMS = ("evidence", "match", "tone", "glaze", "wear", "plan", "bench")
_SLOWEST_S = 30.0  # an act does its jobs at once: decoding photos, solving
_MOST_PROJECTS_BYTES = 200_000_000


class Monkey:
    """One window and what may be done to it."""

    def __init__(self, part: Part, folder: Path, *, synchronous: bool) -> None:
        from PySide6.QtCore import QTimer
        from PySide6.QtWidgets import QApplication

        from lean_sepia.ui.app import make_app
        from lean_sepia.ui.kit import theme
        from lean_sepia.ui.kit.faults import faults
        from lean_sepia.ui.shell.settings import Settings
        from lean_sepia.ui.shell.window import MainWindow

        self.part, self.rng, self.folder = part, part.rng, folder
        self.app = QApplication.instance() or make_app([])
        theme.apply(self.app, theme.DAY)
        self._said: list[str] = []
        faults.forget()
        faults.happened.connect(self._said.append)
        self._hook = sys.excepthook
        sys.excepthook = lambda _kind, error, _trace: faults.note(error)
        self.window = MainWindow(Settings(), synchronous=synchronous, remember=False)
        self.window.resize(1280, 800)
        self.window.show()
        # Whatever waits for an answer gets one: dialogs and menus would stop everything else.
        self._closer = QTimer()
        self._closer.setInterval(15)
        # A timer waits for its own slot, and an answer may open the next dialog: so each answer has a timer of its own.
        self._closer.timeout.connect(lambda: QTimer.singleShot(0, self._answer))
        self._closer.start()
        self._acts: list[tuple[int, Callable[[], None]]] = [
            (30, self.click), (14, self.key), (10, self.type), (8, self.room), (6, self.undo), (4, self.wheel), (3, self.zone),
            (3, self.drag), (2, self.shelf), (2, self.menu), (1, self.drop), (1, self.lighting), (1, self.reopen), (1, self.resize),
        ]  # fmt: skip

    def _answer(self) -> None:
        """Type into what was asked sometimes, then take or leave it."""
        popup = self.app.activePopupWidget()
        if popup is not None:
            actions = (
                [action for action in popup.actions() if action.isEnabled()]
                if hasattr(popup, "actions")
                else []
            )
            chosen = self.rng.choice(actions) if actions and self.rng.random() < 0.5 else None
            popup.close()
            if chosen is not None and not chosen.text().startswith(("Quit", "Open the demo")):
                chosen.trigger()
            return
        dialog = self.app.activeModalWidget()
        if dialog is not None:
            if self.rng.random() < 0.5:
                self.type(dialog)
            (dialog.accept if self.rng.random() < 0.5 and hasattr(dialog, "accept") else dialog.close)()
            if dialog.isVisible() and hasattr(dialog, "reject"):
                dialog.reject()

    def chosen(self) -> Callable[[], None]:
        """What is done next."""
        acts, weights = [act for _weight, act in self._acts], [weight for weight, _act in self._acts]
        return self.rng.choices(acts, weights)[0]

    def act(self, act: Callable[[], None]) -> None:
        """Do one thing."""
        act()
        self.app.processEvents()
        if self._said:
            told, self._said[:] = list(self._said), []
            self.part.fail(f"monkey, {act.__name__}", "; ".join(told) + "\n" + self._report())

    def _report(self) -> str:
        from lean_sepia.ui.kit.faults import report_file

        file = report_file()
        return file.read_text(encoding="utf-8", errors="replace")[-4000:] if file.exists() else ""

    def _one(self, kind: type | None = None, inside: object = None) -> object | None:
        from PySide6.QtWidgets import QWidget

        place = inside or self.window
        found = [w for w in place.findChildren(kind or QWidget) if w.isVisible() and w.isEnabled()]
        return self.rng.choice(found) if found else None

    def click(self) -> None:
        from PySide6.QtCore import QPoint, Qt
        from PySide6.QtTest import QTest

        widget = self._one()
        if widget is not None and widget.width() > 0 and widget.height() > 0:
            where = QPoint(self.rng.randrange(widget.width()), self.rng.randrange(widget.height()))
            button = self.rng.choice((Qt.MouseButton.LeftButton,) * 6 + (Qt.MouseButton.RightButton,))
            (QTest.mouseDClick if self.rng.random() < 0.1 else QTest.mouseClick)(
                widget, button, Qt.KeyboardModifier.NoModifier, where
            )

    def drag(self) -> None:
        from PySide6.QtCore import QPoint, Qt
        from PySide6.QtTest import QTest

        from lean_sepia.ui.photo.viewer import PhotoViewer

        widget = self._one(PhotoViewer)
        if widget is not None and min(widget.width(), widget.height()) > 10:
            ends = [
                QPoint(self.rng.randrange(widget.width()), self.rng.randrange(widget.height()))
                for _end in range(2)
            ]
            QTest.mousePress(widget, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, ends[0])
            QTest.mouseMove(widget, ends[1])
            if self.rng.random() < 0.2:
                QTest.keyClick(widget, Qt.Key.Key_Escape)
            QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, ends[1])

    def key(self) -> None:
        from PySide6.QtCore import Qt
        from PySide6.QtTest import QTest

        keys = (Qt.Key.Key_Tab, Qt.Key.Key_Return, Qt.Key.Key_Escape, Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Left, Qt.Key.Key_Right,
                Qt.Key.Key_Space, Qt.Key.Key_Delete, Qt.Key.Key_PageDown, Qt.Key.Key_Home, Qt.Key.Key_Plus, Qt.Key.Key_F1)  # fmt: skip
        widget = self.app.focusWidget() or self._one()
        if widget is not None:
            QTest.keyClick(widget, self.rng.choice(keys))

    def type(self, inside: object = None) -> None:
        from PySide6.QtWidgets import QAbstractSpinBox, QComboBox, QLineEdit, QPlainTextEdit

        widget = self._one(
            self.rng.choice((QLineEdit, QLineEdit, QPlainTextEdit, QAbstractSpinBox, QComboBox)), inside
        )
        text = self.rng.choice(
            (*NASTY, "Hull", "1:20", "8 Deep sea, 1 Chalk", "50", "1957", "mon 19:00-21:00")
        )
        text = text.encode("utf-8", "replace").decode()
        if isinstance(widget, QComboBox) and widget.count():
            widget.setCurrentIndex(self.rng.randrange(widget.count()))
            widget.activated.emit(widget.currentIndex())
        elif isinstance(widget, QLineEdit):
            widget.setText(text)
            widget.textEdited.emit(text)
            widget.editingFinished.emit()
        elif isinstance(widget, QPlainTextEdit):
            widget.setPlainText(text)
        elif isinstance(widget, QAbstractSpinBox):
            widget.stepBy(self.rng.choice((-1000, -1, 1, 1000)))

    def wheel(self) -> None:
        from PySide6.QtCore import QPoint, QPointF, Qt
        from PySide6.QtGui import QWheelEvent

        widget = self._one()
        if widget is not None:
            middle = QPointF(widget.rect().center())
            event = QWheelEvent(
                middle, QPointF(widget.mapToGlobal(widget.rect().center())), QPoint(), QPoint(0, self.rng.choice((-1200, -120, 120, 1200))),
                Qt.MouseButton.NoButton, self.rng.choice((Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ControlModifier)),
                Qt.ScrollPhase.NoScrollPhase, False,
            )  # fmt: skip
            self.app.sendEvent(widget, event)

    def room(self) -> None:
        if self.window.workspace:
            self.window.workspace.open_room(self.rng.choice(_ROOMS))

    def shelf(self) -> None:
        if self.window.workspace:
            self.window.workspace.open_shelf()

    def zone(self) -> None:
        if self.window.workspace:
            self.window.workspace.session.step_zone(self.rng.choice((-1, 1, 3)))

    def undo(self) -> None:
        if self.window.workspace:
            session = self.window.workspace.session
            for _step in range(self.rng.choice((1, 1, 2, 10))):
                self.rng.choice((session.undo, session.undo, session.redo))()

    def menu(self) -> None:
        action = self.rng.choice(self.window.menu.actions())
        if action.isEnabled() and not action.text().startswith(("Quit", "Open the demo", "New project")):
            action.trigger()

    def drop(self) -> None:
        names = [str(file) for file in self.folder.iterdir() if file.suffix in (".jpg", ".png", ".json")]
        if self.window.workspace and names and len(self.window.workspace.session.project.photos) < 8:
            self.window.workspace.add_photos([*self.rng.sample(names, 1), "/dev/zero", "missing.png"])

    def lighting(self) -> None:
        self.window.toggle_lighting()

    def resize(self) -> None:
        self.window.resize(self.rng.randrange(1100, 1800), self.rng.randrange(700, 1100))

    def reopen(self) -> None:
        """Close, and open one of the projects again; each is begun anew when it has grown."""
        self.window.close_project()
        self.open()

    def open(self) -> None:
        """Open one of the two demos."""
        name = self.rng.choice(("tordmule.sepia", "tordmule-untouched.sepia"))
        place = self.folder / name
        if not place.exists() or place.stat().st_size > _MOST_PROJECTS_BYTES or self.rng.random() < 0.3:
            place.unlink(missing_ok=True)
            shutil.copy(self.folder / "kept" / name, place)
        self.window.open_project(place)

    def end(self) -> None:
        """Close everything."""
        self._closer.stop()
        self.window.close()
        self.window.deleteLater()
        self.app.processEvents()
        sys.excepthook = self._hook


def _never_asks(folder: Path, rng: random.Random) -> None:
    """File dialogs of the system answer by themselves: nothing, or something at hand."""
    from PySide6.QtWidgets import QFileDialog

    def some(*_given: object, **_more: object) -> tuple[str, str]:
        files = [str(file) for file in folder.iterdir() if file.is_file()]
        return (rng.choice(["", "", *files]) if files else ""), ""

    def place(*_given: object, **_more: object) -> tuple[str, str]:
        return rng.choice(
            ["", str(folder / "written.out"), str(folder), "/proc/none", str(folder / ("n" * 300))]
        ), ""

    QFileDialog.getOpenFileName = some  # type: ignore[method-assign]
    QFileDialog.getOpenFileNames = lambda *_g, **_m: ([name] if (name := some()[0]) else [], "")  # type: ignore[method-assign]
    QFileDialog.getSaveFileName = place  # type: ignore[method-assign]


def run(part: Part) -> None:
    """Act until the time is over."""
    from lean_sepia.demo.folder import ensure_demo

    demo = ensure_demo()
    folder = part.folder / f"monkey-{part.seed}"
    shutil.rmtree(folder, ignore_errors=True)
    shutil.copytree(demo.folder, folder)
    (folder / "kept").mkdir()
    for file in folder.glob("*.sepia"):
        shutil.copy(file, folder / "kept" / file.name)
    _never_asks(folder, part.rng)
    part.slowest_s = _SLOWEST_S
    half = part.until - (part.until - time.monotonic()) / 2
    half_count = part.most // 2 if part.most else None
    for synchronous in (True, False):  # jobs done at once, then in their threads as in the real window
        monkey = Monkey(part, folder, synchronous=synchronous)
        while part.going:
            if synchronous and (time.monotonic() > half or (half_count and part.count >= half_count)):
                break
            if monkey.window.workspace is None:
                monkey.open()
            act = monkey.chosen()
            part.look(f"monkey, {act.__name__}", partial(monkey.act, act))
        monkey.end()
    shutil.rmtree(folder, ignore_errors=True)
