"""Asking for files. Every dialog starts in the folder the last one ended in, which the window keeps between starts."""

from __future__ import annotations

import os
import re
from pathlib import Path

from PySide6.QtWidgets import QApplication, QFileDialog, QWidget

from lean_sepia.files.gate import file_name, shown
from lean_sepia.language import _
from lean_sepia.ui.kit.dialogs.ask import confirm

_FOLDER = "fileFolder"
_ENDING = re.compile(r"\*(\.[a-z0-9]+)")


def last_folder() -> str:
    """The folder files were last chosen from; empty before the first."""
    app = QApplication.instance()
    return str(app.property(_FOLDER) or "") if app else ""


def remember_folder(folder: str) -> None:
    """Start the next dialog in this folder, if it is there and can be looked into."""
    app = QApplication.instance()
    if app and folder and os.path.isdir(folder) and os.access(folder, os.R_OK | os.X_OK):
        app.setProperty(_FOLDER, folder)


def home_folder() -> str:
    """The user's own folder, or the one the program runs in where they have none."""
    home = os.path.expanduser("~")
    return home if os.path.isdir(home) else os.path.abspath(os.curdir)


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
    """Where to write a file that is called so unless the user says otherwise; None where that was given up.

    The name may hold a title that anyone wrote. The place ends as its kind does; where that is added to what was typed, and a
    file is there, it is asked about like any other.
    """
    stem, ending = os.path.splitext(name)
    start = os.path.join(last_folder() or home_folder(), file_name(stem, ending))
    while True:
        chosen, kind = QFileDialog.getSaveFileName(parent, title, start, kinds)
        if not chosen:
            return None
        place = Path(chosen)
        ended = with_ending(place, kinds, kind)
        if ended == place or not os.path.lexists(ended):
            return _kept(str(ended))
        words = _("{0} is there already. Replace it?").format(shown(ended))
        if confirm(parent, title, words, _("Replace it")):
            return _kept(str(ended))
        start = str(ended)


def with_ending(place: Path, kinds: str, kind: str = "") -> Path:
    """A place that ends in one of the endings of some kinds of files; else the first of the chosen kind is added."""
    known = _ENDING.findall(kinds)
    if not known or place.suffix.lower() in known:
        return place
    return place.with_name(place.name + (_ENDING.findall(kind) or known)[0])


def _kept(name: str) -> Path | None:
    if not name:
        return None
    remember_folder(str(Path(name).parent))
    return Path(name)
