"""From a target colour to whole parts of paints on the shelf.

Every single paint, pair and triple is tried in every proportion of up to ten parts, and the most promising
sets again in as many parts as asked for. Larger sets, and triples of very large shelves, are grown from the
best smaller ones.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import comb

import numpy as np
import numpy.typing as npt

from lean_sepia.arrays import FloatArray, IntArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance, lab_from_xyz
from lean_sepia.colour.lights import LIGHT_NAMES, weights
from lean_sepia.colour.reflectance import estimate_reflectance
from lean_sepia.errors import ShelfError
from lean_sepia.paint.laying import OPAQUE, Laying
from lean_sepia.paint.paint import Knowledge, Paint, Palette, media_mix
from lean_sepia.recipe.parts import proportions, reduced, stray_drops

RANK_STEP_DE00 = 0.2
_COARSE_PARTS = 10
_MOST_SETS = 40_000  # all triples of 62 paints
_GROWN_FROM = 60
_REFINED_SETS = 40
_KEPT = 600
_CHUNK_VALUES = 4_000_000


@dataclass(frozen=True)
class Recipe:
    """One mixture: whole parts by paint id, its predicted colour and how it behaves.

    `lights` holds the ΔE00 against the target under each light; `one_drop_de00` the worst change when one part
    too many or too few goes in.
    """

    parts: tuple[tuple[str, int], ...]
    lab: tuple[float, float, float]
    de00: float
    one_drop_de00: float
    lights: dict[str, float]
    knowledge: Knowledge

    @property
    def total_parts(self) -> int:
        """Sum of the parts."""
        return sum(count for _, count in self.parts)


@dataclass(frozen=True, eq=False)
class _Batch:
    """Candidates of one set size: paint indices (c, k), proportions (m, k) and colours (c, m, 3)."""

    sets: IntArray
    parts: IntArray
    labs: FloatArray


@dataclass(frozen=True)
class _Candidate:
    paints: tuple[int, ...]
    parts: tuple[int, ...]
    de00: float

    @property
    def rank_step(self) -> int:
        return int(self.de00 / RANK_STEP_DE00)


def _no_progress(_share: float) -> None:
    return


class MixSolver:
    """Answers any number of targets for one shelf, one way of laying and one limit of parts.

    The colours of all coarse mixtures are computed once, on the first target.
    """

    def __init__(
        self, paints: Sequence[Paint], laying: Laying = OPAQUE, *, max_paints: int = 3, max_parts: int = 10
    ) -> None:
        usable = [paint for paint in paints if paint.mixes]
        if not usable:
            raise ShelfError(
                "No paint on this shelf can be mixed: metallics, loose pigment and pastel are laid alone. "
                "Add at least one flat, satin or gloss paint."
            )
        self.palette = Palette.of(usable)
        self.laying = laying
        self.max_paints = min(max_paints, len(usable), max_parts)
        self.max_parts = max_parts
        self._tables: dict[int, _Batch] = {}
        media = [paint.medium for paint in usable]
        self._mixable = np.array([[media_mix(one, other) for other in media] for one in media])

    def solve(
        self, target: npt.ArrayLike, count: int = 5, progress: Callable[[float], None] = _no_progress
    ) -> list[Recipe]:
        """Best recipes for a target L*a*b* (3,), ranked; the one with the lowest ΔE00 is always among them."""
        goal = np.asarray(target, dtype=float)
        found: dict[tuple[tuple[int, ...], tuple[int, ...]], _Candidate] = {}
        best_sets: list[tuple[int, ...]] = []
        for size in range(1, self.max_paints + 1):
            batch = self._coarse(size, best_sets, progress)
            candidates = self._best_of(batch, goal)
            best_sets = list(dict.fromkeys(c.paints for c in candidates))[:_GROWN_FROM]
            if self.max_parts > _COARSE_PARTS and best_sets:
                sets = np.array(best_sets[:_REFINED_SETS], dtype=np.int64)
                fine = self._evaluate(sets, proportions(size, self.max_parts), _no_progress)
                candidates += self._best_of(fine, goal)
            found |= {(c.paints, c.parts): c for c in candidates}
        return self._ranked(list(found.values()), goal, count)

    def _coarse(self, size: int, smaller: list[tuple[int, ...]], progress: Callable[[float], None]) -> _Batch:
        limit = min(self.max_parts, _COARSE_PARTS)
        n = len(self.palette.paints)
        if comb(n, size) > _MOST_SETS or size > 3:
            grown = {tuple(sorted((*old, new))) for old in smaller for new in range(n) if new not in old}
            sets = self._that_mix(np.array(sorted(grown), dtype=np.int64).reshape(-1, size))
            return self._evaluate(sets, proportions(size, limit), progress)
        if size not in self._tables:
            sets = self._that_mix(np.array(list(combinations(range(n), size)), dtype=np.int64))
            self._tables[size] = self._evaluate(sets, proportions(size, limit), progress)
        return self._tables[size]

    def _that_mix(self, sets: IntArray) -> IntArray:
        """The sets (c, k) all of whose paints have media that can be stirred together."""
        keep = np.ones(len(sets), dtype=bool)
        for one, other in combinations(range(sets.shape[1]), 2):
            keep &= self._mixable[sets[:, one], sets[:, other]]
        return sets[keep]

    def _evaluate(self, sets: IntArray, parts: IntArray, progress: Callable[[float], None]) -> _Batch:
        """Colours of every set in every proportion, in single precision: winners are computed again."""
        K, S, g = (values.astype(np.float32) for values in (self.palette.K, self.palette.S, self.palette.g))
        shares = (parts / parts.sum(axis=1, keepdims=True)).astype(np.float32)
        to_xyz = weights().astype(np.float32)
        labs = np.empty((len(sets), len(parts), 3), dtype=np.float32)
        step = max(1, _CHUNK_VALUES // (len(parts) * K.shape[1]))
        for start in range(0, len(sets), step):
            chunk = sets[start : start + step]
            measured = self.laying.measured(shares @ K[chunk], shares @ S[chunk], g[chunk] @ shares.T)
            labs[start : start + step] = lab_from_xyz(measured @ to_xyz)
            progress(min(1.0, (start + step) / len(sets)))
        return _Batch(sets, parts, labs)

    @staticmethod
    def _best_of(batch: _Batch, goal: FloatArray) -> list[_Candidate]:
        if not len(batch.sets):
            return []
        labs = batch.labs.reshape(-1, 3)
        # ΔE00 costs ten times ΔE*ab; the best by the one lie well inside the nearest tenth by the other.
        keep = min(len(labs), max(20 * _KEPT, len(labs) // 10))
        rough = ((labs - goal.astype(np.float32)) ** 2).sum(axis=1)
        near = np.argpartition(rough, keep - 1)[:keep]
        de00 = delta_e00(labs[near], goal)
        order = np.argsort(de00, kind="stable")[:_KEPT]
        index, proportion = np.divmod(near[order], len(batch.parts))
        return [
            _Candidate(tuple(batch.sets[i].tolist()), tuple(batch.parts[p].tolist()), float(d))
            for i, p, d in zip(index, proportion, de00[order], strict=True)
        ]

    def colour_of(self, paints: Sequence[int], parts: npt.ArrayLike) -> FloatArray:
        """Measured reflectance (..., 31) of parts (..., k) of the paints at these indices of the palette."""
        counts = np.asarray(parts, dtype=float)
        shares = np.zeros((*counts.shape[:-1], len(self.palette.paints)))
        shares[..., list(paints)] = counts / counts.sum(axis=-1, keepdims=True)
        return self.laying.measured(*self.palette.mixture(shares))

    def _ranked(self, candidates: list[_Candidate], goal: FloatArray, count: int) -> list[Recipe]:
        candidates.sort(key=lambda c: (c.rank_step, len(c.paints), c.de00))
        closest = min(candidates, key=lambda c: c.de00)
        short = candidates[: max(count, 200)]
        if closest not in short:
            short.append(closest)
        target_R = estimate_reflectance(goal).reflectance
        rated = [self._recipe(candidate, goal, target_R) for candidate in short]
        rated.sort(key=lambda r: (int(r.de00 / RANK_STEP_DE00), len(r.parts), r.one_drop_de00))
        best = min(rated, key=lambda r: r.de00)
        answer = rated[:count]
        if best not in answer:
            answer[-1] = best
        return answer

    def recipe(self, parts: Sequence[tuple[str, int]], target: npt.ArrayLike) -> Recipe:
        """Judge a mixture the user chose: whole parts by paint id, against a target L*a*b* (3,).

        Raises
        ------
        ShelfError
            A paint is not on this shelf or cannot be mixed.
        """
        ids = [paint.id for paint in self.palette.paints]
        unknown = [name for name, _ in parts if name not in ids]
        if unknown:
            raise ShelfError(f"{unknown[0]!r} is not a paint on this shelf that can be mixed.")
        goal = np.asarray(target, dtype=float)
        candidate = _Candidate(tuple(ids.index(name) for name, _ in parts), tuple(n for _, n in parts), 0.0)
        return self._recipe(candidate, goal, estimate_reflectance(goal).reflectance)

    def _recipe(self, candidate: _Candidate, goal: FloatArray, target_R: FloatArray) -> Recipe:
        parts = reduced(candidate.parts)
        R = self.colour_of(candidate.paints, parts)
        lab = lab_from_reflectance(R)
        strayed = self.colour_of(candidate.paints, stray_drops(parts, self.max_parts))
        lights = {
            light: float(delta_e00(lab_from_reflectance(R, light), lab_from_reflectance(target_R, light)))
            for light in LIGHT_NAMES[1:]
        }
        de00 = float(delta_e00(lab, goal))
        paints = [self.palette.paints[i] for i in candidate.paints]
        by_amount = sorted(zip(paints, parts, strict=True), key=lambda pair: -pair[1])
        return Recipe(
            parts=tuple((paint.id, count) for paint, count in by_amount),
            lab=(float(lab[0]), float(lab[1]), float(lab[2])),
            de00=de00,
            one_drop_de00=float(delta_e00(lab_from_reflectance(strayed), lab).max()),
            lights={LIGHT_NAMES[0]: de00, **lights},
            knowledge=min(paint.knowledge for paint in paints),
        )


def one_per_bottle_set(recipes: Sequence[Recipe]) -> list[Recipe]:
    """The first recipe of every set of bottles, order kept: near twins are no choice for a person."""
    first: dict[frozenset[str], Recipe] = {}
    for recipe in recipes:
        first.setdefault(frozenset(paint for paint, _ in recipe.parts), recipe)
    return list(first.values())
