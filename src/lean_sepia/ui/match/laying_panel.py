"""What it takes to lay a recipe: coats, how it looks wet, how much to mix, what its media need."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal

from lean_sepia.answers.match import MatchQuestion
from lean_sepia.colour.words import difference
from lean_sepia.language import _, ngettext
from lean_sepia.recipe.batch import BatchVolume
from lean_sepia.recipe.behaviour import Behaviour, SheenByMedium
from lean_sepia.recipe.parts import volume_words
from lean_sepia.ui.kit.panel import Panel, button, label, row
from lean_sepia.ui.kit.swatch import Fields, Lab

_SAME_ML = 0.05


class LayingPanel(Panel):
    """Says it in a line each; a button takes the amount that the zone needs."""

    volume_wanted = Signal(float)

    def __init__(self) -> None:
        super().__init__()
        self.set_caption(_("Laying it"))
        self.needed_ml: float | None = None
        self._wet = Fields(margin=0, height=20)
        self._wet.setFixedSize(64, 20)
        self.hides, self.wet = label("", "second", wrap=True), label("", "second", wrap=True)
        self.needs, self.cautions = label("", "second", wrap=True), label("", "second", wrap=True)
        self.medium = label("", "second", wrap=True)
        self.take = button(_("Take"), "tool", _("Mix as much as the zone takes"))
        self.take.clicked.connect(lambda: self.volume_wanted.emit(self.needed_ml or 0.0))
        self.add(self.hides)
        self.add(row(self._wet, self.wet, spacing=8))
        self.add(row(self.needs, self.take, spacing=8))
        self.add(self.medium)
        self.add(self.cautions)

    def show_recipe(self, dry: Lab, how: Behaviour, question: MatchQuestion, cautions: Sequence[str]) -> None:
        """Show one recipe of this colour, how it behaves, and how much of it is to be mixed."""
        self.show()
        self.hides.setText(
            _("Never hides its ground: it stays a film.")
            if how.hides_coats is None
            else ngettext(
                "Hides in about {0} coat at {1} % thinner.",
                "Hides in about {0} coats at {1} % thinner.",
                max(1, round(how.hides_coats)),
            ).format(max(1, round(how.hides_coats)), round(100 * question.thinner_share))
        )
        self._wet.show_labs([how.wet, dry], _("Wet and dry"))
        self.wet.setText(_("Wet it is {0}.").format(difference(dry, how.wet).words))
        self._show_medium(dry, how.by_medium)
        self.cautions.setText(" ".join(cautions))
        self.cautions.setVisible(bool(cautions))

    def show_amount(self, question: MatchQuestion, area_cm2: float | None, needed: BatchVolume) -> None:
        """What is mixed, of what, and whether that is what the area takes."""
        self.needed_ml = needed.total_ml if area_cm2 else None
        volume = question.volume
        said = [
            _("{0}: {1} paint, {2} thinner.").format(
                volume_words(volume.total_ml), volume_words(volume.paint_ml), volume_words(volume.thinner_ml)
            )
            if volume.thinner_ml
            else _("{0} of paint.").format(volume_words(volume.total_ml))
        ]
        if question.set_aside_ml:
            said.append(
                _("Set aside for coats from its cup: {0} of paint more.").format(
                    volume_words(question.set_aside_ml)
                )
            )
        differs = area_cm2 and abs(needed.total_ml - volume.total_ml) >= _SAME_ML
        if differs:
            said.append(_("{0} cm² take {1} ml.").format(f"{area_cm2:g}", f"{needed.total_ml:.1f}"))
        elif not area_cm2:
            said.append(_("Give the zone an area (… above the zones) to know how much it takes."))
        self.needs.setText(" ".join(said))
        self.take.setVisible(bool(differs))

    def _show_medium(self, dry: Lab, found: SheenByMedium | None) -> None:
        """How a medium gives the sheen without the varnish."""
        self.medium.setVisible(found is not None)
        if found is not None:
            words = _("Without the varnish: {0} {1} to {2} of the mix gives its sheen; then it is {3}.")
            self.medium.setText(
                words.format(
                    found.medium_parts, found.medium, found.mixture_parts, difference(dry, found.lab).words
                )
            )
