"""What test swatches taught: how well mixtures are predicted now, and which swatches speak against the others."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtWidgets import QVBoxLayout, QWidget

from lean_sepia.arrays import triple
from lean_sepia.language import _, ngettext
from lean_sepia.paint.fit import Fit
from lean_sepia.paint.paint import Paint
from lean_sepia.ui.kit.dialogs.titled_dialog import TitledDialog
from lean_sepia.ui.kit.panel import label, row, rule
from lean_sepia.ui.kit.swatch import Fields


class LearntDialog(TitledDialog):
    """Accepted where the refined paints shall go on the shelf; projects keep the versions they use."""

    def __init__(
        self, before: Sequence[Paint], fit: Fit, numbers: Sequence[int], doubtful: str = "", parent: QWidget | None = None
    ) -> None:  # fmt: skip
        better = _("Mixtures are predicted better.")
        nothing = _("Nothing is gained: the swatches contradict each other, or say too little.")
        super().__init__(_("What the swatches teach"), better if fit.gains else nothing, parent=parent)
        swatches = ngettext("{0} swatch", "{0} swatches", len(numbers)).format(len(numbers))
        self.words = label(
            _("{0}: out by {1} ΔE00 before; {2} now, each predicted from the others alone.").format(
                swatches, f"{fit.before_de00:.1f}", f"{fit.after_de00:.1f}"
            ), "", wrap=True,
        )  # fmt: skip
        self.body.addWidget(self.words)
        for index in fit.contradicting():
            said = _("Swatch {0} contradicts the others by {1} and counts little: look at it again.")
            self.body.addWidget(
                label(said.format(numbers[index], f"{fit.left_out[index]:.1f}"), "strong", wrap=True)
            )
        if doubtful:
            self.body.addWidget(label(_("Look again at {0}.").format(doubtful), "second", wrap=True))
        self.body.addWidget(rule())
        self.body.addWidget(label(_("Masstone as the shelf had it, and as refined"), "second"))
        pairs = QVBoxLayout()
        pairs.setSpacing(4)
        for old, new in zip(before, fit.paints, strict=True):
            if new.id in fit.doubt:
                field = Fields(margin=0, height=24)
                field.setFixedWidth(84)
                field.show_labs([triple(old.masstone_lab()), triple(new.masstone_lab())])
                pairs.addLayout(row(field, label(new.name), None, spacing=12))
        pairs.addStretch(1)
        self.look_through(pairs, 480, min(260, 30 * len(fit.doubt) + 8))
        self.end(_("Put the refined paints on the shelf"))
