"""Which schemes a black-and-white print allows: the demo's press print, taken several times."""

from __future__ import annotations

import numpy as np

from lean_sepia.demo.camera import ortho_print, take
from lean_sepia.demo.scene import draw_scene
from lean_sepia.demo.schemes import KNOWN_AREAS, demo_schemes, known_reflectances
from lean_sepia.photo.cast import AS_FOUND
from lean_sepia.photo.grey_evidence import PrintGrey, rank_schemes
from lean_sepia.photo.patch import disc_patch

PRINTS, CLOSE = range(12), 0.05


def main() -> bool:
    """How often the first livery ranks first among its rivals, two of which give almost its greys."""
    scene, schemes, known = draw_scene(1951, "first livery"), demo_schemes(), known_reflectances()
    first, close = 0, 0
    for seed in PRINTS:
        pixels = take(scene, ortho_print(seed), seed)
        found: dict[str, list[float]] = {}
        for area in (*schemes["first livery"], *KNOWN_AREAS):
            # A scheme names fresh paint: its unfaded places count where there are any.
            spots = (f"{area} sheltered", f"{area} exposed", area)
            discs = next(scene.spots[spot] for spot in spots if spot in scene.spots)
            found[area] = [float(AS_FOUND.lab(disc_patch(pixels, *disc).mean)[0]) for disc in discs]
        greys = {area: PrintGrey(float(np.mean(L)), 0.5 + float(np.std(L))) for area, L in found.items()}
        ranked = rank_schemes(greys, schemes, known, "ortho")
        first += ranked[0].scheme == "first livery"
        truth = next(fit for fit in ranked if fit.scheme == "first livery")
        close = sum(
            fit is not truth and all(abs(fit.greys[a] - truth.greys[a]) < CLOSE for a in truth.greys)
            for fit in ranked
        )
    # The demo's own print is the first of them.
    reached = first == len(PRINTS) and close >= 2
    print(
        f"film: the first livery ranks first on {first} of {len(PRINTS)} prints among {len(schemes)} schemes, "
        f"{close} of them within {CLOSE} of its greys  ({'reached' if reached else 'NOT REACHED'})",
        flush=True,
    )
    return reached
