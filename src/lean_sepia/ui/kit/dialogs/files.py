"""Asking for files. Every dialog starts in the folder the last one ended in, which the window keeps between starts."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QApplication, QFileDialog, QWidget

_FOLDER = "fileFolder"


def last_folder() -> str:
    """The folder files were last chosen from; empty before the first."""
    app = QApplication.instance()
    return str(app.property(_FOLDER) or "") if app else ""


def remember_folder(folder: str) -> None:
    """Start the next dialog in this folder, if it is there."""
    app = QApplication.instance()
    if app and folder and Path(folder).is_dir():
        app.setProperty(_FOLDER, folder)


def ask_file(parent: QWidget | None, title: str, kinds: str) -> Path | None:
    """A file to open; None where none was chosen."""
    name, _kind = QFileDialog.getOpenFileName(parent, title, last_folder(), kinds)
    return _kept(name)


def ask_files(parent: QWidget | None, title: str, kinds: str) -> list[str]:
    """Files to open; empty where none was chosen."""
    names, _kind = QFileDialog.getOpenFileNames(parent, title, last_folder(), kinds)
    if names:
        _kept(names[0])
    return names


def ask_place(parent: QWidget | None, title: str, name: str, kinds: str) -> Path | None:
    """Where to write a file that is called so unless the user says otherwise; None where that was given up."""
    folder = Path(last_folder() or Path.home())
    chosen, _kind = QFileDialog.getSaveFileName(parent, title, str(folder / name), kinds)
    return _kept(chosen)


def _kept(name: str) -> Path | None:
    if not name:
        return None
    remember_folder(str(Path(name).parent))
    return Path(name)
