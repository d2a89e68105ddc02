"""A sheet on how you work: each question once, the schools with their reasons, and what each would change in this plan."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from lean_sepia.answers import plan
from lean_sepia.answers.working.schools import Outcome, outcome, pattern_orders
from lean_sepia.colour.distance import kept_through_air
from lean_sepia.document.edits.planning import set_scale_effect, set_school
from lean_sepia.errors import SepiaError
from lean_sepia.language import _, day_and_time, ngettext
from lean_sepia.plan.adapting import changed_by
from lean_sepia.plan.masking import MaskingCost
from lean_sepia.plan.schools import SCHOOLS
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import Panel, button, label, measure_box, row
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.shell.session import Session
from lean_sepia.wear.scale import VIEWED_MM


@guarded
class SchoolsSheet(Sheet):
    """One question at a time; choosing is an edit at once."""

    def __init__(self, session: Session, question: str = "decals") -> None:
        super().__init__(_("plan"), _("How you work"))
        self._session = session
        self._outcomes: dict[str, Outcome] = {}
        self.add(
            label(
                _("Practice divides on these. Choose once; placing, rules, waits and proposals follow."),
                "second",
                wrap=True,
            )
        )
        self.question = ChoiceBox(
            _("Question on which schools differ"), [(_(one.words), code) for code, one in SCHOOLS.items()]
        )
        self.question.choose(question)
        self.question.activated.connect(lambda _index: self.refresh())
        self.add(self.question)
        self._rows = Rows(spacing=10)
        self.add(self._rows)
        self.body.addStretch(1)
        leave = button(_("Close"))
        leave.clicked.connect(self.leave)
        self.buttons([leave])
        session.changed.connect(self.refresh)
        self.refresh()

    @property
    def asked(self) -> str:
        """The question that is shown."""
        return str(self.question.value)

    def refresh(self) -> None:
        """Show the schools; what each would change is worked out beside."""
        self._outcomes = {}
        self._rows.fill(self._items())
        asked, project = self.asked, self._session.project
        if asked not in changed_by() or not project.steps:
            return

        def work(_progress: object) -> dict[str, Outcome]:
            question = plan.ask(project)
            found = {}
            for choice in SCHOOLS[asked].choices:
                try:
                    found[choice] = outcome(project, question, asked, choice)
                except SepiaError:
                    continue
            return found

        self._session.jobs.start(f"schools {asked}", work, partial(self._answered, asked))

    def _answered(self, asked: str, found: dict[str, Outcome]) -> None:
        if asked == self.asked:
            self._outcomes = found
            self._rows.fill(self._items())

    def _items(self) -> Iterator[Item]:
        project, question = self._session.project, SCHOOLS[self.asked]
        chosen = project.schools.get(self.asked, "")
        for code, choice in question.choices.items():
            taken = code == chosen
            usual = not chosen and code == question.usual
            panel = Panel(kind="raised" if taken else "panel")
            take = button(_("Chosen") if taken else _("Choose"), "tool")
            take.setEnabled(not taken)
            take.setAccessibleName(_("Choose: {0}").format(_(choice.words)))
            take.clicked.connect(partial(self.choose, code))
            panel.add(row(label(_(choice.words), "strong", wrap=True), take))
            panel.add(
                label(
                    _(choice.reason) + (" " + _("Taken as long as nothing is chosen.") if usual else ""),
                    "second",
                    wrap=True,
                )
            )
            if code in self._outcomes:
                for words in _outcome_words(self._outcomes[code]):
                    panel.add(label(words, "second", wrap=True))
            yield panel
        if self.asked == "camouflage":
            yield from self._patterns()
        if self.asked == "scale-effect":
            yield from self._scale_effect()

    def _scale_effect(self) -> Iterator[Item]:
        """What it is reckoned with, and what it does to the chosen zone's targets."""
        project, zone = self._session.project, self._session.zone
        sight = measure_box(0.5, 300, project.sight_km, "km", _("Sight by the haze law"), 1, 96)
        share = measure_box(0, 50, 100 * project.white_share, "%", _("Customary share of white"), 0, 84)
        for box in (sight, share):
            box.editingFinished.connect(lambda: self._reckon(sight.value(), share.value() / 100))
        yield row(label(_("lost from sight at"), "second"), None, sight)
        yield row(label(_("white by custom"), "second"), None, share)
        if zone:
            away = VIEWED_MM / 1000 * project.subject_of(project.zone(zone)).scale
            lost = 100 * (1 - kept_through_air(away, project.sight_km))
            words = _(
                "Looked at from {0:.0f} cm this model is {1:.0f} m away: the air takes {2:.1f} % of the contrast. It is added to every target once, last of all."
            )
            yield label(words.format(VIEWED_MM / 10, away, lost), "second", wrap=True)

    def _reckon(self, sight_km: float, white_share: float) -> None:
        now = self._session.project
        if (sight_km, white_share) != (now.sight_km, now.white_share):
            self._session.edit(
                _("Reckon the scale effect otherwise"), lambda p: set_scale_effect(p, sight_km, white_share)
            )

    def _patterns(self) -> Iterator[Item]:
        project = self._session.project
        for surface in project.surfaces:
            found = pattern_orders(project, surface.id)
            if found is not None:
                yield label(surface.name, "strong")
                yield label(_("Base first: {0}.").format(_cost_words(found.base_first)), "second", wrap=True)
                yield label(_("Reverse: {0}.").format(_cost_words(found.reverse)), "second", wrap=True)
                less = (
                    _("Reverse masks less.")
                    if found.reverse_is_less
                    else _("Base first masks no more than reverse.")
                )
                yield label(f"{less} {_('Reverse shades blind: make a test piece.')}", "second", wrap=True)

    def choose(self, code: str) -> None:
        """Choose a school."""
        asked = self.asked
        words = _(SCHOOLS[asked].choices[code].words)
        self._session.edit(
            _("How you work: {0}").format(words), partial(set_school, question=asked, choice=code)
        )


def _outcome_words(found: Outcome) -> Iterator[str]:
    """What a school comes to on this project."""
    if found.finish is not None:
        yield ngettext("Ready {0}, {1} step.", "Ready {0}, {1} steps.", found.steps).format(
            day_and_time(found.finish), found.steps
        )
    stops, warns, notes = found.findings
    said = [
        ngettext("{0} stop", "{0} stops", stops).format(stops) if stops else "",
        ngettext("{0} warning", "{0} warnings", warns).format(warns) if warns else "",
        ngettext("{0} note", "{0} notes", notes).format(notes) if notes else "",
    ]
    risk = ", ".join(words for words in said if words) or _("nothing found")
    yield _("{0}; {1} of {2} steps can be undone.").format(
        risk[:1].upper() + risk[1:], found.undoable, found.steps
    )
    if found.masking.masks:
        yield _("Masking: {0}.").format(_cost_words(found.masking))


def _cost_words(cost: MaskingCost) -> str:
    masks = ngettext("{0} mask", "{0} masks", cost.masks).format(cost.masks)
    said = _("{0}, {1:.0f} cm², {2:.1f} h").format(masks, cost.masked_cm2, cost.minutes / 60)
    if not cost.overspray:
        return said
    beside = ngettext(
        "paint lies open beside a spray once", "paint lies open beside a spray {0} times", cost.overspray
    )
    return _("{0}; {1}").format(said, beside.format(cost.overspray))
