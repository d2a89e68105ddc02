"""Several tones of one surface: how strongly each pair differs, and how far one must be stirred into the other for less."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations

from lean_sepia.answers.predicting.coatings import coating_of, final_varnish
from lean_sepia.answers.strata import Strata
from lean_sepia.answers.targets import targets_of
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.bounds import Lab
from lean_sepia.document.edits.coats import edit_coat
from lean_sepia.document.edits.mixes import Mix, manner_of
from lean_sepia.document.model import Coat, Project
from lean_sepia.document.versions import coat_paint
from lean_sepia.errors import EditError
from lean_sepia.language import _
from lean_sepia.paint.media import media_mix
from lean_sepia.paint.paint import Paint, stirred
from lean_sepia.paint.stack import Stack
from lean_sepia.recipe.parts import proportions

MOST_PARTS = 12


@dataclass(frozen=True)
class Contrast:
    """How two tones differ: ΔE00, and by how much the second is lighter."""

    de00: float
    lighter: float

    @classmethod
    def of(cls, first: Lab | None, second: Lab | None) -> Contrast | None:
        """The contrast of two colours; None where one is not known."""
        if first is None or second is None:
            return None
        return cls(float(delta_e00(first, second)), second[0] - first[0])


@dataclass(frozen=True)
class Pair:
    """Two zones of a surface: their contrast in the photo, as painted, and as left after what is planned over them.

    stated : whether the first is that of stated targets rather than of a photo
    """

    first: str
    second: str
    stated: bool
    photo: Contrast | None
    painted: Contrast | None
    left: Contrast | None


def pairs_of(project: Project, surface_id: str, cuts: Mapping[str, Strata]) -> list[Pair]:
    """Every pair of tones of a surface, the order of the zones kept."""
    found = []
    for one, other in combinations(project.zones_of(surface_id), 2):
        first, second = cuts[one.id], cuts[other.id]
        goals = [cut.targets.fresh or cut.targets.exposed for cut in (first, second)]
        found.append(
            Pair(
                one.id, other.id, any(goal is not None and goal.stated for goal in goals), Contrast.of(*(goal.lab if goal else None for goal in goals)),
                Contrast.of(first.fresh, second.fresh), Contrast.of(first.seen, second.seen),
            )
        )  # fmt: skip
    return found


def traced_shares(project: Project, zones: Sequence[str]) -> dict[str, float]:
    """The share of each zone in a region that was traced and divided into colours: each colour goes to the zone nearest to it.

    Raises
    ------
    EditError
        No region of these zones is divided into colours, or a zone has no target to know its colour by.
    """
    region = next((r for r in project.regions if r.zone in zones and len(r.tones) > 1), None)
    if region is None:
        raise EditError(
            _(
                "No region of these zones is divided into colours. Trace an area in Evidence, with a sample of each colour."
            )
        )
    goals = {}
    for zone in zones:
        targets = targets_of(project, zone)
        goal = targets.fresh or targets.exposed
        if goal is None:
            raise EditError(_("{0} has no target to know its colour by.").format(project.zone(zone).name))
        goals[zone] = goal.lab
    shares = dict.fromkeys(zones, 0.0)
    for tone in region.tones:
        nearest = min(zones, key=lambda zone: float(delta_e00(goals[zone], tone.lab)))
        shares[nearest] += tone.share
    whole = sum(shares.values())
    return {zone: share / whole for zone, share in shares.items()}


@dataclass(frozen=True)
class Stirred:
    """So many parts of a zone's own tone and of the other's: its colour then, and the contrast that is left."""

    own_parts: int
    other_parts: int
    lab: Lab
    contrast: Contrast


def tone_coat(project: Project, zone_id: str) -> Coat | None:
    """The coat that gives a zone its tone: the last full coat of paint that has a recipe."""
    coats = [c for c in project.coats_of(zone_id) if c.on and c.recipe and c.nature.is_colour]
    return coats[-1] if coats else None


def stir(project: Project, zone_id: str, other_id: str, wanted_de00: float) -> Stirred:
    """How much of another zone's tone to stir into a zone's own for a wanted contrast between the two as painted.

    Raises
    ------
    EditError
        One has no mix, they do not mix, or the contrast is smaller already.
    """
    own, other = tone_coat(project, zone_id), tone_coat(project, other_id)
    names = [project.zone(name).name for name in (zone_id, other_id)]
    paints = [coat_paint(project, coat) if coat else None for coat in (own, other)]
    if own is None or other is None or paints[0] is None or paints[1] is None:
        raise EditError(_("Both {0} and {1} need a mix of their own first.").format(*names))
    if not media_mix(paints[0].medium, paints[1].medium):
        raise EditError(_("The paints of {0} and {1} do not mix.").format(*names))
    fixed = _tone(project, other, paints[1])
    now = Contrast.of(_tone(project, own, paints[0]), fixed)
    if now is None or now.de00 <= wanted_de00:
        words = _(
            "{0} and {1} differ by {2:.1f} already; stirring one into the other only brings them closer."
        )
        raise EditError(words.format(*names, now.de00 if now else 0.0))
    best: Stirred | None = None
    for mine, theirs in proportions(2, MOST_PARTS):
        mixture = stirred("stirred", "", (paints[0], paints[1]), (int(mine), int(theirs)))
        lab = _tone(project, own, mixture)
        contrast = Contrast.of(lab, fixed)
        if lab is None or contrast is None:
            continue
        away = abs(contrast.de00 - wanted_de00)
        if best is None or away < abs(best.contrast.de00 - wanted_de00):
            best = Stirred(int(mine), int(theirs), lab, contrast)
    assert best is not None
    return best


def stirred_in(project: Project, into: str, other: str, wanted: float) -> Project:
    """The document with another zone's tone stirred into a zone's own for a wanted contrast."""
    found = stir(project, into, other, wanted)
    own, theirs = tone_coat(project, into), tone_coat(project, other)
    if own is None or theirs is None or not own.recipe or not theirs.recipe:
        raise EditError(_("Both zones need a mix of their own first."))
    recipe = project.recipe(own.recipe)
    total = sum(count for _name, count in (*recipe.cups, *recipe.parts))
    mix = Mix(
        versions=tuple((v, count * found.own_parts) for v, count in recipe.parts),
        cups=(
            *((cup, count * found.own_parts) for cup, count in recipe.cups),
            (theirs.recipe, total * found.other_parts),
        ),
    )
    return edit_coat(project, own.id, own.kind, mix, manner_of(own), own.name)


def _tone(project: Project, coat: Coat, paint: Paint) -> Lab | None:
    """The fresh colour of a zone whose tone is mixed of a paint, under its final varnish."""
    coats = [other for other in project.coats_of(coat.zone) if other.on]
    stack = Stack()
    for other in coats:
        coating = coating_of(project, other)
        stack = stack.lay(replace(coating, body=paint, profile=None) if other.id == coat.id else coating)
        if other.id == coat.id:
            break
    return stack.lab(final_varnish(coats))
