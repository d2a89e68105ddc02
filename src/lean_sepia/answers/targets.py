"""The three targets of a zone: fresh, exposed and seen, from the samples and regions of its photos."""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass, replace

import numpy as np

from lean_sepia.arrays import FloatArray, triple
from lean_sepia.colour.distance import kept_through_air, lightened, through_air
from lean_sepia.document.bounds import Lab
from lean_sepia.document.model import Project, Sample, Stated, TargetName, Zone
from lean_sepia.language import _, ngettext
from lean_sepia.photo.combine import Reading, combine
from lean_sepia.photo.stated.roles import ROLE_WORDS, ROLES, Role
from lean_sepia.plan.kinds import KINDS
from lean_sepia.plan.schools import SCHOOLS
from lean_sepia.wear.scale import VIEWED_MM


@dataclass(frozen=True)
class Target:
    """A colour to aim at, the radius that holds the truth 9 times in 10, and where it comes from.

    stated : whether the user said it, rather than photos
    half90 : half widths of the 90 % intervals of L*, a*, b*, where samples say
    disagreement : how many times further apart several photos lie than their ranges allow; None of a single one
    """

    lab: Lab
    de00_90: float | None
    source: str
    disagreement: float | None = None
    half90: Lab | None = None
    stated: bool = False


@dataclass(frozen=True)
class Targets:
    """What the zone looked like fresh, faded, and as a whole; absent where nothing says.

    by_role : the colour sampled in every other role, such as a marking of a generation, the undercoat or dust
    """

    fresh: Target | None
    exposed: Target | None
    seen: Target | None
    by_role: tuple[tuple[Role, Target], ...] = ()

    def of_role(self, role: str) -> Target | None:
        """The colour sampled in a role, if any."""
        return next((target for name, target in self.by_role if name == role), None)


def targets_of(project: Project, zone_id: str) -> Targets:
    """Targets of one zone; nothing is copied silently from one to another.

    What the user states counts before samples; a mirrored side without a target of its own has that of the other. Last of all the
    scale effect is added where the school asks for one, and said.
    """
    found, scaled = _true_targets(project, zone_id), scale_effect(project, zone_id)
    if scaled is None:
        return found

    def at_scale(target: Target | None) -> Target | None:
        return target and replace(
            target, lab=triple(scaled.of(target.lab)), source=f"{target.source}, {scaled.words}"
        )

    roles = tuple((role, at_scale(target) or target) for role, target in found.by_role)
    return Targets(at_scale(found.fresh), at_scale(found.exposed), at_scale(found.seen), roles)


@dataclass(frozen=True)
class ScaleEffect:
    """What is made of every target in the end: through air of which a share of the contrast is left, or with a share of white."""

    words: str
    of: Callable[[Lab], FloatArray]


def scale_effect(project: Project, zone_id: str) -> ScaleEffect | None:
    """The scale effect by the project's school, for a zone; None where there is none."""
    school = project.schools.get("scale-effect", SCHOOLS["scale-effect"].usual)
    if school == "haze":
        away = VIEWED_MM / 1000 * project.subject_of(project.zone(zone_id)).scale
        kept = kept_through_air(away, project.sight_km)
        words = _("seen through {0:.0f} m of air").format(away)
        return ScaleEffect(words, lambda lab: through_air(lab, kept))
    if school == "customary":
        words = _("{0} % lighter by custom").format(f"{100 * project.white_share:.0f}")
        return ScaleEffect(words, lambda lab: lightened(lab, project.white_share))
    return None


def _true_targets(project: Project, zone_id: str) -> Targets:
    zone = project.zone(zone_id)
    own = _own_targets(project, zone)
    if not zone.mirrors or own.fresh or own.exposed or own.seen:
        return own
    other = project.zone(zone.mirrors)
    theirs = _own_targets(project, other)
    words = _("as on {0}: {1}")

    def carried(target: Target | None) -> Target | None:
        return target and replace(target, source=words.format(other.name, target.source))

    roles = tuple((role, replace(t, source=words.format(other.name, t.source))) for role, t in theirs.by_role)
    return Targets(carried(theirs.fresh), carried(theirs.exposed), carried(theirs.seen), own.by_role or roles)


def model_target(project: Project, zone_id: str) -> Target | None:
    """The colour a zone of the model has now: as sampled from photos of the model itself; None where none was taken."""
    of_model = {photo.id for photo in project.photos if photo.of_model and photo.tones == "colour"}
    samples = [sample for sample in project.samples if sample.zone == zone_id and sample.photo in of_model]
    return _combined(samples, samples[0].role, project) if samples else None


def _own_targets(project: Project, zone: Zone) -> Targets:
    coloured = {
        photo.id
        for photo in project.photos
        if photo.tones == "colour"
        and not photo.of_model
        and (not zone.follows or photo.prototype in zone.follows)
    }
    samples = [sample for sample in project.samples if sample.zone == zone.id and sample.photo in coloured]
    by_role = {
        role: _combined(chosen, role, project)
        for role in ROLES
        if (chosen := [sample for sample in samples if sample.role == role])
    }
    stated = {known.target: _stated(known) for known in zone.stated}

    def first(name: TargetName, *roles: Role) -> Target | None:
        return stated.get(name) or next((by_role[role] for role in roles if role in by_role), None)

    fresh = first("fresh", "sheltered", "base", "replaced")
    exposed = first("exposed", "faded", "base") or stated.get("fresh")
    seen = stated.get("seen") or _mean_of_regions(project, zone, coloured)
    return Targets(fresh, exposed, seen, tuple(by_role.items()))


def _stated(known: Stated) -> Target:
    source = _("stated: {0}").format(known.origin) if known.origin else _("stated by you")
    return Target(known.lab, known.de00_90, source, stated=True)


def _mean_of_regions(project: Project, zone: Zone, coloured: Collection[str]) -> Target | None:
    regions = [region for region in project.regions if region.zone == zone.id and region.photo in coloured]
    if not regions:
        return None
    words = ngettext(
        "mean of {0} region, dirt and wear included",
        "mean of {0} regions, dirt and wear included",
        len(regions),
    )
    mean = np.mean([region.seen for region in regions], axis=0)
    return Target(triple(mean), None, words.format(len(regions)))


def _combined(samples: Sequence[Sample], role: Role, project: Project) -> Target:
    """Samples of one photo share its correction, so only more photos, not copies, make the range narrower; photos developed alike hardly do."""
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
    words = ngettext("{0} sample of {1}", "{0} samples of {1}", len(samples))
    source = words.format(_(ROLE_WORDS[role]), where) + (f", {', '.join(origins)}" if blended else "")
    if len(readings) == 1:
        return Target(readings[0].lab, readings[0].de00_90, source, half90=readings[0].half90)
    alike = [tuple(sorted({photo, *(one.id for one in project.developed_alike(photo))})) for photo in photos]
    found = combine(readings, alike)
    return Target(found.lab, found.de00_90, source, found.disagreement, found.half90)


def target_for(targets: Targets, kind: str, name: str = "") -> tuple[Target | None, str]:
    """What a kind of coat aims at, and what that is: a colour sampled in its own role, else the target of its stage."""
    nature = KINDS[kind]
    roles = nature.roles
    if nature.is_marking and any(word in name.casefold() for word in ("late", "second", "new")):
        roles = roles[::-1]
    for role in roles:
        if found := targets.of_role(role):
            return found, _("{0} sample").format(_(ROLE_WORDS[role]))
    if nature.covers in ("film", "tint") and not nature.lies_under_the_base:
        stages = {"fresh": targets.fresh, "exposed": targets.exposed, "seen": targets.seen or targets.exposed}
        return stages[nature.stage], _("target")
    return None, ""
