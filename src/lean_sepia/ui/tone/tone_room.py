"""Tone: the faded colour through a lightener, and five tones for light and shade."""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtWidgets import QLabel, QVBoxLayout

from lean_sepia.answers.match import usable_paints
from lean_sepia.answers.toning import fading
from lean_sepia.answers.toning.fading import (
    FADE_COATS,
    FADE_THINNER,
    ToneAnswer,
    ToneQuestion,
    fade_coat,
    faded_target,
    wished_target,
)
from lean_sepia.colour.words import difference
from lean_sepia.document.edits.coats import lay_fade
from lean_sepia.document.edits.mixes import Manner
from lean_sepia.language import _, signed
from lean_sepia.paint.paint import Paint
from lean_sepia.recipe.fades.fade import Lightener
from lean_sepia.recipe.fades.tone_ladder import Tone
from lean_sepia.ui.kit.panel import Panel, button, count_box, holder, label, row, rule
from lean_sepia.ui.kit.plots.colour_plane import ColourPlane
from lean_sepia.ui.kit.plots.plane_content import Point, Way
from lean_sepia.ui.kit.plots.ramp_rows import RampRow, RampRows
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Fields
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session

_TURNS_DEG = 6.0
_USUAL_WISH = 6  # L*, where no faded place was sampled (practice)


class ToneRoom(RoomPage):
    """Rows of lighteners; the chosen one is laid as the zone's fade."""

    needs_paints = True

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.answer: ToneAnswer | None = None
        self._asked: ToneQuestion | None = None
        self._zone = ""
        self._statement, self._remark = self.headline()
        self.rows = RampRows()
        self.rows.foot = _("Left to right: the base as it lies, faded in steps, then the faded colour.")
        self.rows.chosen.connect(lambda _index: self._show_choice())
        self.lighter = count_box(-30, 40, _USUAL_WISH, _("Lighter by so many L*"))
        self.lighter.valueChanged.connect(lambda _value: self._ask())
        self._wish = holder(
            row(
                label(_("No faded sample. Make it lighter by"), "second"),
                self.lighter,
                label("L*", "second"),
                None,
            )
        )
        self.centre.addWidget(self._wish)
        self.centre.addWidget(self.rows, 1)
        self.passes = count_box(1, 8, FADE_COATS, _("Coats"))
        self.thinner = count_box(0, 95, round(100 * FADE_THINNER), _("Thinner in per cent"))
        for box in (self.passes, self.thinner):
            box.valueChanged.connect(lambda _value: self._ask())
        self.lay = button(_("Lay this fade"), "main", _("The zone gets a fade coat mixed from its base"))
        self.lay.clicked.connect(self.lay_chosen)
        self._mix_words = label("", "", wrap=True)
        line = row(
            self._mix_words, self.passes, label(_("coats,"), "second"), self.thinner,
            label(_("% thinner"), "second"), 6, self.by_hand("tone"), self.lay, spacing=6,
        )  # fmt: skip
        line.setStretch(0, 1)
        self.centre.addLayout(line)
        self._tones_panel = Panel(_("Light and shade, five tones"), _("share of the area"))
        self._tones = Fields(margin=0, height=58)
        self._tones.setMaximumHeight(58)
        self._tone_words = Rows(spacing=8, across=True, even=True)
        self._tones_panel.add(self._tones)
        self._tones_panel.add(self._tone_words)
        self.centre.addWidget(self._tones_panel)
        self._build_side()
        session.shelf_changed.connect(self._mark)

    def _build_side(self) -> None:
        plane = Panel(_("Where each lightener leads"), "a*b*")
        self._plane = ColourPlane(self.session.jobs, lightness=False)
        self._plane_words = label("", "second", wrap=True)
        self._plane.setFixedHeight(280)
        plane.add(self._plane)
        plane.add(self._plane_words)
        self.side.addWidget(plane)
        self._why = Panel(_("Why this one"))
        self._why_words = label("", "", wrap=True)
        self._turns = Rows(spacing=4)
        self._why.add(self._why_words)
        self._why.body.addSpacing(6)
        self._why.add(self._turns)
        self._why.body.addStretch(1)
        self.side.addWidget(self._why, 1)

    def refresh(self) -> None:
        zone = self.session.zone
        if zone and zone != self._zone:
            coat = fade_coat(self.session.project, zone)
            self.passes.setValue(coat.passes if coat else FADE_COATS)
            self.thinner.setValue(round(100 * (coat.thinner_share if coat else FADE_THINNER)))
        self._zone = zone
        self._ask()

    def _ask(self) -> None:
        zone = self.session.zone
        cut = self.session.cut(zone) if zone else None
        target = faded_target(cut.targets) if cut else None
        self._wish.setVisible(cut is not None and cut.fresh is not None and target is None)
        if target is None and cut is not None and cut.fresh is not None:
            target = wished_target(cut.fresh, self.lighter.value())
        question = None
        if cut is not None and target is not None:
            project = self.session.project
            paints = usable_paints(project, zone, self.session.shelf.paints())[0]
            question = fading.ask(
                self.session.project, zone, target, paints, self.passes.value(), self.thinner.value() / 100
            )
        if question is None:
            self._show_nothing()
        elif question.same_as(self._asked) and self.answer:
            self._show_choice()
        else:
            self._asked = question
            self.session.jobs.start("tone", lambda _progress: fading.answer(question), self._show)

    def _show_nothing(self) -> None:
        """Say what is missing."""
        self.answer, self._asked = None, None
        self._statement.setText(_("Nothing to fade yet."))
        self._remark.setText("")
        self.rows.empty_words = _(
            "Say what is there already, or pin a base recipe in Match: a fade lies on something. Or lay one by hand."
        )
        self.rows.show_rows([], [])
        self._plane.show_colours([])
        self._plane_words.setText("")
        self._why_words.setText("")
        self._turns.fill(())
        self._mix_words.setText("")
        self._tones_panel.hide()
        self.lay.setEnabled(False)

    def _show(self, answer: ToneAnswer) -> None:
        if answer.question.zone != self.session.zone:
            return
        self.answer = answer
        paints = {paint.id: paint for paint in self.session.shelf.paints()}
        rows = []
        for option, ramp in zip(answer.lighteners, answer.ramps, strict=True):
            whole = option.base_parts + option.lightener_parts
            rows.append(
                RampRow(
                    paints[option.paint].name,
                    _("{0} in {1}").format(option.lightener_parts, whole),
                    ((*ramp, answer.question.target.lab),),
                    f"{option.de00:.1f}",
                    self._verdict(option),
                )
            )
        self.rows.show_rows(rows, [_("Base"), "ΔE00"])
        self._show_choice()

    def _verdict(self, option: Lightener) -> str:
        shift = option.hue_shift_deg
        target = self.answer.question.target if self.answer else None
        if shift is not None and abs(shift) > _TURNS_DEG and target:
            reddish = target.lab[1] > 8 and target.lab[2] > 0
            if reddish and shift < 0:
                return _("turns pink by {0}°").format(f"{abs(shift):.0f}")
            return _("turns by {0}°").format(f"{abs(shift):.0f}")
        sure = target.de00_90 if target else None
        if sure is not None and option.de00 <= sure:
            return _("stays in the range")
        return _("hue kept")

    def _show_choice(self) -> None:
        answer = self.answer
        if answer is None:
            return
        self._tones_panel.setVisible(answer.question.cup)
        self.lay.setEnabled(True)
        question = answer.question
        paints = {paint.id: paint for paint in self.session.shelf.paints()}
        option = answer.lighteners[self.rows.current]
        fade = difference(question.before, question.target.lab)
        self._statement.setText(
            _("The faded colour is {0} than the base.").format(fade.words)
            if fade.de00 > 0.3
            else _("Hardly faded at all.")
        )
        self._remark.setText(
            _("From {0}; ΔE00 {1} lie between base and faded.").format(
                question.target.source, f"{fade.de00:.1f}"
            )
        )
        name = paints[option.paint].name
        said = _("{0} parts of {1} : {2} {3}")
        self._mix_words.setText(
            said.format(option.base_parts, question.base_words, option.lightener_parts, name)
        )
        self._show_plane(answer, option, paints)
        miss = difference(question.target.lab, option.lab)
        self._why_words.setText(
            _("With {0} the fade comes out {1}.").format(name, miss.words)
            if miss.de00 > 0.3
            else _("With {0} the fade is the same to the eye.").format(name)
        )
        self._turns.fill(self._turn_rows(answer, paints))
        self._show_tones(answer.tones[self.rows.current], paints)

    def _show_plane(self, answer: ToneAnswer, option: Lightener, paints: dict[str, Paint]) -> None:
        worst = max(answer.lighteners, key=lambda other: abs(other.hue_shift_deg or 0))
        ways = [
            Way(
                ramp, paints[other.paint].name if other in (option, worst) else "", index == self.rows.current
            )
            for index, (other, ramp) in enumerate(zip(answer.lighteners, answer.ramps, strict=True))
        ]
        target = answer.question.target
        radius = target.de00_90 or 0.0
        self._plane.show_colours(
            [Point(answer.question.before, "round", _("base")), Point(target.lab, "square", _("faded"))],
            ways,
            (target.lab, radius, radius) if radius else None,
        )
        self._plane_words.setText(
            _("Round: the base. Square: the faded colour. Thick: the chosen lightener.")
        )

    def _turn_rows(self, answer: ToneAnswer, paints: dict[str, Paint]) -> Iterator[Item]:
        """How far each lightener turns the hue, the chosen one in bold."""
        yield row(label(_("turns the hue by"), "second"), None, label(_("degrees"), "second"))
        for index, option in enumerate(answer.lighteners):
            shift = option.hue_shift_deg
            figure = _("no hue") if shift is None else _("{0}°").format(signed(shift))
            kind = "strong" if index == self.rows.current else ""
            yield rule()
            yield row(label(paints[option.paint].name, kind), None, label(figure, kind))

    def _show_tones(self, tones: tuple[Tone, ...], paints: dict[str, Paint]) -> None:
        self._tones.show_labs([tone.lab for tone in tones])
        self._tone_words.fill(self._tone_cells(tones, paints))

    @staticmethod
    def _tone_cells(tones: tuple[Tone, ...], paints: dict[str, Paint]) -> Iterator[Item]:
        for one in tones:
            added = paints[one.added].name if one.added else ""
            words = _("base") if not one.added else f"{one.base_parts} : {one.added_parts} {added}"
            cell = QVBoxLayout()
            cell.setSpacing(1)
            for text, kind in (
                (words, ""),
                (_("{0} %").format(f"{100 * one.area_share:.0f}"), "second"),
            ):
                line: QLabel = label(text, kind, wrap=True)
                cell.addWidget(line)
            cell.addStretch(1)
            yield cell

    def lay_chosen(self) -> None:
        """Lay the chosen fade on the zone."""
        if self.answer is None or self.answer.question.zone != self.session.zone:
            return  # another zone was chosen, and its answer is not there yet
        option, zone = self.answer.lighteners[self.rows.current], self.answer.question.zone
        coat = fade_coat(self.session.project, zone)
        as_said = Manner(self.passes.value(), self.thinner.value() / 100, coat.tool if coat else None)
        mix, manner = self.answer.question.mix(option, as_said)
        self.session.edit(
            _("Fade {0}").format(self.session.project.zone(zone).name),
            lambda p: lay_fade(p, zone, mix, manner),
        )
