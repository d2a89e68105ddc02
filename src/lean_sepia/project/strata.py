"""A zone's coats as a cut through them: the predicted colour after each, and what the eye sees on top."""

from __future__ import annotations

from dataclasses import dataclass

from lean_sepia.arrays import FloatArray, triple
from lean_sepia.colour.lab import lab_from_reflectance, lab_from_xyz
from lean_sepia.colour.lights import xyz_from_reflectance
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.identify import internal_from_lab
from lean_sepia.paint.kubelka_munk import opaque_reflectance, over_ground
from lean_sepia.paint.saunderson import SHEEN, through_surface
from lean_sepia.plan.step import LOOSE, VARNISHES
from lean_sepia.project.model import Coat, Lab, Project
from lean_sepia.project.paints import recipe_paint
from lean_sepia.project.targets import Target, Targets, targets_of

SPOT_KINDS = LOOSE | {"marking", "chips", "resist-chips", "streaks", "oil-dots", "graphite"}
"""Coats that lie on a share of the area and leave the rest as it was."""

_FRESH_KINDS = ("primer", "base", "preshade", "camouflage")


@dataclass(frozen=True)
class Band:
    """One coat in the cut: its colour on top of what lies below it, or None where its paint is not known."""

    coat: Coat
    lab: Lab | None
    film: float
    detail: str


@dataclass(frozen=True)
class Strata:
    """All coats of a zone, bottom first, with the colours predicted at each stage under the final varnish.

    `fresh` is after the base coats, `exposed` after the fade, `seen` on top of everything, as the mean in linear
    XYZ by area.
    """

    zone: str
    bands: tuple[Band, ...]
    fresh: Lab | None
    exposed: Lab | None
    seen: Lab | None
    targets: Targets


@dataclass(frozen=True, eq=False)
class _Patch:
    """A share of the area with one internal reflectance (31,)."""

    share: float
    R_i: FloatArray


def strata_of(project: Project, zone_id: str) -> Strata:
    """Predict a zone's coats that are switched on, in the order of their steps."""
    coats = project.coats_of(zone_id)
    g = final_sheen(coats)
    patches: list[_Patch] = []
    bands, stages = [], {}
    for coat in coats:
        own: FloatArray | None = None
        if coat.on:
            patches, own = _laid(project, coat, patches, g)
        bands.append(Band(coat, _lab(own, g), _film(coat), detail_of(project, coat)))
        if coat.on and patches:
            clean = max(patches, key=lambda patch: patch.share)
            if coat.kind in _FRESH_KINDS:
                stages["fresh"] = stages["exposed"] = clean.R_i
            elif coat.kind in ("tone", "fade"):
                stages["exposed"] = clean.R_i
    seen = None
    if patches:
        mean = sum(patch.share * xyz_from_reflectance(through_surface(patch.R_i, g)) for patch in patches)
        seen = triple(lab_from_xyz(mean))
    has_base = any(band.coat.kind == "base" and band.coat.on and band.lab for band in bands)
    fresh = _lab(stages.get("fresh"), g) if has_base else None
    exposed = _lab(stages.get("exposed"), g) if has_base else None
    return Strata(zone_id, tuple(bands), fresh, exposed, seen, targets_of(project, zone_id))


def final_sheen(coats: tuple[Coat, ...]) -> float:
    """Share g of surface reflection of the finished zone: the last varnish, else the last paint coat."""
    for coat in reversed(coats):
        if coat.on and coat.kind in VARNISHES:
            return SHEEN[VARNISHES[coat.kind]]
    for coat in reversed(coats):
        if coat.on and coat.kind not in SPOT_KINDS:
            return SHEEN[coat.finish]
    return SHEEN["flat"]


def ground_below(project: Project, zone_id: str, kind: str) -> FloatArray | None:
    """Internal reflectance (31,) under the first coat of a kind, or under where it would come; None if bare."""
    coats = project.coats_of(zone_id)
    g = final_sheen(coats)
    patches: list[_Patch] = []
    earlier = _FRESH_KINDS[: _FRESH_KINDS.index(kind)] if kind in _FRESH_KINDS else None
    for coat in coats:
        if coat.kind == kind or (earlier is not None and coat.kind not in earlier):
            break
        if coat.on:
            patches, _ = _laid(project, coat, patches, g)
    return max(patches, key=lambda patch: patch.share).R_i if patches else None


def _laid(
    project: Project, coat: Coat, patches: list[_Patch], g: float
) -> tuple[list[_Patch], FloatArray | None]:
    """The patches after one coat, and the coat's own internal reflectance where it lies."""
    if coat.kind in VARNISHES:
        top = max(patches, key=lambda patch: patch.share).R_i if patches else None
        return patches, top
    if coat.recipe is None and coat.lab is None:
        return patches, None

    def over(ground: FloatArray | None) -> FloatArray:
        if coat.recipe is None:
            return internal_from_lab(coat.lab if coat.lab is not None else (50, 0, 0), g).R_i
        paint = recipe_paint(project, project.recipe(coat.recipe))
        if ground is None:
            return opaque_reflectance(paint.K, paint.S)
        return over_ground(paint.K, paint.S, _film(coat), ground)

    main = max(patches, key=lambda patch: patch.share).R_i if patches else None
    own = over(main)
    share = coat.area_share
    if coat.kind in SPOT_KINDS and patches:
        kept = [_Patch(patch.share * (1 - share), patch.R_i) for patch in patches]
        return [*kept, _Patch(share, own)], own
    if not patches:
        return [_Patch(1.0, own)], own
    covered = [_Patch(patch.share * share, over(patch.R_i)) for patch in patches]
    left = [_Patch(patch.share * (1 - share), patch.R_i) for patch in patches] if share < 1 else []
    return [*covered, *left], own


def _film(coat: Coat) -> float:
    if coat.kind in VARNISHES:
        return 0.25
    return film_thickness(coat.passes, coat.thinner_share, coat.application)


def _lab(R_i: FloatArray | None, g: float) -> Lab | None:
    return None if R_i is None else triple(lab_from_reflectance(through_surface(R_i, g)))


def detail_of(project: Project, coat: Coat) -> str:
    """The second line of a band: proportion, thinning, passes, share."""
    words = []
    if coat.recipe:
        recipe = project.recipe(coat.recipe)
        counts = [recipe.basis_parts] * bool(recipe.basis) + [count for _, count in recipe.parts]
        if len(counts) > 1:
            words.append(" : ".join(str(count) for count in counts))
    if coat.kind in ("filter", "wash", "pin-wash") and coat.thinner_share:
        words.append(f"1:{coat.thinner_share / (1 - coat.thinner_share):.0f}")
    if coat.kind in SPOT_KINDS:
        words.append(f"{100 * coat.area_share:.1f} % of the area")
    elif coat.kind not in VARNISHES:
        unit = "pass" if coat.application == "glaze" else "coat"
        plural = "" if coat.passes == 1 else "es" if unit == "pass" else "s"
        words.append(f"{coat.passes} {unit}{plural}")
    if not coat.on:
        words.append("off")
    return ", ".join(words)


def seen_miss(strata: Strata) -> tuple[Lab, Lab, str] | None:
    """Target and prediction to compare at the foot of the strata, and which target it is; None if none is known."""
    pairs: tuple[tuple[Target | None, Lab | None, str], ...] = (
        (strata.targets.seen, strata.seen, "seen"),
        (strata.targets.exposed, strata.exposed, "exposed"),
        (strata.targets.fresh, strata.fresh, "fresh"),
    )
    if strata.targets.exposed == strata.targets.fresh:
        pairs = (pairs[0], pairs[2])
    for target, predicted, name in pairs:
        if target and predicted:
            return target.lab, predicted, name
    return None
