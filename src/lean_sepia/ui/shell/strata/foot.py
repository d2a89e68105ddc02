"""The foot of the strata: the target, and beside it the way to what will be seen, coat by coat; a click asks what would bring it nearer."""

from __future__ import annotations

from itertools import pairwise

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QCursor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QVBoxLayout, QWidget

from lean_sepia.answers.nearer.parts import WORTH_NAMING_DE00, Miss, misses_of
from lean_sepia.answers.stages import AWAY_WORDS, Compared, last_compared
from lean_sepia.answers.strata import Strata
from lean_sepia.colour.words import difference
from lean_sepia.language import _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import KeyboardRing, label
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.swatch import Lab, lab_words, paint_field, spoken_colours
from lean_sepia.ui.kit.theme import ACCENT, WELL, WELL_TEXT
from lean_sepia.ui.shell.session import Session

_HEIGHT, _MARGIN = 64, 12
_TARGET = 0.4  # of the breadth: the target is looked at beside all steps
_MOVES_DE00 = 0.05  # what changes nothing is no step


@guarded
class PathField(KeyboardRing, QAbstractButton):
    """A target and the colours on the way to what will be seen, edge to edge; the step that makes most of the miss is outlined."""

    def __init__(self) -> None:
        super().__init__()
        self._target: Lab | None = None
        self._steps: tuple[Lab | None, ...] = (None,)
        self._marked: int | None = None
        self.setFixedHeight(_HEIGHT)
        self.setCursor(QCursor(Qt.CursorShape.PointingHandCursor))

    def sizeHint(self) -> QSize:
        return QSize(120, _HEIGHT)

    def show_path(
        self, target: Lab | None, steps: tuple[Lab | None, ...], marked: int | None, spoken: str
    ) -> None:
        """Show a target and the steps beside it, one of them marked."""
        self._target, self._steps, self._marked = target, steps, marked
        self.setAccessibleName(spoken)
        self.setAccessibleDescription(spoken_colours([target, steps[-1]], ()))
        hint(self, "\n".join(lab_words(lab) for lab in (target, steps[-1]) if lab))
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter, ink = QPainter(self), self.palette().color(WELL_TEXT)
        painter.fillRect(self.rect(), self.palette().color(WELL))
        inner = QRectF(self.rect()).adjusted(_MARGIN, _MARGIN, -_MARGIN, -_MARGIN)
        first = 0.5 if len(self._steps) < 2 else _TARGET
        split = round(inner.left() + first * inner.width())
        paint_field(
            painter,
            QRectF(inner.left(), inner.top(), split - inner.left(), inner.height()),
            self._target,
            ink,
        )
        count = len(self._steps)
        edges = [round(split + (inner.right() - split) * number / count) for number in range(count + 1)]
        boxes = [QRectF(left, inner.top(), right - left, inner.height()) for left, right in pairwise(edges)]
        for box, lab in zip(boxes, self._steps, strict=True):
            paint_field(painter, box, lab, ink)
        if self._marked is not None:
            painter.setPen(QPen(ink, 2))
            painter.drawRect(boxes[self._marked].adjusted(0, -3, 0, 3))
        if self.ring:
            painter.setPen(QPen(self.palette().color(ACCENT), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))


class Foot(QWidget):
    """The path of the chosen zone and one sentence that names what makes its miss."""

    nearer_wanted = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._shown: Strata | None = None
        self.path = PathField()
        self.path.clicked.connect(self.nearer_wanted)
        self.words = label("", "second", wrap=True)
        self.words.setMinimumHeight(34)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(4)
        layout.addWidget(self.path)
        layout.addWidget(self.words)

    def show_nothing(self) -> None:
        """No zone is chosen."""
        self._shown = None
        self.path.setEnabled(False)
        self.path.show_path(None, (None,), None, _("No zone chosen"))
        self.words.setText("")

    def show_cut(self, cut: Strata) -> None:
        """A zone beside its last target; the way there follows, once it is known."""
        if cut is self._shown:
            return
        self._shown, found = cut, last_compared(cut)
        self.path.setEnabled(found is not None)
        if found is None or found.predicted is None:
            target = cut.targets.seen or cut.targets.exposed or cut.targets.fresh
            spoken = _("Target and what will be seen")
            self.path.show_path(target.lab if target else None, (None,), None, spoken)
            missing = _("No target yet: take a sample in Evidence, or state a colour in “About this zone”.")
            self.words.setText(_("Target | not matched yet.") if target else missing)
            return
        self.path.show_path(
            found.target.lab,
            (found.predicted,),
            None,
            _("Target and what will be seen; what would bring it nearer"),
        )
        self.words.setText(_said(found, ""))
        project = self._session.project
        self._session.jobs.at_rest(
            "path",
            lambda _progress: (cut, misses_of(project, cut.zone)),
            lambda answer: self._show_path(*answer),
        )

    def _show_path(self, cut: Strata, misses: list[Miss]) -> None:
        found = last_compared(cut)
        miss = next((one for one in misses if found is not None and one.stage == found.stage), None)
        if cut is not self._shown or miss is None or found is None:
            return
        steps, names = list[Lab | None](), list[str]()
        largest, marked = miss.largest, None
        for part in miss.path:
            if not steps or abs(part.share) >= _MOVES_DE00:
                if largest is not None and part is largest[0]:
                    marked = len(steps)
                steps.append(part.lab)
                names.append(part.name)
        spoken = _("Target, then after {0}; what would bring it nearer").format(", ".join(names))
        self.path.show_path(
            found.target.lab, tuple(steps) or (found.predicted,), marked if len(steps) > 1 else None, spoken
        )
        hint(self.path, "\n".join([_("target"), *names, _("Click: what would bring it nearer")]))
        made = ""
        # A step that later ones correct makes more than the miss: of that nobody could say “of it”.
        if largest is not None and WORTH_NAMING_DE00 <= largest[1] <= miss.de00 and miss.de00 >= 1.0:
            made = _("{0} makes {1:.1f} of it.").format(largest[0].name, largest[1])
        self.words.setText(_said(found, made))


def _said(found: Compared, made: str) -> str:
    """How far what is predicted is from its target, which way, and which coat makes most of it."""
    assert found.predicted is not None
    words = difference(found.target.lab, found.predicted).words
    sentence = _("{0}: {1}.").format(_(AWAY_WORDS[found.stage]).format(found.de00 or 0.0), words)
    return f"{sentence} {made}".rstrip()
