"""Filters: one thin tint over several zones, judged on all of them, or one of your own."""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtCore import QSignalBlocker, Qt
from PySide6.QtWidgets import QCheckBox, QLineEdit

from lean_sepia.answers.glazing import filters
from lean_sepia.answers.glazing.equal_parts import cup_words, ratio_words
from lean_sepia.answers.glazing.filters import Filtered, GlazeAnswer, GlazeQuestion, OwnFilter
from lean_sepia.answers.glazing.grounds import ground_of, tint_cautions
from lean_sepia.answers.stages import STAGE_WORDS
from lean_sepia.arrays import triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.coats import lay_filter
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.language import _, ngettext
from lean_sepia.recipe.tints.glaze import HELPS_DE00, JUST_SHOWS_DE00
from lean_sepia.ui.glaze.tint_page import TintPage, no_tints
from lean_sepia.ui.kit.fields.flow import Flow
from lean_sepia.ui.kit.fields.under_box import UnderBox
from lean_sepia.ui.kit.panel import Panel, button, count_box, holder, label, row, rule
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.plots.ramp_rows import RampRow, RampRows
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Fields
from lean_sepia.ui.shell.session import Session


class FiltersPage(TintPage):
    """A matrix of filters and zones; the chosen one is laid on all of them in one step each."""

    def __init__(self, session: Session, kind: str) -> None:
        super().__init__(session, kind)
        self.answer: GlazeAnswer | None = None
        self._asked: GlazeQuestion | None = None
        body = self.body
        self.own = QLineEdit()
        self.own.setPlaceholderText(_("3 sand + 1 ochre"))
        self.own.setMinimumWidth(150)
        hint(self.own, _("A bottle, a mix such as “3 sand + 1 ochre”, or a cup"))
        self.own.setAccessibleName(_("A filter of your own"))
        self.own.editingFinished.connect(self._own_changed)
        self.thinner = count_box(1, 200, 20, _("Parts of thinner to one"))
        self.passes = count_box(1, 8, 2, _("Passes"))
        for box in (self.thinner, self.passes):
            box.valueChanged.connect(self._own_changed)
        self.second_pass = button(
            _("Shows on the second pass"), "tool", _("Thin it so that it first shows on the second pass")
        )
        self.second_pass.clicked.connect(self.thin_for_the_second_pass)
        figures = row(label("1 :", "second"), self.thinner, label("×", "second"), self.passes, spacing=6)
        body.addLayout(Flow(label(_("Your own"), "second"), self.own, holder(figures), self.second_pass))
        self._zones = Rows(spacing=8, across=True)
        self.boxes: dict[str, QCheckBox] = {}
        self._chosen: set[str] | None = None
        self.together = QCheckBox(_("draw together"))
        hint(self.together, _("Judge by how near the zones come to each other, in place of their targets"))
        self.together.toggled.connect(lambda _on: self.ask())
        self.under = UnderBox()
        self.under.toggled.connect(lambda _on: self.ask())
        on = row(label(_("On"), "second"), spacing=8)
        on.addWidget(self._zones, 1)
        on.addWidget(self.under, 0, Qt.AlignmentFlag.AlignTop)
        on.addWidget(self.together, 0, Qt.AlignmentFlag.AlignTop)
        body.addLayout(on)
        self.rows = RampRows()
        self.rows.foot = _("In each field, left to right: before, after, the target.")
        self.rows.chosen.connect(lambda _index: self._show_choice())
        body.addWidget(self.rows, 1)
        self.lay = button(_("Lay this filter"), "main", _("Every zone shown gets a filter coat"))
        self.lay.clicked.connect(self.lay_chosen)
        self._cup = label("", "", wrap=True)
        self.foot = row(self._cup, self.lay, spacing=6)
        body.addLayout(self.foot)
        self._build_side()

    def _build_side(self) -> None:
        self._passes_panel = Panel(_("Passes"))
        self._strip = Fields(margin=6, height=54)
        self._strip.setFixedHeight(54)
        self._numbers = Rows(spacing=0, across=True, even=True)
        self._strip_words = label("", "second", wrap=True)
        for item in (self._strip, self._numbers, self._strip_words):
            self._passes_panel.add(item)
        self.side.addWidget(self._passes_panel)
        contrast = Panel(_("Difference from the target"), "ΔE00")
        self._contrast = Rows(spacing=4)
        contrast.add(self._contrast)
        contrast.seen_with(self._contrast.filled)
        self.side.addWidget(contrast)
        self._add_needs(_("Needs"))

    def _own_changed(self, *_why: object) -> None:
        if self.own.text().strip() or (self._asked and self._asked.own):
            self.ask()

    def _offer_zones(self, project: Project) -> None:
        names = [zone for zone in project.zones if ground_of(project, zone.id, self.kind) is not None]
        if list(self.boxes) == [zone.id for zone in names]:
            return
        self.boxes = {}
        for zone in names:
            box = QCheckBox(zone.short)
            box.clicked.connect(self._choose_zones)
            self.boxes[zone.id] = box
        self._chosen = None
        self._zones.fill(self.boxes.values())

    def _choose_zones(self) -> None:
        chosen = {zone for zone, box in self.boxes.items() if box.isChecked()}
        self._chosen = chosen or None
        self.ask()

    def ask(self) -> None:
        """Ask as things stand."""
        session = self._session
        self._offer_zones(session.project)
        own = OwnFilter(self.own.text(), self.thinner.value(), self.passes.value())
        try:
            question = filters.ask(
                session.project, session.zone, session.shelf.paints(), self._chosen, self.together.isChecked(),
                own if own.of.strip() else None, self.kind, alone=self.under.alone,
            )  # fmt: skip
        except SepiaError as error:
            session.refused.emit(str(error))
            question = filters.ask(
                session.project,
                session.zone,
                session.shelf.paints(),
                self._chosen,
                self.together.isChecked(),
                kind=self.kind,
                alone=self.under.alone,
            )
        if question is not None:
            self.under.show_under(
                _(", ").join(dict.fromkeys(zone.under for zone in question.zones if zone.under))
            )
        if question is None:
            self._show_nothing()
            return
        shown = {zone.zone for zone in question.zones}
        for zone, box in self.boxes.items():
            box.setChecked(zone in shown)
        if question.same_as(self._asked) and self.answer:
            self._show_choice()
        else:
            self._asked = question
            session.jobs.start(self.kind, lambda _progress: filters.answer(question), self._show)

    def _show_nothing(self) -> None:
        self.answer, self._asked = None, None
        self._say(_("Nothing to glaze with yet.") if self.boxes else _("No zone to glaze yet."), "")
        self.rows.empty_words = (
            no_tints()
            if self.boxes
            else _(
                "A filter lies on paint. Say what is there already, or pin a recipe in Match. Or lay one by hand."
            )
        )
        self.rows.show_rows([], [])
        self.lay.setEnabled(False)
        self._strip.show_labs([None])
        self._numbers.fill(())
        for words in (self._strip_words, self._cup):
            words.setText("")
        self._contrast.fill(())
        self._show_needs(())
        self.shown.emit(None)

    def _all_here(self, answer: GlazeAnswer) -> bool:
        """Whether every zone that was judged on is still in the project."""
        here = {zone.id for zone in self._session.project.zones}
        return all(zone.zone in here for zone in answer.question.zones)

    def _show(self, answer: GlazeAnswer) -> None:
        if not self._all_here(answer):
            return  # a zone was removed meanwhile; the room has asked anew
        self.answer = answer
        question, goals = answer.question, answer.question.goals
        judged = [question.together or zone.target is not None for zone in question.zones]
        rows = []
        for one in answer.filters:
            glaze = one.glaze
            groups = tuple(
                (z.before, lab, goal) if seen else (z.before, lab)
                for z, lab, goal, seen in zip(question.zones, glaze.labs, goals, judged, strict=True)
            )
            figure = f"{glaze.de00_mean:.1f}" if any(judged) else ""
            rows.append(
                RampRow(
                    filters.name_of(question, glaze),
                    f"{ratio_words(glaze.thinner_parts)} ×{glaze.passes}",
                    groups,
                    figure,
                )
            )
        untouched = tuple(
            (z.before, z.before, goal) if seen else (z.before, z.before)
            for z, goal, seen in zip(question.zones, goals, judged, strict=True)
        )
        rows.append(RampRow(_("Leave it"), _("as painted"), untouched, f"{answer.none_mean:.1f}"))
        heads = [self._session.project.zone(zone.zone).short for zone in question.zones]
        self.rows.show_rows(rows, [*heads, _("mean ΔE00")], answer.best)
        self._show_choice()

    @property
    def chosen(self) -> Filtered | None:
        """The filter that is chosen; None where it is to be left."""
        answer = self.answer
        if answer is None or self.rows.current >= len(answer.filters):
            return None
        return answer.filters[self.rows.current]

    def _show_choice(self) -> None:
        answer = self.answer
        if answer is None:
            return
        one = self.chosen
        self.lay.setEnabled(one is not None)
        self.shown.emit(self.as_laid())
        if one is None:
            words = _("The zones stay as painted, {0} from their targets on average.").format(
                f"{answer.none_mean:.1f}"
            )
            gain = answer.none_mean - min(f.glaze.de00_mean for f in answer.filters)
            if answer.leave_it:
                words += " " + _("No filter on this shelf gains {0}; the best gains {1:.1f}.").format(
                    HELPS_DE00, max(0.0, gain)
                )
            self._say(_("Leave it."), words)
            self._passes_panel.set_remark("")
            self._strip.show_labs([answer.question.zones[0].before])
            self._numbers.fill(())
            self._strip_words.setText("")
            self._cup.setText(_("Nothing to mix."))
            self._contrast.fill(())
            self._show_needs(())
            return
        glaze = one.glaze
        name = filters.name_of(answer.question, glaze)
        times = {1: _("once"), 2: _("twice")}.get(glaze.passes, _("{0} times").format(glaze.passes))
        self._say(f"{name}, {ratio_words(glaze.thinner_parts)}, {times}.", self._gain_words(answer, one))
        self._show_passes(answer, one)
        thinned = cup_words(name, glaze.thinner_parts / (1 + glaze.thinner_parts))
        self._cup.setText(_("{0} Unload the brush; damp, not wet. Test it first.").format(thinned))
        self._contrast.fill(self._contrast_rows(answer, one))
        self._show_needs(self._need_lines(answer, one))

    def _gain_words(self, answer: GlazeAnswer, one: Filtered) -> str:
        """What the filter is worth, at which stage it is judged, and what contrast is left."""
        zones, better = answer.question.zones, answer.none_mean - one.glaze.de00_mean
        said = []
        if answer.question.together:
            said.append(_("Draws the zones together, {0} nearer on average.").format(f"{better:.1f}"))
        elif any(zone.target for zone in zones):
            words = ngettext(
                "Brings {0} zone nearer to its target, by {1}.",
                "Brings {0} zones nearer to their targets, by {1} on average.",
                len(zones),
            )
            if better < HELPS_DE00:
                words = (
                    _("Gains only {1}: better left.")
                    if better >= 0
                    else _("Leads {1} away from their targets: better left.")
                )
            stages = dict.fromkeys(zone.stage for zone in zones if zone.stage)
            said.append(words.format(len(zones), f"{abs(better):.1f}"))
            alone = answer.question.alone
            under = ", ".join(dict.fromkeys(zone.under for zone in zones if zone.under and not alone))
            where = ", ".join(_(STAGE_WORDS[stage]) for stage in stages)
            words = _("Compared {1}, with the target {0}.") if under else _("Compared with the target {0}.")
            said.append(words.format(where, under))
        if one.contrast_kept is not None:
            kept = 100 * one.contrast_kept
            said.append(
                _("Where the zones come nearest to each other, {0} % of their contrast is left.").format(
                    f"{kept:.0f}"
                )
            )
        return " ".join(said)

    def _show_passes(self, answer: GlazeAnswer, one: Filtered) -> None:
        first = [triple(lab) for lab in one.labs[:, 0]]
        zone = self._session.project.zone(answer.question.zones[0].zone)
        self._strip.show_labs(first, _("None to {0} passes on {1}").format(len(first) - 1, zone.name))
        self._numbers.fill([label(str(n), "second") for n in range(len(first))])
        self._passes_panel.set_remark(_("{0} chosen").format(one.glaze.passes))
        moved = [float(step) for step in one.moved[:, 0]]
        visible = next((n for n, step in enumerate(moved) if step >= JUST_SHOWS_DE00), None)
        said = [_("ΔE00 per pass: {0}.").format(", ".join(f"{step:.1f}" for step in moved[1:]))]
        if visible is None:
            said.append(_("You will hardly see it."))
        else:
            said.append(_("It shows from pass {0} on.").format(visible))
        if one.just_shows is not None:
            said.append(_("Mixed 1:{0} it first shows on the second pass.").format(one.just_shows))
        else:
            said.append(_("No thinning makes it show first on the second pass here."))
        said.append(_("From pass {0} it is a wash: it gathers at edges.").format(one.wash_from))
        self._strip_words.setText(" ".join(said))

    def _contrast_rows(self, answer: GlazeAnswer, one: Filtered) -> Iterator[Item]:
        goals = answer.question.goals
        for zone, after, goal in zip(answer.question.zones, one.glaze.labs, goals, strict=True):
            name = self._session.project.zone(zone.zone).short
            if zone.target is None and not answer.question.together:
                figures = _("moves {0}").format(f"{float(delta_e00(zone.before, after)):.1f}")
            else:
                figures = f"{float(delta_e00(zone.before, goal)):.1f} → {float(delta_e00(after, goal)):.1f}"
            yield row(label(name), None, label(figures))
            yield rule()

    def _need_lines(self, answer: GlazeAnswer, one: Filtered) -> list[str]:
        zones = answer.question.zones
        flat = [self._session.project.zone(zone.zone).short for zone in zones if zone.stains]
        known = {paint.id: paint for paint in answer.question.paints}
        paint = known.get(one.glaze.paint) or answer.question.own_paint
        lines = list(tint_cautions(paint, self.kind)) if paint else []
        if flat:
            lines.insert(
                0, _("A satin or gloss coat below: flat paint stains ({0}).").format(", ".join(flat))
            )
        return lines

    def thin_for_the_second_pass(self) -> None:
        """Take the chosen filter as one's own, thinned so that it first shows on the second pass."""
        one, answer = self.chosen, self.answer
        if one is None or answer is None:
            return
        if one.just_shows is None:
            self._session.refused.emit(
                _("On these zones it shows on the first pass however thin, or never: no thinning does that.")
            )
            return
        name = filters.name_of(answer.question, one.glaze)
        self.own.setText(name)
        for box, value in ((self.thinner, one.just_shows), (self.passes, 2)):
            with QSignalBlocker(box):
                box.setValue(value)
        self.ask()

    def as_laid(self) -> Project | None:
        """The document with the chosen filter on its zones; as it is where none is chosen."""
        one, answer = self.chosen, self.answer
        if one is None or answer is None:
            return self._session.project if self._session.zone else None
        zones = [zone.zone for zone in answer.question.zones]
        return lay_filter(
            self._session.project, zones, *filters.mix_of(answer.question, one.glaze), self.kind
        )

    def lay_chosen(self) -> None:
        """Lay the chosen filter on every zone it was judged on."""
        one, answer = self.chosen, self.answer
        if one is None or answer is None or not self._all_here(answer):
            return
        zones = [zone.zone for zone in answer.question.zones]
        laid = filters.mix_of(answer.question, one.glaze)
        name = ngettext("Lay a filter on {0} zone", "Lay a filter on {0} zones", len(zones))
        self._session.edit(name.format(len(zones)), lambda p: lay_filter(p, zones, *laid, self.kind))
