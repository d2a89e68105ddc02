"""What swatches teach about the user's own bottles, on simulated ones whose truth is known."""

from __future__ import annotations

import numpy as np

from benchmarks.simulated_bottles import bottles, drifted, known_by_one_colour, mixes, random_parts
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.paint.fit import Swatch, fit_paints
from lean_sepia.paint.paint import Paint

SHELVES, PAINTS, HELD_OUT = range(40), 6, 60


def learned(true: list[Paint], shelf: list[Paint], count: int, rng: np.random.Generator) -> FloatArray:
    """ΔE00 (n,) of held-out, noise-free mixes after so many swatches."""
    test = mixes(true, random_parts(HELD_OUT, PAINTS, rng))
    if count:
        seen = mixes(true, random_parts(count, PAINTS, rng), rng)
        swatches = [
            Swatch(tuple((f"b{i}", float(n)) for i, n in enumerate(row) if n), lab=lab)
            for row, lab in zip(seen.parts, seen.labs, strict=True)
        ]
        shelf = list(fit_paints(shelf, swatches).paints)
    return delta_e00(mixes(shelf, test.parts).labs, test.labs)


def main() -> bool:
    """Medians before and after, for shelves known by one colour each and by spectra."""
    reached = True
    for words, know, limits in (
        ("one colour each", known_by_one_colour, {0: 2.5, 12: 0.42, 30: 0.36}),
        ("spectra, bottles off by up to 15 %", drifted, {0: None, 12: 0.28}),
    ):
        for count, limit in limits.items():
            found = []
            for seed in SHELVES:
                rng = np.random.default_rng([seed, 71])
                true = bottles(PAINTS, rng)
                found.append(learned(true, [know(paint, rng) for paint in true], count, rng))
            median = float(np.median(np.concatenate(found)))
            fine = limit is None or median <= limit
            verdict = (
                "" if limit is None else f"  (at most {limit:g}: {'reached' if fine else 'NOT REACHED'})"
            )
            print(
                f"fit, shelf known by {words}: median ΔE00 of held-out mixes after {count} swatches {median:.2f}{verdict}",
                flush=True,
            )
            reached &= fine
    return reached
