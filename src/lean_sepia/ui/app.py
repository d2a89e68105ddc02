"""Start the program with a window."""

from __future__ import annotations

import sys
import traceback
from pathlib import Path

from PySide6.QtCore import QTimer
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QApplication

from lean_sepia.files.own_folders import is_homeless, own_folder
from lean_sepia.language import _
from lean_sepia.ui.kit import theme
from lean_sepia.ui.kit.faults import catch_uncaught, faults
from lean_sepia.ui.shell.litter import hold_off
from lean_sepia.ui.shell.settings import Settings, load_settings
from lean_sepia.ui.shell.window import MainWindow

_HAND_OVER_S = 0.0005
ICON = Path(__file__).parent / "icons" / "lean-sepia.svg"


def make_app(arguments: list[str] | None = None) -> QApplication:
    """The application with its fonts and names."""
    # A job in its thread hands over to the interface sooner: by default every repaint waits 5 ms for it, many times over.
    sys.setswitchinterval(0.0001)
    hold_off()
    app = QApplication(arguments if arguments is not None else sys.argv[:1])
    app.setApplicationName("lean-sepia")
    app.setApplicationDisplayName("Lean Sepia")
    app.setDesktopFileName("lean-sepia")
    app.setWindowIcon(QIcon(str(ICON)))
    theme.load_fonts()
    return app


def run_app(project: Path | None = None) -> int:
    """Open the window, and a project in it where one is given; returns the exit code."""
    app = make_app()
    catch_uncaught()
    if is_homeless():
        words = _(
            "You have no home folder, so what the program keeps for you is in {0}: save your projects elsewhere."
        )
        _print(words.format(own_folder("data")))
    settings = load_settings()
    try:
        window = _shown_window(app, settings)
    except Exception as error:  # noqa: BLE001 - whatever was remembered must not keep the program from starting
        faults.note(error)
        traceback.print_exception(error, limit=-5)
        _print(
            _(
                "The program could not start as it was left and starts anew; the settings are as on the first day."
            )
        )
        window = _shown_window(app, Settings())
    if project is not None:
        QTimer.singleShot(0, lambda: window.open_project(project))
    return app.exec()


def _shown_window(app: QApplication, settings: Settings) -> MainWindow:
    theme.apply(app, theme.EVENING if settings.evening else theme.DAY)
    window = MainWindow(settings)
    window.show()
    return window


def _print(words: str) -> None:
    print(words, file=sys.stderr, flush=True)
