"""Evidence: colours from photos, and what photos contradict."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from lean_sepia.answers.rooms.room import Advice, Noticing, RoomNature, RoomState, Urgency, state_of
from lean_sepia.answers.strata import Strata
from lean_sepia.document.dates import Verdict, date_span, verdict
from lean_sepia.document.model import Photo, Project, Subject
from lean_sepia.errors import EditError
from lean_sepia.language import N_, _, ngettext

_NAME = "evidence"
_DISAGREE = 1.6  # times further apart than the ranges allow


def _state(seen: Noticing) -> RoomState:
    project = seen.project
    if not project.photos:
        return RoomState(_("no photo yet"), "empty")
    photos = ngettext("{0} photo", "{0} photos", len(project.photos)).format(len(project.photos))
    sampled = len({sample.zone for sample in project.samples})
    return state_of(photos, sampled, len(project.zones))


def _advice(seen: Noticing) -> Iterator[Advice]:
    yield from _first_steps(seen.project)
    yield from _contradictions(seen.project)
    yield from _disagreements(seen.project, seen.strata)
    yield from _unsampled(seen.project)


def contradiction(photo: Photo, subject: Subject) -> str | None:
    """Whether a photo was taken outside the years of a livery, in words; None if it may show it."""
    found = photo_verdict(photo, subject)
    if found not in ("contradicted", "unlikely"):
        return None
    years = f"the {subject.livery or 'livery'} was worn from {subject.livery_from or '?'} to {subject.livery_to or '?'}"
    if found == "unlikely":
        return _("is from {0} and probably not of it: {1}").format(photo.date, years)
    span = date_span(photo.date)
    start = date_span(subject.livery_from)
    if span and start and span[1] < start[0]:
        return _("is from {0}; the {1} began in {2}").format(
            photo.date[:4], subject.livery, subject.livery_from[:4]
        )
    return _("is from {0}; the {1} ended in {2}").format(
        photo.date[:4], subject.livery, subject.livery_to[:4]
    )


def photo_verdict(photo: Photo, subject: Subject) -> Verdict:
    """Whether a photo's date lets it show a subject's livery; a date that cannot be read is unknown."""
    if photo.of_model:
        return "unknown"
    try:
        return verdict(photo.date, subject.livery_from, subject.livery_to)
    except EditError:
        return "unknown"


def _first_steps(project: Project) -> Iterator[Advice]:
    known = any(zone.stated for zone in project.zones)
    if not project.photos and not project.samples and not known:
        yield Advice(
            _("Add a photo of the prototype: everything starts from a colour it shows."),
            _NAME,
            urgency=Urgency.BEGIN,
        )
    elif not project.zones:
        yield Advice(
            _("Name a zone, such as Hull or Roof, to sample colours for."), _NAME, urgency=Urgency.BEGIN
        )


def _contradictions(project: Project) -> Iterator[Advice]:
    sampled = {sample.photo for sample in project.samples}
    for photo in project.photos:
        for subject in project.subjects:
            words = contradiction(photo, subject)
            if words and photo.id in sampled and photo.tones == "colour":
                yield Advice(
                    _(
                        "A sample comes from “{0}”, which {1}. Its colour cannot come from that picture."
                    ).format(photo.title, words),
                    _NAME,
                    urgency=Urgency.CONTRADICTED,
                    about=("livery", photo.id, subject.id),
                )
        if photo.id in sampled and not photo.anchors and photo.tones == "colour":
            yield Advice(
                _(
                    "“{0}” has no anchor, so its cast is still in the samples. Mark something grey or white."
                ).format(photo.title),
                _NAME,
                urgency=Urgency.CONTRADICTED,
                about=("cast", photo.id),
            )


def _disagreements(project: Project, strata: Mapping[str, Strata]) -> Iterator[Advice]:
    for zone in project.zones:
        fresh = strata[zone.id].targets.fresh
        if fresh is not None and (fresh.disagreement or 0) > _DISAGREE:
            yield Advice(
                _(
                    "The photos of {0} disagree more than their ranges allow. One may show another coat, or stand in another light; the target's range is widened."
                ).format(zone.name),
                _NAME,
                zone.id,
                Urgency.DISAGREES,
            )


def _unsampled(project: Project) -> Iterator[Advice]:
    zones_with = {sample.zone for sample in project.samples}
    for zone in project.zones:
        if project.photos and zone.id not in zones_with:
            yield Advice(_("{0} has no sample yet.").format(zone.name), _NAME, zone.id, Urgency.MISSING)


HELP = N_(
    "Evidence: colours from photos.\n\n"
    "1. Mark something known: a grey card, white lettering. The cast is taken out.\n"
    "2. Choose a zone at the left and a role, then click its paint in the photo.\n"
    "Each sample says within how much the true colour lies, 9 times in 10.\n\n"
    "With the photo in focus: L look, S disc, P outline, B stroke, A area, N known grey, K known colour, C chart, T straighten; "
    "plus and minus zoom, 0 fits, arrows move, Return places, Esc leaves the tool."
)
ROOM = RoomNature(
    title=N_("Evidence"),
    widget="evidence.evidence_room:EvidenceRoom",
    help=HELP,
    state=_state,
    advice=_advice,
)
