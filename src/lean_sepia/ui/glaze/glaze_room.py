"""Glaze: one filter over several zones, judged on all of them."""

from __future__ import annotations

from collections.abc import Iterator

from lean_sepia.answers.glazing import filters
from lean_sepia.answers.glazing.filters import GlazeAnswer, GlazeQuestion, glaze_cautions
from lean_sepia.arrays import triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.edits.coats import lay_filter
from lean_sepia.document.edits.mixes import Manner, Mix
from lean_sepia.language import N_, _, ngettext
from lean_sepia.paint.paint import Paint
from lean_sepia.recipe.tints.glaze import MOST_PASSES, Glaze
from lean_sepia.ui.kit.diamond import Diamond
from lean_sepia.ui.kit.panel import Panel, button, label, row, rule
from lean_sepia.ui.kit.plots.ramp_rows import RampRow, RampRows
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Fields
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session

_STAGE_WORDS = {"seen": N_("as a whole"), "exposed": N_("as it is faded"), "fresh": N_("as it was fresh")}
VISIBLE_DE00 = 1.0


class GlazeRoom(RoomPage):
    """A matrix of filters and zones; the chosen filter is laid on all of them in one step each."""

    needs_paints = True

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.answer: GlazeAnswer | None = None
        self._asked: GlazeQuestion | None = None
        self._statement, self._remark = self.headline()
        self.rows = RampRows()
        self.rows.foot = _("In each field, left to right: before, after, the target.")
        self.rows.chosen.connect(lambda _index: self._show_choice())
        self.centre.addWidget(self.rows, 1)
        passes = Panel(_("Passes"))
        self._passes_panel = passes
        self._strip = Fields(margin=6, height=60)
        self._strip.setMaximumHeight(60)
        self._strip_words = label("", "second", wrap=True)
        passes.add(self._strip)
        self._strip_numbers = row(*(label(str(n), "second") for n in range(MOST_PASSES + 1)))
        passes.add(self._strip_numbers)
        passes.add(self._strip_words)
        self.side.addWidget(passes)
        mix = Panel(_("Mix"))
        self._mix, self._mix_detail = label("", "title", wrap=True), label("", "second", wrap=True)
        mix.add(self._mix)
        mix.add(self._mix_detail)
        self.side.addWidget(mix)
        contrast = Panel(_("Difference from the target"), "ΔE00")
        self._contrast = Rows(spacing=4)
        contrast.add(self._contrast)
        self.side.addWidget(contrast)
        needs = Panel(_("Needs"))
        self._needs = Rows(spacing=6)
        needs.add(self._needs)
        self.side.addWidget(needs)
        self.side.addStretch(1)
        self.lay = button(_("Lay this filter"), "main", _("Every zone shown gets a filter coat"))
        self.lay.clicked.connect(self.lay_chosen)
        self.centre.addLayout(row(None, self.by_hand("filter"), self.lay, spacing=6))
        session.shelf_changed.connect(self._mark)

    def refresh(self) -> None:
        session = self.session
        question = filters.ask(session.project, session.cuts(), session.zone, session.shelf.paints())
        if question is None:
            self._show_nothing()
        elif question.same_as(self._asked) and self.answer:
            self._show_choice()
        else:
            self._asked = question
            session.jobs.start("glaze", lambda _progress: filters.answer(question), self._show)

    def _show_nothing(self) -> None:
        self.answer, self._asked = None, None
        self._statement.setText(_("No zone to glaze yet."))
        self._remark.setText("")
        self.rows.empty_words = _(
            "A filter lies on paint and is judged by a target. Say what is there already, or pin a recipe in Match; its target may be sampled or stated. Or lay one by hand."
        )
        self.rows.show_rows([], [])
        self.lay.setEnabled(False)
        self._strip.show_labs([None])
        for words in (self._strip_words, self._mix, self._mix_detail):
            words.setText("")
        self._contrast.fill(())
        self._needs.fill(())

    def _all_here(self, answer: GlazeAnswer) -> bool:
        """Whether every zone that was judged on is still in the project."""
        here = {zone.id for zone in self.session.project.zones}
        return all(zone.zone in here for zone in answer.question.zones)

    def _show(self, answer: GlazeAnswer) -> None:
        if not self._all_here(answer):
            return  # a zone was removed meanwhile; the room has asked anew
        self.answer = answer
        paints = {paint.id: paint for paint in self.session.shelf.paints()}
        zones = answer.question.zones
        rows = [
            RampRow(
                paints[one.paint].name,
                f"1:{one.thinner_parts} ×{one.passes}",
                tuple((z.before, lab, z.target.lab) for z, lab in zip(zones, one.labs, strict=True)),
                f"{one.de00_mean:.1f}",
            )
            for one in answer.glazes
        ]
        untouched = tuple((zone.before, zone.before, zone.target.lab) for zone in zones)
        rows.append(RampRow(_("None"), _("as painted"), untouched, f"{answer.none_mean:.1f}"))
        heads = [self.session.project.zone(zone.zone).short for zone in zones]
        helps = answer.none_mean - answer.glazes[0].de00_mean > 0.05
        self.rows.show_rows(rows, [*heads, _("mean ΔE00")], 0 if helps else len(rows) - 1)
        self._show_choice()

    def _show_choice(self) -> None:
        answer = self.answer
        if answer is None:
            return
        index = self.rows.current
        chosen = answer.glazes[index] if index < len(answer.glazes) else None
        self.lay.setEnabled(chosen is not None)
        paints = {paint.id: paint for paint in self.session.shelf.paints()}
        if chosen is None:
            self._statement.setText(_("No filter."))
            self._remark.setText(
                _("The zones stay as painted, {0} from their targets in the mean.").format(
                    f"{answer.none_mean:.1f}"
                )
            )
            self._passes_panel.set_remark("")
            self._strip.show_labs([answer.question.zones[0].before])
            self._strip_words.setText("")
            self._mix.setText(_("Nothing to mix"))
            self._mix_detail.setText("")
            self._contrast.fill(())
            self._needs.fill(())
            return
        name = paints[chosen.paint].name
        times = {1: _("once"), 2: _("twice")}.get(chosen.passes, _("{0} times").format(chosen.passes))
        self._statement.setText(f"{name}, 1:{chosen.thinner_parts}, {times}.")
        better = answer.none_mean - chosen.de00_mean
        self._remark.setText(
            self._gain_words(answer, better)
            if better > 0.05
            else _("No filter on this shelf brings these zones nearer to their targets.")
        )
        self._show_passes(answer, index, chosen)
        self._mix.setText(_("1 drop {0} : {1} drops thinner").format(name, chosen.thinner_parts))
        share = 100 * chosen.thinner_parts / (1 + chosen.thinner_parts)
        self._mix_detail.setText(
            _(
                "{0} % thinner, {1} % colour. Unload the brush; damp, not wet. Try it on the test piece first."
            ).format(f"{share:.0f}", f"{100 - share:.0f}")
        )
        self._contrast.fill(self._contrast_rows(answer, chosen))
        self._needs.fill(self._need_rows(answer, paints[chosen.paint]))

    def _gain_words(self, answer: GlazeAnswer, better: float) -> str:
        """What the filter is worth, and which stage it is judged at: after the filter, before any wear on it."""
        zones = answer.question.zones
        said = ngettext(
            "Brings {0} zone nearer to its target, by {1}.",
            "Brings {0} zones nearer to their targets, by {1} in the mean.",
            len(zones),
        ).format(len(zones), f"{better:.1f}")
        stages = dict.fromkeys(_STAGE_WORDS[zone.stage] for zone in zones)
        against = _(" Compared right after the filter with the target {0}.")
        return said + against.format(", ".join(_(words) for words in stages))

    def _show_passes(self, answer: GlazeAnswer, index: int, chosen: Glaze) -> None:
        first = [triple(lab) for lab in answer.passes[index][:, 0]]
        zone = self.session.project.zone(answer.question.zones[0].zone)
        self._strip.show_labs(first, _("None to {0} passes on {1}").format(MOST_PASSES, zone.name))
        self._passes_panel.set_remark(_("{0} of {1}").format(chosen.passes, MOST_PASSES))
        moved = [float(delta_e00(first[0], lab)) for lab in first]
        visible = next((n for n, step in enumerate(moved) if step >= VISIBLE_DE00), None)
        after_one = _("After one pass {0}: {1}.").format(
            f"{moved[1]:.1f}", _("you will hardly see it") if moved[1] < VISIBLE_DE00 else _("it shows")
        )
        later = "" if visible in (None, 1) else _(" It shows from pass {0} on.").format(visible)
        self._strip_words.setText(after_one + later)

    def _contrast_rows(self, answer: GlazeAnswer, chosen: Glaze) -> Iterator[Item]:
        for zone, after in zip(answer.question.zones, chosen.labs, strict=True):
            name, goal = self.session.project.zone(zone.zone).short, zone.target.lab
            figures = f"{float(delta_e00(zone.before, goal)):.1f} → {float(delta_e00(after, goal)):.1f}"
            yield row(label(name), None, label(figures))
            yield rule()

    def _need_rows(self, answer: GlazeAnswer, paint: Paint) -> Iterator[Item]:
        flat = [self.session.project.zone(zone.zone).short for zone in answer.question.zones if zone.stains]
        lines = list(glaze_cautions(paint))
        if flat:
            said = _("A satin or gloss coat below: flat paint stains ({0}).")
            lines.insert(0, said.format(", ".join(flat)))
        for words in lines:
            yield row(Diamond(size=12, mark=""), label(words, "second", wrap=True), spacing=7)

    def lay_chosen(self) -> None:
        """Lay the chosen filter on every zone it was judged on."""
        answer = self.answer
        if answer is None or self.rows.current >= len(answer.glazes) or not self._all_here(answer):
            return
        chosen = answer.glazes[self.rows.current]
        zones = [zone.zone for zone in answer.question.zones]
        mix = Mix.of(self.session.shelf.paints(), [(chosen.paint, 1)])
        manner = Manner(chosen.passes, chosen.thinner_parts / (1 + chosen.thinner_parts))
        name = ngettext("Lay a filter on {0} zone", "Lay a filter on {0} zones", len(zones))
        self.session.edit(name.format(len(zones)), lambda p: lay_filter(p, zones, mix, manner))
