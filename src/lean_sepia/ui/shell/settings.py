"""What the program remembers between starts: recent projects and the lighting, in one small JSON file."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass
from pathlib import Path

from platformdirs import user_state_path

from lean_sepia.text_files import write_whole

_MOST_RECENT = 8


@dataclass(frozen=True)
class Settings:
    """Remembered choices; a damaged or missing file means none."""

    recent: tuple[str, ...] = ()
    evening: bool = False

    def with_recent(self, path: Path) -> Settings:
        """The same with a project at the head of the recent ones."""
        name = str(path.absolute())
        others = tuple(old for old in self.recent if old != name)
        return Settings((name, *others)[:_MOST_RECENT], self.evening)

    def existing(self) -> list[Path]:
        """Recent projects whose file is still there."""
        return [Path(name) for name in self.recent if Path(name).exists()]


def settings_file() -> Path:
    """Where the settings are kept."""
    return user_state_path("lean-sepia", appauthor=False) / "settings.json"


def load_settings() -> Settings:
    """The remembered choices."""
    try:
        data = json.loads(settings_file().read_text(encoding="utf-8"))
        return Settings(tuple(str(name) for name in data["recent"]), bool(data["evening"]))
    except (OSError, ValueError, KeyError, TypeError):
        return Settings()


def save_settings(settings: Settings) -> None:
    """Remember choices; failing to is no reason to disturb anyone."""
    file = settings_file()
    try:
        file.parent.mkdir(parents=True, exist_ok=True)
        write_whole(file, json.dumps(asdict(settings)).encode())
    except OSError:
        return
