"""Title, date and origin of a photo."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtWidgets import QCheckBox, QDialogButtonBox, QLineEdit, QWidget

from lean_sepia.document.model import Photo
from lean_sepia.language import _
from lean_sepia.ui.kit.dialogs.form_dialog import FormDialog
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.panel import label
from lean_sepia.ui.kit.plain import hint


class PhotoDialog(FormDialog):
    """Asks what is known about a photo, and offers to take it out."""

    REMOVE = 7

    def __init__(self, photo: Photo, others: Sequence[Photo], parent: QWidget | None = None) -> None:
        self._photo = photo
        alike = [
            (other.title, other.id) for other in others if other.id != photo.id and other.tones == "colour"
        ]
        self.like = ChoiceBox(choices=[(_("no other photo"), ""), *alike])
        self.like.choose(photo.like)
        hint(self.like, _("One of the same camera, film or scan: anchors of each then count for both"))
        self.title, self.date = QLineEdit(photo.title), QLineEdit(photo.date)
        self.process, self.light = QLineEdit(photo.process), QLineEdit(photo.light)
        self.date.setPlaceholderText(_("1957, 1957-09 or 1956/1958"))
        self.process.setPlaceholderText(_("colour slide, print, phone, black and white"))
        self.light.setPlaceholderText(_("evening sun, overcast, lamp"))
        self.source, self.prototype = QLineEdit(photo.source), QLineEdit(photo.prototype)
        self.source.setPlaceholderText(_("who took it, where it is kept"))
        self.prototype.setPlaceholderText(_("which sister it shows"))
        self.trust, self.tones = ChoiceBox(), ChoiceBox()
        for box, entries, now in (
            (self.trust, (("", _("not judged")), ("sure", _("sure")), ("likely", _("likely")), ("doubtful", _("doubtful"))), photo.trust),
            (
                self.tones,
                (("colour", _("colour")), ("black-and-white", _("black and white")), ("colourised", _("coloured in later"))),
                photo.tones,
            ),
        ):  # fmt: skip
            for key, words in entries:
                box.addItem(words, key)
            box.setCurrentIndex(box.findData(now))
        self.of_model = QCheckBox(_("It shows the model, not the prototype"))
        self.of_model.setChecked(photo.of_model)
        fields = [
            (_("Title"), self.title), (_("Date"), self.date), (_("Process"), self.process),
            (_("Light"), self.light), (_("Colours"), self.tones), (_("Developed like"), self.like), (_("Source"), self.source),
            (_("Reliability"), self.trust), (_("Prototype"), self.prototype), ("", self.of_model),
            (_("File"), label(f"{photo.name}, {photo.width} × {photo.height}", "second")),
        ]  # fmt: skip
        if photo.notes:
            fields.append((_("Read"), label("; ".join(photo.notes), "second", wrap=True)))
        super().__init__(_("About this photo"), fields, parent)
        remove = self.buttons.addButton(
            _("Remove from the project"), QDialogButtonBox.ButtonRole.DestructiveRole
        )
        remove.clicked.connect(lambda: self.done(self.REMOVE))

    def changes(self) -> dict[str, object]:
        """What was written otherwise than it was; the rest may have changed while the dialog was open."""
        written = self._written()
        return {name: value for name, value in written.items() if getattr(self._photo, name) != value}

    def _written(self) -> dict[str, object]:
        return {
            "title": self.title.text().strip() or self._photo.title,
            "date": self.date.text().strip(),
            "process": self.process.text().strip(),
            "light": self.light.text().strip(),
            "source": self.source.text().strip(),
            "prototype": self.prototype.text().strip(),
            "trust": self.trust.currentData(),
            "tones": self.tones.currentData(),
            "like": self.like.currentData(),
            "of_model": self.of_model.isChecked(),
        }
