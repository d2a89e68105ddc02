"""The sheet on which a coat is laid by hand, or an old one changed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import partial

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QComboBox, QCompleter, QLineEdit, QMenu

from lean_sepia.answers.amounts import amount_words, cups_of
from lean_sepia.answers.coats.draft import LAID, Draft, draft_of, usual_draft
from lean_sepia.answers.coats.laying import LayAnswer, answer
from lean_sepia.answers.coats.mixing import LayQuestion
from lean_sepia.answers.strata import Band
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.words import difference
from lean_sepia.colour.written import is_colour
from lean_sepia.document.edits.coats import LOWEST
from lean_sepia.document.edits.steps import coat_name
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.paint.media import CARRIER_WORDS, CARRIERS, MEDIA
from lean_sepia.paint.paint import FINISH_WORDS
from lean_sepia.paint.profile import RUNS
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.presets import HEAVINESS
from lean_sepia.ui.coats.laid_fields import LaidFields
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import button, count_box, label, measure_box
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
        self._filling = True
        self._build()
        start = draft_of(project, project.coat(coat)) if coat else usual_draft(kind)
        self._fill(start)
        self._filling = False
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(_PAUSE_MS)
        self._timer.timeout.connect(self._ask)
        session.changed.connect(self._follow)
        session.zone_changed.connect(lambda _zone: self.left.emit())
        self._name_it()
        self._ask()

    # What it is built of

    def _build(self) -> None:
        self.fields = LaidFields()
        self.statement, self.remark = label("", "strong", wrap=True), label("", "second", wrap=True)
        self.kind, self.tool, self.carrier, self.runs = QComboBox(), QComboBox(), QComboBox(), QComboBox()
        for name in LAID:
            self.kind.addItem(_(KINDS[name].title), name)
        self.of, self.thinned, self.called = QLineEdit(), QLineEdit(), QLineEdit()
        self.of.setPlaceholderText(_("3 sand + 1 ochre, a bottle, a cup, #4f7a6c"))
        self.thinned.setPlaceholderText(_("1:20, 60 % thinner, a third"))
        self.called.setPlaceholderText(_("its kind, unless you name it"))
        self._complete()
        self.passes = count_box(1, 99, 1, _("Passes"))
        self.share = measure_box(0.01, 100, 100, "%", _("Share of the area"), 2, 92)
        self.far = measure_box(0, 100, 0, "%", _("How much of it is left at the other end"), 0, 70)
        self.finish, self.medium, self.down_to, self.heavy = (
            QComboBox(),
            QComboBox(),
            QComboBox(),
            QComboBox(),
        )
        for name, words in FINISH_WORDS.items():
            self.finish.addItem(_(words), name)
        self.medium.addItem(_("usual for its kind"), None)
        for name, medium in MEDIA.items():
            self.medium.addItem(_(medium.words), name)
        self.medium.addItem(_("not known"), "unknown")
        self.carrier.addItem(_("as its medium"), None)
        for carrier in CARRIERS[1:]:
            self.carrier.addItem(_(CARRIER_WORDS[carrier]), carrier)
        self.runs.addItem(_("evenly"), None)
        for name, run in RUNS.items():
            self.runs.addItem(_(run.words), name)
        self.heavy.addItem(_("as typed"), None)
        for name, (words, _share) in HEAVINESS.items():
            self.heavy.addItem(_(words), name)
        self.strip, self._strip_words = Fields(margin=0, height=26), label("", "second")
        self._put_together()
        self._connect()

    def _put_together(self) -> None:
        self.add(self.fields)
        self.add(self.statement)
        self.add(self.remark)
        self.line(_("kind"), self.kind)
        self._of_line = self.line(_("of"), self.of)
        self._look_line = self.line(_("dries"), self.finish, self.medium)
        self._thin_line = self.line(_("thinned"), self.thinned, label(_("with"), "second"), self.carrier)
        self._passes_words = label(_("passes"), "second")
        self._tool_line = self.line(_("tool"), self.tool, self.passes, self._passes_words)
        self._down_line = self.line(_("down to"), self.down_to)
        self._share_line = self.line(
            _("covers"), self.share, label(_("of the area"), "second"), None, self.heavy
        )
        self._far_words = label("", "second")
        self._runs_line = self.line(_("spread"), self.runs, self.far, self._far_words, None)
        self.line(_("called"), self.called)
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
        self.buttons([self.lay_button, self.others_button, leave])

    def _connect(self) -> None:
        self.kind.currentIndexChanged.connect(lambda _i: self._take_preset(None))
        self.tool.currentIndexChanged.connect(lambda _i: self._take_preset(self.tool.currentData()))
        self.heavy.currentIndexChanged.connect(lambda _i: self._take_heaviness())
        self.share.valueChanged.connect(lambda _v: self._forget_heaviness())
        for box in (self.carrier, self.runs, self.finish, self.medium, self.down_to):
            box.currentIndexChanged.connect(lambda _i: self._changed())
        for line in (self.of, self.thinned, self.called):
            line.textChanged.connect(lambda _t: self._changed())
            line.returnPressed.connect(self.lay)
        for number in (self.passes, self.share, self.far):
            number.valueChanged.connect(lambda _v: self._changed())

    def _complete(self) -> None:
        names = [paint.name for paint in self._session.shelf.paints()]
        names += [_("from the cup “{0}”").format(recipe.name) for recipe in self._session.project.recipes]
        completer = QCompleter(sorted(names, key=str.casefold), self)
        completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        completer.setFilterMode(Qt.MatchFlag.MatchContains)
        self.of.setCompleter(completer)

    # Between the draft and the lines

    def draft(self) -> Draft:
        """The coat as it stands on the sheet."""
        return Draft(
            self.kind.currentData(), self.of.text(), self.thinned.text(), self.carrier.currentData(), self.tool.currentData(),
            self.passes.value(), self.share.value() / 100, self.called.text().strip(), self.runs.currentData(),
            self.far.value() / 100, self.down_to.currentData(), self._keep, self.finish.currentData(), self.medium.currentData(),
        )  # fmt: skip

    _keep: float | None = None

    def _fill(self, draft: Draft) -> None:
        before, self._filling = self._filling, True
        _choose(self.kind, draft.kind)
        self._name_tools(draft.kind)
        _choose(self.tool, draft.tool)
        _choose(self.carrier, draft.carrier)
        _choose(self.runs, draft.profile)
        _choose(self.finish, draft.finish)
        _choose(self.medium, draft.medium)
        self._name_depths(draft.down_to)
        self.of.setText(draft.of)
        self.thinned.setText(draft.thinned)
        self.called.setText(draft.name)
        self.passes.setValue(draft.passes)
        self.share.setValue(100 * draft.area_share)
        self.far.setValue(100 * draft.far)
        self._keep = draft.keep
        _choose(self.heavy, _heaviness(draft.area_share))
        self._filling = before
        self._show_lines()

    def _name_tools(self, kind: str) -> None:
        usual = KINDS[kind].tools
        self.tool.clear()
        for name in (*usual, *(name for name in TOOLS if name not in usual)):
            self.tool.addItem(_(TOOLS[name].words), name)

    def _name_depths(self, chosen: str | None) -> None:
        """The coats that what takes away can go down to: all that lie below it."""
        self.down_to.clear()
        self.down_to.addItem(_("the lowest"), None)
        coats = self._session.project.coats_of(self._zone)
        edited = [coat.id for coat in coats].index(self._coat) if self._coat else len(coats)
        for coat in coats[:edited]:
            self.down_to.addItem(coat_name(coat), coat.id)
        _choose(self.down_to, chosen)

    def _take_preset(self, tool: str | None) -> None:
        if not self._filling:
            self._fill(usual_draft(self.kind.currentData(), tool, self.draft()))
            self._name_it()
            self._changed()

    def _take_heaviness(self) -> None:
        name = self.heavy.currentData()
        if not self._filling and name:
            self.share.setValue(100 * HEAVINESS[name][1])

    def _forget_heaviness(self) -> None:
        before, self._filling = self._filling, True
        _choose(self.heavy, _heaviness(self.share.value() / 100))
        self._filling = before

    def _show_lines(self) -> None:
        """Only the lines that mean something for this kind."""
        nature = KINDS[self.kind.currentData()]
        made = nature.covers in ("film", "tint", "spots", "loose")
        bare = not self.of.text().strip() or is_colour(self.of.text())
        self._of_line.setVisible(made)
        self._look_line.setVisible(
            (nature.covers == "film" and not nature.to_do) or (made and bare and bool(self.of.text()))
        )
        self._tool_line.setVisible(bool(nature.tools))
        self._down_line.setVisible(nature.covers == "taken")
        dry = nature.loose(self._medium_written())
        self._thin_line.setVisible(made and nature.to_do and not dry)
        self.heavy.setVisible(dry)
        for widget in (self.passes, self._passes_words):
            widget.setVisible(made and not dry)
        self._share_line.setVisible(nature.to_do and nature.covers not in ("unresist", "varnish"))
        self._runs_line.setVisible(nature.to_do and nature.covers not in ("unresist", "varnish", "resist"))
        run = self.runs.currentData()
        self.far.setVisible(run is not None)
        self._far_words.setText(_("at: {0}").format(_(RUNS[run].far)) if run else "")

    def _medium_written(self) -> str | None:
        """The medium of the one bottle that is named, or what is chosen where none is."""
        wanted = self.of.text().strip().casefold()
        named = [
            paint for paint in self._session.shelf.paints() if wanted and wanted in paint.name.casefold()
        ]
        return named[0].medium if named else None

    # Asking and answering

    def _changed(self) -> None:
        if not self._filling:
            self._show_lines()
            self._timer.start()

    def _follow(self) -> None:
        project = self._session.project
        gone = self._zone not in {zone.id for zone in project.zones}
        if gone or (self._coat and self._coat not in {coat.id for coat in project.coats}):
            self.left.emit()
        elif not self._filling:
            self._timer.start()

    def question(self) -> LayQuestion:
        """What is asked: the draft, where it goes, and the shelf."""
        shelf = self._session.shelf
        retired = {str(r["id"]): str(r.get("name") or r["id"]) for r in shelf.records() if r.get("retired")}
        project = self._session.project
        above = self._above if self._above in {coat.id for coat in project.coats} or not self._above else None
        return LayQuestion(
            project, tuple(self.zones), self.draft(), tuple(shelf.paints()), above, self._coat, retired
        )

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
            parts = ", ".join(f"{amount_words(line.amount)} {line.name}" for line in cup.lines)
            said.append(
                _("{0} ml in all: {1}; {2} ml thinner.").format(
                    f"{cup.total_ml:.1f}", parts, f"{cup.thinner_ml:.1f}"
                )
            )
        return said

    def _show_strip(self, passes: Sequence[tuple[float, float, float]]) -> None:
        shown = bool(passes)
        self._strip_line.setVisible(shown)
        self._strip_words.setVisible(shown)
        self.strip.show_labs(passes, _("The colour after each pass"))
        counts = [*range(min(len(passes), 5)), *([self.passes.value()] if len(passes) > 5 else [])]
        self._strip_words.setText(_("after {0} passes").format(", ".join(map(str, counts))) if shown else "")

    def _name_it(self) -> None:
        zone = self._session.project.zone(self._zone).name
        title = _("Change {0} on {1}") if self._coat else _("Lay a coat on {1}")
        kind = _(KINDS[self.kind.currentData()].title)
        self.title.setText(title.format(kind, zone))
        count = len(self.zones)
        self.lay_button.setText(
            _("Change it")
            if self._coat
            else _("Lay it")
            if count == 1
            else _("Lay it on {0} zones").format(count)
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
        what = self.called.text().strip() or _(KINDS[question.draft.kind].title)

        def change(project: Project) -> Project:
            return answer(replace(question, project=project)).project

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


def _choose(box: QComboBox, data: object) -> None:
    index = next((i for i in range(box.count()) if box.itemData(i) == data), 0)
    box.setCurrentIndex(index)


def _heaviness(share: float) -> str | None:
    return next((name for name, (_words, much) in HEAVINESS.items() if abs(much - share) < 1e-6), None)


def _ends_words(
    near: str, far: str, ends: tuple[tuple[float, float, float], tuple[float, float, float]]
) -> str:
    away = difference(ends[0], ends[1])
    if away.same:
        return _("The same to the eye at both ends.")
    return _("From {0} to {1}: {2}, {3:.1f} ΔE00.").format(
        _(near), _(far), away.words, float(delta_e00(*ends))
    )
