"""The mix solver against an exhaustive search written in plain vectorised NumPy, without stored tables."""

from __future__ import annotations

import statistics
import time
from itertools import combinations

import numpy as np

from benchmarks.figure import report
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.demo.shelf import demo_shelf
from lean_sepia.paint.kubelka_munk import opaque_reflectance
from lean_sepia.paint.paint import Palette
from lean_sepia.paint.saunderson import through_surface
from lean_sepia.recipe.mix import MixSolver
from lean_sepia.recipe.parts import proportions

TARGETS = ([47.0, -19.0, -3.0], [69.0, 11.0, 33.0], [36.0, 24.0, 14.0], [84.0, 2.0, 20.0])


def exhaustive(palette: Palette, target: list[float], most: int = 10) -> float:
    """Lowest ΔE00 over every single, pair and triple in every proportion."""
    best = np.inf
    for size in (1, 2, 3):
        parts = proportions(size, most)
        shares = parts / parts.sum(axis=1, keepdims=True)
        sets = np.array(list(combinations(range(len(palette.paints)), size)))
        for start in range(0, len(sets), 256):
            chunk = sets[start : start + 256]
            K, S = shares @ palette.K[chunk], shares @ palette.S[chunk]
            g = (palette.g[chunk] @ shares.T)[..., None]
            labs = lab_from_reflectance(through_surface(opaque_reflectance(K, S), g))
            best = min(best, float(delta_e00(labs, target).min()))
    return best


def main() -> bool:
    """The simple solver only has to be right; its speed is printed, a later version makes it fast."""
    paints = [p for p in demo_shelf().paints() if p.mixes and p.medium == "acrylic-water"]
    palette = Palette.of(paints)
    solver = MixSolver(paints)
    start = time.perf_counter()
    solver.solve(TARGETS[0])
    first = time.perf_counter() - start
    worst, ours, theirs = 0.0, [], []
    for target in TARGETS:
        start = time.perf_counter()
        found = min(recipe.de00 for recipe in solver.solve(target))
        ours.append(time.perf_counter() - start)
        start = time.perf_counter()
        optimum = exhaustive(palette, target)
        theirs.append(time.perf_counter() - start)
        worst = max(worst, found - optimum)
    base = statistics.median(theirs)
    right = worst <= 1e-3
    print(
        f"mix, {len(paints)} paints: worst ΔE00 above the exhaustive optimum {worst:.4f}  (at most 0.001: {'reached' if right else 'NOT REACHED'})"
    )
    report(
        "mix, first target with preparation",
        first / base,
        None,
        "an exhaustive search",
        f"[{1000 * first:.0f} ms against {1000 * base:.0f} ms]",
    )
    again = statistics.median(ours)
    report("mix, another target", again / base, None, "an exhaustive search", f"[{1000 * again:.0f} ms]")
    return right
