"""Fades with one or two lighteners as the films that are laid, against looking through every pair in every proportion to 12 parts.

Random grounds and goals, one to four mists of 70 to 90 % thinner, 60 invented paints.
"""

from __future__ import annotations

import time

import numpy as np

from benchmarks.figure import report
from benchmarks.invented_paints import invented_paints
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.demo.shelf import demo_shelf
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.paint import Palette, stirred
from lean_sepia.paint.stack import Coating, Opaque, Stack
from lean_sepia.recipe.fades.fade import choose_lighteners
from lean_sepia.recipe.parts import proportions

_CASES, _PAINTS, _PARTS = 100, 60, 12


def _exhaustive(palette: Palette, laying, goal) -> float:  # type: ignore[no-untyped-def]
    """The least ΔE00 of the base with any one or two of the paints, in every proportion; the base is the first."""
    least = np.inf
    three, two = proportions(3, _PARTS), proportions(2, _PARTS)
    shares, single = three / three.sum(axis=1, keepdims=True), two / two.sum(axis=1, keepdims=True)
    count = len(palette.paints)
    for first in range(1, count):
        rows = np.zeros((len(single), count))
        rows[:, 0], rows[:, first] = single.T
        least = min(least, float(delta_e00(laying.lab(palette.mixture(rows)), goal).min()))
        for second in range(first + 1, count):
            rows = np.zeros((len(shares), count))
            rows[:, 0], rows[:, first], rows[:, second] = shares.T
            least = min(least, float(delta_e00(laying.lab(palette.mixture(rows)), goal).min()))
    return least


def main(cases: int = _CASES) -> bool:
    """Within 0.1 ΔE00 of the exhaustive optimum, in at most a tenth of its time."""
    rng = np.random.default_rng(12)
    paints = invented_paints(_PAINTS, rng)
    excess, of_way, quick_s, full_s = [], [], 0.0, 0.0
    for _case in range(cases):
        one, other = rng.choice(_PAINTS, 2, replace=False)
        base = stirred("base", "base", [paints[one], paints[other]], [3, 1])
        lab = tuple(float(v) for v in (rng.uniform(25, 80), rng.uniform(-25, 30), rng.uniform(-25, 35)))
        ground = Stack().lay(Coating("film", Opaque.of_lab(lab)))
        X = film_thickness(int(rng.integers(1, 5)), float(rng.uniform(0.7, 0.9)), "mist")
        laying = ground.laying(Coating("film", X=X))
        goal = np.array(ground.lab()) + rng.uniform((1, -3, -3), (10, 3, 3))
        start = time.perf_counter()
        best = choose_lighteners(paints, base, goal, max_parts=_PARTS, laying=laying, most=2)[0]
        quick_s += time.perf_counter() - start
        start = time.perf_counter()
        least = _exhaustive(Palette.of([base, *paints]), laying, goal)
        full_s += time.perf_counter() - start
        excess.append(best.de00 - least)
        of_way.append(excess[-1] / float(delta_e00(ground.lab(), goal)))
    worst = report(
        "fade, above the exhaustive optimum (ΔE00)", max(excess), 0.1, "", f"{cases} grounds and goals"
    )
    ratio = report(
        "fade, time", quick_s / full_s, 0.1, "looking through every pair",
        f"{1000 * quick_s / cases:.0f} ms against {1000 * full_s / cases:.0f}",
    )  # fmt: skip
    way = report("fade, of the way from ground to goal that is missed", max(of_way), 0.15, "the way")
    return worst and ratio and way and _reds()


def _reds() -> bool:
    """Reds on the demo's shelf that faded without a turn: with two lighteners the hue stays within 3°."""
    shelf = [p for p in demo_shelf().paints() if p.medium == "acrylic-water" and p.mixes and not p.clear]
    known = {paint.id: paint for paint in shelf}
    turns, alone = [], []
    for name in ("boot-red", "red-lead", "oxide", "wine", "red-primer"):
        base = known[name]
        ground = Stack().lay(Coating("film", base))
        laying = ground.laying(Coating("film", X=film_thickness(3, 0.8, "close")))
        for lighter in (3.0, 5.0, 7.0):
            L, a, b = ground.lab() or (0.0, 0.0, 0.0)
            goal = (L + lighter, 0.9 * a, 0.9 * b)
            both, one = (choose_lighteners(shelf, base, goal, laying=laying, most=most)[0] for most in (2, 1))
            turns.append(abs(both.hue_shift_deg or 0.0))
            alone.append(abs(one.hue_shift_deg or 0.0))
    beside = f"one lightener {max(alone):.1f}, {len(turns)} reds"
    return report("fade of red, turn of the hue (degrees)", max(turns), 3.0, "", beside)
