"""A photo that is measured: chosen, traced, pointed at, surveyed in the background. Of the prototype or of the model alike."""

from __future__ import annotations

from collections import OrderedDict
from typing import ClassVar

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from lean_sepia.answers.evidence import alike
from lean_sepia.answers.wearing import proposing, surveying
from lean_sepia.answers.wearing.surveying import Pointed, WearAnswer, WearQuestion, measured_region
from lean_sepia.document.edits.photos import set_scale
from lean_sepia.document.entities.worn import WearRecord
from lean_sepia.document.model import Photo, Region
from lean_sepia.language import _
from lean_sepia.ui.kit.faults import guarded
from lean_sepia.ui.kit.job import Progress
from lean_sepia.ui.photo.seen_photo import Seen, prepare
from lean_sepia.ui.shell.session import Session
from lean_sepia.ui.wear.kinds_panel import KindsPanel
from lean_sepia.ui.wear.planned import Planned
from lean_sepia.ui.wear.pointing import Pointing

_KEPT, _MOST_PIXELS = 6, 2_000_000
_known: OrderedDict[WearQuestion, WearAnswer] = OrderedDict()
"""The last answers of smaller parts: going back to a zone does not measure it anew."""


def _remember(answer: WearAnswer) -> None:
    height, width = answer.look.shape
    if height * width <= _MOST_PIXELS:
        _known[answer.question] = answer
        while len(_known) > _KEPT:
            _known.popitem(last=False)


@guarded
class PhotoPage(QWidget):
    """`said` carries a statement and a remark; `followed` a job and what it does, so that it can be seen and cancelled."""

    said = Signal(str, str)
    followed = Signal(object, str)
    of_model: ClassVar[bool] = False
    empty_words: ClassVar[str] = ""

    def __init__(self, session: Session, planned: Planned) -> None:
        super().__init__()
        self.session, self.planned = session, planned
        self.answer: WearAnswer | None = None
        self._zone = ""
        self._photo_id: str | None = None
        self.pointing = Pointing()
        self.viewer = self.pointing.viewer
        self.measure_button = self.pointing.measure_button
        self.measure_button.clicked.connect(self.measure)
        self.pointing.pointed.connect(self._pointed)
        self.pointing.length_known.connect(self._keep_scale)
        self.pointing.refused.connect(session.refused)
        self.pointing.photos.activated.connect(self._choose_photo)
        self.body = QVBoxLayout(self)
        self.body.setContentsMargins(0, 0, 0, 0)
        self.body.setSpacing(10)
        self.body.addWidget(self.pointing, 1)
        self.side = QVBoxLayout()
        self.side.setSpacing(12)
        self.kinds = KindsPanel()
        self.kinds.toggled.connect(self.pointing.toggle)
        self.kinds.dropped.connect(self.pointing.forget)
        self.kinds.propose.clicked.connect(self.propose)
        self.kinds.renamed.connect(self.pointing.rename)
        self.side.addWidget(self.kinds)

    # What the document says

    def refresh(self) -> None:
        """Show the chosen zone's photo and what was measured on it."""
        zone, job_kind = self.session.zone, f"wear photo {self.of_model}"
        if zone != self._zone:
            self._zone, self._photo_id = zone, None
        region = self._region()
        photo, pictures = self._photo(region), self.session.pictures
        beside = alike(self.session.project, photo.id) if photo else ()
        self.pointing.photos.offer(
            [(one.title, one.id) for one in self.photos()], keep=photo.id if photo else None
        )
        if self.pointing.taken_up != (zone, photo.id if photo else None):
            self.answer = None
            self.pointing.take_up(region, (zone, photo.id if photo else None))
            self.point_by_itself()
        if photo is None:
            self.pointing.show_seen(None)
        elif self.pointing.seen is None or not self.pointing.seen.shows(photo, beside):
            if photo.mm_per_px and not (region and region.wear):
                self.pointing.mm.setValue(photo.mm_per_px)
            self.session.jobs.start(
                job_kind, lambda _progress: prepare(pictures, photo, beside), self._show_seen
            )
        else:
            self._measure_again()
        self.show_record(region.wear if region else None)

    def point_by_itself(self) -> None:
        """Point at kinds whose colour is known without a click."""

    def photos(self) -> list[Photo]:
        """The photos that can be measured here."""
        return [photo for photo in self.session.project.photos if photo.of_model == self.of_model]

    def _region(self) -> Region | None:
        project, zone = self.session.project, self.session.zone
        return measured_region(project, zone, of_model=self.of_model, photo=self._photo_id) if zone else None

    def _photo(self, region: Region | None) -> Photo | None:
        project, candidates = self.session.project, self.photos()
        wanted = self._photo_id or (region.photo if region else None)
        if wanted in {photo.id for photo in candidates}:
            return project.photo(wanted)
        sampled = [s.photo for s in project.samples if s.zone == self.session.zone]
        return next(
            (photo for photo in candidates if photo.id in sampled), candidates[0] if candidates else None
        )

    def _choose_photo(self, _index: int) -> None:
        self._photo_id = str(self.pointing.photos.value)
        self.refresh()

    def _show_seen(self, seen: Seen) -> None:
        self.pointing.show_seen(seen)
        self._measure_again()

    def _measure_again(self) -> None:
        """Measure what was measured before, so that its marks can be shown."""
        region = self._region()
        if self.pointing.corners and self.answer is None and region is not None and region.wear:
            self.measure(store=False)

    def _pointed(self) -> None:
        """Something was traced or pointed at: what was measured before may no longer hold."""
        self.show_pointed()
        self.said.emit(_("Not measured yet."), self.what_is_missing())

    def show_pointed(self) -> None:
        """Show what was pointed at."""
        pointing = self.pointing
        self.kinds.show_pointed(pointing.kinds, pointing.ground is not None, traced=pointing.traced)

    def what_is_missing(self) -> str:
        """What is to be done before it can be measured."""
        if not self.photos():
            return _("There is no photo of the prototype. Add one in Evidence, or plan the wear without one.")
        if not self.pointing.corners:
            return _(
                "Trace a part of this zone on the photo, point at the sound ground and at each kind of wear, then measure."
            )
        if not self.pointing.kinds:
            return _(
                "Point at a place that plainly shows each kind of wear, or have kinds proposed; or measure all that is unlike the ground."
            )
        return _("Measure when every kind has been pointed at.")

    def show_record(self, record: WearRecord | None) -> None:
        """Show what was measured, or what is missing."""
        raise NotImplementedError

    def keep(self, answer: WearAnswer) -> bool:
        """Keep what was measured as an edit; whether it was."""
        raise NotImplementedError

    # What the hand does

    def _keep_scale(self, value: float) -> None:
        if self.pointing.seen is not None:
            photo = self.pointing.seen.photo.id
            self.session.edit(_("Scale of the photo"), lambda p: set_scale(p, photo, value))

    def _question(self, kinds: tuple[Pointed, ...]) -> WearQuestion | None:
        pointing, session = self.pointing, self.session
        if pointing.seen is None or not pointing.corners or not session.zone:
            return None
        question = surveying.ask(
            session.project, session.cut(session.zone), pointing.seen.photo, pointing.corners, kinds,
            pointing.mm.value() or None, pointing.ground, pointing.strokes,
        )  # fmt: skip
        if question is None:
            session.refused.emit(
                _(
                    "This zone has no sound colour yet: point at the ground, sample it in Evidence, or state its target."
                )
            )
        return question

    def propose(self) -> None:
        """Have kinds of wear proposed from the picture, to be renamed or taken back."""
        question, seen = self._question(()), self.pointing.seen
        if question is None or seen is None:
            return

        def done(found: tuple[Pointed, ...]) -> None:
            if not found:
                self.session.refused.emit(
                    _("Nothing in this part is plainly unlike the ground. Point at what you see.")
                )
            self.pointing.propose(found)

        job = self.session.jobs.start(
            "wear kinds",
            lambda progress: proposing.propose(question, seen.picture.pixels, seen.cast, progress),
            done,
        )
        self._follow(job, _("Looking for kinds of wear"))

    def measure(self, _checked: bool = False, store: bool = True) -> None:
        """Survey what was traced in the background; keep the result as an edit unless it is only shown again."""
        question, seen = self._question(tuple(self.pointing.kinds.values())), self.pointing.seen
        if question is None or seen is None:
            return

        here = self.session.zone, seen.photo.id

        def done(answer: WearAnswer) -> None:
            _remember(answer)
            there = (
                self.pointing.seen is not None and (self.session.zone, self.pointing.seen.photo.id) == here
            )
            if there:
                self.answer = answer
                self.pointing.show_outlines(answer.outlines)
                self.pointing.look_at_region()
            if (not store or not self.keep(answer)) and there:
                self.show_record(answer.record)

        known = _known.get(question)
        if known is not None:
            done(known)
            return

        def work(progress: Progress) -> WearAnswer:
            return surveying.answer(question, seen.picture.pixels, seen.cast, progress)

        words = _("Measuring the wear")
        if store:
            self.session.jobs.act("wear", lambda: work, done, lambda job: self._follow(job, words))
        else:
            self._follow(self.session.jobs.start(f"wear {self.of_model}", work, done), words)

    def _follow(self, job: object, words: str) -> None:
        if not self.session.jobs.idle:
            self.followed.emit(job, words)
