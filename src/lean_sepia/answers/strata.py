"""A zone's coats as a cut through them: the predicted colour after each, and what the eye sees on top."""

from __future__ import annotations

import operator
from dataclasses import dataclass

from lean_sepia.answers.predicting.coatings import coating_of
from lean_sepia.answers.predicting.run import Run, ZoneCoats
from lean_sepia.answers.targets import Targets, targets_of
from lean_sepia.arrays import FloatArray, triple
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.document.bounds import Lab
from lean_sepia.document.called import coat_name
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import medium_of
from lean_sepia.language import _, ngettext
from lean_sepia.paint.profile import PANELS, RUNS, ends
from lean_sepia.paint.stack import Coating
from lean_sepia.paint.tools import TOOLS
from lean_sepia.plan.names import Finish

VARNISH_FILM = 0.25
"""How thick a clear coat is drawn; it adds no colour of its own."""


@dataclass(frozen=True)
class Band:
    """One coat in the cut: its colour on top of what lies below it, or None where its paint is not known.

    ground : the colour of what lies directly below it, under the final varnish; None where nothing does
    ends : of a coat that runs out over the zone, its colour where it is full and where there is least of it
    """

    coat: Coat
    name: str
    lab: Lab | None
    film: float
    detail: str
    ground: Lab | None = None
    ends: tuple[Lab, Lab] | None = None


@dataclass(frozen=True)
class Strata:
    """All coats of a zone, bottom first, with the colours predicted at each stage under the final varnish.

    `fresh` and `exposed` are of the largest patch: after the base coats, and under all that covers the whole area (fade, filters,
    mists, dust made of paint) without marks and loose powder; where the zone says so, `fresh` under the latter too. `seen` is on top
    of everything, as the mean in linear XYZ by area; of a coat that runs out over the zone all are means. `ends` is what is seen at both ends of the topmost such
    coat. `varnish` is the sheen of the final varnish, None where none is on.
    """

    zone: str
    bands: tuple[Band, ...]
    fresh: Lab | None
    exposed: Lab | None
    seen: Lab | None
    targets: Targets
    varnish: Finish | None
    ends: tuple[Lab, Lab] | None = None


Inputs = tuple[object, ...]


def strata_inputs(project: Project, zone_id: str) -> Inputs:
    """All that a zone's strata follow from, part by part: while each is the same object, so are the strata."""
    coats = project.coats_of(zone_id)
    recipes = {recipe.id: recipe for recipe in project.recipes}
    mixed = []
    for coat in coats:
        waiting = [coat.recipe] if coat.recipe else []
        while waiting:
            recipe = recipes[waiting.pop()]
            if recipe not in mixed:
                mixed.append(recipe)
                waiting += [cup for cup, _parts in recipe.cups]
    zone = project.zone(zone_id)
    sides = [
        zone,
        *(project.zone(other) for other in (zone.mirrors,) if other),
    ]  # its targets may be those of the other side
    names = {side.id for side in sides}
    samples = [sample for sample in project.samples if sample.zone in names]
    regions = [region for region in project.regions if region.zone in names]
    used = {version for recipe in mixed for version, _parts in recipe.parts}
    paints = [paint for paint in project.paints if paint.id in used]
    scale = (project.schools, project.subject_of(zone), project.sight_km, project.white_share)
    return (*sides, *scale, project.photos, *paints, *coats, *mixed, *samples, *regions)


def same_inputs(one: Inputs, other: Inputs) -> bool:
    """Whether what something follows from is part by part the same object."""
    return len(one) == len(other) and all(map(operator.is_, one, other))


def strata_of(project: Project, zone_id: str) -> Strata:
    """Predict a zone's coats that are switched on, in the order of their steps."""
    coats, zone = project.coats_of(zone_id), ZoneCoats.of(project, zone_id)
    mean, at = Run.over(zone), _at_ends(zone)
    bands, at_ends = [], None
    known = {coat.id: coating for coat, coating in zone.laid}
    for coat in coats:
        coating, both = known.get(coat.id) or coating_of(project, coat), None
        if coat.on and coat.profile and coat.profile != PANELS:
            near, far = at[coat.profile]
            at_ends = both = _pair(near.stages.get("seen"), far.stages.get("seen"))
            if coating.covers in ("film", "tint") and coating.share >= 1:
                both = _pair(near.coats.get(coat.id), far.coats.get(coat.id))
        bands.append(
            Band(
                coat, coat_name(coat), _lab(mean.coats.get(coat.id)), _drawn_film(coat, coating), detail_of(project, coat),
                _lab(mean.grounds.get(coat.id)), both,
            )
        )  # fmt: skip
    has_base = any((band.coat.nature.is_base or band.coat.nature.is_found) and band.lab for band in bands)
    fresh, exposed, seen = (_lab(mean.stages.get(stage)) for stage in ("fresh", "exposed", "seen"))
    return Strata(
        zone_id, tuple(bands), fresh if has_base else None, exposed if has_base else None, seen,
        targets_of(project, zone_id), zone.varnish, at_ends,
    )  # fmt: skip


def _at_ends(zone: ZoneCoats) -> dict[str, list[Run]]:
    """The coats at both ends of every way in which one of them runs out."""
    profiles = {coating.profile for _coat, coating in zone.laid}
    return {
        name: [Run.at(zone, place) for place in ends(name)] for name in profiles if name and name != PANELS
    }


def _lab(xyz: FloatArray | None) -> Lab | None:
    return None if xyz is None else triple(lab_from_xyz(xyz))


def _pair(near: FloatArray | None, far: FloatArray | None) -> tuple[Lab, Lab] | None:
    first, second = _lab(near), _lab(far)
    return (first, second) if first and second else None


def _drawn_film(coat: Coat, coating: Coating) -> float:
    return VARNISH_FILM if coat.nature.is_varnish else coating.X


def detail_of(project: Project, coat: Coat) -> str:
    """The second line of a band: proportion, thinning, passes, share."""
    words = []
    kind = coat.nature
    covers = kind.coat_covers(medium_of(project, coat))
    if coat.recipe:
        recipe = project.recipe(coat.recipe)
        counts = [count for _unused, count in (*recipe.cups, *recipe.parts)]
        if len(counts) > 1:
            words.append(" : ".join(str(count) for count in counts))
    if covers == "tint" and coat.thinner_share:
        words.append(f"1:{coat.thinner_share / (1 - coat.thinner_share):.0f}")
    if covers == "loose" or (kind.in_spots and covers != "taken"):
        words.append(_("{0} % of the area").format(f"{100 * coat.area_share:.1f}"))
    elif covers == "taken":
        below = coat_name(project.coat(coat.down_to)) if coat.down_to else _("the lowest")
        words.append(_("{0} % down to {1}").format(f"{100 * coat.area_share:.1f}", below))
    elif coat.nature.is_found:
        words.append(_("there already"))
    elif covers in ("film", "tint"):
        words.append(passes_words(coat))
    if coat.profile:
        words.append(_(RUNS[coat.profile].words))
    if not coat.on:
        words.append(_("off"))
    return ", ".join(words)


def passes_words(coat: Coat) -> str:
    """How often a coat is laid, such as "2 coats" or "1 pass"."""
    if TOOLS[coat.tool].drawn_out:
        return ngettext("{0} pass", "{0} passes", coat.passes).format(coat.passes)
    return ngettext("{0} coat", "{0} coats", coat.passes).format(coat.passes)
