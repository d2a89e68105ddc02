"""Starts with broken settings: whatever is remembered, the first page opens."""

from __future__ import annotations

import json
import os
from functools import partial
from pathlib import Path
from typing import Any

from fuzzing.part import Part
from fuzzing.texts import NASTY, mutated

_VALUES: tuple[Any, ...] = (
    None, True, -1, 0, 10**18, 1e308, "", "\x00", "x" * 9000, "/", "/root", "/dev/zero", "/proc/self/mem", "\ud800", [], {}, [[]],
    ["/" + "n" * 5000], [["/a", "cellar"]], [["airbrush", 3]], *NASTY[:40],
)  # fmt: skip


def _broken(part: Part, whole: dict[str, Any]) -> bytes:
    """Settings with fields replaced, taken away or their text changed."""
    rng = part.rng
    data = dict(whole)
    for _change in range(rng.choice((1, 2, 5))):
        name = rng.choice(list(whole))
        if rng.random() < 0.2:
            data.pop(name, None)
        else:
            data[name] = rng.choice(_VALUES)
    text = json.dumps(data)
    return (mutated(rng, text) if rng.random() < 0.4 else text).encode("utf-8", "surrogatepass")


def _start(content: bytes) -> None:
    """Write the settings and open the window, as `run_app` does."""
    from PySide6.QtWidgets import QApplication

    from lean_sepia.ui.app import make_app
    from lean_sepia.ui.shell.settings import load_settings, settings_file
    from lean_sepia.ui.shell.window import MainWindow

    app = QApplication.instance() or make_app([])
    file = settings_file()
    file.parent.mkdir(parents=True, exist_ok=True)
    file.write_bytes(content)
    window = MainWindow(load_settings(), synchronous=True, remember=True)
    window.show()
    app.processEvents()
    if not window.start_page.isVisible():
        raise AssertionError("the first page is not there")
    if not window.close():
        raise AssertionError("the window did not close")
    window.deleteLater()
    app.processEvents()


def run(part: Part) -> None:
    """Start until the time is over."""
    from dataclasses import asdict

    from lean_sepia.ui.shell.settings import Settings

    before = os.environ.get("XDG_STATE_HOME")
    os.environ["XDG_STATE_HOME"] = str(part.folder / f"starts-{part.seed}")
    whole = asdict(
        Settings(recent=(str(Path(__file__)),), size=(1280, 800), folder=str(part.folder), px_per_mm=4.0)
    )
    try:
        while part.going:
            content = _broken(part, whole)
            part.look("start", partial(_start, content), content)
    finally:
        os.environ.pop("XDG_STATE_HOME")
        if before is not None:
            os.environ["XDG_STATE_HOME"] = before
