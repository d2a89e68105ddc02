"""Ageing read off simulated pairs of a sheltered and an exposed colour, half of one cause, half of two.

Counted are colours of C* above 10 whose causes each change them by 2 ΔE00: on a grey, chalking and bleaching do the same, and a
cause that changes nothing cannot be seen; the figures for any colours, and without the mix that tells the spectrum, stand beside.
"""

from __future__ import annotations

import time

import numpy as np

from benchmarks.figure import report
from benchmarks.invented_paints import invented_paints
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import chroma, lab_from_reflectance
from lean_sepia.paint.ageing import CAUSES, Ageing, Pair, explain
from lean_sepia.paint.kubelka_munk import opaque_reflectance
from lean_sepia.paint.saunderson import Surface

_PAIRS, _NOISE, _FLAT = 100, 0.25, Surface(1.0)
_NEAR, _CARRIED = 0.08, 1.5
_SEEDS = range(21, 27)


def _seen(R):  # type: ignore[no-untyped-def]
    return lab_from_reflectance(_FLAT.seen(R))


def _recovered(rng: np.random.Generator, *, coloured: bool, known: bool) -> tuple[int, int]:
    """Of a hundred pairs: those whose shares are all near, and those from which another zone's colour is carried nearly."""
    paints = [opaque_reflectance(paint.K, paint.S) for paint in invented_paints(60, rng)]
    if coloured:
        paints = [R for R in paints if float(chroma(_seen(R))) > 10]
    names, near, carried, done = list(CAUSES), 0, 0, 0
    while done < _PAIRS:
        chosen = rng.choice(4, 1 + done % 2, replace=False)
        shares = dict(zip([names[i] for i in chosen], rng.uniform(0.1, 0.6, len(chosen)), strict=True))
        truth = Ageing(**shares)
        one, other = rng.choice(len(paints), 2, replace=False)
        R = paints[one]
        alone = [float(delta_e00(_seen(R), _seen(Ageing(**{n: s}).internal(R)))) for n, s in shares.items()]
        if coloured and min(alone) < 2:
            continue
        done += 1
        fresh, exposed = (_seen(x) + rng.normal(0, _NOISE, 3) for x in (R, truth.internal(R)))
        found = explain([Pair(tuple(fresh), tuple(exposed), R if known else None)]).best.ageing
        near += max(abs(getattr(found, name) - getattr(truth, name)) for name in CAUSES) <= _NEAR
        second, aged = _seen(paints[other]), _seen(truth.internal(paints[other]))
        guess = _seen(found.internal(paints[other])) if known else found.lab(second)
        carried += float(delta_e00(guess, aged)) <= _CARRIED
    return near, carried


def main() -> bool:
    """Shares within 0.08 in 90 of 100, carried colours within 1.5 ΔE00 in as many; the mean of six hundred pairs."""
    start = time.perf_counter()
    runs = np.array([_recovered(np.random.default_rng(seed), coloured=True, known=True) for seed in _SEEDS])
    ms = 1000 * (time.perf_counter() - start) / (_PAIRS * len(_SEEDS))
    harder = [_recovered(np.random.default_rng(7), coloured=False, known=known) for known in (True, False)]
    near, carried = runs.mean(axis=0)
    beside = f"{runs[:, 0].min()} to {runs[:, 0].max()} of 100 near, {ms:.0f} ms; any colours {harder[0][0]}, without their mix {harder[1][0]}"
    shares = report("ageing, shares off by more than 0.08 (of 100)", _PAIRS - near, 10, "", beside)
    beside = f"any colours {harder[0][1]} of 100 within, without their mix {harder[1][1]}"
    return shares and report("ageing, carried colours off by more than 1.5 ΔE00 (of 100)", _PAIRS - carried, 10, "", beside)  # fmt: skip
