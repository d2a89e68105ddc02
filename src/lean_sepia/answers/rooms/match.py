"""Match: a recipe from the shelf for each zone, and what of the coats will not show."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import TYPE_CHECKING

from lean_sepia.answers.coats.showing import Showing
from lean_sepia.answers.rooms.room import Advice, Noticing, RoomNature, RoomState, Urgency, state_of
from lean_sepia.answers.stages import compared
from lean_sepia.answers.strata import Strata
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.showing import READABLE_L, VERDICTS
from lean_sepia.document.called import coat_name
from lean_sepia.document.model import Project
from lean_sepia.language import N_, _

if TYPE_CHECKING:
    from lean_sepia.answers.nearer.outcome import Offer

_NAME = "match"
_UNPAINTED = 100.0  # ΔE00: what a first recipe brings, more than any better one
_A_HINT = 0.5  # ΔE00 from which a glaze does something (practice)


def _state(seen: Noticing) -> RoomState:
    zones, matched = len(seen.project.zones), sum(cut.fresh is not None for cut in seen.strata.values())
    return state_of(_("{0} of {1} zones").format(matched, zones), matched, zones)


def _advice(seen: Noticing) -> Iterator[Advice]:
    yield from _unseen(seen.project, seen.showings)
    yield from _matches(seen.project, seen.strata)
    yield from _nearer(seen.project, seen.nearer)


def _unseen(project: Project, showings: Mapping[str, Mapping[str, Showing]]) -> Iterator[Advice]:
    """Coats that will not show, and lettering that will not read."""
    for coat in project.coats:
        found = showings.get(coat.zone, {}).get(coat.id)
        nature = coat.nature
        if found is None or not coat.on or nature.sets_the_colour:
            continue
        meant = nature.is_glaze and found.later >= _A_HINT  # a filter is to be hardly seen
        if meant or (found.verdict != VERDICTS[0] and (found.kind != "lettering" or found.reads)):
            continue
        zone = project.zone(coat.zone)
        room = nature.room if nature.room != "plan" else _NAME
        yield Advice(
            _unseen_words(coat_name(coat), zone.name, found), room, zone.id, Urgency.SHOWS, (coat.id,)
        )


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


def _nearer(project: Project, offers: Mapping[str, Offer]) -> Iterator[Advice]:
    """What a single change would bring a zone, where that can be seen."""
    for zone, offer in offers.items():
        if all(one.id != zone for one in project.zones):
            continue
        before, after = offer.outcome.zones[zone]
        if before - after >= _A_HINT:
            words = _("{0} could come {1:.1f} nearer. {2}.").format(
                project.zone(zone).name, before - after, offer.words
            )
            yield Advice(words, offer.room, zone, Urgency.MATCHES, ("nearer",), before - after, nearer=True)


def _matches(project: Project, strata: Mapping[str, Strata]) -> Iterator[Advice]:
    for zone in project.zones:
        cut = strata[zone.id]
        found = next(iter(compared(cut)), None)
        target = found.target if found is not None else None
        if found is None or target is None or found.stage == "seen":
            continue
        if found.predicted is None:
            yield Advice(
                _("{0} has a target and no recipe yet.").format(zone.name), _NAME, zone.id, Urgency.MATCHES,
                ("recipe",), _UNPAINTED,
            )  # fmt: skip
            continue
        miss = float(delta_e00(found.predicted, target.lab))
        if target.de00_90 is not None and miss > max(target.de00_90, 1.0):
            words = _("The base of {0} is {1:.1f} ΔE00 from its target, outside the photo's own ±{2:.1f}.")
            if target.stated:
                words = _(
                    "The base of {0} is {1:.1f} ΔE00 from its target, outside the ±{2:.1f} that was stated."
                )
            yield Advice(
                words.format(zone.name, miss, target.de00_90),
                _NAME,
                zone.id,
                Urgency.MATCHES,
                ("miss",),
                miss,
            )


HELP = N_(
    "Match: a recipe from your own shelf.\n\n"
    "The two fields that touch are the target and the recipe, under the final varnish. "
    "Choose a card and pin it to the zone; drops are counted for the amount you want to mix. Drag drops into a card and out of it, "
    "or use plus and minus; the chip of a paint opens what can be done with its bottle."
)
ROOM = RoomNature(
    title=N_("Match"), widget="match.match_room:MatchRoom", help=HELP, state=_state, advice=_advice
)
