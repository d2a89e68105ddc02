"""The sheet on which zones are made the tones of one surface, and their contrasts are read."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox, QLineEdit

from lean_sepia.answers.coats.tones import Contrast, Pair, pairs_of, stir, stirred_in, traced_shares
from lean_sepia.colour.showing import verdict
from lean_sepia.document.edits.zones import group_zones, ungroup_zones
from lean_sepia.document.model import Project
from lean_sepia.errors import SepiaError
from lean_sepia.language import _, ngettext
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.fields.number_box import NumberBox
from lean_sepia.ui.kit.panel import button, label, measure_box, row
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.kit.swatch import Fields
from lean_sepia.ui.shell.session import Session


@guarded
class SurfaceSheet(Sheet):
    """Which zones are one surface, the share each covers, the contrast of each pair, and stirring one into another."""

    def __init__(self, session: Session, zone: str) -> None:
        self._session, self._zone = session, zone
        project = session.project
        surface = project.zone(zone).surface
        super().__init__(
            _("several tones on one surface"), project.surface(surface).name if surface else _("One surface")
        )
        self._surface = surface
        self.name = QLineEdit(
            project.surface(surface).name
            if surface
            else _("Camouflage of {0}").format(project.zone(zone).name)
        )
        self.line(_("called"), self.name)
        self.add(
            label(
                _("Choose the zones that are tones of it. Shares may stay open; together they are 100 %."),
                "second",
                wrap=True,
            )
        )
        self._add_zones(project)
        self._pairs = Rows(spacing=8)
        self.add(self._pairs)
        self._add_stirring()
        self.body.addStretch(1)
        keep, part, leave = button(_("Keep it"), "main"), button(_("Take it apart")), button(_("Leave it"))
        part.setEnabled(surface is not None)
        keep.clicked.connect(self.keep)
        part.clicked.connect(self.take_apart)
        leave.clicked.connect(self.left)
        self.buttons([keep, part, leave])
        session.changed.connect(self._show_pairs)
        self._sum()
        self._show_pairs()

    def _add_zones(self, project: Project) -> None:
        """A tick and a share for every zone, and what they come to."""
        self.chosen: dict[str, QCheckBox] = {}
        self.shares: dict[str, NumberBox] = {}
        for other in project.zones:
            box = QCheckBox(other.name)
            box.setChecked(
                other.id == self._zone or (self._surface is not None and other.surface == self._surface)
            )
            share = measure_box(
                0, 100, 100 * (other.share or 0), "%", _("Share of {0}").format(other.name), 1, 76
            )
            share.setSpecialValueText(_("open"))
            self.chosen[other.id], self.shares[other.id] = box, share
            self.add(row(box, None, share))
            box.toggled.connect(lambda _on: self._sum())
            share.valueChanged.connect(lambda _v: self._sum())
        self._total = label("", "second", wrap=True)
        trace = button(
            _("As traced"),
            "tool",
            _("Take the shares from a region that was divided into colours in Evidence"),
        )
        trace.clicked.connect(self.take_traced)
        self.add(row(self._total, trace))

    def _add_stirring(self) -> None:
        self.into, self.other = ChoiceBox(), ChoiceBox()
        self.wanted = measure_box(0.5, 60, 6, "ΔE00", _("Wanted contrast"), 1, 96)
        self._stirred = label("", "second", wrap=True)
        self.stir_button = button(_("Stir it in"), "tool")
        self.stir_button.clicked.connect(self.stir_in)
        zones = self._session.project.zones_of(self._surface) if self._surface else ()
        for zone in zones:
            self.into.addItem(zone.name, zone.id)
            self.other.addItem(zone.name, zone.id)
        self.other.setCurrentIndex(1)
        lines = [
            self.line(_("stir"), self.other),
            self.line(_("into"), self.into),
            self.line(_("contrast"), self.wanted, None, self.stir_button),
        ]
        self.add(self._stirred)
        for line in lines:
            line.setVisible(len(zones) > 1)
        for box in (self.into, self.other):
            box.currentIndexChanged.connect(lambda _i: self._show_stirred())
        self.wanted.valueChanged.connect(lambda _v: self._show_stirred())
        if len(zones) > 1:
            self._show_stirred()

    def wished(self) -> dict[str, float | None]:
        """The chosen zones and their shares."""
        return {
            zone: (self.shares[zone].value() / 100 or None)
            for zone, box in self.chosen.items()
            if box.isChecked()
        }

    def take_traced(self) -> None:
        """Fill in the shares that were measured in a photo."""
        try:
            shares = traced_shares(self._session.project, list(self.wished()))
        except SepiaError as error:
            self._session.refused.emit(str(error))
            return
        for zone, share in shares.items():
            self.shares[zone].setValue(100 * share)

    def _sum(self) -> None:
        shares = self.wished()
        known = sum(share or 0 for share in shares.values())
        open_ones = sum(share is None for share in shares.values())
        said = ngettext("{0} zone, {1} % in sum", "{0} zones, {1} % in sum", len(shares))
        words = said.format(len(shares), f"{100 * known:.1f}")
        if open_ones:
            words += ", " + _("{0} open").format(open_ones)
        self._total.setText(words + ".")

    def _show_pairs(self) -> None:
        project = self._session.project
        if not self._surface or self._surface not in {surface.id for surface in project.surfaces}:
            self._pairs.fill(())
            return
        self._pairs.fill(
            [
                item
                for pair in pairs_of(project, self._surface, self._session.cuts())
                for item in self._pair(pair)
            ]
        )

    def _pair(self, pair: Pair) -> list[Item]:
        project = self._session.project
        first, second = project.zone(pair.first), project.zone(pair.second)
        fields = Fields(margin=0, height=26)
        cuts = self._session.cuts()
        fields.show_labs(
            [cuts[pair.first].fresh, cuts[pair.second].fresh],
            _("{0} and {1}").format(first.name, second.name),
        )
        said = [
            _("{0} {1}").format(when, _contrast_words(contrast))
            for when, contrast in (
                (_("as stated") if pair.stated else _("in the photo"), pair.photo), (_("as painted"), pair.painted), (_("as left"), pair.left),
            )
        ]  # fmt: skip
        return [
            label(_("{0} and {1}").format(first.name, second.name), "strong", wrap=True),
            fields,
            label("; ".join(said), "second", wrap=True),
        ]

    def _show_stirred(self) -> None:
        try:
            found = stir(
                self._session.project, self.into.currentData(), self.other.currentData(), self.wanted.value()
            )
        except SepiaError as error:
            self._stirred.setText(str(error))
            self.stir_button.setEnabled(False)
            return
        self.stir_button.setEnabled(True)
        self._stirred.setText(
            _("{0} : {1} of the other leaves {2}.").format(
                found.own_parts, found.other_parts, _contrast_words(found.contrast)
            )
        )

    def stir_in(self) -> None:
        """Mix the other tone into the zone's own, as one edit."""
        into, other, wanted = self.into.currentData(), self.other.currentData(), self.wanted.value()
        name = self._session.project.zone(into).name
        self._session.edit(
            _("Stir a tone into {0}").format(name), lambda p: stirred_in(p, into, other, wanted)
        )

    def keep(self) -> None:
        """Make them one surface, as one edit."""
        shares, name = self.wished(), self.name.text()
        if self._session.edit(_("One surface: {0}").format(name), lambda p: group_zones(p, name, shares)):
            self.left.emit()

    def take_apart(self) -> None:
        """Let them be zones by themselves again."""
        surface = self._surface
        if surface and self._session.edit(
            _("Take {0} apart").format(self.name.text()), lambda p: ungroup_zones(p, surface)
        ):
            self.left.emit()


def _contrast_words(contrast: Contrast | None) -> str:
    if contrast is None:
        return _("not known")
    return _("{0:.1f} ΔE00, {1:+.1f} L*, {2}").format(
        contrast.de00, contrast.lighter, _(verdict(contrast.de00))
    )
