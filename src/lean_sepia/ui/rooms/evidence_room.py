"""Evidence: photos, their anchors, and samples with an honest range."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtWidgets import (
    QButtonGroup,
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QSizePolicy,
    QSlider,
    QVBoxLayout,
)

from lean_sepia.colour.words import difference
from lean_sepia.photo.cast import Cast
from lean_sepia.photo.patch import disc_patch
from lean_sepia.photo.pyramid import Pyramid
from lean_sepia.photo.read import shrunk
from lean_sepia.project import edits
from lean_sepia.project.advice import contradiction
from lean_sepia.project.model import ROLES, AnchorMark, Photo, Project
from lean_sepia.project.questions import cast_of, resample, take_sample
from lean_sepia.ui.anchor_dialog import AnchorDialog
from lean_sepia.ui.loupe import Loupe
from lean_sepia.ui.panel import (
    NoteBox,
    Panel,
    button,
    clear,
    counted,
    label,
    measure_box,
    row,
    rule,
    scrolled,
)
from lean_sepia.ui.photo_card import PhotoCard
from lean_sepia.ui.photo_dialog import PhotoDialog
from lean_sepia.ui.photo_viewer import Mark, PhotoViewer, to_image
from lean_sepia.ui.rooms.room import RoomPage
from lean_sepia.ui.seen_photo import Seen, first_look, prepare
from lean_sepia.ui.session import Session
from lean_sepia.ui.swatch import Chip, Fields

_THUMB_SIDE = 280


class EvidenceRoom(RoomPage):
    """Viewer in the middle, contact sheet below, cast and samples at the right."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self._photo_id = ""
        self.seen: Seen | None = None
        self._thumbs: dict[str, QImage] = {}
        self.viewer = PhotoViewer()
        self.viewer.empty_words = self.tr(
            "Drop photos of the prototype here, or add them below.\nA photo with something grey or white in it is worth most."
        )
        self.viewer.placed.connect(self._placed)
        self.viewer.hovered.connect(self._hover)
        self.viewer.tool_changed.connect(self._tool_changed)
        self._loupe = Loupe(self.viewer)
        self.viewer.left.connect(self._loupe.hide)
        self._build_centre()
        self._build_side()

    def _build_centre(self) -> None:
        self._title = label("", "title")
        self._subtitle = label("", "second")
        self._subtitle.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.wipe = QSlider(Qt.Orientation.Horizontal)
        self.wipe.setRange(0, 100)
        self.wipe.setFixedWidth(84)
        self.wipe.setAccessibleName(self.tr("Wipe between as found and corrected"))
        self.wipe.valueChanged.connect(lambda value: self.viewer.set_wipe(value / 100))
        self._wipe_words = label(self.tr("corrected"), "second")
        self._details = button(self.tr("About…"), "tool", self.tr("Title, date and origin of this photo"))
        self._details.clicked.connect(self._edit_photo)
        head = row(
            self._title,
            self._subtitle,
            self._details,
            4,
            label(self.tr("as found"), "second"),
            self.wipe,
            self._wipe_words,
        )
        head.setStretch(1, 1)
        self.centre.addLayout(head)
        self.centre.addLayout(self._tool_row())
        self.centre.addWidget(self.viewer, 1)
        self._strip = QHBoxLayout()
        self._strip.setSpacing(7)
        sheet = scrolled(self._strip, sideways=True)
        sheet.setFixedHeight(118)
        self.centre.addWidget(sheet)

    def _tool_row(self) -> QHBoxLayout:
        self._tools = QButtonGroup(self)
        self._tools.setExclusive(True)
        buttons = []
        for tool, words, key in (
            ("look", self.tr("Look"), "L"), ("sample", self.tr("Sample"), "S"), ("grey", self.tr("Grey anchor"), "N"),
            ("known", self.tr("Known colour"), "K"),
        ):  # fmt: skip
            choice = button(words, "tool", self.tr("Key {0}, with the photo in focus").format(key))
            choice.setCheckable(True)
            choice.setChecked(tool == "look")
            choice.clicked.connect(partial(self.viewer.set_tool, tool))
            choice.setProperty("tool", tool)
            self._tools.addButton(choice)
            buttons.append(choice)
        self.role = QComboBox()
        for role in ROLES:
            self.role.addItem(role.replace("-", " "), role)
        self.role.setFixedWidth(112)
        self.role.setAccessibleName(self.tr("Role of the next sample"))
        self.role.setToolTip(
            self.tr("What the next sample shows: the base coat, a faded or a sheltered place, rust")
        )
        self.size = measure_box(0.5, 400, 8, "px", self.tr("Radius of the disc"), width=70)
        self.size.valueChanged.connect(self._set_radius)
        return row(*buttons, None, self.role, self.size, spacing=6)

    def _build_side(self) -> None:
        self._cast_panel = Panel(self.tr("Cast"))
        self._cast_words = label("", "title", wrap=True)
        self._cast_detail = label("", "second", wrap=True)
        self._anchors = QVBoxLayout()
        self._anchors.setSpacing(2)
        self._before, self._after = Fields(0, 22), Fields(0, 22)
        for item in (self._cast_words, self._cast_detail, self._anchors, self._before, self._after):
            self._cast_panel.add(item)
        self.side.addWidget(self._cast_panel)
        self._samples_panel = Panel(self.tr("Samples"), self.tr("±90 %"))
        self._samples = QVBoxLayout()
        self._samples.setSpacing(2)
        self._samples_panel.add(scrolled(self._samples), 1)
        self._samples.setContentsMargins(0, 0, 4, 0)
        self.side.addWidget(self._samples_panel, 1)
        signature = Panel(self.tr("Signature"), self.tr("goes first"))
        self.signature = NoteBox(
            self.tr("Signature of the subject"), self.tr("The one mark people know it by")
        )
        self.signature.editing_finished.connect(self._set_signature)
        signature.add(self.signature)
        self.side.addWidget(signature)

    # What the document says

    def refresh(self) -> None:
        project = self.session.project
        ids = [photo.id for photo in project.photos]
        if self._photo_id not in ids:
            self._photo_id = ids[0] if ids else ""
            self.seen = None
        if self.signature.toPlainText() != project.signature:
            self.signature.setPlainText(project.signature)
        self._fill_strip(project)
        self._details.setEnabled(bool(self._photo_id))
        if not self._photo_id:
            self.viewer.show_picture(None)
            self._title.setText(self.tr("No photo yet"))
            self._subtitle.setText("")
            self._show_cast(None)
            clear(self._samples)
            return
        photo = project.photo(self._photo_id)
        self._title.setText(photo.title)
        self._subtitle.setText(" · ".join(word for word in (photo.date, photo.process, photo.light) if word))
        self._fill_samples(project)
        self._show_marks(project)
        if self.seen is None or self.seen.photo.id != photo.id or self.seen.photo.anchors != photo.anchors:
            if self.seen is None or self.seen.photo.id != photo.id:
                self.session.jobs.start(
                    "look", lambda _p: (photo.id, first_look(self.session, photo)), self._show_look
                )
            self.session.jobs.start("photo", lambda _progress: prepare(self.session, photo), self._show_seen)
        else:
            self._show_cast(self.seen)

    def choose_photo(self, photo_id: str) -> None:
        """Put another photo in the viewer."""
        self._photo_id = photo_id
        self.refresh()

    def _show_look(self, look: tuple[str, Pyramid | None]) -> None:
        """Show the reduced picture until the whole one is there."""
        photo_id, pyramid = look
        waiting = self.seen is None or self.seen.photo.id != photo_id
        if pyramid is not None and photo_id == self._photo_id and waiting:
            self.viewer.show_picture(pyramid)

    def _show_seen(self, seen: Seen) -> None:
        self.seen = seen
        self.viewer.show_picture(seen.pyramid, seen.correction)
        self._show_cast(seen)
        self.wipe.setEnabled(seen.correction is not None)
        self._wipe_words.setText(
            self.tr("corrected") if seen.correction is not None else self.tr("no anchor yet")
        )

    def _show_marks(self, project: Project) -> None:
        photo = project.photo(self._photo_id)
        zone = self.session.zone
        marks = [Mark("square", a.x, a.y, a.radius) for a in photo.anchors]
        marks += [
            Mark("circle", s.x, s.y, s.radius, s.zone == zone)
            for s in project.samples
            if s.photo == self._photo_id
        ]
        boxes = [
            _box(region.corners)
            for region in project.regions
            if region.photo == self._photo_id and region.zone == zone
        ]
        self.viewer.show_marks(marks, boxes)

    def _show_cast(self, seen: Seen | None) -> None:
        clear(self._anchors)
        anchors = seen.photo.anchors if seen else ()
        self._cast_panel.set_remark(counted(len(anchors), self.tr("1 anchor"), self.tr("{0} anchors")))
        for field in (self._before, self._after):
            field.setVisible(bool(anchors))
        if seen is None or not anchors:
            self._cast_words.setText(self.tr("As found."))
            self._cast_detail.setText(
                self.tr(
                    "Mark something grey or white with Grey anchor, or something whose colour you know. Without one a colour can be 10 out."
                )
            )
            return
        self._cast_words.setText(cast_words(seen))
        detail = [seen.cast.model.capitalize() + "."]
        if seen.cast.anchor_error_de00 is not None:
            detail.append(self.tr("Held-out error {0}.").format(f"{seen.cast.anchor_error_de00:.1f}"))
        detail += [word.capitalize() + "." for word in seen.cast.warnings]
        self._cast_detail.setText(" ".join(detail))
        for anchor in anchors:
            self._anchors.addLayout(self._anchor_row(anchor))
        samples = [s for s in self.session.project.samples if s.photo == seen.photo.id][:6]
        raw = Cast()
        patches = [disc_patch(seen.picture.pixels, s.x, s.y, s.radius) for s in samples]
        self._before.show_labs(
            [_tuple(raw.lab(patch.mean)) for patch in patches], self.tr("Samples as found")
        )
        self._after.show_labs([sample.lab for sample in samples], self.tr("Samples corrected"))

    def _anchor_row(self, anchor: AnchorMark) -> QHBoxLayout:
        known = (
            self.tr("grey, L* {0}").format(f"{anchor.lightness:.0f}")
            if anchor.lightness is not None
            else self.tr("grey")
        )
        if anchor.a or anchor.b:
            known = ", ".join(f"{round(v)}" for v in (anchor.lightness, anchor.a, anchor.b)).replace("-", "−")
        name = button(anchor.name or self.tr("Anchor"), "link", self.tr("Change what is known of it"))
        name.clicked.connect(lambda: self._edit_anchor(anchor))
        drop = button("×", "step", self.tr("Remove this anchor"))
        drop.setAccessibleName(self.tr("Remove anchor {0}").format(anchor.name))
        drop.clicked.connect(lambda: self._remove_anchor(anchor.id))
        return row(name, None, label(known, "second"), drop, spacing=6)

    def _fill_samples(self, project: Project) -> None:
        clear(self._samples)
        mine = [sample for sample in project.samples if sample.photo == self._photo_id]
        self._samples_panel.set_remark(self.tr("±90 %") if mine else "")
        if not mine:
            self._samples.addWidget(
                label(
                    self.tr(
                        "None from this photo. Choose a zone at the left, then Sample, and click its paint."
                    ),
                    "second",
                    wrap=True,
                )
            )
        for sample in mine:
            zone = project.zone(sample.zone)
            name = button(
                f"{zone.short}, {sample.role.replace('-', ' ')}", "link", self.tr("Choose this zone")
            )
            name.clicked.connect(lambda _c=False, z=zone.id: self.session.choose_zone(z))
            drop = button("×", "step", self.tr("Remove this sample"))
            drop.setAccessibleName(self.tr("Remove sample of {0}").format(zone.name))
            drop.clicked.connect(
                lambda _c=False, s=sample.id: self.session.edit(
                    self.tr("Remove sample"), lambda p: edits.remove_sample(p, s)
                )
            )
            figure = label(f"±{sample.de00_90:.1f}")
            self._samples.addLayout(row(Chip(sample.lab), name, None, figure, drop, spacing=7))
            self._samples.addWidget(rule())
        self._samples.addStretch(1)

    def _fill_strip(self, project: Project) -> None:
        clear(self._strip)
        used = {sample.photo for sample in project.samples}
        missing = []
        for photo in project.photos:
            status = self.tr("in use") if photo.id in used else self.tr("the model") if photo.of_model else ""
            if any(contradiction(photo, subject) for subject in project.subjects):
                status = self.tr("contradicted")
            card = PhotoCard(photo, status, photo.id == self._photo_id)
            card.image = self._thumbs.get(photo.sha256)
            card.chosen.connect(self.choose_photo)
            self._strip.addWidget(card)
            if card.image is None:
                missing.append(photo)
        add = button(self.tr("Add photos…"), "", self.tr("Or drop them anywhere in the window"))
        add.setFixedSize(108, 104)
        add.clicked.connect(self._ask_photos)
        self._strip.addWidget(add)
        self._strip.addStretch(1)
        if missing:
            self.session.jobs.start("thumbs", lambda _progress: self._make_thumbs(missing), self._thumbs_made)

    def _make_thumbs(self, photos: list[Photo]) -> dict[str, QImage]:
        return {
            photo.sha256: to_image(shrunk(self.session.picture(photo.id).pixels, _THUMB_SIDE))
            for photo in photos
        }

    def _thumbs_made(self, thumbs: dict[str, QImage]) -> None:
        self._thumbs |= thumbs
        for index in range(self._strip.count()):
            card = self._strip.itemAt(index).widget()
            if isinstance(card, PhotoCard):
                card.image = self._thumbs.get(card.photo.sha256)
                card.update()

    # What the user does

    def _tool_changed(self, tool: str) -> None:
        for choice in self._tools.buttons():
            choice.setChecked(choice.property("tool") == tool)

    def _set_radius(self, value: float) -> None:
        self.viewer.radius = value

    def _hover(self, x: float, y: float) -> None:
        if self.seen is None:
            return
        patch = disc_patch(self.seen.picture.pixels, x, y, min(self.viewer.radius, 12.0))
        lab = _tuple(self.seen.cast.lab(patch.mean))
        reach = 2.2 * max(self.viewer.radius, 3.0)
        square = self.seen.pyramid.view(x - reach, y - reach, 76 / (2 * reach), 76, 76, 160)
        if self.seen.correction is not None:
            square = self.seen.correction.apply(square)
        self._loupe.show_place(lab, square, self.viewer.radius / reach)
        self._loupe.move(
            self.viewer.width() - self._loupe.width() - 12, self.viewer.height() - self._loupe.height() - 12
        )

    def _placed(self, tool: str, x: float, y: float, radius: float) -> None:
        if tool == "sample":
            self.add_sample(x, y, radius)
            return
        number = len(self.session.project.photo(self._photo_id).anchors) + 1
        blank = AnchorMark(
            id="new", x=x, y=y, radius=radius, name=self.tr("Grey {0}").format(number) if tool == "grey" else self.tr("Known {0}").format(number),
            lightness=None if tool == "grey" else 50.0,
        )  # fmt: skip
        dialog = AnchorDialog(blank, coloured=tool == "known", parent=self)
        if dialog.exec():
            self.add_anchor(dialog.anchor())

    def add_sample(self, x: float, y: float, radius: float) -> None:
        """Sample a disc for the chosen zone in the chosen role."""
        if self.seen is None:
            return
        if not self.session.zone:
            self.session.refused.emit(
                self.tr("Add a zone first, with the plus at the left: a sample belongs to a zone.")
            )
            return
        zone, role, seen = self.session.zone, self.role.currentData(), self.seen
        name = self.tr("Sample {0}").format(self.session.project.zone(zone).name)

        def change(project: Project) -> Project:
            sample = take_sample(
                project, seen.photo, seen.picture.pixels, seen.cast, zone, role, x, y, radius
            )
            return edits.put(project, "samples", sample)

        self.session.edit(name, change)

    def add_anchor(self, anchor: AnchorMark) -> None:
        """Add an anchor to the photo and correct its samples anew."""
        photo = self.session.project.photo(self._photo_id)
        fresh = anchor.model_copy(update={"id": edits.fresh_id(photo.anchors, "a")})
        self._set_anchors((*photo.anchors, fresh), self.tr("Add anchor {0}").format(anchor.name))

    def _edit_anchor(self, anchor: AnchorMark) -> None:
        dialog = AnchorDialog(anchor, coloured=bool(anchor.a or anchor.b), parent=self)
        if dialog.exec():
            changed = dialog.anchor()
            anchors = self.session.project.photo(self._photo_id).anchors
            self._set_anchors(
                tuple(changed if old.id == anchor.id else old for old in anchors),
                self.tr("Change anchor {0}").format(changed.name),
            )

    def _remove_anchor(self, anchor_id: str) -> None:
        anchors = self.session.project.photo(self._photo_id).anchors
        self._set_anchors(tuple(a for a in anchors if a.id != anchor_id), self.tr("Remove anchor"))

    def _set_anchors(self, anchors: tuple[AnchorMark, ...], name: str) -> None:
        if self.seen is None:
            return
        pixels, photo_id = self.seen.picture.pixels, self._photo_id

        def change(project: Project) -> Project:
            photo = project.photo(photo_id)
            cast = cast_of(pixels, anchors)
            samples, regions = resample(project, photo, pixels, cast)
            return edits.set_anchors(project, photo_id, anchors, samples, regions)

        self.session.edit(name, change)

    def _set_signature(self) -> None:
        words = self.signature.toPlainText().strip()
        self.session.edit(self.tr("Signature"), lambda p: p.model_copy(update={"signature": words}))

    def _edit_photo(self) -> None:
        photo = self.session.project.photo(self._photo_id)
        dialog = PhotoDialog(photo, self)
        answer = dialog.exec()
        if answer == PhotoDialog.REMOVE:
            self.session.edit(self.tr("Remove photo"), lambda p: edits.remove_photo(p, photo.id))
        elif answer:
            changed = dialog.photo()
            self.session.edit(
                self.tr("About {0}").format(changed.title), lambda p: edits.put(p, "photos", changed)
            )

    def _ask_photos(self) -> None:
        from lean_sepia.ui.window import PICTURE_FILTER

        names, _ = QFileDialog.getOpenFileNames(self, self.tr("Photos"), "", PICTURE_FILTER)
        workspace = self.window().workspace
        if names and workspace:
            workspace.add_photos(names)


def cast_words(seen: Seen) -> str:
    """What the correction took out, in words."""
    white = _tuple(seen.cast.lab([0.5, 0.5, 0.5]))
    neutral = _tuple(Cast().lab([0.5, 0.5, 0.5]))
    change = difference(white, neutral)
    if change.de00 < 1.5:
        return "Hardly any cast."
    warm = neutral[2] - white[2] > abs(neutral[1] - white[1]) * 0.5
    cool = white[2] - neutral[2] > abs(neutral[1] - white[1]) * 0.5
    name = "Warm light" if warm else "Cool light" if cool else "A cast"
    return f"{name}, taken out."


def _tuple(lab) -> tuple[float, float, float]:
    return float(lab[0]), float(lab[1]), float(lab[2])


def _box(corners: tuple[tuple[float, float], ...]) -> tuple[float, float, float, float]:
    xs, ys = zip(*corners, strict=True)
    return min(xs), min(ys), max(xs), max(ys)
