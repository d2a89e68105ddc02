"""How the area of the chosen zone divides into its tones on a photo, and how the model compares."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox

from lean_sepia.document.model import Region
from lean_sepia.language import _, signed
from lean_sepia.photo.shares import ToneShare, contrasts, shares_missed
from lean_sepia.photo.stated.roles import ROLE_WORDS
from lean_sepia.ui.kit.panel import Panel, label, row, rule
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Chip
from lean_sepia.ui.shell.session import Session


class SharesPanel(Panel):
    """Hidden until an area of the chosen zone was traced on this photo."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.set_caption(_("Tones of the area"))
        self._session = session
        self._list = Rows(spacing=3)
        self.add(self._list)
        self._words = label("", "second", wrap=True)
        self.add(self._words)
        self.snap = QCheckBox(_("Move to edges of colour"))
        self.snap.setChecked(True)
        self.add(self.snap)

    def show_shares(self, photo_id: str, tracing: bool) -> None:
        """Show the shares of the chosen zone on a photo; also while an area is about to be traced."""
        region = self._region(photo_id)
        self.setVisible(tracing or region is not None)
        if region is None:
            self._list.fill(())
            self._words.setText(
                _(
                    "Click the corners of the zone, then the first one again. Its samples say which tones there are."
                )
            )
            return
        mine = [ToneShare(tone.name, tone.share, tone.lab) for tone in region.tones]
        other = self._counterpart(photo_id)
        missed = shares_missed(mine, other) if other else {}
        items: list[Item] = []
        for tone in mine:
            figure = label(f"{100 * tone.share:.0f} %")
            aside = label(signed(100 * missed[tone.name]) if tone.name in missed else "", "second")
            items += [row(Chip(tone.lab, 14, 14), label(tone_words(tone.name)), None, aside, figure), rule()]
        self._list.fill(items)
        self.set_remark(_("model against photo") if missed else "")
        said = [
            _("{0} and {1}: ΔL* {2}, ΔE00 {3}.").format(
                tone_words(pair.first),
                tone_words(pair.second),
                signed(pair.delta_lightness),
                f"{pair.de00:.0f}",
            )
            for pair in contrasts(mine)[:2]
        ]
        rest = 1 - sum(tone.share for tone in mine)
        if rest > 0.02:
            said.append(_("{0} % is like none of them.").format(f"{100 * rest:.0f}"))
        self._words.setText(" ".join(said))

    def _region(self, photo_id: str) -> Region | None:
        zone = self._session.zone
        return next(
            (r for r in self._session.project.regions if r.photo == photo_id and r.zone == zone and r.tones),
            None,
        )

    def _counterpart(self, photo_id: str) -> list[ToneShare]:
        """The tones of the same zone on a photo of the model."""
        project, zone = self._session.project, self._session.zone
        models = {photo.id for photo in project.photos if photo.of_model and photo.id != photo_id}
        found = next((r for r in project.regions if r.photo in models and r.zone == zone and r.tones), None)
        return [ToneShare(tone.name, tone.share, tone.lab) for tone in found.tones] if found else []


def tone_words(name: str) -> str:
    """What a tone is called: the word of its role, or its own name."""
    return _(ROLE_WORDS[name]) if name in ROLE_WORDS else name
