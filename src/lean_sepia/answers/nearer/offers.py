"""Which changes bring a finish nearer to what it aims at: all single ones and the best pairs, ranked, each as it will really come out."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import partial
from typing import Self

import numpy as np

from lean_sepia.answers.nearer.change import Change, Edit, Planned, together
from lean_sepia.answers.nearer.course import Course, Effect
from lean_sepia.answers.nearer.harm import Standing, harms
from lean_sepia.answers.nearer.laid_more import laid_more
from lean_sepia.answers.nearer.laid_otherwise import laid_otherwise
from lean_sepia.answers.nearer.mixed_otherwise import mixed_otherwise
from lean_sepia.answers.predicting.run import ZoneCoats
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.document.model import Project
from lean_sepia.document.work import bench_minutes
from lean_sepia.errors import SepiaError
from lean_sepia.language import _
from lean_sepia.paint.paint import Knowledge
from lean_sepia.plan.traits.kind import Room
from lean_sepia.recipe.mixture_table import local_metric

Progress = Callable[[float], None]
LEAST_GAIN = 0.05  # ΔE00: what is less is no gain that anything promises
MOST_OFFERS, _MOST_PAIRS, _TRIED_PAIRS, _TRIED_FOR_ZONE = 10, 2, 24, 5
_TRIED_IN_ALL, _REFINED, _BESIDE = 96, 1, 24
_PAIR_MUST_GAIN = 0.1  # ΔE00 that a pair brings beyond the better of the two
UNSURE_SHARE = {Knowledge.SPECTRAL: 0.1, Knowledge.TWO_CONSTANT: 0.2, Knowledge.ONE_CONSTANT: 0.35}
"""By what share the move of a colour that a change promises may come out larger or smaller, by how well its paints are known."""


@dataclass(frozen=True, eq=False)
class Outcome:
    """What a document that is otherwise in some zones brings.

    zones : mean ΔE00 over the stages of each before and after; labs : of each stage before and after
    gain : by how much the mean over all zones with a target falls; moved : by how much its colours change, ΔE00
    minutes : more at the bench, less than 0 where it is less; harms : what it spoils, in words
    """

    zones: Mapping[str, tuple[float, float]]
    labs: Mapping[str, Mapping[str, tuple[FloatArray, FloatArray]]]
    gain: float
    moved: float
    minutes: float
    harms: tuple[str, ...]


@dataclass(frozen=True, eq=False)
class Offer:
    """A change, or several at once, with what it brings.

    unsure : how far the gain may come out otherwise; bottles : that are needed besides those in use
    room : where the first coat that is otherwise is worked on
    """

    words: str
    outcome: Outcome
    unsure: float
    bottles: tuple[str, ...]
    edit: Edit = field(repr=False)
    changes: int = 1
    room: Room = "match"

    @property
    def gain(self) -> float:
        """By how much the mean over all zones with a target falls, ΔE00."""
        return self.outcome.gain

    @property
    def sure(self) -> bool:
        """Whether it gains more than it may come out otherwise."""
        return self.gain > max(self.unsure, LEAST_GAIN)


@dataclass(frozen=True)
class Found:
    """Offers, the greatest gain first; the mean over zones before; and how many single changes were tried."""

    offers: tuple[Offer, ...]
    mean: float
    tried: int


@dataclass(frozen=True, eq=False)
class Board:
    """Changes tried one by one: for each zone with a target, which of them touch it and what its stages become.

    touching : by zone, the numbers (n,) of the changes that touch it; labs : by zone and stage L*a*b* (n, 3) of each of them
    now : by zone and stage L*a*b* (3,) as planned; gains : (changes,) of the mean over all zones
    """

    changes: tuple[Change, ...]
    now: Mapping[str, Mapping[str, FloatArray]]
    touching: Mapping[str, np.ndarray]
    labs: Mapping[str, Mapping[str, FloatArray]]
    gains: FloatArray

    @classmethod
    def of(cls, planned: Planned, changes: Sequence[Change]) -> Self:
        """Try all of them."""
        judged = planned.judged
        gains = np.zeros(len(changes))
        touching, labs, nows = {}, {}, {}
        for zone in judged:
            course, targets = planned.courses[zone], planned.targets[zone]
            now = nows[zone] = course.now
            numbers = np.array(
                [n for n, change in enumerate(changes) if zone in change.effects], dtype=np.int64
            )
            found = course.with_effects([changes[number].effects[zone] for number in numbers])
            labs[zone] = {
                stage: np.where(np.isnan(found[stage]), now[stage], found[stage]) for stage in targets
            }
            touching[zone] = numbers
            before = np.mean([float(delta_e00(now[stage], target.lab)) for stage, target in targets.items()])
            if len(numbers):
                after = np.mean(
                    [delta_e00(labs[zone][stage], target.lab) for stage, target in targets.items()], axis=0
                )
                gains[numbers] += (before - after) / len(judged)
        return cls(tuple(changes), nows, touching, labs, gains)


def single_changes(planned: Planned) -> list[Change]:
    """Everything a hand could do otherwise, one thing at a time."""
    return [*laid_otherwise(planned), *mixed_otherwise(planned), *laid_more(planned)]


def offers_for(planned: Planned, progress: Progress | None = None) -> Found:
    """What would bring the zones that are looked at nearer, judged on all zones and stages at once."""
    tell = progress or (lambda _share: None)
    judged = planned.judged
    mean = mean_miss(planned)
    if not judged:
        return Found((), 0.0, 0)
    board = Board.of(planned, single_changes(planned))
    tell(0.4)
    chosen: list[tuple[float, tuple[Change, ...]]] = [
        (float(board.gains[number]), (board.changes[number],)) for number in _best_of_families(board)
    ]
    tell(0.5)
    chosen += _pairs(planned, board)
    tell(0.8)
    chosen.sort(key=lambda one: -one[0])
    standing = Standing.of(planned)
    offers = []
    for _gain, changes in chosen:
        offer = as_it_comes_out(planned, changes, standing)
        if offer is not None and offer.gain > LEAST_GAIN:
            offers.append(offer)
    tell(1.0)
    offers.sort(key=lambda offer: -offer.gain)
    return Found(tuple(offers), mean, len(board.changes))


def best_by_zone(planned: Planned) -> dict[str, Offer]:
    """The single change that brings most, for each zone that is further off than its targets leave open; none where nothing surely does."""
    board = Board.of(planned, single_changes(planned))
    standing, best = Standing.of(planned), {}
    for zone in planned.judged:
        numbers = board.touching[zone]
        if not len(numbers) or _inside(planned, zone):
            continue
        for number in numbers[np.argsort(-board.gains[numbers])][:_TRIED_FOR_ZONE]:
            offer = as_it_comes_out(planned, [board.changes[number]], standing)
            if offer is not None and offer.sure and not offer.outcome.harms:
                best[zone] = offer
                break
    return best


def _inside(planned: Planned, zone: str) -> bool:
    """Whether every stage of a zone is as near to its target as that is known."""
    now = planned.courses[zone].now
    return all(
        target.de00_90 is not None and float(delta_e00(now[stage], target.lab)) <= target.de00_90
        for stage, target in planned.targets[zone].items()
    )


def mean_miss(planned: Planned) -> float:
    """The mean over zones with a target of the mean ΔE00 over their stages."""
    found = []
    for zone in planned.judged:
        now = planned.courses[zone].now
        found.append(np.mean([float(delta_e00(now[s], t.lab)) for s, t in planned.targets[zone].items()]))
    return float(np.mean(found)) if found else 0.0


def _best_of_families(board: Board) -> Iterator[int]:
    """The numbers of the best changes, one of each family, the greatest gain first."""
    met: set[object] = set()
    for number in np.argsort(-board.gains, kind="stable"):
        family = board.changes[number].family
        if board.gains[number] <= LEAST_GAIN or len(met) >= MOST_OFFERS - _MOST_PAIRS:
            return
        if family not in met:
            met.add(family)
            yield int(number)


def _pairs(planned: Planned, board: Board) -> list[tuple[float, tuple[Change, ...]]]:
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
        if families not in met and len(kept) < _MOST_PAIRS:
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
    targets, now = planned.targets[zone], board.now[zone]
    count = len(numbers)
    after = np.zeros((count, count), dtype=np.float32)
    single = np.zeros(count, dtype=np.float32)
    for stage, target in targets.items():
        metric = local_metric(np.asarray(target.lab))
        start = (metric @ (now[stage] - np.asarray(target.lab))).astype(np.float32)
        steps = ((board.labs[zone][stage] - now[stage]) @ metric.T).astype(np.float32)
        ends = steps + start
        square = (ends**2).sum(axis=1)
        moved = (steps**2).sum(axis=1)
        # |start + a + b|² = |start + a|² + |b|² + 2 (start + a)·b
        length = (2 * ends) @ steps.T
        length += square[:, None]
        length += moved[None, :]
        np.maximum(length, 0, out=length)
        after += np.sqrt(length, out=length)
        single += np.linalg.norm(ends, axis=1)
    after /= len(targets)
    single /= len(targets)
    before = np.mean(
        [
            np.linalg.norm(local_metric(np.asarray(t.lab)) @ (now[s] - np.asarray(t.lab)))
            for s, t in targets.items()
        ]
    )
    judged = len(planned.judged)
    elsewhere = (board.gains[numbers] - (before - single) / judged).astype(
        np.float32
    )  # what each does for the other zones
    gain = np.float32(before / judged) - after / np.float32(judged)
    gain += elsewhere[:, None]
    gain += elsewhere[None, :]
    families = {family: number for number, family in enumerate({board.changes[n].family for n in numbers})}
    kinds = np.array([families[board.changes[n].family] for n in numbers])
    gain[kinds[:, None] == kinds[None, :]] = -np.inf
    order = np.arange(count)
    gain[order[:, None] >= order[None, :]] = -np.inf
    floor = np.sort(gain.max(axis=1))[
        -min(_TRIED_PAIRS, count)
    ]  # every row has one at least as good as its own best
    rows, columns = np.nonzero(gain >= max(floor, LEAST_GAIN))
    if len(rows) > 4 * _TRIED_PAIRS:
        best = np.argpartition(-gain[rows, columns], 4 * _TRIED_PAIRS)[: 4 * _TRIED_PAIRS]
        rows, columns = rows[best], columns[best]
    found = {}
    for row, column in zip(rows, columns, strict=True):
        if np.isfinite(gain[row, column]):
            found[int(numbers[row]), int(numbers[column])] = float(gain[row, column])
    return found


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


def as_it_comes_out(planned: Planned, changes: Sequence[Change], standing: Standing) -> Offer | None:
    """An offer of changes, by the document as it is with them; None where it cannot be so."""
    project = planned.project
    try:
        for change in changes:
            project = change.edit(project)
    except SepiaError:
        return None
    touched = sorted({zone for change in changes for zone in change.effects})
    outcome = outcome_of(planned, project, touched, standing)
    known = min(change.known for change in changes)
    return Offer(
        _("; ").join(change.words for change in changes), outcome, UNSURE_SHARE[known] * outcome.moved,
        tuple(dict.fromkeys(name for change in changes for name in change.bottles)), partial(all_of, edits=[c.edit for c in changes]),
        len(changes), _room_of(planned, changes[0]),
    )  # fmt: skip


def all_of(project: Project, edits: Sequence[Edit]) -> Project:
    """Several edits as one."""
    for edit in edits:
        project = edit(project)
    return project


def _room_of(planned: Planned, change: Change) -> Room:
    """Where the first coat that a change touches or adds is worked on."""
    for zone, effect in change.effects.items():
        coats = [coat for coat, _coating in planned.laid(zone) if coat.id in effect.touches]
        coats += [coat for _after, (coat, _coating) in effect.added]
        for coat in coats:
            if coat.nature.room != "plan":
                return coat.nature.room
    return "match"


def outcome_of(planned: Planned, project: Project, touched: Sequence[str], standing: Standing) -> Outcome:
    """What a document that is otherwise in some zones brings, beside the one that is planned."""
    zones, labs, moved, gain, judged = {}, {}, 0.0, 0.0, max(1, len(planned.judged))
    stages = {zone: Course(ZoneCoats.of(project, zone)).now for zone in touched}
    for zone, then in stages.items():
        targets, now = planned.targets[zone], planned.courses[zone].now
        if not targets:
            continue
        labs[zone] = {stage: (now[stage], then.get(stage, now[stage])) for stage in targets}
        goals = np.array([target.lab for target in targets.values()])
        first, last = (np.array([pair[n] for pair in labs[zone].values()]) for n in (0, 1))
        before, after = float(delta_e00(first, goals).mean()), float(delta_e00(last, goals).mean())
        zones[zone] = before, after
        gain += (before - after) / judged
        moved += float(delta_e00(first, last).mean()) / judged
    taken = bench_minutes(project, standing.minutes)
    minutes = sum(m for _coats, m in taken.values()) - sum(m for _coats, m in standing.minutes.values())
    return Outcome(zones, labs, gain, moved, minutes, harms(planned, project, stages, standing, zones))
