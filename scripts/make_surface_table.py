"""Write the gamut of real surfaces that ships with the program, from the reference library's table.

Run from the project root as `python -m scripts.make_surface_table`.
"""

from __future__ import annotations

import csv
from pathlib import Path

import colour
import numpy as np

OUT = Path(__file__).parent.parent / "src/lean_sepia/photo/data/real_surfaces.csv"


def table() -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """L* (16,), hue angles (36,) in degrees, and the largest chroma (16, 36) of real surfaces."""
    rows = np.asarray(colour.models.DATA_POINTER_GAMUT_VOLUME)
    lightness, hue = np.unique(rows[:, 0]), np.unique(rows[:, 2])
    order = np.lexsort((rows[:, 2], rows[:, 0]))
    return lightness, hue, rows[order, 1].reshape(len(lightness), len(hue))


def main() -> None:
    """Write one row for each L*, one column for each hue angle."""
    lightness, hue, chroma = table()
    with OUT.open("w", newline="", encoding="utf-8") as file:
        out = csv.writer(file, lineterminator="\n")
        out.writerow(["L*", *(f"{angle:g}" for angle in hue)])
        out.writerows(
            [f"{level:g}", *(f"{one:g}" for one in row)] for level, row in zip(lightness, chroma, strict=True)
        )


if __name__ == "__main__":
    main()
