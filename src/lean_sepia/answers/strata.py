"""A zone's coats as a cut through them: the predicted colour after each, and what the eye sees on top."""

from __future__ import annotations

import operator
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from functools import lru_cache

from lean_sepia.answers.targets import Target, Targets, targets_of
from lean_sepia.arrays import FloatArray, triple
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.document.bounds import Lab
from lean_sepia.document.called import coat_name
from lean_sepia.document.edits.steps import place_for
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import coat_paint, medium_of
from lean_sepia.language import _, ngettext
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.ink import hides_as_printed, ink_of_lab
from lean_sepia.paint.kubelka_munk import opaque_reflectance
from lean_sepia.paint.laying import Matter
from lean_sepia.paint.profile import MIDDLE, PANELS, RUNS, Place, ends, places
from lean_sepia.paint.stack import Coating, Opaque, Stack
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

    `fresh` is after the base coats, `exposed` after the fade, `seen` on top of everything, as the mean in linear
    XYZ by area; of a coat that runs out over the zone all are means. `ends` is what is seen at both ends of the topmost such
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
    samples = [sample for sample in project.samples if sample.zone == zone_id]
    regions = [region for region in project.regions if region.zone == zone_id]
    used = {version for recipe in mixed for version, _parts in recipe.parts}
    paints = [paint for paint in project.paints if paint.id in used]
    return (project.zone(zone_id), project.photos, *paints, *coats, *mixed, *samples, *regions)


def same_inputs(one: Inputs, other: Inputs) -> bool:
    """Whether what something follows from is part by part the same object."""
    return len(one) == len(other) and all(map(operator.is_, one, other))


def strata_of(project: Project, zone_id: str) -> Strata:
    """Predict a zone's coats that are switched on, in the order of their steps."""
    coats = project.coats_of(zone_id)
    varnish, sheens = final_varnish(coats), sheens_of(coats)
    coatings = [coating_of(project, coat) for coat in coats]
    laid = [(coat, coating) for coat, coating in zip(coats, coatings, strict=True) if coat.on]
    laid, breaks = on_panels(laid)
    runs = [
        (_run_of(laid, varnish, place, sheens), weight)
        for place, weight in places((c.profile for _, c in laid), breaks)
    ]
    mean = _Run.mean(runs)
    profiles = {coating.profile for _coat, coating in laid if coating.profile and coating.profile != PANELS}
    at = {name: [_run_of(laid, varnish, place, sheens) for place in ends(name)] for name in profiles}
    bands, at_ends = [], None
    for coat, coating in zip(coats, coatings, strict=True):
        both = None
        if coat.on and coat.profile and coat.profile != PANELS:
            near, far = at[coat.profile]
            at_ends = both = _pair(near.seen, far.seen)
            if coating.covers in ("film", "tint") and coating.share >= 1:
                both = _pair(near.coats.get(coat.id), far.coats.get(coat.id))
        bands.append(
            Band(
                coat, coat_name(coat), _lab(mean.coats.get(coat.id)), _drawn_film(coat, coating), detail_of(project, coat),
                _lab(mean.grounds.get(coat.id)), both,
            )
        )  # fmt: skip
    has_base = any((band.coat.nature.is_base or band.coat.nature.is_found) and band.lab for band in bands)
    return Strata(
        zone_id, tuple(bands), _lab(mean.fresh) if has_base else None, _lab(mean.exposed) if has_base else None,
        _lab(mean.seen), targets_of(project, zone_id), varnish, at_ends,
    )  # fmt: skip


def on_panels(laid: Sequence[tuple[Coat, Coating]]) -> tuple[list[tuple[Coat, Coating]], list[float]]:
    """Coats with their panels given out one after another, as shares of the area, and where each one's end.

    Once all panels are given out, the next coat begins again with the first.
    """
    at, given, breaks = 0.0, [], []
    for coat, coating in laid:
        if coating.profile == PANELS:
            at = 0.0 if at + coating.share > 1 + 1e-9 else at
            coating = replace(coating, start=at)
            at += coating.share
            breaks.append(at)
        given.append((coat, coating))
    return given, breaks


@dataclass
class _Run:
    """XYZ (3,) at the stages of one stack, and of each coat and what lies under it, by the coat's id; None where nothing is."""

    fresh: FloatArray | None = None
    exposed: FloatArray | None = None
    seen: FloatArray | None = None
    coats: dict[str, FloatArray] = field(default_factory=dict)
    grounds: dict[str, FloatArray] = field(default_factory=dict)

    @classmethod
    def mean(cls, runs: Sequence[tuple[_Run, float]]) -> _Run:
        """The mean over the places of a zone."""
        if len(runs) == 1:
            return runs[0][0]

        def over(values: Iterable[FloatArray | None]) -> FloatArray | None:
            known = [(value, w) for value, (_run, w) in zip(values, runs, strict=True) if value is not None]
            weight = sum(w for _value, w in known)
            return sum(value * w for value, w in known) / weight if known else None  # type: ignore[return-value]

        def each(name: str) -> dict[str, FloatArray]:
            ids = {identity for run, _w in runs for identity in getattr(run, name)}
            means = {i: over(getattr(run, name).get(i) for run, _w in runs) for i in ids}
            return {i: value for i, value in means.items() if value is not None}

        return cls(
            over(r.fresh for r, _w in runs), over(r.exposed for r, _w in runs), over(r.seen for r, _w in runs),
            each("coats"), each("grounds"),
        )  # fmt: skip


def _run_of(
    laid: Sequence[tuple[Coat, Coating]],
    varnish: str | None,
    place: Place,
    sheens: Sequence[tuple[float, Finish | None]],
) -> _Run:
    """The coats laid one after another at one place of the zone; the varnishes of `sheens` lie on shares of all of it."""
    stack, run, ground = Stack(), _Run(), None
    for coat, whole in laid:
        coating = whole.at(place)
        if ground is not None:
            run.grounds[coat.id] = ground
        stack, patch = stack.lay_patch(coating)
        if patch is not None:
            run.coats[coat.id] = stack.xyz(varnish, patch)
        ground = stack.xyz(varnish, stack.main) if stack.main else None
        stage = coat.nature.stage
        if stage != "seen":
            run.exposed = ground
            run.fresh = ground if stage == "fresh" else run.fresh
    parts = [(share, xyz) for share, sheen in sheens if share and (xyz := stack.seen_xyz(sheen)) is not None]
    run.seen = sum(share * xyz for share, xyz in parts) if parts else None  # type: ignore[assignment]
    return run


def _lab(xyz: FloatArray | None) -> Lab | None:
    return None if xyz is None else triple(lab_from_xyz(xyz))


def _pair(near: FloatArray | None, far: FloatArray | None) -> tuple[Lab, Lab] | None:
    first, second = _lab(near), _lab(far)
    return (first, second) if first and second else None


def final_varnish(coats: Sequence[Coat]) -> Finish | None:
    """The sheen of the last varnish on most of a zone; None where none is: there coats are seen at their own sheen."""
    return max(sheens_of(coats), key=lambda part: part[0])[1]


def sheens_of(coats: Sequence[Coat]) -> list[tuple[float, Finish | None]]:
    """The shares of a zone, the uppermost varnish first, and the sheen of each; what none covers is last, with None."""
    left, parts = 1.0, list[tuple[float, Finish | None]]()
    for coat in reversed(coats):
        if coat.on and coat.nature.is_varnish:
            parts.append((left * coat.area_share, coat.nature.finish))
            left *= 1 - coat.area_share
    return [*parts, (left, None)]


def coating_of(project: Project, coat: Coat) -> Coating:
    """A coat of the document as what is laid."""
    paint = coat_paint(project, coat)
    body: Matter | Opaque | None = paint
    if (
        paint is not None and not paint.lies_as_film
    ):  # metallics and powders lie in their own colour, never as a film
        body = Opaque(opaque_reflectance(paint.K, paint.S), paint.surface)
    elif paint is None and coat.lab is not None:
        ink = coat.printed == "ink" and not hides_as_printed(coat.lab)
        body = ink_of_lab(coat.lab, coat.finish) if ink else _opaque(coat.lab, coat.finish)
    kind = coat.nature
    X = (
        film_thickness(coat.passes, coat.thinner_share, coat.tool) * (1 - coat.wiped)
        if coat.printed is None
        else 1.0
    )
    covers = kind.coat_covers(medium_of(project, coat))
    if covers == "film" and coat.wiped:
        covers = "tint"  # a veil is too thin to have a sheen of its own
    return Coating(
        covers, body, X, coat.area_share, mark=coat.id, down_to=coat.down_to or "",
        keep=coat.keep if coat.keep is not None or paint is None else paint.keep, profile=coat.profile, far=coat.far,
    )  # fmt: skip


_opaque = lru_cache(maxsize=256)(Opaque.of_lab)


def coats_below(project: Project, zone_id: str, kind: str) -> tuple[Coat, ...]:
    """The coats that are on under a zone's coat of a kind, or under where one would come, bottom first."""
    coats = project.coats_of(zone_id)
    here = next((index for index, coat in enumerate(coats) if coat.kind == kind), None)
    if here is None:
        place = place_for(project, kind)
        order = {step.id: index for index, step in enumerate(project.steps)}
        here = sum(order[coat.step] < place for coat in coats)
    return tuple(coat for coat in coats[:here] if coat.on)


def stack_below(project: Project, zone_id: str, kind: str) -> Stack:
    """What lies under a zone's coat of a kind, or under where one would come."""
    return stack_of(project, coats_below(project, zone_id, kind))


def stack_of(project: Project, coats: Iterable[Coat]) -> Stack:
    """Coats laid one on another, at the place that stands for a zone."""
    stack = Stack()
    for coat in coats:
        stack = stack.lay(coating_of(project, coat).at(MIDDLE))
    return stack


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
