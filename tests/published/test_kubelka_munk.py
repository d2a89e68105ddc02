"""Limits and identities of Kubelka–Munk and Saunderson that the papers state."""

import numpy as np
import pytest
from scipy.linalg import expm

from lean_sepia.paint.kubelka_munk import (
    layer,
    opaque_reflectance,
    over_ground,
    ratio_of_opaque,
    scattering_from_drawdown,
)
from lean_sepia.paint.paint import Palette
from lean_sepia.paint.saunderson import into_paint, through_surface


def test_opaque_reflectance_is_kubelka_and_munks():
    # Kubelka and Munk (1931): R_inf = 1 + K/S − √((K/S)² + 2K/S). Worked by hand for K/S = 1/2: 1.5 − √1.25.
    assert float(opaque_reflectance(0.5, 1.0)) == pytest.approx(1.5 - np.sqrt(1.25), abs=1e-12)
    ratio = np.logspace(-4, 3, 50)
    assert np.allclose(opaque_reflectance(ratio, 1.0), 1 + ratio - np.sqrt(ratio**2 + 2 * ratio), atol=1e-9)
    assert np.allclose(ratio_of_opaque(opaque_reflectance(ratio, 1.0)), ratio, rtol=1e-6)


def test_hyperbolic_solution_of_kubelka_1948():
    # Eq. 20: R = [1 − R_g(a − b coth bSX)] / [a − R_g + b coth bSX].
    K, S, X, R_g = 0.3, 0.8, 1.7, 0.25
    a = 1 + K / S
    b = np.sqrt(a * a - 1)
    coth = 1 / np.tanh(b * S * X)
    assert float(over_ground(K, S, X, R_g)) == pytest.approx(
        (1 - R_g * (a - b * coth)) / (a - R_g + b * coth), abs=1e-12
    )


def test_layers_without_absorption_keep_all_light():
    R, T = layer(0.0, 2.0, 1.5)
    assert float(R + T) == pytest.approx(1.0)
    assert float(R) == pytest.approx(3.0 / 4.0)  # SX/(1 + SX), the limit K → 0


def test_layers_without_scattering_follow_beer():
    R, T = layer(0.7, 0.0, 2.0)
    assert float(R) == 0
    assert float(T) == pytest.approx(np.exp(-1.4))


def test_thickness_limits():
    assert float(over_ground(0.4, 1.1, 0.0, 0.37)) == pytest.approx(0.37)
    assert float(over_ground(0.4, 1.1, 300.0, 0.37)) == pytest.approx(float(opaque_reflectance(0.4, 1.1)))


def test_two_layers_stack_like_one_of_both_thicknesses(rng):
    K, S, R_g = rng.uniform(0, 3, 40), rng.uniform(0, 3, 40), rng.uniform(0, 1, 40)
    assert np.allclose(over_ground(K, S, 0.8, over_ground(K, S, 0.5, R_g)), over_ground(K, S, 1.3, R_g))


def test_energy_is_never_made(rng):
    K, S, X = (rng.uniform(0, 8, 2000) for _ in range(3))
    R, T = layer(K, S, X)
    assert np.all(R >= 0)
    assert np.all(T >= 0)
    assert np.all(R + T <= 1 + 1e-12)


def test_scattering_is_found_from_a_drawdown(rng):
    K, S = rng.uniform(0.05, 3, 60), rng.uniform(0.2, 3, 60)
    film = over_ground(K, S, 0.9, 0.03)
    found = scattering_from_drawdown(opaque_reflectance(K, S), film, np.full(60, 0.03), 0.9)
    # Nearer to opaque, or to the ground, than a thousandth of the way no reading tells S.
    opaque = opaque_reflectance(K, S)
    way = (film - 0.03) / (opaque - 0.03)
    telling = (way > 0.002) & (way < 0.998)
    assert telling.sum() > 30
    assert np.allclose(found[telling], S[telling], rtol=2e-2)


def test_saunderson_limits():
    # Saunderson (1942): R = k1 + (1−k1)(1−k2)R_i/(1−k2R_i); a perfect interior gives back everything.
    assert float(through_surface(1.0)) == pytest.approx(1.0)
    assert float(through_surface(0.0)) == pytest.approx(0.04)
    assert float(through_surface(0.0, g=0.1)) == pytest.approx(0.004)
    assert float(through_surface(0.5)) == pytest.approx(0.04 + 0.96 * 0.4 * 0.5 / 0.7)
    inside = np.linspace(0, 1, 101)
    for g in (0.0, 0.1, 0.5, 1.0):
        assert np.allclose(into_paint(through_surface(inside, g), g), inside, atol=1e-12)


def test_additivity_of_duncan(shelf_paints):
    """Duncan (1940): absorption and scattering add by volume; a paint mixed with itself is itself."""
    palette = Palette.of(shelf_paints[:3])
    mixed = palette.mixture(np.array([0.2, 0.3, 0.5]))
    assert np.allclose(mixed.K, 0.2 * palette.K[0] + 0.3 * palette.K[1] + 0.5 * palette.K[2])
    twin = Palette.of([shelf_paints[0], shelf_paints[0]])
    itself = twin.mixture(np.array([0.7, 0.3]))
    assert np.allclose(itself.K, shelf_paints[0].K)
    assert np.allclose(itself.S, shelf_paints[0].S)
    assert float(itself.surface.g) == pytest.approx(shelf_paints[0].g)
    assert mixed.surface.g.shape == ()
    assert mixed.S.shape == (31,)


def test_layers_solve_the_two_equations_of_light_going_down_and_up(rng):
    """Kubelka and Munk (1931): −di/dx = −(K+S)i + Sj and dj/dx = −(K+S)j + Si, solved here by the matrix exponential."""
    for K, S, X, R_g in rng.uniform([0.01, 0.01, 0.1, 0], [3, 3, 2, 1], (25, 4)):
        # Light (i down, j up) at the ground, with j = R_g i there, carried up through the layer to its face.
        change = expm(X * np.array([[K + S, -S], [S, -(K + S)]]))
        down, up = change @ [1.0, R_g]
        assert float(over_ground(K, S, X, R_g)) == pytest.approx(up / down, rel=1e-9)
        down, up = change @ [1.0, 0.0]
        R_0, T = layer(K, S, X)
        assert float(R_0) == pytest.approx(up / down, rel=1e-9)
        assert float(T) == pytest.approx(1 / down, rel=1e-9)


@pytest.mark.parametrize(
    ("R", "ratio"), [(0.05, 9.025), (0.1, 4.05), (0.2, 1.6), (0.25, 1.125), (0.5, 0.25), (0.8, 0.025)]
)
def test_table_of_the_function_of_kubelka_and_munk(R, ratio):
    # K/S against R_inf as tables in textbooks of colorimetry print it (values from memory; they follow from the 1931 formula).
    assert float(ratio_of_opaque(R)) == pytest.approx(ratio, abs=5e-4)
    assert float(opaque_reflectance(ratio, 1.0)) == pytest.approx(R, abs=5e-5)
