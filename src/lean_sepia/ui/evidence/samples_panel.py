"""The samples of a photo, what the next one will be, and what would make the chosen zone surer."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QMenu, QVBoxLayout, QWidget

from lean_sepia.answers.evidence import doubts_of, outline_of, patch_of, shaded_twins
from lean_sepia.document.edits.photos import remove_sample, set_role
from lean_sepia.document.model import Sample
from lean_sepia.language import _
from lean_sepia.photo.correction.next_evidence import Help, best_help, what_would_help
from lean_sepia.photo.patch import disc_patch
from lean_sepia.photo.stated.roles import ROLE_WORDS, ROLES, Role
from lean_sepia.ui.kit.diamond import Diamond
from lean_sepia.ui.kit.fields.choice_box import ChoiceBox
from lean_sepia.ui.kit.job import Progress
from lean_sepia.ui.kit.panel import Panel, button, holder, label, measure_box, row, rule, scrolled
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.kit.rows import Item, Rows
from lean_sepia.ui.kit.swatch import Chip
from lean_sepia.ui.photo.seen_photo import Seen
from lean_sepia.ui.photo.tool_row import ToolRow
from lean_sepia.ui.photo.viewer import PhotoViewer
from lean_sepia.ui.shell.session import Session

_LIST_HEIGHT = 116  # three samples: a low window scrolls the column rather than hide them
_ROLE_WIDTH = 84


class SamplesPanel(Panel):
    """A list with a chip, a range and a cross each; above it role, shape and size of the next."""

    radius_changed = Signal(float)
    looked_at = Signal(object)

    def __init__(self, session: Session, viewer: PhotoViewer) -> None:
        super().__init__()
        self.set_caption(_("Samples"))
        self._session = session
        self.role = ChoiceBox()
        for role in ROLES:
            self.role.addItem(_(ROLE_WORDS[role]), role)
        self.role.setAccessibleName(_("Role of the next sample"))
        hint(self.role, _("What the next sample shows: the base coat, a faded or a sheltered place, rust"))
        self.tools = ToolRow(
            viewer,
            (
                ("sample", _("Disc"), _("Click the paint of the chosen zone (S)")),
                (
                    "polygon",
                    _("Outline"),
                    _("Click the corners of a patch of paint (P); a click on the first closes it"),
                ),
                ("brush", _("Stroke"), _("Stroke along the paint (B)")),
                (
                    "area",
                    _("Area"),
                    _("Click round all of the zone (A): its tones and their shares are measured"),
                ),
            ),
            spacing=4,
        )
        self.add(self.tools)
        self.radius = measure_box(0.5, 400, 8, "px", _("Radius of disc or stroke"), width=66)
        self.radius.valueChanged.connect(self.radius_changed)
        self.role.setMinimumWidth(_ROLE_WIDTH)
        line = row(self.role, self.radius, spacing=5)
        line.setStretch(0, 1)
        self.add(line)
        self._listed: object = None
        self._list = Rows(spacing=2, right_margin=4)
        area = scrolled(self._list)
        area.setMinimumHeight(_LIST_HEIGHT)
        self.add(area, 1)
        self._hint = label("", "second", wrap=True)
        self.add(self._hint)

    def show_samples(self, photo_id: str) -> None:
        """List the samples of a photo."""
        project = self._session.project
        mine = [sample for sample in project.samples if sample.photo == photo_id]
        colours = bool(photo_id) and project.photo(photo_id).tones == "colour"
        content = (photo_id, colours, mine, [project.zone(sample.zone).short for sample in mine])
        if content == self._listed:
            return
        self._listed = content
        self.set_remark((_("9 in 10 within") if colours else _("greys")) if mine else "")
        items: list[Item] = []
        if not mine:
            words = _("None from this photo. Choose a zone at the left, then Disc, and click its paint.")
            items.append(label(words, "second", wrap=True))
        twins = {shade.id for _unused, shade in shaded_twins(project, photo_id)} if colours else set()
        for sample in mine:
            items += self._sample_rows(sample, colours, sample.id in twins)
        self._list.fill([*items, None])

    def _sample_rows(self, sample: Sample, colours: bool, shaded: bool) -> Iterator[Item]:
        zone = self._session.project.zone(sample.zone)
        tip = _("The same paint in the shade") if shaded else _("Choose this zone; shows the pixels left out")
        clipped = doubts_of(sample)
        name = button(zone.short, "link", f"{tip}\n{clipped}" if clipped else tip)
        name.clicked.connect(lambda _c=False, s=sample: self._choose(s))
        drop = button("×", "step", _("Remove this sample"))
        drop.setAccessibleName(_("Remove sample of {0}").format(zone.name))
        drop.clicked.connect(
            lambda _c=False, s=sample.id: self._session.edit(
                _("Remove sample"), lambda p: remove_sample(p, s)
            )
        )
        figure = label(f"±{sample.de00_90:.1f}" if colours else f"L* {sample.lab[0]:.0f}")
        said = _(ROLE_WORDS[sample.role]) + (_(", shade") if shaded else "")
        role = button(f"{said} …", "role", _("Say what this sample shows"))
        role.setAccessibleName(_("Role of the sample of {0}: {1}").format(zone.name, said))
        role.clicked.connect(lambda _c=False, s=sample, by=role: self._ask_role(s, by))
        text = QVBoxLayout()
        text.setSpacing(0)
        text.addLayout(row(name, None))
        text.addLayout(row(role, None))
        yield row(Chip(sample.lab), holder(text), None, figure, drop, spacing=7)
        if clipped:
            yield row(Diamond(size=12, mark=""), label(clipped, "second", wrap=True), spacing=6)
        yield rule()

    def _ask_role(self, sample: Sample, beside: QWidget) -> None:
        menu = QMenu(self)
        for role in ROLES:
            action = menu.addAction(_(ROLE_WORDS[role]), partial(self._set_role, sample.id, role))
            action.setCheckable(True)
            action.setChecked(role == sample.role)
        menu.popup(beside.mapToGlobal(beside.rect().bottomLeft()))

    def _set_role(self, sample_id: str, role: Role) -> None:
        name = _("Role: {0}").format(_(ROLE_WORDS[role]))
        self._session.edit(name, lambda p: set_role(p, sample_id, role))

    def _choose(self, sample: Sample) -> None:
        self._session.choose_zone(sample.zone)
        self.looked_at.emit(sample)

    def show_hint(self, seen: Seen | None) -> None:
        """Say what would narrow the range of the chosen zone most, from its samples on this photo."""
        zone = self._session.zone
        self._hint.setText("")
        if seen is None or seen.photo.tones != "colour" or not zone:
            return
        mine = [s for s in self._session.project.samples if s.photo == seen.photo.id and s.zone == zone]
        if not mine:
            return
        surest = min(mine, key=lambda sample: sample.de00_90)

        neutral = next((mark for mark in seen.photo.anchors if mark.lightness is None), None)

        def ask(_progress: Progress) -> Help | None:
            pixels = seen.picture.pixels
            patch = patch_of(pixels, outline_of(surest))
            grey = None if neutral is None else disc_patch(pixels, neutral.x, neutral.y, neutral.radius)
            return best_help(what_would_help(seen.cast, patch, grey))

        named = neutral.name if neutral is not None else ""
        self._session.jobs.at_rest("help", ask, lambda best: self._show_help(zone, best, named))

    def _show_help(self, zone: str, best: Help | None, neutral: str) -> None:
        if best is None or zone != self._session.zone:
            return
        self._hint.setText(
            _("{0}, surer: {1} (±{2} to ±{3}).").format(
                self._session.project.zone(zone).short,
                self._words(best, neutral),
                f"{best.de00_90 + best.gain:.1f}",
                f"{best.de00_90:.1f}",
            )
        )

    def _words(self, best: Help, neutral: str) -> str:
        return {
            "its lightness": _("say how light “{0}” is").format(neutral or _("the grey")),
            "grey": _("a grey of known lightness in this light"),
            "white": _("a white of known colour in this light"),
            "same colour": _("a known colour close to this one"),
            "strong colour": _("a known strong colour anywhere in this light"),
            "larger sample": _("a larger sample"),
            "another photo": _("another photo as good as this"),
        }[best.kind]
