"""What the program has noticed, the most important first, and how far each room has come."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from lean_sepia.answers.plan import plan_steps
from lean_sepia.answers.strata import Strata
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.dates import Verdict, date_span, verdict
from lean_sepia.document.model import Photo, Project, Subject
from lean_sepia.errors import EditError
from lean_sepia.plan.rules import check_plan

Room = Literal["evidence", "match", "tone", "glaze", "wear", "plan", "bench"]
ROOMS: tuple[Room, ...] = ("evidence", "match", "tone", "glaze", "wear", "plan", "bench")


_DISAGREE = 1.6  # times further apart than the ranges allow


@dataclass(frozen=True)
class Advice:
    """One sentence, the room where it is dealt with, and the zone it concerns."""

    text: str
    room: Room
    zone: str | None = None


@dataclass(frozen=True)
class RoomState:
    """How far a room has come: a few words, and whether nothing, something or all is done."""

    detail: str
    state: Literal["nothing yet", "started", "done"]


def contradiction(photo: Photo, subject: Subject) -> str | None:
    """Whether a photo was taken outside the years of a livery, in words; None if it may show it."""
    found = photo_verdict(photo, subject)
    if found not in ("contradicted", "unlikely"):
        return None
    years = f"the {subject.livery or 'livery'} was worn from {subject.livery_from or '?'} to {subject.livery_to or '?'}"
    if found == "unlikely":
        return f"is from {photo.date} and probably not of it: {years}"
    span = date_span(photo.date)
    start = date_span(subject.livery_from)
    if span and start and span[1] < start[0]:
        return f"is from {photo.date[:4]}; the {subject.livery} began in {subject.livery_from[:4]}"
    return f"is from {photo.date[:4]}; the {subject.livery} ended in {subject.livery_to[:4]}"


def photo_verdict(photo: Photo, subject: Subject) -> Verdict:
    """Whether a photo's date lets it show a subject's livery; a date that cannot be read is unknown."""
    if photo.of_model:
        return "unknown"
    try:
        return verdict(photo.date, subject.livery_from, subject.livery_to)
    except EditError:
        return "unknown"


def advice(project: Project, strata: Mapping[str, Strata]) -> list[Advice]:
    """Everything worth saying, the most important first; never empty."""
    return [
        *_first_steps(project),
        *_contradictions(project),
        *_disagreements(project, strata),
        *_plan(project),
        *_unsampled(project),
        *_matches(project, strata),
        Advice("Nothing stands in the way. The bench card has every step in order.", "bench"),
    ]


def _first_steps(project: Project) -> Iterator[Advice]:
    if not project.photos and not project.samples:
        yield Advice("Add a photo of the prototype: everything starts from a colour it shows.", "evidence")
    elif not project.zones:
        yield Advice("Name a zone, such as Hull or Roof, to sample colours for.", "evidence")


def _disagreements(project: Project, strata: Mapping[str, Strata]) -> Iterator[Advice]:
    for zone in project.zones:
        fresh = strata[zone.id].targets.fresh
        if fresh is not None and (fresh.disagreement or 0) > _DISAGREE:
            yield Advice(
                f"The photos of {zone.name} disagree more than their ranges allow. One may show another coat, or stand "
                "in another light; the target's range is widened.",
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
                    f"A sample comes from “{photo.title}”, which {words}. Its colour cannot come from that picture.",
                    "evidence",
                )
        if photo.id in sampled and not photo.anchors and photo.tones == "colour":
            yield Advice(
                f"“{photo.title}” has no anchor, so its cast is still in the samples. Mark something grey or white.",
                "evidence",
            )


def _unsampled(project: Project) -> Iterator[Advice]:
    zones_with = {sample.zone for sample in project.samples}
    for zone in project.zones:
        if project.photos and zone.id not in zones_with:
            yield Advice(f"{zone.name} has no sample yet.", "evidence", zone.id)


def _plan(project: Project) -> Iterator[Advice]:
    for finding in check_plan(plan_steps(project)):
        if finding.severity != "note":
            yield Advice(finding.message, "plan")


def _matches(project: Project, strata: Mapping[str, Strata]) -> Iterator[Advice]:
    for zone in project.zones:
        cut = strata[zone.id]
        target = cut.targets.fresh
        if target is None:
            continue
        if cut.fresh is None:
            yield Advice(f"{zone.name} has a target and no recipe yet.", "match", zone.id)
            continue
        miss = float(delta_e00(cut.fresh, target.lab))
        if target.de00_90 is not None and miss > max(target.de00_90, 1.0):
            yield Advice(
                f"The base of {zone.name} is {miss:.1f} ΔE00 from its target, outside the photo's own ±{target.de00_90:.1f}.",
                "match",
                zone.id,
            )


def room_states(project: Project, strata: Mapping[str, Strata]) -> dict[Room, RoomState]:
    """State of every room."""
    zones = len(project.zones)
    matched = sum(1 for cut in strata.values() if cut.fresh is not None)
    with_kind = {
        kinds: sum(
            any(coat.kind in kinds and coat.on for coat in project.coats_of(zone.id))
            for zone in project.zones
        )
        for kinds in (("fade", "tone"), ("filter", "wash", "pin-wash", "oil-dots"))
    }
    worn = {region.zone for region in project.regions if region.wear}
    done = sum(step.done for step in project.steps)
    sampled = len({sample.zone for sample in project.samples})
    faded, glazed = with_kind.values()
    photos = f"{len(project.photos)} photo{'' if len(project.photos) == 1 else 's'}"
    return {
        "evidence": _state(photos, sampled, zones)
        if project.photos
        else RoomState("no photo yet", "nothing yet"),
        "match": _state(f"{matched} of {zones} zones", matched, zones),
        "tone": _state(f"{faded} of {zones}", faded, zones),
        "glaze": _state(f"{glazed} of {zones}", glazed, zones),
        "wear": _state(
            "signature set" if project.signature and worn else f"{len(worn)} of {zones}", len(worn), zones
        ),
        "plan": RoomState(
            f"{len(project.steps)} step{'' if len(project.steps) == 1 else 's'}"
            if project.steps
            else "no step yet",
            "done" if project.steps else "nothing yet",
        ),
        "bench": _state(
            f"{done} of {len(project.steps)} done" if done else "not begun", done, len(project.steps)
        ),
    }


def _state(detail: str, count: int, of: int) -> RoomState:
    if count == 0:
        return RoomState(detail if of else "nothing yet", "nothing yet")
    return RoomState(detail, "done" if count >= of else "started")
