"""One lightener for the whole vehicle: which, and how near each zone comes with it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from lean_sepia.answers.strata import Strata
from lean_sepia.answers.toning import fading
from lean_sepia.answers.toning.ageing import aged_like_others
from lean_sepia.answers.toning.fading import Spray, ToneQuestion
from lean_sepia.answers.toning.joint import joint, lay_option
from lean_sepia.answers.toning.wishes import Wish, aim_of, wishes_for
from lean_sepia.answers.toning.zone import may_be_used
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.paint.paint import Paint
from lean_sepia.recipe.fades.mists import Joint
from lean_sepia.ui.kit.panel import Panel, button, label, row, rule
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.shell.session import Session

_SHOWN = 3


class JointPanel(Panel):
    """Asked for, it finds one lightener for every zone that has a base and something to fade to; then lays it on all."""

    def __init__(self, session: Session) -> None:
        super().__init__(_("One lightener for all"))
        self._session = session
        self._questions: list[ToneQuestion] = []
        self.found: list[Joint] = []
        self._words = label(_("A common lightener ties the zones together."), "second", wrap=True)
        self._lines = Rows(spacing=3)
        self.look = button(_("Find one for all zones"), "tool")
        self.look.clicked.connect(self.look_for_one)
        self.lay = button(_("Lay on all"), "tool", _("Every zone gets a fade with it, in parts of its own"))
        self.lay.clicked.connect(self.lay_all)
        self.lay.hide()
        for item in (self._words, self._lines):
            self.add(item)
        self.add(row(self.look, self.lay, None, spacing=4))
        self.spray, self.wish = Spray(), Wish()

    def forget(self, spray: Spray, wish: Wish) -> None:
        """Something else is asked for: what was found no longer holds."""
        self.spray, self.wish = spray, wish
        self.found = []
        self.lay.hide()
        self._lines.fill(())
        self._words.setText(_("A common lightener ties the zones together."))

    def look_for_one(self) -> None:
        """Ask about every zone."""
        project, paints = self._session.project, self._session.shelf.paints()
        cuts = dict(self._session.cuts())
        wish, spray = self.wish, self.spray

        def work(_progress: object) -> tuple[list[ToneQuestion], list[Joint] | str]:
            asked = [_question(project, cut, wish, spray, paints) for cut in cuts.values()]
            questions = [one for one in asked if one is not None]
            return questions, _answered(questions)

        self._session.jobs.start("joint", work, self._show)

    def _show(self, both: tuple[list[ToneQuestion], list[Joint] | str]) -> None:
        self._questions, found = both
        if isinstance(found, str):
            self.found = []
            self._words.setText(found)
            self._lines.fill(())
        else:
            self.found = found
            names = {paint.id: paint.name for paint in self._session.shelf.paints()}
            best = names.get(found[0].options[0].paint, "")
            self._words.setText(_("{0} in every zone: {1:.1f} ΔE00 off on average, {2:.1f} at most.").format(
                best, found[0].de00_mean, found[0].de00_worst
            ))  # fmt: skip
            self._lines.fill(self._rows(names))
        self.lay.setVisible(bool(self.found))

    def _rows(self, names: dict[str, str]) -> Iterator[Item]:
        cups = [question for question in self._questions if question.cup]
        project = self._session.project
        for question, option in zip(cups, self.found[0].options, strict=True):
            yield rule()
            parts = f"{option.base_parts} : {option.lightener_parts}"
            yield row(
                label(project.zone(question.zone).short),
                None,
                label(parts),
                label(f"{option.de00:.1f}", "strong"),
            )
        for other_way in self.found[1:_SHOWN]:
            yield rule()
            other = names.get(other_way.options[0].paint, "")
            yield row(
                label(_("or {0}").format(other), "second"),
                None,
                label(f"{other_way.de00_mean:.1f}", "second"),
            )

    def lay_all(self) -> None:
        """Lay the nearest on every zone, in one edit."""
        cups = [question for question in self._questions if question.cup]
        if not self.found:
            return
        options = self.found[0].options

        def change(project: Project) -> Project:
            for question, option in zip(cups, options, strict=True):
                project = lay_option(project, question, option)
            return project

        self._session.edit(_("One lightener on all zones"), change)


def _answered(questions: list[ToneQuestion]) -> list[Joint] | str:
    """What was found, or in words why nothing was."""
    try:
        return joint(questions)
    except SepiaError as error:
        return str(error)


def _question(
    project: Project, cut: Strata, wish: Wish, spray: Spray, shelf: Sequence[Paint]
) -> ToneQuestion | None:
    """A zone's part in the question; None where it has nothing to fade."""
    if cut.fresh is None:
        return None
    aged = aged_like_others(project, cut.zone, cut.targets)
    possible = wishes_for(cut.targets, aged is not None)
    kind = wish.kind if wish.kind in possible else possible[0]
    before = fading.before_fade(project, cut.zone) or cut.fresh
    aim = aim_of(Wish(kind, wish.by, wish.foot), before, cut.targets, aged)
    how = Spray(spray.mists, spray.thinner_share, spray.tool)
    return fading.ask(project, cut.zone, aim, may_be_used(project, cut.zone, shelf), how)
