"""What is said of misses and offers: as open values, and in plain sentences where there is nothing to offer."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from lean_sepia.answers.nearer.change import Planned
from lean_sepia.answers.nearer.hands.laid_otherwise import may_be_left_out
from lean_sepia.answers.nearer.offers import Found
from lean_sepia.answers.nearer.outcome import Offer
from lean_sepia.answers.nearer.parts import Miss, misses
from lean_sepia.answers.stages import AWAY_WORDS
from lean_sepia.answers.targets import targets_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.language import _, ngettext

_NEAR_DE00 = 2.0  # ΔE00: nearer than that nobody asks why not (practice)
_FAR_DE00 = 3.0  # what is still missed after the best change, from where another bottle is what helps


def told(planned: Planned, found: Found) -> dict[str, Any]:
    """Misses and offers under the ids of the project."""
    return {
        "zones": [
            {"id": zone, "stages": [_stage(miss) for miss in misses(planned, zone)]} for zone in planned.zones
        ],
        "offers": [_offer(offer) for offer in found.offers],
        "remarks": list(remarks(planned, found)),
    }  # fmt: skip


def _stage(miss: Miss) -> dict[str, Any]:
    return {
        "stage": miss.stage, "target": miss.target.lab, "predicted": miss.predicted, "de00": round(miss.de00, 4),
        "target_de00_90": miss.target.de00_90,
        "parts": [
            {
                "coat": part.coat.id, "kind": part.coat.kind, "share_de00": round(part.share, 4),
                "without_de00": None if part.without is None else round(part.without, 4), "lab": part.lab,
            }
            for part in miss.parts
        ],
        "rest_de00": round(miss.rest, 4),
    }  # fmt: skip


def _offer(offer: Offer) -> dict[str, Any]:
    return {
        "words": offer.words,
        "zones": {zone: {"before": round(before, 3), "after": round(after, 3)} for zone, (before, after) in offer.outcome.zones.items()},
        "gain": round(offer.gain, 3), "uncertainty": round(offer.unsure, 3), "minutes": round(offer.outcome.minutes, 1),
        "bottles": list(offer.bottles), "harms": list(offer.outcome.harms),
    }  # fmt: skip


def remarks(planned: Planned, found: Found) -> Sequence[str]:
    """What stands in the way, and what would help, zone by zone and for all."""
    said = []
    for zone_id in planned.zones:
        zone, targets = planned.project.zone(zone_id), targets_of(planned.project, zone_id)
        if not (targets.fresh or targets.exposed or targets.seen):
            said.append(
                _("{0} has no target: sample it in Evidence, or state its colour in About this zone.").format(
                    zone.name
                )
            )
        elif not planned.laid(zone_id):
            said.append(_("Nothing is laid on {0} yet: begin with a recipe in Match.").format(zone.name))
        elif not planned.targets[zone_id]:
            said.append(
                _("{0} has no base yet to compare with its target: pin a recipe in Match.").format(zone.name)
            )
    judged = [zone for zone in planned.zones if planned.targets[zone]]
    if judged and not planned.free_laid:
        said.append(_("All that is planned is done or held: only more coats can change it."))
    if judged and len(planned.shelf) < 2:
        said.append(
            ngettext(
                "With {0} bottle nothing can be mixed otherwise: write down what else you have in Shelf.",
                "With {0} bottles nothing can be mixed otherwise: write down what else you have in Shelf.",
                len(planned.shelf),
            ).format(len(planned.shelf))
        )
    if judged and not any(offer.sure for offer in found.offers):
        said.append(_("Nothing here gains more than its own ±."))
    for name in judged:
        far = _still_far(planned, found, name)
        said += [far] if far else _why_not(planned, found, name)
    return said


def _why_not(planned: Planned, found: Found, zone: str) -> list[str]:
    """Why a zone stays further from a target than people leave it, where no offer surely helps."""
    if any(offer.sure and zone in offer.outcome.zones for offer in found.offers):
        return []
    said, name = [], planned.project.zone(zone).short
    for stage, target in planned.targets[zone].items():
        away = float(delta_e00(planned.courses[zone].now[stage], target.lab))
        if away <= _NEAR_DE00:
            continue
        how_far = _("{0} stays {1}").format(name, _(AWAY_WORDS[stage]).format(away))
        if target.de00_90 is not None and away <= target.de00_90:
            said.append(_("{0}, which is known to ±{1:.1f} only.").format(how_far, target.de00_90))
        else:
            said.append(
                _("{0}: no change with the bottles there are surely brings it nearer.").format(how_far)
            )
    return said


def _still_far(planned: Planned, found: Found, zone: str) -> str:
    """What is left of a zone's miss after the best that is offered, where that is far more than its target leaves open."""
    now = [(stage, target.de00_90) for stage, target in planned.targets[zone].items()]
    widest = max((radius or 0.0 for _stage_name, radius in now), default=0.0)
    before = next(
        (offer.outcome.zones[zone][0] for offer in found.offers if zone in offer.outcome.zones), None
    )
    best = min(
        (offer.outcome.zones[zone][1] for offer in found.offers if zone in offer.outcome.zones), default=None
    )
    if best is None or before is None or best <= max(_FAR_DE00, widest):
        return ""
    name = planned.project.zone(zone).short
    if any(may_be_left_out(coat) for coat, _c in planned.laid(zone) if not planned.free(coat)):
        return _("{0} stays {1:.1f} off after the best of these: what is done on it is not changed.").format(
            name, best
        )
    return _(
        "{0} stays {1:.1f} off after the best of these: Match says which colour is missing on the shelf."
    ).format(name, best)
