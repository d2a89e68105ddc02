"""What a photo of a swatch card showed: names to type, doubtful fields named, then all paints onto the shelf."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QGridLayout,
    QLineEdit,
    QWidget,
)

from lean_sepia.language import _, ngettext
from lean_sepia.paint.media import MEDIA
from lean_sepia.paint.paint import FINISH_WORDS, FINISHES
from lean_sepia.photo.swatch_card import CardReading, FieldReading
from lean_sepia.shelf.ids import Ids
from lean_sepia.ui.kit.dialogs.titled_dialog import TitledDialog
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import label, measure_box, row
from lean_sepia.ui.kit.swatch import Fields

_MIXED = [finish for finish in FINISHES if finish != "metallic"]


class _FieldRow:
    """One field: whether it is taken, what it looked like, and what the paint is."""

    def __init__(self, field: FieldReading, grid: QGridLayout, line: int) -> None:
        self.field = field.field
        self.taken = QCheckBox(str(field.field))
        self.taken.setChecked(not field.bare)
        self.taken.setAccessibleName(_("Take field {0}").format(field.field))
        seen = Fields(margin=0, height=24)
        seen.setFixedWidth(84)
        seen.show_labs(
            [field.over_white.lab, field.over_black.lab, field.masstone.lab],
            _("Over white, over black, masstone"),
        )
        self.name, self.medium, self.finish = QLineEdit(), ChoiceBox(), ChoiceBox()
        self.name.setPlaceholderText(_("Paint {0}").format(field.field))
        self.name.setAccessibleName(_("Name of field {0}").format(field.field))
        for medium, kind in MEDIA.items():
            self.medium.addItem(_(kind.words), medium)
        for finish in _MIXED:
            self.finish.addItem(_(FINISH_WORDS[finish]), finish)
        self.doubt = label(
            field.doubt or f"±{field.masstone.de00_90:.1f}", "strong" if field.doubt else "second", wrap=True
        )
        self.doubt.setMinimumWidth(150)
        for column, widget in enumerate((self.taken, seen, self.name, self.medium, self.finish, self.doubt)):
            grid.addWidget(widget, line, column, Qt.AlignmentFlag.AlignVCenter)
        self.taken.toggled.connect(lambda _on: self._enable())
        self._enable()

    def _enable(self) -> None:
        for widget in (self.name, self.medium, self.finish):
            widget.setEnabled(self.taken.isChecked())


class CardDialog(TitledDialog):
    """Lists the fields of a card; the caller fits and adds what is taken."""

    def __init__(self, reading: CardReading, taken_ids: set[str], parent: QWidget | None = None) -> None:
        doubtful = sum(bool(field.doubt) for field in reading.fields)
        count = len(reading.fields)
        words = ngettext("{0} field found.", "{0} fields found.", count).format(count)
        if doubtful:
            words += _(" {0} of them should be looked at.").format(doubtful)
        super().__init__(_("Paints of the swatch card"), words, parent=parent)
        self._taken_ids = taken_ids
        self.coats = measure_box(0.5, 10, 1, "", _("Coats of the film"), width=64)
        self.thinner = measure_box(0, 95, 0, "%", _("Thinner in the film"), decimals=0, width=72)
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(6)
        heads = (
            _("Field"),
            _("White, black, masstone"),
            _("Name"),
            _("Medium"),
            _("Finish"),
            _("Sure"),
        )
        for column, words in enumerate(heads):
            grid.addWidget(label(words, "second"), 0, column)
        grid.setColumnStretch(2, 1)
        self.rows = [_FieldRow(field, grid, line) for line, field in enumerate(reading.fields, start=1)]
        self.body.addLayout(
            row(
                label(_("One film of"), "second"),
                self.coats,
                label(_("coats with"), "second"),
                self.thinner,
                label(_("thinner"), "second"),
                None,
            )
        )
        self.look_through(grid, 820, min(420, 48 + 40 * len(reading.fields)))
        self.end(_("Put them on the shelf"))

    def names(self) -> dict[int, dict[str, str]]:
        """What the taken fields are, by number, with ids that nothing on the shelf has."""
        ids = Ids(self._taken_ids)
        answer = {}
        for line in self.rows:
            if line.taken.isChecked():
                name = line.name.text().strip() or line.name.placeholderText()
                answer[line.field] = {
                    "id": ids.fresh(name), "name": name, "line": "", "medium": line.medium.currentData(),
                    "finish": line.finish.currentData(),
                }  # fmt: skip
        return answer
