"""The program's own folders: the user's data, its state, its cache. There is one even for a user without a home."""

from __future__ import annotations

import os
import stat
import tempfile
from functools import cache
from pathlib import Path
from typing import Literal

from platformdirs import PlatformDirs

Kind = Literal["data", "state", "cache"]
_DIRS = PlatformDirs("lean-sepia", appauthor=False)


def own_folder(kind: Kind) -> Path:
    """Where the program keeps something of this user's (XDG Base Directory Specification); it may not be there yet."""
    try:
        folder: Path = getattr(_DIRS, f"user_{kind}_path")
    except RuntimeError:
        return _without_home() / kind
    return folder


def is_homeless() -> bool:
    """Whether the user has no home folder, so that what is kept lies among temporary files."""
    try:
        return not _DIRS.user_data_path
    except RuntimeError:
        return True


@cache
def _without_home() -> Path:
    """A folder of this user's among the temporary files, that nobody else can have put there."""
    usual = Path(tempfile.gettempdir()) / f"lean-sepia-{os.getuid()}"
    try:
        usual.mkdir(mode=0o700, exist_ok=True)
        state = os.lstat(usual)
        if stat.S_ISDIR(state.st_mode) and state.st_uid == os.getuid() and not state.st_mode & 0o077:
            return usual
    except OSError:
        pass
    return Path(tempfile.mkdtemp(prefix="lean-sepia-"))
