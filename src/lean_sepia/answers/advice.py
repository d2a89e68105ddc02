"""What the program has noticed, the most important first, and how far each room has come."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from lean_sepia.answers.coats.showing import Showing
from lean_sepia.answers.strata import Strata
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.showing import READABLE_L, VERDICTS
from lean_sepia.document.called import coat_name
from lean_sepia.document.dates import Verdict, date_span, verdict
from lean_sepia.document.model import Photo, Project, Subject
from lean_sepia.document.work import accepted_in, found_in
from lean_sepia.errors import EditError
from lean_sepia.language import N_, _, ngettext
from lean_sepia.plan.kind import Room
from lean_sepia.plan.kinds import KINDS

ROOM_WORDS: dict[Room, str] = {
    "evidence": N_("Evidence"), "match": N_("Match"), "tone": N_("Tone"), "glaze": N_("Glaze"), "wear": N_("Wear"),
    "plan": N_("Plan"), "bench": N_("Bench"),
}  # fmt: skip
ROOMS: tuple[Room, ...] = tuple(ROOM_WORDS)


_A_HINT = 0.5  # ΔE00 from which a glaze does something (practice)
_DISAGREE = 1.6  # times further apart than the ranges allow


@dataclass(frozen=True)
class Advice:
    """One sentence, the room where it is dealt with, and the zone it concerns."""

    text: str
    room: Room
    zone: str | None = None


NO_SHOWINGS: Mapping[str, Mapping[str, Showing]] = {}
NO_NOTES: Mapping[str, str] = {}
State = Literal["empty", "started", "done"]
STATE_WORDS: dict[State, str] = {"empty": N_("nothing yet"), "started": N_("started"), "done": N_("done")}


@dataclass(frozen=True)
class RoomState:
    """How far a room has come: a few words, and whether nothing, something or all is done."""

    detail: str
    state: State


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


def advice(
    project: Project,
    strata: Mapping[str, Strata],
    showings: Mapping[str, Mapping[str, Showing]] = NO_SHOWINGS,
    notes: Mapping[str, str] = NO_NOTES,
) -> list[Advice]:
    """Everything worth saying, the most important first; never empty.

    showings : how the coats of each zone show, by zone and coat; notes : what the user noted of bottles, by shelf id
    """
    return [
        *_first_steps(project),
        *_contradictions(project),
        *_disagreements(project, strata),
        *_plan(project),
        *_unseen(project, showings),
        *_noted(project, notes),
        *_unsampled(project),
        *_matches(project, strata),
        Advice(_("Nothing stands in the way. The bench card has every step in order."), "bench"),
    ]


def _first_steps(project: Project) -> Iterator[Advice]:
    known = any(zone.stated for zone in project.zones)
    if not project.photos and not project.samples and not known:
        yield Advice(_("Add a photo of the prototype: everything starts from a colour it shows."), "evidence")
    elif not project.zones:
        yield Advice(_("Name a zone, such as Hull or Roof, to sample colours for."), "evidence")


def _disagreements(project: Project, strata: Mapping[str, Strata]) -> Iterator[Advice]:
    for zone in project.zones:
        fresh = strata[zone.id].targets.fresh
        if fresh is not None and (fresh.disagreement or 0) > _DISAGREE:
            yield Advice(
                _(
                    "The photos of {0} disagree more than their ranges allow. One may show another coat, or stand in another light; the target's range is widened."
                ).format(zone.name),
                "evidence",
                zone.id,
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
                    "evidence",
                )
        if photo.id in sampled and not photo.anchors and photo.tones == "colour":
            yield Advice(
                _(
                    "“{0}” has no anchor, so its cast is still in the samples. Mark something grey or white."
                ).format(photo.title),
                "evidence",
            )


def _unseen(project: Project, showings: Mapping[str, Mapping[str, Showing]]) -> Iterator[Advice]:
    """Coats that will not show, and lettering that will not read."""
    for coat in project.coats:
        found = showings.get(coat.zone, {}).get(coat.id)
        nature = KINDS[coat.kind]
        if found is None or not coat.on or nature.sets_the_colour:
            continue
        meant = nature.is_glaze and found.later >= _A_HINT  # a filter is to be hardly seen
        if meant or (found.verdict != VERDICTS[0] and (found.kind != "lettering" or found.reads)):
            continue
        zone = project.zone(coat.zone)
        room = nature.room if nature.room != "plan" else "match"
        yield Advice(_unseen_words(coat_name(coat), zone.name, found), room, zone.id)


def _unseen_words(name: str, zone: str, found: Showing) -> str:
    if found.verdict != VERDICTS[0]:
        words = _("{0} on {1} will not read: L* differs by {2:.0f} where reading needs {3:.0f}.")
        return words.format(name, zone, abs(found.lighter), READABLE_L)
    if found.first_verdict != VERDICTS[0]:
        words = _("{0} on {1} will vanish under what is laid later: {2:.1f} ΔE00 are left of {3:.1f}.")
        return words.format(name, zone, found.later, found.now)
    return _("{0} on {1} will not show: it differs by {2:.1f} ΔE00 from what it lies on.").format(
        name, zone, found.now
    )


def _noted(project: Project, notes: Mapping[str, str]) -> Iterator[Advice]:
    """What the user noted of a bottle that is used in a step that is not done."""
    done = {step.id for step in project.steps if step.done}
    told: set[str] = set()
    for coat in project.coats:
        if not coat.recipe or not coat.on or coat.step in done:
            continue
        for version, _count in project.recipe(coat.recipe).parts:
            paint = project.paint(version)
            note = notes.get(paint.shelf_id, "")
            if note and paint.shelf_id not in told:
                told.add(paint.shelf_id)
                words = _("{0}, used on {1}: {2}")
                yield Advice(words.format(paint.name, project.zone(coat.zone).name, note), "bench", coat.zone)


def _unsampled(project: Project) -> Iterator[Advice]:
    zones_with = {sample.zone for sample in project.samples}
    for zone in project.zones:
        if project.photos and zone.id not in zones_with:
            yield Advice(_("{0} has no sample yet.").format(zone.name), "evidence", zone.id)


def _plan(project: Project) -> Iterator[Advice]:
    accepted = accepted_in(project)
    for finding in found_in(project):
        if finding.severity != "note" and finding.key not in accepted:
            yield Advice(finding.message, "plan")


def _matches(project: Project, strata: Mapping[str, Strata]) -> Iterator[Advice]:
    for zone in project.zones:
        cut = strata[zone.id]
        target = cut.targets.fresh
        if target is None:
            continue
        if cut.fresh is None:
            yield Advice(_("{0} has a target and no recipe yet.").format(zone.name), "match", zone.id)
            continue
        miss = float(delta_e00(cut.fresh, target.lab))
        if target.de00_90 is not None and miss > max(target.de00_90, 1.0):
            words = _("The base of {0} is {1:.1f} ΔE00 from its target, outside the photo's own ±{2:.1f}.")
            if target.stated:
                words = _(
                    "The base of {0} is {1:.1f} ΔE00 from its target, outside the ±{2:.1f} that was stated."
                )
            yield Advice(words.format(zone.name, miss, target.de00_90), "match", zone.id)


def room_states(project: Project, strata: Mapping[str, Strata]) -> dict[Room, RoomState]:
    """State of every room."""
    zones = len(project.zones)
    matched = sum(1 for cut in strata.values() if cut.fresh is not None)
    coated = {
        room: sum(
            any(KINDS[coat.kind].room == room and coat.on for coat in project.coats_of(zone.id))
            for zone in project.zones
        )
        for room in ("tone", "glaze")
    }
    worn = {region.zone for region in project.regions if region.wear}
    worn |= {coat.zone for coat in project.coats if coat.on and KINDS[coat.kind].room == "wear"}
    work = [step for step in project.steps if KINDS[step.kind].to_do]
    done = sum(step.done for step in work)
    sampled = len({sample.zone for sample in project.samples})
    photos = ngettext("{0} photo", "{0} photos", len(project.photos)).format(len(project.photos))
    steps = ngettext("{0} step", "{0} steps", len(work)).format(len(work))
    return {
        "evidence": _state(photos, sampled, zones)
        if project.photos
        else RoomState(_("no photo yet"), "empty"),
        "match": _state(_("{0} of {1} zones").format(matched, zones), matched, zones),
        "tone": _state(_("{0} of {1}").format(coated["tone"], zones), coated["tone"], zones),
        "glaze": _state(_("{0} of {1}").format(coated["glaze"], zones), coated["glaze"], zones),
        "wear": _state(
            _("signature set") if project.signature and worn else _("{0} of {1}").format(len(worn), zones),
            len(worn),
            zones,
        ),
        "plan": RoomState(
            steps if work else _("no step yet"),
            "done" if work else "empty",
        ),
        "bench": _state(
            _("{0} of {1} done").format(done, len(work)) if done else _("not begun"),
            done,
            len(work),
        ),
    }


def _state(detail: str, count: int, of: int) -> RoomState:
    if count == 0:
        return RoomState(detail if of else _(STATE_WORDS["empty"]), "empty")
    return RoomState(detail, "done" if count >= of else "started")
