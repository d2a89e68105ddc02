"""Shipped observer, lights and chart against colour-science, and the 10 nm weights against the 1 nm sum."""

from importlib.resources import files

import colour
import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import lab_from_reflectance, lab_from_xyz
from lean_sepia.colour.lights import LIGHT_NAMES, light_power, observer_2deg, weights, white
from lean_sepia.colour.spectrum import WAVELENGTHS_NM, lagrange_10_to_1_nm

pytestmark = pytest.mark.filterwarnings('ignore:(Aligning|Trimming|"\\(360)')

OBSERVER = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"]


def test_observer():
    wavelengths, table = observer_2deg()
    assert np.array_equal(wavelengths, OBSERVER.wavelengths)
    assert np.allclose(table, OBSERVER.values, atol=1e-9)


@pytest.mark.parametrize("name", ["D65", "D50", "A", "FL11", "LED-B3"])
def test_lights(name):
    grid = np.arange(380, 781, 5)
    assert np.allclose(light_power(name, grid), colour.SDS_ILLUMINANTS[name][grid], rtol=1e-6)


@pytest.mark.parametrize("name", LIGHT_NAMES)
def test_whites(name):
    xy = colour.XYZ_to_xy(white(name))
    reference = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"][name]
    # A line spectrum tabled at 5 nm leaves the third digit open; the smooth lights agree to the fourth.
    assert np.allclose(xy, reference, atol=2e-4 if name in ("D65", "A") else 1.5e-3)
    assert white(name)[1] == pytest.approx(1.0)


def test_weights_follow_astm_e2022():
    """The interior rows against colour-science's own E2022 weighting factors, before folding of the tails."""
    shape = colour.SpectralShape(360, 780, 10)
    observer = OBSERVER.copy().trim(colour.SpectralShape(360, 780, 1))
    light = colour.SDS_ILLUMINANTS["D65"].copy().interpolate(colour.SpectralShape(360, 780, 1))
    factors = colour.colorimetry.tristimulus_weighting_factors_ASTME2022(observer, light, shape) / 100
    rows = np.arange(360, 781, 10)
    inside = (rows >= 430) & (rows <= 670)
    ours = weights("D65")[(WAVELENGTHS_NM >= 430) & (WAVELENGTHS_NM <= 670)]
    assert np.allclose(ours, factors[inside], atol=2e-5)


@pytest.mark.parametrize("name", LIGHT_NAMES)
def test_ten_nanometre_weights_against_the_one_nanometre_sum(name):
    """Real reflectances: mean below 0.2 and worst below 1 ΔE00, as the definitions page asks."""
    patches = list(colour.SDS_COLOURCHECKERS["BabelColor Average"].values())
    fine = np.arange(400, 701)
    wavelengths, table = observer_2deg()
    inside = (wavelengths >= 400) & (wavelengths <= 700)
    power = light_power(name, wavelengths)[:, None] * table
    power /= power[:, 1].sum()
    misses = []
    for patch in patches:
        smooth = np.interp(fine, patch.wavelengths, patch.values)
        whole = np.interp(wavelengths, fine, smooth)
        exact = lab_from_xyz(whole @ power, power.sum(axis=0))
        ours = lab_from_reflectance(np.interp(WAVELENGTHS_NM, fine, smooth), name)
        misses.append(float(delta_e00(exact, ours)))
    assert inside.sum() == 301
    assert np.mean(misses) < 0.2
    assert np.max(misses) < 1.0


def test_lagrange_reproduces_a_parabola():
    curve = 0.2 + 1e-5 * (np.arange(400, 701) - 520.0) ** 2
    assert np.allclose(lagrange_10_to_1_nm() @ curve[::10], curve, atol=1e-12)


def test_chart_of_24_patches():
    rows = np.loadtxt(str(files("lean_sepia.photo") / "data" / "chart_24.csv"), delimiter=",", skiprows=1)
    spectra = [sd[WAVELENGTHS_NM] for sd in colour.SDS_COLOURCHECKERS["BabelColor Average"].values()]
    assert np.allclose(rows, lab_from_reflectance(np.array(spectra)), atol=2e-3)
    xyz = np.array([
        colour.sd_to_XYZ(sd, OBSERVER, colour.SDS_ILLUMINANTS["D65"]) / 100
        for sd in colour.SDS_COLOURCHECKERS["BabelColor Average"].values()
    ])  # fmt: skip
    d65 = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]
    reference = colour.XYZ_to_Lab(xyz, d65)
    assert float(delta_e00(rows, reference).max()) < 0.3


def test_the_gamut_of_real_surfaces_is_the_published_one():
    """M. R. Pointer (1980), as the reference library carries it."""
    with (files("lean_sepia.photo") / "data" / "real_surfaces.csv").open(encoding="utf-8") as file:
        head, *rows = (line.strip().split(",") for line in file)
    ours = {
        (float(row[0]), float(hue)): float(chroma)
        for row in rows
        for hue, chroma in zip(head[1:], row[1:], strict=True)
    }
    theirs = {(float(L), float(h)): float(C) for L, C, h in colour.models.DATA_POINTER_GAMUT_VOLUME}
    assert ours == theirs
