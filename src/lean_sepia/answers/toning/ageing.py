"""What has aged the zones that were sampled sheltered and exposed, and what the same would make of the others."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from lean_sepia.answers.predicting.coatings import final_varnish
from lean_sepia.answers.targets import Target, Targets, targets_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.bounds import Lab
from lean_sepia.document.model import Project
from lean_sepia.document.versions import coat_paint
from lean_sepia.language import _
from lean_sepia.paint.ageing import CAUSES, NOISE_LAB, Ageing, Diagnosis, Explanation, Pair, explain
from lean_sepia.paint.kubelka_munk import opaque_reflectance

_IS_THE_SAME_DE00 = 3.0  # a mix within that of the sheltered colour has about its spectrum
_OF_A_RADIUS = (
    0.5  # what of a sample's radius counts as its noise: much of it is shared by the two samples of a photo
)


@dataclass(frozen=True, eq=False)
class ZonePair:
    """A zone known sheltered and exposed."""

    zone: str
    fresh: Target
    exposed: Target
    pair: Pair


@dataclass(frozen=True)
class Aged:
    """The colour that a zone would have if it had aged as others did: labelled as carried, and from where."""

    target: Target
    ageing: Ageing


def pairs_in(project: Project) -> list[ZonePair]:
    """The zones of a project that are known both sheltered and exposed."""
    found = []
    for zone in project.zones:
        targets = targets_of(project, zone.id)
        if targets.fresh and targets.exposed and targets.exposed != targets.fresh:
            pair = _pair(project, zone.id, targets.fresh, targets.exposed)
            found.append(ZonePair(zone.id, targets.fresh, targets.exposed, pair))
    return found


def _pair(project: Project, zone_id: str, fresh: Target, exposed: Target) -> Pair:
    """The pair with the spectrum of the zone's own mix, where that has about the sheltered colour."""
    base = next((c for c in project.bases_of(zone_id) if c.on and c.recipe), None)
    paint = coat_paint(project, base) if base else None
    if paint is not None and float(delta_e00(paint.masstone_lab(), fresh.lab)) < _IS_THE_SAME_DE00:
        return Pair(fresh.lab, exposed.lab, opaque_reflectance(paint.K, paint.S))
    return Pair(fresh.lab, exposed.lab)


def diagnosis_of(project: Project, zone_id: str) -> Diagnosis | None:
    """What explains the change of one zone; None where it is not known both sheltered and exposed."""
    mine = next((one for one in pairs_in(project) if one.zone == zone_id), None)
    return _explained([mine]) if mine else None


def _explained(pairs: list[ZonePair]) -> Diagnosis:
    """What explains the change of zones; the same pairs are weighed once."""
    keys = tuple(
        (one.pair.fresh, one.pair.exposed, None if one.pair.R_inf is None else one.pair.R_inf.tobytes())
        for one in pairs
    )
    return _weighed(keys, _noise(pairs))


@lru_cache(maxsize=64)
def _weighed(keys: tuple[tuple[Lab, Lab, bytes | None], ...], noise: float) -> Diagnosis:
    pairs = [Pair(fresh, exposed, None if R is None else np.frombuffer(R)) for fresh, exposed, R in keys]
    return explain(pairs, noise)


def _noise(pairs: list[ZonePair]) -> float:
    radii = [target.de00_90 or 0.0 for one in pairs for target in (one.fresh, one.exposed)]
    return max(NOISE_LAB, _OF_A_RADIUS * sum(radii) / len(radii))


def may_age(project: Project, zone_id: str, targets: Targets) -> bool:
    """Whether another zone is known both ways, so that a zone can age as it did."""
    return targets.fresh is not None and any(one.zone != zone_id for one in pairs_in(project))


def aged_like_others(project: Project, zone_id: str, targets: Targets) -> Aged | None:
    """A zone's fresh colour aged as the zones are that are known both ways; None where there are none, or nothing changed."""
    others = [one for one in pairs_in(project) if one.zone != zone_id]
    if not others or targets.fresh is None:
        return None
    found = _explained(others)
    if found.odd == "equal":
        return None
    finish = final_varnish(project.coats_of(zone_id)) or "flat"
    lab = found.best.ageing.lab(targets.fresh.lab, finish)
    names = ", ".join(project.zone(one.zone).name for one in others)
    words = _("carried from {0}: {1}").format(names, shares_words(found.best.ageing))
    return Aged(Target(lab, None, words), found.best.ageing)


def shares_words(ageing: Ageing) -> str:
    """Causes and their shares in words, such as "chalking 30 %, dirt 10 %"."""
    said = [f"{_(CAUSES[name])} {100 * getattr(ageing, name):.0f} %" for name in ageing.causes]
    return ", ".join(said) if said else _("no change")


def explained_words(found: Explanation) -> str:
    """Causes with their shares and 90 % intervals."""
    said = []
    for name in found.ageing.causes:
        words = f"{_(CAUSES[name])} {100 * getattr(found.ageing, name):.0f} %"
        if name in found.ranges90:
            low, high = found.ranges90[name]
            words += _(" (9 in 10: {0}–{1})").format(f"{100 * low:.0f}", f"{100 * high:.0f}")
        said.append(words)
    return ", ".join(said) if said else _("no change")


def diagnosis_words(found: Diagnosis) -> list[str]:
    """What explains a change, how sure that is, the rival, and what is odd about the pair."""
    if found.odd == "equal":
        return [
            _(
                "The faded sample is as the sheltered one: nothing has faded, or both were taken in the same place."
            )
        ]
    said = [_("Explained by {0}.").format(explained_words(found.best))]
    if found.rival is not None:
        rival = explained_words(found.rival)
        words = _("Nearly as likely: {0}.") if not found.sure else _("Less likely: {0}.")
        said.append(words.format(rival))
    if found.odd == "darker":
        said.append(
            _(
                "The faded sample is darker than the sheltered one. Sun lightens: check that the roles are not swapped."
            )
        )
    return said


def ageing_words(project: Project, zone_id: str) -> str:
    """What has aged a zone, in words; empty where its samples do not say."""
    found = diagnosis_of(project, zone_id)
    return " ".join(diagnosis_words(found)) if found else ""
