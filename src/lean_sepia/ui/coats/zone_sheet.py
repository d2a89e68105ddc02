"""The sheet on which a zone is described: names, area, targets known without a photo, which sisters it follows."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QCheckBox, QLineEdit

from lean_sepia.answers.coats.stating import ColourList, colour_list
from lean_sepia.colour.written import write_colour
from lean_sepia.document.edits.zones import change_zone
from lean_sepia.document.model import Project, Stated, TargetName, Zone
from lean_sepia.errors import EditError, SepiaError
from lean_sepia.files.gate import shown
from lean_sepia.language import N_, _, ngettext
from lean_sepia.shelf.shelf_file import read_shelf
from lean_sepia.ui.coats.colour_line import ColourLine
from lean_sepia.ui.kit.dialogs.file_filters import shelves
from lean_sepia.ui.kit.dialogs.files import ask_file
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.fields.number_box import NumberBox
from lean_sepia.ui.kit.panel import button, label, measure_box, row
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.sheet import Sheet
from lean_sepia.ui.shell.session import Session

TARGET_WORDS: dict[TargetName, str] = {"fresh": N_("fresh"), "exposed": N_("faded"), "seen": N_("as seen")}
_USUAL = 2.0


@guarded
class ZoneSheet(Sheet):
    """What a zone is. Each of its three targets may be stated, with its range and where it is from."""

    def __init__(self, session: Session, zone: str) -> None:
        self._session = session
        self._zone = session.project.zone(zone)
        super().__init__(_("about this zone"), self._zone.name)
        zone_now = self._zone
        self.name, self.short, self.note = (
            QLineEdit(zone_now.name),
            QLineEdit(zone_now.short),
            QLineEdit(zone_now.note),
        )
        self.short.setMaxLength(12)
        self.area = measure_box(0, 100_000, zone_now.area_cm2 or 0, "cm²", _("Area on the model"), width=110)
        self.area.setSpecialValueText(_("not known"))
        self.line(_("name"), self.name)
        self.line(_("short name"), self.short)
        self.line(_("area"), self.area, None)
        self._add_ticks()
        self.add(label(_("COLOURS KNOWN WITHOUT A PHOTO"), "caption"))
        self.targets: dict[TargetName, ColourLine] = {}
        self.ranges: dict[TargetName, NumberBox] = {}
        self.origins: dict[TargetName, QLineEdit] = {}
        for target, words in TARGET_WORDS.items():
            self._add_target(target, _(words))
        lists = button(
            _("From a colour list…"),
            "tool",
            _("JSON, CSV, CGATS text or a palette: its names can be typed above"),
        )
        lists.clicked.connect(self._ask_list)
        self._listed = label("", "second", wrap=True)
        self.add(row(lists, self._listed))
        self.line(_("note"), self.note)
        self.sisters: dict[str, QCheckBox] = {}
        self._add_sisters(session.project)
        self._fault = label("", "second", wrap=True)
        self.add(self._fault)
        self.body.addStretch(1)
        keep, leave = button(_("Keep it"), "main"), button(_("Leave it"))
        keep.clicked.connect(self.keep)
        leave.clicked.connect(self.left)
        self.buttons([keep, leave])
        session.zone_changed.connect(self.leave)

    def _add_ticks(self) -> None:
        """Where it is painted, and what lies on its sheltered places."""
        self.apart = QCheckBox(_("off the model until assembled"))
        self.apart.setChecked(self._zone.apart)
        self.line(_("painted"), self.apart)
        self.sheltered = QCheckBox(_("has the filters and dust too"))
        self.sheltered.setChecked(self._zone.sheltered_too)
        hint(
            self.sheltered,
            _(
                "Whether filters, mists and dust laid over all of it lie where its fresh colour was sampled, too"
            ),
        )
        self.line(_("sheltered"), self.sheltered)

    def _add_target(self, target: TargetName, words: str) -> None:
        line = ColourLine(self._session, _("Colour, {0}").format(words))
        known = next((stated for stated in self._zone.stated if stated.target == target), None)
        radius = measure_box(
            0.1, 30, known.de00_90 if known else _USUAL, "", _("9 in 10 within, in ΔE00"), width=56
        )
        origin = QLineEdit(known.origin if known else "")
        origin.setPlaceholderText(_("where it is from"))
        origin.setAccessibleName(_("Where the colour {0} is from").format(words))
        sampled = getattr(self._session.cut(self._zone.id).targets, target)
        if known:
            line.text.setText(write_colour(known.lab))
        elif sampled is not None:
            line.text.setPlaceholderText(_("as sampled: {0}").format(write_colour(sampled.lab)))
        self.targets[target], self.ranges[target], self.origins[target] = line, radius, origin
        self.line(words, line)
        self.line("", label("±", "second"), radius, origin)
        line.changed.connect(self._show_fault)

    def _add_sisters(self, project: Project) -> None:
        sisters = sorted({photo.prototype for photo in project.photos if photo.prototype})
        if len(sisters) < 2:
            return
        for sister in sisters:
            box = QCheckBox(sister)
            box.setChecked(not self._zone.follows or sister in self._zone.follows)
            self.line(_("follows") if not self.sisters else "", box, None)
            self.sisters[sister] = box

    def _ask_list(self) -> None:
        file = ask_file(self, _("A colour list"), shelves())
        if file:
            self.read_list(file)

    def read_list(self, file: Path) -> None:
        """Let the names of a colour list be typed."""
        self._session.jobs.start(
            "colour list",
            lambda _p: colour_list(shown(file.name), read_shelf(file).paints()),
            self._list_read,
        )

    def _list_read(self, found: ColourList) -> None:
        self._session.colour_lists.append(found)
        for line in self.targets.values():
            line.renew()
        self._listed.setText(
            ngettext(
                "{0}: {1} colour can be typed by name",
                "{0}: {1} colours can be typed by name",
                len(found.fields),
            ).format(found.name, len(found.fields))
        )

    def _show_fault(self) -> None:
        faults = [line.fault for line in self.targets.values() if line.fault]
        self._fault.setText(faults[0] if faults else "")

    def zone(self) -> Zone:
        """The zone as it stands on the sheet; all sisters ticked, or none, means that all count.

        Raises
        ------
        SepiaError
            A colour cannot be read.
        """
        stated = []
        for target, line in self.targets.items():
            known = next((one for one in self._zone.stated if one.target == target), None)
            if known and line.text.text() == write_colour(known.lab):
                lab, source = known.lab, known.origin
            elif found := line.stated():
                lab, source = found
            else:
                continue
            origin = self.origins[target].text().strip() or source
            stated.append(Stated(target=target, lab=lab, de00_90=self.ranges[target].value(), origin=origin))
        ticked = tuple(sister for sister, box in self.sisters.items() if box.isChecked())
        name = self.name.text().strip() or self._zone.name
        return self._session.project.zone(self._zone.id).model_copy(
            update={
                "name": name,
                "short": self.short.text().strip() or name[:10],
                "note": self.note.text().strip(),
                "stated": tuple(stated),
                "area_cm2": self.area.value() or None,
                "apart": self.apart.isChecked(),
                "sheltered_too": self.sheltered.isChecked(),
                "follows": () if len(ticked) == len(self.sisters) else ticked,
            }
        )

    def keep(self) -> None:
        """Keep what the sheet says, as one edit."""
        try:
            changed = self.zone()
        except SepiaError as error:
            self._fault.setText(str(error))
            self._session.refused.emit(str(error))
            return
        self._session.edit(_("About {0}").format(changed.name), lambda p: _kept(p, changed))
        self.left.emit()


def _kept(project: Project, zone: Zone) -> Project:
    if zone.id not in {one.id for one in project.zones}:
        raise EditError(_("The zone is no longer in the project."))
    return change_zone(project, zone)
