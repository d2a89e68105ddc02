"""Walk the main job through the real window: one picture per view, and the bench card."""

from __future__ import annotations

import os
import shutil
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from lean_sepia.language import _

if TYPE_CHECKING:
    from PySide6.QtWidgets import QApplication

    from lean_sepia.ui.shell.workspace import Workspace

WIDTH, HEIGHT = 1280, 800


def run_tour(folder: Path, report: Callable[[str], None] = lambda _words: None) -> list[Path]:
    """Open the demo on a copy, do the main job as a user would, and save what each view shows.

    Works without a display. Returns the files written, in order.

    Raises
    ------
    BadInputError
        The folder cannot be made or written to.
    """
    # Before Qt is loaded: pictures must come out alike on every machine, with or without a display.
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    os.environ.setdefault("QT_SCALE_FACTOR", "1")
    from lean_sepia.demo.folder import ensure_demo
    from lean_sepia.errors import BadInputError
    from lean_sepia.ui.app import make_app

    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise BadInputError(_("The folder {0} cannot be made: {1}.").format(folder, error.strerror)) from None
    demo = ensure_demo(progress=report)
    app = make_app([])
    with tempfile.TemporaryDirectory() as scratch:
        copy = Path(scratch) / "demo"
        shutil.copytree(demo.folder, copy)
        try:
            return _Guide(app, folder, copy, report).walk()
        except OSError as error:
            raise BadInputError(
                _("The folder {0} cannot be written to: {1}.").format(folder, error.strerror)
            ) from None


class _Guide:
    def __init__(
        self, app: QApplication, folder: Path, demo_copy: Path, report: Callable[[str], None]
    ) -> None:
        from lean_sepia.ui.kit import theme
        from lean_sepia.ui.shell.settings import Settings
        from lean_sepia.ui.shell.window import MainWindow

        self._app, self._folder, self._demo, self._report = app, folder, demo_copy, report
        self._files: list[Path] = []
        theme.apply(app, theme.DAY)
        self.window = MainWindow(Settings(), synchronous=True, remember=False)
        self.window.resize(WIDTH, HEIGHT)
        self.window.show()

    @property
    def _workspace(self) -> Workspace:
        workspace = self.window.workspace
        assert workspace is not None
        return workspace

    def _picture(self, name: str) -> None:
        self._app.processEvents()
        self._app.processEvents()
        path = self._folder / f"{name}.png"
        if not self.window.grab().save(str(path)):
            raise OSError(13, "the picture could not be saved")
        self._files.append(path)
        self._report(f"Picture: {path.name}")

    def walk(self) -> list[Path]:
        """The main job, first on the half-worked demo, then the first steps on the untouched one."""
        from lean_sepia.report.bench_card import write_bench_card
        from lean_sepia.ui.bench.bench_room import BenchRoom
        from lean_sepia.ui.kit import theme
        from lean_sepia.ui.tone.tone_room import ToneRoom

        self._picture("start")
        self.window.open_project(self._demo / "tordmule.sepia")
        workspace = self._workspace
        session = workspace.session
        self._picture("evidence")
        workspace.open_room("match")
        self._picture("match")
        session.choose_zone("boot")
        workspace.open_room("tone")
        self._picture("tone")
        tone = workspace.rooms["tone"]
        assert isinstance(tone, ToneRoom)
        tone.lay_chosen()
        self._panels()
        session.choose_zone("hull")
        self._tints()
        workspace.open_room("wear")
        self._picture("wear")
        workspace.open_room("plan")
        self._picture("plan")
        workspace.open_room("bench")
        bench = workspace.rooms["bench"]
        assert isinstance(bench, BenchRoom)
        bench.turn([one.step.nature.is_base for one in bench.steps].index(True) - bench.index)
        self._picture("bench")
        workspace.open_shelf()
        self._picture("shelf")
        self._by_hand()
        theme.apply(self._app, theme.EVENING)
        workspace.open_room("match")
        self._picture("evening")
        theme.apply(self._app, theme.DAY)
        card = self._folder / "bench-card.pdf"
        write_bench_card(session.project, card)
        self._files.append(card)
        self._report(f"Card: {card.name}")
        self._first_steps()
        self._without_a_photo()
        self.window.close()
        return self._files

    def _tints(self) -> None:
        """A filter over several zones, and oil dots."""
        from lean_sepia.ui.glaze.glaze_room import GlazeRoom

        self._workspace.open_room("glaze")
        self._picture("glaze")
        glaze = self._workspace.rooms["glaze"]
        assert isinstance(glaze, GlazeRoom)
        glaze.open_page(glaze.dots.kind)
        self._picture("dots")

    def _panels(self) -> None:
        """The house divided into panels, its fade and its light and shade."""
        from lean_sepia.document.edits.panels import set_panels
        from lean_sepia.document.entities.panels import PanelGrid

        session = self._workspace.session
        session.choose_zone("house")
        panels = PanelGrid(rows=2, columns=9, replaced=(4, 12))
        session.edit("Divide into panels", lambda p: set_panels(p, "house", panels))
        self._picture("panels")

    def _by_hand(self) -> None:
        """A filter between two bands, as the sheet shows it before it is laid."""
        from lean_sepia.ui.coats.lay_sheet import LaySheet

        workspace = self._workspace
        workspace.session.choose_zone("hull")
        workspace.open_room("match")
        filters = [c for c in workspace.session.project.coats_of("hull") if c.nature.is_filter]
        workspace.sheets.lay(filters[-1].kind, filters[-1].id)
        sheet = workspace.sheets.open
        assert isinstance(sheet, LaySheet)
        sheet.lines.of.setText("3 sand + 1 ochre")
        sheet.ask_now()
        self._picture("lay")
        workspace.sheets.close()

    def _without_a_photo(self) -> None:
        """The second subject: wear that is chosen, on a finish that was there."""
        self.window.open_project(self._demo / "harbour-bus.sepia")
        self._workspace.open_room("wear")
        self._picture("bus")

    def _first_steps(self) -> None:
        """What a newcomer does on the untouched copy: an anchor, a sample, a recipe."""
        from lean_sepia.document.model import AnchorMark
        from lean_sepia.ui.evidence.evidence_room import EvidenceRoom
        from lean_sepia.ui.match.match_room import MatchRoom

        self.window.open_project(self._demo / "tordmule-untouched.sepia")
        workspace = self._workspace
        evidence = workspace.rooms["evidence"]
        assert isinstance(evidence, EvidenceRoom)
        self._app.processEvents()
        evidence.edits.add_anchor(
            AnchorMark(id="new", x=1088, y=511, radius=5, lightness=65, name="Grey deck locker")
        )
        workspace.session.choose_zone("funnel")
        evidence.add_sample(836, 372, 11)
        workspace.open_room("match")
        match = workspace.rooms["match"]
        assert isinstance(match, MatchRoom)
        match.pin_chosen()
        self._picture("first-recipe")
