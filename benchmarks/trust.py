"""How often predicted mixtures come out within their stated radius, and how well two constants predict."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from benchmarks.simulated_bottles import (
    bottles,
    drifted,
    known_by_a_tint,
    known_by_one_colour,
    mixes,
    random_parts,
)
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.paint.paint import Paint
from lean_sepia.paint.trust import predict

SHELVES, MIXES = range(60), 12
LEVELS = ("spectral", "two-constant", "one-constant")


def shelf_of(level: str, true: list[Paint], rng: np.random.Generator) -> list[Paint]:
    """What the shelf says of bottles measured with noise at a level of knowledge."""
    if level == "spectral":
        return true
    if level == "one-constant":
        return [known_by_one_colour(paint, rng) for paint in true]
    return [true[0], *(known_by_a_tint(paint, true[0], true[0], rng) for paint in true[1:])]


def rows(level: str, seeds: Iterable[int]) -> FloatArray:
    """ΔE00 and stated radius (n, 2) of mixtures of bottles that differ from what was measured by up to 15 %."""
    answer = []
    for seed in seeds:
        rng = np.random.default_rng([seed, 90])
        measured = bottles(6, rng)
        shelf = shelf_of(level, measured, rng)
        own = [drifted(paint, rng) for paint in measured]
        for parts, lab in zip(*_mixed(own, rng), strict=True):
            used = np.flatnonzero(parts)
            found = predict([shelf[i] for i in used], parts[used])
            answer.append((float(delta_e00(found.lab, lab)), found.de00_90))
    return np.array(answer)


def _mixed(own: list[Paint], rng: np.random.Generator):
    made = mixes(own, random_parts(MIXES, len(own), rng))
    return made.parts, made.labs


def main() -> bool:
    """Radii at three levels of knowledge, and the two-constant prediction where the bottle is the measured one."""
    reached = True
    for level in LEVELS:
        miss, radius = rows(level, SHELVES).T
        held = float(np.mean(miss <= radius))
        fine = 0.85 <= held <= 0.95
        print(
            f"prediction, {level}: {held:.1%} within the stated radius (85–95 %: {'reached' if fine else 'NOT REACHED'})  "
            f"[median radius {np.median(radius):.2f}, median ΔE00 {np.median(miss):.2f}]",
            flush=True,
        )
        reached &= fine
    found = []
    for seed in SHELVES:
        rng = np.random.default_rng([seed, 91])
        true = bottles(6, rng)
        shelf = [true[0], *(known_by_a_tint(paint, true[0], true[0]) for paint in true[1:])]
        test = random_parts(MIXES, 6, rng)
        found.append(delta_e00(mixes(shelf, test).labs, mixes(true, test).labs))
    median = float(np.median(np.concatenate(found)))
    print(
        f"prediction from the L*a*b* of masstone and tint (1 : 4 white): median ΔE00 {median:.2f}  "
        f"(below 1: {'reached' if median < 1 else 'NOT REACHED'})",
        flush=True,
    )
    return reached and median < 1
