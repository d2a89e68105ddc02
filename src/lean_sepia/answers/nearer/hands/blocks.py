"""Everything that one mix could be, at once: every base of one or two bottles, every lightener and number of mists, every tint.

A block holds one row for each; what is best of it is the best there is of that mix while all else stays.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import partial
from itertools import combinations

import numpy as np

from lean_sepia.answers.glazing.grounds import tint_paints
from lean_sepia.answers.nearer.change import Edit, Planned
from lean_sepia.answers.nearer.course import Effect, Touch
from lean_sepia.answers.nearer.hands.laid_otherwise import TINT_PARTS, film_of, thinnings_for
from lean_sepia.answers.nearer.hands.mixed_otherwise import MOST_PARTS, with_parts
from lean_sepia.answers.predicting.run import Laid
from lean_sepia.arrays import FloatArray
from lean_sepia.document.edits.coats import change_coat
from lean_sepia.document.model import Project
from lean_sepia.document.versions import paint_of
from lean_sepia.paint.media import media_mix
from lean_sepia.paint.paint import Paint
from lean_sepia.recipe.parts import proportions, reduced

_MOST_PASSES, _MOST_MISTS, _MOST_TINTED = 4, 6, 3
_PAIR_PARTS, _FADE_PARTS = 10, 12
Entry = tuple[str, str]
"""What goes into a mix: "cup", "version" or "bottle", and its id."""


@dataclass(frozen=True, eq=False)
class Block:
    """So many rows, what each does to each zone, and the edit that does it."""

    count: int
    effects: dict[str, Effect]
    edit: Callable[[int], Edit]


Builder = Callable[[Planned, str], Block]


def builders(planned: Planned, recipe: str) -> Iterator[Builder]:
    """What makes the blocks of a mix that may still be another; of one that may not, only how its coats are laid."""
    laid = laid_with(planned, recipe)
    if not laid or not all(planned.free(coat) for coat, _coating in laid):
        return
    made = planned.project.recipe(recipe)
    tint = all(coating.covers == "tint" for _coat, coating in laid)
    colours = any(coat.nature.is_paint and not coat.nature.is_primer for coat, _c in laid)
    if planned.may_mix(recipe) and not planned.project.owns.cans_only:
        if tint:
            yield _tints
        elif made.cups:
            yield _lighteners
        elif colours:
            yield _pairs
            yield _neighbours
    if colours or tint or any(coat.nature.is_powder for coat, _c in laid):
        yield _manners


def laid_with(planned: Planned, recipe: str) -> list[Laid]:
    """The coats that are laid with a mix itself."""
    return [one for one in planned.with_cup(recipe) if one[0].recipe == recipe]


def _candidates(planned: Planned, recipe: str) -> list[tuple[Entry, Paint]]:
    """The paints that may go into a mix: what is in it, and every bottle that is stirred in by itself."""
    made = planned.project.recipe(recipe)
    inside = [(("version", version), paint_of(planned.project.paint(version))) for version, _n in made.parts]
    others = planned.stirs(
        {paint.medium for _entry, paint in inside}, {paint.id for _entry, paint in inside},
        {coat.tool for coat, _coating in planned.with_cup(recipe)},
    )  # fmt: skip
    return [*inside, *((("bottle", paint.id), paint) for paint in others)]


def _row(planned: Planned, entry: Entry) -> FloatArray:
    kind, name = entry
    if kind == "cup":
        return planned.cups.share_of(name)
    return planned.cups.single(name) if kind == "version" else planned.cups.bottle(name)


def _bodies(planned: Planned, recipe: str, shares: FloatArray) -> dict[str, dict[str, Touch]]:
    """What each coat that is laid with a mix, or with one of its cup, is made of in every row."""
    found: dict[str, dict[str, Touch]] = {}
    matters = {
        name: planned.cups.matter(own * shares + rest)
        for name, (own, rest) in planned.cups.followers(recipe).items()
    }
    for coat, _coating in planned.with_cup(recipe):
        found.setdefault(coat.zone, {})[coat.id] = Touch(body=matters[coat.recipe or ""])
    return found


def _mixes(planned: Planned, recipe: str, rows: Sequence[Sequence[tuple[Entry, int]]]) -> Block:
    """Mixes of these entries in these parts."""
    index: dict[Entry, int] = {}
    for row in rows:
        for entry, _count in row:
            index.setdefault(entry, len(index))
    basis = np.array([_row(planned, entry) for entry in index])
    parts = np.zeros((len(rows), len(index)))
    for number, row in enumerate(rows):
        for entry, count in row:
            parts[number, index[entry]] += count
    shares = (parts / parts.sum(axis=1, keepdims=True)) @ basis
    effects = {zone: Effect(mine) for zone, mine in _bodies(planned, recipe, shares).items()}
    bottles = {paint.id: paint for paint in planned.shelf}

    def edit(number: int) -> Edit:
        chosen = tuple((kind, name, count) for (kind, name), count in rows[number])
        new = tuple(bottles[name] for kind, name, _count in chosen if kind == "bottle")
        return partial(with_parts, recipe_id=recipe, parts=chosen, bottles=new)

    return Block(len(rows), effects, edit)


def _pairs(planned: Planned, recipe: str) -> Block:
    """Every paint alone and every two in all proportions to ten parts, and the mix as it is."""
    entries = _candidates(planned, recipe)
    rows: list[list[tuple[Entry, int]]] = [[(entry, 1)] for entry, _paint in entries]
    steps = [(int(a), int(b)) for a, b in proportions(2, _PAIR_PARTS)]
    for (one, first), (other, second) in combinations(entries, 2):
        if media_mix(first.medium, second.medium):
            rows += [[(one, a), (other, b)] for a, b in steps]
    return _mixes(planned, recipe, rows)


def _neighbours(planned: Planned, recipe: str) -> Block:
    """The mix in finer parts with one moved, added or taken away."""
    made = planned.project.recipe(recipe)
    now = {("version", version): count for version, count in made.parts}
    least = reduced(list(now.values()))
    rows: list[list[tuple[Entry, int]]] = []
    entries = [entry for entry, _paint in _candidates(planned, recipe)]
    for times in range(1, MOST_PARTS // max(1, sum(least)) + 1):
        counts = dict(zip(now, (times * count for count in least), strict=True))
        changed = [counts]
        for entry in entries:
            changed.append({**counts, entry: counts.get(entry, 0) + 1})
            for other in counts:
                moved = {**counts, entry: counts.get(entry, 0) + 1, other: counts[other] - 1}
                changed += [moved] if other != entry else []
        changed += [{**counts, entry: counts[entry] - 1} for entry in counts]
        for one in changed:
            kept = [(entry, count) for entry, count in one.items() if count > 0]
            if kept and sum(count for _entry, count in kept) <= MOST_PARTS:
                rows.append(kept)
    return _mixes(planned, recipe, rows)


def _with_manners(
    planned: Planned, recipe: str, laid: Sequence[Laid], rows: Sequence[Sequence[tuple[Entry, int]]], manners: Sequence[tuple[int, float]]
) -> Block:  # fmt: skip
    """Every mix of these in every manner: passes and share of thinner."""
    mixes = _mixes(planned, recipe, rows)
    count = len(manners)
    effects = {}
    films = {
        coat.id: np.array([film_of((coat, coating), *manner) for manner in manners]) for coat, coating in laid
    }
    for zone, effect in mixes.effects.items():
        touches = {}
        for name, touch in effect.touches.items():
            assert touch.body is not None
            body = planned.cups.repeated(touch.body, count)
            X = np.tile(films[name], len(rows))[:, None] if name in films else None
            touches[name] = Touch(body=body, X=X)  # type: ignore[arg-type]
        effects[zone] = Effect(touches)
    ids = [coat.id for coat, _coating in laid]

    def edit(number: int) -> Edit:
        mix, (passes, thinner) = mixes.edit(number // count), manners[number % count]
        return lambda project: _laid_so(mix(project), ids, passes, thinner)

    return Block(len(rows) * count, effects, edit)


def _laid_so(project: Project, ids: Sequence[str], passes: int, thinner: float) -> Project:
    for coat in ids:
        project = change_coat(project, coat, passes=passes, thinner_share=thinner)
    return project


def _lighteners(planned: Planned, recipe: str) -> Block:
    """Every lightener in every proportion to twelve parts and every number of mists."""
    cup, _count = planned.project.recipe(recipe).cups[0]
    base = planned.cups.share_of(cup)
    media = planned.cups.media(base)
    steps = [(int(a), int(b)) for a, b in proportions(2, _FADE_PARTS)]
    rows: list[list[tuple[Entry, int]]] = [
        [(("cup", cup), a), (entry, b)]
        for entry, paint in _candidates(planned, recipe) if all(media_mix(paint.medium, medium) for medium in media)
        for a, b in steps
    ]  # fmt: skip
    laid = laid_with(planned, recipe)
    thinner = laid[0][0].thinner_share
    return _with_manners(
        planned, recipe, laid, rows, [(mists, thinner) for mists in range(1, _MOST_MISTS + 1)]
    )


def _tints(planned: Planned, recipe: str) -> Block:
    """Every tint in every thinning and number of passes."""
    rows: list[list[tuple[Entry, int]]] = [
        [(("bottle", paint.id), 1)] for paint in tint_paints(planned.shelf) if paint.id in planned.cups.others and not paint.ready
    ]  # fmt: skip
    rows.append([(("version", version), count) for version, count in planned.project.recipe(recipe).parts])
    manners = [(passes, parts / (1 + parts)) for passes in range(1, _MOST_TINTED + 1) for parts in TINT_PARTS]
    return _with_manners(planned, recipe, laid_with(planned, recipe), rows, manners)


def _manners(planned: Planned, recipe: str) -> Block:
    """The coats of a mix in every number of passes and thinning."""
    laid = laid_with(planned, recipe)
    thinnings = thinnings_for(laid[0])
    manners = [(passes, thinner) for passes in range(1, _MOST_PASSES + 1) for thinner in thinnings]
    touches: dict[str, dict[str, Touch]] = {}
    for coat, coating in laid:
        X = np.array([film_of((coat, coating), *manner) for manner in manners])[:, None]
        touches.setdefault(coat.zone, {})[coat.id] = Touch(X=X)  # type: ignore[arg-type]
    ids = [coat.id for coat, _coating in laid]

    def edit(number: int) -> Edit:
        passes, thinner = manners[number]
        return partial(_laid_so, ids=ids, passes=passes, thinner=thinner)

    return Block(len(manners), {zone: Effect(mine) for zone, mine in touches.items()}, edit)
