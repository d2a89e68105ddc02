"""Fades and tints against limits of the published equations, measured spectra and common practice."""

import colour
import numpy as np
import pytest

from lean_sepia.colour.ciede2000 import delta_e00
from lean_sepia.colour.lab import hue_deg, lab_from_reflectance
from lean_sepia.colour.spectrum import WAVELENGTHS_NM
from lean_sepia.paint.ageing import Ageing
from lean_sepia.paint.kubelka_munk import over_ground, ratio_of_opaque
from lean_sepia.paint.paint import Knowledge, Paint, stirred
from lean_sepia.paint.saunderson import into_paint
from lean_sepia.recipe.fades.turn import hue_shift_deg
from lean_sepia.recipe.phrases.ratio import read_ratio
from lean_sepia.recipe.tints.glaze import glaze_film

GROUND = np.linspace(0.1, 0.7, 31)


@pytest.fixture(scope="module")
def measured():
    """Measured reflectances of the 24-patch chart, as paints of one constant; white scatters five times as much."""
    chart = colour.SDS_COLOURCHECKERS["ColorChecker N Ohta"]

    def paint(key, S=1.0):
        sd = chart[key].copy().align(colour.SpectralShape(400, 700, 10))
        R_i = into_paint(np.clip(sd.values, 0.041, 0.95))
        return Paint(
            key,
            key,
            "acrylic-water",
            "flat",
            ratio_of_opaque(R_i) * S,
            np.full(31, S),
            1.0,
            Knowledge.ONE_CONSTANT,
        )

    return {
        "red": paint("moderate red"),
        "white": paint("white 9.5 (.05 D)", 5.0),
        "green": paint("green"),
    }


def test_white_takes_red_towards_magenta_and_a_greenish_off_white_less(measured):
    """White turns red pink; an off-white leaning to green takes it lighter without (common practice, here from measured spectra).

    Not every red does: one that reflects no more blue than green, as the chart's other red, keeps its hue in white.
    """
    red, white = measured["red"], measured["white"]
    greenish = stirred("g", "g", [white, measured["green"]], [4, 1])
    base = red.masstone_lab()
    shifts, lightness = [], []
    for added in (white, greenish):
        mixed = stirred("m", "m", [red, added], [2, 1]).masstone_lab()
        shifts.append(hue_shift_deg(mixed, base))
        lightness.append(mixed[0] - base[0])
    assert min(lightness) > 1
    assert shifts[0] < -3  # towards magenta
    assert abs(shifts[1]) < abs(shifts[0]) / 2
    assert float(hue_deg(greenish.masstone_lab())) > 90


def test_a_tint_without_scatter_follows_beer_and_lambert():
    """R = R_g·exp(−2KX): light passes the film twice (Beer–Lambert; the limit S → 0 of Kubelka 1948)."""
    K = np.linspace(2.0, 0.1, 31)
    for passes in (1, 2, 3):
        X = glaze_film(20, passes)
        assert over_ground(K, np.zeros(31), X, GROUND) == pytest.approx(GROUND * np.exp(-2 * K * X), rel=1e-9)


def test_a_very_thin_film_follows_the_differential_equation():
    """dR/dX = S(1 − R)² − 2KR at X = 0 (Kubelka and Munk 1931)."""
    K, S, X = np.linspace(3, 1, 31), np.linspace(1, 4, 31), 1e-5
    slope = (over_ground(K, S, X, GROUND) - GROUND) / X
    assert slope == pytest.approx(S * (1 - GROUND) ** 2 - 2 * K * GROUND, rel=1e-3)


def test_chalk_is_the_veil_of_the_equations():
    """A film without absorption: R = (R_g + SX(1 − R_g))/(1 + SX(1 − R_g)) (Kubelka 1948, K → 0)."""
    for share in (0.05, 0.3):
        veil = share * (1 - GROUND)
        assert Ageing(chalk=share).internal(GROUND) == pytest.approx((GROUND + veil) / (1 + veil), abs=2e-6)


def test_one_in_twenty_is_ninety_five_to_five():
    """They agree: 4.8 % and 5 % (common practice)."""
    first, second = (read_ratio(text)[0].colour for text in ("1:20", "95 % thinner : 5 % colour"))
    assert first == pytest.approx(1 / 21)
    assert second == pytest.approx(0.05)
    assert glaze_film(20, 1) == pytest.approx(glaze_film(19, 1), rel=0.06)


def test_spectra_of_the_chart_are_as_published(measured):
    """The chart's red and white as the library's own colorimetry sees them, so that the spectra above are the right ones."""
    for name, most in (("red", 1.0), ("white", 1.0)):
        key = {"red": "moderate red", "white": "white 9.5 (.05 D)"}[name]
        sd = (
            colour.SDS_COLOURCHECKERS["ColorChecker N Ohta"][key]
            .copy()
            .align(colour.SpectralShape(400, 700, 10))
        )
        shape = colour.SpectralShape(400, 700, 10)
        light = colour.SDS_ILLUMINANTS["D65"].copy().align(shape)
        observer = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"].copy().align(shape)
        XYZ = colour.sd_to_XYZ(sd, cmfs=observer, illuminant=light, method="Integration") / 100
        want = colour.XYZ_to_Lab(XYZ, colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"])
        assert float(delta_e00(lab_from_reflectance(sd.values), want)) < most
    assert len(WAVELENGTHS_NM) == 31
