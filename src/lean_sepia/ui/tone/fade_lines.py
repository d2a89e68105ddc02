"""What a fade is to come to and how it is laid, in two lines to choose from."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from lean_sepia.answers.toning.fading import FADE_THINNER, Spray
from lean_sepia.answers.toning.wishes import WISHES, Wish
from lean_sepia.document.model import Coat, Project
from lean_sepia.language import _, ngettext
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.tools import TOOLS
from lean_sepia.recipe.fades.mists import MOST_MISTS
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.fields.flow import Flow
from lean_sepia.ui.kit.fields.under_box import UnderBox
from lean_sepia.ui.kit.panel import count_box, holder, label, row

_USUAL_WISH = 6  # L*, where no faded place was sampled (practice)
_SHARES = ((1 / 2, "1 : 1"), (1 / 3, "2 : 1"))


class FadeLines(QWidget):
    """`changed` says that something else is asked for."""

    changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.aim = ChoiceBox(_("What the fade is to come to"), width=212)
        self.by = count_box(-30, 40, _USUAL_WISH, _("By so many L*, or so many steps"))
        self.foot = count_box(-20, 40, 0, _("At the foot by so many L*"))
        self._unit = label("L*", "second")
        self._foot = holder(
            row(label(_("at the foot"), "second"), self.foot, label("L*", "second"), spacing=6)
        )
        self.mists = ChoiceBox(_("In how many mists"), width=156)
        self.thinner = count_box(0, 97, round(100 * FADE_THINNER), _("Thinner in per cent"))
        self.tool = ChoiceBox(_("Laid with"), width=150)
        self.medium = ChoiceBox(_("Clear medium in the cup"), width=176)
        self.lighteners = ChoiceBox(
            _("How many lighteners at once"), [(_("one lightener"), 1), (_("one or two"), 2)], 132
        )
        self.mists.offer([
            (_("as many as needed"), 0),
            *((ngettext("{0} mist", "{0} mists", n).format(n), n) for n in range(1, MOST_MISTS + 1)),
        ], keep=0)  # fmt: skip
        self.mists.view().setMinimumWidth(150)
        body = QVBoxLayout(self)
        body.setContentsMargins(0, 0, 0, 0)
        body.setSpacing(6)
        body.addLayout(
            Flow(label(_("Fade"), "second"), self.aim, self.by, self._unit, self._foot, self.lighteners)
        )
        thinned = holder(
            row(label(_("of"), "second"), self.thinner, label(_("% thinner, with"), "second"), spacing=6)
        )
        self.under = UnderBox()
        self.under.toggled.connect(self._tell)
        body.addLayout(Flow(self.mists, thinned, self.tool, self.medium, self.under))
        self.aim.currentIndexChanged.connect(self._aim_changed)
        for box in (self.mists, self.tool, self.medium, self.lighteners):
            box.currentIndexChanged.connect(self._tell)
        for count in (self.by, self.foot, self.thinner):
            count.valueChanged.connect(self._tell)

    def _aim_changed(self, *_why: object) -> None:
        """Steps of chalk and L* are counted differently: each begins with its own usual figure."""
        with QSignalBlocker(self.by):
            self.by.setValue(1 if self.aim.value == "chalkier" else _USUAL_WISH)
        self._tell()

    def _tell(self, *_why: object) -> None:
        self._show_what_counts()
        self.changed.emit()

    def _show_what_counts(self) -> None:
        kind = self.aim.value
        self.by.setVisible(kind in ("lighter", "chalkier", "gradient"))
        self._unit.setVisible(kind in ("lighter", "gradient"))
        self._foot.setVisible(kind == "gradient")

    def offer(
        self, project: Project, wishes: Sequence[str], paints: Sequence[Paint], coat: Coat | None, new: bool
    ) -> None:
        """Offer what there is for a zone; of another zone than before, with the figures of its own fade."""
        if new:
            self.aim.offer([(_(WISHES[name]), name) for name in wishes], keep=wishes[0])
            if coat is not None:
                with QSignalBlocker(self.thinner):
                    self.thinner.setValue(round(100 * coat.thinner_share))
        else:
            self.aim.offer([(_(WISHES[name]), name) for name in wishes])
        tools = list(project.owns.tools("fade"))
        if coat is not None and coat.tool not in tools:
            tools.append(coat.tool)
        keep = coat.tool if new and coat is not None else None
        self.tool.offer([(_(TOOLS[tool].words), tool) for tool in tools], keep=keep)
        media = [
            (f"{paint.name}, {words}", (paint.id, share))
            for paint in paints
            if paint.clear
            for share, words in _SHARES
        ]
        self.medium.offer([(_("no clear medium"), ("", 0.0)), *media])
        if new:
            with QSignalBlocker(self.mists):
                self.mists.choose(coat.passes if coat is not None and coat.passes <= MOST_MISTS else 0)
        self._show_what_counts()

    @property
    def wish(self) -> Wish:
        """What is wished for."""
        kind = self.aim.value
        return Wish(str(kind) if kind else "lighter", float(self.by.value()), float(self.foot.value()))

    @property
    def spray(self) -> Spray:
        """How it is to be laid."""
        mists, lighteners = self.mists.value, self.lighteners.value
        medium = self.medium.value
        name, share = medium if isinstance(medium, tuple) else ("", 0.0)
        tool = self.tool.value
        return Spray(
            mists if isinstance(mists, int) and mists else None, self.thinner.value() / 100, str(tool) if tool else None,
            name or None, share or 1 / 3, lighteners if isinstance(lighteners, int) else 1,
        )  # fmt: skip
