"""How the wear of a zone came about and how it is laid: weather, water, edges, order of colours, larger than life, the throw of the dice."""

from __future__ import annotations

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import QCheckBox

from lean_sepia.document.entities.worn import WearPlan
from lean_sepia.document.model import Project
from lean_sepia.language import _
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import Panel, button, label, measure_box, row
from lean_sepia.ui.kit.plain import hint

_MOST_THROWS = 1_000_000


class HowPanel(Panel):
    """`changed` carries the plan as it was changed."""

    changed = Signal(object)
    panels_wanted = Signal()

    def __init__(self) -> None:
        super().__init__(_("How it wore"))
        self._plan = WearPlan()
        self.climate = ChoiceBox(
            _("Weather it stood in"), ((_("any"), ""), (_("arid"), "arid"), (_("damp"), "damp")), 120
        )
        self.drift = ChoiceBox(
            _("Soot and dust are carried"),
            ((_("nowhere"), ""), (_("to the left"), "left"), (_("to the right"), "right")), 120,
        )  # fmt: skip
        self.water = ChoiceBox(_("Water runs down from"), (), 150)
        self.edges = QCheckBox(_("Its edges wear too"))
        self.dark_first = QCheckBox(_("Dark colours first"))
        hint(self.dark_first, _("Else light ones are laid first, and dark ones over them"))
        self.two_tone = QCheckBox(_("Chips of two tones"))
        hint(self.two_tone, _("Chips that are laid later lie inside those laid before: a rim and its core"))
        self.larger = measure_box(1, 10, 1, "×", _("Times larger than life"), 1, 76)
        self.throw = button(_("Another throw"), "tool", _("The same wear, fallen otherwise"))
        self.panels = button(
            _("Whole members…"), "tool", _("Repaired and replaced members are panels, in Tone")
        )
        for words, box in (
            (_("Weather"), self.climate),
            (_("Carried"), self.drift),
            (_("Water from"), self.water),
        ):
            self.add(row(label(words, "second"), None, box))
            box.activated.connect(self._changed)
        for tick in (self.edges, self.dark_first, self.two_tone):
            self.add(tick)
            tick.toggled.connect(self._changed)
        self.add(row(label(_("Larger than life"), "second"), None, self.larger))
        self.larger.valueChanged.connect(self._changed)
        self.add(row(self.throw, self.panels, None, spacing=6))
        self.throw.clicked.connect(self._throw_again)
        self.panels.clicked.connect(self.panels_wanted)

    def show_plan(self, plan: WearPlan, project: Project, zone: str) -> None:
        """Show how a zone's wear is planned; nobody is told."""
        self._plan = plan
        subject = project.zone(zone).subject
        others = [(one.name, one.id) for one in project.zones if one.subject == subject and one.id != zone]
        self.water.offer([(_("nothing above"), ""), *others], keep=plan.water_from or "")
        self.climate.choose(plan.climate)
        self.drift.choose(plan.drift)
        for box, on in (
            (self.edges, plan.edges),
            (self.dark_first, plan.dark_first),
            (self.two_tone, plan.two_tone),
        ):
            with QSignalBlocker(box):
                box.setChecked(on)
        with QSignalBlocker(self.larger):
            self.larger.setValue(plan.larger)

    def _changed(self, *_why: object) -> None:
        self.changed.emit(
            self._plan.model_copy(
                update={
                    "climate": self.climate.value, "drift": self.drift.value, "water_from": self.water.value or None,
                    "edges": self.edges.isChecked(), "dark_first": self.dark_first.isChecked(),
                    "two_tone": self.two_tone.isChecked(), "larger": self.larger.value(),
                }
            )
        )  # fmt: skip

    def _throw_again(self) -> None:
        self.changed.emit(self._plan.model_copy(update={"seed": (self._plan.seed + 1) % _MOST_THROWS}))
