"""Taking casts out of simulated photos: measured sensors, eight lights, 190 surfaces that tuning never saw; printed pages; renderings."""

from __future__ import annotations

import numpy as np
from scipy.optimize import least_squares
from scripts.simulated_cameras import (
    DAYLIGHTS,
    PHOTO_LIGHTS,
    anchored,
    held_out_reflectances,
    light,
    linear_means,
    measured_sensors,
    shoot,
    true_labs,
)

from benchmarks import everyday, printed
from lean_sepia.arrays import FloatArray
from lean_sepia.colour.adaptation import BRADFORD
from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_xyz
from lean_sepia.colour.lights import white
from lean_sepia.colour.srgb import lab_from_srgb, srgb_from_linear, xyz_from_linear
from lean_sepia.photo.sample import sample_disc

LIMITS = {1: (2.5, 1.4), 6: (2.0, None)}
GOALS = {1: 2.0, 6: 1.5}
LOW, HIGH = 0.85, 0.95


def _cone_scaling(rgb: FloatArray, grey: FloatArray) -> FloatArray:
    """L*a*b* (n, 3) by scaling cones with one grey of reflectance 0.3 alone."""
    scaled = (
        (xyz_from_linear(rgb) @ BRADFORD.T)
        / (xyz_from_linear(grey) @ BRADFORD.T)
        * (0.3 * (BRADFORD @ white()))
    )
    return lab_from_xyz(np.maximum(scaled @ np.linalg.inv(BRADFORD).T, 1e-6))


def _floor(rgb: FloatArray, truth: FloatArray) -> float:
    """Mean ΔE00 of the best 3×3 fitted on the very patches it is judged on."""

    def misses(matrix: FloatArray) -> FloatArray:
        return delta_e00(lab_from_xyz(np.maximum(rgb @ matrix.reshape(3, 3), 1e-6)), truth)

    start = np.linalg.lstsq(rgb, xyz_from_linear(rgb), rcond=None)[0]
    return float(misses(least_squares(misses, start.ravel()).x).mean())


def main() -> bool:
    """Mean ΔE00 with one grey, two anchors and six; shares of the ranges that hold; the floor beside."""
    rng = np.random.default_rng(2026)
    surfaces = held_out_reflectances()
    rows: dict[int, list[tuple[float, float, float, float]]] = {1: [], 2: [], 6: []}
    held: dict[int, list[tuple[float, ...]]] = {1: [], 2: [], 6: []}
    beside: list[tuple[float, float, float, int]] = []
    days: dict[int, list[float]] = {1: [], 2: [], 6: []}
    for sensor in measured_sensors(5):
        for name in PHOTO_LIGHTS:
            power = light(name)
            for count, pixels, cast, discs in anchored(sensor, power, surfaces, rng):
                misses = []
                for disc, truth in discs:
                    found = sample_disc(pixels, cast, *disc)
                    low, high = np.array(found.lab_range90).T
                    miss = float(delta_e00(found.lab, truth))
                    misses.append(miss)
                    held[count].append((miss <= found.de00_90, *((truth >= low) & (truth <= high))))
                rows[count].append(float(np.mean(misses)))  # type: ignore[arg-type]
                if name in DAYLIGHTS:
                    days[count].append(float(np.mean(misses)))
            shot = shoot(sensor, power, np.concatenate([surfaces, np.full((1, 81), 0.3)]), rng)
            fine = ~shot.clipped[: len(surfaces)]
            rgb, truth = linear_means(shot), true_labs(surfaces)
            as_found = delta_e00(
                lab_from_srgb(np.clip(srgb_from_linear(rgb[:-1][fine]), 0, 1)), truth[fine]
            ).mean()
            cones = delta_e00(_cone_scaling(rgb[:-1][fine], rgb[-1]), truth[fine]).mean()
            beside.append(
                (float(as_found), float(cones), _floor(rgb[:-1][fine], truth[fine]), int((~fine).sum()))
            )
    found, cones, floor, clipped = np.array(beside).mean(axis=0)
    print(
        f"cast, {len(beside)} photos of {len(surfaces)} surfaces, {clipped:.0f} of them clipped and left out: "
        f"as found {found:.2f} ΔE00, plain cone scaling {cones:.2f}, floor (3×3 fitted on the surfaces themselves) {floor:.2f}"
    )
    reached = printed.main()
    for count in (1, 2, 6):
        mean, day = float(np.mean(rows[count])), float(np.mean(days[count]))
        words = (
            f"cast, {count} anchor{'s' if count > 1 else ''}: mean ΔE00 {mean:.2f}, three daylights {day:.2f}"
        )
        if count in LIMITS:
            limit, day_limit = LIMITS[count]
            fine = mean <= limit and (day_limit is None or day <= day_limit)
            words += f"  (at most {limit}{f' and {day_limit}' if day_limit else ''}: {'reached' if fine else 'NOT REACHED'}; goal {GOALS[count]})"
            reached &= fine
        shares = np.array(held[count], dtype=float).mean(axis=0)
        fine = LOW <= shares[0] <= HIGH
        reached &= fine
        print(words)
        print(
            f"cast, {count} anchor{'s' if count > 1 else ''}: {shares[0]:.1%} within the stated radius "
            f"(85–95 %: {'reached' if fine else 'NOT REACHED'}); L*, a*, b* within theirs {shares[1]:.0%}, {shares[2]:.0%}, {shares[3]:.0%}",
            flush=True,
        )
    return reached & everyday.main()
