"""Evidence: photos, their anchors, and samples with an honest range."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QButtonGroup, QCheckBox, QFileDialog, QHBoxLayout, QSlider

from lean_sepia.arrays import triple
from lean_sepia.errors import SepiaError
from lean_sepia.photo.chart import chart_anchors
from lean_sepia.photo.patch import disc_patch
from lean_sepia.photo.pyramid import Pyramid
from lean_sepia.photo.read import shrunk
from lean_sepia.photo.shares import snap_to_edges
from lean_sepia.project import edits
from lean_sepia.project.advice import contradiction
from lean_sepia.project.model import AnchorMark, Photo, Project, Region, Sample, Shape
from lean_sepia.project.questions import (
    Outline,
    cast_of,
    outline_of,
    patch_of,
    resample,
    take_sample,
    trace_area,
)
from lean_sepia.project.straightened import straightened_copy
from lean_sepia.ui.anchor_dialog import AnchorDialog
from lean_sepia.ui.cast_panel import CastPanel
from lean_sepia.ui.features_panel import FeaturesPanel
from lean_sepia.ui.file_filters import PICTURE_FILTER
from lean_sepia.ui.greys_panel import GreysPanel
from lean_sepia.ui.loupe import Loupe
from lean_sepia.ui.panel import ElidedLabel, button, clear, label, row, scrolled
from lean_sepia.ui.photo_card import PhotoCard
from lean_sepia.ui.photo_dialog import PhotoDialog
from lean_sepia.ui.photo_marks import Mark
from lean_sepia.ui.photo_viewer import SAMPLE_TOOLS, TOOL_KEYS, PhotoViewer
from lean_sepia.ui.rooms.room import RoomPage
from lean_sepia.ui.samples_panel import SamplesPanel
from lean_sepia.ui.screen_image import to_image
from lean_sepia.ui.seen_photo import Seen, first_look, prepare
from lean_sepia.ui.session import Session
from lean_sepia.ui.shares_panel import SharesPanel
from lean_sepia.ui.straighten_dialog import StraightenDialog

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
        self.viewer.tools = frozenset(TOOL_KEYS.values()) - {"region"}
        self.viewer.placed.connect(self._placed)
        self.viewer.hovered.connect(self._hover)
        self.viewer.tool_changed.connect(self._tool_changed)
        self.viewer.outlined.connect(self._outlined)
        self.viewer.corner_words = {
            "chart": (
                self.tr(
                    "Chart of 24 patches: click the middle of the dark brown patch, at one end of its first row"
                ),
                self.tr("Now the middle of the patch at the other end of that row"),
                self.tr("Now the middle of the black patch"),
                self.tr("Now the middle of the white patch"),
            ),
            "straighten": (
                self.tr("A rectangle in truth: click its upper left corner"),
                self.tr("Now its upper right corner"),
                self.tr("Now its lower right corner"),
                self.tr("Now its lower left corner"),
            ),
        }
        self._locating = ""
        self._loupe = Loupe(self.viewer)
        self.viewer.left.connect(self._loupe.hide)
        self._build_centre()
        self._build_side()

    def _build_centre(self) -> None:
        self._title = label("", "title")
        self._subtitle = ElidedLabel("second")
        self.wipe = QSlider(Qt.Orientation.Horizontal)
        self.wipe.setRange(0, 100)
        self.wipe.setFixedWidth(84)
        self.wipe.setAccessibleName(self.tr("Wipe between as found and corrected"))
        self.wipe.valueChanged.connect(lambda value: self.viewer.set_wipe(value / 100))
        self._wipe_words = label(self.tr("corrected"), "second")
        self._details = button(self.tr("About…"), "tool", self.tr("Title, date and origin of this photo"))
        self._details.clicked.connect(self._edit_photo)
        self.clipped = QCheckBox(self.tr("Clipped"))
        self.clipped.setToolTip(
            self.tr("Stripes where a channel is at its end: nothing can be measured there")
        )
        self.clipped.toggled.connect(self.viewer.set_show_clipped)
        head = row(
            self._title,
            self._subtitle,
            self._details,
            4,
            label(self.tr("as found"), "second"),
            self.wipe,
            self._wipe_words,
            4,
            self.clipped,
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
            ("look", self.tr("Look"), "L"), ("sample", self.tr("Sample"), "S"), ("grey", self.tr("Known grey"), "N"),
            ("known", self.tr("Known colour"), "K"), ("chart", self.tr("Chart"), "C"), ("area", self.tr("Area"), "A"),
            ("straighten", self.tr("Straighten"), "T"),
        ):  # fmt: skip
            choice = button(words, "tool", self.tr("Key {0}, with the photo in focus").format(key))
            choice.setCheckable(True)
            choice.setChecked(tool == "look")
            choice.clicked.connect(partial(self.viewer.set_tool, tool))
            choice.setProperty("tool", tool)
            self._tools.addButton(choice)
            buttons.append(choice)
        return row(*buttons, None, spacing=6)

    def _build_side(self) -> None:
        self.cast_panel = CastPanel(self.session)
        self.cast_panel.edit_wanted.connect(self._edit_anchor)
        self.cast_panel.remove_wanted.connect(self._remove_anchor)
        self.greys = GreysPanel(self.session)
        self.samples = SamplesPanel(self.session)
        self.samples.shape_changed.connect(lambda _shape: self._use_shape())
        self.samples.radius_changed.connect(self._set_radius)
        self.samples.looked_at.connect(self._look_at)
        self.shares = SharesPanel(self.session)
        self.features = FeaturesPanel(self.session)
        self.features.locate_wanted.connect(self._start_locating)
        self.side.addWidget(self.cast_panel)
        self.side.addWidget(self.greys)
        self.side.addWidget(self.shares)
        self.side.addWidget(self.samples, 1)
        self.side.addWidget(self.features)
        self.greys.hide()
        self.shares.hide()

    # What the document says

    def refresh(self) -> None:
        project = self.session.project
        ids = [photo.id for photo in project.photos]
        if self._photo_id not in ids:
            self._photo_id = ids[0] if ids else ""
            self.seen = None
        self.features.show_features()
        self._fill_strip(project)
        self._details.setEnabled(bool(self._photo_id))
        if not self._photo_id:
            self.viewer.show_picture(None)
            self._title.setText(self.tr("No photo yet"))
            self._subtitle.show_text("")
            self._show_cast(None)
            self.samples.show_samples("")
            return
        photo = project.photo(self._photo_id)
        self._title.setText(photo.title)
        about = (photo.date, photo.process, photo.light, photo.source, photo.trust)
        self._subtitle.show_text(" · ".join(word for word in about if word))
        self.samples.show_samples(photo.id)
        self._show_marks(project)
        self.viewer.mm_per_px = photo.mm_per_px
        known = None if self.seen is None else self.seen.photo
        if known is None or (known.id, known.anchors, known.tones) != (photo.id, photo.anchors, photo.tones):
            if known is None or known.id != photo.id:
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
        words = self.tr("corrected") if seen.correction is not None else self.tr("no anchor yet")
        self._wipe_words.setText(words if seen.photo.tones == "colour" else self.tr("no colours"))

    def _show_marks(self, project: Project) -> None:
        photo = project.photo(self._photo_id)
        zone = self.session.zone
        marks = [Mark("square", a.x, a.y, a.radius) for a in photo.anchors]
        marks += [
            Mark("circle", s.x, s.y, s.radius, s.zone == zone, s.path, s.shape == "polygon")
            for s in project.samples
            if s.photo == self._photo_id
        ]
        marks += [
            Mark("diamond", f.x, f.y, 10.0, True)
            for f in project.features
            if f.photo == self._photo_id and f.x is not None and f.y is not None
        ]
        marks += [
            Mark.outline(region.corners)
            for region in project.regions
            if region.photo == self._photo_id and region.zone == zone
        ]
        self.viewer.show_marks(marks)
        self.shares.show_shares(self._photo_id, self.viewer.tool == "area")

    def _show_cast(self, seen: Seen | None) -> None:
        self.cast_panel.show_cast(seen)
        self.greys.show_greys(seen)
        self.samples.show_hint(seen)

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
        shown = "sample" if tool in SAMPLE_TOOLS.values() else tool
        self.shares.show_shares(self._photo_id, tool == "area")
        for choice in self._tools.buttons():
            choice.setChecked(choice.property("tool") == shown)
        if tool == "sample" and self.samples.shape.currentData() != "disc":
            self.viewer.set_tool(SAMPLE_TOOLS[self.samples.shape.currentData()])

    def _set_radius(self, value: float) -> None:
        self.viewer.radius = value

    def _hover(self, x: float, y: float) -> None:
        if self.seen is None:
            return
        patch = disc_patch(self.seen.picture.pixels, x, y, min(self.viewer.radius, 12.0))
        lab = triple(self.seen.cast.lab(patch.mean))
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
        if tool == "feature":
            self._locate(x, y)
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
        self.add_outline(Outline(x, y, radius))

    def _outlined(self, shape: Shape, path: list[tuple[float, float]]) -> None:
        by_corners = {"area": self.trace_area, "chart": self.add_chart, "straighten": self._ask_straighten}
        if (action := by_corners.get(self.viewer.tool)) is not None:
            action(path)
            return
        x, y = (sum(values) / len(path) for values in zip(*path, strict=True))
        self.add_outline(Outline(round(x, 1), round(y, 1), self.viewer.radius, shape, tuple(path)))

    def trace_area(self, corners: list[tuple[float, float]]) -> None:
        """Keep the chosen zone's area on this photo and measure the share of its tones."""
        seen, zone = self.seen, self.session.zone
        if seen is None or not zone:
            self.session.refused.emit(self.tr("Choose a zone at the left first: an area belongs to a zone."))
            return
        self.viewer.set_tool("look")
        project, pixels = self.session.project, seen.picture.pixels
        snapped = self.shares.snap.isChecked()

        def work(_progress) -> Region:
            outline = snap_to_edges(pixels, corners) if snapped else corners
            return trace_area(project, seen.photo, pixels, seen.cast, zone, outline)

        name = self.tr("Trace {0}").format(project.zone(zone).name)
        self.session.jobs.start(
            "trace", work, lambda region: self.session.edit(name, lambda p: edits.put(p, "regions", region))
        )

    def add_outline(self, outline: Outline) -> None:
        """Sample a disc, polygon or brush stroke for the chosen zone in the chosen role."""
        if self.seen is None:
            return
        if not self.session.zone:
            self.session.refused.emit(
                self.tr("Add a zone first, with the plus at the left: a sample belongs to a zone.")
            )
            return
        zone, role, seen = self.session.zone, self.samples.role.currentData(), self.seen
        name = self.tr("Sample {0}").format(self.session.project.zone(zone).name)

        def change(project: Project) -> Project:
            sample = take_sample(project, seen.photo, seen.picture.pixels, seen.cast, zone, role, outline)
            return edits.put(project, "samples", sample)

        self.session.edit(name, change)

    def add_anchor(self, anchor: AnchorMark) -> None:
        """Add an anchor to the photo and correct its samples anew."""
        photo = self.session.project.photo(self._photo_id)
        fresh = anchor.model_copy(update={"id": edits.fresh_id(photo.anchors, "a")})
        self._set_anchors((*photo.anchors, fresh), self.tr("Add anchor {0}").format(anchor.name))

    def add_chart(self, corners: list[tuple[float, float]]) -> None:
        """Take the 24 patches of a chart as anchors, from the middles of its corner patches."""
        photo = self.session.project.photo(self._photo_id)
        self.viewer.set_tool("look")
        try:
            patches = chart_anchors([value for corner in corners for value in corner])
        except SepiaError as error:
            self.session.refused.emit(str(error))
            return
        anchors = list(photo.anchors)
        group = edits.fresh_id(anchors, "chart")
        for number, patch in enumerate(patches, start=1):
            anchors.append(
                AnchorMark(
                    id=edits.fresh_id(anchors, "a"), x=patch.x, y=patch.y, radius=patch.radius, lightness=patch.lightness,
                    a=patch.a, b=patch.b, name=self.tr("Patch {0}").format(number), group=group,
                )
            )  # fmt: skip
        self._set_anchors(tuple(anchors), self.tr("Add chart"))

    def _ask_straighten(self, corners: list[tuple[float, float]]) -> None:
        dialog = StraightenDialog(self)
        self.viewer.set_tool("look")
        if dialog.exec():
            self.straighten(corners, dialog.width_mm, dialog.height_mm)

    def straighten(
        self,
        corners: list[tuple[float, float]],
        width_mm: float | None = None,
        height_mm: float | None = None,
    ) -> None:
        """Add a straightened copy of the photo to the contact sheet and show it."""
        seen, project = self.seen, self.session.project
        if seen is None:
            return

        def made(answer: tuple[Photo, bytes]) -> None:
            copy, file = answer
            self.session.store.add_photo(copy.sha256, "image/png", copy.name, file)
            fresh = copy.model_copy(update={"id": edits.fresh_id(self.session.project.photos, "f")})
            if self.session.edit(
                self.tr("Straighten {0}").format(seen.photo.title), lambda p: edits.add_photo(p, fresh)
            ):
                self.choose_photo(fresh.id)

        self.session.jobs.start(
            "straighten",
            lambda _p: straightened_copy(
                project, seen.photo, seen.picture.pixels, corners, width_mm, height_mm
            ),
            made,
        )

    def _edit_anchor(self, anchor: AnchorMark) -> None:
        dialog = AnchorDialog(anchor, coloured=bool(anchor.a or anchor.b), parent=self)
        if dialog.exec():
            changed = dialog.anchor()
            anchors = self.session.project.photo(self._photo_id).anchors
            self._set_anchors(
                tuple(changed if old.id == anchor.id else old for old in anchors),
                self.tr("Change anchor {0}").format(changed.name),
            )

    def _remove_anchor(self, name: str) -> None:
        """Take out one anchor by its id, or a chart by its group."""
        anchors = self.session.project.photo(self._photo_id).anchors
        left = tuple(anchor for anchor in anchors if name not in (anchor.id, anchor.group))
        self._set_anchors(left, self.tr("Remove anchor"))

    def _set_anchors(self, anchors: tuple[AnchorMark, ...], name: str) -> None:
        if self.seen is None:
            return
        pixels, photo_id = self.seen.picture.pixels, self._photo_id
        project = self.session.project

        def fit(_progress) -> tuple[list[Sample], list[Region]]:
            photo = project.photo(photo_id)
            return resample(project, photo, pixels, cast_of(pixels, anchors, photo.tones))

        def fitted(answer: tuple[list[Sample], list[Region]]) -> None:
            if self.session.project is project:
                self.session.edit(name, lambda p: edits.set_anchors(p, photo_id, anchors, *answer))
            else:  # something changed meanwhile, which may be one of the samples
                self._set_anchors(anchors, name)

        self.session.jobs.start("anchors", fit, fitted)

    def _start_locating(self, feature_id: str) -> None:
        self._locating = feature_id
        self.viewer.set_tool("feature")

    def _locate(self, x: float, y: float) -> None:
        feature, zone, photo = self._locating, self.session.zone or None, self._photo_id
        self.viewer.set_tool("look")
        if any(named.id == feature for named in self.session.project.features):
            self.session.edit(
                self.tr("Locate the signature"), lambda p: edits.locate_feature(p, feature, zone, photo, x, y)
            )

    def _look_at(self, sample: Sample) -> None:
        """Show which pixels of a sample were left out."""
        if self.seen is not None and sample.photo == self.seen.photo.id:
            self.viewer.show_left_out(patch_of(self.seen.picture.pixels, outline_of(sample)).left_out)

    def _use_shape(self) -> None:
        if self.viewer.tool in ("sample", "polygon", "brush"):
            self.viewer.set_tool(SAMPLE_TOOLS[self.samples.shape.currentData()])

    def _edit_photo(self) -> None:
        photo = self.session.project.photo(self._photo_id)
        dialog = PhotoDialog(photo, self)
        answer = dialog.exec()
        if answer == PhotoDialog.REMOVE:
            self.session.edit(self.tr("Remove photo"), lambda p: edits.remove_photo(p, photo.id))
        elif answer:
            self.describe_photo(dialog.photo())

    def describe_photo(self, changed: Photo) -> None:
        """Keep what is known of a photo; where its colours now count or no longer do, its samples are read anew."""
        seen = self.seen if self.seen is not None and self.seen.photo.id == changed.id else None

        def change(project: Project) -> Project:
            project = edits.describe_photo(project, changed)
            if seen is None or seen.photo.tones == changed.tones:
                return project
            cast = cast_of(seen.picture.pixels, changed.anchors, changed.tones)
            samples, regions = resample(project, changed, seen.picture.pixels, cast)
            return edits.set_anchors(project, changed.id, changed.anchors, samples, regions)

        self.session.edit(self.tr("About {0}").format(changed.title), change)

    def _ask_photos(self) -> None:
        names, _ = QFileDialog.getOpenFileNames(self, self.tr("Photos"), "", PICTURE_FILTER)
        workspace = self.window().workspace
        if names and workspace:
            workspace.add_photos(names)
