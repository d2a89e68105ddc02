"""Which schemes a black-and-white print allows: the demo's press print, taken several times."""

from __future__ import annotations

from lean_sepia.demo.scene import draw_scene
from lean_sepia.demo.schemes import demo_schemes, greys_of_print, known_reflectances
from lean_sepia.photo.grey_evidence import rank_schemes

PRINTS, CLOSE = range(12), 0.05


def main() -> bool:
    """How often the first livery ranks first among its rivals, two of which give almost its greys."""
    scene, schemes, known = draw_scene(1951, "first livery"), demo_schemes(), known_reflectances()
    first, close = 0, 0
    for seed in PRINTS:
        ranked = rank_schemes(greys_of_print(scene, seed), schemes, known, "ortho")
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
