"""Embedded colour profiles: littleCMS through the program against the arithmetic of the profile, at 8 and 16 bits.

The profile is made for the test: three primaries, D65, a pure power law (ICC.1:2022, matrix/TRC model). The arithmetic is
colour-science's.
"""

import io
import struct
import zlib

import colour
import cv2
import imagecodecs
import numpy as np
import pytest
from PIL import Image, ImageCms

from lean_sepia.photo.read import decode_picture

PRIMARIES = np.array([[0.66, 0.33], [0.25, 0.69], [0.15, 0.06]])
D65, GAMMA = np.array([0.3127, 0.3290]), 2.0
WIDE = imagecodecs.cms_profile(
    "rgb", whitepoint=D65.tolist(), primaries=PRIMARIES.ravel().tolist(), gamma=GAMMA
)


@pytest.fixture
def inside(rng):
    """Encoded values (20, 30, 3) in 0–1 in the wide space whose colours sRGB can show."""
    return 0.45 + 0.12 * rng.uniform(-1, 1, (20, 30, 3))


def expected(encoded):
    """Encoded sRGB in 0–1."""
    matrix = colour.normalised_primary_matrix(PRIMARIES, D65)
    xyz = encoded**GAMMA @ matrix.T
    return colour.XYZ_to_sRGB(xyz, D65)


def deep_png(encoded, profile):
    """A 16-bit PNG with an embedded profile."""
    values = np.round(encoded * 65535).astype(np.uint16)
    data = cv2.imencode(".png", values[..., ::-1])[1].tobytes()
    body = b"iCCP" + b"test\0\0" + zlib.compress(profile)
    chunk = struct.pack(">I", len(body) - 4) + body + struct.pack(">I", zlib.crc32(body))
    return data[:33] + chunk + data[33:]


def test_8_bits_follow_the_profile(inside):
    file = io.BytesIO()
    Image.fromarray(np.round(inside * 255).astype(np.uint8)).save(file, "PNG", icc_profile=WIDE)
    picture = decode_picture(file.getvalue(), "a.png")
    assert picture.pixels.dtype == np.uint8
    assert any("converted from the colour profile" in note for note in picture.notes)
    assert picture.pixels / 255 == pytest.approx(expected(np.round(inside * 255) / 255), abs=1.6 / 255)


def test_16_bits_follow_it_more_closely(inside):
    picture = decode_picture(deep_png(inside, WIDE), "a.png")
    assert picture.pixels.dtype == np.uint16
    away = np.abs(picture.pixels / 65535 - expected(inside))
    assert away.mean() < 0.1 / 255
    assert away.max() < 0.5 / 255  # littleCMS keeps its matrices in 16 bits behind the point


def test_both_depths_agree(inside):
    deep = decode_picture(deep_png(np.round(inside * 255) / 255, WIDE), "a.png").pixels / 65535
    plain = Image.fromarray(np.round(inside * 255).astype(np.uint8))
    through = ImageCms.profileToProfile(
        plain, ImageCms.ImageCmsProfile(io.BytesIO(WIDE)), ImageCms.createProfile("sRGB"), outputMode="RGB"
    )
    assert np.asarray(through) / 255 == pytest.approx(deep, abs=1.6 / 255)


@pytest.mark.parametrize("profile", [b"not a profile at all", WIDE[:200], b"\0" * 600])
def test_a_damaged_profile_is_noted_and_the_picture_read_as_it_is(inside, profile):
    picture = decode_picture(deep_png(inside, profile), "a.png")
    assert any("profile" in note and "read as sRGB" in note for note in picture.notes)
    assert picture.pixels / 65535 == pytest.approx(inside, abs=1e-4)


def test_a_profile_for_printing_inks_on_a_16_bit_picture_is_noted(inside):
    lab = ImageCms.ImageCmsProfile(ImageCms.createProfile("LAB")).tobytes()
    picture = decode_picture(deep_png(inside, lab), "a.png")
    assert any("read as sRGB" in note for note in picture.notes)
