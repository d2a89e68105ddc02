"""The main journey in the window, with jobs in their threads: the longest stall of the interface thread per action.

A timer ticks every millisecond; the longest time between two ticks while an action and all that follows from it is under way is
its stall. It is compared with a plain repaint of the whole window, measured in the same run.
"""

from __future__ import annotations

import os
import shutil
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from benchmarks.figure import report

if TYPE_CHECKING:
    from PySide6.QtWidgets import QApplication

    from lean_sepia.ui.shell.window import MainWindow

_QUIET_S, _LONGEST_S = 0.12, 30.0
ACTION, OPENING, LIGHTING = 50.0, 100.0, 200.0
"""Goals in milliseconds: an action, the first opening of a room, another lighting."""

REPAINT_MS = 12.5
"""What a plain repaint took where the goals were set: they are asked for as ratios to it, so that they hold anywhere."""

Step = tuple[str, float, Callable[[], object]]


class Watch:
    """Runs the event loop and keeps the longest time between two ticks."""

    def __init__(self, app: QApplication, busy: Callable[[], bool]) -> None:
        from PySide6.QtCore import QTimer

        self._app, self._busy = app, busy
        self._last = self.longest = 0.0
        self._timer = QTimer()
        self._timer.setInterval(1)
        self._timer.timeout.connect(self._tick)
        self._timer.start()

    def _tick(self) -> None:
        now = time.perf_counter()
        self.longest = max(self.longest, now - self._last)
        self._last = now

    def stall_of(self, action: Callable[[], object]) -> float:
        """Milliseconds of the longest stall of an action and what follows, until all is quiet."""
        from PySide6.QtCore import QEventLoop, QTimer

        loop = QEventLoop()
        began = time.perf_counter()
        quiet_since = [began]

        def look() -> None:
            now = time.perf_counter()
            if self._busy():
                quiet_since[0] = now
            if now - quiet_since[0] > _QUIET_S or now - began > _LONGEST_S:
                loop.quit()

        looking = QTimer()
        looking.setInterval(5)
        looking.timeout.connect(look)
        looking.start()
        self._last, self.longest = time.perf_counter(), 0.0
        QTimer.singleShot(0, action)
        loop.exec()
        return 1000 * self.longest


def journey(window: MainWindow, project: Path) -> Iterator[Step]:
    """Every action of the main journey, in order."""
    from lean_sepia.document.edits.coats import remove_coat
    from lean_sepia.document.model import AnchorMark

    yield "open the project", OPENING, lambda: window.open_project(project)
    space = window.workspace
    assert space is not None
    rooms: dict[str, object] = space.rooms  # type: ignore[assignment]
    for room in ("match", "tone", "glaze", "wear", "plan", "bench", "evidence"):
        yield f"open {room} first", OPENING, lambda name=room: space.open_room(name)
    evidence, match = rooms["evidence"], rooms["match"]
    yield "choose a zone", ACTION, lambda: space.session.choose_zone("funnel")
    anchor = AnchorMark(id="new", x=1088, y=511, radius=5, lightness=65, name="Grey deck locker")
    yield "anchor", ACTION, lambda: evidence.edits.add_anchor(anchor)  # type: ignore[attr-defined]
    yield "sample", ACTION, lambda: evidence.add_sample(836, 372, 11)  # type: ignore[attr-defined]
    yield "go to match", ACTION, lambda: space.open_room("match")
    yield "another card", ACTION, lambda: match.choose(1)  # type: ignore[attr-defined]
    yield "pin", ACTION, match.pin_chosen  # type: ignore[attr-defined]
    first = match.answer.choices[0].recipe.parts[0][0]  # type: ignore[attr-defined]
    yield "a drop more", ACTION, lambda: match.change_drops(0, first, 1)  # type: ignore[attr-defined]
    yield "another zone in match", ACTION, lambda: space.session.choose_zone("boot")
    yield "go to tone", ACTION, lambda: space.open_room("tone")
    yield "lay the fade", ACTION, rooms["tone"].lay_chosen  # type: ignore[attr-defined]
    yield "go to glaze", ACTION, lambda: space.open_room("glaze")
    yield "lay the filter", ACTION, rooms["glaze"].filters.lay_chosen  # type: ignore[attr-defined]
    yield "hull in glaze", ACTION, lambda: space.session.choose_zone("hull")
    yield "go to wear", ACTION, lambda: space.open_room("wear")
    chips = [coat.id for coat in space.session.project.coats_of("hull") if coat.kind == "chips"]
    yield (
        "take the chips off",
        ACTION,
        lambda: [space.session.edit("", partial(remove_coat, coat_id=c)) for c in chips],
    )
    yield "lay the wear", ACTION, rooms["wear"].planned.lay  # type: ignore[attr-defined]
    yield "go to plan", ACTION, lambda: space.open_room("plan")
    yield "undo in plan", ACTION, space.session.undo
    yield "redo in plan", ACTION, space.session.redo
    yield "go to bench", ACTION, lambda: space.open_room("bench")
    yield "done, next step", ACTION, rooms["bench"].finish_step  # type: ignore[attr-defined]
    yield "go to match again", ACTION, lambda: space.open_room("match")
    yield "undo in match", ACTION, space.session.undo
    yield "evening lighting", LIGHTING, window.toggle_lighting
    yield "day lighting", LIGHTING, window.toggle_lighting


@contextmanager
def demo_window() -> Iterator[tuple[QApplication, MainWindow, Path]]:
    """The application, a window as people have it, and a copy of the demo's worked project to open in it."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    from lean_sepia.demo.folder import ensure_demo
    from lean_sepia.ui.app import make_app
    from lean_sepia.ui.kit import theme
    from lean_sepia.ui.shell.settings import Settings
    from lean_sepia.ui.shell.window import MainWindow

    app = make_app([])
    theme.apply(app, theme.DAY)
    demo = ensure_demo()
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "demo"
        shutil.copytree(demo.folder, copy)
        window = MainWindow(Settings(), remember=False)
        window.resize(1280, 800)
        window.show()
        yield app, window, copy / demo.worked.name
        window.close()


def main() -> bool:
    """Longest stall of each kind of action against a repaint: at most 4, 8 for a first opening, 16 for the lighting."""
    worst: dict[float, tuple[float, str]] = {}
    with demo_window() as (app, window, project):
        watch = Watch(
            app,
            lambda: (
                not window.jobs.idle or not (window.workspace is None or window.workspace.session.jobs.idle)
            ),
        )
        watch.stall_of(window.prepare)  # the start page is read
        for name, goal, action in journey(window, project):
            stall = watch.stall_of(action)
            print(f"  {name}: {stall:.0f} ms (goal {goal:.0f})", flush=True)
            worst[goal] = max(worst.get(goal, (0.0, "")), (stall, name))
        repaint = repaint_ms(app, window)
    reached = [
        report(
            f"longest stall, {words}", worst[goal][0] / repaint, goal / REPAINT_MS, "a repaint of the window",
            f"[{worst[goal][1]}: {worst[goal][0]:.0f} ms against {repaint:.1f} ms]",
        )
        for goal, words in ((ACTION, "an action"), (OPENING, "first opening of a room"), (LIGHTING, "another lighting"))
    ]  # fmt: skip
    return all(reached)


def repaint_ms(app: QApplication, window: MainWindow) -> float:
    """Milliseconds of a plain repaint of the whole window, the best of several."""
    times = []
    for _ in range(15):
        app.processEvents()
        start = time.perf_counter()
        window.grab()
        times.append(time.perf_counter() - start)
    return 1000 * min(times)
