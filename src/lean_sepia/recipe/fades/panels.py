"""Which panel has faded how far: by chance, but bound to how the thing is built."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

import numpy as np

from lean_sepia.arrays import FloatArray, IntArray, triple
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.paint.film import film_thickness
from lean_sepia.paint.laying import Laying
from lean_sepia.paint.paint import Paint, Palette
from lean_sepia.recipe.fades.veils import VEIL_TOOL, veil_labs
from lean_sepia.recipe.parts import proportions

Box = tuple[float, float, float, float]
"""Left, top, right, bottom of a panel, as shares of the zone's breadth and height."""

_CHANCE = 0.45  # how far chance may move a panel, of the whole fade (practice)
_VEIL_STEPS = 400
_FINE = (200, 120)  # columns and rows on which overlapping panels are counted
_MOST_PARTS = 18, 40, 100  # more only where two degrees would be one mix


def grid(rows: int, columns: int, drawn: Sequence[Box] = ()) -> tuple[Box, ...]:
    """Panels row by row, and those drawn over them behind."""
    cells = tuple(
        (column / columns, row / rows, (column + 1) / columns, (row + 1) / rows)
        for row in range(rows)
        for column in range(columns)
    )
    return (*cells, *((min(a, c), min(b, d), max(a, c), max(b, d)) for a, b, c, d in drawn))


def panel_map(boxes: Sequence[Box], breadth: int = _FINE[0], height: int = _FINE[1]) -> IntArray:
    """The number (height, breadth) of the panel that lies on top at each place; the first where none does."""
    found = np.zeros((height, breadth), dtype=np.int64)
    for number, (x0, y0, x1, y1) in enumerate(boxes):
        rows = slice(round(y0 * height), max(round(y0 * height) + 1, round(y1 * height)))
        columns = slice(round(x0 * breadth), max(round(x0 * breadth) + 1, round(x1 * breadth)))
        found[rows, columns] = number
    return found


def panel_shares(boxes: Sequence[Box]) -> FloatArray:
    """Share of the area (n,) of each panel that is not hidden by one drawn over it."""
    seen = np.bincount(panel_map(boxes).ravel(), minlength=len(boxes))
    return np.asarray(seen / seen.sum())


def fade_levels(
    rows: int,
    columns: int,
    drawn: Sequence[Box] = (),
    *,
    whole: str = "panels",
    replaced: Collection[int] = (),
    levels: int = 3,
    above: float = 0.5,
    seed: int = 7,
    mirrored: bool = False,
) -> tuple[int, ...]:
    """How far each panel has faded, from 0 to `levels`; replaced ones not at all, the topmost more than the lowest.

    whole : what fades as one: "panels", or whole planks, "rows" or "columns"
    mirrored : the other side of the thing: its columns are counted from the other end; its chance is its own
    """
    boxes = grid(rows, columns, drawn)
    rng = np.random.default_rng([seed, int(mirrored)])
    chance = rng.uniform(-_CHANCE, _CHANCE, len(boxes))
    middle = np.array([(y0 + y1) / 2 for _x0, y0, _x1, y1 in boxes])
    cells = rows * columns
    if whole in ("rows", "columns"):
        line = np.arange(cells) // columns if whole == "rows" else np.arange(cells) % columns
        chance[:cells] = chance[line]
        middle[:cells] = middle[:cells] if whole == "rows" else 0.5
    strength = 0.6 + above * (0.5 - middle) + chance
    found = np.clip(np.round(np.clip(strength, 0, 1) * levels), 1, levels).astype(int)
    if mirrored:
        found[:cells] = found[:cells].reshape(rows, columns)[:, ::-1].ravel()
    for number in replaced:
        if number < len(found):
            found[number] = 0
    return tuple(int(level) for level in found)


@dataclass(frozen=True)
class Level:
    """One degree of fading: parts of base and lightener for it, its colour, and the share of the area of its panels.

    wiped : of a veil that is drawn out, the share that is taken up again
    """

    number: int
    base_parts: int
    lightener_parts: int
    second_parts: int
    lab: tuple[float, float, float]
    area_share: float
    wiped: float | None = None


def level_mixes(
    base: Paint,
    added: Sequence[Paint],
    added_parts: Sequence[int],
    base_parts: int,
    laying: Laying,
    shares: Sequence[float],
    limit: float = 1.0,
) -> list[Level]:
    """Cups for degrees of fading between none and a fade of these parts, all laid alike, in even steps of ΔE00.

    shares : of the area of each level, from the weakest; limit : how far the strongest goes, of the whole fade
    """
    # Counted from the base laid alike: the film itself hides some of what lies below, on all panels the same.
    start = _lab(base, added, np.array([[1.0, *(0.0 for _part in added_parts)]]), laying)[0]
    lightest = [part * 1.0 for part in added_parts]
    whole = [float(base_parts), *lightest]
    full = _lab(base, added, np.array([whole]), laying)[0]
    way = float(delta_e00(start, full))
    # The lighteners keep their own proportion: only how much base there is with them changes.
    for most in _MOST_PARTS:
        levels = _levels(base, added, added_parts, whole, laying, (start, way), shares, limit, most)
        if len({(level.base_parts, level.lightener_parts) for level in levels}) == len(levels):
            break
    return levels


def _levels(
    base: Paint, added: Sequence[Paint], added_parts: Sequence[int], whole: Sequence[float], laying: Laying,
    path: tuple[FloatArray, float], shares: Sequence[float], limit: float, most: int,
) -> list[Level]:  # fmt: skip
    """The levels in at most so many parts. path : where they start, and how far the whole fade goes from there."""
    start, way = path
    unit = sum(added_parts)
    ratios = proportions(2, most)
    rows = np.column_stack([ratios[:, :1] * unit, *(ratios[:, 1] * part for part in added_parts)])
    rows = np.vstack([rows, [whole]])
    no_more = rows[:, 1:].sum(axis=1) / rows.sum(axis=1) <= unit / sum(whole) + 1e-9
    rows = rows[no_more]
    labs = _lab(base, added, rows, laying)
    reached = delta_e00(labs, np.broadcast_to(start, labs.shape))
    levels = []
    for number, share in enumerate(shares, start=1):
        wanted = way * limit * number / len(shares)
        off = np.abs(reached - wanted)
        near = np.flatnonzero(off <= off.min() + 0.1)
        best = int(min(near, key=lambda row: int(rows[row].sum() / np.gcd.reduce(rows[row].astype(int)))))
        parts = rows[best].astype(int) // np.gcd.reduce(rows[best].astype(int))
        second = int(parts[2]) if len(parts) > 2 else 0
        levels.append(Level(number, int(parts[0]), int(parts[1]), second, triple(labs[best]), float(share)))
    return levels


def level_veils(
    oils: Sequence[Paint], ground: Laying, wiped: float, shares: Sequence[float], limit: float = 1.0
) -> list[Level]:
    """Veils of oils for degrees of fading up to one of which a share is taken up again, in even steps of ΔE00.

    ground : how something is laid on what is below; shares : of the area of each level, from the weakest
    """
    least = 1 - (1 - wiped) * limit
    taken = np.linspace(1.0, least, _VEIL_STEPS)
    labs = veil_labs(oils, ground, film_thickness(1, 0.0, VEIL_TOOL) * (1 - taken))
    reached = delta_e00(labs, np.broadcast_to(labs[0], labs.shape))
    levels = []
    for number, share in enumerate(shares, start=1):
        best = int(np.argmin(np.abs(reached - reached[-1] * number / len(shares))))
        kept = round(float(taken[best]), 3)
        levels.append(Level(number, 0, 1, len(oils) - 1, triple(labs[best]), float(share), min(kept, 0.999)))
    return levels


def _lab(base: Paint, added: Sequence[Paint], rows: FloatArray, laying: Laying) -> FloatArray:
    return laying.lab(Palette.of([base, *added]).mixture(rows / rows.sum(axis=1, keepdims=True)))
