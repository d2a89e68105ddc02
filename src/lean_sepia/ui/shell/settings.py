"""What the program remembers between starts: recent projects and the lighting, in one small JSON file."""

from __future__ import annotations

import json
import os
from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, replace
from pathlib import Path
from typing import Any

from lean_sepia.errors import BadInputError
from lean_sepia.files.gate import read_json, shown, write_whole
from lean_sepia.files.own_folders import own_folder

_MOST_RECENT, _LARGEST = 8, 20_000


@dataclass(frozen=True)
class Settings:
    """Remembered choices; a damaged or missing file means none.

    size : of the window; folder : files were last chosen from; rooms : the one last open in each recent project
    habits : what the last project said of the person: tools, hours, place; a new one begins with it
    px_per_mm : of the screen, as measured with a ruler
    """

    recent: tuple[str, ...] = ()
    evening: bool = False
    size: tuple[int, int] | None = None
    maximised: bool = False
    folder: str = ""
    rooms: tuple[tuple[str, str], ...] = ()
    habits: Mapping[str, Any] = field(default_factory=dict)
    px_per_mm: float | None = None

    def with_recent(self, path: Path) -> Settings:
        """The same with a project at the head of the recent ones."""
        name = str(path.absolute())
        if name != shown(name):  # no text: it could not be written down
            return self
        others = tuple(old for old in self.recent if old != name)
        return replace(self, recent=(name, *others)[:_MOST_RECENT])

    def with_room(self, path: Path, room: str, habits: Mapping[str, Any]) -> Settings:
        """The same with the room that was last open in a project, and the habits of the person."""
        name = str(path.absolute())
        others = tuple(pair for pair in self.rooms if pair[0] != name and pair[0] in self.recent)
        return replace(self, rooms=((name, room), *others)[:_MOST_RECENT], habits=dict(habits))

    def room_of(self, path: Path) -> str:
        """The room that was last open in a project; empty where none is remembered."""
        return dict(self.rooms).get(str(path.absolute()), "")

    def existing(self) -> list[Path]:
        """Recent projects whose file is still there, as far as that can be told."""
        return [Path(name) for name in self.recent if os.path.exists(name)]


def settings_file() -> Path:
    """Where the settings are kept."""
    return own_folder("state") / "settings.json"


def load_settings() -> Settings:
    """The remembered choices."""
    try:
        data = read_json(settings_file(), "settings", BadInputError)
        size = data.get("size")
        return Settings(
            tuple(str(name) for name in data["recent"]), bool(data["evening"]),
            (min(int(size[0]), _LARGEST), min(int(size[1]), _LARGEST)) if size else None, bool(data.get("maximised")), str(data.get("folder", "")),
            tuple((str(name), str(room)) for name, room in data.get("rooms", ())),
            _habits(data),
            _px_per_mm(data.get("px_per_mm")),
        )  # fmt: skip
    except (BadInputError, ArithmeticError, AttributeError, LookupError, TypeError, ValueError):
        return Settings()


def _habits(data: Mapping[str, Any]) -> dict[str, Any]:
    """What is remembered of the person; before there were habits, only what they own was."""
    if "habits" in data:
        return dict(data["habits"])
    owns = {str(name): bool(has) for name, has in data.get("owns", ())}
    return {"owns": owns} if owns else {}


def _px_per_mm(value: object) -> float | None:
    return float(value) if isinstance(value, int | float) and 0 < value < _LARGEST else None


def save_settings(settings: Settings) -> None:
    """Remember choices; failing to is no reason to disturb anyone."""
    file = settings_file()
    try:
        file.parent.mkdir(parents=True, exist_ok=True)
        write_whole(os.path.realpath(file), json.dumps(asdict(settings)).encode())
    except OSError:
        return
