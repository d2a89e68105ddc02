"""Mixes made otherwise: a part more or less of what is in them or of another bottle, another lightener, another tint."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import partial

import numpy as np

from lean_sepia.answers.glazing.grounds import tint_paints
from lean_sepia.answers.nearer.change import Change, Planned
from lean_sepia.answers.nearer.course import Effect, Touch
from lean_sepia.arrays import FloatArray
from lean_sepia.document.edits.items import put
from lean_sepia.document.edits.mixes import without_unused
from lean_sepia.document.entities.mixed import Recipe
from lean_sepia.document.model import Project
from lean_sepia.document.versions import from_cup, with_versions
from lean_sepia.language import _
from lean_sepia.paint.media import media_mix
from lean_sepia.paint.paint import Paint
from lean_sepia.recipe.parts import reduced

_LEAST_PARTS, MOST_PARTS = 8, 24
"""A mix is counted in so many parts at least, so that one of them is a small change; and in no more than a hand counts."""


def mixed_otherwise(planned: Planned) -> Iterator[Change]:
    """Every mix of the zones that are looked at which may still be changed."""
    recipes = dict.fromkeys(coat.recipe for coat, _coating in planned.free_laid if coat.recipe)
    made_from = {cup: None for recipe in recipes if recipe for cup, _n in planned.project.recipe(recipe).cups}
    for recipe in dict.fromkeys([*recipes, *made_from]):
        if recipe and planned.may_mix(recipe):
            mix = _Mixed.of(planned, recipe)
            yield from _changes(planned, mix, [*_parts(planned, mix), *_another(planned, mix)])


Entry = tuple[str, str, FloatArray]
"""Something that goes into a mix: "cup", "version" or "bottle", its id, and its shares of single paints."""


@dataclass(frozen=True, eq=False)
class _Mixed:
    """A mix in parts fine enough to count one more or less: what goes in, by what the document knows it, and its parts.

    tint : whether it is laid as nothing but tints; others : bottles that could be stirred in, none into primer, marks and dust, which
        are of the colour they are of
    """

    recipe: Recipe
    entries: tuple[Entry, ...]
    counts: tuple[int, ...]
    tint: bool
    others: tuple[Paint, ...]

    @classmethod
    def of(cls, planned: Planned, recipe_id: str) -> _Mixed:
        recipe, cups = planned.project.recipe(recipe_id), planned.cups
        entries = [("cup", cup, cups.share_of(cup)) for cup, _count in recipe.cups]
        entries += [("version", version, cups.single(version)) for version, _count in recipe.parts]
        counts = [count for _name, count in (*recipe.cups, *recipe.parts)]
        whole = sum(reduced(counts))
        times = max(1, math.ceil(_LEAST_PARTS / whole))
        finer = [count * times for count in reduced(counts)]
        laid = planned.with_cup(recipe_id)
        tint = all(coating.covers == "tint" for _coat, coating in laid)
        colours = tint or any(coat.nature.is_paint and not coat.nature.is_primer for coat, _coating in laid)
        inside = {planned.project.paint(version).shelf_id for version, _count in recipe.parts}
        others = (
            planned.stirs(_media(planned, entries), inside, {coat.tool for coat, _coating in laid})
            if colours
            else ()
        )
        return cls(recipe, tuple(entries), tuple(finer if sum(finer) <= MOST_PARTS else counts), tint, others)


@dataclass(frozen=True, eq=False)
class _Row:
    """A mix in other parts: what is kept in it, what is said of it, what it is one of, and a bottle that is new to it."""

    kept: tuple[tuple[Entry, int], ...]
    said: Callable[[], str]
    family: tuple[object, ...]
    new: Paint | None = None


def _row(
    entries: Sequence[Entry],
    counts: Sequence[int],
    said: Callable[[], str],
    family: tuple[object, ...],
    new: Paint | None = None,
) -> Iterator[_Row]:
    kept = tuple((entry, count) for entry, count in zip(entries, counts, strict=True) if count > 0)
    if kept and not all(kind == "cup" for (kind, _name, _shares), _count in kept):
        yield _Row(kept, said, family, new)


def _parts(planned: Planned, mix: _Mixed) -> Iterator[_Row]:
    """One part more or less of each, and one of every other bottle that goes into it."""
    for number, (kind, name, _shares) in enumerate(mix.entries):
        for step in (1, -1):
            counts = list(mix.counts)
            counts[number] += step
            if len(counts) > 1 and sum(counts) <= MOST_PARTS and any(counts):
                said = partial(_part_words, planned, kind, name, step)
                yield from _row(mix.entries, counts, said, ("parts", mix.recipe.id, name, step))
    if mix.tint or planned.project.owns.cans_only or sum(mix.counts) + 1 > MOST_PARTS:
        return
    for paint in mix.others:
        entries = (*mix.entries, ("bottle", paint.id, planned.cups.bottle(paint.id)))
        said = partial(_("a part of {0} with it").format, paint.name)
        yield from _row(entries, (*mix.counts, 1), said, ("part of", mix.recipe.id), paint)


def _another(planned: Planned, mix: _Mixed) -> Iterator[_Row]:
    """Another lightener in place of each of a fade's, another tint in place of a tint's."""
    if not mix.recipe.cups and not mix.tint:
        return
    candidates = tint_paints(planned.shelf) if mix.tint else mix.others
    for number, (kind, name, _shares) in enumerate(mix.entries):
        if kind == "cup":
            continue
        old = planned.project.paint(name)
        media = _media(planned, [entry for other, entry in enumerate(mix.entries) if other != number])
        for paint in candidates:
            if paint.id not in planned.cups.others or paint.id == old.shelf_id:
                continue
            if not all(media_mix(paint.medium, medium) for medium in media):
                continue
            entries = list(mix.entries)
            entries[number] = ("bottle", paint.id, planned.cups.bottle(paint.id))
            said = partial(_("{0} in place of {1}").format, paint.name, old.name)
            yield from _row(entries, mix.counts, said, ("in place of", mix.recipe.id, name), paint)


def _media(planned: Planned, entries: Sequence[Entry]) -> set[str]:
    return set().union(*(planned.cups.media(shares) for _kind, _name, shares in entries))


def _part_words(planned: Planned, kind: str, name: str, step: int) -> str:
    words = _("a part more of {0}") if step > 0 else _("a part less of {0}")
    if kind == "cup":
        return words.format(from_cup(planned.project.recipe(name)))
    return words.format(planned.project.paint(name).name)


def _changes(planned: Planned, mix: _Mixed, rows: Sequence[_Row]) -> Iterator[Change]:
    """The changes of one mix, all computed at once."""
    if not rows:
        return
    cups, laid = planned.cups, planned.with_cup(mix.recipe.id)
    shares = np.array([
        sum(count * row for (_kind, _name, row), count in one.kept) / sum(count for _entry, count in one.kept) for one in rows
    ])  # fmt: skip
    bodies = {
        name: cups.each_matter(own * shares + rest)
        for name, (own, rest) in cups.followers(mix.recipe.id).items()
    }
    known = cups.each_known(shares)
    used = {version.shelf_id for version in planned.project.paints}
    for number, one in enumerate(rows):
        touches: dict[str, dict[str, Touch]] = {}
        for coat, _coating in laid:
            touches.setdefault(coat.zone, {})[coat.id] = Touch(body=bodies[coat.recipe or ""][number])
        parts = tuple((kind, name, count) for (kind, name, _shares), count in one.kept)
        new = one.new
        yield Change(
            partial(_words, mix.recipe.name, one.said, [count for _entry, count in one.kept]), one.family,
            {zone: Effect(mine) for zone, mine in touches.items()},
            partial(with_parts, recipe_id=mix.recipe.id, parts=parts, bottles=(new,) if new else ()),
            bottles=(new.name,) if new is not None and new.id not in used else (), known=known[number],
            mix=(mix.recipe.id, shares[number]), draws=_draws(one, shares[number]),
        )  # fmt: skip


def _draws(row: _Row, shares: FloatArray) -> tuple[str, float, FloatArray] | None:
    """The cup that a mix is made from, its share, and all shares; None of what is made of bottles alone."""
    whole = sum(count for _entry, count in row.kept)
    return next(
        ((name, count / whole, shares) for (kind, name, _s), count in row.kept if kind == "cup"), None
    )


def _words(name: str, said: Callable[[], str], counts: Sequence[int]) -> str:
    numbers = " : ".join(map(str, reduced(list(counts))))
    return _("{0}: {1}").format(name, said()) + (f" ({numbers})" if len(counts) > 1 else "")


def with_parts(
    project: Project, recipe_id: str, parts: Sequence[tuple[str, str, int]], bottles: Sequence[Paint]
) -> Project:
    """A mix in other parts of cups, of versions there are and of bottles that are new to it."""
    project, versions = with_versions(project, bottles)
    least = reduced([count for _kind, _name, count in parts])
    found: dict[str, dict[str, int]] = {"cup": {}, "version": {}}
    for (kind, name, _count), count in zip(parts, least, strict=True):
        into = found["cup" if kind == "cup" else "version"]
        key = versions[name] if kind == "bottle" else name
        into[key] = into.get(key, 0) + count
    recipe = project.recipe(recipe_id).model_copy(
        update={"cups": tuple(found["cup"].items()), "parts": tuple(found["version"].items())}
    )
    return without_unused(put(project, "recipes", Recipe.model_validate(recipe.model_dump())))
