"""Glaze: one filter over several zones, judged on all of them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from PySide6.QtWidgets import QVBoxLayout

from lean_sepia.answers.questions import glaze_pairs
from lean_sepia.arrays import triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document import edits
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.paint import Paint
from lean_sepia.plan.cautions import cautions
from lean_sepia.plan.step import PAINT_COATS, VARNISHES, Material, PlanStep
from lean_sepia.recipe.glaze import MOST_PASSES, Glaze, choose_glazes, glaze_film, glaze_labs
from lean_sepia.ui.kit.panel import Panel, button, clear, counted, label, row, rule
from lean_sepia.ui.kit.ramp_rows import RampRow, RampRows
from lean_sepia.ui.kit.swatch import Fields, Lab
from lean_sepia.ui.shell.advice_line import Diamond
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session

_SHOWN, _MOST_ZONES = 4, 4
VISIBLE_DE00 = 1.0


@dataclass(frozen=True, eq=False)
class Answer:
    """Filters for the zones that can be judged, and each pass of each on every zone."""

    pairs: tuple[tuple[str, Lab, float, Lab], ...]
    glazes: tuple[Glaze, ...]
    passes: tuple[np.ndarray, ...]
    none_mean: float


def ask(paints: list[Paint], pairs: list[tuple[str, Lab, float, Lab]]) -> Answer:
    """Choose filters; runs in a job."""
    known = {paint.id: paint for paint in paints}
    glazes = choose_glazes(paints, [(before, g) for _, before, g, _ in pairs], [goal for *_, goal in pairs])[
        :_SHOWN
    ]
    grounds = [internal_from_lab(before, g) for _, before, g, _ in pairs]
    passes = tuple(
        glaze_labs(
            known[g.paint],
            grounds,
            np.array([glaze_film(g.thinner_parts, n) for n in range(MOST_PASSES + 1)]),
        )
        for g in glazes
    )
    none = float(np.mean([delta_e00(before, goal) for _, before, _, goal in pairs]))
    return Answer(tuple(pairs), tuple(glazes), passes, none)


class GlazeRoom(RoomPage):
    """A matrix of filters and zones; the chosen filter is laid on all of them in one step each."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.answer: Answer | None = None
        self._asked: tuple | None = None
        self._statement, self._remark = self.headline()
        self.rows = RampRows()
        self.rows.foot = self.tr("In each field, left to right: before, after, what the photo shows.")
        self.rows.chosen.connect(lambda _index: self._show_choice())
        self.centre.addWidget(self.rows, 1)
        passes = Panel(self.tr("Passes"))
        self._passes_panel = passes
        self._strip = Fields(margin=6, height=60)
        self._strip.setMaximumHeight(60)
        self._strip_words = label("", "second", wrap=True)
        passes.add(self._strip)
        self._strip_numbers = row(*(label(str(n), "second") for n in range(MOST_PASSES + 1)))
        passes.add(self._strip_numbers)
        passes.add(self._strip_words)
        self.side.addWidget(passes)
        mix = Panel(self.tr("Mix"))
        self._mix, self._mix_detail = label("", "title", wrap=True), label("", "second", wrap=True)
        mix.add(self._mix)
        mix.add(self._mix_detail)
        self.side.addWidget(mix)
        contrast = Panel(self.tr("Difference from the photo"), "ΔE₀₀")
        self._contrast = QVBoxLayout()
        self._contrast.setSpacing(4)
        contrast.add(self._contrast)
        self.side.addWidget(contrast)
        needs = Panel(self.tr("Needs"))
        self._needs = QVBoxLayout()
        self._needs.setSpacing(6)
        needs.add(self._needs)
        self.side.addWidget(needs)
        self.side.addStretch(1)
        self.lay = button(self.tr("Lay this filter"), "main", self.tr("Every zone shown gets a filter coat"))
        self.lay.clicked.connect(self.lay_chosen)
        self.centre.addLayout(row(None, self.lay))
        session.shelf_changed.connect(self._mark)

    def refresh(self) -> None:
        pairs = glaze_pairs(self.session.project, self.session.cuts())
        pairs.sort(key=lambda pair: pair[0] != self.session.zone)
        pairs = pairs[:_MOST_ZONES]
        wet = [paint for paint in self.session.shelf.paints() if paint.mixes]
        oils = [paint for paint in wet if paint.medium in ("oil", "enamel")] or wet
        if not pairs or not oils:
            self._show_nothing()
            return
        question = (tuple(pairs), id(self.session.shelf.paints()))
        if question == self._asked and self.answer:
            self._show_choice()
            return
        self._asked = question
        self.session.jobs.start("glaze", lambda _p: ask(oils, pairs), self._show)

    def _show_nothing(self) -> None:
        self.answer, self._asked = None, None
        self._statement.setText(self.tr("No zone to glaze yet."))
        self._remark.setText("")
        self.rows.empty_words = self.tr(
            "A filter is judged on zones that have a target. Take samples in Evidence and pin recipes in Match."
        )
        self.rows.show_rows([], [])
        self.lay.setEnabled(False)
        self._strip.show_labs([None])
        for words in (self._strip_words, self._mix, self._mix_detail):
            words.setText("")
        clear(self._contrast)
        clear(self._needs)

    def _show(self, answer: Answer) -> None:
        self.answer = answer
        paints = {paint.id: paint for paint in self.session.shelf.paints()}
        rows = []
        for glaze in answer.glazes:
            groups = tuple(
                (before, glaze.labs[index], goal) for index, (_, before, _, goal) in enumerate(answer.pairs)
            )
            rows.append(
                RampRow(
                    paints[glaze.paint].name,
                    f"1:{glaze.thinner_parts} ×{glaze.passes}",
                    groups,
                    f"{glaze.de00_mean:.1f}",
                )
            )
        untouched = tuple((before, before, goal) for _, before, _, goal in answer.pairs)
        rows.append(RampRow(self.tr("None"), self.tr("as painted"), untouched, f"{answer.none_mean:.1f}"))
        heads = [self.session.project.zone(zone).short for zone, *_ in answer.pairs]
        helps = answer.none_mean - answer.glazes[0].de00_mean > 0.05
        self.rows.show_rows(rows, [*heads, self.tr("mean ΔE₀₀")], 0 if helps else len(rows) - 1)
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
            self._statement.setText(self.tr("No filter."))
            self._remark.setText(
                self.tr("The zones stay as painted, {0} from the photos in the mean.").format(
                    f"{answer.none_mean:.1f}"
                )
            )
            self._passes_panel.set_remark("")
            self._strip.show_labs([answer.pairs[0][1]])
            self._strip_words.setText("")
            self._mix.setText(self.tr("Nothing to mix"))
            self._mix_detail.setText("")
            clear(self._contrast)
            clear(self._needs)
            return
        name = paints[chosen.paint].name
        times = {1: self.tr("once"), 2: self.tr("twice")}.get(
            chosen.passes, self.tr("{0} times").format(chosen.passes)
        )
        self._statement.setText(f"{name}, 1:{chosen.thinner_parts}, {times}.")
        better = answer.none_mean - chosen.de00_mean
        self._remark.setText(
            self.tr("Brings {0} nearer to what the photos show, by {1} in the mean.").format(
                counted(len(answer.pairs), self.tr("1 zone"), self.tr("{0} zones")), f"{better:.1f}"
            )
            if better > 0.05
            else self.tr("No filter on this shelf brings these zones nearer to the photos.")
        )
        self._show_passes(answer, index, chosen)
        self._mix.setText(self.tr("1 drop {0} : {1} drops thinner").format(name, chosen.thinner_parts))
        share = 100 * chosen.thinner_parts / (1 + chosen.thinner_parts)
        self._mix_detail.setText(
            self.tr(
                "{0} % thinner, {1} % colour. Unload the brush; damp, not wet. Try it on the test piece first."
            ).format(f"{share:.0f}", f"{100 - share:.0f}")
        )
        self._show_contrast(answer, chosen)
        self._show_needs(answer, paints[chosen.paint])

    def _show_passes(self, answer: Answer, index: int, chosen: Glaze) -> None:
        first = [triple(lab) for lab in answer.passes[index][:, 0]]
        self._strip.show_labs(
            first, self.tr("None to {0} passes on {1}").format(MOST_PASSES, answer.pairs[0][0])
        )
        self._passes_panel.set_remark(self.tr("{0} of {1}").format(chosen.passes, MOST_PASSES))
        moved = [float(delta_e00(first[0], lab)) for lab in first]
        visible = next((n for n, step in enumerate(moved) if step >= VISIBLE_DE00), None)
        after_one = self.tr("After one pass {0}: {1}.").format(
            f"{moved[1]:.1f}",
            self.tr("you will hardly see it") if moved[1] < VISIBLE_DE00 else self.tr("it shows"),
        )
        later = "" if visible in (None, 1) else self.tr(" It shows from pass {0} on.").format(visible)
        self._strip_words.setText(after_one + later)

    def _show_contrast(self, answer: Answer, chosen: Glaze) -> None:
        clear(self._contrast)
        for (zone, before, _, goal), after in zip(answer.pairs, chosen.labs, strict=True):
            name = self.session.project.zone(zone).short
            figures = f"{float(delta_e00(before, goal)):.1f} → {float(delta_e00(after, goal)):.1f}"
            self._contrast.addLayout(row(label(name), None, label(figures)))
            self._contrast.addWidget(rule())

    def _show_needs(self, answer: Answer, paint: Paint) -> None:
        clear(self._needs)
        project = self.session.project
        flat = [
            project.zone(zone).short
            for zone, *_ in answer.pairs
            if _sheen_below(project.coats_of(zone)) == "flat"
        ]
        lines = []
        if flat:
            lines.append(
                self.tr("A satin or gloss coat below: flat paint stains ({0}).").format(", ".join(flat))
            )
        step = PlanStep(
            id="x", kind="filter", hands_on_min=0, material=Material(medium=paint.medium), application="brush"
        )
        lines += list(cautions(step))
        for words in lines:
            self._needs.addLayout(
                row(Diamond(size=12, mark=""), label(words, "second", wrap=True), spacing=7)
            )

    def lay_chosen(self) -> None:
        """Lay the chosen filter on every zone it was judged on."""
        answer = self.answer
        if answer is None or self.rows.current >= len(answer.glazes):
            return
        glaze, paints = answer.glazes[self.rows.current], self.session.shelf.paints()
        matched = [zone for zone, *_ in answer.pairs if self.session.cut(zone).fresh is not None]

        def change(project):
            for zone in matched:
                project = edits.lay_coat(
                    project, zone, "filter", paints=paints, parts=[(glaze.paint, 1)], passes=glaze.passes,
                    thinner_share=glaze.thinner_parts / (1 + glaze.thinner_parts),
                )  # fmt: skip
            return project

        if not matched:
            self.session.refused.emit(self.tr("A filter needs paint below it: pin a recipe in Match first."))
            return
        self.session.edit(self.tr("Lay a filter on {0} zones").format(len(matched)), change)


def _sheen_below(coats) -> str:
    """Sheen of what a filter would lie on."""
    for coat in reversed(coats):
        if coat.kind in VARNISHES and coat.kind != "matte-coat":
            return VARNISHES[coat.kind]
        if coat.kind in PAINT_COATS:
            return coat.finish
    return "flat"
