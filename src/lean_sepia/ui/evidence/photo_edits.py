"""What is done with the photo that is seen: samples, areas, anchors and straightened copies, each as one edit."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal

from lean_sepia.answers.questions import Outline, cast_of, resample, take_sample, trace_area
from lean_sepia.answers.straightened import straightened_copy
from lean_sepia.document import edits
from lean_sepia.document.model import AnchorMark, Photo, Project, Region, Role, Sample
from lean_sepia.errors import SepiaError
from lean_sepia.photo.correction.chart import chart_anchors
from lean_sepia.photo.shares import snap_to_edges
from lean_sepia.ui.photo.seen_photo import Seen
from lean_sepia.ui.shell.session import Session


class PhotoEdits(QObject):
    """Works on the photo in `seen`, which its room sets; nothing happens while none is seen."""

    photo_added = Signal(str)

    def __init__(self, session: Session, parent: QObject) -> None:
        super().__init__(parent)
        self._session = session
        self.seen: Seen | None = None

    def _photo(self) -> Photo | None:
        """The photo as the document has it now."""
        return self._session.project.photo(self.seen.photo.id) if self.seen else None

    def add_outline(self, outline: Outline, role: Role) -> None:
        """Sample a disc, polygon or brush stroke for the chosen zone in a role."""
        if self.seen is None:
            return
        if not self._session.zone:
            self._session.refused.emit(
                self.tr("Add a zone first, with the plus at the left: a sample belongs to a zone.")
            )
            return
        zone, seen = self._session.zone, self.seen
        name = self.tr("Sample {0}").format(self._session.project.zone(zone).name)

        def change(project: Project) -> Project:
            sample = take_sample(project, seen.photo, seen.picture.pixels, seen.cast, zone, role, outline)
            return edits.put(project, "samples", sample)

        self._session.edit(name, change)

    def trace_area(self, corners: list[tuple[float, float]], snapped: bool) -> None:
        """Keep the chosen zone's area on this photo and measure the share of its tones."""
        seen, zone = self.seen, self._session.zone
        if seen is None or not zone:
            self._session.refused.emit(self.tr("Choose a zone at the left first: an area belongs to a zone."))
            return
        project, pixels = self._session.project, seen.picture.pixels

        def work(_progress) -> Region:
            outline = snap_to_edges(pixels, corners) if snapped else corners
            return trace_area(project, seen.photo, pixels, seen.cast, zone, outline)

        name = self.tr("Trace {0}").format(project.zone(zone).name)
        self._session.jobs.start(
            "trace", work, lambda region: self._session.edit(name, lambda p: edits.put(p, "regions", region))
        )

    def add_anchor(self, anchor: AnchorMark) -> None:
        """Add an anchor to the photo and correct its samples anew."""
        photo = self._photo()
        if photo is None:
            return
        fresh = anchor.model_copy(update={"id": edits.fresh_id(photo.anchors, "a")})
        self._set_anchors((*photo.anchors, fresh), self.tr("Add anchor {0}").format(anchor.name))

    def add_chart(self, corners: list[tuple[float, float]]) -> None:
        """Take the 24 patches of a chart as anchors, from the middles of its corner patches."""
        photo = self._photo()
        if photo is None:
            return
        try:
            patches = chart_anchors([value for corner in corners for value in corner])
        except SepiaError as error:
            self._session.refused.emit(str(error))
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

    def straighten(
        self,
        corners: list[tuple[float, float]],
        width_mm: float | None = None,
        height_mm: float | None = None,
    ) -> None:
        """Add a straightened copy of the photo to the contact sheet and show it."""
        seen, project = self.seen, self._session.project
        if seen is None:
            return

        def made(answer: tuple[Photo, bytes]) -> None:
            copy, file = answer
            self._session.store.add_photo(copy.sha256, "image/png", copy.name, file)
            fresh = copy.model_copy(update={"id": edits.fresh_id(self._session.project.photos, "f")})
            if self._session.edit(
                self.tr("Straighten {0}").format(seen.photo.title), lambda p: edits.add_photo(p, fresh)
            ):
                self.photo_added.emit(fresh.id)

        self._session.jobs.start(
            "straighten",
            lambda _p: straightened_copy(
                project, seen.photo, seen.picture.pixels, corners, width_mm, height_mm
            ),
            made,
        )

    def change_anchor(self, changed: AnchorMark) -> None:
        """Put a changed anchor in the place of the one with its id."""
        photo = self._photo()
        if photo is not None:
            anchors = tuple(changed if old.id == changed.id else old for old in photo.anchors)
            self._set_anchors(anchors, self.tr("Change anchor {0}").format(changed.name))

    def remove_anchor(self, name: str) -> None:
        """Take out one anchor by its id, or a chart by its group."""
        photo = self._photo()
        anchors = photo.anchors if photo else ()
        left = tuple(anchor for anchor in anchors if name not in (anchor.id, anchor.group))
        self._set_anchors(left, self.tr("Remove anchor"))

    def _set_anchors(self, anchors: tuple[AnchorMark, ...], name: str) -> None:
        if self.seen is None:
            return
        pixels, photo_id = self.seen.picture.pixels, self.seen.photo.id
        project = self._session.project

        def fit(_progress) -> tuple[list[Sample], list[Region]]:
            photo = project.photo(photo_id)
            return resample(project, photo, pixels, cast_of(pixels, anchors, photo.tones))

        def fitted(answer: tuple[list[Sample], list[Region]]) -> None:
            if self._session.project is project:
                self._session.edit(name, lambda p: edits.set_anchors(p, photo_id, anchors, *answer))
            else:  # something changed meanwhile, which may be one of the samples
                self._set_anchors(anchors, name)

        self._session.jobs.start("anchors", fit, fitted)

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

        self._session.edit(self.tr("About {0}").format(changed.title), change)
