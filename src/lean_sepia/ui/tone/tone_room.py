"""Tone: the faded colour through a lightener, and five tones for light and shade."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from PySide6.QtWidgets import QHBoxLayout, QLabel, QVBoxLayout

from lean_sepia.answers.questions import base_parts
from lean_sepia.answers.strata import final_sheen
from lean_sepia.answers.targets import Target
from lean_sepia.arrays import triple
from lean_sepia.colour.words import difference
from lean_sepia.document import edits
from lean_sepia.errors import SepiaError
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.saunderson import SHEEN
from lean_sepia.recipe.choice import base_paints
from lean_sepia.recipe.fade import Lightener, base_mixture, choose_lighteners, ladder
from lean_sepia.recipe.tone_ladder import Tone, darkener, tone_ladder
from lean_sepia.ui.kit.colour_plane import ColourPlane
from lean_sepia.ui.kit.panel import Panel, button, clear, count_box, label, row, rule
from lean_sepia.ui.kit.plane_content import Point, Way
from lean_sepia.ui.kit.ramp_rows import RampRow, RampRows
from lean_sepia.ui.kit.swatch import Fields, Lab
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session

_SHOWN = 5
_RAMP = 5
_TURNS_DEG = 6.0


@dataclass(frozen=True, eq=False)
class Answer:
    """Lighteners for one zone, their ramps, and the tones with the chosen lightener."""

    zone: str
    base_lab: Lab
    target: Target
    lighteners: tuple[Lightener, ...]
    ramps: tuple[tuple[Lab, ...], ...]
    tones: tuple[tuple[Tone, ...], ...]


def ask(
    paints: list[Paint], zone: str, parts: list[tuple[str, int]], target: Target, laying: Laying
) -> Answer:
    """Choose lighteners and lay out their ramps; runs in a job."""
    known = {paint.id: paint for paint in paints}
    base = base_mixture(paints, parts)
    found = choose_lighteners(paints, parts, target.lab, laying=laying)[:_SHOWN]
    ramps, tones = [], []
    for option in found:
        share = option.lightener_parts / (option.base_parts + option.lightener_parts)
        labs = ladder(base, known[option.paint], np.linspace(0, share, _RAMP), laying)
        ramps.append(tuple(triple(lab) for lab in labs))
        tones.append(tuple(tone_ladder(base, known[option.paint], darkener(paints, base), laying=laying)))
    base_lab = triple(laying.lab(base.K, base.S, np.array(base.g)))
    return Answer(zone, base_lab, target, tuple(found), tuple(ramps), tuple(tones))


class ToneRoom(RoomPage):
    """Rows of lighteners; the chosen one is laid as the zone's fade."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.answer: Answer | None = None
        self._asked: tuple | None = None
        self._statement, self._remark = self.headline()
        self.rows = RampRows()
        self.rows.foot = self.tr("Left to right: the base, lightened in steps, then what the photo shows.")
        self.rows.chosen.connect(lambda _index: self._show_choice())
        self.centre.addWidget(self.rows, 1)
        self.passes, self.thinner = (
            count_box(1, 8, 2, self.tr("Coats")),
            count_box(0, 95, 80, self.tr("Thinner in per cent")),
        )
        self.lay = button(
            self.tr("Lay this fade"), "main", self.tr("The zone gets a fade coat mixed from its base")
        )
        self.lay.clicked.connect(self.lay_chosen)
        self._mix_words = label("", "", wrap=True)
        line = row(
            self._mix_words, self.passes, label(self.tr("coats,"), "second"), self.thinner,
            label(self.tr("% thinner"), "second"), 6, self.lay, spacing=6,
        )  # fmt: skip
        line.setStretch(0, 1)
        self.centre.addLayout(line)
        self._tones_panel = Panel(self.tr("Light and shade, five tones"), self.tr("share of the area"))
        self._tones = Fields(margin=0, height=58)
        self._tones.setMaximumHeight(58)
        self._tone_words = QHBoxLayout()
        self._tones_panel.add(self._tones)
        self._tones_panel.add(self._tone_words)
        self.centre.addWidget(self._tones_panel)
        plane = Panel(self.tr("Where each lightener leads"), "a*b*")
        self._plane = ColourPlane(self.session.jobs, lightness=False)
        self._plane_words = label("", "second", wrap=True)
        self._plane.setFixedHeight(280)
        plane.add(self._plane)
        plane.add(self._plane_words)
        self.side.addWidget(plane)
        self._why = Panel(self.tr("Why this one"))
        self._why_words = label("", "", wrap=True)
        self._turns = QVBoxLayout()
        self._turns.setSpacing(4)
        self._why.add(self._why_words)
        self._why.body.addSpacing(6)
        self._why.add(self._turns)
        self._why.body.addStretch(1)
        self.side.addWidget(self._why, 1)
        session.shelf_changed.connect(self._mark)

    def refresh(self) -> None:
        zone = self.session.zone
        cut = self.session.cut(zone) if zone else None
        try:
            parts = base_parts(self.session.project, zone) if zone else []
        except SepiaError:
            parts = []
        if cut is None or not parts or cut.targets.exposed is None:
            self._show_nothing(bool(parts))
            return
        g = final_sheen(self.session.project.coats_of(zone))
        varnish = min(("flat", "satin", "gloss"), key=lambda name: abs(SHEEN[name] - g))
        paints = base_paints(self.session.shelf.paints())
        question = (zone, tuple(parts), cut.targets.exposed, varnish, id(self.session.shelf.paints()))
        if question == self._asked and self.answer:
            self._show_choice()
            return
        self._asked = question
        target = cut.targets.exposed
        self.session.jobs.start(
            "tone", lambda _p: ask(paints, zone, parts, target, Laying(varnish=varnish)), self._show
        )

    def _show_nothing(self, matched: bool) -> None:
        self.answer, self._asked = None, None
        self._statement.setText(self.tr("Nothing to fade yet."))
        self._remark.setText("")
        self.rows.empty_words = (
            self.tr(
                "Take a sample of a faded place in Evidence: its difference from the sheltered one decides the lightener."
            )
            if matched
            else self.tr(
                "Pin a base recipe to this zone in Match first. Its fade is mixed from the same cup."
            )
        )
        self.rows.show_rows([], [])
        self._plane.show_colours([])
        self._plane_words.setText("")
        self._why_words.setText("")
        clear(self._turns)
        self._mix_words.setText("")
        self._tones_panel.hide()
        self.lay.setEnabled(False)

    def _show(self, answer: Answer) -> None:
        if answer.zone != self.session.zone:
            return
        self.answer = answer
        paints = {paint.id: paint for paint in self.session.shelf.paints()}
        rows = []
        for option, ramp in zip(answer.lighteners, answer.ramps, strict=True):
            whole = option.base_parts + option.lightener_parts
            rows.append(
                RampRow(
                    paints[option.paint].name,
                    self.tr("{0} in {1}").format(option.lightener_parts, whole),
                    ((*ramp, answer.target.lab),),
                    f"{option.de00:.1f}",
                    self._verdict(option),
                )
            )
        self.rows.show_rows(rows, [self.tr("Base"), "ΔE₀₀"])
        self._show_choice()

    def _verdict(self, option: Lightener) -> str:
        shift = option.hue_shift_deg
        if shift is not None and abs(shift) > _TURNS_DEG and self.answer:
            reddish = self.answer.target.lab[1] > 8 and self.answer.target.lab[2] > 0
            if reddish and shift < 0:
                return self.tr("turns pink by {0}°").format(f"{abs(shift):.0f}")
            return self.tr("turns by {0}°").format(f"{abs(shift):.0f}")
        sure = self.answer.target.de00_90 if self.answer else None
        if sure is not None and option.de00 <= sure:
            return self.tr("stays in the range")
        return self.tr("hue kept")

    def _show_choice(self) -> None:
        answer = self.answer
        if answer is None:
            return
        self._tones_panel.show()
        self.lay.setEnabled(True)
        paints = {paint.id: paint for paint in self.session.shelf.paints()}
        option = answer.lighteners[self.rows.current]
        fade = difference(answer.base_lab, answer.target.lab)
        self._statement.setText(
            self.tr("Faded: {0} than the base.").format(fade.words)
            if fade.de00 > 0.3
            else self.tr("Hardly faded at all.")
        )
        self._remark.setText(
            self.tr("From {0}; ΔE₀₀ {1} lie between base and faded.").format(
                answer.target.source, f"{fade.de00:.1f}"
            )
        )
        name = paints[option.paint].name
        self._mix_words.setText(
            self.tr("{0} parts of the base cup : {1} {2}").format(
                option.base_parts, option.lightener_parts, name
            )
        )
        worst = max(answer.lighteners, key=lambda other: abs(other.hue_shift_deg or 0))
        ways = [
            Way(
                ramp, paints[other.paint].name if other in (option, worst) else "", index == self.rows.current
            )
            for index, (other, ramp) in enumerate(zip(answer.lighteners, answer.ramps, strict=True))
        ]
        radius = answer.target.de00_90 or 0.0
        self._plane.show_colours(
            [
                Point(answer.base_lab, "round", self.tr("base")),
                Point(answer.target.lab, "square", self.tr("faded")),
            ],
            ways,
            (answer.target.lab, radius, radius) if radius else None,
        )
        self._plane_words.setText(
            self.tr("Round: the base. Square: the faded sample. Thick: the chosen lightener.")
        )
        miss = difference(answer.target.lab, option.lab)
        self._why_words.setText(
            self.tr("With {0} the fade comes out {1}.").format(name, miss.words)
            if miss.de00 > 0.3
            else self.tr("With {0} the fade is the same to the eye.").format(name)
        )
        self._show_turns(answer, paints)
        self._show_tones(answer.tones[self.rows.current], paints)

    def _show_turns(self, answer: Answer, paints: dict[str, Paint]) -> None:
        """How far each lightener turns the hue, the chosen one in bold."""
        clear(self._turns)
        self._turns.addLayout(
            row(label(self.tr("turns the hue by"), "second"), None, label(self.tr("degrees"), "second"))
        )
        for index, option in enumerate(answer.lighteners):
            shift = option.hue_shift_deg
            figure = self.tr("no hue") if shift is None else f"{shift:+.0f}°".replace("-", "−")
            kind = "strong" if index == self.rows.current else ""
            self._turns.addWidget(rule())
            self._turns.addLayout(row(label(paints[option.paint].name, kind), None, label(figure, kind)))

    def _show_tones(self, tones: tuple[Tone, ...], paints: dict[str, Paint]) -> None:
        self._tones.show_labs([tone.lab for tone in tones])
        clear(self._tone_words)
        for tone in tones:
            added = paints[tone.added].name if tone.added else ""
            words = self.tr("base") if not tone.added else f"{tone.base_parts} : {tone.added_parts} {added}"
            cell = QVBoxLayout()
            cell.setSpacing(1)
            for text, kind in (
                (words, ""),
                (f"{100 * tone.area_share:.0f} %", "second"),
            ):
                line: QLabel = label(text, kind, wrap=True)
                cell.addWidget(line)
            cell.addStretch(1)
            self._tone_words.addLayout(cell, 1)

    def lay_chosen(self) -> None:
        """Lay the chosen fade on the zone."""
        if self.answer is None:
            return
        option, zone = self.answer.lighteners[self.rows.current], self.answer.zone
        paints, passes, thinner = self.session.shelf.paints(), self.passes.value(), self.thinner.value() / 100
        self.session.edit(
            self.tr("Fade {0}").format(self.session.project.zone(zone).name),
            lambda p: edits.lay_coat(
                p, zone, "fade", paints=paints, parts=[(option.paint, option.lightener_parts)], passes=passes,
                thinner_share=thinner, basis_parts=option.base_parts,
            ),
        )  # fmt: skip
