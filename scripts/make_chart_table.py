"""Write the D65/2° Lab values of the 24-patch chart from colour-science's measured reflectances.

Run from the project root; `tests/published/test_tables.py` checks that the file still agrees.
"""

from pathlib import Path

import colour
import numpy as np

from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.colour.spectrum import WAVELENGTHS_NM

OUT = Path(__file__).parent.parent / "src/lean_sepia/photo/data/chart_24.csv"


def main() -> None:
    """Write 24 rows in the chart's order: four rows of six, the first patch the dark brown one."""
    patches = list(colour.SDS_COLOURCHECKERS["BabelColor Average"].values())
    labs = [lab_from_reflectance(patch[WAVELENGTHS_NM]) for patch in patches]
    np.savetxt(OUT, np.array(labs), delimiter=",", fmt="%.3f", header="L,a,b", comments="")


if __name__ == "__main__":
    main()
