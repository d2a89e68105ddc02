"""How a picture was developed, as the user states it: its kind, and what is taken for black and white by guess."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QObject, Signal

from lean_sepia.language import _
from lean_sepia.photo.stated.picture_kind import KIND_WORDS
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import button, holder, label, row
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.photo.seen_photo import Seen

_KIND_WIDTH = 164


class Development(QObject):
    """A box for the kind and two buttons, which their room puts where they belong."""

    kind_stated = Signal(str)
    usual_wanted = Signal(str)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        choices = [(_(words), kind) for kind, words in KIND_WORDS.items()]
        self.kind = ChoiceBox(_("Kind of picture"), [choices[-1], *choices[:-1]], _KIND_WIDTH)
        self._about = _(
            "How the picture came to be. A stated kind makes every range narrower; a wrong one makes it untrue."
        )
        hint(self.kind, self._about)
        self.kind.activated.connect(lambda _index: self.kind_stated.emit(self.kind.currentData()))
        self.shadow = button(
            _("Deep shadow"), "tool", _("Take the deepest shadow for about black: a guess that says a little")
        )
        self.glint = button(
            _("Glint"), "tool", _("Take the brightest glint for about white: a guess that says a little")
        )
        for which, choice in (("shadow", self.shadow), ("glint", self.glint)):
            choice.setCheckable(True)
            choice.clicked.connect(partial(self._ask_usual, which))

        self.guesses = holder(row(label(_("Guess"), "second"), None, self.shadow, self.glint, spacing=6))

    def _ask_usual(self, which: str, _checked: bool = False) -> None:
        self.usual_wanted.emit(which)

    def show_seen(self, seen: Seen | None) -> None:
        """Show what is stated of a photo; of one without true colours nothing is."""
        coloured = seen is not None and seen.photo.tones == "colour"
        for item in (self.kind, self.guesses):
            item.setVisible(coloured)
        if seen is None:
            return
        self.kind.choose(seen.photo.kind)
        guess = seen.picture.guess
        why = _("Looks like a {0}: {1}.").format(_(KIND_WORDS[guess.kind]), _(guess.why))
        hint(self.kind, f"{self._about} {why}" if guess_words(seen) else self._about)
        groups = {anchor.group for anchor in seen.photo.anchors}
        self.shadow.setChecked("shadow" in groups)
        self.glint.setChecked("glint" in groups)


def guess_words(seen: Seen) -> str:
    """What a picture looks like while its kind is not stated; empty where nothing speaks for a kind."""
    guess = seen.picture.guess
    if seen.photo.kind != "unknown" or guess.kind == "unknown":
        return ""
    return _("Looks like a {0}: stated, that tells a part.").format(_(KIND_WORDS[guess.kind]))
