"""Film lights against ISO 7589 as tabled in colour-science; simulated cameras against the program's own colour."""

import colour
import numpy as np
import pytest
from scripts.simulated_cameras import NM, chart_24, true_labs

from lean_sepia.colour.film import _table
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.colour.spectrum import WAVELENGTHS_NM

pytestmark = pytest.mark.filterwarnings("ignore")


@pytest.mark.parametrize(
    ("name", "key"),
    [
        ("daylight", "ISO 7589 Sensitometric Daylight"),
        ("tungsten", "ISO 7589 Sensitometric Studio Tungsten"),
    ],
)
def test_film_lights_are_those_of_the_standard(name, key):
    table = colour.SDS_ILLUMINANTS[key]
    nm = _table("film_lights.csv")["nm"]
    inside = nm <= table.wavelengths[-1]
    assert np.allclose(_table("film_lights.csv")[name][inside], table[nm[inside]], rtol=1e-5)
    assert not _table("film_lights.csv")[name][~inside].any()


def test_five_nanometre_truth_agrees_with_the_working_grid():
    ours = lab_from_reflectance(chart_24()[:, np.searchsorted(NM, WAVELENGTHS_NM)])
    assert np.abs(ours - true_labs(chart_24())).max() < 0.35
