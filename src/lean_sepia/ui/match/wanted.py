"""What is asked of Match: how many bottles and parts, how it is laid, how much of it and under which sheen."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QComboBox, QWidget

from lean_sepia.answers.amounts import CUP_ML
from lean_sepia.answers.match import (
    AS_PLANNED,
    BASE_COATS,
    BASE_THINNER,
    OWN_SHEEN,
    base_coat,
    planned_varnish,
    usual_manner,
    usual_mix,
)
from lean_sepia.document.called import coat_name
from lean_sepia.document.edits.mixes import Manner
from lean_sepia.language import _
from lean_sepia.recipe.batch import BatchVolume
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.fields.under_box import UnderBox
from lean_sepia.ui.kit.panel import count_box, measure_box
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.match.ratio_dialog import RatioDialog
from lean_sepia.ui.shell.session import Session

_SAME_ML = 0.05


class Wanted(QObject):
    """The boxes, which the room puts in its lines; `changed` says that something else is asked."""

    changed = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.filling = self._volume_asked = False
        self.paints = count_box(1, 5, 3, _("Most bottles in a recipe"))
        self.parts = count_box(3, 24, 10, _("Most parts in a recipe"))
        self.coats = count_box(1, 8, BASE_COATS, _("Coats"))
        self.thinner = count_box(0, 90, round(100 * BASE_THINNER), _("Share of thinner in per cent"))
        self.volume = measure_box(0.1, 500, CUP_ML, "ml", _("Thinned mix to make"))
        self.under = UnderBox()
        self.under.toggled.connect(lambda _on: self.changed.emit())
        self.sheen = ChoiceBox()
        self.sheen.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.sheen.setAccessibleName(_("Final sheen"))
        for box in (self.paints, self.parts):
            box.valueChanged.connect(lambda _value: self.changed.emit())
        for box in (self.coats, self.thinner):
            box.valueChanged.connect(lambda _value: self._manner_changed())
        self.volume.valueChanged.connect(lambda _value: self._volume_changed())
        self.sheen.currentIndexChanged.connect(lambda _index: self.changed.emit())

    @property
    def thinner_share(self) -> float:
        """Share of thinner in the mix, 0 to 1."""
        return self.thinner.value() / 100

    def take_up(self, zone: str) -> None:
        """Start from how the zone's base is laid, or usually is."""
        coat = base_coat(self._session.project, zone)
        self.filling = True  # nothing is asked until all of them stand
        usual = usual_manner(self._session.project, zone)
        self.coats.setValue(coat.passes if coat else usual.passes)
        self.thinner.setValue(round(100 * (coat.thinner_share if coat else usual.thinner_share)))
        self.volume.setValue((coat.mix_ml if coat else None) or self.needed(zone).total_ml)
        self.filling = False

    def needed(self, zone: str) -> BatchVolume:
        """What the zone takes, laid as the boxes say."""
        return usual_mix(self._session.project, zone, self.coats.value(), self.thinner_share)

    def name_sheens(self, zone: str, fresh: bool) -> None:
        """The sheens to choose from; another zone starts with what its plan says."""
        varnish = planned_varnish(self._session.project, zone)
        planned = _("under {0}").format(coat_name(varnish)) if varnish else _("no varnish planned")
        named = [
            (AS_PLANNED, planned), (OWN_SHEEN, _("without a varnish")), ("flat", _("under flat")),
            ("satin", _("under satin")), ("gloss", _("under gloss")),
        ]  # fmt: skip
        if not self.sheen.count():
            for name, words in named:
                self.sheen.addItem(words, name)
        self.sheen.setItemText(0, planned)
        tip = _("The recipe meets its target under this final sheen")
        if varnish is None:
            tip += "\n" + _("Flat, satin or gloss is planned as the zone's varnish when the recipe is pinned")
        hint(self.sheen, tip)
        if fresh:
            self.sheen.setCurrentIndex(0)

    def manner(self, zone: str, tool: str) -> Manner:
        """How the base is laid as the boxes say."""
        return Manner(self.coats.value(), self.thinner_share, tool, mix_ml=self._asked_ml(zone))

    def laid_differently(self, zone: str) -> bool:
        """Whether the boxes say something else than how the zone's base is laid."""
        coat = base_coat(self._session.project, zone)
        if coat is None:
            return True
        stands = (coat.passes, round(100 * coat.thinner_share), coat.mix_ml)
        return stands != (self.coats.value(), self.thinner.value(), self._asked_ml(zone))

    def _asked_ml(self, zone: str) -> float | None:
        """The amount the user asked for; None where it is what the zone takes."""
        wanted = self.volume.value()
        return None if abs(wanted - self.needed(zone).total_ml) < _SAME_ML else wanted

    def _manner_changed(self) -> None:
        """Other coats or thinning take another amount, unless the user asked for one."""
        zone = self._session.zone
        if zone and not self.filling and not self._volume_asked:
            self.filling = True
            self.volume.setValue(self.needed(zone).total_ml)
            self.filling = False
        self.changed.emit()

    def _volume_changed(self) -> None:
        self._volume_asked = not self.filling
        self.changed.emit()

    def ask_ratio(self, parent: QWidget, cup_ml: float) -> None:
        """Ask for the thinning in whatever words it is given."""
        dialog = RatioDialog(self.thinner_share, cup_ml, parent)
        if dialog.exec() and dialog.thinner_share is not None:
            self.thinner.setValue(round(100 * dialog.thinner_share))
