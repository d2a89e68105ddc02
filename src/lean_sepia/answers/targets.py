"""The three targets of a zone: fresh, exposed and seen, from the samples and regions of its photos."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from lean_sepia.arrays import triple
from lean_sepia.document.bounds import Lab
from lean_sepia.document.model import ROLE_WORDS, Project, Role, Sample
from lean_sepia.language import _, ngettext
from lean_sepia.photo.combine import Reading, combine


@dataclass(frozen=True)
class Target:
    """A colour to aim at, the radius that holds the truth 9 times in 10, and where it comes from.

    half90 : half widths of the 90 % intervals of L*, a*, b*, where samples say
    disagreement : how many times further apart several photos lie than their ranges allow; None of a single one
    """

    lab: Lab
    de00_90: float | None
    source: str
    disagreement: float | None = None
    half90: Lab | None = None


@dataclass(frozen=True)
class Targets:
    """What the zone looked like fresh, faded, and as a whole; absent where no photo says."""

    fresh: Target | None
    exposed: Target | None
    seen: Target | None


def targets_of(project: Project, zone_id: str) -> Targets:
    """Targets of one zone; nothing is copied silently from one to another."""
    follows = project.zone(zone_id).follows
    coloured = {
        photo.id
        for photo in project.photos
        if photo.tones == "colour" and not photo.of_model and (not follows or photo.prototype in follows)
    }
    samples = [sample for sample in project.samples if sample.zone == zone_id and sample.photo in coloured]

    def from_roles(*roles: Role) -> Target | None:
        for role in roles:
            chosen = [sample for sample in samples if sample.role == role]
            if chosen:
                return _combined(chosen, role, project)
        return None

    regions = [region for region in project.regions if region.zone == zone_id and region.photo in coloured]
    seen = None
    if regions:
        mean = np.mean([region.seen for region in regions], axis=0)
        seen = Target(
            triple(mean),
            None,
            ngettext(
                "mean of {0} region, dirt and wear included",
                "mean of {0} regions, dirt and wear included",
                len(regions),
            ).format(len(regions)),
        )
    stated = project.zone(zone_id).stated
    known = Target(stated, None, _("stated by you")) if stated else None
    return Targets(from_roles("sheltered", "base") or known, from_roles("faded", "base") or known, seen)


def _combined(samples: Sequence[Sample], role: Role, project: Project) -> Target:
    """Samples of one photo share its correction, so only more photos, not copies, make the range narrower."""
    origin = {photo.id: photo.copy_of or photo.id for photo in project.photos}
    photos = sorted({origin[sample.photo] for sample in samples})
    readings = []
    for photo in photos:
        mine = [sample for sample in samples if origin[sample.photo] == photo]
        ranges = np.mean([sample.lab_range90 for sample in mine], axis=0)
        half = (ranges[:, 1] - ranges[:, 0]) / 2
        radius = float(np.mean([sample.de00_90 for sample in mine]))
        readings.append(
            Reading(triple(np.mean([sample.lab for sample in mine], axis=0)), triple(half), radius)
        )
    where = ngettext("{0} photo", "{0} photos", len(photos)).format(len(photos))
    # Where sisters are blended, every colour says which of them it is from.
    sisters = {photo.prototype for photo in project.photos if photo.prototype}
    origins = sorted({name for s in samples if (name := project.photo(s.photo).prototype)})
    blended = len(sisters) > 1 and origins
    source = _("{0} samples of {1}").format(_(ROLE_WORDS[role]), where) + (
        f", {', '.join(origins)}" if blended else ""
    )
    if len(readings) == 1:
        return Target(readings[0].lab, readings[0].de00_90, source, half90=readings[0].half90)
    found = combine(readings)
    return Target(found.lab, found.de00_90, source, found.disagreement, found.half90)
