"""The panels of a zone: how it divides, which were replaced, and how far each has faded, on both sides."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QSizePolicy, QVBoxLayout

from lean_sepia.answers.toning.fading import ToneQuestion
from lean_sepia.answers.toning.panels import PanelPlan, is_other_side, panel_plan
from lean_sepia.document.edits.panels import set_panels, toggle_replaced
from lean_sepia.document.entities.panels import MOST_DRAWN, DrawnPanel, PanelGrid
from lean_sepia.language import _
from lean_sepia.recipe.fades.mists import Fade
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import Panel, button, count_box, holder, label, row
from lean_sepia.ui.kit.plots.panel_map import PanelMap
from lean_sepia.ui.shell.session import Session

_OTHER_HEIGHT = 40


class PanelsPanel(Panel):
    """A map of the panels; a click marks one as replaced, a drag draws one. `lay_wanted` carries the plan to lay."""

    lay_wanted = Signal(object)

    def __init__(self, session: Session) -> None:
        super().__init__(_("Panels"))
        self._session = session
        self.plan: PanelPlan | None = None
        self.map = PanelMap(96)
        self.map.picked.connect(self._replaced)
        self.map.drawn.connect(self._drawn)
        self._other = PanelMap(_OTHER_HEIGHT, active=False)
        self._other_words = label(_("the other side"), "second")
        self.rows = count_box(1, 40, 3, _("Rows of panels"))
        self.columns = count_box(1, 40, 10, _("Columns of panels"))
        self.whole = ChoiceBox(
            _("What fades as one"),
            [(_("each panel"), "panels"), (_("whole rows"), "rows"), (_("whole columns"), "columns")],
            118,
        )
        self.levels = count_box(1, 5, 3, _("Degrees of fading"))
        self.limit = count_box(10, 100, 100, _("At most so many per cent of the fade"))
        self.divide = button(_("Divide"), "tool", _("Divide the zone into panels"))
        self.divide.clicked.connect(self._divide)
        self._seed = button(_("Other chance"), "tool", _("The same panels, faded by another seed"))
        self._seed.clicked.connect(self._other_seed)
        self._clear = button(_("One surface"), "tool", _("Forget the panels"))
        self._clear.clicked.connect(lambda: self._set(None))
        self.lay = button(
            _("Lay panel by panel"), "main", _("A cup for each degree of fading, on its own panels")
        )
        self.lay.clicked.connect(lambda: self.lay_wanted.emit(self.plan))
        self._words = label("", "second", wrap=True)
        self.add(row(
            self.rows, label("×", "second"), self.columns, self.whole, self.levels, label(_("degrees to"), "second"), self.limit,
            label("%", "second"), None, self.divide, self._clear, spacing=5,
        ))  # fmt: skip
        other = QVBoxLayout()
        other.setSpacing(2)
        other.addWidget(self._other, 1)
        other.addWidget(self._other_words)
        maps = QHBoxLayout()
        maps.setSpacing(10)
        maps.addWidget(self.map, 5)
        maps.addLayout(other, 2)
        self._both = holder(maps)
        self.add(self._both, 1)
        self.add(row(self._words, self._seed, self.lay, spacing=6))

    def _panels(self) -> PanelGrid | None:
        zone = self._session.zone
        return self._session.project.zone(zone).panels if zone else None

    def show_plan(self, question: ToneQuestion | None, fade: Fade | None) -> None:
        """Show how a fade of the chosen zone is given out over its panels; nothing without a fade."""
        panels, zone = self._panels(), self._session.zone
        self.plan = None
        if panels is not None and question is not None and fade is not None:
            side = self._session.project.zone(zone)
            self.plan = panel_plan(question, fade, panels, mirrored=is_other_side(side))
        self.setEnabled(fade is not None)
        self._show(panels)

    def _show(self, panels: PanelGrid | None) -> None:
        plan = self.plan
        for widget in (self._seed, self.lay, self._clear):
            widget.setVisible(plan is not None)
        self._both.setVisible(plan is not None)
        tall = QSizePolicy.Policy.Maximum if plan is None else QSizePolicy.Policy.Expanding
        self.setSizePolicy(
            QSizePolicy.Policy.Preferred, tall
        )  # without a map it takes no room from the colours
        if plan is None or panels is None:
            self.set_caption(_("Panels"))
            self.map.show_panels([], [])
            self._words.setText(_("Divide it, then draw doors; a click marks a replaced one."))
            return
        self.set_caption(_("Panels"), _("seed {0}").format(panels.seed))
        self.map.show_panels(plan.boxes, [plan.lab_of(degree) for degree in plan.degrees], panels.replaced)
        self._other.show_panels(plan.boxes, [plan.lab_of(degree) for degree in plan.other])
        for box, value in ((self.rows, panels.rows), (self.columns, panels.columns), (self.levels, panels.levels), (self.limit, round(100 * panels.limit))):  # fmt: skip
            box.setValue(value)
        self.whole.choose(panels.whole)
        said = [
            f"{level.base_parts} : {level.lightener_parts}" + (f" : {level.second_parts}" if level.second_parts else "")
            + _(" on {0} %").format(f"{100 * level.area_share:.0f}")
            for level in plan.levels
            if level.area_share > 0
        ]  # fmt: skip
        if plan.unfaded > 0:
            said.insert(0, _("unfaded {0} %").format(f"{100 * plan.unfaded:.0f}"))
        self._words.setText(_("Cups: {0}.").format("; ".join(said)))

    def _edit(self, name: str, change: Callable[[PanelGrid], PanelGrid | None]) -> None:
        panels = self._panels()
        if panels is not None:
            self._set(change(panels), name)

    def _set(self, panels: PanelGrid | None, name: str = "") -> None:
        zone = self._session.zone
        words = name or (_("Divide into panels") if panels else _("Forget the panels"))
        self._session.edit(words, lambda p: set_panels(p, zone, panels))

    def _divide(self) -> None:
        old = self._panels()
        seed = old.seed if old else 7
        self._set(PanelGrid(
            rows=self.rows.value(), columns=self.columns.value(), whole=str(self.whole.value), levels=self.levels.value(),  # type: ignore[arg-type]
            limit=self.limit.value() / 100, seed=seed, drawn=old.drawn if old else (), replaced=self._kept(old),
        ))  # fmt: skip

    def _kept(self, old: PanelGrid | None) -> tuple[int, ...]:
        """The replaced ones, while the panels stay as they were numbered."""
        same = old is not None and (old.rows, old.columns) == (self.rows.value(), self.columns.value())
        return old.replaced if old is not None and same else ()

    def _other_seed(self) -> None:
        self._edit(_("Another chance for the panels"), lambda p: p.model_copy(update={"seed": p.seed + 1}))

    def _replaced(self, number: int) -> None:
        self._edit(_("A replaced panel"), lambda p: toggle_replaced(p, number))

    def _drawn(self, x0: float, y0: float, x1: float, y1: float) -> None:
        box = DrawnPanel(x0=min(x0, x1), y0=min(y0, y1), x1=max(x0, x1), y1=max(y0, y1))

        def draw(panels: PanelGrid) -> PanelGrid:
            return panels.model_copy(update={"drawn": (*panels.drawn, box)[-MOST_DRAWN:]})

        self._edit(_("Draw a panel"), draw)
