"""What it takes to lay a recipe: coats, how it looks wet, how much to mix, what its media need."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal

from lean_sepia.colour.words import difference
from lean_sepia.recipe.batch import batch_volume
from lean_sepia.recipe.behaviour import Behaviour, SheenByMedium
from lean_sepia.ui.kit.panel import Panel, button, label, row
from lean_sepia.ui.kit.swatch import Fields, Lab


class LayingPanel(Panel):
    """Says it in a line each; a button takes the amount that the zone needs."""

    volume_wanted = Signal(float)

    def __init__(self) -> None:
        super().__init__()
        self.set_caption(self.tr("Laying it"))
        self.needed_ml: float | None = None
        self._wet = Fields(margin=0, height=20)
        self._wet.setFixedSize(64, 20)
        self.hides, self.wet = label("", "second", wrap=True), label("", "second", wrap=True)
        self.needs, self.cautions = label("", "second", wrap=True), label("", "second", wrap=True)
        self.medium = label("", "second", wrap=True)
        self.take = button(self.tr("Take"), "tool", self.tr("Mix as much as the zone takes"))
        self.take.clicked.connect(lambda: self.volume_wanted.emit(self.needed_ml or 0.0))
        self.add(self.hides)
        self.add(row(self._wet, self.wet, spacing=8))
        self.add(row(self.needs, self.take, spacing=8))
        self.add(self.medium)
        self.add(self.cautions)

    def show_recipe(
        self, dry: Lab, how: Behaviour, thinner_share: float, area_cm2: float | None, coats: int,
        cautions: Sequence[str],
    ) -> None:  # fmt: skip
        """Show one recipe of this colour, and how it behaves."""
        self.show()
        self.hides.setText(
            self.tr("Never hides its ground: it stays a film.")
            if how.hides_coats is None
            else self.tr("Hides in about {0} coats at {1} % thinner.").format(
                max(1, round(how.hides_coats)), round(100 * thinner_share)
            )
        )
        self._wet.show_labs([how.wet, dry], self.tr("Wet and dry"))
        self.wet.setText(self.tr("Wet it is {0}.").format(difference(dry, how.wet).words))
        self.needed_ml = None
        if area_cm2:
            batch = batch_volume(area_cm2, coats, thinner_share=thinner_share)
            self.needed_ml = batch.total_ml
            words = self.tr("{0} cm² in {1} coats: {2} ml, {3} of it thinner.")
            self.needs.setText(
                words.format(f"{area_cm2:g}", coats, f"{batch.total_ml:.1f}", f"{batch.thinner_ml:.1f}")
            )
        else:
            self.needs.setText(self.tr("Give the zone an area (… above the zones) to know how much to mix."))
        self.take.setVisible(self.needed_ml is not None)
        self._show_medium(dry, how.by_medium)
        self.cautions.setText(" ".join(cautions))
        self.cautions.setVisible(bool(cautions))

    def _show_medium(self, dry: Lab, found: SheenByMedium | None) -> None:
        """How a medium gives the sheen without the varnish."""
        self.medium.setVisible(found is not None)
        if found is not None:
            words = self.tr("Without the varnish: {0} {1} to {2} of the mix gives its sheen; then it is {3}.")
            self.medium.setText(
                words.format(
                    found.medium_parts, found.medium, found.mixture_parts, difference(dry, found.lab).words
                )
            )
