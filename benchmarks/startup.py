"""Start-up to a usable window against an empty PySide6 window, in fresh processes, alternating."""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import tempfile

from benchmarks.figure import report

RUNS = 9

EMPTY = """
import sys
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMainWindow
class Window(QMainWindow):
    painted = handled = False
    def paintEvent(self, event): super().paintEvent(event); self.painted = True
    def keyPressEvent(self, event): self.handled = True
app = QApplication(sys.argv)
window = Window(); window.resize(1280, 800); window.show()
while not window.painted: app.processEvents()
QTest.keyClick(window, Qt.Key.Key_A)
assert window.handled
"""

OURS = """
import sys
from PySide6.QtCore import Qt, QEvent, QObject
from PySide6.QtTest import QTest
from lean_sepia.ui.app import make_app
from lean_sepia.ui.kit import theme
from lean_sepia.ui.shell.settings import load_settings
from lean_sepia.ui.shell.window import MainWindow
class Watch(QObject):
    painted = False
    def eventFilter(self, widget, event):
        if event.type() == QEvent.Type.Paint: self.painted = True
        return False
app = make_app([])
settings = load_settings()
theme.apply(app, theme.EVENING if settings.evening else theme.DAY)
window = MainWindow(settings)
watch = Watch(); window.start_page.installEventFilter(watch)
window.show()
while not watch.painted: app.processEvents()
first, second = window.start_page.buttons[:2]
first.setFocus()
QTest.keyClick(first, Qt.Key.Key_Tab)
assert app.focusWidget() is second or not window.isActiveWindow()
window.close()
"""


def _milliseconds(code: str, environment: dict[str, str]) -> float:
    import time

    start = time.perf_counter()
    subprocess.run([sys.executable, "-c", code], env=environment, check=True, capture_output=True)
    return 1000 * (time.perf_counter() - start)


def main() -> bool:
    """First page painted and one key handled: at most 4 × an empty window."""
    with tempfile.TemporaryDirectory() as folder:
        environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "XDG_STATE_HOME": folder}
        _milliseconds(EMPTY, environment)
        _milliseconds(OURS, environment)
        pairs = [(_milliseconds(EMPTY, environment), _milliseconds(OURS, environment)) for _ in range(RUNS)]
    ratio = statistics.median(ours / empty for empty, ours in pairs)
    empty, ours = (statistics.median(column) for column in zip(*pairs, strict=True))
    return report(
        "start-up to a usable window",
        ratio,
        4,
        "an empty PySide6 window",
        f"[{ours:.0f} ms against {empty:.0f} ms]",
    )
