"""Attack the program for so many minutes: `python -m fuzzing MINUTES [SEED]`; exit code 1 where anything was found."""

from __future__ import annotations

import importlib
import os
import subprocess
import sys
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from fuzzing.part import Part

SHARES = {
    "monkey": 0.55, "texts": 0.35, "acts": 0.25, "projects": 0.15, "pictures": 0.15, "journals": 0.1, "folders": 0.1, "kills": 0.1,
    "bench_kills": 0.08, "fields": 0.06, "clocks": 0.06,
    "starts": 0.05,
}  # fmt: skip
"""Of two cores, how much of the whole time each part gets."""


def run_part(name: str, seconds: float, seed: int, folder: Path, most: int | None = None) -> Part:
    """Run one part here and now."""
    part = Part(name, seed, time.monotonic() + seconds, folder, most)
    importlib.import_module(f"fuzzing.{name}").run(part)
    return part


def _in_a_process(name: str, seconds: float, seed: int, folder: Path) -> tuple[str, int]:
    command = [sys.executable, "-m", "fuzzing", "part", name, str(seconds), str(seed), str(folder)]
    homes = {f"XDG_{kind}_HOME": str(folder / kind.lower()) for kind in ("CACHE", "CONFIG", "DATA", "STATE")}
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", **homes}  # nothing of the user's is touched
    done = subprocess.run(command, capture_output=True, text=True, check=False, env=environment)
    said = done.stdout.strip() or f"{name}: nothing was said"
    if done.returncode not in (0, 1) or not done.stdout.strip():
        said += f"\n{name} ended with {done.returncode}: the input under way lies in {folder}\n{done.stderr[-3000:]}"
    return said, done.returncode


def main(arguments: list[str]) -> int:
    """Run one part, or all of them side by side."""
    if arguments[:1] == ["part"]:
        name, seconds, seed, folder = arguments[1:5]
        part = run_part(name, float(seconds), int(seed), Path(folder))
        print(
            f"{name}: {part.count} tried, {part.refused} refused in words, {len(part.failures)} failures (seed {seed})"
        )
        for failure in part.failures[:5]:
            print(failure)
        return 1 if part.failures else 0
    minutes = float(arguments[0]) if arguments else 1.0
    seed = int(arguments[1]) if len(arguments) > 1 else int(time.time())
    folder = Path(tempfile.mkdtemp(prefix="lean-sepia-fuzz-"))
    print(f"{minutes:g} minutes with seed {seed}; what fails is kept in {folder}", flush=True)
    with ThreadPoolExecutor(2) as pool:
        parts = [
            pool.submit(_in_a_process, name, 60 * minutes * share, seed, folder)
            for name, share in SHARES.items()
        ]
        answers = [part.result() for part in parts]
    for said, _code in answers:
        print(said)
    return max(code != 0 for _said, code in answers)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
