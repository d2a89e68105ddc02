"""Write the shipped observer and light tables from colour-science (a development library).

Run from the project root; `tests/published/test_tables.py` checks that the files still agree.
"""

from pathlib import Path

import colour
import numpy as np

OUT = Path(__file__).parent.parent / "src/lean_sepia/colour/data"
LIGHTS = ("D65", "D50", "A", "FL11", "LED-B3")


def main() -> None:
    """Write observer_2deg.csv (1 nm) and lights.csv (5 nm), 380–780 nm as tabled by the CIE."""
    observer = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"]
    rows = np.column_stack([observer.wavelengths, observer.values])
    rows = rows[(rows[:, 0] >= 360) & (rows[:, 0] <= 830)]
    np.savetxt(OUT / "observer_2deg.csv", rows, delimiter=",", fmt="%.10g", header="nm,x,y,z", comments="")
    grid = np.arange(380, 781, 5)
    columns = [colour.SDS_ILLUMINANTS[name][grid] for name in LIGHTS]
    np.savetxt(
        OUT / "lights.csv",
        np.column_stack([grid, *columns]),
        delimiter=",",
        fmt="%.8g",
        header="nm," + ",".join(LIGHTS),
        comments="",
    )


if __name__ == "__main__":
    main()
