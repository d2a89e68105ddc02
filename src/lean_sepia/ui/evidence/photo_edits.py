"""What is done with the photo that is seen: samples, areas, anchors and straightened copies, each as one edit."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, Signal

from lean_sepia.answers.evidence import (
    Outline,
    alike,
    developed_by,
    resample,
    take_sample,
    trace_area,
    usual_mark,
)
from lean_sepia.answers.straightened import straightened_copy
from lean_sepia.document.edits.items import fresh_id
from lean_sepia.document.edits.photos import add_photo, add_sample, describe_photo, place_region, set_anchors
from lean_sepia.document.model import AnchorMark, Photo, Project, Region, Role, Sample
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.photo.correction.cast import Cast
from lean_sepia.photo.correction.chart import as_it_lies, chart_anchors
from lean_sepia.photo.correction.usual_anchors import Usual
from lean_sepia.photo.picture_kind import KIND_WORDS, PictureKind
from lean_sepia.photo.shares import snap_to_edges
from lean_sepia.ui.kit.job import Progress
from lean_sepia.ui.photo.pictures import Pictures
from lean_sepia.ui.photo.seen_photo import Seen, cast_with
from lean_sepia.ui.shell.session import Session


def resampled(project: Project, photo_id: str, pictures: Pictures) -> tuple[list[Sample], list[Region]]:
    """Samples and regions of a photo, and of those that were developed like it, as they are now; runs in a job."""
    samples: list[Sample] = []
    regions: list[Region] = []
    for photo in (project.photo(photo_id), *project.developed_alike(photo_id)):
        cast = cast_with(pictures, photo, alike(project, photo.id))
        found, seen = resample(project, photo, pictures.picture(photo).pixels, cast)
        samples += found
        regions += seen
    return samples, regions


class PhotoEdits(QObject):
    """Works on the photo in `seen`, which its room sets; nothing happens while none is seen."""

    photo_added = Signal(str)

    def __init__(self, session: Session, parent: QObject) -> None:
        super().__init__(parent)
        self._session = session
        self.seen: Seen | None = None
        self._pending: Photo | None = None  # with anchors that are being fitted

    def _photo(self) -> Photo | None:
        """The photo as the document has it now; None where it is gone."""
        if self.seen is None:
            return None
        wanted = self.seen.photo.id
        return next((photo for photo in self._session.project.photos if photo.id == wanted), None)

    def _with_cast(self, photo: Photo, then: Callable[[Photo, Cast], None]) -> None:
        """Go on with the correction the photo has now: at once where it is that on screen, else when it is fitted."""
        seen = self.seen
        if seen is None:
            return
        beside = alike(self._session.project, photo.id)
        if seen.shows(photo, beside):
            then(photo, seen.cast)
            return
        pictures = self._session.pictures

        def fitted(cast: Cast) -> None:
            now = self._photo()
            if now is None:
                return
            if developed_by(now) == developed_by(photo):
                then(now, cast)
            else:  # its anchors changed again meanwhile
                self._with_cast(now, then)

        self._session.jobs.start("cast", lambda _p: cast_with(pictures, photo, beside), fitted, keep=True)

    def add_outline(self, outline: Outline, role: Role) -> None:
        """Sample a disc, polygon or brush stroke for the chosen zone in a role."""
        photo, zone = self._photo(), self._session.zone
        if self.seen is None or photo is None:
            return
        if not zone:
            self._session.refused.emit(
                _("Add a zone first, with the plus at the left: a sample belongs to a zone.")
            )
            return
        pixels = self.seen.picture.pixels
        name = _("Sample {0}").format(self._session.project.zone(zone).name)

        def sample(photo: Photo, cast: Cast) -> None:
            self._session.edit(
                name, lambda p: add_sample(p, take_sample(p, photo, pixels, cast, zone, role, outline))
            )

        self._with_cast(photo, sample)

    def trace_area(self, corners: list[tuple[float, float]], snapped: bool) -> None:
        """Keep the chosen zone's area on this photo and measure the share of its tones."""
        photo, zone = self._photo(), self._session.zone
        if self.seen is None or photo is None or not zone:
            self._session.refused.emit(_("Choose a zone at the left first: an area belongs to a zone."))
            return
        pixels = self.seen.picture.pixels

        def trace(photo: Photo, cast: Cast) -> None:
            project = self._session.project

            def work(_progress: Progress) -> Region:
                outline = snap_to_edges(pixels, corners) if snapped else corners
                return trace_area(project, photo, pixels, cast, zone, outline)

            name = _("Trace {0}").format(project.zone(zone).name)
            self._session.jobs.start(
                "trace", work, lambda region: self._session.edit(name, lambda p: place_region(p, region))
            )

        self._with_cast(photo, trace)

    def add_anchor(self, anchor: AnchorMark) -> None:
        """Add an anchor to the photo and correct its samples anew."""
        photo = self._anchored()
        if photo is None:
            return
        fresh = anchor.model_copy(update={"id": fresh_id(photo.anchors, "a")})
        self._set_anchors((*photo.anchors, fresh), _("Add anchor {0}").format(anchor.name))

    def state_kind(self, kind: PictureKind) -> None:
        """Keep what kind of picture it is stated to be, and read its samples anew."""
        photo = self._anchored()
        if photo is not None and photo.kind != kind:
            name = _("Kind of picture: {0}").format(_(KIND_WORDS[kind]))
            self._describe(photo.model_copy(update={"kind": kind}), name)

    def toggle_usual(self, which: Usual) -> None:
        """Take the deepest shadow or the brightest glint as a guessed anchor, or leave it out again."""
        photo = self._anchored()
        if photo is None or self.seen is None:
            return
        without = tuple(anchor for anchor in photo.anchors if anchor.group != which)
        if len(without) < len(photo.anchors):
            self._set_anchors(without, _("Leave out a guess"))
            return
        try:
            mark = usual_mark(photo, self.seen.picture.pixels, which)
        except SepiaError as error:
            self._session.refused.emit(str(error))
            return
        self._set_anchors((*photo.anchors, mark), _("Guess: {0}").format(mark.name))

    def add_chart(self, corners: list[tuple[float, float]]) -> None:
        """Take the 24 patches of a chart as anchors, from the middles of its corner patches."""
        photo = self._anchored()
        if photo is None or self.seen is None:
            return
        given = [value for corner in corners for value in corner]
        try:
            patches = chart_anchors(as_it_lies(self.seen.picture.pixels, given))
        except SepiaError as error:
            self._session.refused.emit(str(error))
            return
        anchors = list(photo.anchors)
        group = fresh_id(anchors, "chart")
        for number, patch in enumerate(patches, start=1):
            anchors.append(
                AnchorMark(
                    id=fresh_id(anchors, "a"), x=patch.x, y=patch.y, radius=patch.radius, lightness=patch.lightness,
                    a=patch.a, b=patch.b, name=_("Patch {0}").format(number), group=group,
                )
            )  # fmt: skip
        self._set_anchors(tuple(anchors), _("Add chart"))

    def straighten(
        self,
        corners: list[tuple[float, float]],
        width_mm: float | None = None,
        height_mm: float | None = None,
    ) -> None:
        """Add a straightened copy of the photo and show it."""
        seen, project = self.seen, self._session.project
        if seen is None:
            return

        def made(answer: tuple[Photo, bytes]) -> None:
            copy, file = answer
            self._session.store.add_photo(copy.sha256, "image/png", copy.name, file)
            fresh = copy.model_copy(update={"id": fresh_id(self._session.project.photos, "f")})
            if self._session.edit(
                _("Straighten {0}").format(seen.photo.title), lambda p: add_photo(p, fresh)
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
        photo = self._anchored()
        if photo is not None:
            anchors = tuple(changed if old.id == changed.id else old for old in photo.anchors)
            self._set_anchors(anchors, _("Change anchor {0}").format(changed.name))

    def remove_anchor(self, name: str) -> None:
        """Take out one anchor by its id, or a chart by its group."""
        photo = self._anchored()
        anchors = photo.anchors if photo else ()
        left = tuple(anchor for anchor in anchors if name not in (anchor.id, anchor.group))
        self._set_anchors(left, _("Remove anchor"))

    def _anchored(self) -> Photo | None:
        """The photo with the anchors it has, or is about to have."""
        photo = self._photo()
        if photo is not None and self._pending is not None and self._pending.id == photo.id:
            return self._pending
        return photo

    def _set_anchors(self, anchors: tuple[AnchorMark, ...], name: str) -> None:
        photo = self._anchored()
        if photo is not None:
            self._describe(photo.model_copy(update={"anchors": anchors}), name)

    def describe_photo(self, changed: Photo) -> None:
        """Keep what is known of a photo; where its colours now count or no longer do, its samples are read anew."""
        name = _("About {0}").format(changed.title)
        seen = self.seen
        if (
            seen is not None
            and seen.photo.id == changed.id
            and developed_by(seen.photo) != developed_by(changed)
        ):
            self._describe(changed, name)
        else:
            self._session.edit(name, lambda p: describe_photo(p, changed))

    def _describe(self, changed: Photo, name: str) -> None:
        """Keep a photo with other anchors or tones, and read its samples and regions anew, in one edit."""
        if self.seen is None:
            return
        project, pictures = self._session.project, self._session.pictures
        after = describe_photo(project, changed)
        self._pending = changed

        def fit(_progress: Progress) -> tuple[list[Sample], list[Region]] | SepiaError:
            try:
                return resampled(after, changed.id, pictures)
            except SepiaError as error:
                return error

        def fitted(answer: tuple[list[Sample], list[Region]] | SepiaError) -> None:
            self._pending = None
            now = self._photo()
            if isinstance(answer, SepiaError):
                self._session.refused.emit(str(answer))
            elif now is None or now.id != changed.id:
                return
            elif self._session.project is project:
                self._session.edit(
                    name,
                    lambda p: set_anchors(describe_photo(p, changed), changed.id, changed.anchors, *answer),
                )
            else:  # something changed meanwhile, which may be one of the samples
                self._describe(changed, name)

        self._session.jobs.start("anchors", fit, fitted)
