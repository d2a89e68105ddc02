"""Tone: how far to fade a zone and with what, mist by mist; its panels, its light and shade, and the finish on the model."""

from __future__ import annotations

from functools import partial

import numpy as np

from lean_sepia.answers.strata import strata_of
from lean_sepia.answers.toning import fading
from lean_sepia.answers.toning.ageing import ageing_words, diagnosis_of, may_age
from lean_sepia.answers.toning.fading import ToneAnswer, ToneQuestion, fade_coat, red_school
from lean_sepia.answers.toning.panels import PanelPlan, fade_letters, faded_letters, lay_panels
from lean_sepia.answers.toning.wishes import Aim, faded_target, wishes_for
from lean_sepia.answers.toning.zone import ToneFound, ToneRequest, find
from lean_sepia.arrays import triple
from lean_sepia.colour.words import difference
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.language import _, ngettext
from lean_sepia.plan.schools import SCHOOLS
from lean_sepia.recipe.fades.mists import MOST_MISTS, Fade
from lean_sepia.recipe.fades.turn import Turn
from lean_sepia.recipe.fades.veils import bead_on_10_cm2
from lean_sepia.ui.kit.panel import Panel, button, label, row
from lean_sepia.ui.kit.plots.colour_plane import ColourPlane
from lean_sepia.ui.kit.plots.path_strip import PathStrip, Stop
from lean_sepia.ui.kit.plots.plane_content import Point, Way
from lean_sepia.ui.kit.plots.way_rows import WayRow, WayRows
from lean_sepia.ui.preview.finish_panel import FinishPanel
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.tone.fade_lines import FadeLines
from lean_sepia.ui.tone.joint_panel import JointPanel
from lean_sepia.ui.tone.ladder_panel import LadderPanel
from lean_sepia.ui.tone.panels_panel import PanelsPanel

_FIELDS, _RAMP = 6, 5
_WEAK_DE00 = 2.0
_NAMES_APART_DE00 = 6.0  # nearer, two names on the plane would lie on each other


class ToneRoom(RoomPage):
    """The chosen lightener large from the base to the goal with its stop mark, the others as low rows below it."""

    needs_paints = True

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.answer: ToneAnswer | None = None
        self._aim: Aim | None = None
        self._zone = ""
        self._statement, self._remark = self.headline()
        self.strip = PathStrip()
        self.centre.addWidget(self.strip, 3)
        self.lines = FadeLines()
        self.lines.changed.connect(self._ask)
        self.centre.addWidget(self.lines)
        self.rows = WayRows()
        self.rows.chosen.connect(lambda _index: self._show_choice())
        self.centre.addWidget(self.rows)
        self.lay = button(_("Lay this fade"), "main", _("The zone gets a fade coat mixed from its base"))
        self.lay.clicked.connect(self.lay_chosen)
        self._letters = button(
            _("Fade the lettering too"), "tool", _("Each generation of lettering to its own degree")
        )
        self._letters.clicked.connect(self.lay_letters)
        self._mix_words = label("", "", wrap=True)
        self.centre.addLayout(row(self._mix_words, self._letters, self.by_hand("fade"), self.lay, spacing=6))
        self.panels = PanelsPanel(session)
        self.panels.lay_wanted.connect(self._lay_panels)
        self.centre.addWidget(self.panels, 3)
        self._build_side()
        session.shelf_changed.connect(self._mark)

    def _build_side(self) -> None:
        plane = Panel(_("Where each lightener leads"), "a*b*")
        self._plane = ColourPlane(self.session.jobs)
        self._plane.setFixedHeight(190)
        self._plane_words = label("", "second", wrap=True)
        plane.add(self._plane)
        plane.add(self._plane_words)
        self.side.addWidget(plane)
        self.finish = FinishPanel(self.session, photo_first=True)
        self.finish.closer.connect(self._look_closer)
        self.side.addWidget(self.finish)
        self.ladder = LadderPanel(self.session)
        self.side.addWidget(self.ladder)
        self._ageing = Panel(_("What has aged it"))
        self._ageing_words = label("", "", wrap=True)
        self._ageing.add(self._ageing_words)
        self._ageing.hide()
        self.side.addWidget(self._ageing)
        self.joint = JointPanel(self.session)
        self.side.addWidget(self.joint)
        self.side.addStretch(1)

    def refresh(self) -> None:
        zone, project = self.session.zone, self.session.project
        if zone:
            cut = self.session.cut(zone)
            media = [paint for paint in self.session.shelf.paints() if paint.clear]
            wishes = wishes_for(cut.targets, may_age(project, zone, cut.targets))
            self.lines.offer(project, wishes, media, fade_coat(project, zone), zone != self._zone)
        self._zone = zone
        self._ask()

    def _ask(self) -> None:
        session, lines = self.session, self.lines
        self.joint.forget(lines.spray, lines.wish)
        if not session.zone:
            self._show_nothing()
            return
        request = ToneRequest(
            session.project,
            session.cut(session.zone),
            lines.wish,
            lines.spray,
            tuple(session.shelf.paints()),
            self.answer,
            lines.under.alone,
        )
        session.jobs.start("fades", lambda _progress: find(request), self._show)

    def _show_ageing(self, found: tuple[str, str]) -> None:
        """Say what has aged the zone; of another that is shown by now, not."""
        zone, words = found
        if zone == self.session.zone:
            self._ageing.setVisible(bool(words))
            self._ageing_words.setText(words)

    def _show_nothing(self, why: str = "") -> None:
        """Say what is missing."""
        self.answer = None
        self._statement.setText(_("Nothing on the shelf fades it.") if why else _("Nothing to fade yet."))
        self._remark.setText("")
        self.strip.empty_words = why or _(
            "Say what is there already, or pin a base recipe in Match: a fade lies on something. Or lay one by hand."
        )
        self.strip.show_stops([])
        self.rows.empty_words = ""
        self.rows.show_rows([])
        self.rows.hide()
        self.lines.hide()
        self._plane.show_colours([])
        for words in (self._plane_words, self._mix_words):
            words.setText("")
        self.panels.show_plan(None, None)
        self.panels.hide()
        self.ladder.show_ladder("", "")
        self.finish.show_finish(self.session.project if self.session.zone else None, self.session.zone)
        self._letters.hide()
        self.lay.setEnabled(False)

    def _show(self, found: ToneFound) -> None:
        if found.zone != self.session.zone:
            return
        self._aim = found.aim
        project, zone = self.session.project, found.zone
        self.session.jobs.at_rest("aged", lambda _p: (zone, ageing_words(project, zone)), self._show_ageing)
        answer = found.answer
        if answer is None:
            self._show_nothing(found.why)
            return
        if answer is self.answer:
            self._show_choice()
            return
        self.answer = answer
        self.lines.under.show_under(answer.question.under)
        for widget in (self.rows, self.lines, self.panels):
            widget.show()
        rows = []
        for fade, turn in zip(answer.fades, answer.turns, strict=True):
            labs = fade.path.labs[: fade.mists + 1]
            rows.append(
                WayRow(
                    self._name(fade), self._parts(fade), (*labs[-_RAMP:], triple(answer.question.goal.beside(np.array([fade.option.lab]))[0])),
                    f"{fade.option.de00:.1f}", self._verdict(fade, turn),
                )
            )  # fmt: skip
        self.rows.show_rows(rows, self._preferred(answer))
        self._show_choice()

    def _preferred(self, answer: ToneAnswer) -> int:
        """The nearest, unless the project's school on red asks for another that comes about as near."""
        school, decided = self._school(answer)
        if not school or decided:
            return 0
        for index, (fade, turn) in enumerate(zip(answer.fades, answer.turns, strict=True)):
            near = fade.option.de00 <= answer.fades[0].option.de00 + 2.0
            if near and turn.pink == (school == "white"):
                return index
        return 0

    def _school(self, answer: ToneAnswer) -> tuple[str, bool]:
        cut = self.session.cut(answer.question.zone)
        asked = SCHOOLS["red-lightener"]
        chosen = self.session.project.schools.get("red-lightener", asked.usual)
        fresh = cut.targets.fresh.lab if cut.targets.fresh else answer.question.before
        return red_school(answer.question, fresh, faded_target(cut.targets) is not None, chosen)

    def _name(self, fade: Fade) -> str:
        names = {paint.id: paint.name for paint in self.session.shelf.paints()}
        used = (fade.option.paint, fade.option.second)
        return " + ".join(names.get(name, name) for name in used if name)

    def _parts(self, fade: Fade) -> str:
        option = fade.option
        if fade.wiped is not None:
            return _("{0} % wiped").format(f"{100 * fade.wiped:.0f}")
        parts = f"{option.base_parts} : {option.lightener_parts}"
        return parts + (f" : {option.second_parts}" if option.second else "")

    def _verdict(self, fade: Fade, turn: Turn) -> str:
        mists = ngettext("{0} mist", "{0} mists", fade.mists).format(fade.mists)
        if fade.wiped is not None:
            mists = _("drawn out")
        if turn.towards and not turn.kept:
            said = _("turns pink: {0}° towards {1}") if turn.pink else _("turns: {0}° towards {1}")
            words = said.format(f"{abs(turn.degrees or 0):.0f}", _(turn.towards))
        else:
            target = self.answer.question.target if self.answer else None
            within = target is not None and target.de00_90 is not None and fade.option.de00 <= target.de00_90
            words = _("no turn, within the sample's range") if within else _("no turn")
        if self.lines.spray.mists is None and fade.mists == MOST_MISTS and fade.option.de00 > _WEAK_DE00:
            words = _("too weak; {0}").format(words)
        return f"{words} · {mists}"

    def _show_choice(self) -> None:
        answer = self.answer
        if answer is None:
            return
        self.lay.setEnabled(True)
        question, fade = answer.question, answer.fades[self.rows.current]
        laid = self._as_laid(question, fade) if self._foot() is not None else None
        self._say_what_it_is(question, fade, answer, laid)
        self._show_strip(question, fade)
        self._show_plane(answer, fade)
        mix, manner = question.laid(fade)
        names = {paint.id: paint.name for paint in question.paints} | {question.base.id: question.base.name}
        cup = (
            [
                ngettext("{0} part of {1}", "{0} parts of {1}", mix.base_parts).format(
                    mix.base_parts, question.base_words
                )
            ]
            if mix.base_parts
            else []
        )
        parts = " : ".join([*cup, *(f"{count} {names.get(name, name)}" for name, count in mix.parts)])
        thinned = _("{0}, {1} % thinner").format(parts, f"{100 * manner.thinner_share:.0f}")
        if fade.wiped is not None:
            words = _(
                "{0}: dots of it, {1} mm of bead on 10 cm² in all, drawn out with an almost dry brush until a veil is left."
            )
            thinned = words.format(parts, f"{bead_on_10_cm2(0.0):.1f}")
            thinned += " " + _("{0} % of it is taken up again.").format(f"{100 * fade.wiped:.0f}")
        self._mix_words.setText(thinned)
        self._letters.setVisible(bool(answer.letters[self.rows.current]))
        # Each in a turn of its own, so that the window answers in between.
        later = self.session.jobs.later
        later("tone panels", partial(self.panels.show_plan, question, fade))
        later(
            "tone ladder",
            partial(self.ladder.show_ladder, question.zone if question.cup else "", fade.option.paint),
        )
        later("tone finish", partial(self._show_finish, question, fade, laid))

    def _show_finish(self, question: ToneQuestion, fade: Fade, laid: Project | None) -> None:
        if question.zone == self.session.zone:
            self.finish.show_finish(laid or self._as_laid(question, fade), question.zone)

    def _say_what_it_is(
        self, question: ToneQuestion, fade: Fade, answer: ToneAnswer, laid: Project | None
    ) -> None:
        change = difference(question.before, question.target.lab)
        if change.de00 <= 0.3:
            self._statement.setText(_("Hardly faded at all: there is nothing to lay."))
        else:
            said = ngettext("{0} mist of {1}, {2}.", "{0} mists of {1}, {2}.", fade.mists)
            if fade.wiped is not None:
                said = _("A veil of {1}, drawn out from dots.")
            self._statement.setText(said.format(fade.mists, self._name(fade), self._parts(fade)))
        off = _("As laid, {0:.1f} ΔE00 from the target: {1}.").format(
            fade.option.de00, question.target.source
        )
        path, following = fade.path, fade.mists + 1
        if path.stop > fade.mists:
            off += " " + ngettext(
                "{0} mist would come nearer, {1:.1f}.", "{0} mists would come nearer, {1:.1f}.", path.stop
            ).format(path.stop, path.away[path.stop])
        elif (
            fade.wiped is None and following < len(path.away) and path.away[following] > path.away[fade.mists]
        ):
            off += " " + _("One mist more would overshoot.")
        school, decided = self._school(answer)
        if school:
            way = _("this red fades to pink") if school == "white" else _("this red stays red as it fades")
            off += " " + (_("The samples say that {0}.") if decided else _("As you work: {0}.")).format(way)
        if question.target.lab[0] < question.before[0] - 1 and change.de00 > 1:
            off += " " + _("The target is darker than the base: this is a shade, not a fade.")
        both = strata_of(laid, question.zone).ends if laid is not None else None
        if both is not None:
            top, foot = sorted((end[0] for end in both), reverse=True)
            off += " " + _("From L* {0:.0f} at the top to {1:.0f} at the foot.").format(top, foot)
        letters = answer.letters[self.rows.current]
        if letters:
            was, now = letters[0]
            off += " " + _("Lettering goes from L* {0:.0f} to {1:.0f}.").format(was[0], now[0])
        self._remark.setText(off)

    def _show_strip(self, question: ToneQuestion, fade: Fade) -> None:
        path = fade.path
        count = len(path.labs)
        chosen = list(range(count)) if count <= _FIELDS else [0, *range(max(1, count - _FIELDS + 1), count)]
        stops = [Stop(path.labs[n], _("before") if n == 0 else _("after {0}").format(n)) for n in chosen]
        sure = f" ±{question.target.de00_90:.1f}" if question.target.de00_90 else ""
        goal = _("faded") if question.target.de00_90 is not None else _("target")
        asked = triple(question.goal.beside(np.array([fade.option.lab]))[0])
        stops.append(Stop(asked, goal + sure, apart=True))
        self.strip.show_stops(stops, chosen.index(fade.mists) if fade.mists in chosen else None)

    def _show_plane(self, answer: ToneAnswer, fade: Fade) -> None:
        worst = max(zip(answer.fades, answer.turns, strict=True), key=lambda pair: abs(pair[1].degrees or 0))[
            0
        ]
        apart = difference(fade.option.lab, worst.option.lab).de00 >= _NAMES_APART_DE00
        named = (fade, worst) if apart else (fade,)
        ways = [
            Way(
                other.path.labs[: other.mists + 1], self._name(other) if other in named else "",
                index == self.rows.current,
            )
            for index, other in enumerate(answer.fades)
        ]  # fmt: skip
        target = answer.question.target
        radius = target.de00_90 or 0.0
        points = [Point(answer.question.before, "round", _("base")), Point(target.lab, "square", _("target"))]
        points += [Point(lab, "round") for lab in fade.path.labs[1 : fade.mists + 1]]
        self._plane.show_colours(points, ways, (target.lab, radius, radius) if radius else None)
        self._plane_words.setText(_("Thick: the chosen one, a dot for each mist. Square: the target."))

    def _foot(self) -> float | None:
        return self._aim.foot if self._aim else None

    def _as_laid(self, question: ToneQuestion, fade: Fade) -> Project:
        """The document as it would be with the fade laid; as it is where its base went meanwhile."""
        try:
            return fading.lay_answer(self.session.project, question, fade, self._foot())
        except SepiaError:
            return self.session.project

    def _chosen(self) -> tuple[ToneQuestion, Fade] | None:
        """The fade that is chosen, while it is the shown zone's."""
        answer = self.answer
        if answer is None or answer.question.zone != self.session.zone:
            return None  # another zone was chosen, and its answer is not there yet
        return answer.question, answer.fades[self.rows.current]

    def lay_chosen(self) -> None:
        """Lay the chosen fade on the zone."""
        if (chosen := self._chosen()) is None:
            return
        question, fade = chosen
        foot, name = self._foot(), self.session.project.zone(question.zone).name
        self.session.edit(_("Fade {0}").format(name), lambda p: fading.lay_answer(p, question, fade, foot))

    def _lay_panels(self, plan: PanelPlan) -> None:
        if (chosen := self._chosen()) is None:
            return
        question, fade = chosen
        name = self.session.project.zone(question.zone).name
        self.session.edit(_("Fade {0} by panels").format(name), lambda p: lay_panels(p, question, fade, plan))

    def lay_letters(self) -> None:
        """Lay every generation of lettering faded to its own degree."""
        if (chosen := self._chosen()) is None:
            return
        zone = chosen[0].zone

        def change(project: Project) -> Project:
            found = diagnosis_of(project, zone)
            for letters in faded_letters(project, zone, found.best.ageing if found else None):
                project = fade_letters(project, zone, letters)
            return project

        self.session.edit(_("Fade the lettering"), change)

    def _look_closer(self) -> None:
        chosen = self._chosen()
        self.finish_wanted.emit(self._as_laid(*chosen) if chosen else self.session.project)
