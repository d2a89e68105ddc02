"""One filter for four grounds, of 60 tints and all pairs of them, against every one at 7 thinnings and up to 3 passes."""

from __future__ import annotations

import time
from itertools import combinations

import numpy as np

from benchmarks.figure import report
from benchmarks.invented_paints import invented_paints
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.paint.paint import Paint, Palette
from lean_sepia.recipe.tints.glaze import (
    MOST_PASSES,
    THINNER_PARTS,
    Ground,
    choose_glazes,
    glaze_film,
    glaze_labs,
)

_CASES, _TINTS = 12, 60


def exhaustive(paints: list[Paint], grounds: list[Ground], goals: FloatArray) -> float:
    """The least mean ΔE00 of every tint and every two, at every thinning and number of passes."""
    palette, eye = Palette.of(paints), np.eye(len(paints))
    tints = np.array([*eye, *((eye[i] + eye[j]) / 2 for i, j in combinations(range(len(paints)), 2))])
    least = np.inf
    for thinner in THINNER_PARTS:
        for passes in range(1, MOST_PASSES + 1):
            films = np.full(len(tints), glaze_film(thinner, passes))
            labs = glaze_labs(palette.mixture(tints[:, None]), grounds, films)
            least = min(least, float(delta_e00(labs, goals).mean(axis=1).min()))
    return least


def main() -> bool:
    """Within 0.02 of exhaustive, beyond the 0.05 for which fewer passes are taken, in at most a tenth of its time."""
    rng = np.random.default_rng(33)
    paints = invented_paints(_TINTS, rng)
    excess, quick_s, full_s = [], 0.0, 0.0
    for _case in range(_CASES):
        labs = rng.uniform((25, -25, -25), (85, 30, 40), (4, 3))
        grounds = [Ground.of_lab(lab) for lab in labs]
        # Goals that a common tint could reach in part, with what else differs in photos.
        goals = labs + rng.normal(0, 2.0, 3) + rng.normal(0, 1.5, (4, 3)) - (2, 0, 0)
        start = time.perf_counter()
        best = choose_glazes(paints, grounds, list(goals), most=2)[0]
        quick_s += time.perf_counter() - start
        start = time.perf_counter()
        least = exhaustive(paints, grounds, goals)
        full_s += time.perf_counter() - start
        excess.append(best.de00_mean - least)
    near = report("harmonise, above the exhaustive optimum (ΔE00)", max(excess), 0.02, "", f"{_CASES} cases of 4 grounds")  # fmt: skip
    ratio = report(
        "harmonise, time", quick_s / full_s, 0.1, "looking through all",
        f"{1000 * quick_s / _CASES:.0f} ms against {1000 * full_s / _CASES:.0f}",
    )  # fmt: skip
    return near and ratio
