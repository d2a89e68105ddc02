"""What was found in a plan, with what mends it in one go, and what is meant."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import partial

from PySide6.QtCore import Qt, Signal

from lean_sepia.answers.plan import PlanAnswer
from lean_sepia.answers.working.mending import Mend, mend_of
from lean_sepia.answers.working.stretches import numbers_of
from lean_sepia.document.edits.planning import accept_finding, speak_again
from lean_sepia.document.model import Project
from lean_sepia.language import _, ngettext
from lean_sepia.plan.rules.finding import SEVERITY_WORDS, Finding
from lean_sepia.plan.rules.table import BY_CODE
from lean_sepia.ui.kit.dialogs.ask import ask_text
from lean_sepia.ui.kit.diamond import Diamond
from lean_sepia.ui.kit.panel import button, label, row
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Fields
from lean_sepia.ui.shell.session import Session

Mends = Mapping[tuple[str, str, str | None], Mend]
_FEW = 6  # of which mends are looked for: the gravest


def mends_of(project: Project, findings: tuple[Finding, ...]) -> Mends:
    """What mends each of the gravest findings, where something does."""
    found = {finding.key: mend_of(project, finding) for finding in findings[:_FEW]}
    return {key: mend for key, mend in found.items() if mend is not None}


class FindingRows(Rows):
    """A finding is chosen with its step, mended, or said to be meant."""

    step_chosen = Signal(str)

    def __init__(self, session: Session) -> None:
        self._session = session
        self._quiet_open = False
        self._asking: tuple[str, str, str | None] | None = None
        super().__init__(spacing=9, right_margin=4)

    def show_findings(self, answer: PlanAnswer, mends: Mends) -> None:
        """Show what was found; `mends` as far as they are known."""
        self._answer, self._mends, self._numbers = answer, mends, numbers_of(answer)
        self.fill(self._items())

    def _items(self) -> Iterator[Item]:
        findings = self._answer.findings
        if not findings:
            yield label(_("Nothing spoils anything in this order."), "second", wrap=True)
        for finding in findings:
            yield from self._finding(finding)
        yield from self._quiet()
        yield None

    def _number(self, name: str) -> str:
        return str(self._numbers.get(name, ""))

    def _finding(self, finding: Finding) -> Iterator[Item]:
        sign = Diamond(filled=finding.severity == "stop", size=13, mark="")
        sign.setAccessibleName(_(SEVERITY_WORDS[finding.severity]))
        words = label(
            f"{self._number(finding.step)}  {finding.message}",
            "" if finding.severity != "note" else "second",
            wrap=True,
        )
        line = row(sign, words, spacing=7)
        line.setAlignment(sign, Qt.AlignmentFlag.AlignTop)
        yield line
        buttons = []
        mend = self._mends.get(finding.key)
        if mend is not None:
            yield row(20, label(_("To mend: {0}.").format(mend.words), "second", wrap=True), spacing=0)
            if mend.turned and self._asking == finding.key:
                yield from self._turned(mend)
                leave = button(_("Leave it"), "tool")
                leave.clicked.connect(partial(self._ask, None))
                buttons.append(leave)
            asks = bool(mend.turned) and self._asking != finding.key
            do = button(
                _("Mend it…") if asks else _("Lay it so") if mend.turned else _("Mend it"), "tool", mend.words
            )
            do.clicked.connect(partial(self._ask, finding.key) if asks else partial(self.mend, finding))
            buttons.append(do)
        meant = button(_("I mean it"), "tool", _("Keep it so, with a reason; it stays quiet"))
        meant.clicked.connect(partial(self.accept, finding))
        buttons.append(meant)
        yield row(20, *buttons, None, spacing=6)

    def _turned(self, mend: Mend) -> Iterator[Item]:
        """What would be seen of the zones on which coats are turned over, now and then."""
        yield row(
            20, label(_("It lays coats otherwise there. Seen now | then:"), "second", wrap=True), spacing=0
        )
        for zone, turned in mend.turned.items():
            field, name = Fields(4, 28), self._session.project.zone(zone).name
            field.show_labs([turned.before, turned.after], _("{0}: now and then").format(name))
            field.setFixedSize(72, 28)
            yield row(
                20,
                field,
                label(_("{0}, {1} ΔE00").format(name, f"{turned.de00:.1f}"), "second"),
                None,
                spacing=8,
            )

    def _ask(self, key: tuple[str, str, str | None] | None) -> None:
        self._asking = key
        self.fill(self._items())

    def _quiet(self) -> Iterator[Item]:
        quiet = self._answer.quiet
        if not quiet:
            return
        words = ngettext("{0} is meant", "{0} are meant", len(quiet)).format(len(quiet))
        more = button(words, "link", _("What was found and is meant"))
        more.clicked.connect(self._turn)
        yield row(more, None)
        if self._quiet_open:
            accepted = {(one.code, one.step, one.after): one for one in self._session.project.accepted}
            for finding in quiet:
                one = accepted.get(finding.key)
                if one is None:
                    continue
                yield label(f"{self._number(finding.step)}  {finding.message}", "second", wrap=True)
                yield label(_("Meant: {0}").format(one.reason), "second", wrap=True)
                again = button(_("Say it again"), "tool")
                again.clicked.connect(partial(self._again, one.id))
                yield row(again, None)

    def _turn(self) -> None:
        self._quiet_open = not self._quiet_open
        self.fill(self._items())

    def mend(self, finding: Finding) -> None:
        """Do what ends a finding."""
        mend = mend_of(self._session.project, finding)  # as the plan is now, should it have changed meanwhile
        if mend is not None:
            self._session.edit(mend.words, lambda _project: mend.project)

    def accept(self, finding: Finding) -> None:
        """Ask why a finding is meant; with a reason it stays quiet."""
        words = finding.message
        if BY_CODE[finding.code].safety:
            words += " " + _("This is about your health: the caution stays at the step.")
        reason = ask_text(self, _("Why is this meant?"), words, _("I mean it"))
        if reason is not None:
            change = partial(
                accept_finding, code=finding.code, step=finding.step, after=finding.after, reason=reason
            )
            self._session.edit(_("Meant: {0}").format(finding.code), change)

    def _again(self, accepted_id: str) -> None:
        self._session.edit(_("Say it again"), partial(speak_again, accepted_id=accepted_id))
