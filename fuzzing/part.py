"""What every part of the attack has in common: a seed, an end, a count, and what is kept of a failure."""

from __future__ import annotations

import random
import time
import traceback
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from lean_sepia.errors import SepiaError

SLOWEST_S = 5.0
"""An input that takes longer than that on one core counts as a hang."""


@dataclass
class Part:
    """One attack under way. `look` runs a piece of it; any error but the program's own is kept with its input."""

    name: str
    seed: int
    until: float
    folder: Path
    most: int | None = None
    slowest_s: float = SLOWEST_S
    count: int = 0
    refused: int = 0
    failures: list[str] = field(default_factory=list)

    def __post_init__(self) -> None:
        self.rng = random.Random(self.seed)

    @property
    def going(self) -> bool:
        """Whether there is time left, and more to do."""
        return time.monotonic() < self.until and (self.most is None or self.count < self.most)

    def look(self, what: str, act: Callable[[], object], given: bytes = b"") -> None:
        """Do one thing; SepiaError is an answer, everything else a failure."""
        self.count += 1
        begun = time.process_time()
        try:
            act()
        except SepiaError as error:
            self.refused += 1
            if not str(error).strip():
                self.fail(what, "an error without words", given)
        except Exception:  # noqa: BLE001 - this is what is looked for
            self.fail(what, traceback.format_exc(limit=-12), given)
        if (took := time.process_time() - begun) > self.slowest_s:
            self.fail(what, f"took {took:.1f} s", given)

    def fail(self, what: str, why: str, given: bytes = b"") -> None:
        """Keep a failure, and the input that led to it."""
        number = len(self.failures) + 1
        self.failures.append(f"{what}: {why}")
        self.folder.mkdir(parents=True, exist_ok=True)
        place = self.folder / f"{self.name}-{self.seed}-{number}"
        place.with_suffix(".txt").write_text(f"{what}\n{why}\n", encoding="utf-8", errors="replace")
        if given:
            place.with_suffix(".bin").write_bytes(given)
