"""A window at the bench, killed at random instants while steps are ticked off and clocks run: at most two seconds may be lost."""

from __future__ import annotations

import hashlib
import os
import random
import shutil
import subprocess
import sys
import time
from functools import partial
from pathlib import Path

from fuzzing.part import Part
from lean_sepia.document.model import Project
from lean_sepia.document.store import ProjectStore

_KEPT_WITHIN_S = 2.0
_EVERY_MS = 60


def digest(project: Project) -> str:
    """What the bench wrote, in a few letters."""
    text = "".join(step.model_dump_json() for step in project.steps)
    return hashlib.sha256(text.encode()).hexdigest()[:16]


def work_for_ever(place: Path, seed: int) -> None:
    """In a process of its own: turn to the bench and tick, begin, finish and take back, telling each state and when it came."""
    from PySide6.QtCore import QTimer

    from lean_sepia.ui.app import make_app
    from lean_sepia.ui.kit import theme
    from lean_sepia.ui.shell.settings import Settings
    from lean_sepia.ui.shell.window import MainWindow

    app = make_app([])
    theme.apply(app, theme.DAY)
    window = MainWindow(Settings(), remember=False)
    window.show()
    window.open_project(place)
    dice = random.Random(seed)

    def act() -> None:
        space = window.workspace
        if space is None:
            return
        space.open_room("bench")
        room = space.rooms["bench"]
        if not room.steps:
            return
        choice = dice.random()
        if choice < 0.5:
            room.finish_step()
        elif choice < 0.65:
            room.turn(dice.choice((-3, -1, 1)))
            room.take_back()
        elif choice < 0.8:
            room.begin_step()
        elif room.step is not None and room.step.checks:
            room._ticked(room.step.step.id, dice.choice(room.step.checks).code, dice.random() < 0.7)
        else:
            room.remark.setText(f"remark {dice.randrange(1000)}")
            room._keep_remark()
        print(f"{time.monotonic():.4f} {digest(space.session.project)}", flush=True)

    timer = QTimer()
    timer.timeout.connect(act)
    timer.start(_EVERY_MS)
    app.exec()


def kill_once(place: Path, seed: int, wait_s: float) -> int:
    """Let a window work on a project and kill it so long after its first edit; returns how many edits it had made.

    Raises
    ------
    AssertionError
        The window ended before it was killed, or what is in the file is older than two seconds or cannot be read.
    """
    env = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    command = [sys.executable, "-m", "fuzzing.bench_kills", str(place), str(seed)]
    child = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True, env=env)
    assert child.stdout is not None
    first = child.stdout.readline()
    time.sleep(wait_s)
    died = child.poll()
    child.kill()
    killed = time.monotonic()
    told = [line.split() for line in (first + child.stdout.read()).splitlines() if len(line.split()) == 2]
    child.wait()
    child.stdout.close()
    if died is not None:
        raise AssertionError(f"the window ended by itself with {died}")
    if not told:
        raise AssertionError("the window did not come to the bench")
    states = [(float(moment), state) for moment, state in told]
    old = [state for moment, state in states if moment < killed - _KEPT_WITHIN_S]
    allowed = {state for moment, state in states if moment >= killed - _KEPT_WITHIN_S} | set(old[-1:])
    store = ProjectStore.open(place)
    try:
        project, note = store.load()
    finally:
        store.close()
    if note:
        raise AssertionError(note)
    if old and digest(project) not in allowed:
        raise AssertionError(f"more than {_KEPT_WITHIN_S:g} s were lost of {len(states)} edits")
    return len(states)


def run(part: Part) -> None:
    """Kill windows at the bench until the time is over."""
    from lean_sepia.demo.folder import ensure_demo

    folder = part.folder / f"bench-kills-{part.seed}"
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(parents=True)
    demo = ensure_demo(folder / "demo").worked
    place = folder / "bench.sepia"
    shutil.copy(demo, place)
    while part.going:
        if part.count % 10 == 9:
            shutil.copy(demo, place)
        seed, wait_s = part.rng.randrange(2**32), part.rng.uniform(0.1, 4.5)
        part.look("kill at the bench", partial(kill_once, place, seed, wait_s))
    shutil.rmtree(folder, ignore_errors=True)


if __name__ == "__main__":
    work_for_ever(Path(sys.argv[1]), int(sys.argv[2]))
