"""The colour schemes a prototype may have worn: name, years, and the colour of each zone they name."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QVBoxLayout,
    QWidget,
)

from lean_sepia.answers.targets import targets_of
from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.items import fresh_id
from lean_sepia.document.edits.zones import set_schemes
from lean_sepia.document.model import Project, Scheme, Zone
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.panel import button, label, measure_box, row, scrolled
from lean_sepia.ui.kit.swatch import Chip

_UNNAMED: Lab = (50.0, 0.0, 0.0)


class _ZoneColour:
    """One zone of a scheme: whether the scheme names it, and its colour."""

    def __init__(self, zone: Zone, shown: Lab | None, grid: QGridLayout, line: int) -> None:
        self.zone = zone.id
        self.named = QCheckBox(zone.name)
        self.chip = Chip(_UNNAMED)
        bounds = ((0, 100, "L*"), (-128, 128, "a*"), (-128, 128, "b*"))
        self.boxes = [
            measure_box(low, high, 0, "", f"{zone.name} {name}", width=64) for low, high, name in bounds
        ]
        self.take = button(
            _("as the photos show"), "tool", _("Take the fresh colour of this zone from its samples")
        )
        self.take.setEnabled(shown is not None)
        self.take.clicked.connect(lambda: self.show(shown))
        for column, widget in enumerate((self.named, self.chip, *self.boxes, self.take)):
            grid.addWidget(widget, line, column)
        self.named.toggled.connect(lambda _on: self._enable())
        for box in self.boxes:
            box.valueChanged.connect(lambda _value: self.chip.show_lab(self.lab))
        self.show(None)

    @property
    def lab(self) -> Lab:
        """The colour as it stands."""
        L, a, b = (box.value() for box in self.boxes)
        return L, a, b

    def show(self, lab: Lab | None) -> None:
        """Show a colour; None where the scheme does not name this zone."""
        self.named.setChecked(lab is not None)
        for box, value in zip(self.boxes, lab or _UNNAMED, strict=True):
            box.setValue(value)
        self._enable()

    def _enable(self) -> None:
        for widget in (self.chip, *self.boxes):
            widget.setEnabled(self.named.isChecked())
        self.chip.show_lab(self.lab)


@guarded
class SchemesDialog(QDialog):
    """A list at the left, the chosen scheme at the right. It edits copies; the caller makes the edit."""

    def __init__(self, project: Project, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(_("Colour schemes"))
        self._project = project
        self._all: list[Scheme] = list(project.schemes)
        self._row = -1
        self.list = QListWidget()
        self.list.setFixedWidth(180)
        self.list.setAccessibleName(_("Schemes"))
        self.add_button, self.remove_button = button(_("Add"), "tool"), button(_("Remove"), "tool")
        self.add_button.clicked.connect(self.add_scheme)
        self.remove_button.clicked.connect(self.remove_scheme)
        self.name, self.begins, self.ends = QLineEdit(), QLineEdit(), QLineEdit()
        for field, words in (
            (self.name, _("Name")),
            (self.begins, _("Worn from")),
            (self.ends, _("Worn until")),
        ):
            field.setAccessibleName(words)
        for field in (self.begins, self.ends):
            field.setPlaceholderText(_("year"))
            field.setFixedWidth(90)
        self.name.textEdited.connect(self._rename)
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        for column, words in ((2, "L*"), (3, "a*"), (4, "b*")):
            grid.addWidget(label(words, "second"), 0, column, Qt.AlignmentFlag.AlignRight)
        self.zones = [
            _ZoneColour(zone, _shown(project, zone), grid, line)
            for line, zone in enumerate(project.zones, start=1)
        ]
        self._sheet = self._build(grid)
        self.list.currentRowChanged.connect(self._choose)
        for scheme in self._all:
            self.list.addItem(scheme.name)
        self._choose(-1)
        self.list.setCurrentRow(0 if self._all else -1)

    def _rename(self, text: str) -> None:
        item = self.list.currentItem()
        if item is not None:
            item.setText(text)

    def _build(self, grid: QGridLayout) -> QWidget:
        left = QVBoxLayout()
        left.addWidget(self.list, 1)
        left.addLayout(row(self.add_button, self.remove_button, None))
        sheet = QWidget()
        right = QVBoxLayout(sheet)
        right.setContentsMargins(0, 0, 0, 0)
        right.setSpacing(10)
        right.addLayout(row(label(_("Name")), self.name))
        right.addLayout(row(label(_("Worn from")), self.begins, label(_("until")), self.ends, None))
        right.addWidget(label(_("Zones it names, with their fresh colour"), "second"))
        area = scrolled(grid)
        area.setMinimumSize(560, 220)
        right.addWidget(area, 1)
        buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        body = QHBoxLayout()
        body.setSpacing(18)
        body.addLayout(left)
        body.addWidget(sheet, 1)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(18, 18, 18, 18)
        layout.setSpacing(14)
        self.said = label("", "strong", wrap=True)
        layout.addLayout(body, 1)
        layout.addWidget(self.said)
        layout.addWidget(buttons)
        return sheet

    def schemes(self) -> Sequence[Scheme]:
        """All schemes as edited."""
        self._keep()
        return tuple(self._all)

    def accept(self) -> None:
        """Close, unless something is wrong: then say what, and lose nothing."""
        try:
            set_schemes(self._project, self.schemes())
        except SepiaError as error:
            self.said.setText(str(error))
            return
        super().accept()

    def add_scheme(self) -> None:
        """Add a scheme and choose it."""
        self._keep()
        number = len(self._all) + 1
        self._all.append(Scheme(id=fresh_id(self._all, "s"), name=_("Scheme {0}").format(number)))
        self.list.addItem(self._all[-1].name)
        self.list.setCurrentRow(len(self._all) - 1)
        self.name.setFocus()
        self.name.selectAll()

    def remove_scheme(self) -> None:
        """Take the chosen scheme out."""
        gone = self.list.currentRow()
        if gone >= 0:
            self._row = -1
            del self._all[gone]
            self.list.takeItem(gone)
            self._choose(self.list.currentRow())

    def _choose(self, chosen: int) -> None:
        self._keep()
        self._row = chosen if 0 <= chosen < len(self._all) else -1
        self._sheet.setEnabled(self._row >= 0)
        self.remove_button.setEnabled(self._row >= 0)
        scheme = self._all[self._row] if self._row >= 0 else Scheme(id="none", name="")
        self.name.setText(scheme.name)
        self.begins.setText(scheme.worn_from)
        self.ends.setText(scheme.worn_to)
        colours = dict(scheme.colours)
        for zone in self.zones:
            zone.show(colours.get(zone.zone))

    def _keep(self) -> None:
        """Take over what the fields say of the scheme they show."""
        if self._row < 0:
            return
        self._all[self._row] = self._all[self._row].model_copy(
            update={
                "name": self.name.text().strip(),
                "worn_from": self.begins.text().strip(),
                "worn_to": self.ends.text().strip(),
                "colours": tuple((zone.zone, zone.lab) for zone in self.zones if zone.named.isChecked()),
            }
        )


def _shown(project: Project, zone: Zone) -> Lab | None:
    fresh = targets_of(project, zone.id).fresh
    return fresh.lab if fresh else None
