"""Evidence: photos, their anchors, and samples with an honest range."""

from __future__ import annotations

from PySide6.QtCore import QPointF
from PySide6.QtWidgets import QCheckBox

from lean_sepia.answers.evidence import (
    Outline,
    alike,
    outline_of,
    patch_of,
)
from lean_sepia.document.edits.photos import remove_photo
from lean_sepia.document.edits.zones import locate_feature
from lean_sepia.document.model import AnchorMark, Project, Sample, Shape
from lean_sepia.language import _
from lean_sepia.photo.patch import disc_patch
from lean_sepia.photo.preview import CorrectionTable
from lean_sepia.photo.pyramid import Pyramid
from lean_sepia.photo.sample import sample_patch
from lean_sepia.ui.evidence.anchor_dialog import AnchorDialog
from lean_sepia.ui.evidence.cast_panel import CastPanel
from lean_sepia.ui.evidence.development import Development
from lean_sepia.ui.evidence.features_panel import FeaturesPanel
from lean_sepia.ui.evidence.greys_panel import GreysPanel
from lean_sepia.ui.evidence.line.dated_line import DatedLine
from lean_sepia.ui.evidence.photo_dialog import PhotoDialog
from lean_sepia.ui.evidence.photo_edits import PhotoEdits
from lean_sepia.ui.evidence.samples_panel import SamplesPanel
from lean_sepia.ui.evidence.shares_panel import SharesPanel
from lean_sepia.ui.evidence.straighten_dialog import StraightenDialog
from lean_sepia.ui.kit.panel import ElidedLabel, button, label, row
from lean_sepia.ui.kit.plain import hint
from lean_sepia.ui.photo.light_veil import LightVeil
from lean_sepia.ui.photo.loupe import Loupe, Place
from lean_sepia.ui.photo.marks import Mark
from lean_sepia.ui.photo.seen_photo import Seen, first_look, prepare
from lean_sepia.ui.photo.tool_row import ToolRow
from lean_sepia.ui.photo.tools import TOOL_KEYS
from lean_sepia.ui.photo.viewer import PhotoViewer
from lean_sepia.ui.shell.room import RoomPage
from lean_sepia.ui.shell.session import Session

_THUMB_SIDE = 280


class EvidenceRoom(RoomPage):
    """Viewer in the middle, the dated line below, cast and samples at the right."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self._photo_id = ""
        self.edits = PhotoEdits(session, self)
        self.edits.photo_added.connect(self.choose_photo)
        self._first_shown = False
        self.edits.first_known.connect(self._show_first)
        session.jobs.failed.connect(self._show_no_first)
        self.viewer = PhotoViewer()
        self.viewer.empty_words = _(
            "Drop photos of the prototype here, or add them below.\nA photo with something grey or white in it is worth most."
        )
        self.viewer.tools = frozenset(TOOL_KEYS.values()) - {"region"}
        self.viewer.placed.connect(self._placed)
        self.viewer.hovered.connect(self._hover)
        self.viewer.tool_changed.connect(self._tool_changed)
        self.viewer.outlined.connect(self._outlined)
        self.viewer.corner_words = {
            "chart": (
                _(
                    "Chart of 24 patches: click the middle of the dark brown patch, at one end of its first row"
                ),
                _("Now the middle of the patch at the other end of that row"),
                _("Now the middle of the black patch"),
                _("Now the middle of the white patch"),
            ),
            "straighten": (
                _("A rectangle in truth: click its upper left corner"),
                _("Now its upper right corner"),
                _("Now its lower right corner"),
                _("Now its lower left corner"),
            ),
        }
        self._locating = self._looked_at = ""
        self._loupe = Loupe(self.viewer)
        self.viewer.left.connect(self._loupe.hide)
        self._build_centre()
        self._build_side()

    def _build_centre(self) -> None:
        self._title = label("", "title")
        self._subtitle = ElidedLabel("second")
        self.as_found = button(
            _("As found"),
            "tool",
            _("Held down, or F with the photo in focus: the picture without its correction"),
        )
        self.as_found.pressed.connect(lambda: self.viewer.set_as_found(True))
        self.as_found.released.connect(lambda: self.viewer.set_as_found(False))
        self._state = label("", "second")
        self.viewer.as_found_changed.connect(lambda _shown: self._show_state())
        self._details = button(_("About…"), "tool", _("Title, date and origin of this photo"))
        self._details.clicked.connect(self._edit_photo)
        self.clipped = QCheckBox(_("Clipped"))
        hint(self.clipped, _("Stripes where a channel is at its end: nothing can be measured there"))
        self.clipped.toggled.connect(self.viewer.set_show_clipped)
        self.lights = QCheckBox(_("Mixed light"))
        hint(self.lights, _("Where the picture is lit by other light: its greys disagree"))
        self.lights.toggled.connect(lambda _on: self._show_lights())
        self._veil = LightVeil(self.viewer)
        self.lights.hide()
        self.development = Development(self)
        self.development.kind_stated.connect(self.edits.state_kind)
        self.development.usual_wanted.connect(self.edits.toggle_usual)
        looking = ToolRow(
            self.viewer,
            (
                ("look", _("Look"), _("Key L, with the photo in focus; Esc leaves a tool")),
                ("straighten", _("Straighten"), _("Click the corners of a rectangle in truth (T)")),
            ),
        )
        head = row(
            self._title, self._subtitle, self._state, self._details, looking, self.as_found, self.lights, self.clipped
        )  # fmt: skip
        head.setStretch(1, 1)
        self.centre.addLayout(head)
        self.centre.addWidget(self.viewer, 1)
        self.sheet = DatedLine(self.session)
        self.sheet.chosen.connect(self.choose_photo)
        self.sheet.photos_wanted.connect(self.photos_wanted)
        self.centre.addWidget(self.sheet)

    def _build_side(self) -> None:
        self.cast_panel = CastPanel(self.session, self.viewer, self.development.kind)
        self.cast_panel.edit_wanted.connect(self._edit_anchor)
        self.cast_panel.remove_wanted.connect(self.edits.remove_anchor)
        self.cast_panel.add(self.development.guesses)
        self.greys = GreysPanel(self.session)
        self.samples = SamplesPanel(self.session, self.viewer)
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
            self.edits.seen = None
        self.features.show_features()
        self.sheet.show_photos(self._photo_id)
        self._details.setEnabled(bool(self._photo_id))
        if not self._photo_id:
            self.viewer.show_picture(None)
            self._title.setText(_("No photo yet"))
            self._subtitle.show_text("")
            self._show_cast(None)
            self.samples.show_samples("")
            return
        photo = project.photo(self._photo_id)
        self._title.setText(photo.title)
        about = (photo.light, photo.process)
        self._subtitle.show_text(" · ".join(word for word in about if word))
        self.samples.show_samples(photo.id)
        if self._looked_at not in {sample.id for sample in project.samples}:
            self.viewer.show_left_out(None)  # its sample is gone
        self._show_marks(project)
        self.viewer.mm_per_px = photo.mm_per_px
        known = None if self.seen is None else self.seen.photo
        pictures = self.session.pictures
        beside = alike(project, photo.id)
        if self.seen is None or not self.seen.shows(photo, beside):
            if known is None or known.id != photo.id:
                self.session.jobs.start(
                    "look", lambda _p: (photo.id, first_look(pictures, photo)), self._show_look
                )
            self.session.jobs.start(
                "photo", lambda _progress: prepare(pictures, photo, beside), self._show_seen
            )
        else:
            self._show_cast(self.seen)

    @property
    def seen(self) -> Seen | None:
        """The photo in the viewer with its pixels and correction, once they are there."""
        return self.edits.seen

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
        if seen.photo.id != self._photo_id:
            return  # another photo was chosen, or this one removed, while it was read
        self.edits.seen, self._first_shown = seen, False
        self.viewer.show_picture(seen.pyramid, seen.correction)
        self._show_cast(seen)
        self._show_state()
        self._show_lights()

    def _show_first(self, project: Project, photo_id: str, correction: CorrectionTable | None) -> None:
        """Show a photo as what was just changed corrects it, while its anchors are checked and its samples read anew."""
        if self.seen is not None and self.seen.photo.id == photo_id == self._photo_id:
            self.viewer.show_picture(self.seen.pyramid, correction)
            self._show_marks(project)
            self._state.setText(_("checking…"))
            self._first_shown = True

    def _show_no_first(self, _why: str) -> None:
        """What was changed could not be: show the photo as it is."""
        if self._first_shown and self.seen is not None:
            self._show_seen(self.seen)
            self._show_marks(self.session.project)

    def _show_lights(self) -> None:
        """Offer the map of mixed light where greys disagree, and show it where it is wanted."""
        lights = None if self.seen is None else self.seen.lights
        self.lights.setVisible(lights is not None)
        self._veil.show_map(lights if self.lights.isChecked() else None)

    def _show_state(self) -> None:
        """Say whether what is shown is corrected."""
        seen = self.seen
        corrected = seen is not None and seen.correction is not None
        self.as_found.setEnabled(corrected)
        words = ""
        if seen is not None:
            words = _("corrected") if corrected else _("no anchor yet")
            words = words if seen.photo.tones == "colour" else _("no colours")
            words = _("as found") if corrected and self.as_found.isDown() else words
        self._state.setText(words)
        self._state.setVisible(seen is not None and seen.photo.tones != "colour")

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
        self.development.show_seen(seen)
        self.greys.show_greys(seen)
        self.samples.show_hint(seen)

    # What the user does

    def _tool_changed(self, tool: str) -> None:
        self.shares.show_shares(self._photo_id, tool == "area")

    def _set_radius(self, value: float) -> None:
        self.viewer.radius = value

    def _hover(self, x: float, y: float) -> None:
        if self.seen is None:
            return
        radius = self.viewer.radius
        patch = disc_patch(self.seen.picture.pixels, x, y, min(radius, 12.0))
        found = sample_patch(patch, self.seen.cast)
        reach = max(5, round(1.8 * radius))
        left, top, side = round(x) - reach, round(y) - reach, 2 * reach + 1
        square = self.seen.pyramid.view(left, top, 1.0, side, side, 160)
        if self.seen.correction is not None:
            square = self.seen.correction.apply(square)
        self._loupe.show_place(
            Place(
                found.lab,
                found.de00_90,
                square,
                (x - left, y - top),
                radius,
                patch.left_out - (left, top),
                patch.held,
            )
        )
        corner, beside = (self.viewer.to_picture(QPointF(at, 0)) for at in (0, 1))
        self._loupe.keep_clear_of((QPointF(x, y) - corner) / (beside.x() - corner.x()))

    def _placed(self, tool: str, x: float, y: float, radius: float) -> None:
        if tool == "sample":
            self.add_sample(x, y, radius)
            return
        if tool == "feature":
            self._locate(x, y)
            return
        number = len(self.session.project.photo(self._photo_id).anchors) + 1
        blank = AnchorMark(
            id="new", x=x, y=y, radius=radius, name=_("Grey {0}").format(number) if tool == "grey" else _("Known {0}").format(number),
            lightness=None if tool == "grey" else 50.0,
        )  # fmt: skip
        dialog = AnchorDialog(blank, coloured=tool == "known", parent=self)
        if dialog.exec():
            self.edits.add_anchor(dialog.anchor())

    def add_sample(self, x: float, y: float, radius: float) -> None:
        """Sample a disc for the chosen zone in the chosen role."""
        self.edits.add_outline(Outline(x, y, radius), self.samples.role.currentData())

    def _outlined(self, shape: Shape, path: list[tuple[float, float]]) -> None:
        by_corners = {
            "area": lambda: self.edits.trace_area(path, self.shares.snap.isChecked()),
            "chart": lambda: self.edits.add_chart(path),
            "straighten": lambda: self._ask_straighten(path),
        }
        if (action := by_corners.get(self.viewer.tool)) is not None:
            self.viewer.set_tool("look")
            action()
            return
        x, y = (sum(values) / len(path) for values in zip(*path, strict=True))
        outline = Outline(round(x, 1), round(y, 1), self.viewer.radius, shape, tuple(path))
        self.edits.add_outline(outline, self.samples.role.currentData())

    def _ask_straighten(self, corners: list[tuple[float, float]]) -> None:
        dialog = StraightenDialog(self)
        if dialog.exec():
            self.edits.straighten(corners, dialog.width_mm, dialog.height_mm)

    def _edit_anchor(self, anchor: AnchorMark) -> None:
        dialog = AnchorDialog(anchor, coloured=bool(anchor.a or anchor.b), parent=self)
        if dialog.exec():
            self.edits.change_anchor(dialog.anchor())

    def _start_locating(self, feature_id: str) -> None:
        self._locating = feature_id
        self.viewer.set_tool("feature")

    def _locate(self, x: float, y: float) -> None:
        feature, zone, photo = self._locating, self.session.zone or None, self._photo_id
        self.viewer.set_tool("look")
        if any(named.id == feature for named in self.session.project.features):
            self.session.edit(
                _("Locate the signature"), lambda p: locate_feature(p, feature, zone, photo, x, y)
            )

    def _look_at(self, sample: Sample) -> None:
        """Show which pixels of a sample were left out."""
        if self.seen is not None and sample.photo == self.seen.photo.id:
            self._looked_at = sample.id
            self.viewer.show_left_out(patch_of(self.seen.picture.pixels, outline_of(sample)).left_out)

    def _edit_photo(self) -> None:
        photo = self.session.project.photo(self._photo_id)
        dialog = PhotoDialog(photo, self.session.project.photos, self)
        answer = dialog.exec()
        if answer == PhotoDialog.REMOVE:
            self.session.edit(_("Remove photo"), lambda p: remove_photo(p, photo.id))
        elif answer:
            self.edits.describe_photo(photo.id, dialog.changes())
