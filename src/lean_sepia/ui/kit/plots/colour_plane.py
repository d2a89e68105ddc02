"""A small a*b* plane with a lightness bar: where colours lie, their range, and the ways between them."""

from __future__ import annotations

import importlib
from collections.abc import Callable, Sequence
from types import ModuleType
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QVBoxLayout, QWidget
from shiboken6 import isValid

from lean_sepia.language import _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.importing import import_beside
from lean_sepia.ui.kit.job import Jobs
from lean_sepia.ui.kit.panel import Panel
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.plots.plane_content import PlaneContent, Point, Way
from lean_sepia.ui.kit.swatch import Lab

if TYPE_CHECKING:
    from lean_sepia.ui.kit.plots.colour_plot import ColourPlot


def load_plot(_progress: Callable[[float], None]) -> ModuleType:
    """The plot and the library it is drawn with: half a second to import, so a job does it."""
    return importlib.import_module("lean_sepia.ui.kit.plots.colour_plot")


@guarded
class ColourPlane(QWidget):
    """Keeps what is to be shown and draws it once the plotting library is there."""

    def __init__(self, jobs: Jobs, lightness: bool = True) -> None:
        super().__init__()
        self._jobs = jobs
        self._content = PlaneContent()
        self._lightness = lightness
        self.plot: ColourPlot | None = None
        self._well = Panel(kind="well", margin=0)
        self._body = QVBoxLayout(self)
        self._body.setContentsMargins(0, 0, 0, 0)
        self._body.addWidget(self._well)
        self.setMinimumSize(180, 190)
        self.setAccessibleName(_("Colours in the plane of a* and b*"))
        import_beside(jobs, f"plot {id(self)}", load_plot, self._build)

    def sizeHint(self) -> QSize:
        return QSize(240, 168)

    def _build(self, module: ModuleType) -> None:
        plot: ColourPlot = module.ColourPlot(self._lightness)
        self.plot = plot
        hint(plot, _("Drag to move, Ctrl and wheel to zoom, double-click to see all"))
        self._well.hide()
        self._body.addWidget(plot)
        self._draw()

    def show_colours(
        self,
        points: Sequence[Point],
        ways: Sequence[Way] = (),
        within: tuple[Lab, float, float] | None = None,
        halo: Sequence[Lab] = (),
    ) -> None:
        """Show colours, ways between them, one range and one halo, as `PlaneContent` says."""
        self._content = PlaneContent(tuple(points), tuple(ways), within, tuple(halo))
        self.setAccessibleDescription(
            "; ".join(f"{p.name} {p.lab[1]:.0f}, {p.lab[2]:.0f}" for p in points if p.name)
        )
        if self.plot is not None:
            self._jobs.later(f"plane {id(self)}", self._draw)

    def _draw(self) -> None:
        if self.plot is not None and isValid(self):
            self.plot.show_content(self._content)
