"""Name and size of a zone, and which sisters it follows."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox, QLineEdit, QWidget

from lean_sepia.colour.written import read_colour
from lean_sepia.document.bounds import Lab
from lean_sepia.document.model import Project, Zone
from lean_sepia.language import _
from lean_sepia.ui.kit.dialogs.form_dialog import FormDialog
from lean_sepia.ui.kit.panel import measure_box


class ZoneDialog(FormDialog):
    """Asks what a zone is; with photos of several sisters also which of them count for it."""

    def __init__(self, zone: Zone, project: Project, parent: QWidget | None = None) -> None:
        self._zone = zone
        self.name, self.short, self.note = QLineEdit(zone.name), QLineEdit(zone.short), QLineEdit(zone.note)
        self.short.setMaxLength(12)
        self.area = measure_box(0, 100_000, zone.area_cm2 or 0, "cm²", _("Area on the model"), width=110)
        self.area.setSpecialValueText(_("not known"))
        self.stated = QLineEdit(_written(zone.stated))
        self.stated.setPlaceholderText(_("L*, a*, b* or #rrggbb, where no photo shows it"))
        self.stated.setMinimumWidth(330)
        fields: list[tuple[str, QWidget]] = [
            (_("Name"), self.name), (_("Short name"), self.short), (_("Area on the model"), self.area),
            (_("Colour known"), self.stated), (_("Note"), self.note),
        ]  # fmt: skip
        sisters = sorted({photo.prototype for photo in project.photos if photo.prototype})
        self.sisters: dict[str, QCheckBox] = {}
        if len(sisters) > 1:
            for sister in sisters:
                box = QCheckBox(sister)
                box.setChecked(not zone.follows or sister in zone.follows)
                fields.append((_("Follows") if not self.sisters else "", box))
                self.sisters[sister] = box
        super().__init__(_("About this zone"), fields, parent)

    def zone(self) -> Zone:
        """The zone as edited; all sisters ticked, or none, means that all count.

        Raises
        ------
        ColourError
            The colour cannot be read.
        """
        text = self.stated.text().strip()
        unchanged = text == _written(self._zone.stated)
        ticked = tuple(sister for sister, box in self.sisters.items() if box.isChecked())
        name = self.name.text().strip() or self._zone.name
        return self._zone.model_copy(
            update={
                "name": name,
                "short": self.short.text().strip() or name[:10],
                "note": self.note.text().strip(),
                "stated": self._zone.stated if unchanged else read_colour(text) if text else None,
                "area_cm2": self.area.value() or None,
                "follows": () if len(ticked) == len(self.sisters) else ticked,
            }
        )


def _written(lab: Lab | None) -> str:
    return "" if lab is None else ", ".join(f"{value:.1f}" for value in lab)
