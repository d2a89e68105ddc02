"""Write the inverses of simulated worlds that corrections are weighed from.

Run from the project root as `python -m scripts.make_worlds`. Each world is drawn with a seed of its own, so that any of them can
be made again alone.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np

from lean_sepia.colour.even import even_from_lab
from lean_sepia.photo.correction.worlds import KNOTS, RENDERINGS, features_of, standard_lab
from scripts.simulated_cameras import chart_reflectances, true_labs
from scripts.simulated_worlds import RAMP, Stage, draw_world, smooth_reflectances

OUT = Path(__file__).parent.parent / "src/lean_sepia/photo/data/worlds.npz"
EACH = {
    "camera": 1400, "phone": 1200, "print": 1700, "page": 1700, "slide": 1300, "developed": 1600, "undeveloped": 1100,
}  # fmt: skip
_SEED, _SMOOTH = 14, 150
_FEWEST_SURFACES, _FEWEST_GREYS, _MOST_LEFT = 120, 15, 9.0
_RIDGE = 4e-5 * np.r_[np.ones(7), np.full(5, 3.0)]
_WITHIN = (0.01, 0.985)

Inverse = tuple[np.ndarray, np.ndarray, np.ndarray, int]
"""Curves (3, 24), mixing (12, 3), what is left (3,), and the number of the light."""


def training_surfaces() -> np.ndarray:
    """Reflectances (n, 81) that inverses are fitted to."""
    return np.concatenate([chart_reflectances(), smooth_reflectances(np.random.default_rng(_SEED), _SMOOTH)])


def curves_of(ramp: np.ndarray) -> np.ndarray | None:
    """Cube roots of reflectance (3, 24) at the knots, from the encoded grey ramp (40, 3); None where a channel hardly rises."""
    at, roots, found = np.linspace(0, 1, KNOTS), np.cbrt(RAMP), np.empty((3, KNOTS))
    for channel in range(3):
        risen = np.maximum.accumulate(ramp[:, channel])
        keep = np.concatenate([[True], np.diff(risen) > 1e-4])
        x, y = risen[keep], roots[keep]
        if len(x) < _FEWEST_GREYS:
            return None
        curve = np.interp(at, x, y)
        first, last = ((y[i + 2] - y[i]) / max(x[i + 2] - x[i], 1e-3) for i in (0, -3))
        dark, bright = at < x[0], at > x[-1]
        curve[dark] = np.maximum(y[0] - np.clip(first, 0.2, 3) * (x[0] - at[dark]), 0.06)
        curve[bright] = np.minimum(y[-1] + np.clip(last, 0.2, 3) * (at[bright] - x[-1]), 1.5)
        found[channel] = curve
    return found


def inverse_of(encoded: np.ndarray, ramp: np.ndarray, labs: np.ndarray) -> tuple[np.ndarray, ...] | None:
    """Curves, mixing and what is left, fitted to surfaces (n, 3) of known L*a*b*; None where too few are unclipped or it fits badly."""
    curves = curves_of(ramp)
    fine = np.all((encoded > _WITHIN[0]) & (encoded < _WITHIN[1]), axis=1)
    if curves is None or fine.sum() < _FEWEST_SURFACES:
        return None
    at = np.linspace(0, 1, KNOTS)
    roots = np.stack([np.interp(encoded[fine, channel], at, curves[channel]) for channel in range(3)])
    terms, wanted = np.stack(features_of(roots), axis=1), labs[fine].copy()
    wanted -= standard_lab(roots).T
    weight = 1 / (1 + np.hypot(labs[fine, 1], labs[fine, 2]) / 60)[:, None]
    A, B = terms * weight, wanted * weight
    mixing = np.linalg.solve(A.T @ A + np.diag(_RIDGE * fine.sum()), A.T @ B)
    missed = even_from_lab(labs[fine]) - even_from_lab(labs[fine] - (wanted - terms @ mixing))
    usual = np.median(np.abs(missed), axis=0) / 0.6745
    left = np.sqrt((np.clip(missed, -4 * usual, 4 * usual) ** 2).mean(axis=0))
    return None if left.max() > _MOST_LEFT else (curves, mixing, left)


def make_world(rendering: str, number: int, stage: Stage, surfaces: np.ndarray, labs: np.ndarray) -> Inverse:
    """One of the worlds of a rendering, drawn again until its inverse can be fitted."""
    rng = np.random.default_rng([_SEED, RENDERINGS.index(rendering), number])
    while True:
        drawn = draw_world(rendering, surfaces, stage, rng)
        if drawn is not None:
            found = inverse_of(drawn[0], drawn[1], labs)
            if found is not None:
                return (*found, drawn[2])  # type: ignore[return-value]


def main() -> None:
    """Draw, fit and write."""
    stage, surfaces = Stage.usual(), training_surfaces()
    labs = true_labs(surfaces)
    rows = [
        (*make_world(name, number, stage, surfaces, labs), RENDERINGS.index(name))
        for name, count in EACH.items()
        for number in range(count)
    ]
    curves, mixing, left, light, rendering = zip(*rows, strict=True)
    np.savez_compressed(
        OUT, curves=np.array(curves, np.float16), mixing=np.array(mixing, np.float32).astype(np.float16),
        left=np.array(left, np.float16), rendering=np.array(rendering, np.uint8), light=np.array(light, np.uint8),
    )  # fmt: skip
    print(
        f"{len(rows)} worlds, {OUT.stat().st_size / 1e6:.1f} MB; left {np.array(left).mean(axis=0).round(2)}"
    )


if __name__ == "__main__":
    main()
