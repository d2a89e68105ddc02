"""Recipes under other lights: colour differences of mixtures against colour-science, each light adapted to its own white."""

import colour
import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance
from lean_sepia.colour.lights import LIGHT_NAMES
from lean_sepia.colour.spectrum import WAVELENGTHS_NM
from lean_sepia.paint.laying import OPAQUE
from lean_sepia.paint.paint import Palette

SHAPE = colour.SpectralShape(360, 780, 1)


def lab_by_the_library(R, light):
    observer = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"].copy().align(SHAPE)
    power = colour.SDS_ILLUMINANTS[light].copy().align(SHAPE)
    spectrum = colour.SpectralDistribution(dict(zip(WAVELENGTHS_NM.tolist(), R.tolist(), strict=True)))
    fine = spectrum.interpolate(colour.SpectralShape(400, 700, 1)).extrapolate(SHAPE)
    white = colour.SpectralDistribution(dict.fromkeys(range(360, 781), 1.0))
    xyz, xyz_white = (colour.sd_to_XYZ(sd, observer, power, method="Integration") for sd in (fine, white))
    return colour.XYZ_to_Lab(xyz / xyz_white[1], colour.XYZ_to_xy(xyz_white))


@pytest.mark.parametrize("light", LIGHT_NAMES)
def test_differences_of_mixtures_under_a_light(shelf_paints, light, rng):
    """Metamerism: how far two mixtures are apart under a light."""
    paints = [paint for paint in shelf_paints if paint.mixes][:20]
    shares = rng.dirichlet(np.full(20, 0.2), 6)
    R = OPAQUE.measured(Palette.of(paints).mixture(shares))
    ours = lab_from_reflectance(R, light)
    theirs = np.array([lab_by_the_library(row, light) for row in R])
    assert delta_e00(ours, theirs).max() < 1.0
    apart = [float(delta_e00(ours[i], ours[i + 1])) for i in range(5)]
    library = [float(colour.delta_E(theirs[i], theirs[i + 1], method="CIE 2000")) for i in range(5)]
    assert apart == pytest.approx(library, abs=0.6)
