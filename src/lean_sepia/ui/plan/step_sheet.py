"""A sheet on which everything about a step is changed, and the step divided, joined, copied or taken away."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QLineEdit, QPushButton, QWidget

from lean_sepia.answers.bench import span
from lean_sepia.document.called import title_of
from lean_sepia.document.edits.joining import join_steps, leave_sitting, split_step
from lean_sepia.document.edits.step_changes import change_step
from lean_sepia.document.edits.steps import duplicate_step, remove_step
from lean_sepia.document.entities.planned import Step
from lean_sepia.document.model import Project
from lean_sepia.document.serving import may_serve, served, serving_kinds, zones_of
from lean_sepia.document.work import coats_in, plan_step
from lean_sepia.language import N_, _
from lean_sepia.paint.handling.carriers import CARRIERS
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.names import PLACE_WORDS
from lean_sepia.plan.waits.drying import full_cure, removable_for
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.fields.number_box import NumberBox
from lean_sepia.ui.kit.panel import NoteBox, button, label, measure_box, row, rule
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.plan.step_ties import StepTies
from lean_sepia.ui.shell.session import Session

_MASKS = {"tape": N_("tape"), "liquid": N_("liquid mask"), "putty": N_("putty")}
_LONGEST_MIN = 525_600


def _minutes(value: float | None, name: str, usual: str) -> NumberBox:
    """Minutes that may be left to the tables: below nothing stands what those say."""
    box = measure_box(-1, _LONGEST_MIN, -1 if value is None else value, _("min"), name, 0, 132)
    box.setSpecialValueText(usual)
    box.setSingleStep(10)
    return box


@guarded
class StepSheet(Sheet):
    """One step; `Keep` makes one edit of all that was changed."""

    step_left = Signal(str)  # the step to be shown afterwards

    def __init__(self, session: Session, step_id: str) -> None:
        project = session.project
        step = project.step(step_id)
        super().__init__(_("step"), title_of(project, step))
        self._session, self._id, self._was = session, step_id, project
        self._build(project, step)
        self._build_foot(project, step)
        session.changed.connect(self._follow)

    # What is filled in

    def _build(self, project: Project, step: Step) -> None:
        planned = plan_step(project, step, coats_in(project, step.id))
        self.name = QLineEdit(step.title)
        self.name.setPlaceholderText(title_of(project, step.model_copy(update={"title": ""})))
        self.kind = ChoiceBox(
            _("Kind"),
            [(_(kind.title), name) for name, kind in KINDS.items() if not kind.is_found or name == step.kind],
        )
        self.kind.choose(step.kind)
        self.medium = ChoiceBox(
            _("Medium"),
            [(_("as its kind has it"), None), *((_(medium.words), name) for name, medium in MEDIA.items())],
        )
        self.medium.choose(planned.medium)
        self.carrier = ChoiceBox(
            _("Carrier"),
            [
                (_("as its medium has it"), None),
                *((_(carrier.words), name) for name, carrier in CARRIERS.items()),
            ],
        )
        self.carrier.choose(step.carrier)
        self.tool = ChoiceBox(
            _("Tool"), [(_("as usual"), None), *((_(tool.words), name) for name, tool in TOOLS.items())]
        )
        self.tool.choose(planned.application)
        self.place = ChoiceBox(
            _("Place"),
            [(_("as the project"), None), *((_(words), name) for name, words in PLACE_WORDS.items())],
        )
        self.place.choose(step.place)
        self.line(_("called"), self.name)
        self.line(_("kind"), self.kind)
        self.line(_("medium"), self.medium)
        self.line(_("carrier"), self.carrier)
        self.line(_("tool"), self.tool)
        self.line(_("place"), self.place)
        self.mask_of = ChoiceBox(
            _("Mask"), [(_("not said"), None), *((_(words), name) for name, words in _MASKS.items())]
        )
        self.mask_of.choose(step.mask)
        self.line(_("mask"), self.mask_of).setVisible(step.nature.is_mask)
        self._times(step, planned)
        self._zones(project, step)
        self._ties(project, step)
        self.note = NoteBox(_("Note"), _("a note for yourself"))
        self.note.setPlainText(step.note)
        self.add(self.note)
        self.body.addStretch(1)

    def _times(self, step: Step, planned: Any) -> None:
        self.add(rule())
        self.add(
            label(
                _("Times that are left alone say the tables: which wait counts depends on what comes next."),
                "second",
                wrap=True,
            )
        )
        project = self._session.project
        bare = plan_step(project, step.model_copy(update={"hands_on_min": None}), coats_in(project, step.id))
        self.hands = _minutes(
            step.hands_on_min, _("At the bench"), _("about {0}").format(span(bare.hands_min))
        )
        self.touch = _minutes(step.touch_dry_min, _("Same paint over it after"), _("by the table"))
        cure = full_cure(planned.model_copy(update={"full_cure_min": None}))
        self.cure = _minutes(
            step.full_cure_min,
            _("Anything over it after"),
            _("up to {0}").format(span(cure)) if cure else _("by the table"),
        )
        gone = removable_for(planned.model_copy(update={"removable_until_min": None}))
        self.work = _minutes(step.workable_until_min, _("Can be worked for"), _("by the table"))
        self.off = _minutes(
            step.removable_until_min,
            _("Can be wiped off for"),
            span(gone) if gone else _("by the table"),
        )
        for words, box in (
            (_("at the bench"), self.hands), (_("same paint"), self.touch), (_("all else"), self.cure),
            (_("workable"), self.work), (_("wiped off"), self.off),
        ):  # fmt: skip
            self.line(words, box, None)

    def _zones(self, project: Project, step: Step) -> None:
        mine = {coat.zone for coat in project.laid_in(step.id)} | set(step.zones)
        self.zones: dict[str, QPushButton] = {}
        grid = QGridLayout()
        grid.setSpacing(4)
        for number, zone in enumerate(project.zones):
            choice = button(zone.short, "tool", zone.name)
            choice.setCheckable(True)
            choice.setChecked(zone.id in mine)
            choice.setAccessibleName(_("On {0}").format(zone.name))
            self.zones[zone.id] = choice
            grid.addWidget(choice, number // 4, number % 4)
        self.add(rule())
        self.add(label(_("On these parts; none for all"), "second"))
        self.add(grid)

    def _ties(self, project: Project, step: Step) -> None:
        """What it works on, and what it waits for beside what lies below it."""
        titles = {one.id: title_of(project, one) for one in project.steps if one.id != step.id}
        self.serves: StepTies | None = None
        if step.kind in serving_kinds():
            fits = {
                one.id: titles[one.id] for one in project.steps
                if one.id != step.id and may_serve(step.kind, one.nature) and zones_of(project, one) & zones_of(project, step)
            }  # fmt: skip
            self.serves = StepTies(fits, served(project, step), _("It works on it"), _("Step to work on"))
            self._block(_("Works on, and goes with"), self.serves)
        self.after = StepTies(titles, step.after, _("Wait for it"), _("Step to wait for"))
        self._block(_("Waits for, beside what lies below it"), self.after)

    def _block(self, words: str, ties: StepTies) -> None:
        self.add(rule())
        self.add(label(words, "second"))
        self.add(ties)

    def _build_foot(self, project: Project, step: Step) -> None:
        keep, leave = button(_("Keep"), "main"), button(_("Close"))
        keep.clicked.connect(self.keep)
        leave.clicked.connect(self.leave)
        split = button(
            _("Split"), "tool", _("Some parts get a step of their own; on one part, a second sitting")
        )
        split.clicked.connect(self.split)
        copy = button(_("Copy"), "tool", _("The same once more, right after it"))
        copy.clicked.connect(self.copy)
        away = button(_("Remove"), "tool", _("This step, with the coats that are laid in it"))
        away.clicked.connect(self.remove)
        alike = [one for one in project.steps if one.kind == step.kind and one.id != step.id]
        self.join_with = ChoiceBox(
            _("Step to join with"), [(title_of(project, one), one.id) for one in alike]
        )
        join = button(_("Join"), "tool", _("Make one step of both"))
        join.clicked.connect(self.join)
        self.add(rule())
        alone = button(_("By itself"), "tool", _("Not at one sitting with the others any more"))
        alone.clicked.connect(lambda: self._edit(_("By itself"), lambda p: leave_sitting(p, self._id)))
        alone.setVisible(bool(step.sitting))
        self.add(row(split, copy, away, alone, None))
        holder = QWidget()
        holder.setLayout(row(self.join_with, join))
        holder.setVisible(bool(alike))
        self.add(holder)
        self.buttons([keep, leave])

    # What the user does

    def changes(self) -> dict[str, Any]:
        """What was changed, by the field of the step."""
        step = self._was.step(self._id)
        planned = plan_step(self._was, step, coats_in(self._was, self._id))
        mine = {coat.zone for coat in self._was.coats if coat.step == self._id} | set(step.zones)
        zones = tuple(name for name, choice in self.zones.items() if choice.isChecked())
        found: dict[str, Any] = {
            "title": self.name.text().strip(), "kind": self.kind.value, "carrier": self.carrier.value, "place": self.place.value,
            "mask": self.mask_of.value, "note": self.note.toPlainText().strip(), "after": self.after.chosen,
            "hands_on_min": _given(self.hands), "touch_dry_min": _given(self.touch), "full_cure_min": _given(self.cure),
            "workable_until_min": _given(self.work), "removable_until_min": _given(self.off),
        }  # fmt: skip
        changed = {name: value for name, value in found.items() if value != getattr(step, name)}
        if self.tool.value != planned.application:
            changed["tool"] = self.tool.value
        if self.medium.value != planned.medium:
            changed["medium"] = self.medium.value
        if set(zones) != mine:
            changed["zones"] = zones
        if self.serves is not None and self.serves.chosen != served(self._was, step):
            changed["serves"] = self.serves.chosen
        return changed

    def keep(self) -> None:
        """Make one edit of what was changed."""
        changes = self.changes()
        title = title_of(self._was, self._was.step(self._id))
        if not changes or self._session.edit(
            _("Change {0}").format(title), lambda p: change_step(p, self._id, changes)
        ):
            self.leave()

    def split(self) -> None:
        """Make two steps of it: the parts that are not ticked any more get the second."""
        step = self._session.project.step(self._id)
        mine = {coat.zone for coat in self._session.project.laid_in(self._id)} | set(step.zones)
        away = [name for name, choice in self.zones.items() if name in mine and not choice.isChecked()]
        self._edit(_("Split"), lambda p: split_step(p, self._id, away)[0])

    def copy(self) -> None:
        """The same step once more."""
        self._edit(_("Copy"), lambda p: duplicate_step(p, self._id)[0])

    def remove(self) -> None:
        """Take the step away with its coats."""
        self._edit(_("Remove"), lambda p: remove_step(p, self._id))

    def join(self) -> None:
        """Make one step of this and the chosen one."""
        other = self.join_with.value
        if isinstance(other, str):
            self._edit(_("Join"), lambda p: join_steps(p, self._id, other))

    def _edit(self, what: str, change: Any) -> None:
        title = title_of(self._session.project, self._session.project.step(self._id))
        if self._session.edit(f"{what}: {title}", change):
            self.leave()

    def _follow(self) -> None:
        """A step that was taken away elsewhere has no sheet any more; what is filled in stays otherwise."""
        if not any(step.id == self._id for step in self._session.project.steps):
            self.leave()


def _given(box: NumberBox) -> float | None:
    box.interpretText()
    return box.value() if box.value() >= 0 else None
