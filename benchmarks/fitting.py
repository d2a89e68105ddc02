"""What swatches teach about the user's own bottles, on simulated ones whose truth is known."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

import numpy as np

from benchmarks.simulated_bottles import (
    bottles,
    drifted,
    known_by_one_colour,
    mixes,
    random_parts,
    true_belief,
)
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.paint.fit import Swatch, fit_paints
from lean_sepia.paint.paint import Paint

Belief = Callable[[Paint], FloatArray]

SHELVES, PAINTS, HELD_OUT = range(40), 6, 60


def learned(
    true: list[Paint], shelf: list[Paint], count: int, rng: np.random.Generator, belief: Belief | None = None
) -> FloatArray:
    """ΔE00 (n,) of held-out, noise-free mixes after so many swatches."""
    test = mixes(true, random_parts(HELD_OUT, PAINTS, rng))
    if count:
        seen = mixes(true, random_parts(count, PAINTS, rng), rng)
        swatches = [
            Swatch(tuple((f"b{i}", float(n)) for i, n in enumerate(row) if n), lab=lab)
            for row, lab in zip(seen.parts, seen.labs, strict=True)
        ]
        shelf = list(fit_paints(shelf, swatches, belief).paints)
    return delta_e00(mixes(shelf, test.parts).labs, test.labs)


def _median(
    know: Callable[[Paint, np.random.Generator], Paint], count: int, belief: Belief | None = None
) -> float:
    """Over all shelves: what is left after so many swatches."""
    found = []
    for seed in SHELVES:
        rng = np.random.default_rng([seed, 71])
        true = bottles(PAINTS, rng)
        found.append(learned(true, [know(paint, rng) for paint in true], count, rng, belief))
    return float(np.median(np.concatenate(found)))


def _plain_belief(_paint: Paint) -> FloatArray:
    """The baseline: regularised least squares on three smooth factors (cosines) of K and of S for each paint."""
    waves = 0.09 * np.cos(np.pi * np.outer(np.linspace(0, 1, 31), np.arange(3)))
    nothing = np.zeros_like(waves)
    return np.stack([np.hstack([waves, nothing]), np.hstack([nothing, waves])])


def _best_possible() -> None:
    """How much of what is left is the program's: beside plain least squares, and a fit told by which curves bottles differ."""
    for nodes, words in ((4, "cubics"), (3, "parabolas"), (2, "straight lines")):
        know = partial(drifted, nodes=nodes)
        before, own, plain = _median(know, 0), _median(know, 12), _median(know, 12, _plain_belief)
        told = _median(know, 12, lambda _paint, n=nodes: true_belief(n))
        print(
            f"fit, spectra, bottles off by {words}: {before:.2f} before, {own:.2f} after 12 swatches; plain least squares "
            f"{plain:.2f}, a fit that is told these curves and how far they go {told:.2f}",
            flush=True,
        )


def main() -> bool:
    """Medians before and after, for shelves known by one colour each and by spectra."""
    reached = True
    for words, know, limits in (
        ("one colour each", known_by_one_colour, {0: 2.5, 12: 0.42, 30: 0.36}),
        ("spectra, bottles off by up to 15 %", drifted, {0: None, 12: 0.28}),
    ):
        for count, limit in limits.items():
            median = _median(know, count)
            fine = limit is None or median <= limit
            verdict = (
                "" if limit is None else f"  (at most {limit:g}: {'reached' if fine else 'NOT REACHED'})"
            )
            print(
                f"fit, shelf known by {words}: median ΔE00 of held-out mixes after {count} swatches {median:.2f}{verdict}",
                flush=True,
            )
            reached &= fine
    _best_possible()
    return reached
