"""Write the families of corrections from simulated cameras under likely lights.

Run from the project root as `python -m scripts.make_cast_families`. Each simulated camera and light gives the cast it
leaves after daylight development and the mixing that best corrects the charts; a family is the normal distribution
of both over its lights.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np

from lean_sepia.colour.adaptation import BRADFORD
from lean_sepia.colour.lights import white
from lean_sepia.photo.correction.cast_families import FAMILY_PARAMETERS
from lean_sepia.photo.correction.cast_model import cones_of
from scripts.simulated_cameras import (
    chart_reflectances,
    daylight,
    develop_matrix,
    developed,
    likely_lights,
    measured_sensors,
    synthetic_sensor,
    xyz_d65,
)

OUT = Path(__file__).parent.parent / "src/lean_sepia/photo/data/cast_families.csv"
EACH, SEED = 600, 7
_MEASURED_SHARE = 0.15
_DEVELOPED_FOR = (5000, 6600)  # kelvin
_RIDGE, _LEAST_PATCHES = 2e-4, 30
_SPARE_CAST, _SPARE_MIXING = 0.03, 0.01


def best_mixing(seen: np.ndarray, true: np.ndarray) -> np.ndarray:
    """The fifteen mixing terms that take white-balanced cones (n, 3) to the true ones, small ones preferred."""
    c = np.maximum(seen, 1e-5)
    roots = [np.sqrt(c[:, 0] * c[:, 1]), np.sqrt(c[:, 1] * c[:, 2]), np.sqrt(c[:, 0] * c[:, 2])]
    features = np.column_stack([c, *roots])
    answer = []
    for cone in range(3):
        off = np.delete(features, cone, axis=1) - c[:, [cone]]
        weight = (0.01 + np.maximum(true[:, [cone]], 0)) ** -0.6  # about even steps of lightness
        A, y = off * weight, (true[:, cone] - c[:, cone]) * weight[:, 0]
        answer.append(np.linalg.solve(A.T @ A / len(A) + _RIDGE * np.eye(5), A.T @ y / len(A)))
    return np.concatenate(answer)


def main() -> None:
    """Simulate, fit and write."""
    rng = np.random.default_rng(SEED)
    surfaces = chart_reflectances()
    true = xyz_d65(surfaces) @ BRADFORD.T / (BRADFORD @ white())
    measured = measured_sensors(10)
    found: dict[str, list[np.ndarray]] = {}
    for name, power in likely_lights(rng, EACH):
        sensor = measured[0] if rng.random() < _MEASURED_SHARE else synthetic_sensor(rng)
        training = surfaces[rng.choice(len(surfaces), 40, replace=False)]
        rgb, bright = developed(
            sensor, power, surfaces, develop_matrix(sensor, daylight(rng.uniform(*_DEVELOPED_FOR)), training)
        )
        fine = np.all((rgb < 0.98) & (rgb > 8e-4), axis=1)
        at_white = cones_of(bright)
        if fine.sum() < _LEAST_PATCHES or np.any(at_white <= 0):
            continue
        logs = np.log(at_white)
        cast = [logs[1] - logs[0], logs[1] - logs[2]]
        found.setdefault(name, []).append(
            np.concatenate([cast, best_mixing(cones_of(rgb[fine]) / at_white, true[fine])])
        )
    size = len(FAMILY_PARAMETERS)
    spare = np.diag(np.r_[[_SPARE_CAST**2] * 2, [_SPARE_MIXING**2] * (size - 2)])
    lines = ["family,mean[17],lower triangle of the covariance[153]"]
    for name, rows in found.items():
        table = np.array(rows)
        covariance = np.cov(table.T) + spare
        values = np.concatenate([table.mean(axis=0), covariance[np.tril_indices(size)]])
        lines.append(",".join([name, *(f"{value:.6g}" for value in values)]))
        print(f"{name}: {len(table)} pictures, cast {table[:, :2].mean(axis=0).round(2)}")
    OUT.write_text("\n".join(lines) + "\n", encoding="ascii")


if __name__ == "__main__":
    main()
