"""sRGB (IEC 61966-2-1), Lab and adaptation against colour-science and scikit-image."""

import colour
import numpy as np
import pytest
from skimage import color as skcolor

from lean_sepia.colour.adaptation import BRADFORD, CAT16, adaptation_matrix
from lean_sepia.colour.lab import lab_from_xyz, xyz_from_lab
from lean_sepia.colour.lights import white
from lean_sepia.colour.srgb import (
    lab_from_srgb,
    linear_from_srgb,
    rgb_to_xyz_matrix,
    srgb_from_lab,
    srgb_from_linear,
)

LATTICE = np.stack(np.meshgrid(*[np.linspace(0, 1, 7)] * 3, indexing="ij"), axis=-1).reshape(-1, 3)


def test_transfer_curve_against_colour_science():
    values = np.linspace(0, 1, 1001)
    assert np.allclose(linear_from_srgb(values), colour.eotf(values, "sRGB"), atol=1e-7)
    assert np.allclose(srgb_from_linear(values), colour.eotf_inverse(values, "sRGB"), atol=1e-7)


def test_matrix_is_the_standards_to_its_four_digits():
    # IEC 61966-2-1, clause 5.2; ours is scaled to the CIE's own D65, hence 5e-4 in place of 5e-5.
    printed = [[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]]
    assert np.allclose(rgb_to_xyz_matrix(), printed, atol=5e-4)


def test_lab_of_srgb_against_scikit_image():
    assert np.allclose(lab_from_srgb(LATTICE), skcolor.rgb2lab(LATTICE), atol=0.06)


def test_lab_of_srgb_against_colour_science():
    reference = colour.XYZ_to_Lab(
        colour.sRGB_to_XYZ(LATTICE), colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]
    )
    assert np.allclose(lab_from_srgb(LATTICE), reference, atol=0.06)


def test_lab_against_colour_science(rng):
    xyz = rng.uniform(0, 1, (200, 3))
    xy = colour.XYZ_to_xy(white())
    assert np.allclose(lab_from_xyz(xyz), colour.XYZ_to_Lab(xyz, xy), atol=1e-3)


def test_greys_are_exactly_neutral():
    greys = np.repeat(np.linspace(0, 1, 256)[:, None], 3, axis=1)
    assert np.abs(lab_from_srgb(greys)[:, 1:]).max() < 1e-9
    assert float(lab_from_srgb([1.0, 1.0, 1.0])[0]) == pytest.approx(100, abs=1e-9)


def test_round_trips():
    assert np.allclose(srgb_from_lab(lab_from_srgb(LATTICE)), LATTICE, atol=1e-6)
    lab = np.array([[50, 20, -30], [3, 0.5, 0.2]])
    assert np.allclose(lab_from_xyz(xyz_from_lab(lab)), lab, atol=1e-9)


@pytest.mark.parametrize(("ours", "name"), [(CAT16, "CAT16"), (BRADFORD, "Bradford")])
def test_adaptation_against_colour_science(ours, name):
    d65, a = white("D65"), white("A")
    reference = colour.adaptation.matrix_chromatic_adaptation_VonKries(a, d65, transform=name)
    assert np.allclose(adaptation_matrix(a, d65, ours), reference, atol=2e-4)
    assert np.allclose(adaptation_matrix(a, d65, ours) @ a, d65)
