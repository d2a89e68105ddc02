"""How often ranges hold on simulated photos, and by what they would have to be multiplied to hold 9 times in 10.

Run from the project root as `python -m scripts.calibrate_ranges`; the scales are then written by hand into
`photo/cast_families.py`. Cameras are synthetic or the one tabled at 10 nm, surfaces are the chart sets, film is the demo's
with seeds from 1000 on: no check uses any of these.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.demo.camera import evening_slide, overcast_print, take
from lean_sepia.demo.prototype import true_labs as demo_labs
from lean_sepia.demo.scene import draw_scene
from lean_sepia.photo.correction.cast import Anchor
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.sample import sample_disc
from scripts.simulated_cameras import (
    anchored,
    chart_reflectances,
    develop_matrix,
    likely_lights,
    measured_sensors,
    synthetic_sensor,
)

EACH_LIGHT, FILM_SEEDS, SEED = 45, range(1000, 1040), 50
_SURFACES, _MEASURED_SHARE = 40, 0.15
Row = tuple[float, ...]


def _row(pixels: np.ndarray, cast, disc, truth: np.ndarray) -> Row:
    """ΔE00 over its radius, and for each coordinate how far out the truth lies in half intervals."""
    found = sample_disc(pixels, cast, *disc)
    low, high = np.array(found.lab_range90).T
    out = np.abs(truth - (low + high) / 2) / ((high - low) / 2)
    return (float(delta_e00(found.lab, truth)) / found.de00_90, *out)


def digital() -> Iterator[tuple[int, Row]]:
    """Cameras under every kind of light with one grey, two anchors and six."""
    rng = np.random.default_rng(SEED)
    charts = chart_reflectances()
    for _, power in likely_lights(rng, EACH_LIGHT):
        sensor = measured_sensors(10)[0] if rng.random() < _MEASURED_SHARE else synthetic_sensor(rng)
        development = develop_matrix(sensor, None, charts[rng.choice(len(charts), 40, replace=False)])
        surfaces = charts[rng.choice(len(charts), _SURFACES, replace=False)]
        for count, pixels, cast, discs in anchored(sensor, power, surfaces, rng, development):
            for disc, truth in discs:
                yield count, _row(pixels, cast, disc, truth)


def film() -> Iterator[tuple[int, Row]]:
    """The demo's slide and print with other seeds."""
    scene, labs = draw_scene(), demo_labs()
    plate, locker = scene.spots["lettering"][0], scene.spots["locker"][0]
    two = [Anchor(*locker, labs["locker"]["fresh"][0]), Anchor(*plate, *labs["lettering"]["fresh"])]
    spots = [(name.split(), discs[0]) for name, discs in scene.spots.items() if " " in name]
    known = [(name, disc) for name, disc in spots if name[1] == "sheltered"][:4]
    six = two + [Anchor(*disc, *labs[name[0]]["fresh"]) for name, disc in known]
    for kind in (evening_slide, overcast_print):
        for seed in FILM_SEEDS:
            pixels = take(scene, kind(seed), seed)
            for count, anchors in ((1, two[:1]), (2, two), (6, six)):
                cast = fit_cast(pixels, anchors)
                for name, disc in spots:
                    if count < 6 or (name, disc) not in known:
                        truth = np.array(labs[name[0]]["fresh" if name[1] == "sheltered" else "exposed"])
                        yield count, _row(pixels, cast, disc, truth)


def main() -> None:
    """Print shares held and the multiples."""
    for kind, rows in (("digital", digital()), ("film", film())):
        found: dict[int, list[Row]] = {}
        for count, row in rows:
            found.setdefault(count, []).append(row)
        for count, table in found.items():
            values = np.array(table)
            held = (values <= 1).mean(axis=0)
            wanted = np.quantile(values, 0.9, axis=0)
            print(
                f"{kind}, {count} anchors, {len(values)} samples: radius holds {held[0]:.1%} (× {wanted[0]:.2f}); "
                f"L*, a*, b* hold {held[1:].round(3)} (× {wanted[1:].round(2)})",
                flush=True,
            )


if __name__ == "__main__":
    main()
