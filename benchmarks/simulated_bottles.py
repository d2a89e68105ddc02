"""Bottles with a truth of their own, what a shelf says of them, and swatches mixed from them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cache

import numpy as np
from scipy.interpolate import CubicSpline

from lean_sepia.arrays import FloatArray, IntArray
from lean_sepia.demo.pigments import PIGMENTS, pigment_mixture
from lean_sepia.paint.laying import OPAQUE
from lean_sepia.paint.paint import Knowledge, Paint, Palette
from lean_sepia.recipe.parts import proportions
from lean_sepia.shelf.paint_record import paint_from_record

NOISE, OFF_BY, TINT_PARTS = 0.25, 0.15, 4


@dataclass(frozen=True, eq=False)
class Mixes:
    """Opaque mixtures of bottles: shares (n, p) of them, and their L*a*b* (n, 3)."""

    parts: IntArray
    labs: FloatArray


def bottles(count: int, rng: np.random.Generator) -> list[Paint]:
    """Random mixtures of three pigments each, all flat; the first is white."""
    answer = []
    for number in range(count):
        names = ["titanium white"] if number == 0 else rng.choice(list(PIGMENTS), 3, replace=False).tolist()
        K, S = pigment_mixture(dict(zip(names, rng.dirichlet(np.ones(len(names))), strict=True)))
        answer.append(
            Paint(f"b{number}", f"Bottle {number}", "acrylic-water", "flat", K, S, 1.0, Knowledge.SPECTRAL)
        )
    return answer


@cache
def _curves(nodes: int) -> FloatArray:
    """Values (31, nodes) of the curves that are 1 at one node and 0 at the others: cubic, parabolas for three, lines for two."""
    bands, places = np.arange(31), np.linspace(0, 30, nodes)
    if nodes == 2:
        return np.stack([1 - bands / 30, bands / 30], axis=1)
    return np.asarray(CubicSpline(places, np.eye(nodes))(bands))


def true_belief(nodes: int) -> FloatArray:
    """What is really so of `drifted` bottles: curves (2, 31, 2 nodes) of log K and log S with the spread that they have."""
    spread = OFF_BY / np.sqrt(3) * _curves(nodes)
    nothing = np.zeros_like(spread)
    return np.stack([np.hstack([spread, nothing]), np.hstack([nothing, spread])])


def drifted(paint: Paint, rng: np.random.Generator, nodes: int = 4) -> Paint:
    """The same paint off by up to 15 % in K and in S, smooth in wavelength: curves through so many random nodes."""

    def factor() -> FloatArray:
        curve = _curves(nodes) @ rng.uniform(-OFF_BY, OFF_BY, nodes)
        return np.asarray(1 + np.clip(curve, -OFF_BY, OFF_BY))

    return replace(paint, K=paint.K * factor(), S=paint.S * factor())


def known_by_one_colour(paint: Paint, rng: np.random.Generator | None = None) -> Paint:
    """What a shelf says that has only the masstone's L*a*b*, read with noise where there is a generator."""
    return paint_from_record(_record(paint, rng))


def known_by_a_tint(
    paint: Paint, white: Paint, shelf_white: Paint, rng: np.random.Generator | None = None
) -> Paint:
    """What a shelf says that has the L*a*b* of the masstone and of one part in four parts of white."""
    tint = mixes([paint, white], np.array([[1, TINT_PARTS]]), rng).labs[0]
    record = _record(paint, rng) | {
        "lab_tint": tint.tolist(), "tint_white": shelf_white.id, "tint_parts_white": TINT_PARTS,
    }  # fmt: skip
    return paint_from_record(record, whites={shelf_white.id: shelf_white})


def _record(paint: Paint, rng: np.random.Generator | None) -> dict[str, object]:
    lab = paint.masstone_lab() + (rng.normal(0, NOISE, 3) if rng else 0)
    return {"id": paint.id, "name": paint.name, "medium": paint.medium, "finish": "flat", "lab": lab.tolist()}


def mixes(paints: Sequence[Paint], parts: IntArray, rng: np.random.Generator | None = None) -> Mixes:
    """Whole parts (n, p) of bottles mixed; read with noise where there is a generator."""
    labs = OPAQUE.lab(Palette.of(paints).mixture(parts / parts.sum(axis=1, keepdims=True)))
    return Mixes(parts, labs if rng is None else labs + rng.normal(0, NOISE, labs.shape))


def random_parts(count: int, paints: int, rng: np.random.Generator) -> IntArray:
    """Whole parts (count, paints) of two or three of the paints, at most ten in all."""
    rows = np.zeros((count, paints), dtype=np.int64)
    for row in rows:
        size = int(rng.integers(2, 4))
        table = proportions(size, 10)
        row[rng.choice(paints, size, replace=False)] = table[rng.integers(len(table))]
    return rows
