"""Why a recipe is as it is: what the shelf cannot reach, what stands in for a missing bottle, what the media need."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace

import numpy.typing as npt

from lean_sepia.arrays import triple
from lean_sepia.colour.words import difference
from lean_sepia.errors import ShelfError
from lean_sepia.language import _, ngettext
from lean_sepia.paint.handling.carriers import CARRIERS
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.media import MEDIA, media_mix
from lean_sepia.paint.paint import Paint, mixed
from lean_sepia.paint.tools import TOOLS
from lean_sepia.recipe.limits import Limits
from lean_sepia.recipe.mix import MixSolver, Recipe, one_per_bottle_set
from lean_sepia.recipe.mixture_table import Progress, no_progress

_CLOSE_DE00, _BETTER_SHARE = 1.0, 0.6
_WORTH_DE00 = 3.0  # a stand-in that much worse than the closest is none
_LOOKED_AT = 60  # recipes among which different sets of bottles are found


def why_not_exactly(
    paints: Sequence[Paint],
    target: npt.ArrayLike,
    best: Recipe,
    laying: Laying = OPAQUE,
    progress: Progress = no_progress,
) -> str:
    """Why the best recipe misses its target, in words; empty where it is within 1 ΔE00.

    Either finer parts or another bottle would bring it nearer, or the shelf cannot: then in which direction.
    """
    if best.de00 <= _CLOSE_DE00:
        return ""
    solver = MixSolver(paints, laying, max_paints=5, max_parts=24)
    finer = min(solver.solve(target, progress=progress), key=lambda recipe: recipe.de00)
    if finer.de00 <= max(_CLOSE_DE00, _BETTER_SHARE * best.de00):
        bottles = ngettext("{0} bottle", "{0} bottles", len(finer.parts)).format(len(finer.parts))
        return _("Coarse parts: with {0}, {1} parts in all come within {2:.1f} of it.").format(
            bottles, finer.total_parts, finer.de00
        )
    away = difference(target, finer.lab)
    return _(
        "No mixture of this shelf reaches it: the nearest is {0} ({1:.1f}). A bottle that is {2} than that would help."
    ).format(away.words, finer.de00, difference(finer.lab, target).words)


@dataclass(frozen=True)
class Substitute:
    """A recipe that does without some bottles, how many of the old recipe's others it keeps, and the colour it stands for."""

    recipe: Recipe
    kept: int
    instead_of: tuple[float, float, float]


def substitutes(
    paints: Sequence[Paint],
    parts: Sequence[tuple[str, int]],
    missing: Collection[str],
    laying: Laying = OPAQUE,
    *,
    max_parts: int = 12,
    count: int = 5,
) -> list[Substitute]:
    """Recipes for the colour of an old one without some of its bottles, those that keep the other bottles first.

    Each set of bottles once; the closest is always among them. `paints` still holds the missing bottles: the colour they gave is what is to be met.

    Raises
    ------
    ShelfError
        The recipe does not hold a missing bottle, or nothing is left to mix.
    """
    by_id = {paint.id: paint for paint in paints}
    names = [name for name, _unused in parts]
    for name in missing:
        if name not in names:
            raise ShelfError(_("{0!r} is not in this recipe. It holds {1}.").format(name, ", ".join(names)))
    lost = [name for name in names if name not in by_id]
    if lost:
        raise ShelfError(
            _("{0!r} of this recipe is not on the shelf, so its colour is not known.").format(lost[0])
        )
    target = laying.lab(mixed([by_id[name] for name in names], [count for _unused, count in parts]))
    gone = frozenset(missing)
    others = frozenset(names) - gone
    most = max(3, len(names))
    found: dict[frozenset[str], Substitute] = {}
    for must in (others, frozenset[str]()):
        solver = MixSolver(
            paints,
            laying,
            max_paints=most,
            max_parts=max_parts,
            limits=Limits(forbid=gone, must=must),
        )
        for recipe in one_per_bottle_set(solver.solve(target, _LOOKED_AT))[:count]:
            kept = len(others & {name for name, _unused in recipe.parts})
            found.setdefault(
                frozenset(name for name, _unused in recipe.parts), Substitute(recipe, kept, triple(target))
            )
    closest = min(found.values(), key=lambda one: one.recipe.de00)
    worth = [one for one in found.values() if one.recipe.de00 <= closest.recipe.de00 + _WORTH_DE00]
    order = sorted(worth, key=lambda one: (-one.kept, int(one.recipe.de00 / 0.2), len(one.recipe.parts)))
    return order[:count] if closest in order[:count] else [*order[: count - 1], closest]


def sheen_share(mixture_g: float, medium_g: float, wanted_g: float) -> float | None:
    """Share 0–1 of a clear gloss or matting medium in the whole that brings a mixture to a sheen; None where it cannot.

    The sheen of a mixture is the volume mean of its parts, as in `Palette.mixture`.
    """
    span = medium_g - mixture_g
    if abs(wanted_g - mixture_g) < 1e-9:
        return 0.0
    if abs(span) < 1e-9:
        return None
    share = (wanted_g - mixture_g) / span
    return share if 0 <= share < 1 else None


def wet_and_dry(
    paints: Sequence[Paint], parts: Sequence[float], laying: Laying = OPAQUE
) -> tuple[tuple[float, float, float], tuple[float, float, float]]:
    """L*a*b* of a mixture while it is wet, and when it has dried to its own sheen or under its varnish."""
    made = mixed(paints, parts)
    wet, dry = replace(laying.alone, varnish="wet").lab(made), laying.alone.lab(made)
    return triple(wet), triple(dry)


def unmixable(media: Sequence[str]) -> tuple[str, str] | None:
    """The first two media of a recipe that cannot be stirred together; None where all can."""
    for medium in dict.fromkeys(media):
        for other in dict.fromkeys(media):
            if not media_mix(medium, other):
                return medium, other
    return None


def media_cautions(
    media: Sequence[str], *, tool: str = "airbrush", thinner: str = "", below: str | None = None
) -> list[str]:
    """What the media of a recipe need (common practice): carriers, brushes, and what lies below.

    media : of the paints; below : medium of the coat below, where there is one
    """
    said = []
    kinds = set(media)
    if apart := unmixable(media):
        words = [_(MEDIA[medium].words) for medium in apart]
        said.append(
            _("{0} and {1} do not mix: in one cup they curdle or separate.").format(*words).capitalize()
        )
    carriers = {MEDIA[medium].carrier for medium in kinds}
    if {"water", "alcohol"} <= carriers:
        said.append(
            _("Water-carried and alcohol-carried acrylic in one cup may curdle: stir a drop of each first.")
        )
    if "alcohol" in carriers and thinner == "water":
        said.append(
            _("Water makes alcohol-carried paint grainy and slow: thin it with alcohol or its own thinner.")
        )
    if "lacquer-thinner" in carriers and below and MEDIA[below].carrier not in ("none", "lacquer-thinner"):
        said.append(
            _(
                "Lacquer softens what lies below: let it cure fully, mist the first coats, and test on a spare part."
            )
        )
    if tool == "brush" and carriers & {"lacquer-thinner", "alcohol"}:
        said.append(_("This dries too fast for a brush: add a retarder, or spray it."))
    if any(CARRIERS[carrier].solvent for carrier in carriers) and TOOLS[tool].sprayed:
        said.append(
            _(
                "Spray it with extraction to the outside and an organic-vapour respirator, away from flames; follow the product's safety data sheet and local rules."
            )
        )
    return said
