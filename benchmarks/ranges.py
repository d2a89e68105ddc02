"""How often the stated range of a sample holds, on slides and prints that no tuning has seen."""

from __future__ import annotations

import numpy as np

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.demo.camera import evening_slide, overcast_print, take
from lean_sepia.demo.prototype import true_labs
from lean_sepia.demo.scene import draw_scene
from lean_sepia.photo.correction.cast import Anchor
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.sample import sample_disc

SEEDS = range(30)
LOW, HIGH = 0.80, 1.0


def main() -> bool:
    """Share of sampled zone colours within their 90 % radius of the truth; the slide's must reach 80 %: the film of the demo is a mild one."""
    scene, labs = draw_scene(), true_labs()
    plate, locker = scene.spots["lettering"][0], scene.spots["locker"][0]
    both = [Anchor(*locker, labs["locker"]["fresh"][0]), Anchor(*plate, *labs["lettering"]["fresh"])]
    reached = True
    for name, film in (("slide", evening_slide), ("print", overcast_print)):
        rows: dict[int, list[tuple[float, float, float]]] = {1: [], 2: []}
        for seed in SEEDS:
            pixels = take(scene, film(seed), seed)
            for count in (1, 2):
                cast = fit_cast(pixels, both[:count])
                for spot, discs in scene.spots.items():
                    if spot in ("locker", "lettering"):
                        continue
                    zone, state = spot.split()
                    truth = labs[zone]["fresh" if state == "sheltered" else "exposed"]
                    found = sample_disc(pixels, cast, *discs[0])
                    bare = sample_disc(pixels, fit_cast(pixels, []), *discs[0])
                    rows[count].append(
                        (float(delta_e00(found.lab, truth)), found.de00_90, float(delta_e00(bare.lab, truth)))
                    )
        for count, table in rows.items():
            miss, radius, bare = np.array(table).T
            held = float(np.mean(miss <= radius))
            asked = name == "slide" and count == 2
            fine = LOW <= held <= HIGH
            verdict = f"  (at least 80 %: {'reached' if fine else 'NOT REACHED'})" if asked else ""
            print(
                f"{name}, {count} anchor(s), {len(SEEDS)} seeds: {held:.1%} within the stated radius{verdict}  "
                f"[mean error {miss.mean():.2f}, as found {bare.mean():.2f}, median radius {np.median(radius):.2f}]",
                flush=True,
            )
            reached &= fine or not asked
    return reached
