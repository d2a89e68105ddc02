"""Match: the target beside the recipe, recipes to choose from, and how they behave."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cache, partial

import numpy as np
from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton, QVBoxLayout

from lean_sepia.arrays import FloatArray, triple
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.colour.lights import LIGHT_NAMES
from lean_sepia.colour.reflectance import estimate_reflectance
from lean_sepia.colour.words import difference
from lean_sepia.errors import SepiaError
from lean_sepia.paint.film import film_thickness, thickness_to_hide
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.paint import Palette
from lean_sepia.project import edits
from lean_sepia.project.questions import BASE_COATS, BASE_THINNER, base_laying, films_over_grounds
from lean_sepia.project.targets import Target
from lean_sepia.recipe.choice import Choice, base_paints, offer
from lean_sepia.recipe.mix import NO_LIMITS, Limits, MixSolver, Recipe
from lean_sepia.recipe.parts import DROPS_PER_ML, reduced, stray_drops
from lean_sepia.recipe.reasons import media_cautions, wet_and_dry, why_not_exactly
from lean_sepia.ui.batch_dialog import BatchDialog
from lean_sepia.ui.colour_plane import ColourPlane, Point
from lean_sepia.ui.laying_panel import LayingPanel
from lean_sepia.ui.named_pair import NamedPair
from lean_sepia.ui.paint_rack import PaintRack
from lean_sepia.ui.panel import Panel, button, clear, count_box, holder, label, measure_box, row
from lean_sepia.ui.ratio_dialog import RatioDialog
from lean_sepia.ui.recipe_card import RecipeCard
from lean_sepia.ui.rooms.room import RoomPage
from lean_sepia.ui.session import Session
from lean_sepia.ui.swatch import Fields, Lab

GROUNDS: tuple[tuple[str, Lab], ...] = (
    ("black", (24.5, 0.0, 0.0)), ("primer red", (41.0, 25.0, 14.0)), ("grey", (55.0, 0.0, 0.0)), ("white", (92.0, 0.0, 1.0)),
)  # fmt: skip
"""Undercoats shown as a strip: usual primers, as flat colours (practice)."""

_FILM_COATS = (1, 2, 3, 4)
_MATTERS = 0.5  # of the photo's own range: a smaller miss is not worth a reason


@dataclass(frozen=True, eq=False)
class Behaviour:
    """How one recipe behaves: a drop astray, over other grounds in 1 to 4 coats, and with its target under each light.

    hides_coats : coats at this thinning until no ground shows, None where it never hides; wet : its colour before it dries
    """

    strayed: tuple[Lab, ...]
    films: FloatArray
    lights: tuple[tuple[Lab, Lab], ...]
    hides_coats: float | None
    wet: Lab
    cautions: tuple[str, ...]


@dataclass(frozen=True, eq=False)
class Answer:
    """What the solver found for one zone, with what is needed to show it and to try other drops."""

    zone: str
    target: Target
    choices: tuple[Choice, ...]
    behaviours: tuple[Behaviour, ...]
    solver: MixSolver
    thinner_share: float


class MatchRoom(RoomPage):
    """Solves for the chosen zone in the background and keeps showing the old answer, dimmed, meanwhile."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.answer: Answer | None = None
        self._chosen = 0
        self._volume = 6.0
        self._asked: tuple | None = None
        self._solver: tuple[tuple, MixSolver] | None = None
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
        self._figure, self._unit = label("", "figure"), label("ΔE₀₀", "second")
        words = QVBoxLayout()
        words.setSpacing(2)
        words.addWidget(self._statement)
        words.addWidget(self._remark)
        line = QHBoxLayout()
        line.addLayout(words, 1)
        line.addWidget(self._figure, 0, Qt.AlignmentFlag.AlignBottom)
        line.addWidget(self._unit, 0, Qt.AlignmentFlag.AlignBottom)
        self.centre.addLayout(line)
        self._cards = QHBoxLayout()
        self._cards.setSpacing(12)
        self.centre.addLayout(self._cards)
        self.rack = PaintRack()
        self.rack.drop_wanted.connect(lambda name: self.change_drops(self._chosen, name, 1))
        rack = row(label(self.tr("add a drop"), "second"), self.rack, spacing=8)
        rack.setStretch(1, 1)
        self.centre.addLayout(rack)
        self.paints = count_box(1, 4, 3, self.tr("Most bottles in a recipe"))
        self.parts = count_box(3, 24, 10, self.tr("Most parts in a recipe"))
        self.coats = count_box(1, 8, BASE_COATS, self.tr("Coats"))
        self.thinner = count_box(0, 90, round(100 * BASE_THINNER), self.tr("Share of thinner in per cent"))
        for box in (self.paints, self.parts, self.coats, self.thinner):
            box.valueChanged.connect(lambda _value: self._ask())
        self.volume = measure_box(0.5, 200, self._volume, "ml", self.tr("Amount to mix"))
        self.volume.valueChanged.connect(self._set_volume)
        self.pin = button(
            self.tr("Pin to this zone"), "main", self.tr("The zone's base coat becomes this recipe")
        )
        self.pin.clicked.connect(self.pin_chosen)
        second = "second"
        self.centre.addLayout(
            row(
                label(self.tr("at most"), second), self.paints, label(self.tr("bottles,"), second), self.parts,
                label(self.tr("parts;"), second), self.coats, label(self.tr("coats,"), second), self.thinner,
                label(self.tr("% thinner"), second), self._tool_button(self.tr("Ratio…"), self._ask_ratio), None, spacing=6,
            )
        )  # fmt: skip
        self._limit_row = QHBoxLayout()
        self._limit_row.setSpacing(6)
        self.correct = self._tool_button(self.tr("Correct a batch…"), self._ask_correction)
        last = row(
            label(self.tr("mix"), second),
            self.volume,
            self.correct,
            holder(self._limit_row),
            None,
            self.pin,
            spacing=6,
        )
        self.centre.addLayout(last)

    @staticmethod
    def _tool_button(words: str, action) -> QPushButton:
        answer = button(words, "tool")
        answer.clicked.connect(lambda _checked=False: action())
        return answer

    def _build_side(self) -> None:
        plane = Panel(self.tr("Lightness and hue"), "a*b*")
        self._plane = ColourPlane()
        self._plane.setMinimumHeight(150)
        self._plane_words = label("", "second", wrap=True)
        plane.add(self._plane, 1)
        plane.add(self._plane_words)
        self.side.addWidget(plane, 1)
        over = Panel(self.tr("Over what, how many coats"))
        self._films = holder(self._film_grid())
        over.add(self._films)
        self.side.addWidget(over)
        lights = Panel(self.tr("Under other lights"), self.tr("estimated"))
        self._lights = holder(self._light_row())
        lights.add(self._lights)
        self.side.addWidget(lights)
        self.laying = LayingPanel()
        self.laying.volume_wanted.connect(lambda volume: self.volume.setValue(round(volume, 1)))
        self.side.addWidget(self.laying)

    def _film_grid(self) -> QGridLayout:
        """Fields for every ground and number of coats; they are filled, not made anew, when a recipe changes."""
        grid = QGridLayout()
        grid.setSpacing(3)
        grid.setColumnMinimumWidth(0, 66)
        for column, coats in enumerate(_FILM_COATS):
            head = label(str(coats), "second")
            head.setAlignment(Qt.AlignmentFlag.AlignCenter)
            grid.addWidget(head, 0, column + 1)
        self._film_fields: dict[tuple[int, int], Fields] = {}
        for line, (name, _) in enumerate(GROUNDS):
            grid.addWidget(label(self.tr(name), "second"), line + 1, 0)
            for column in range(len(_FILM_COATS)):
                field = Fields(margin=0, height=18)
                field.setMinimumHeight(18)
                self._film_fields[line, column] = field
                grid.addWidget(field, line + 1, column + 1)
        return grid

    def _light_row(self) -> QHBoxLayout:
        """A pair of fields and a figure for every light."""
        lights = QHBoxLayout()
        lights.setSpacing(4)
        self._light_fields: dict[str, tuple[Fields, QLabel]] = {}
        for light in LIGHT_NAMES:
            cell = QVBoxLayout()
            cell.setSpacing(2)
            field, words = Fields(margin=0, height=24), label("", "second")
            field.setMinimumHeight(24)
            words.setAlignment(Qt.AlignmentFlag.AlignCenter)
            self._light_fields[light] = (field, words)
            cell.addWidget(field)
            cell.addWidget(words)
            lights.addWidget(holder(cell), 1)
        return lights

    # Asking the core

    def refresh(self) -> None:
        zone = self.session.zone
        target = self.session.cut(zone).targets.fresh if zone else None
        if target is None or not base_paints(self.session.shelf.paints()):
            self.answer = None
            self._asked = None
            self._show_nothing(target)
            return
        coat = next((c for c in self.session.project.coats_of(zone) if c.kind == "base"), None)
        if coat and (self._asked is None or self._asked[0] != zone):
            for spin, value in ((self.coats, coat.passes), (self.thinner, round(100 * coat.thinner_share))):
                spin.setValue(value)
        self._ask()

    def _ask(self) -> None:
        zone = self.session.zone
        target = self.session.cut(zone).targets.fresh if zone else None
        if target is None or not base_paints(self.session.shelf.paints()):
            return
        passes, thinner = self.coats.value(), self.thinner.value() / 100
        laying = base_laying(self.session.project, zone, passes, thinner)
        ground = () if laying.ground is None else tuple(np.round(laying.ground, 5))
        if self._asked is not None and self._asked[0] != zone:
            self._limits = NO_LIMITS
        key = (
            ground,
            laying.X,
            laying.varnish,
            self.paints.value(),
            self.parts.value(),
            id(self.session.shelf.paints()),
            self._limits,
        )
        pinned = self._pinned(zone)
        question = (zone, target, key, pinned, self._volume)
        if question == self._asked:
            return
        self._asked = question
        self._pair.setEnabled(False)
        self._show_limits()
        self.rack.show_paints(base_paints(self.session.shelf.paints()))
        # What the job needs is taken here: it must not look at widgets from its own thread.
        drops = round(self._volume * DROPS_PER_ML)
        new_solver = partial(
            MixSolver, base_paints(self.session.shelf.paints()), laying, max_paints=self.paints.value(),
            max_parts=self.parts.value(), limits=self._limits,
        )  # fmt: skip
        self.session.jobs.start(
            "match",
            lambda progress: self._solve(progress, key, new_solver, drops, zone, target, pinned, thinner),
            self._show,
        )

    def _pinned(self, zone: str) -> tuple[tuple[str, int], ...] | None:
        coat = next((c for c in self.session.project.coats_of(zone) if c.kind == "base" and c.recipe), None)
        if coat is None or coat.recipe is None:
            return None
        project = self.session.project
        return tuple(
            (project.paint(version).shelf_id, count) for version, count in project.recipe(coat.recipe).parts
        )

    def _solve(
        self, progress, key: tuple, new_solver, cup_drops: int, zone: str, target: Target, pinned, thinner_share: float
    ) -> Answer:  # fmt: skip
        """Runs in a job: recipes, their stray drops, films and lights."""
        if self._solver is None or self._solver[0] != key:
            self._solver = (key, new_solver())
        solver = self._solver[1]
        solver.cup_drops = cup_drops
        ranked = solver.solve(target.lab, count=120, progress=progress, half90=target.half90)
        choices = offer(solver, ranked, target.lab, pinned, half90=target.half90)
        behaviours = tuple(_behaviour(solver, choice.recipe, target, thinner_share) for choice in choices)
        return Answer(zone, target, tuple(choices), behaviours, solver, thinner_share)

    # Showing the answer

    def _show_nothing(self, target: Target | None) -> None:
        """Say what is missing: a target, or paints to mix."""
        if target is None:
            self._pair.show_pair([None, None], self.tr("No target yet"))
            self._statement.setText(self.tr("This zone has no target."))
            self._remark.setText(
                self.tr(
                    "Take a sample of it in Evidence, as base or sheltered; or start from a colour you know."
                )
            )
        else:
            self._pair.show_pair([target.lab, None], self.tr("Target, {0}").format(target.source))
            self._statement.setText(self.tr("There is no paint to mix on your shelf."))
            self._remark.setText(
                self.tr(
                    "Open Shelf at the top right and import a shelf file; metallics, pigments and pastels are laid alone."
                )
            )
        self._figure.setText("")
        self._unit.hide()
        clear(self._cards)
        self._films.hide()
        self._lights.hide()
        self.laying.hide()
        self._plane.show_colours([])
        self._plane_words.setText("")
        self.pin.setEnabled(False)

    def _show(self, answer: Answer) -> None:
        self._pair.setEnabled(True)
        if answer.zone != self.session.zone:
            return
        self.answer = answer
        self._chosen, self._why = 0, ""
        self._fill_cards()
        self._show_choice()
        best = min((choice.recipe for choice in answer.choices), key=lambda recipe: recipe.de00)
        if best.de00 > max(1.0, _MATTERS * (answer.target.de00_90 or 0.0)):
            paints, laying = answer.solver.palette.paints, answer.solver.laying
            self.session.jobs.start(
                "why",
                lambda _p: (answer, why_not_exactly(paints, answer.target.lab, best, laying)),
                self._show_why,
            )

    def _show_why(self, found: tuple[Answer, str]) -> None:
        answer, words = found
        if (
            self.answer is not None
            and answer.target == self.answer.target
            and answer.zone == self.answer.zone
        ):
            self._why = words
            self._show_choice()

    def _fill_cards(self) -> None:
        clear(self._cards)
        if self.answer is None:
            return
        for index in range(len(self.answer.choices)):
            self._cards.addWidget(self._card(index), 1)

    def _card(self, index: int) -> RecipeCard:
        """A card for one of the choices."""
        assert self.answer is not None
        paints = {paint.id: paint for paint in self.session.shelf.paints()}
        records = {record["id"]: record for record in self.session.shelf.records()}
        chosen = index == self._chosen
        card = RecipeCard(self.answer.choices[index], paints, records, self._volume, editable=chosen)
        card.setProperty("chosen", "true" if chosen else "false")
        card.chosen.connect(lambda: self.choose(index))
        card.changed.connect(lambda name, step: self.change_drops(index, name, step))
        card.left_out.connect(self.do_without)
        card.always_wanted.connect(self.always_use)
        return card

    def _renew_cards(self, *indices: int) -> None:
        """Make these cards anew, once what was clicked on them is done."""

        def renew() -> None:
            for index in indices:
                item = self._cards.itemAt(index)
                old = item.widget() if item else None
                if old is None or self.answer is None or index >= len(self.answer.choices):
                    continue
                self._cards.replaceWidget(old, self._card(index))
                old.hide()
                old.deleteLater()

        QTimer.singleShot(0, renew)

    def choose(self, index: int) -> None:
        """Compare another card with the target."""
        if index == self._chosen:
            return
        before, self._chosen = self._chosen, index
        self._renew_cards(before, index)
        self._show_choice()

    def _show_choice(self) -> None:
        answer = self.answer
        if answer is None:
            return
        choice = answer.choices[self._chosen]
        recipe, target = choice.recipe, answer.target
        ground = (
            self.tr("over the primer")
            if base_laying(self.session.project, answer.zone).ground is not None
            else self.tr("opaque")
        )
        self._pair.show_pair(
            [target.lab, recipe.lab],
            self.tr("Target, {0}").format(target.source),
            self.tr("Recipe {0}, varnished").format(ground),
            self.tr("Target and recipe"),
        )
        words = difference(target.lab, recipe.lab).words
        self._statement.setText(
            f"{self.tr('The recipe is')} {words}."
            if words != "the same to the eye"
            else self.tr("The same to the eye.")
        )
        self._figure.setText(f"{recipe.de00:.1f}")
        self._unit.show()
        within = target.de00_90 is not None and recipe.de00 <= target.de00_90
        sure = "" if target.de00_90 is None else (
            self.tr("inside the photo's own ±{0}. ") if within else self.tr("outside the photo's own ±{0}. ")
        ).format(f"{target.de00_90:.1f}")  # fmt: skip
        know = {
            "SPECTRAL": self.tr("spectra"),
            "TWO_CONSTANT": self.tr("two constants"),
            "ONE_CONSTANT": self.tr("one colour only"),
        }
        self._remark.setText(
            sure.capitalize()
            + self.tr("One stray drop moves it by at most {0}. Known by {1}.").format(
                f"{recipe.one_drop_de00:.1f}", know[recipe.knowledge.name]
            )
            + self._expected(recipe)
            + (f" {self._why}" if self._why else "")
        )
        self._show_plane(answer, recipe)
        self._films.show()
        self._lights.show()
        self._show_grid(answer)
        self._show_lights(answer, recipe)
        how = answer.behaviours[self._chosen]
        zone = self.session.project.zone(answer.zone)
        self.laying.show_recipe(
            recipe.lab,
            how.wet,
            how.hides_coats,
            answer.thinner_share,
            zone.area_cm2,
            self.coats.value(),
            how.cautions,
        )
        self.pin.setEnabled(not choice.pinned or self._laid_differently(answer.zone))

    def _expected(self, recipe: Recipe) -> str:
        """The mean difference over the photo's range, where there is one."""
        if recipe.expected_de00 is None:
            return ""
        return self.tr(" Wherever the truth lies in that range: {0} in the mean.").format(
            f"{recipe.expected_de00:.1f}"
        )

    def _laid_differently(self, zone: str) -> bool:
        coat = next((c for c in self.session.project.coats_of(zone) if c.kind == "base"), None)
        return coat is None or (coat.passes, round(100 * coat.thinner_share)) != (
            self.coats.value(),
            self.thinner.value(),
        )

    def _show_plane(self, answer: Answer, recipe: Recipe) -> None:
        target = answer.target
        strayed = answer.behaviours[self._chosen].strayed
        points = [
            Point(target.lab, "round", self.tr("target")),
            Point(recipe.lab, "square", self.tr("recipe")),
        ]
        sheltered = [
            s
            for s in self.session.project.samples
            if s.zone == answer.zone and s.role in ("base", "sheltered")
        ]
        within = None
        if sheltered and target.de00_90:
            (_, (a_low, a_high), (b_low, b_high)) = sheltered[0].lab_range90
            within = (target.lab, (a_high - a_low) / 2, (b_high - b_low) / 2)
        self._plane.show_colours(points, within=within, halo=strayed)
        self._plane_words.setText(
            self.tr("Round: target. Square: recipe. Halo: a stray drop. Dashed: the photo's range.")
        )

    def _show_grid(self, answer: Answer) -> None:
        for (line, column), field in self._film_fields.items():
            field.show_labs([triple(answer.behaviours[self._chosen].films[line, column])])

    def _show_lights(self, answer: Answer, recipe: Recipe) -> None:
        for light, pair in zip(LIGHT_NAMES, answer.behaviours[self._chosen].lights, strict=True):
            field, words = self._light_fields[light]
            field.show_labs(pair, self.tr("Target and recipe under {0}").format(light))
            words.setText(f"{light.split('-')[0]} {recipe.lights[light]:.1f}")

    # What the user does

    def _set_volume(self, value: float) -> None:
        self._volume = value
        self._ask()

    def change_drops(self, index: int, name: str, step: int) -> None:
        """Put a drop of a paint into a recipe, or take one out, and see at once what it does."""
        answer = self.answer
        if answer is None or not 0 <= index < len(answer.choices):
            return
        parts = dict(answer.choices[index].recipe.parts)
        parts[name] = parts.get(name, 0) + step
        left = [(paint, count) for paint, count in parts.items() if count > 0]
        if not left:
            return
        try:
            recipe = answer.solver.recipe(left, answer.target.lab, answer.target.half90)
        except SepiaError as error:
            self.session.refused.emit(str(error))
            return
        # Parts stay as they were counted: 4 : 2 is not drawn as 2 : 1 while drops go in one by one.
        recipe = replace(recipe, parts=tuple(sorted(left, key=lambda part: -part[1])))
        choices, behaviours = list(answer.choices), list(answer.behaviours)
        choices[index] = Choice(self.tr("yours"), recipe)
        behaviours[index] = _behaviour(answer.solver, recipe, answer.target, answer.thinner_share)
        self.answer = replace(answer, choices=tuple(choices), behaviours=tuple(behaviours))
        before, self._chosen = self._chosen, index
        self._renew_cards(*{before, index})
        self._show_choice()
        self._pair.repaint()  # the colours follow the hand; the rest of the room follows them

    def do_without(self, name: str) -> None:
        """Leave a bottle out of every recipe for this zone."""
        self._limit(
            replace(self._limits, forbid=self._limits.forbid | {name}, must=self._limits.must - {name})
        )

    def always_use(self, name: str) -> None:
        """Have a bottle in every recipe for this zone."""
        self._limit(replace(self._limits, must=self._limits.must | {name}))

    def _limit(self, limits: Limits) -> None:
        self._limits = limits
        self._ask()

    def _show_limits(self) -> None:
        clear(self._limit_row)
        names = {paint.id: paint.name for paint in self.session.shelf.paints()}
        limits = self._limits
        for name in sorted(limits.forbid):
            words = self.tr("without {0} ×").format(names.get(name, name))
            self._limit_row.addWidget(
                self._tool_button(words, partial(self._limit, replace(limits, forbid=limits.forbid - {name})))
            )
        for name in sorted(limits.must):
            words = self.tr("with {0} ×").format(names.get(name, name))
            self._limit_row.addWidget(
                self._tool_button(words, partial(self._limit, replace(limits, must=limits.must - {name})))
            )

    def _ask_ratio(self) -> None:
        dialog = RatioDialog(self.thinner.value() / 100, self._volume, self)
        if dialog.exec() and dialog.thinner_share is not None:
            self.thinner.setValue(round(100 * dialog.thinner_share))

    def _ask_correction(self) -> None:
        if self.answer is None:
            return
        recipe = self.answer.choices[self._chosen].recipe
        total = sum(count for _, count in recipe.parts)
        batch = {name: self._volume * count / total for name, count in recipe.parts}
        solver = self.answer.solver
        BatchDialog(
            solver.palette.paints, batch, self.answer.target.lab, recipe.lab, solver.laying, self
        ).exec()

    def pin_chosen(self) -> None:
        """Make the chosen recipe the zone's base coat."""
        if self.answer is None:
            return
        recipe = self.answer.choices[self._chosen].recipe
        zone, paints = self.answer.zone, self.session.shelf.paints()
        passes, thinner = self.coats.value(), self.thinner.value() / 100
        self.session.edit(
            self.tr("Pin recipe to {0}").format(self.session.project.zone(zone).name),
            lambda p: edits.lay_coat(
                p, zone, "base", paints=paints, parts=recipe.parts, passes=passes, thinner_share=thinner
            ),
        )


@cache
def _ground_reflectances() -> list[FloatArray]:
    """Internal reflectance (31,) of every undercoat that is shown: always the same."""
    return [internal_from_lab(lab).R_i for _, lab in GROUNDS]


def _behaviour(solver: MixSolver, recipe: Recipe, target: Target, thinner_share: float) -> Behaviour:
    """Stray drops, films and lights of one recipe."""
    index_of = {paint.id: index for index, paint in enumerate(solver.palette.paints)}
    which = [index_of[name] for name, _ in recipe.parts]
    counts = reduced([count for _, count in recipe.parts])
    strayed = lab_from_reflectance(
        solver.colour_of(which, stray_drops(counts, solver.max_parts, solver.cup_drops))
    )
    thickness = [film_thickness(coats, thinner_share) for coats in _FILM_COATS]
    used = [solver.palette.paints[i] for i in which]
    films = films_over_grounds(used, counts, _ground_reflectances(), thickness)
    R, target_R = solver.colour_of(which, counts), estimate_reflectance(target.lab).reflectance
    # Shown on a screen that is D65: each light's pair as Lab adapted to that light.
    lights = tuple(
        (triple(lab_from_reflectance(target_R, light)), triple(lab_from_reflectance(R, light)))
        for light in LIGHT_NAMES
    )
    K, S, g = Palette.of(used).mixture(np.array(counts) / sum(counts))
    X = thickness_to_hide(K, S, float(g))
    wet, _ = wet_and_dry(used, counts, solver.laying)
    cautions = tuple(media_cautions([paint.medium for paint in used]))
    hides = None if X is None else X / film_thickness(1, thinner_share)
    return Behaviour(tuple(triple(lab) for lab in strayed), films, lights, hides, wet, cautions)
