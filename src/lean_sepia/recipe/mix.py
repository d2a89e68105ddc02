"""From a target colour to whole parts of paints on the shelf.

Every single paint, pair and triple is looked at in every proportion of up to ten parts (`mixture_table`), and the nearest
are computed exactly. Larger sets, finer parts and the triples of very large shelves are found from there by changing one
part at a time.
"""

from __future__ import annotations

from collections.abc import Sequence
from copy import copy
from dataclasses import dataclass
from math import comb

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import BoolArray, FloatArray, IntArray, triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.colour.lights import LIGHT_NAMES
from lean_sepia.colour.reflectance import estimate_reflectance
from lean_sepia.errors import ShelfError
from lean_sepia.language import _
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.paint import Knowledge, Paint, Palette
from lean_sepia.recipe.limits import NO_LIMITS, Limits, mixing_groups, sought, usable
from lean_sepia.recipe.mixture_table import (
    MixtureTable,
    Progress,
    QuickColours,
    all_sets,
    local_metric,
    no_progress,
)
from lean_sepia.recipe.normal_points import normal_points
from lean_sepia.recipe.parts import reduced, stray_drops
from lean_sepia.recipe.pool import Pool, first_of_each, joined, least, once

RANK_STEP_DE00 = 0.2
_EQUAL_DECIMALS = 6  # of ΔE00: bottles of one colour differ by less, and then the fewest are taken
_TABLE_PARTS, _TABLE_PAINTS = 10, 3
_MOST_SETS = 162_000  # all triples of 100 paints
_SHORTLIST = 64  # paints of a larger shelf whose triples are looked at
_SLACK_DE00 = {1: 8.0, 2: 3.0, 3: 1.0}
_NEAR = {1: 100, 2: 800, 3: 4000}
_RATED = 200
_BEAM, _LARGE_BEAM, _ROUNDS = 60, 24, 40
_LARGE_SHELF = 100
_SPREAD_POINTS, _Z90 = 64, 1.6448536


@dataclass(frozen=True)
class Recipe:
    """One mixture: whole parts by paint id, its predicted colour and how it behaves.

    `lights` holds the ΔE00 against the target under each light; `one_drop_de00` the worst change when one part
    too many or too few goes in; `expected_de00` the mean ΔE00 over the target's range, where it has one.
    """

    parts: tuple[tuple[str, int], ...]
    lab: tuple[float, float, float]
    de00: float
    one_drop_de00: float
    lights: dict[str, float]
    knowledge: Knowledge
    expected_de00: float | None = None

    @property
    def total_parts(self) -> int:
        """Sum of the parts."""
        return sum(count for _unused, count in self.parts)


class MixSolver:
    """Answers any number of targets for one shelf, one way of laying and one limit of parts.

    The colours of the mixtures are computed once, on the first target. With `cup_drops` a stray drop is one of so many.

    Raises
    ------
    ShelfError
        No paint is left to mix, or the limits contradict each other.
    """

    def __init__(
        self,
        paints: Sequence[Paint],
        laying: Laying = OPAQUE,
        *,
        max_paints: int = 3,
        max_parts: int = 10,
        limits: Limits = NO_LIMITS,
        cup_drops: int | None = None,
    ) -> None:
        self.palette = Palette.of(usable(paints, limits, max_paints))
        self.laying = laying
        self.max_paints = min(max_paints, len(self.palette.paints), max_parts)
        self.max_parts = max_parts
        self.cup_drops = cup_drops
        self._index = {paint.id: i for i, paint in enumerate(self.palette.paints)}
        self._must = np.array(sorted(self._index[name] for name in limits.must), dtype=np.int64)
        self._most_share = np.array([
            min(1.0, limits.stock_ml.get(paint.id, np.inf) / limits.volume_ml) if limits.volume_ml > 0 else 1.0
            for paint in self.palette.paints
        ])  # fmt: skip
        self._groups = mixing_groups(self.palette.paints)
        self._sought = sought(self.palette.paints, limits)
        self._quick: QuickColours | None = None
        self._tables: dict[int, MixtureTable] = {}

    def solve(
        self,
        target: npt.ArrayLike,
        count: int = 5,
        progress: Progress = no_progress,
        half90: npt.ArrayLike | None = None,
    ) -> list[Recipe]:
        """Best recipes for a target L*a*b* (3,), ranked; the one with the lowest ΔE00 is always among them.

        half90 : (3,) half widths of the target's 90 % intervals, where it is not known exactly

        Raises
        ------
        ShelfError
            The limits leave no mixture.
        """
        goal = np.asarray(target, dtype=float)
        pool = self.considered(goal, progress)
        return self._ranked(pool, goal, count, None if half90 is None else np.asarray(half90, dtype=float))

    def considered(self, goal: FloatArray, progress: Progress = no_progress) -> Pool:
        """The mixtures near a target L*a*b* (3,) that are looked at closely, in no order; the nearest of all is among them.

        Raises
        ------
        ShelfError
            The limits leave no mixture.
        """
        pool = self._from_tables(goal, progress)
        beyond = self.max_paints > _TABLE_PAINTS or self.max_parts > _TABLE_PARTS
        if beyond or comb(len(self.palette.paints), _TABLE_PAINTS) > _MOST_SETS:
            pool = self._improved(pool, goal, progress)
        if not len(pool.parts):
            raise ShelfError(
                _(
                    "No mixture keeps to all the limits: media that do not mix, too little left in the bottles, or more paints asked for than a recipe may have. Loosen one of them."
                )
            )
        return pool

    def recipe(
        self, parts: Sequence[tuple[str, int]], target: npt.ArrayLike, half90: npt.ArrayLike | None = None
    ) -> Recipe:
        """Judge a mixture the user chose: whole parts by paint id, against a target L*a*b* (3,).

        Raises
        ------
        ShelfError
            A paint is not on this shelf or cannot be mixed.
        """
        row = np.zeros((1, len(self.palette.paints)), dtype=np.int64)
        for name, number in parts:
            if name not in self._index:
                raise ShelfError(_("{0!r} is not a paint on this shelf that can be mixed.").format(name))
            row[0, self._index[name]] += number
        goal = np.asarray(target, dtype=float)
        return self._rated(self._exact(row, goal), goal, None if half90 is None else np.asarray(half90))[0]

    def for_cup(self, drops: int | None) -> MixSolver:
        """The same solver, with its stored mixtures, for another number of drops in the cup."""
        other = copy(self)
        other.cup_drops = drops
        return other

    def colour_of(self, paints: Sequence[int], parts: npt.ArrayLike) -> FloatArray:
        """Measured reflectance (..., 31) of parts (..., k) of the paints at these indices of the palette."""
        counts = np.asarray(parts, dtype=float)
        shares = np.zeros((*counts.shape[:-1], len(self.palette.paints)))
        shares[..., list(paints)] = counts / counts.sum(axis=-1, keepdims=True)
        return self.laying.measured(self.palette.mixture(shares))

    def _reflectance(self, parts: IntArray) -> FloatArray:
        """Measured reflectance (c, 31) of whole parts (c, n) of all paints."""
        return self.laying.measured(self.palette.mixture(parts / parts.sum(axis=1, keepdims=True)))

    def _exact(self, parts: IntArray, goal: FloatArray) -> Pool:
        labs = lab_from_reflectance(self._reflectance(parts))
        return Pool(parts, labs, delta_e00(labs, goal))

    # Every mixture of up to three paints and ten parts

    def _quick_colours(self) -> QuickColours:
        if self._quick is None:
            self._quick = QuickColours(self.palette, self.laying)
        return self._quick

    def _from_tables(self, goal: FloatArray, progress: Progress) -> Pool:
        metric = local_metric(goal)
        found: list[Pool] = []
        for size in range(1, min(self.max_paints, _TABLE_PAINTS) + 1):
            table = self._table(size, found, progress)
            rows = table.near(metric, goal, _SLACK_DE00[size], _NEAR[size])
            sets, parts = table.mixtures(rows)
            whole = np.zeros((len(rows), len(self.palette.paints)), dtype=np.int64)
            np.put_along_axis(whole, sets, parts, axis=1)
            found.append(self._exact(whole[self._allowed(whole)], goal))
        return Pool(
            np.concatenate([pool.parts for pool in found]),
            np.concatenate([pool.labs for pool in found]),
            np.concatenate([pool.de00 for pool in found]),
        )

    def _table(self, size: int, smaller: Sequence[Pool], progress: Progress) -> MixtureTable:
        """The stored table of a size, or for a very large shelf one of the paints that matter for this target."""
        if size in self._tables:
            return self._tables[size]
        n = len(self.palette.paints)
        whole = comb(n, size) <= _MOST_SETS
        among = np.arange(n) if whole else self._shortlist(smaller)
        sets = self._sets_with_all(among, size)
        same = np.all(self._groups[sets] == self._groups[sets[:, :1]], axis=1)
        most = min(self.max_parts, _TABLE_PARTS)
        fits = same & np.all(self._sought[sets], axis=1)
        table = MixtureTable.of(self._quick_colours(), sets[fits], most, progress)
        if self._most_share.min() < 1:
            table.drop_beyond(self._most_share)
        if whole:
            self._tables[size] = table
        return table

    def _sets_with_all(self, among: IntArray, size: int) -> IntArray:
        """The sets (c, size) of these paints in which everything is that must be."""
        must = len(self._must)
        if must == 0:
            return among[all_sets(len(among), size)]
        if size <= must:
            return self._must[None, :] if size == must else np.zeros((0, size), dtype=np.int64)
        others = np.setdiff1d(among, self._must)
        chosen = others[all_sets(len(others), size - must)]
        return np.sort(np.hstack([np.tile(self._must, (len(chosen), 1)), chosen]), axis=1)

    def _shortlist(self, smaller: Sequence[Pool]) -> IntArray:
        """The paints that occur in the best smaller mixtures, nearest first, and those that must be in."""
        order = np.concatenate([pool.best(len(pool.parts)).parts for pool in reversed(smaller)])
        first: dict[int, None] = dict.fromkeys(self._must.tolist())
        for row in order:
            if len(first) >= _SHORTLIST:
                break
            first |= dict.fromkeys(np.flatnonzero(row).tolist())
        return np.array(sorted(first), dtype=np.int64)

    def _allowed(self, parts: IntArray) -> BoolArray:
        """Which whole parts (c, n) keep to every limit."""
        present = parts > 0
        total = parts.sum(axis=1)
        fine = (total >= 1) & (total <= self.max_parts) & (present.sum(axis=1) <= self.max_paints)
        if self._groups.max() > 0:
            groups = np.where(present, self._groups, -1).max(axis=1)
            fine &= np.all(~present | (self._groups == groups[:, None]), axis=1)
        if not self._sought.all():
            fine &= ~present[:, ~self._sought].any(axis=1)
        if len(self._must):
            fine &= present[:, self._must].all(axis=1)
        if self._most_share.min() < 1:
            fine &= np.all(parts <= self._most_share * total[:, None] + 1e-9, axis=1)
        return np.asarray(fine)

    # More paints, finer parts

    def _improved(self, pool: Pool, goal: FloatArray, progress: Progress) -> Pool:
        """The pool with what is found by moving, adding and taking away single parts until nothing gets better."""
        beam = _BEAM if len(self.palette.paints) <= _LARGE_SHELF else _LARGE_BEAM
        seen = pool
        best = self._exact(self._multiples(pool.best(beam).parts), goal).best(beam)
        for done in range(_ROUNDS):
            progress(done / _ROUNDS)
            near = self._nearest_quickly(self._neighbours(best.parts), goal, 5 * beam)
            trial = joined(best, self._exact(near, goal))
            seen = joined(seen, trial)
            following = trial.best(beam)
            if np.array_equal(following.de00, best.de00):
                break
            best = following
        smallest = least(seen.parts)
        rows = first_of_each(smallest)
        return Pool(smallest[rows], seen.labs[rows], seen.de00[rows])

    def _multiples(self, parts: IntArray) -> IntArray:
        """The same proportions in every number of parts that the limit allows: finer steps start from there."""
        total = parts.sum(axis=1)
        rows = [parts * k for k in range(1, self.max_parts + 1)]
        fits = [total * k <= self.max_parts for k in range(1, self.max_parts + 1)]
        kept = np.concatenate([row[fit] for row, fit in zip(rows, fits, strict=True)])
        return kept if len(kept) else parts

    def _neighbours(self, parts: IntArray) -> IntArray:
        """Parts (c, n) that differ by one part added, taken away, or moved from one paint to another."""
        small = parts.astype(np.int16)  # there are tens of thousands of neighbours
        one = np.eye(parts.shape[1], dtype=np.int16)
        row, out = np.nonzero(small)
        less = small[row] - one[out]
        moved = (less[:, None] + one).reshape(-1, parts.shape[1])
        more = (small[:, None] + one).reshape(-1, parts.shape[1])
        trial = np.concatenate([less, moved, more])
        return once(trial[self._allowed(trial)])

    def _nearest_quickly(self, parts: IntArray, goal: FloatArray, count: int) -> IntArray:
        if len(parts) <= count:
            return parts
        labs = self._quick_colours().of_shares(parts / parts.sum(axis=1, keepdims=True))
        return parts[np.argpartition(delta_e00(labs, goal), count)[:count]]

    # Ranking

    def _ranked(self, pool: Pool, goal: FloatArray, count: int, half90: FloatArray | None) -> list[Recipe]:
        bottles = (pool.parts > 0).sum(axis=1)
        order = np.lexsort((pool.de00, bottles, (pool.de00 / RANK_STEP_DE00).astype(int)))
        short = order[: max(count, _RATED)]
        closest = int(np.lexsort((bottles, pool.de00.round(_EQUAL_DECIMALS)))[0])
        if closest not in short:
            short = np.append(short, closest)
        chosen = Pool(least(pool.parts[short]), pool.labs[short], pool.de00[short])
        strayed = self._one_drop(chosen)
        steps = (chosen.de00 / RANK_STEP_DE00).astype(int)
        rank = np.lexsort((strayed, bottles[short], steps))
        kept = rank[:count]
        best = int(np.lexsort((bottles[short], chosen.de00.round(_EQUAL_DECIMALS)))[0])
        if best not in kept:
            kept[-1] = best
        rows = Pool(chosen.parts[kept], chosen.labs[kept], chosen.de00[kept])
        return self._rated(rows, goal, half90, strayed[kept])

    def _one_drop(self, pool: Pool) -> FloatArray:
        """The worst ΔE00 (c,) of one drop too many or too few of any paint."""
        variants, owner = [], []
        for index, row in enumerate(pool.parts):
            present = np.flatnonzero(row)
            strayed = stray_drops(row[present], self.max_parts, self.cup_drops)
            whole = np.zeros((len(strayed), len(row)), dtype=np.int64)
            whole[:, present] = strayed
            variants.append(whole)
            owner.append(np.full(len(strayed), index))
        which = np.concatenate(owner)
        labs = lab_from_reflectance(self._reflectance(np.concatenate(variants)))
        worst = np.zeros(len(pool.parts))
        np.maximum.at(worst, which, delta_e00(labs, pool.labs[which]))
        return worst

    def _rated(
        self, pool: Pool, goal: FloatArray, half90: FloatArray | None, strayed: FloatArray | None = None
    ) -> list[Recipe]:
        if strayed is None:
            strayed = self._one_drop(pool)
        R, target_R = self._reflectance(pool.parts), estimate_reflectance(goal).reflectance
        lights = {
            light: delta_e00(lab_from_reflectance(R, light), lab_from_reflectance(target_R, light))
            for light in LIGHT_NAMES[1:]
        }
        expected = None
        if half90 is not None:
            possible = goal + normal_points(_SPREAD_POINTS) * half90 / _Z90
            expected = delta_e00(pool.labs[:, None], possible).mean(axis=1)
        answer = []
        for i, row in enumerate(pool.parts):
            paints = sorted(np.flatnonzero(row).tolist(), key=lambda paint: -int(row[paint]))
            least = reduced([int(row[paint]) for paint in paints])
            used = [self.palette.paints[paint] for paint in paints]
            answer.append(
                Recipe(
                    parts=tuple((paint.id, number) for paint, number in zip(used, least, strict=True)),
                    lab=triple(pool.labs[i]),
                    de00=float(pool.de00[i]),
                    one_drop_de00=float(strayed[i]),
                    lights={LIGHT_NAMES[0]: float(pool.de00[i])}
                    | {light: float(values[i]) for light, values in lights.items()},
                    knowledge=min(paint.knowledge for paint in used),
                    expected_de00=None if expected is None else float(expected[i]),
                )
            )
        return answer


def one_per_bottle_set(recipes: Sequence[Recipe]) -> list[Recipe]:
    """The first recipe of every set of bottles, order kept: near twins are no choice for a person."""
    first: dict[frozenset[str], Recipe] = {}
    for recipe in recipes:
        first.setdefault(frozenset(paint for paint, _unused in recipe.parts), recipe)
    return list(first.values())
