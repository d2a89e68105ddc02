"""What the correction of a photo rests on: its anchors, how well they agree, and the samples before and after."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from lean_sepia.answers.evidence import outline_of, patch_of
from lean_sepia.arrays import triple
from lean_sepia.colour.words import difference
from lean_sepia.document.model import AnchorMark
from lean_sepia.language import _, ngettext, plain
from lean_sepia.photo.correction.cast import Cast
from lean_sepia.photo.correction.kinds import LIGHT_WORDS
from lean_sepia.photo.correction.next_evidence import open_words
from lean_sepia.ui.evidence.development import guess_words
from lean_sepia.ui.kit.panel import Panel, button, label, row
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Fields
from lean_sepia.ui.photo.seen_photo import Seen
from lean_sepia.ui.photo.tool_row import ToolRow
from lean_sepia.ui.photo.viewer import PhotoViewer
from lean_sepia.ui.shell.session import Session


class CastPanel(Panel):
    """The cast report of one photo."""

    edit_wanted = Signal(object)
    remove_wanted = Signal(str)

    def __init__(self, session: Session, viewer: PhotoViewer, kind: QWidget) -> None:
        super().__init__()
        self.set_caption(_("Cast"))
        self.add(kind)
        self.tools = ToolRow(
            viewer,
            (
                ("grey", _("Grey"), _("Click something grey or white (N)")),
                ("known", _("Colour"), _("Click something whose colour is known (K)")),
                ("chart", _("Chart"), _("Click the corners of a chart of 24 patches (C)")),
            ),
        )
        self.add(row(label(_("Known"), "second"), None, self.tools, spacing=6))
        self._session = session
        self.words, self.detail = label("", "title", wrap=True), label("", "second", wrap=True)
        self._anchors = Rows(spacing=2)
        self._listed: object = None
        self._before, self._after = Fields(0, 16), Fields(0, 16)
        for item in (self.words, self.detail, self._anchors, self._before, self._after):
            self.add(item)

    def show_cast(self, seen: Seen | None) -> None:
        """Report on a photo, or say what to do first."""
        anchors = seen.photo.anchors if seen else ()
        self.set_remark(ngettext("{0} anchor", "{0} anchors", len(anchors)).format(len(anchors)))
        coloured = seen is not None and seen.photo.tones == "colour"
        for field in (self._before, self._after):
            field.setVisible(bool(anchors) and coloured)
        if anchors != self._listed:
            self._listed = anchors
            self._anchors.fill(self._anchor_rows(anchors))
        if seen is not None and not coloured:
            self._show_colourless(seen)
        elif seen is None or seen.cast.believed is None:
            self.words.setText(_("As found."))
            self.detail.setText(
                _(
                    "Mark something known: grey or white with Grey, or something whose colour you know. Without one a colour can be 20 out."
                )
                + (f" {guess_words(seen)}" if seen is not None and guess_words(seen) else "")
            )
        else:
            self._show_correction(seen)

    def _anchor_rows(self, anchors: Sequence[AnchorMark]) -> Iterator[Item]:
        for anchor in anchors:
            if not anchor.group or anchor.guess:
                yield self._anchor_row(anchor)
        for group in dict.fromkeys(anchor.group for anchor in anchors if anchor.group and not anchor.guess):
            yield self._chart_row(group, sum(anchor.group == group for anchor in anchors))

    def _show_colourless(self, seen: Seen) -> None:
        if seen.photo.tones == "colourised":
            self.words.setText(_("Coloured in later."))
            self.detail.setText(
                _("Its lightness and pattern count; its colours are someone's guess and are not used.")
            )
        else:
            self.words.setText(_("Black and white."))
            self.detail.setText(
                _("Samples are greys here. Anchors say what is certain, such as white lettering.")
            )

    def _show_correction(self, seen: Seen) -> None:
        self.words.setText(cast_words(seen))
        detail = [open_words(seen.still_open)] if seen.still_open else []
        if guess_words(seen):
            detail.append(guess_words(seen))
        if seen.cast.light:
            detail.append(_("Most like {0}.").format(_(LIGHT_WORDS[seen.cast.light])))
        if seen.beside:
            others = ", ".join(one.title for one in seen.beside)
            detail.append(_("Developed like {0}, whose anchors count too.").format(others))
        hint(self.detail, seen.cast.model)
        if seen.cast.anchor_error_de00 is not None:
            detail.append(_("Held-out error {0}.").format(f"{seen.cast.anchor_error_de00:.1f}"))
        detail += [word[:1].upper() + word[1:] + "." for word in seen.cast.warnings]
        self.detail.setText(" ".join(detail))
        samples = [s for s in self._session.project.samples if s.photo == seen.photo.id][:6]
        self._before.setVisible(bool(samples))
        self._after.setVisible(bool(samples))
        self._after.show_labs([sample.lab for sample in samples], _("Samples corrected"))
        outlines, pixels = [outline_of(sample) for sample in samples], seen.picture.pixels
        self._session.jobs.start(
            "as found",
            lambda _p: [triple(Cast().lab(patch_of(pixels, outline).mean)) for outline in outlines],
            lambda labs: self._before.show_labs(labs, _("Samples as found")),
        )

    def _anchor_row(self, anchor: AnchorMark) -> QHBoxLayout:
        known = (
            _("grey, L* {0}").format(f"{anchor.lightness:.0f}") if anchor.lightness is not None else _("grey")
        )
        if anchor.a or anchor.b:
            figures = (anchor.lightness or 0.0, anchor.a, anchor.b)
            known = ", ".join(plain(value) for value in figures)
        name = button(anchor.name or _("Anchor"), "link", _("Change what is known of it"))
        name.clicked.connect(lambda: self.edit_wanted.emit(anchor))
        drop = self._drop(anchor.id, _("Remove anchor {0}").format(anchor.name))
        return row(name, None, label(known, "second"), drop, spacing=6)

    def _chart_row(self, group: str, count: int) -> QHBoxLayout:
        known = label(_("{0} patches").format(count), "second")
        return row(label(_("Chart")), None, known, self._drop(group, _("Remove chart")), spacing=6)

    def _drop(self, name: str, words: str) -> QPushButton:
        drop = button("×", "step", words)
        drop.setAccessibleName(words)
        drop.clicked.connect(lambda: self.remove_wanted.emit(name))
        return drop


def cast_words(seen: Seen) -> str:
    """What the correction took out, in words."""
    white = triple(seen.cast.lab([0.5, 0.5, 0.5]))
    neutral = triple(Cast().lab([0.5, 0.5, 0.5]))
    change = difference(white, neutral)
    if change.de00 < 1.5:
        return _("Hardly any cast.")
    warm = neutral[2] - white[2] > abs(neutral[1] - white[1]) * 0.5
    cool = white[2] - neutral[2] > abs(neutral[1] - white[1]) * 0.5
    name = _("Warm light") if warm else _("Cool light") if cool else "A cast"
    return _("{0}, taken out.").format(name)
