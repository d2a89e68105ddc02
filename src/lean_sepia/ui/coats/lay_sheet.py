"""The sheet on which a coat is laid by hand, or an old one changed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import partial

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QMenu

from lean_sepia.answers.amounts import counted_out, cups_of
from lean_sepia.answers.coats.draft import draft_of, usual_draft
from lean_sepia.answers.coats.laying import LayAnswer, answer, laid
from lean_sepia.answers.coats.mixing import LayQuestion
from lean_sepia.answers.strata import Band
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.words import difference
from lean_sepia.document.edits.coats import LOWEST
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.language import _, ngettext
from lean_sepia.paint.profile import RUNS
from lean_sepia.plan.kinds import KINDS
from lean_sepia.recipe.parts import volume_words
from lean_sepia.ui.coats.draft_lines import DraftLines
from lean_sepia.ui.coats.laid_fields import LaidFields
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import button, label
from lean_sepia.ui.kit.plain import menu_words
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.kit.swatch import Fields
from lean_sepia.ui.shell.session import Session

_PAUSE_MS, _INDENT = 120, 86


@guarded
class LaySheet(Sheet):
    """Kind, mix, thinning, tool, passes and share of one coat, and what it will look like before it is laid."""

    def __init__(
        self,
        session: Session,
        zone: str,
        *,
        kind: str = "base",
        above: str | None = None,
        coat: str | None = None,
    ) -> None:
        self._session, self._zone, self._above, self._coat = session, zone, above, coat
        project = session.project
        super().__init__(_where(session, zone, above, coat), "")
        self.zones: list[str] = [zone]
        self.found: LayAnswer | None = None
        self._build()
        self.lines.fill(
            draft_of(project, project.coat(coat)) if coat else usual_draft(kind, owns=project.owns)
        )
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(_PAUSE_MS)
        self._timer.timeout.connect(self._ask)
        self.lines.changed.connect(self._changed)
        session.changed.connect(self._follow)
        session.zone_changed.connect(self.leave)
        self._name_it()
        self._ask()

    def _build(self) -> None:
        self.fields = LaidFields()
        self.statement, self.remark = label("", "strong", wrap=True), label("", "second", wrap=True)
        for item in (self.fields, self.statement, self.remark):
            self.add(item)
        self.lines = DraftLines(self, self._session, self._zone, self._coat)
        self.strip, self._strip_words = Fields(margin=0, height=26), label("", "second")
        self._strip_line = self.line(_("pass by pass"), self.strip)
        self._strip_words.setIndent(_INDENT)
        self.add(self._strip_words)
        self._notes = label("", "second", wrap=True)
        self.add(self._notes)
        self.body.addStretch(1)
        self.lay_button = button("", "main")
        self.others_button = button(_("Other zones…"))
        leave = button(_("Leave it"))
        self.lay_button.clicked.connect(self.lay)
        self.others_button.clicked.connect(self._ask_zones)
        leave.clicked.connect(self.left)
        self.lines.entered.connect(self.lay)
        self.buttons([self.lay_button, self.others_button, leave])

    def _changed(self) -> None:
        self._name_it()
        self._timer.start()

    def _follow(self) -> None:
        project = self._session.project
        gone = self._zone not in {zone.id for zone in project.zones}
        if gone or (self._coat and self._coat not in {coat.id for coat in project.coats}):
            self.left.emit()
        else:
            self._timer.start()

    def question(self) -> LayQuestion:
        """What is asked: the draft, where it goes, and the shelf."""
        shelf = self._session.shelf
        retired = {str(r["id"]): str(r.get("name") or r["id"]) for r in shelf.records() if r.get("retired")}
        project = self._session.project
        above = self._above if self._above in {coat.id for coat in project.coats} or not self._above else None
        return LayQuestion(
            project,
            tuple(self.zones),
            self.lines.draft(),
            tuple(shelf.paints()),
            above,
            self._coat,
            retired,
            self.lines.serves,
        )

    def ask_now(self) -> None:
        """Answer what is written at once, without waiting for the hand to rest."""
        self._timer.stop()
        self._ask()

    def _ask(self) -> None:
        question = self.question()

        def work(_progress: object) -> LayAnswer | SepiaError:
            try:
                return answer(question)
            except SepiaError as error:
                return error

        self._session.jobs.start("lay", work, self._answered)

    def _answered(self, found: LayAnswer | SepiaError) -> None:
        self.found = None if isinstance(found, SepiaError) else found
        self.lay_button.setEnabled(self.found is not None)
        if isinstance(found, SepiaError):
            cut = self._session.cut(self._zone)
            self.fields.show_laid(cut.seen, None, None, (_("now"), _("with this coat"), ""))
            self.statement.setText(_("Not yet."))
            self.remark.setText(str(found))
            self._notes.setText("")
            self._show_strip(())
            return
        self._show(found)

    def _show(self, found: LayAnswer) -> None:
        target = found.target.lab if found.target else None
        self.fields.show_laid(found.now, found.then, target, (_("now"), _("with this coat"), found.about))
        if found.now and found.then:
            moved = difference(found.now, found.then)
            words = (
                _("The same to the eye.") if moved.same else f"{moved.words[:1].upper()}{moved.words[1:]}."
            )
            self.statement.setText(words)
        else:
            self.statement.setText(
                _("The first thing that lies there.") if found.then else _("No colour of its own.")
            )
        said = list(found.remarks[:1])
        if found.then and target:
            said.append(_("{0:.1f} from the {1}.").format(float(delta_e00(found.then, target)), found.about))
        self.remark.setText(" ".join(said))
        notes = list(found.remarks[1:])
        if found.ends:
            run = RUNS[found.project.coat(found.coat).profile or "below"]
            notes.append(_ends_words(run.near, run.far, found.ends))
        notes += self._cup_words(found)
        notes += found.cautions
        self._notes.setText("\n".join(notes))
        self._show_strip(found.passes)

    def _cup_words(self, found: LayAnswer) -> list[str]:
        coat = found.project.coat(found.coat)
        said = []
        for cup in cups_of(found.project, [coat]):
            parts = counted_out((line.amount, line.name) for line in cup.lines)
            said.append(
                _("{0} in all: {1}; {2} thinner.").format(
                    volume_words(cup.total_ml), parts, volume_words(cup.thinner_ml)
                )
                if cup.thinner_ml
                else _("{0}.").format(parts)
            )
        return said

    def _show_strip(self, passes: Sequence[tuple[float, float, float]]) -> None:
        shown = bool(passes)
        self._strip_line.setVisible(shown)
        self._strip_words.setVisible(shown)
        self.strip.show_labs(passes, _("The colour after each pass"))
        counts = [*range(min(len(passes), 5)), *([self.lines.passes.value()] if len(passes) > 5 else [])]
        self._strip_words.setText(_("passes: {0}").format(", ".join(map(str, counts))) if shown else "")

    def _name_it(self) -> None:
        zone = self._session.project.zone(self._zone).name
        title = _("Change {0} on {1}") if self._coat else _("Lay a coat on {1}")
        kind = _(KINDS[self.lines.kind.currentData()].title)
        self.title.setText(title.format(kind, zone))
        count = len(self.zones)
        self.lay_button.setText(
            _("Change it")
            if self._coat
            else _("Lay it")
            if count == 1
            else ngettext("Lay it on {0} zone", "Lay it on {0} zones", count).format(count)
        )
        self.others_button.setVisible(self._coat is None)

    def _ask_zones(self) -> None:
        menu = QMenu(self)
        for zone in self._session.project.zones:
            if zone.id != self._zone:
                action = menu.addAction(menu_words(zone.name))
                action.setCheckable(True)
                action.setChecked(zone.id in self.zones)
                action.toggled.connect(partial(self.also_on, zone.id))
        menu.popup(self.others_button.mapToGlobal(self.others_button.rect().topLeft()))

    def also_on(self, zone: str, wanted: bool) -> None:
        """Lay it on another zone too, in the same step, or not."""
        self.zones = [*(name for name in self.zones if name != zone), *([zone] if wanted else [])]
        self._name_it()
        self._changed()

    def lay(self) -> None:
        """Lay the coat as the sheet says now, as one edit."""
        question = self.question()
        name = _("Change {0}") if self._coat else _("Lay {0}")
        what = self.lines.called.text().strip() or _(KINDS[question.draft.kind].title)

        def change(project: Project) -> Project:
            return laid(replace(question, project=project)).project

        if self._session.edit(name.format(what), change):
            self.left.emit()


def _where(session: Session, zone: str, above: str | None, coat: str | None) -> str:
    """Between which coats it lies, in words."""
    bands: tuple[Band, ...] = session.cut(zone).bands
    names = [band.name for band in bands]
    if coat:
        here = [band.coat.id for band in bands].index(coat)
    elif above is None:
        return _("where its kind usually comes")
    elif above == LOWEST:
        here = -1
    else:
        here = [band.coat.id for band in bands].index(above)
    under = names[here + 1] if here + 1 < len(names) else ""
    over = names[here - 1 if coat else here] if (here > 0 if coat else here >= 0) else ""
    if over and under:
        return _("above {0}, under {1}").format(over, under)
    return (
        _("above {0}").format(over)
        if over
        else _("under {0}").format(under)
        if under
        else _("the first coat")
    )


def _ends_words(
    near: str, far: str, ends: tuple[tuple[float, float, float], tuple[float, float, float]]
) -> str:
    away = difference(ends[0], ends[1])
    if away.same:
        return _("The same to the eye at both ends.")
    return _("From {0} to {1}: {2}, {3:.1f} ΔE00.").format(
        _(near), _(far), away.words, float(delta_e00(*ends))
    )
