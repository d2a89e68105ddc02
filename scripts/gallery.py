"""`./sepia gallery DIR`: every room and sheet as a picture, in both lightings, in a small window, the usual one and at 200 %.

From the demo, the bus and an empty project. Look at all of it once, and at what changed whenever something changes.
"""

from __future__ import annotations

import os
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

SIZES = ((1100, 700, 1), (1280, 800, 1), (1280, 800, 2))
"""Breadth and height of the window, and pixels of the screen to each of its own."""
ROOMS = ("evidence", "match", "tone", "glaze", "wear", "plan", "bench")


def pictures(folder: Path, sizes: tuple[tuple[int, int, int], ...] = SIZES) -> Iterator[Path]:
    """Save the pictures one by one into a folder; yields their files."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    os.environ.setdefault("QT_SCALE_FACTOR", "1")
    from lean_sepia.demo.folder import ensure_demo
    from lean_sepia.document.model import Project
    from lean_sepia.document.store import ProjectStore
    from lean_sepia.ui.app import make_app
    from lean_sepia.ui.kit import theme

    folder.mkdir(parents=True, exist_ok=True)
    app = make_app([])
    with tempfile.TemporaryDirectory() as scratch:
        demo = ensure_demo(Path(scratch) / "demo")
        empty = Path(scratch) / "empty.sepia"
        ProjectStore.create(empty, Project(title="Nothing yet")).close()
        projects = {"demo": demo.worked, "bus": demo.bus, "empty": empty}
        for shades, lighting in ((theme.DAY, "day"), (theme.EVENING, "evening")):
            theme.apply(app, shades)
            for size in sizes:
                yield from _of_one(folder, projects, lighting, size)


def _of_one(
    folder: Path, projects: dict[str, Path], lighting: str, size: tuple[int, int, int]
) -> Iterator[Path]:
    """All rooms and sheets in one lighting and size."""
    from fuzzing.fields import sheets

    from lean_sepia.ui.kit.sheet import Sheet
    from lean_sepia.ui.shell.settings import Settings
    from lean_sepia.ui.shell.window import MainWindow

    wide, high, ratio = size
    window = MainWindow(Settings(), synchronous=True, remember=False)
    window.resize(wide, high)
    window.show()
    head = f"{lighting}-{wide}x{high}" + (f"@{ratio}" if ratio > 1 else "")
    try:
        for name, place in projects.items():
            assert window.open_project(place)
            space = window.workspace
            assert space is not None
            for room in ROOMS:
                space.open_room(room)
                yield _saved(window, folder / f"{head}-{name}-{room}.png", ratio)
            space.open_shelf()
            yield _saved(window, folder / f"{head}-{name}-shelf.png", ratio)
            if name != "demo":
                continue
            space.open_room("plan")
            for number, sheet in enumerate(sheets(space.session)):
                shown = window if isinstance(sheet, Sheet) else sheet
                if isinstance(sheet, Sheet):
                    space.sheets.show(sheet)
                else:
                    sheet.show()
                yield _saved(shown, folder / f"{head}-sheet-{number:02d}-{type(sheet).__name__}.png", ratio)
                if not isinstance(sheet, Sheet):
                    sheet.close()
                    sheet.deleteLater()
            space.sheets.close()
    finally:
        window.close()
        window.deleteLater()


def _saved(widget: object, path: Path, ratio: int) -> Path:
    """A widget as it is seen on a screen of so many pixels to each of its own."""
    from PySide6.QtGui import QPixmap
    from PySide6.QtWidgets import QApplication, QWidget

    assert isinstance(widget, QWidget)
    for _turn in range(3):
        QApplication.processEvents()
    picture = QPixmap(widget.size() * ratio)
    picture.setDevicePixelRatio(ratio)
    widget.render(picture)
    if not picture.save(str(path)):
        raise OSError(13, f"{path} could not be saved")
    return path


def main() -> int:
    """Print every file; exit 2 where there is no folder to write to."""
    if len(sys.argv) != 2 or not sys.argv[1].strip():
        print("The gallery needs a folder: ./sepia gallery DIR", file=sys.stderr)
        return 2
    try:
        for path in pictures(Path(sys.argv[1])):
            print(path, flush=True)
    except OSError as error:
        print(f"The gallery cannot be written: {error.strerror or error}.", file=sys.stderr)
        return 2
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
