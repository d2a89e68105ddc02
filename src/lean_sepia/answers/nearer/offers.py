"""Which changes bring a finish nearer to what it aims at: all single ones and the best pairs, ranked, each as it will really come out."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from lean_sepia.answers.nearer.board import LEAST_GAIN, Board, single_changes
from lean_sepia.answers.nearer.change import Change, Planned
from lean_sepia.answers.nearer.harm import Standing
from lean_sepia.answers.nearer.outcome import Offer, as_it_comes_out
from lean_sepia.answers.nearer.pairs import MOST_PAIRS, best_pairs
from lean_sepia.colour.ciede2000 import delta_e00

Progress = Callable[[float], None]
MOST_OFFERS, _TRIED_FOR_ZONE = 10, 5


@dataclass(frozen=True)
class Found:
    """Offers, the greatest gain first; the mean over zones before; and how many single changes were tried."""

    offers: tuple[Offer, ...]
    mean: float
    tried: int


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
    chosen += best_pairs(planned, board)
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
    found = [float(planned.missed(zone, planned.courses[zone].now)) for zone in planned.judged]
    return float(np.mean(found)) if found else 0.0


def _best_of_families(board: Board) -> Iterator[int]:
    """The numbers of the best changes, one of each family, the greatest gain first."""
    met: set[object] = set()
    for number in np.argsort(-board.gains, kind="stable"):
        family = board.changes[number].family
        if board.gains[number] <= LEAST_GAIN or len(met) >= MOST_OFFERS - MOST_PAIRS:
            return
        if family not in met:
            met.add(family)
            yield int(number)
