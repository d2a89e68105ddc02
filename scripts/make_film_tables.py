"""Write the tables of black-and-white film: emulsions and lens filters from memory, lights from ISO 7589.

Run from the project root as `python -m scripts.make_film_tables`. The emulsions are drawn through a few points of log
sensitivity each, as remembered of the three classes; nobody measured them. The lights come from colour-science (a development
library); `tests/published/test_film.py` checks that they still agree.
"""

from __future__ import annotations

import warnings
from pathlib import Path

import numpy as np
from scipy.interpolate import PchipInterpolator

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import colour

OUT = Path(__file__).parent.parent / "src/lean_sepia/colour/data"
NM = np.arange(380, 701, 10)

# Wavelength in nm against log10 of sensitivity, 0 at the peak; −4 stands for none.
_EMULSIONS = {
    "blue": {370: -0.5, 390: -0.25, 410: -0.08, 430: 0.0, 450: -0.05, 470: -0.35, 490: -1.1, 505: -2.2, 520: -4.0},
    "ortho": {
        370: -0.55, 390: -0.3, 410: -0.12, 430: -0.03, 450: 0.0, 470: -0.18, 490: -0.5, 505: -0.72, 520: -0.6, 540: -0.36,
        555: -0.25, 565: -0.32, 575: -0.75, 585: -1.6, 595: -2.6, 610: -4.0,
    },
    "pan": {
        370: -0.6, 390: -0.35, 410: -0.18, 430: -0.1, 450: -0.08, 470: -0.18, 490: -0.36, 505: -0.42, 520: -0.36, 540: -0.24,
        560: -0.14, 580: -0.08, 600: -0.05, 620: 0.0, 635: -0.02, 645: -0.18, 655: -0.7, 665: -1.7, 680: -3.2, 690: -4.0,
    },
}  # fmt: skip
# Wavelength in nm where half of the light passes, and over how many nm the cut rises.
_FILTERS = {"yellow": (480.0, 9.0), "orange": (550.0, 8.0), "red": (600.0, 7.0)}
_HIGHEST = 0.92


def _column(points: dict[int, float]) -> np.ndarray:
    nm = np.array(list(points))
    logs = PchipInterpolator(nm, np.array(list(points.values())), extrapolate=False)(NM)
    return np.where(np.isfinite(logs) & (logs > -3.9), 10.0 ** np.nan_to_num(logs), 0.0)


def _write(name: str, header: str, columns: list[np.ndarray]) -> None:
    table = np.column_stack([NM, *columns])
    np.savetxt(OUT / name, table, delimiter=",", fmt="%.6g", header="nm," + header, comments="")


def main() -> None:
    """Write emulsions.csv, lens_filters.csv and film_lights.csv."""
    _write("emulsions.csv", ",".join(_EMULSIONS), [_column(points) for points in _EMULSIONS.values()])
    cuts = [_HIGHEST / (1 + np.exp(-(NM - half) / (rise / 2.2))) for half, rise in _FILTERS.values()]
    _write("lens_filters.csv", ",".join(_FILTERS), cuts)
    lights = []
    for key in ("ISO 7589 Sensitometric Daylight", "ISO 7589 Sensitometric Studio Tungsten"):
        table = colour.SDS_ILLUMINANTS[key]
        lights.append(np.interp(NM, table.wavelengths, table.values, right=0.0))
    _write("film_lights.csv", "daylight,tungsten", lights)


if __name__ == "__main__":
    main()
