"""What is done with the photo that is seen: samples, areas, anchors and straightened copies, each as one edit."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

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
from lean_sepia.document.model import AnchorMark, Photo, Project, Region, Sample
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.photo.correction.cast import Cast
from lean_sepia.photo.correction.chart import as_it_lies, chart_anchors
from lean_sepia.photo.correction.usual_anchors import Usual
from lean_sepia.photo.shares import snap_to_edges
from lean_sepia.photo.stated.picture_kind import KIND_WORDS, PictureKind
from lean_sepia.photo.stated.roles import Role
from lean_sepia.ui.kit.job import Progress, Work
from lean_sepia.ui.photo.pictures import Pictures
from lean_sepia.ui.photo.seen_photo import Seen, cast_with, first_correction
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


Anchors = tuple[AnchorMark, ...]


def _about(photo_id: str) -> str:
    """What acts on one photo are about: they take turns."""
    return f"photo {photo_id}"


class PhotoEdits(QObject):
    """Works on the photo in `seen`, which its room sets; nothing happens while none is seen."""

    photo_added = Signal(str)
    # A document to be, a photo in it and how it is corrected, before its samples are read.
    first_known = Signal(object, str, object)

    def __init__(self, session: Session, parent: QObject) -> None:
        super().__init__(parent)
        self._session = session
        self.seen: Seen | None = None

    def _photo(self, photo_id: str) -> Photo | None:
        """A photo as the document has it now; None where it is gone."""
        return next((photo for photo in self._session.project.photos if photo.id == photo_id), None)

    def _act(
        self,
        photo_id: str,
        work: Callable[[Project, Photo], Work | None],
        done: Callable[[Photo, Any], object],
    ) -> None:
        """Do something with a photo after all that was done with it before, by its colours as they are then.

        Where another edit comes while it is worked out, and changes what is known of the photo, it is worked out anew.
        """
        asked: list[Photo] = []

        def prepare() -> Work | None:
            photo = self._photo(photo_id)
            asked[:] = [photo] if photo is not None else []
            return work(self._session.project, photo) if photo is not None else None

        def answered(answer: object) -> bool:
            now = self._photo(photo_id)
            if now is None:
                return False
            if developed_by(now) != developed_by(asked[0]):
                return True
            return bool(done(now, answer))

        self._session.jobs.act(_about(photo_id), prepare, answered)

    def _cast_of(self, seen: Seen, project: Project, photo: Photo) -> Callable[[], Cast]:
        """How the correction that a photo has is come by: it is that on screen, or is fitted in the job that asks."""
        beside, pictures = alike(project, photo.id), self._session.pictures
        if seen.shows(photo, beside):
            return lambda: seen.cast
        return lambda: cast_with(pictures, photo, beside)

    def add_outline(self, outline: Outline, role: Role) -> None:
        """Sample a disc, polygon or brush stroke for the chosen zone in a role."""
        seen, session, zone = self.seen, self._session, self._session.zone
        photo = None if seen is None else self._photo(seen.photo.id)
        if seen is None or photo is None:
            return
        if not zone:
            session.refused.emit(
                _("Add a zone first, with the plus at the left: a sample belongs to a zone.")
            )
            return
        pixels = seen.picture.pixels
        name = _("Sample {0}").format(session.project.zone(zone).name)

        def sample(photo: Photo, cast: Cast) -> None:
            session.edit(
                name, lambda p: add_sample(p, take_sample(p, photo, pixels, cast, zone, role, outline))
            )

        if seen.shows(photo, alike(session.project, photo.id)):
            sample(photo, seen.cast)  # what is under way with this photo samples anew once it is done
            return

        def work(project: Project, now: Photo) -> Work:
            cast = self._cast_of(seen, project, now)
            return lambda _progress: cast()

        self._act(photo.id, work, sample)

    def trace_area(self, corners: list[tuple[float, float]], snapped: bool) -> None:
        """Keep the chosen zone's area on this photo and measure the share of its tones."""
        seen, session, zone = self.seen, self._session, self._session.zone
        if seen is None or self._photo(seen.photo.id) is None or not zone:
            session.refused.emit(_("Choose a zone at the left first: an area belongs to a zone."))
            return
        pixels = seen.picture.pixels
        name = _("Trace {0}").format(session.project.zone(zone).name)

        def work(project: Project, photo: Photo) -> Work | None:
            if all(known.id != zone for known in project.zones):
                return None
            cast = self._cast_of(seen, project, photo)

            def trace(_progress: Progress) -> Region:
                outline = snap_to_edges(pixels, corners) if snapped else corners
                return trace_area(project, photo, pixels, cast(), zone, outline)

            return trace

        self._act(
            seen.photo.id,
            work,
            lambda _photo, region: session.edit(name, lambda p: place_region(p, region)) and None,
        )

    def add_anchor(self, anchor: AnchorMark) -> None:
        """Add an anchor to the photo and correct its samples anew."""

        def with_anchor(anchors: Anchors) -> Anchors:
            return (*anchors, anchor.model_copy(update={"id": fresh_id(anchors, "a")}))

        self._set_anchors(with_anchor, _("Add anchor {0}").format(anchor.name))

    def state_kind(self, kind: PictureKind) -> None:
        """Keep what kind of picture it is stated to be, and read its samples anew."""
        if self.seen is not None:
            name = _("Kind of picture: {0}").format(_(KIND_WORDS[kind]))
            self._describe(self.seen.photo.id, lambda photo: photo.model_copy(update={"kind": kind}), name)

    def toggle_usual(self, which: Usual) -> None:
        """Take the deepest shadow or the brightest glint as a guessed anchor, or leave it out again."""
        seen = self.seen
        photo = None if seen is None else self._photo(seen.photo.id)
        if seen is None or photo is None:
            return
        name, guessed = _("Leave out a guess"), None
        if all(anchor.group != which for anchor in photo.anchors):
            try:
                guessed = usual_mark(photo, seen.picture.pixels, which)
            except SepiaError as error:
                self._session.refused.emit(str(error))
                return
            name = _("Guess: {0}").format(guessed.name)

        def turned(now: Photo) -> Photo:
            without = tuple(anchor for anchor in now.anchors if anchor.group != which)
            if len(without) < len(now.anchors):
                return now.model_copy(update={"anchors": without})
            mark = guessed or usual_mark(now, seen.picture.pixels, which)
            fresh = mark.model_copy(update={"id": fresh_id(now.anchors, "a")})
            return now.model_copy(update={"anchors": (*now.anchors, fresh)})

        self._describe(photo.id, turned, name)

    def add_chart(self, corners: list[tuple[float, float]]) -> None:
        """Take the 24 patches of a chart as anchors, from the middles of its corner patches."""
        if self.seen is None:
            return
        given = [value for corner in corners for value in corner]
        try:
            patches = chart_anchors(as_it_lies(self.seen.picture.pixels, given))
        except SepiaError as error:
            self._session.refused.emit(str(error))
            return

        def with_chart(known: Anchors) -> Anchors:
            anchors = list(known)
            group = fresh_id(anchors, "chart")
            for number, patch in enumerate(patches, start=1):
                anchors.append(
                    AnchorMark(
                        id=fresh_id(anchors, "a"), x=patch.x, y=patch.y, radius=patch.radius, lightness=patch.lightness,
                        a=patch.a, b=patch.b, name=_("Patch {0}").format(number), group=group,
                    )
                )  # fmt: skip
            return tuple(anchors)

        self._set_anchors(with_chart, _("Add chart"))

    def straighten(
        self,
        corners: list[tuple[float, float]],
        width_mm: float | None = None,
        height_mm: float | None = None,
    ) -> None:
        """Add a straightened copy of the photo and show it."""
        seen, session = self.seen, self._session
        if seen is None:
            return
        pixels, store = seen.picture.pixels, session.store

        def work(project: Project, photo: Photo) -> Work:
            def straighten(_progress: Progress) -> Photo:
                copy, file = straightened_copy(project, photo, pixels, corners, width_mm, height_mm)
                store.add_photo(copy.sha256, "image/png", copy.name, file)
                return copy

            return straighten

        def made(photo: Photo, copy: Photo) -> None:
            fresh = copy.model_copy(update={"id": fresh_id(session.project.photos, "f")})
            if session.edit(_("Straighten {0}").format(photo.title), lambda p: add_photo(p, fresh)):
                self.photo_added.emit(fresh.id)

        self._act(seen.photo.id, work, made)

    def change_anchor(self, changed: AnchorMark) -> None:
        """Put a changed anchor in the place of the one with its id."""
        self._set_anchors(
            lambda anchors: tuple(changed if old.id == changed.id else old for old in anchors),
            _("Change anchor {0}").format(changed.name),
        )

    def remove_anchor(self, name: str) -> None:
        """Take out one anchor by its id, or a chart by its group."""
        self._set_anchors(
            lambda anchors: tuple(anchor for anchor in anchors if name not in (anchor.id, anchor.group)),
            _("Remove anchor"),
        )

    def _set_anchors(self, change: Callable[[Anchors], Anchors], name: str) -> None:
        if self.seen is not None:
            self._describe(
                self.seen.photo.id,
                lambda photo: photo.model_copy(update={"anchors": change(photo.anchors)}),
                name,
            )

    def describe_photo(self, photo_id: str, changes: Mapping[str, object]) -> None:
        """Keep what was written of a photo; where its colours now count or no longer do, its samples are read anew."""
        photo = self._photo(photo_id)
        if photo is None or not changes:
            return
        changed = photo.model_copy(update=changes)
        name = _("About {0}").format(changed.title)
        if developed_by(photo) != developed_by(changed):
            self._describe(photo_id, lambda photo: photo.model_copy(update=changes), name)
            return

        def put(now: Photo, _answer: object) -> None:
            written = now.model_copy(update=changes)
            self._session.edit(name, lambda p: describe_photo(p, written))

        if self._session.jobs.acting_on(
            _about(photo_id)
        ):  # what was written before is not put over it afterwards
            self._act(photo_id, lambda _project, _photo: lambda _progress: None, put)
        else:
            put(photo, None)

    def _describe(self, photo_id: str, change: Callable[[Photo], Photo], name: str) -> None:
        """Keep a photo with other anchors or tones, and read its samples and regions anew, in one edit."""
        session, pictures = self._session, self._session.pictures
        before: list[Project] = []

        def work(project: Project, photo: Photo) -> Work | None:
            changed = change(photo)
            if changed == photo:
                return None
            before[:] = [project]
            after = describe_photo(project, changed)

            def read(_progress: Progress) -> tuple[list[Sample], list[Region]]:
                beside = alike(after, photo_id)
                self.first_known.emit(after, photo_id, first_correction(pictures, changed, beside))
                return resampled(after, photo_id, pictures)

            return read

        def fitted(photo: Photo, answer: tuple[list[Sample], list[Region]]) -> bool:
            if session.project is not before[0]:
                return True  # something changed meanwhile, which may be one of the samples
            changed = change(photo)
            session.edit(
                name, lambda p: set_anchors(describe_photo(p, changed), photo_id, changed.anchors, *answer)
            )
            return False

        self._act(photo_id, work, fitted)
