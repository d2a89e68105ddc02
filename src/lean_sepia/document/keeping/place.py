"""Where a project file lies: whether it is one at all, whether it can be written to, whether it is still the same."""

from __future__ import annotations

import os
import stat
from pathlib import Path

from lean_sepia.errors import ProjectFileError
from lean_sepia.files.beside import JOURNAL
from lean_sepia.files.gate import shown
from lean_sepia.files.sqlite import reason
from lean_sepia.language import _

SUFFIX = ".sepia"
_LONGEST_NAME = 255
_SQLITE_MAGIC = b"SQLite format 3\x00"


def free_name(wanted: Path) -> Path:
    """The wanted place, with a number where something is there already."""
    number, place = 2, wanted
    while os.path.lexists(place):  # never raises: what cannot be looked at is found out on writing
        place = wanted.with_name(f"{wanted.stem} {number}{wanted.suffix}")
        number += 1
    return place


def check_head(file: Path) -> None:
    """Refuse what cannot be a project by its first bytes.

    Raises
    ------
    ProjectFileError
        It is missing, no regular file, or of another kind.
    """
    words = _("The project {0} cannot be opened: {1}.")
    try:
        if not stat.S_ISREG(file.stat().st_mode):
            raise ProjectFileError(words.format(shown(file), _("it is a folder, a device or a pipe")))
        with file.open("rb") as head:
            magic = head.read(len(_SQLITE_MAGIC))
    except (OSError, ValueError) as error:
        raise ProjectFileError(words.format(shown(file), reason(error))) from None
    if magic != _SQLITE_MAGIC:
        words = _("{0} is not a Lean Sepia project. Projects end in {1}; choose another file.")
        raise ProjectFileError(words.format(shown(file), SUFFIX))


def why_not_written(file: Path) -> str:
    """Why a project cannot be saved into its file, as far as that can be told before; empty where it can."""
    if too_long := too_long_name(file):
        return too_long
    if not os.access(file, os.W_OK):
        return _("the file is write-protected")
    if not os.access(os.path.dirname(os.path.realpath(file)), os.W_OK):
        return _("its folder is write-protected")
    return ""


def too_long_name(file: Path) -> str:
    """Why a name leaves no room for the journal that makes saving safe; empty where it does."""
    if len(os.fsencode(file.name)) + len(JOURNAL) > _LONGEST_NAME:
        return _("its name is too long to be saved safely: {0} letters at most").format(
            _LONGEST_NAME - len(JOURNAL)
        )
    return ""
