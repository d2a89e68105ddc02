"""A project of 40 zones and 400 coats: how long until the strata column is repainted after a coat is laid, changed, undone.

Compared with a plain repaint of the whole window, measured in the same run.
"""

from __future__ import annotations

import os
import shutil
import tempfile
import time
from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial
from pathlib import Path

from benchmarks.figure import report
from benchmarks.responsiveness import REPAINT_MS, repaint_ms

_ZONES = 40
_GOAL_MS = 100.0
_COATS = (
    ("primer", "red-primer", {}), ("base", "deep-sea", {}), ("preshade", "lamp", {}), ("tone", "gull-blue", {}),
    ("filter", "oil-raw-umber", {}), ("chips", "oxide", {}), ("wash", "oil-burnt-umber", {}), ("streaks", "oil-light-rust", {}),
    ("matte-coat", "", {}), ("dust", "pigment-quay-dust", {"profile": "below", "far": 0.2}),
)  # fmt: skip


def _project(paints: Sequence[object]):  # type: ignore[no-untyped-def]
    from lean_sepia.document.edits.coats import lay
    from lean_sepia.document.edits.mixes import NOTHING_MIXED, Manner, Mix
    from lean_sepia.document.edits.zones import NewZone, add_zones
    from lean_sepia.document.model import Project

    project, zones = add_zones(
        Project(title="Large"), [NewZone(f"Zone {number}", 20.0) for number in range(_ZONES)]
    )
    for zone in zones:
        for kind, paint, how in _COATS:
            mix = Mix.of(paints, [(paint, 1)]) if paint else NOTHING_MIXED  # type: ignore[arg-type]
            share = 0.05 if kind in ("chips", "streaks", "dust") else 1.0
            project, _coat = lay(project, [zone], kind, mix, Manner(2, 0.6, area_share=share, **how))  # type: ignore[arg-type]
    return project


def main() -> bool:
    """The slowest of laying, changing and undoing, until the column is repainted, against a repaint of the window: at most 8."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    from lean_sepia.answers.coats.draft import draft_of, usual_draft
    from lean_sepia.answers.coats.laying import laid as lay_draft
    from lean_sepia.answers.coats.mixing import LayQuestion
    from lean_sepia.demo.folder import ensure_demo
    from lean_sepia.document.store import ProjectStore
    from lean_sepia.shelf.shelf import SHELF_NAME
    from lean_sepia.ui.app import make_app
    from lean_sepia.ui.kit import theme
    from lean_sepia.ui.shell.settings import Settings
    from lean_sepia.ui.shell.window import MainWindow

    app = make_app([])
    theme.apply(app, theme.DAY)
    demo = ensure_demo()
    with tempfile.TemporaryDirectory() as folder:
        from lean_sepia.shelf.shelf_file import read_shelf

        shutil.copy(demo.folder / SHELF_NAME, Path(folder) / SHELF_NAME)
        paints = tuple(read_shelf(demo.shelf_file).paints())
        project = _project(paints)
        assert len(project.coats) == 400
        ProjectStore.create(Path(folder) / "large.sepia", project).close()
        window = MainWindow(Settings(), remember=False)
        window.resize(1280, 800)
        window.show()
        window.open_project(Path(folder) / "large.sepia")
        space = window.workspace
        assert space is not None
        session = space.session
        _settle(app, session)

        def laid(project):  # type: ignore[no-untyped-def]
            draft = replace(usual_draft("filter"), of="oil sienna")
            return lay_draft(LayQuestion(project, ("z7",), draft, paints)).project

        def changed(project):  # type: ignore[no-untyped-def]
            coat = next(coat for coat in project.coats_of("z7") if coat.kind == "filter")
            draft = replace(draft_of(project, coat), passes=3)
            return lay_draft(LayQuestion(project, ("z7",), draft, paints, replacing=coat.id)).project

        session.choose_zone("z7")
        acts: list[tuple[str, Callable[[], object]]] = [
            ("lay", partial(session.edit, "Lay", laid)), ("change", partial(session.edit, "Change", changed)),
            ("undo", session.undo), ("redo", session.redo),
        ]  # fmt: skip
        slowest = (0.0, "")
        for name, act in acts:
            _settle(app, session)
            start = time.perf_counter()
            act()
            space.column.repaint()
            took = 1000 * (time.perf_counter() - start)
            print(f"  {name}: {took:.0f} ms (goal {_GOAL_MS:.0f})", flush=True)
            slowest = max(slowest, (took, name))
        repaint = repaint_ms(app, window)
        window.close()
    return report(
        "laying, changing, undoing a coat among 400", slowest[0] / repaint, _GOAL_MS / REPAINT_MS, "a repaint of the window",
        f"[{slowest[1]}: {slowest[0]:.0f} ms against {repaint:.1f} ms]",
    )  # fmt: skip


def _settle(app: object, session: object) -> None:
    begun = time.perf_counter()
    while time.perf_counter() - begun < 0.4 or not session.jobs.idle:  # type: ignore[attr-defined]
        app.processEvents()  # type: ignore[attr-defined]
        if time.perf_counter() - begun > 30:
            break
