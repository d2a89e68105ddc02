"""The lines of a sheet on which a coat is written: kind, mix, thinning, tool, passes, share, and how it runs out."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtWidgets import QCompleter, QLineEdit

from lean_sepia.answers.coats.draft import Draft, laid_kinds, thinning_words, usual_draft, usual_thinner
from lean_sepia.colour.written import is_colour
from lean_sepia.document.called import coat_name, title_of
from lean_sepia.document.serving import may_serve, serving_kinds, zones_of
from lean_sepia.document.versions import from_cup
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.paint.handling.carriers import CARRIERS
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import FINISH_WORDS, Paint
from lean_sepia.paint.profile import RUNS
from lean_sepia.paint.tools import SPECK_MM, TOOLS
from lean_sepia.plan.kinds import KINDS, nature_of
from lean_sepia.plan.presets import HEAVINESS
from lean_sepia.ui.coats.keep_dialog import KeepDialog
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import button, count_box, label, measure_box
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.shell.session import Session


class DraftLines(QObject):
    """Puts its lines on a sheet; `changed` says that another coat is written there, `entered` that Enter was struck."""

    changed = Signal()
    entered = Signal()

    def __init__(self, sheet: Sheet, session: Session, zone: str, coat: str | None) -> None:
        super().__init__(sheet)
        self._session, self._zone, self._coat = session, zone, coat
        self._filling, self._usual_thinning = True, ""
        self._make_words()
        self._make_choices()
        self.passes = count_box(1, 99, 1, _("Passes"))
        self.share = measure_box(0.01, 100, 100, "%", _("Share of the area"), 2, 92)
        self.rim_share = measure_box(0, 100, 1, "%", _("Share of the area that the rim takes"), 2, 86)
        self.far = measure_box(0, 100, 0, "%", _("How much of it is left at the other end"), 0, 70)
        self.speck = measure_box(0.02, 20, SPECK_MM, "mm", _("How broad the specks are, on the model"), 2, 86)
        self._wiped = 0.0
        self._put_on(sheet)
        self._connect()
        self._filling = False

    def _make_words(self) -> None:
        self.of, self.thinned, self.called, self.rim = QLineEdit(), QLineEdit(), QLineEdit(), QLineEdit()
        self.rim.setPlaceholderText(_("none; a bottle or a colour"))
        self._of_words = _("3 sand + 1 ochre, a cup, #4f7a6c")
        self.of.setPlaceholderText(self._of_words)
        self.thinned.setPlaceholderText(_("1:20"))
        hint(self.thinned, _("As you say it: 1:20, 60 % thinner, a third"))
        self.called.setPlaceholderText(_("its kind, unless you name it"))
        names = [paint.name for paint in self._session.shelf.paints()]
        names += [from_cup(recipe) for recipe in self._session.project.recipes]
        completer = QCompleter(sorted(names, key=str.casefold), self)
        completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        completer.setFilterMode(Qt.MatchFlag.MatchContains)
        self.of.setCompleter(completer)

    def _make_choices(self) -> None:
        self.tool, self.down_to, self.works_on = ChoiceBox(), ChoiceBox(), ChoiceBox()
        self.kind = ChoiceBox(choices=[(_(KINDS[name].title), name) for name in laid_kinds()])
        self.finish = ChoiceBox(choices=[(_(words), name) for name, words in FINISH_WORDS.items()])
        media = [(_(medium.words), name) for name, medium in MEDIA.items()]
        self.medium = ChoiceBox(
            choices=[(_("usual for its kind"), None), *media, (_("not known"), "unknown")]
        )
        carriers = [(_(carrier.words), name) for name, carrier in CARRIERS.items() if carrier.put_out]
        self.carrier = ChoiceBox(choices=[(_("as its medium"), None), *carriers])
        self.runs = ChoiceBox(
            "", [(_("evenly"), None), *((_(run.words), name) for name, run in RUNS.items())]
        )
        made = [
            (_("a decal, ink on clear film"), "ink"), (_("a decal, white below or in it"), "white"), (_("painted"), None),
        ]  # fmt: skip
        self.printed = ChoiceBox(choices=made)
        amounts = [(_(words), name) for name, (words, _share) in HEAVINESS.items()]
        self.heavy = ChoiceBox(choices=[(_("as typed"), None), *amounts])

    def _put_on(self, sheet: Sheet) -> None:
        sheet.line(_("kind"), self.kind)
        self._of_line = sheet.line(_("of"), self.of)
        self._printed_line = sheet.line(_("made as"), self.printed)
        self._look_line = sheet.line(_("dries"), self.finish, self.medium)
        self._thin_line = sheet.line(_("thinned"), self.thinned, label(_("with"), "second"), self.carrier)
        self._passes_words = label("×", "second")
        self._tool_line = sheet.line(_("tool"), self.tool, self.passes, self._passes_words)
        self._works_line = sheet.line(_("works on"), self.works_on)
        self._down_line = sheet.line(_("down to"), self.down_to)
        self._share_line = sheet.line(
            _("covers"), self.share, label(_("of the area"), "second"), None, self.heavy
        )
        self.keep = measure_box(-1, 100, -1, "%", _("What the first varnish leaves of it"), 0, 76)
        self.keep.setSpecialValueText(_("usual"))
        self.learn = button(_("Learn…"), "tool", _("From a swatch measured before and after its varnish"))
        self._keep_line = sheet.line(
            _("kept"), self.keep, label(_("under varnish"), "second"), None, self.learn
        )
        self._speck_line = sheet.line(_("specks"), self.speck, label(_("across, on average"), "second"))
        self._rim_line = sheet.line(_("light rim"), self.rim, self.rim_share)
        self._far_words = label("", "second")
        self._runs_line = sheet.line(_("spread"), self.runs, self.far, self._far_words, None)
        sheet.line(_("called"), self.called)

    def _connect(self) -> None:
        self.kind.currentIndexChanged.connect(lambda _i: self._take_preset(None))
        self.tool.currentIndexChanged.connect(lambda _i: self._take_preset(self.tool.currentData()))
        self.printed.currentIndexChanged.connect(lambda _i: self._take_making())
        self.heavy.currentIndexChanged.connect(lambda _i: self._take_heaviness())
        self.share.valueChanged.connect(lambda _v: self._forget_heaviness())
        for box in (self.carrier, self.runs, self.finish, self.medium, self.down_to, self.works_on):
            box.currentIndexChanged.connect(lambda _i: self._change())
        self.of.textChanged.connect(lambda _t: self._take_bottle())
        for line in (self.of, self.thinned, self.called, self.rim):
            line.textChanged.connect(lambda _t: self._change())
            line.returnPressed.connect(self.entered)
        self.learn.clicked.connect(self._learn)
        for number in (self.keep, self.passes, self.share, self.far, self.rim_share, self.speck):
            number.valueChanged.connect(lambda _v: self._change())

    def draft(self) -> Draft:
        """The coat as it stands on the sheet."""
        return Draft(
            self.kind.currentData(), self.of.text(), self.thinned.text(), self.carrier.currentData(), self.tool.currentData(),
            self.passes.value(), self.share.value() / 100, self.called.text().strip(), self.runs.currentData(),
            self.far.value() / 100, self.down_to.currentData(), self._kept(), self.finish.currentData(), self.medium.currentData(), self.rim.text(),
            self.rim_share.value() / 100, self.printed.currentData() if KINDS[self.kind.currentData()].is_print else None,
            self._wiped, self.speck.value() if self._flicked() else None,
        )  # fmt: skip

    def fill(self, draft: Draft) -> None:
        """Write a draft on the sheet."""
        before, self._filling = self._filling, True
        self.kind.choose(draft.kind)
        self._name_tools(draft.kind)
        self.tool.choose(draft.tool)
        self.carrier.choose(draft.carrier)
        self.runs.choose(draft.profile)
        self.finish.choose(draft.finish)
        self.medium.choose(draft.medium)
        self._name_served(draft.kind)
        self._name_depths(draft.down_to)
        self.of.setText(draft.of)
        self.printed.choose(draft.printed)
        self._usual_thinning = draft.thinned or ""
        self.thinned.setText(self._usual_thinning)
        self.thinned.setCursorPosition(0)
        self.called.setText(draft.name)
        self.passes.setValue(draft.passes)
        self.share.setValue(100 * draft.area_share)
        self.far.setValue(100 * draft.far)
        self.speck.setValue(draft.speck_mm or SPECK_MM)
        self._wiped = draft.wiped
        self.keep.setValue(-1 if draft.keep is None else 100 * draft.keep)
        self.heavy.choose(_heaviness(draft.area_share))
        self._filling = before
        self.show_lines()

    def _flicked(self) -> bool:
        tool = self.tool.currentData()
        return bool(KINDS[self.kind.currentData()].tools and tool and TOOLS[tool].flicked)

    def _kept(self) -> float | None:
        return self.keep.value() / 100 if self.keep.value() >= 0 else None

    def _learn(self) -> None:
        """Learn from a swatch what a varnish leaves; the bottle that is named remembers it."""
        dialog = KeepDialog(self.of)
        if dialog.exec() and dialog.keep is not None:
            self.remember_keep(dialog.keep)

    def remember_keep(self, share: float) -> None:
        """Take a share that was learnt, and write it to the bottle that is named."""
        self.keep.setValue(round(100 * share))
        shelf, paint = self._session.shelf, self._paint_written()
        if paint is None:
            return
        record = shelf.by_id()[paint.id]
        try:
            shelf.change((record, {**record, "keep": round(share, 3)}))
        except SepiaError as error:
            self._session.refused.emit(str(error))
            return
        self._session.shelf_changed.emit()

    def _name_tools(self, kind: str) -> None:
        owns = self._session.project.owns
        usual = owns.tools(kind) or nature_of(kind, printed=False).tools
        self.tool.clear()
        for name in (*usual, *(name for name in TOOLS if name not in usual)):
            words = _(TOOLS[name].words)
            self.tool.addItem(words if owns.has(name) else _("{0} (you have none)").format(words), name)

    def _name_served(self, kind: str) -> None:
        """The steps that a coat of this kind can work on here."""
        project, chosen = self._session.project, self.works_on.value
        step = project.coat(self._coat).step if self._coat else ""
        if step and chosen is None:
            chosen = next(iter(project.step(step).serves), None)
        self.works_on.clear()
        self.works_on.addItem(_("the newest that fits"), None)
        for one in project.steps if kind in serving_kinds() else ():
            if one.id != step and may_serve(kind, one.nature) and self._zone in zones_of(project, one):
                self.works_on.addItem(title_of(project, one), one.id)
        self.works_on.choose(chosen)

    @property
    def serves(self) -> tuple[str, ...]:
        """The step it works on, where one is chosen."""
        return (self.works_on.value,) if isinstance(self.works_on.value, str) else ()

    def _name_depths(self, chosen: str | None) -> None:
        """The coats that what takes away can go down to: all that lie below it."""
        self.down_to.clear()
        serving = self._coat is None and self.kind.currentData() in serving_kinds()
        self.down_to.addItem(_("just below what it works on") if serving else _("the lowest"), None)
        coats = self._session.project.coats_of(self._zone)
        ids = [coat.id for coat in coats]
        edited = ids.index(self._coat) if self._coat in ids else len(coats)
        for coat in coats[:edited]:
            self.down_to.addItem(coat_name(coat), coat.id)
        self.down_to.choose(chosen)

    def _take_preset(self, tool: str | None) -> None:
        if not self._filling:
            self.fill(usual_draft(self.kind.currentData(), tool, self.draft(), self._session.project.owns))
            self.changed.emit()

    def _take_making(self) -> None:
        """Lettering printed or painted: another tool, and thinner only where it is painted."""
        if not self._filling:
            kind, printed = self.kind.currentData(), self.printed.currentData()
            painted = nature_of(kind, printed=False)
            tool = None if printed else next(iter(painted.tools), None)
            self.fill(replace(usual_draft(kind, tool, self.draft()), printed=printed))
            self.changed.emit()

    def _take_bottle(self) -> None:
        """Thin as what is named is usually thinned, unless another thinning is written."""
        named = self._paint_written()
        if self._filling or named is None or self.thinned.text() != self._usual_thinning:
            return
        before, self._filling = self._filling, True
        self._usual_thinning = thinning_words(
            usual_thinner(self.kind.currentData(), self.tool.currentData(), named)
        )
        self.thinned.setText(self._usual_thinning)
        self.thinned.setCursorPosition(0)
        self._filling = before

    def _take_heaviness(self) -> None:
        name = self.heavy.currentData()
        if not self._filling and name:
            self.share.setValue(100 * HEAVINESS[name][1])

    def _forget_heaviness(self) -> None:
        before, self._filling = self._filling, True
        self.heavy.choose(_heaviness(self.share.value() / 100))
        self._filling = before

    def _change(self) -> None:
        if not self._filling:
            self.show_lines()
            self.changed.emit()

    def show_lines(self) -> None:
        """Only the lines that mean something for this kind."""
        kind, printed = self.kind.currentData(), self.printed.currentData()
        nature = nature_of(kind, printed=printed is not None)
        made = nature.covers in ("film", "tint", "spots", "loose", "varnish")
        dry = nature.loose(self._medium_written())
        spread = nature.to_do and nature.covers not in ("unresist", "varnish")
        self._of_line.setVisible(made)
        self._look_line.setVisible(made and (not nature.to_do or is_colour(self.of.text())))
        self._printed_line.setVisible(KINDS[kind].is_print)
        self.of.setPlaceholderText(
            _("the shelf's own, unless you name one") if nature.is_varnish else self._of_words
        )
        self._thin_line.setVisible(made and nature.to_do and not dry and not nature.is_print)
        self._tool_line.setVisible(bool(nature.tools))
        self._works_line.setVisible(self.works_on.count() > 1)
        self._down_line.setVisible(nature.covers == "taken")
        self._share_line.setVisible(spread)
        self._speck_line.setVisible(self._flicked())
        self._rim_line.setVisible(nature.family == "spots" and self._coat is None)
        self._runs_line.setVisible(spread and not nature.resists)
        self.heavy.setVisible(dry)
        self._keep_line.setVisible(nature.coat_covers(self._medium_written()) == "loose")
        for widget in (self.passes, self._passes_words):
            widget.setVisible(made and not dry and not nature.is_print)
        run = self.runs.currentData()
        self.far.setVisible(run is not None)
        self._far_words.setText(_("at: {0}").format(_(RUNS[run].far)) if run else "")

    def _paint_written(self) -> Paint | None:
        """The bottle that is named, if one is."""
        wanted = self.of.text().strip().casefold()
        paints = self._session.shelf.paints()
        return next((paint for paint in paints if wanted and wanted in paint.name.casefold()), None)

    def _medium_written(self) -> str | None:
        named = self._paint_written()
        return named.medium if named else None


def _heaviness(share: float) -> str | None:
    return next((name for name, (_words, much) in HEAVINESS.items() if abs(much - share) < 1e-6), None)
