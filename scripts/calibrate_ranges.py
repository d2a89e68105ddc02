"""By what the spread of possible colours has to be multiplied so that ranges hold 9 times in 10.

Run from the project root as `python -m scripts.calibrate_ranges`; the scales are then written by hand into
`photo/correction/kinds.py`. Cameras are synthetic, surfaces are the chart sets and smooth ones, renderings those of
`calibration_renderings.py`: no check uses any of these.
"""

from __future__ import annotations

import sys
from collections.abc import Iterator

import numpy as np

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.srgb import srgb_from_linear
from lean_sepia.photo.correction.cast import Anchor
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.patch import disc_patch
from lean_sepia.photo.sample import sample_patch
from lean_sepia.photo.stated.picture_kind import PICTURE_KINDS, PictureKind
from scripts.calibration_renderings import RENDERINGS
from scripts.simulated_cameras import (
    NM,
    SIX_PATCHES,
    chart_24,
    chart_reflectances,
    develop_matrix,
    developed,
    in_squares,
    likely_lights,
    synthetic_sensor,
    true_labs,
)
from scripts.simulated_worlds import smooth_reflectances

COUNTS = (0, 1, 2, 6, 24)
_PHOTOS, _SURFACES, _SEED, _GRAIN = 6, 50, 50, 0.006
_GREYS = (0.3, 0.06)
_HELD = 0.93
Row = tuple[float, ...]


def _pictures(kind: PictureKind) -> Iterator[tuple[np.ndarray, np.ndarray, list[tuple[float, float, float]]]]:
    """Pictures of one kind with the true L*a*b* (n, 3) and the disc of every surface; the last 26 are a chart and two greys."""
    rng = np.random.default_rng([_SEED, PICTURE_KINDS.index(kind)])
    lights = [power for _, power in likely_lights(rng, 20)]
    charts = chart_reflectances()
    renderings = RENDERINGS.get(kind, (None, None))
    for rendering in renderings:
        for _number in range(_PHOTOS * 2 if len(renderings) < 3 else _PHOTOS):
            pool = np.concatenate([charts, smooth_reflectances(rng, 80)])
            greys = np.array(_GREYS)[:, None] * np.ones(len(NM))
            surfaces = np.concatenate(
                [pool[rng.choice(len(pool), _SURFACES, replace=False)], chart_24(), greys]
            )
            sensor, power = synthetic_sensor(rng), lights[rng.integers(len(lights))]
            if rendering is None:
                training = charts[rng.choice(len(charts), 40, replace=False)]
                encoded = srgb_from_linear(
                    np.clip(
                        developed(sensor, power, surfaces, develop_matrix(sensor, None, training))[0], 0, 1
                    )
                )
            else:
                balance = (power @ sensor) * np.exp(rng.normal(0, 0.05, 3))
                matrix = np.eye(3) if kind == "undeveloped" else develop_matrix(sensor)[1]
                light = surfaces @ (power[:, None] * sensor) / balance @ matrix
                encoded = rendering(np.maximum(0.9 * light, 1e-6), rng)
            picture, discs = in_squares(np.clip(encoded, 0, 1))
            picture = picture + rng.normal(0, _GRAIN, picture.shape)
            yield np.clip(255 * picture, 0, 255).round().astype(np.uint8), true_labs(surfaces), discs


def _rows(kind: PictureKind, *, stated: bool) -> Iterator[tuple[int, Row]]:
    """For each sample: how many anchors, by what its spread would have to be multiplied for its radius to hold, and the miss."""
    for pixels, labs, discs in _pictures(kind):
        anchors = [Anchor(*disc, *map(float, lab)) for disc, lab in zip(discs, labs, strict=True)][_SURFACES:]
        chart, greys = anchors[:24], anchors[24:]
        chosen = {0: [], 1: greys[:1], 2: greys, 6: [chart[i] for i in SIX_PATCHES], 24: chart}
        patches = [disc_patch(pixels, *disc) for disc in discs[:_SURFACES]]
        for count in COUNTS:
            cast = fit_cast(pixels, chosen[count], kind if stated else "unknown")
            for patch, truth in zip(patches, labs, strict=False):
                if patch.clipped_share < 0.02:
                    found = sample_patch(patch, cast)
                    low, high = np.array(found.lab_range90).T
                    out = np.abs(truth - (low + high) / 2) / ((high - low) / 2)
                    miss = float(delta_e00(found.lab, truth))
                    yield count, (miss / found.de00_90, miss, found.de00_90, *out)


def main() -> None:
    """Print shares held and the multiples, for the kinds named or for all."""
    for kind in sys.argv[1:] or PICTURE_KINDS:
        found: dict[int, list[Row]] = {}
        for one in [name for name in PICTURE_KINDS if name != "unknown"] if kind == "unknown" else [kind]:
            for count, row in _rows(one, stated=kind != "unknown"):  # type: ignore[arg-type]
                found.setdefault(count, []).append(row)
        for count, table in found.items():
            values = np.array(table)
            print(
                f"{kind}, {count} anchors, {len(values)} samples: radius holds {(values[:, 0] <= 1).mean():.1%} "
                f"(× {np.quantile(values[:, 0], _HELD):.2f}), miss {values[:, 1].mean():.2f}, radius {values[:, 2].mean():.2f}; "
                f"L*, a*, b* hold {(values[:, 3:] <= 1).mean(axis=0).round(3)}",
                flush=True,
            )


if __name__ == "__main__":
    main()
