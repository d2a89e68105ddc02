"""Large projects: a plan of a thousand steps against one of a hundred, and what ten thousand edits leave in memory."""

from __future__ import annotations

import gc
import tempfile
import time
from pathlib import Path

from benchmarks.figure import report
from lean_sepia.answers import plan
from lean_sepia.document.edits.zones import add_zone, change_zone
from lean_sepia.document.entities.planned import Step
from lean_sepia.document.history import History
from lean_sepia.document.model import Project
from lean_sepia.document.store import ProjectStore

_KINDS = ("primer", "base", "fade", "gloss-coat", "marking", "wash", "matte-coat", "mask", "unmask", "dust")
_ZONES, _EDITS = 40, 10_000


def _project(steps: int) -> Project:
    project = Project(title="Long", plan_start="2031-03-03T19:00")
    for number in range(_ZONES):
        project, _zone = add_zone(project, f"Zone {number}")
    made = tuple(
        Step(id=f"s{number}", kind=_KINDS[number % len(_KINDS)], zones=(project.zones[number % _ZONES].id,)) for number in range(steps)
    )  # fmt: skip
    return project.model_copy(update={"steps": made})


def _opened(steps: int, folder: Path) -> float:
    """Seconds to open a project from its file and place every step, the best of three."""
    place = folder / f"{steps}.sepia"
    ProjectStore.create(place, _project(steps)).close()
    times = []
    for _round in range(3):
        begun = time.perf_counter()
        store = ProjectStore.open(place)
        answer = plan.answer(plan.ask(store.load()[0]))
        times.append(time.perf_counter() - begun)
        store.close()
        assert answer.schedule is not None
    return min(times)


def _resident_mb() -> float:
    gc.collect()
    return int(Path("/proc/self/statm").read_text().split()[1]) * 4096 / 1e6


def main() -> bool:
    """Opening grows little faster than the plan; memory stays flat."""
    with tempfile.TemporaryDirectory() as name:
        hundred, thousand = (_opened(steps, Path(name)) for steps in (100, 1000))
    long = report(
        "a plan of 1000 steps, opened and placed",
        thousand / hundred,
        25,
        "one of 100 steps",
        f"{1000 * thousand:.0f} ms",
    )
    history = History(_project(10))

    def edit(numbers: range) -> None:
        for number in numbers:
            zone = history.present.zones[number % _ZONES]
            history.push(
                f"Edit {number}",
                change_zone(history.present, zone.model_copy(update={"note": f"note {number}"})),
            )

    edit(range(500))
    before = _resident_mb()
    edit(range(500, 500 + _EDITS))
    after = _resident_mb()
    flat = report(f"memory after {_EDITS} edits", after / before, 1.05, "before them", f"{after:.0f} MB")
    undone = 0
    while history.undo():
        undone += 1
    same = history.present == _project(10)
    print(
        f"undo of {undone} edits: {'identity (reached)' if same else 'NOT the document as it was (NOT REACHED)'}",
        flush=True,
    )
    return long and flat and same
