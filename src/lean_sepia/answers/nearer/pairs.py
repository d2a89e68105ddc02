"""The best pairs of changes: near enough by what each does alone, then computed, then each of the best beside all that looks well."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from lean_sepia.answers.nearer.board import LEAST_GAIN, Board
from lean_sepia.answers.nearer.change import Change, Planned, together
from lean_sepia.answers.nearer.course import Effect
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.recipe.mixture_table import local_metric

MOST_PAIRS, _TRIED_PAIRS = 2, 24
_TRIED_IN_ALL, _REFINED, _BESIDE = 96, 1, 24
_PAIR_MUST_GAIN = 0.1  # ΔE00 that a pair brings beyond the better of the two


def best_pairs(planned: Planned, board: Board) -> list[tuple[float, tuple[Change, ...]]]:
    """The best pairs of changes to one zone, or to zones that share a cup, of different families.

    What two do together is first taken as the sum of what each does, ΔE00 by the ellipsoid round each target; what looks best is
    computed, and of the best of them each is tried beside all that looks well with it.
    """
    looked: dict[tuple[int, int], float] = {}
    for zone, numbers in board.touching.items():
        if len(numbers) > 1:
            looked |= _promising(planned, board, zone, numbers)
    most = max(_TRIED_PAIRS, _TRIED_IN_ALL // max(1, len(board.touching)))
    gains = _tried(planned, board, sorted(looked, key=lambda pair: -looked[pair])[:most])
    for _round in range(_REFINED):
        best = max(gains, key=lambda pair: gains[pair], default=None)
        if best is None:
            break
        beside = [pair for member in best for pair in _with_one(planned, board, member) if pair not in gains]
        more = _tried(planned, board, beside)
        gains |= more
        if max(more.values(), default=0.0) <= gains[best]:
            break
    found = [
        (gain, (board.changes[one], board.changes[other])) for (one, other), gain in gains.items()
        if gain > max(board.gains[one], board.gains[other], 0.0) + _PAIR_MUST_GAIN
    ]  # fmt: skip
    found.sort(key=lambda one: -one[0])
    kept: list[tuple[float, tuple[Change, ...]]] = []
    met: set[object] = set()
    for gain, changes in found:
        families = frozenset(change.family for change in changes)
        if families not in met and len(kept) < MOST_PAIRS:
            met.add(families)
            kept.append((gain, changes))
    return kept


def _tried(planned: Planned, board: Board, pairs: Sequence[tuple[int, int]]) -> dict[tuple[int, int], float]:
    """What pairs gain, of those of which neither would undo the other."""
    fitting = {}
    for pair in pairs:
        both = together(planned, board.changes[pair[0]], board.changes[pair[1]])
        if both is not None:
            fitting[pair] = both
    return dict(zip(fitting, _together(planned, board, fitting).tolist(), strict=True))


def _with_one(planned: Planned, board: Board, member: int) -> list[tuple[int, int]]:
    """The pairs of one change with those that look best beside it, by the sum of what each does to the zones of it."""
    gains = board.gains + board.gains[member]
    judged, change = len(planned.judged), board.changes[member]
    beside = np.zeros(len(board.changes), dtype=bool)
    for zone in change.effects.keys() & set(planned.judged):
        numbers, targets, now = board.touching[zone], planned.targets[zone], board.now[zone]
        here = int(np.searchsorted(numbers, member))
        beside[numbers] = True
        for stage, target in targets.items():
            labs = board.labs[zone][stage]
            both = delta_e00(labs + (labs[here] - now[stage]), target.lab)
            apart = delta_e00(labs, target.lab) + float(delta_e00(labs[here], target.lab))
            before = float(delta_e00(now[stage], target.lab))
            gains[numbers] += (apart - before - both) / len(targets) / judged
    gains[~beside] = -np.inf
    order = [int(number) for number in np.argsort(-gains)[:_BESIDE] if np.isfinite(gains[number])]
    families = [number for number in order if board.changes[number].family != change.family]
    return [(min(member, number), max(member, number)) for number in families]


def _promising(
    planned: Planned, board: Board, zone: str, numbers: np.ndarray
) -> dict[tuple[int, int], float]:
    """The pairs of a zone's changes that look best, with the gain of all zones they would bring if each did what it does alone."""
    gain = _estimated(planned, board, zone, numbers)
    # Not those of one family, and each pair once.
    families = {family: number for number, family in enumerate({board.changes[n].family for n in numbers})}
    kinds = np.array([families[board.changes[n].family] for n in numbers])
    order = np.arange(len(numbers))
    gain[(kinds[:, None] == kinds[None, :]) | (order[:, None] >= order[None, :])] = -np.inf
    floor = np.sort(gain.max(axis=1))[
        -min(_TRIED_PAIRS, len(numbers))
    ]  # so many rows have a pair at least as good
    rows, columns = np.nonzero(gain >= max(floor, LEAST_GAIN))
    if len(rows) > 4 * _TRIED_PAIRS:
        best = np.argpartition(-gain[rows, columns], 4 * _TRIED_PAIRS)[: 4 * _TRIED_PAIRS]
        rows, columns = rows[best], columns[best]
    pairs = zip(numbers[rows].tolist(), numbers[columns].tolist(), strict=True)
    return dict(zip(pairs, gain[rows, columns].tolist(), strict=True))


def _estimated(planned: Planned, board: Board, zone: str, numbers: np.ndarray) -> FloatArray:
    """What every two changes (n, n) of a zone would gain, by the ellipsoid round each target."""
    targets, now, judged = planned.targets[zone], board.now[zone], np.float32(len(planned.judged))
    count = len(numbers)
    after, single = np.zeros((count, count), dtype=np.float32), np.zeros(count, dtype=np.float32)
    before = 0.0
    for stage, target in targets.items():
        goal = np.asarray(target.lab)
        metric = local_metric(goal)
        start = (metric @ (now[stage] - goal)).astype(np.float32)
        steps = ((board.labs[zone][stage] - now[stage]) @ metric.T).astype(np.float32)
        ends = steps + start
        # |start + a + b|² = |start + a|² + |b|² + 2 (start + a)·b
        length = (2 * ends) @ steps.T
        length += (ends**2).sum(axis=1)[:, None]
        length += (steps**2).sum(axis=1)[None, :]
        np.maximum(length, 0, out=length)
        after += np.sqrt(length, out=length)
        single += np.linalg.norm(ends, axis=1)
        before += float(np.linalg.norm(start))
    stages = np.float32(len(targets))
    # What each does for the other zones, it does beside the other too.
    elsewhere = (board.gains[numbers] - (before - single) / stages / judged).astype(np.float32)
    gain = (np.float32(before) - after) / stages / judged
    gain += elsewhere[:, None]
    gain += elsewhere[None, :]
    return np.asarray(gain)


def _together(
    planned: Planned, board: Board, pairs: Mapping[tuple[int, int], Mapping[str, Effect]]
) -> FloatArray:
    """What pairs of changes (n, 2) gain together (n,), each with what both do to each zone."""
    gains = np.array([board.gains[one] + board.gains[other] for one, other in pairs])
    for zone in planned.judged:
        rows = [
            n for n, pair in enumerate(pairs) if all(zone in board.changes[number].effects for number in pair)
        ]
        if not rows:
            continue
        both_of = list(pairs.items())
        course, targets, now = planned.courses[zone], planned.targets[zone], board.now[zone]
        found = course.with_effects([both_of[row][1][zone] for row in rows])
        where = {int(number): place for place, number in enumerate(board.touching[zone])}
        for stage, target in targets.items():
            weight = 1 / len(targets) / len(planned.judged)
            before = float(delta_e00(now[stage], target.lab))
            both = delta_e00(np.where(np.isnan(found[stage]), now[stage], found[stage]), target.lab)
            alone = delta_e00(board.labs[zone][stage], target.lab)
            singly = np.array([alone[[where[number] for number in both_of[row][0]]].sum() for row in rows])
            gains[rows] += weight * (singly - before - both)  # in place of what each does there by itself
    return gains
