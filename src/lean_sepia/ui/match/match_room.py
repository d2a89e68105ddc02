"""Match: the target beside the recipe, recipes to choose from, and how they behave."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import partial

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout

from lean_sepia.answers.amounts import CUP_ML
from lean_sepia.answers.match import (
    MatchAnswer,
    MatchQuestion,
    answer,
    ask,
    base_aim,
    pin,
    usable_paints,
)
from lean_sepia.answers.match_told import remarks, seen_under, sureness
from lean_sepia.answers.targets import Target
from lean_sepia.colour.words import difference
from lean_sepia.document.edits.mixes import Mix
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.paint.media import MEDIA
from lean_sepia.recipe.limits import NO_LIMITS, Limits
from lean_sepia.recipe.mix import Recipe
from lean_sepia.recipe.reasons import Substitute, unmixable
from lean_sepia.ui.kit.dialogs.ask import confirm
from lean_sepia.ui.kit.named_pair import NamedPair
from lean_sepia.ui.kit.panel import Panel, button, label, row
from lean_sepia.ui.kit.plots.colour_plane import ColourPlane
from lean_sepia.ui.match.batch_dialog import BatchDialog
from lean_sepia.ui.match.cards import Cards
from lean_sepia.ui.match.films_panel import FilmsPanel
from lean_sepia.ui.match.laying_panel import LayingPanel
from lean_sepia.ui.match.lights_panel import LightsPanel
from lean_sepia.ui.match.limits_line import LimitsLine
from lean_sepia.ui.match.paint_rack import PaintRack
from lean_sepia.ui.match.plane import show_plane
from lean_sepia.ui.match.substitute_dialog import SubstituteDialog
from lean_sepia.ui.match.wanted import Wanted
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session


class MatchRoom(RoomPage):
    """Solves for the chosen zone in the background and keeps showing the old answer, dimmed, meanwhile."""

    needs_paints = True

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.answer: MatchAnswer | None = None
        self._chosen = 0
        self._asked: MatchQuestion | None = None
        self.wanted = Wanted(session)
        self.wanted.changed.connect(self._ask)
        self._limits = NO_LIMITS
        self._why = ""
        self._build_centre()
        self._build_side()
        session.shelf_changed.connect(self._mark)

    def _build_centre(self) -> None:
        self._pair = NamedPair(height=52)
        self.centre.addWidget(self._pair, 1)
        self._statement = label("", "statement", wrap=True)
        self._remark = label("", "second", wrap=True)
        self._figure, self._unit = label("", "figure"), label("ΔE00", "second")
        words = QVBoxLayout()
        words.setSpacing(2)
        words.addWidget(self._statement)
        words.addWidget(self._remark)
        line = QHBoxLayout()
        line.addLayout(words, 1)
        line.addWidget(self._figure, 0, Qt.AlignmentFlag.AlignBottom)
        line.addWidget(self._unit, 0, Qt.AlignmentFlag.AlignBottom)
        self.centre.addLayout(line)
        self._cards = Cards()
        self._cards.chosen.connect(self.choose)
        self._cards.changed.connect(self.change_drops)
        self._cards.left_out.connect(self.do_without)
        self._cards.always_wanted.connect(self.always_use)
        self._cards.stock_wanted.connect(self.keep_to_stock)
        self._cards.stand_in_wanted.connect(lambda index, name: self.find_stand_ins(index, [name]))
        self.centre.addWidget(self._cards)
        self.rack = PaintRack()
        self.rack.drop_wanted.connect(lambda name: self.change_drops(self._chosen, name, 1))
        rack = row(label(_("add a drop"), "second"), self.rack, self.by_hand("base"), spacing=8)
        rack.setStretch(1, 1)
        self.centre.addLayout(rack)
        self._limit_line = LimitsLine()
        self._limit_line.limits_wanted.connect(self._limit)
        self._limit_line.stand_ins_wanted.connect(self._find_lost)
        self.centre.addWidget(self._limit_line)
        self._build_asking()

    def _build_asking(self) -> None:
        """Two lines of controls: what is asked for, and what is done with the answer."""
        wanted, second = self.wanted, "second"
        self.pin = button(_("Pin to this zone"), "main", _("The zone's base coat becomes this recipe"))
        self.pin.clicked.connect(self.pin_chosen)
        ratio, self.correct = button(_("Ratio…"), "tool"), button(_("Correct a batch…"), "tool")
        ratio.clicked.connect(
            lambda: wanted.ask_ratio(self, self.answer.question.cup_ml if self.answer else CUP_ML)
        )
        self.correct.clicked.connect(self._ask_correction)
        self.centre.addLayout(
            row(
                label(_("at most"), second), wanted.paints, label(_("bottles,"), second), wanted.parts,
                label(_("parts;"), second), wanted.coats, label(_("coats,"), second), wanted.thinner,
                label(_("% thinner"), second), ratio, None, spacing=6,
            )
        )  # fmt: skip
        mix = label(_("mix"), second)
        self.centre.addLayout(
            row(mix, wanted.volume, self.correct, None, wanted.under, wanted.sheen, self.pin, spacing=6)
        )

    def _build_side(self) -> None:
        plane = Panel(_("Lightness and hue"), "a*b*")
        self._plane = ColourPlane(self.session.jobs)
        self._plane.setMinimumHeight(150)
        self._plane_words = label("", "second", wrap=True)
        plane.add(self._plane, 1)
        plane.add(self._plane_words)
        self.side.addWidget(plane, 1)
        self.films, self.lights, self.laying = FilmsPanel(), LightsPanel(), LayingPanel()
        self.laying.volume_wanted.connect(lambda volume: self.wanted.volume.setValue(round(volume, 1)))
        for panel in (self.films, self.lights, self.laying):
            self.side.addWidget(panel)

    # Asking the core

    def refresh(self) -> None:
        zone, target = self._wanted()
        shelf = self.session.shelf.paints()
        if target is None or not usable_paints(self.session.project, zone, shelf)[0]:
            self.answer = self._asked = None
            self._show_nothing(target)
            return
        fresh = self._asked is None or self._asked.zone != zone
        if fresh:
            self._limits = NO_LIMITS
            self.wanted.take_up(zone)
        self.wanted.name_sheens(zone, fresh)
        self._ask()

    def _wanted(self) -> tuple[str, Target | None]:
        zone = self.session.zone
        aim = base_aim(self.session.project, zone, self.session.cut(zone).targets) if zone else None
        self._stage = aim[0] if aim else "fresh"
        return zone, aim[1] if aim else None

    def _ask(self) -> None:
        zone, target = self._wanted()
        if self.wanted.filling or target is None or not self.wanted.sheen.count():
            return
        if not usable_paints(self.session.project, zone, self.session.shelf.paints())[0]:
            return
        question = ask(
            self.session.project, zone, target, self.session.shelf.paints(), passes=self.wanted.coats.value(),
            thinner_share=self.wanted.thinner_share, sheen=self.wanted.sheen.currentData(), max_paints=self.wanted.paints.value(),
            max_parts=self.wanted.parts.value(), limits=self._limits, mix_ml=self.wanted.volume.value(),
            stage=self._stage, alone=self.wanted.under.alone,
        )  # fmt: skip
        if question.same_as(self._asked):
            return
        self._asked = question
        self.wanted.under.show_under(question.under)
        self._pair.setEnabled(False)
        self._show_limits()
        self.rack.show_paints(question.paints)
        before = self.answer
        self.session.jobs.start("match", lambda progress: answer(question, before, progress), self._show)

    # Showing the answer

    def _show_nothing(self, target: Target | None) -> None:
        """Say what is missing: a target, or paints to mix."""
        if target is None:
            self._pair.show_pair([None, None], _("No target yet"))
            self._statement.setText(_("This zone has no target."))
            words = _("Sample it in Evidence, as base or sheltered; or write its colour in About this zone.")
            self._remark.setText(words)
        else:
            self._pair.show_pair([target.lab, None], _("Target, {0}").format(target.source))
            self._statement.setText(_("There is no paint to mix on your shelf."))
            self._remark.setText(
                _(
                    "Open Shelf at the top right and write a bottle down, or import a shelf file; metallics, pigments and pastels are laid alone."
                )
            )
        self._figure.setText("")
        self._unit.hide()
        self._cards.fill(())
        self._limit_line.hide()
        self.films.show_films(None)
        self.lights.show_pairs((), {})
        self.laying.hide()
        self._plane.show_colours([])
        self._plane_words.setText("")
        self.pin.setEnabled(False)

    def _show(self, found: MatchAnswer) -> None:
        self._pair.setEnabled(True)
        if found.question.zone != self.session.zone:
            return
        self.answer = found
        self._chosen, self._why = 0, ""
        self.session.jobs.later("cards", self._fill_cards)
        self._show_choice()
        self.session.jobs.at_rest("why", lambda progress: (found, remarks(found, progress)), self._show_why)

    def _show_why(self, told: tuple[MatchAnswer, str]) -> None:
        about, words = told
        if words and self.answer is not None and about.question is self.answer.question:
            self._why = words
            self._show_choice()

    def _fill_cards(self) -> None:
        if self.answer is not None:
            self._cards.show_cards(self.answer, self.session.shelf.by_id(), self._chosen)

    def _renew_cards(self, *indices: int) -> None:
        """Make these cards anew, once what was clicked on them is done."""

        def renew() -> None:
            if self.answer is not None:
                self._cards.renew(self.answer, self.session.shelf.by_id(), self._chosen, indices)

        QTimer.singleShot(0, renew)

    def choose(self, index: int) -> None:
        """Compare another card with the target."""
        if index == self._chosen:
            return
        before, self._chosen = self._chosen, index
        self._renew_cards(before, index)
        self._show_choice()

    def _show_choice(self) -> None:
        found = self.answer
        if found is None:
            return
        choice, how = found.choices[self._chosen], found.behaviours[self._chosen]
        recipe, question = choice.recipe, found.question
        self._show_pair(question, recipe)
        self._remark.setText(" ".join([*sureness(question.target, recipe, how), self._why]).rstrip())
        show_plane(self._plane, self._plane_words, found, self._chosen)
        self.session.jobs.later("match, panels", self._show_panels)
        self.pin.setEnabled(not choice.pinned or self.wanted.laid_differently(question.zone))

    def _show_panels(self) -> None:
        """How the chosen recipe behaves and is laid, unless something else was asked meanwhile."""
        found = self.answer
        if found is None or found.question.zone != self.session.zone:
            return
        choice, how, question = found.choices[self._chosen], found.behaviours[self._chosen], found.question
        self.films.show_films(how.films)
        self.lights.show_pairs(how.lights, choice.recipe.lights)
        zone = self.session.project.zone(question.zone)
        self.laying.show_recipe(choice.recipe.lab, how, question, question.cautions(choice))
        self.laying.show_amount(question, zone.area_cm2, self.wanted.needed(question.zone))

    def _show_pair(self, question: MatchQuestion, recipe: Recipe) -> None:
        target = question.target
        self._pair.show_pair(
            [target.lab, recipe.lab],
            _("Target, {0}").format(target.source),
            _("Recipe, {0}").format(seen_under(question, self.wanted.sheen.currentText())),
            _("Target and recipe"),
        )
        away = difference(target.lab, recipe.lab)
        self._statement.setText(
            _("The same to the eye.") if away.same else _("The recipe is {0}.").format(away.words)
        )
        self._figure.setText(f"{recipe.de00:.1f}")
        self._unit.show()

    # What the user does

    def change_drops(self, index: int, name: str, step: int) -> None:
        """Put a drop of a paint into a recipe, or take one out, and see at once what it does."""
        if self.answer is None or not 0 <= index < len(self.answer.choices):
            return
        try:
            changed = self.answer.with_drop(index, name, step, _("yours"))
        except SepiaError as error:
            self.session.refused.emit(str(error))
            return
        if changed is not None:
            self._take(changed, index)

    def _take(self, changed: MatchAnswer, index: int) -> None:
        """Show an answer in which one choice was changed by hand."""
        self.answer = changed
        before, self._chosen = self._chosen, index
        self._show_pair(changed.question, changed.choices[index].recipe)
        self._pair.repaint()  # the colours follow the hand; the rest of the room follows them
        self._renew_cards(*{before, index})
        self._show_choice()

    def find_stand_ins(
        self, index: int, missing: Sequence[str], parts: Sequence[tuple[str, int]] | None = None
    ) -> None:
        """Look in the background for the colour of these parts, else of a card's, without some of their bottles."""
        found = self.answer
        if found is not None:
            wanted = found.choices[index].recipe.parts if parts is None else parts
            self.session.jobs.start(
                "stand-ins",
                lambda _p: found.stand_ins(wanted, missing),
                partial(self._offer_stand_ins, found, index, missing),
            )

    def _offer_stand_ins(
        self, about: MatchAnswer, index: int, missing: Sequence[str], found: list[Substitute]
    ) -> None:
        if self.answer is None or about.question is not self.answer.question:
            return
        names = {paint.id: paint.name for paint in (*about.question.paints, *about.question.lost)}
        lost = ", ".join(names[name] for name in missing)
        dialog = SubstituteDialog(lost, found, names, self)
        if dialog.exec() and dialog.taken is not None:
            title = _("without {0}").format(lost)
            self._take(self.answer.with_parts(index, dialog.taken.recipe.parts, title), index)

    def do_without(self, name: str) -> None:
        """Leave a bottle out of every recipe for this zone."""
        limits = self._limits
        self._limit(replace(limits, forbid=limits.forbid | {name}, must=limits.must - {name}))

    def always_use(self, name: str) -> None:
        """Have a bottle in every recipe for this zone."""
        self._limit(replace(self._limits, must=self._limits.must | {name}))

    def keep_to_stock(self, name: str, left_ml: float) -> None:
        """Take no more of a bottle for the cup than is left of it."""
        self._limit(replace(self._limits, stock_ml={**self._limits.stock_ml, name: left_ml}))

    def _limit(self, limits: Limits) -> None:
        self._limits = limits
        self._ask()

    def _show_limits(self) -> None:
        names = {paint.id: paint.name for paint in self.session.shelf.paints()}
        self._limit_line.show_limits(self._limits, names, self._asked)

    def _find_lost(self) -> None:
        """Stand-ins for the bottles of the pinned recipe that left the shelf."""
        if self._asked is not None:
            self.find_stand_ins(0, [paint.id for paint in self._asked.lost], self._asked.pinned)

    def _ask_correction(self) -> None:
        if self.answer is None:
            return
        recipe, question = self.answer.choices[self._chosen].recipe, self.answer.question
        total = sum(count for _unused, count in recipe.parts)
        batch = {name: question.cup_ml * count / total for name, count in recipe.parts}
        jobs, target = self.session.jobs, question.target.lab
        BatchDialog(jobs, question.paints, batch, target, recipe.lab, question.laying, self).exec()

    def pin_chosen(self) -> None:
        """Make the chosen recipe the zone's base coat; asks first where its media do not mix."""
        if self.answer is None or self.answer.question.zone != self.session.zone:
            return  # another zone was chosen, and its answer is not there yet
        question = self.answer.question
        recipe, zone = self.answer.choices[self._chosen].recipe, question.zone
        media = {paint.id: paint.medium for paint in question.paints}
        apart = unmixable([media[name] for name, _parts in recipe.parts])
        if apart and not self.asked_anyway([_(MEDIA[medium].words) for medium in apart]):
            return
        manner = self.wanted.manner(zone, question.tool)
        shelf = self.session.shelf.paints()
        mix, sheen = Mix.of(shelf, recipe.parts), self.wanted.sheen.currentData()
        self.session.edit(
            _("Pin recipe to {0}").format(self.session.project.zone(zone).name),
            lambda p: pin(p, zone, mix, manner, sheen, shelf),
        )

    def asked_anyway(self, media: Sequence[str]) -> bool:
        """Whether a recipe of media that do not mix is to be pinned all the same."""
        words = _("{0} and {1} do not mix: in one cup they curdle or separate. Pin it all the same?")
        return confirm(self, _("Media that do not mix"), words.format(*media), _("Pin it all the same"))
